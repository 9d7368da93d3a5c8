"""Build at the API: sheets and readings, signatures in order and once, entries with a wrong clock, tests."""

import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

from tests.core.building.moments import as_expected, gate_of
from tests.support.api import ApiTest
from tests.support.designs import birchrow

MOMENT = {"at": "2026-06-15T12:00:00", "sky": "clear", "air_c": 18.0, "soc_frac": 0.6}


class BuildTest(ApiTest):
    def setUp(self):
        self.home = self.document_of_home()
        self.design = self.client.post("/api/designs/import", json=self.home).json()["id"]
        made = self.client.post(f"/api/designs/{self.design}/installations", json={"name": "Birchrow 14, cellar"})
        self.assertEqual(made.status_code, 201, made.text)
        self.place = made.json()["id"]

    def document_of_home(self):
        return birchrow().model_dump(mode="json")

    def sheet(self, **fields):
        body = {"design": self.home, "moment": MOMENT, "installation_id": self.place, **fields}
        answer = self.client.post("/api/building/sheet", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def gate(self, key, **fields):
        return next(each for each in self.sheet(**fields)["gates"] if each["gate"]["key"] == key)

    def sign(self, key, signing="passed", *, entry_id=None, **fields):
        readings = as_expected(gate_of(birchrow(), key)[1])
        entry = {
            "kind": "gate",
            "gate": key,
            "signing": signing,
            "who": "A. Tester",
            "moment": MOMENT,
            "readings": readings,
            **fields,
        }
        return self.client.post(
            f"/api/installations/{self.place}/gates", json={"id": entry_id or str(uuid.uuid4()), "entry": entry}
        )

    def send(self, *entries, sent_at=None):
        now = datetime.now(UTC) if sent_at is None else sent_at
        return self.client.post(
            f"/api/installations/{self.place}/entries", json={"sent_at": now.isoformat(), "entries": list(entries)}
        )

    def entry(self, told_at=None, **fields):
        told = datetime.now(UTC) if told_at is None else told_at
        body = {"kind": "cross", "shown": "volts", "values": {"Hand meter": 52.4, "Inverter": 52.1}}
        return {"id": str(uuid.uuid4()), "told_at": told.isoformat(), "who": "A. Tester", "body": body, **fields}

    def kept(self, *kinds):
        found = self.client.get(f"/api/installations/{self.place}/entries", params={"kind": list(kinds)})
        self.assertEqual(found.status_code, 200, found.text)
        return found.json()


class Gates(BuildTest):
    def test_readings_are_judged_with_their_likely_causes_and_nothing_is_stored(self):
        found = self.gate("polarity", readings={"polarity": {"polarity.bank_v": -52.4}})
        self.assertEqual(found["judged"]["outside"], ["polarity.bank_v"])
        self.assertEqual(found["judged"]["causes"][0]["key"], "reversed_polarity")
        self.assertEqual(self.kept(), [])

    def test_a_gate_waits_for_those_before_it_and_is_kept_once_however_often_it_is_sent(self):
        refused = self.sign("mount")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("must wait for: Everything open and dead", refused.json()["detail"])
        same = str(uuid.uuid4())
        for _ in range(3):
            self.assertEqual(self.sign("dead", entry_id=same).status_code, 204)
        self.assertEqual(len(self.kept("gate")), 1)
        self.assertEqual(self.sheet()["passed"], 1)
        self.assertEqual(self.gate("mount")["progress"]["stand"], "open")

    def test_progress_stays_across_revisions_and_a_changed_gate_says_so(self):
        for key in ("dead", "mount"):
            self.assertEqual(self.sign(key).status_code, 204)
        changed = {
            **self.home,
            "wiring": {**self.home["wiring"], "runs": [{"run": "bank", "length_m": 9.0, "size": "4/0 AWG"}]},
        }
        saved = self.client.put(f"/api/designs/{self.design}?expected_revision=1", json=changed)
        self.assertEqual(saved.status_code, 200, saved.text)
        found = self.sheet(design=changed)
        self.assertEqual((found["passed"], found["changed"]), (1, 1))

    def test_each_installation_has_its_own_progress_and_alternatives_share_them(self):
        self.sign("dead")
        other = self.client.post(f"/api/designs/{self.design}/installations", json={"name": "Birchrow 16"}).json()["id"]
        self.assertEqual(self.sheet(installation_id=other)["passed"], 0)
        self.assertEqual(self.sheet(installation_id=None)["passed"], 0)
        kept = self.client.post(f"/api/designs/{self.design}/alternatives", json={"label": "Other"}).json()["id"]
        names = [each["name"] for each in self.client.get(f"/api/designs/{kept}/installations").json()]
        self.assertEqual(names, ["Birchrow 14, cellar", "Birchrow 16"])
        self.assertEqual(self.client.put(f"/api/installations/{other}/name", json={"name": "Shed"}).status_code, 204)
        self.assertEqual(self.client.get(f"/api/designs/{kept}/installations").json()[1]["name"], "Shed")

    def test_what_cannot_be_is_refused_with_field_and_range(self):
        for body in (
            {"moment": {**MOMENT, "air_c": 99.0}}, {"moment": {**MOMENT, "soc_frac": "much"}}, {"moment": {**MOMENT, "at": "2026-06-15T12:00:00Z"}},
            {"readings": {"dead": {"dead.bus_v": 1e12}}}, {"installation_id": "none"},
        ):  # fmt: skip
            answer = self.client.post("/api/building/sheet", json={"design": self.home, "moment": MOMENT, **body})
            self.assertEqual(answer.status_code, 422, answer.text)
        missing = self.client.post(
            "/api/building/sheet", json={"design": self.home, "moment": MOMENT, "installation_id": str(uuid.uuid4())}
        )
        self.assertEqual(missing.status_code, 404)
        self.assertEqual(
            self.client.post(f"/api/designs/{self.design}/installations", json={"name": " "}).status_code, 422
        )


class Entries(BuildTest):
    def test_entries_come_once_from_two_devices_at_the_same_time(self):
        entries = [self.entry() for _ in range(20)]
        with ThreadPoolExecutor(8) as pool:
            answers = list(
                pool.map(
                    lambda part: self.send(*part).json(), [entries, entries, entries[:10], entries[10:], entries[::-1]]
                )
            )
        self.assertEqual(sum(answer["added"] for answer in answers), 20)
        self.assertEqual({each["id"] for each in self.kept()}, {each["id"] for each in entries})

    def test_a_wrong_clock_is_set_right_by_the_stop_watch_or_by_its_difference(self):
        wrong = datetime.now(UTC) - timedelta(days=2_500)
        self.send(self.entry(wrong, age_s=600.0), self.entry(wrong - timedelta(hours=3)), sent_at=wrong)
        for entry, hours in zip(reversed(self.kept()), (1 / 6, 3.0), strict=True):
            at = datetime.fromisoformat(entry["at"])
            self.assertAlmostEqual((datetime.now(UTC) - at).total_seconds() / 3600, hours, delta=0.05)
            self.assertLess(datetime.fromisoformat(entry["told_at"]), wrong + timedelta(minutes=1))

    def test_a_right_clock_is_believed(self):
        told = datetime.now(UTC) - timedelta(hours=5)
        self.send(self.entry(told))
        self.assertEqual(datetime.fromisoformat(self.kept()[0]["at"]), told)

    def test_an_entry_is_struck_out_by_another_and_both_stay(self):
        first = self.entry()
        self.send(first)
        self.send(self.entry(strikes=first["id"]))
        (found,) = self.kept()
        self.assertTrue(found["is_struck"])

    def test_a_bad_entry_is_named_and_none_of_the_others_is_lost_or_kept_half(self):
        bad = self.entry(body={"kind": "cross", "shown": "volts", "values": {"Hand meter": 1e9, "Inverter": 1.0}})
        answer = self.send(self.entry(), bad)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("entries.1.body.values.Hand meter", str(answer.json()))
        self.assertEqual(self.kept(), [])
        for body in ({"kind": "gate", "gate": "dead", "signing": "passed"}, {"kind": "nothing"}, {}):
            self.assertEqual(self.send(self.entry(body=body)).status_code, 422)
        self.assertEqual(self.send(self.entry(told_at=None, age_s=-1)).status_code, 422)


class Tests(BuildTest):
    def test_cross_reading_watts_and_tests_answer(self):
        rounds = [
            {"at": "2026-06-15T12:00:00Z", "values": {"Hand meter": 52.4, "Battery monitor": 52.3, "Inverter": 54.0}}
        ]
        found = self.client.post(
            "/api/building/cross", json={"shown": "volts", "nominal_v": 51.2, "rounds": rounds}
        ).json()["found"]
        self.assertEqual([each["verdict"] for each in found["instruments"]], ["agrees", "agrees", "off"])
        empty = self.client.post("/api/building/cross", json={"shown": "volts", "nominal_v": 51.2, "rounds": []}).json()
        self.assertIsNone(empty["found"])
        pairs = [{"monitor_w": 90.0, "output_w": 0.0}]
        watts = self.client.post("/api/building/watts", json={"design": self.home, "pairs": pairs}).json()["found"]
        self.assertAlmostEqual(watts["parts"][0]["phantom_w"], 45.0)
        drawn = self.client.post(
            "/api/building/drawdown", json={"design": self.home, "test": {"start_soc_frac": 1.0, "end_soc_frac": 0.5, "hours_h": 20.0}}
        ).json()  # fmt: skip
        self.assertTrue(drawn["corrections"])
        capacity = self.client.post(
            "/api/building/capacity", json={"design": self.home, "test": {"ah": 170.0, "hours_h": 9.0, "temp_c": 25.0}}
        ).json()
        self.assertAlmostEqual(capacity["left_frac"], 0.85)
        steps = [
            {"load_w": watts_w, "bank_v": 52.4 - watts_w / 3000, "bank_a": watts_w / 48 + 1}
            for watts_w in (0.0, 500.0, 1000.0, 2000.0)
        ]
        tested = self.client.post(
            "/api/building/load-test", json={"design": self.home, "moment": MOMENT, "steps": steps}
        ).json()
        self.assertEqual(len(tested["steps"]), 4)

    def test_a_drawdown_that_says_nothing_is_refused(self):
        test = {"start_soc_frac": 0.5, "end_soc_frac": 0.6, "hours_h": 20.0}
        answer = self.client.post("/api/building/drawdown", json={"design": self.home, "test": test})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("end_soc_frac", answer.text)
