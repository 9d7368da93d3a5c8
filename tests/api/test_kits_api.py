"""Kit searches by the interface: planned, asked, followed, cancelled, marked out of date, and made into designs."""

import time

from hearthkeep.jobs import OwnWorker
from tests.support.api import JSON, ApiTest
from tests.support.units import battery, panel


class Kits(ApiTest):
    def setUp(self):
        self.design = self.made()
        self.address = f"/api/designs/{self.design['id']}/kit-searches"

    def ranges(self, most=2, **fields):
        units = [battery("rack", 51.2, 100.0, 1250.0), battery("wall", 51.2, 200.0, 2350.0)]
        return {"target": {"hours_h": 24, "share_frac": 0.5}, "batteries": {"units": units, "most": most}, **fields}

    def asked(self, ranges):
        answer = self.client.post(self.address, json=ranges)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def until_ended(self, search):
        give_up = time.monotonic() + 90
        while (now := self.client.get(f"/api/kit-searches/{search['id']}/progress").json())["is_live"]:
            self.assertLess(time.monotonic(), give_up)
            time.sleep(0.1)
        return now

    def test_a_search_from_its_plan_to_a_design(self):
        planned = self.client.post(f"{self.address}/plan", json=self.ranges()).json()
        self.assertEqual(planned, {"kits": 4, "left_out": [], "assumed": []})
        self.assertEqual(self.client.get(self.address).json(), [])
        search = self.asked(self.ranges())
        self.assertEqual((search["total"], search["done"], search["is_live"], search["revision"]), (4, 0, True, 1))
        worker = OwnWorker(self.engine.url, 1)
        self.addCleanup(worker.stop)
        worker.wake()
        ended = self.until_ended(search)
        self.assertEqual((ended["done"], ended["fault"], ended["is_stale"]), (4, "", False))
        found = self.client.get(f"/api/kit-searches/{search['id']}").json()
        kits = found["report"]["kits"]
        self.assertEqual([entry["kit"]["price"] for entry in kits], [1250.0, 2350.0, 2500.0, 4700.0])
        self.assertEqual(found["search"]["ranges"]["batteries"]["most"], 2)
        self.assertTrue(kits[0]["is_on_front"])

        number = kits[1]["kit"]["number"]
        made = self.client.post(f"/api/kit-searches/{search['id']}/kits/{number}")
        self.assertEqual(made.status_code, 201, made.text)
        stored = self.client.get(f"/api/designs/{made.json()['id']}").json()
        self.assertEqual(stored["document"]["bank"]["unit"]["name"], "wall")
        self.assertEqual(stored["document"]["name"], made.json()["name"])
        assessed = self.client.post("/api/assessments", json=stored["document"]).json()
        self.assertEqual(assessed["outage"]["hours_carried_h"], kits[1]["kit"]["carried_h"])
        self.assertEqual(self.client.post(f"/api/kit-searches/{search['id']}/kits/4").status_code, 404)

        # The design moves on: the search stays, and says so.
        document = {**self.design["document"], "name": "Later"}
        self.client.put(f"/api/designs/{self.design['id']}?expected_revision=1", json=document)
        second = self.asked(self.ranges(most=1))
        self.assertEqual(self.client.post(f"/api/kit-searches/{second['id']}/cancel").json()["cancelled"], True)
        self.assertEqual(
            [(entry["id"], entry["is_stale"], entry["revision"]) for entry in self.client.get(self.address).json()],
            [(second["id"], False, 2), (search["id"], True, 1)],
        )
        self.assertEqual(self.client.delete(f"/api/kit-searches/{second['id']}").status_code, 204)
        self.assertEqual(len(self.client.get(self.address).json()), 1)
        self.assertEqual(self.client.get(f"/api/kit-searches/{second['id']}").status_code, 404)

    def test_a_first_search_begins_around_the_design(self):
        self.client.post(
            "/api/library/battery/import",
            json={
                "text": "library_id,name,chemistry,unit_v,unit_ah,price\n"
                "a,A,lfp,51.2,50,700\nb,B,lfp,51.2,100,1250\nc,C,lfp,51.2,200,2350\nd,D,lfp,51.2,900,9000\n"
                "e,E,lfp,51.2,110,\nf,F,agm,12,100,200\ng,G,lfp,30,100,300\n"
            },
        )
        usual = self.client.get(f"{self.address}/usual").json()
        # Of those of its chemistry that add up to its volts and have a price, the nearest in size.
        self.assertEqual([unit["library_id"] for unit in usual["batteries"]["units"]], ["a", "b", "c"])
        self.assertEqual((usual["batteries"]["least"], usual["batteries"]["most"]), (1, 4))
        self.assertEqual(usual["target"], {"lowest_tier": "keep", "hours_h": 72, "share_frac": 0.95})
        self.assertIsNone(usual["inverters"])
        self.assertIsNone(usual["panels"])
        self.assertEqual(self.client.post(f"{self.address}/plan", json=usual).json()["kits"], 12)
        # One inverter that suits and has no price, as a unit of one's own may be: left out, not a fault.
        own = {
            "library_id": "own", "name": "Own", "system_v": 51.2, "rated_w": 3000.0, "surge_w": 6000.0, "idle_w": 20.0,
            "efficiency_frac": 0.93, "low_cutoff_v": 44.0, "output": "120/240",
        }  # fmt: skip
        self.assertEqual(self.client.put("/api/library/inverter", json=own).status_code, 204)
        self.assertIsNone(self.client.get(f"{self.address}/usual").json()["inverters"])

    def test_faults_name_field_value_and_range(self):
        units = [battery("b", 51.2, 100.0, 1.0)]
        huge = {
            "batteries": {"units": [{**units[0], "library_id": f"b{at}"} for at in range(20)], "most": 64},
            "panels": {"array_id": "south-roof", "units": [panel(f"p{at}", 1.0) for at in range(20)], "most": 400},
        }
        for ranges, field, accepted in (
            ({"batteries": {"units": units, "most": 65}}, "batteries.most", "must be a whole number of 1 to 64"),
            ({"batteries": {"units": units, "most": "x"}}, "batteries.most", "must be a whole number of 1 to 64"),
            ({"target": {"share_frac": 1.5}, "batteries": {"units": units}}, "target.share_frac", "must be 0 to 1"),
            (
                {"target": {"hours_h": 0}, "batteries": {"units": units}},
                "target.hours_h",
                "must be a whole number of 1 to 720",
            ),
            ({"batteries": {"units": units}, "price": 4}, "price", "is not a field"),
            ({"batteries": {"units": [{**units[0], "price": None}]}}, "batteries.units.0.price", "must have a price"),
            (huge, "panels", "narrow panels first"),
        ):
            for way in ("", "/plan"):
                with self.subTest(field=field, way=way):
                    answer = self.client.post(self.address + way, json=ranges)
                    self.assertEqual(answer.status_code, 422)
                    (problem,) = answer.json()["problems"]
                    self.assertEqual(problem["field"], field)
                    self.assertIn(accepted, problem["accepted"])
        nothing = self.client.post(self.address, content="[", headers=JSON)
        self.assertEqual(nothing.status_code, 422)
        self.assertEqual(
            self.client.post(self.address, content="{}", headers={"content-type": "text/plain"}).status_code, 415
        )
        self.assertEqual(self.client.get(self.address).json(), [])

    def test_a_deleted_design_is_not_searched(self):
        self.client.delete(f"/api/designs/{self.design['id']}")
        self.assertEqual(self.client.post(self.address, json=self.ranges()).status_code, 409)
        unknown = "/api/designs/00000000-0000-0000-0000-000000000000/kit-searches"
        self.assertEqual(self.client.post(unknown, json=self.ranges()).status_code, 404)
        self.assertEqual(self.client.get(unknown).status_code, 404)
