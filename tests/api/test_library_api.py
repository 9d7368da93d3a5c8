"""The equipment library on real PostgreSQL: starter units, CSV in and out, search, use, ranking."""

import json

from hearthkeep.core.design import LibraryInverter, read_design
from hearthkeep.demo import starter_units
from hearthkeep.exchange import read_units, write_units
from hearthkeep.store import MODELS, SHEETS, Library
from tests.support.api import JSON, ApiTest
from tests.support.designs import BIRCHROW

HEADER = "library_id,name,chemistry,unit_v,unit_ah,unit_max_charge_a,cycle_points,price\n"


class LibraryRoutes(ApiTest):
    def setUp(self):
        library = Library(self.client.app.state.engine)
        for kind, model in MODELS.items():
            read = read_units(SHEETS[kind], model, starter_units(kind.value))
            self.assertEqual(read.problems, ())
            library.put(kind, read.units)

    def take(self, text, kind="battery"):
        return self.client.post(f"/api/library/{kind}/import", json={"text": text})

    def find(self, words, kind="battery"):
        return self.client.get(f"/api/library/{kind}", params={"words": words}).json()

    def test_search_by_name_and_figures(self):
        self.assertEqual(self.find("agm 200ah")["total"], 1)
        self.assertEqual({unit["chemistry"] for unit in self.find("lfp 51.2v")["units"]}, {"lfp"})
        self.assertEqual(self.find("120/240 6kw", "inverter")["units"][0]["library_id"], "s48-6000")
        self.assertEqual(self.find("100%")["total"], 0)

    def test_five_thousand_units_are_taken_at_once_and_searched_as_typed(self):
        rows = "".join(f"lot-{n},Lot block {n},lfp,12.8,{50 + n % 200},50,0.8:6000,{n}\n" for n in range(5000))
        answer = self.take(HEADER + rows).json()
        self.assertEqual((answer["taken"], answer["problems"]), (5000, []))
        self.assertEqual(self.find("lot block 4321")["units"][0]["library_id"], "lot-4321")
        self.assertEqual(len(self.find("lot")["units"]), 50)
        self.assertEqual(self.find("lot")["total"], 5000)

    def test_a_faulty_row_is_named_and_the_rest_taken(self):
        text = HEADER + (
            "good-1,Good block,agm,12,100,25,0.5:700,240\n"
            "bad-1,Bad block,agm,12,lots,25,0.5:700,240\n"
            "bad-2,Deep block,agm,12,100,25,0.5:700 0.8:900,240\n"
            "bad-3,Odd block,nickel,12,100,25,,240\n"
            "bad-4,,agm,12,100,25,,240\n"
            "good-2,=Formula,agm,12,100,25,,\n"
        )
        answer = self.take(text).json()
        self.assertEqual(answer["taken"], 2)
        told = {(problem["row"], problem["column"]) for problem in answer["problems"]}
        self.assertEqual(told, {(3, "unit_ah"), (4, "cycle_points"), (5, "chemistry"), (6, "name")})
        self.assertIn("a number", next(p["expected"] for p in answer["problems"] if p["row"] == 3))

    def test_csv_out_is_read_back_the_same(self):
        for kind, model in MODELS.items():
            text = self.client.get(f"/api/library/{kind.value}/units.csv").content.decode("utf-8-sig")
            read = read_units(SHEETS[kind], model, text)
            self.assertGreater(len(read.units), 5)
            self.assertEqual(read.problems, ())
            self.assertEqual(write_units(model, read.units).decode("utf-8-sig"), text)

    def test_a_sheet_that_is_none_is_told(self):
        for text, words in (("", "names the columns"), ("name,colour\nx,red\n", "not known: colour")):
            answer = self.take(text)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["detail"])

    def test_a_unit_in_use_stays_and_says_where(self):
        document = json.loads(BIRCHROW.read_text())
        document["bank"]["unit"] = {"name": "LFP rack unit", "library_id": "lfp-48-100"}
        document["name"] = "Uses a rack unit"
        made = self.client.post("/api/designs/import", content=json.dumps(document), headers=JSON).json()
        answer = self.client.delete("/api/library/battery/lfp-48-100")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Uses a rack unit", answer.json()["detail"])
        document["bank"]["unit"] = None
        self.client.put(
            f"/api/designs/{made['id']}", params={"expected_revision": 1}, content=json.dumps(document), headers=JSON
        )
        self.assertEqual(self.client.delete("/api/library/battery/lfp-48-100").status_code, 204)
        self.assertEqual(self.client.delete("/api/library/battery/lfp-48-100").status_code, 404)

    def test_a_panel_is_found_by_its_figures_and_stays_while_an_array_uses_it(self):
        panel = self.find("400w", "module")["units"][0]
        self.assertEqual((panel["library_id"], panel["series_fuse_a"]), ("h400", 25.0))
        document = json.loads(BIRCHROW.read_text())
        document["charging"]["controllers"][0]["arrays"][0]["module"] = panel
        document["name"] = "Uses the house panel"
        made = self.client.post("/api/designs/import", content=json.dumps(document), headers=JSON)
        self.assertEqual(made.status_code, 201, made.text)
        refused = self.client.delete("/api/library/module/h400")
        self.assertEqual(refused.status_code, 409)
        self.assertIn("Uses the house panel", refused.json()["detail"])
        self.assertEqual(self.client.delete("/api/library/module/g550").status_code, 204)

    def test_a_panel_that_cannot_be_is_refused(self):
        panel = {
            "library_id": "odd",
            "name": "Odd",
            "stc_w": 400.0,
            "voc_v": 30.0,
            "vmp_v": 31.0,
            "isc_a": 9.0,
            "imp_a": 8.0,
        }
        answer = self.client.put("/api/library/module", json=panel)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("voc_v must be above vmp_v, 31 V (got 30 V)", answer.json()["detail"])

    def test_inverters_are_ranked_by_what_they_carry(self):
        rows = self.client.post("/api/library/rank-inverters", content=BIRCHROW.read_bytes(), headers=JSON).json()
        self.assertTrue(all(abs(row["unit"]["system_v"] / 51.2 - 1) < 0.12 for row in rows))
        fits = [row["fits"] for row in rows]
        self.assertEqual(fits, sorted(fits, reverse=True))
        best = [row["hours_carried_h"] for row in rows if row["fits"]]
        self.assertEqual(best, sorted(best, reverse=True))
        small = next(row for row in rows if row["unit"]["library_id"] == "i48-2000")
        self.assertIn("too small", small["remark"])
        # Put into the design, the best one carries exactly what was promised.
        design = read_design(BIRCHROW.read_bytes())
        unit = LibraryInverter.model_validate_json(json.dumps(rows[0]["unit"]))
        changed = design.model_copy(update={"inverter": unit.as_inverter(design.inverter)})
        found = self.client.post("/api/assessments", content=changed.model_dump_json(), headers=JSON).json()
        self.assertAlmostEqual(found["outage"]["hours_carried_h"], rows[0]["hours_carried_h"])

    def test_charge_from_a_rest_voltage(self):
        answer = self.client.post(
            "/api/library/rest-state", params={"rest_v": 52.4}, content=BIRCHROW.read_bytes(), headers=JSON
        ).json()
        self.assertTrue(0.5 < answer["soc_frac"] < 0.8)
        self.assertEqual(answer["doubt_frac"], 0.15)
