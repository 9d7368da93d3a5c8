"""The audit's helpers over the web interface."""

import json

from tests.support.api import JSON, ApiTest
from tests.support.designs import BIRCHROW, birchrow


class LoadRoutes(ApiTest):
    def ask(self, path, body):
        return self.client.post(f"/api/loads/{path}", json=body)

    def fridge(self, **fields):
        row = next(load for load in json.loads(BIRCHROW.read_text())["loads"] if load["id"] == "fridge")
        return {**row, **fields}

    def test_a_line_with_direct_current_amps_is_taken_at_the_bank_s_volts(self):
        found = self.ask("read-line", {"line": "fan 2A dc", "bank_v": 51.2}).json()
        self.assertEqual(found["load"]["running_w"], 102.4)
        self.assertLessEqual(
            {"kind": "dc_amps", "current_a": 2.0, "at_v": 51.2}.items(), found["load"]["known"].items()
        )

    def test_a_reading_is_worked_out_with_its_working(self):
        known = {"kind": "meter", "energy_kwh": 1.2, "over_h": 24.0, "running_w": 125.0}
        found = self.ask("measure", self.fridge(known=known)).json()
        self.assertEqual((found["load"]["running_w"], found["load"]["duty_frac"]), (125.0, 0.4))
        self.assertEqual((found["quality"], round(found["daily_wh"], 6)), ("measured", 1200))
        duty, energy = found["figures"]
        self.assertEqual((duty["value"], duty["unit"]), (40.0, "%"))
        self.assertIn("1,000", duty["formula"])
        self.assertEqual([term["value"] for term in energy["terms"]], [1, 125.0, 40.0, 24, 0.0])

    def test_a_reading_that_cannot_be_is_refused_by_field_value_and_range(self):
        for known, field, words in (
            (
                {"kind": "nameplate", "volts_v": 120.0, "current_a": 5.0, "power_factor": 1.4},
                "power_factor",
                "0.1 to 1",
            ),
            ({"kind": "spot", "reading_w": -3.0}, "reading_w", "more than 0 to 50,000"),
            ({"kind": "meter", "energy_kwh": 1.0, "over_h": 0.0, "running_w": 9.0}, "over_h", "more than 0 to 20,000"),
        ):
            with self.subTest(field):
                answer = self.ask("measure", self.fridge(known=known))
                problem = answer.json()["problems"][0]
                self.assertEqual((answer.status_code, problem["field"]), (422, f"known.{field}"))
                self.assertIn(words, problem["accepted"])

    def test_a_reading_of_more_than_a_load_may_have_is_refused_too(self):
        for part, field, most in (
            ({"known": {"kind": "nameplate", "volts_v": 240.0, "current_a": 900.0}}, "running_w", "50,000"),
            ({"start_known": {"kind": "code", "code_letter": "V", "horsepower_hp": 200.0}}, "start_w", "300,000"),
        ):
            with self.subTest(field):
                answer = self.ask("measure", self.fridge(**part))
                problem = answer.json()["problems"][0]
                self.assertEqual((answer.status_code, problem["field"]), (422, field))
                self.assertIn(most, problem["accepted"])

    def test_prices_of_one_load(self):
        document = json.loads(BIRCHROW.read_text())
        found = self.ask("prices", {"design": document, "load_id": "fridge"}).json()
        assessed = self.client.post("/api/assessments", content=json.dumps(document), headers=JSON).json()
        self.assertAlmostEqual(found["without_it"]["gain_h"], assessed["prices"]["without_load"]["fridge"]["gain_h"])
        self.assertGreater(found["one_hour_less"]["gain_h"], 0)
        self.assertIsNone(found["replaced"])
        thrifty = self.ask(
            "prices", {"design": document, "load_id": "fridge", "replacement": self.fridge(running_w=60.0)}
        ).json()
        self.assertAlmostEqual(thrifty["replaced_daily_wh"], thrifty["daily_wh"] / 2)
        self.assertGreater(thrifty["replaced"]["gain_h"], found["one_hour_less"]["gain_h"])

    def test_an_unknown_load_is_told(self):
        answer = self.ask("prices", {"design": json.loads(BIRCHROW.read_text()), "load_id": "ghost"})
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "load_id"))

    def test_a_faulty_design_names_its_field(self):
        document = json.loads(BIRCHROW.read_text())
        document["loads"][3]["running_w"] = -1
        problem = self.ask("prices", {"design": document, "load_id": "fridge"}).json()["problems"][0]
        self.assertEqual((problem["field"], problem["accepted"]), ("loads.3.running_w", "must be 0 to 50,000"))

    def test_the_starter_list_is_made_of_loads_that_a_design_takes(self):
        devices = self.client.get("/api/typical/loads").json()
        self.assertGreater(len(devices), 40)
        self.assertEqual({device["load"]["known"]["kind"] for device in devices}, {"typical"})
        rows = [device["load"] for device in devices]
        answer = self.client.post("/api/assessments", content=self.document(loads=rows), headers=JSON)
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(len(birchrow().loads), 11)
