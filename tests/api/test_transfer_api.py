"""Transfer over the interface: lines, schedules, arrangements side by side, balance, files; bad input named by its field."""

import base64

from hearthkeep.core.design import ArrangementKind
from tests.core.made_transfers import house
from tests.support.api import ApiTest
from tests.support.designs import birchrow


class TransferApi(ApiTest):
    def line(self, text, **fields):
        body = {"line": text, "practice": "north_american", "service": "120/240", "slots": 24, **fields}
        return self.client.post("/api/transfer/read-line", json=body)

    def test_a_line(self):
        answer = self.line("14 20A 1p fridge 12 AWG", loads=[{"id": "f", "name": "Fridge"}]).json()
        self.assertEqual((answer["circuit"]["slot"], answer["loads"], answer["problems"]), (14, ["f"], []))
        self.assertIn("20 A", answer["understood"])

    def test_a_line_for_a_panel_that_cannot_be_is_refused_by_field(self):
        for field, fields in (
            ("slots", {"slots": 200}),
            ("service", {"service": "400"}),
            ("circuits", {"circuits": [{"id": "a", "slot": 1, "name": "a", "breaker_a": 15}] * 85}),
            ("line", {"line": "x" * 401}),
        ):
            with self.subTest(field):
                answer = self.line(fields.pop("line", "14 20A x"), **fields)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(any(field in entry["field"] for entry in answer.json()["problems"]), answer.text)

    def test_arrangements_side_by_side_each_with_its_path_and_hours(self):
        advice = self.client.post("/api/transfer/advice", json=birchrow().model_dump(mode="json")).json()
        self.assertEqual({entry["suit"]["kind"] for entry in advice}, {kind.value for kind in ArrangementKind})
        ruled_out = [entry["suit"]["ruled_out"] for entry in advice]
        self.assertEqual(ruled_out, sorted(ruled_out))
        for entry in advice:
            with self.subTest(entry["suit"]["kind"]):
                self.assertTrue(entry["suit"]["why"] and entry["suit"]["why_not"])
                self.assertGreaterEqual(entry["hours_carried_h"], 0)
                names = [position["name"] for position in entry["path"]["positions"]]
                without_grid = entry["suit"]["kind"] == "own_panel"
                self.assertEqual(names[:2], ["backup"] if without_grid else ["grid", "backup"])
                for position in entry["path"]["positions"]:
                    self.assertEqual(set(position["live"]), {node["key"] for node in entry["path"]["nodes"]})

    def test_the_balance(self):
        found = self.client.post("/api/transfer/balance", json=house("critical_panel").model_dump(mode="json")).json()
        self.assertLessEqual(found["imbalance_w"], found["before_w"])
        self.assertEqual(set(found["legs"].values()), {"A", "B"})

    def test_the_price_of_a_circuit(self):
        design = house("critical_panel").model_dump(mode="json")
        found = self.client.post("/api/transfer/circuit-price", json={"design": design, "circuit_id": "c1"}).json()
        self.assertGreaterEqual(found["gain_h"], 0)
        missing = self.client.post("/api/transfer/circuit-price", json={"design": design, "circuit_id": "c99"})
        self.assertEqual((missing.status_code, missing.json()["problems"][0]["field"]), (422, "circuit_id"))

    def test_a_schedule_there_and_back(self):
        design = house("critical_panel").model_dump(mode="json")
        csv = self.client.post("/api/transfer/export-csv", json=design)
        self.assertIn('filename="panel.csv"', csv.headers["content-disposition"])
        workbook = self.client.post("/api/transfer/export-xlsx", json=design).content
        for sheet in (
            {"text": csv.content.decode("utf-8-sig")},
            {"workbook_base64": base64.b64encode(workbook).decode()},
        ):
            preview = self.client.post("/api/transfer/preview-schedule", json={**sheet, "design": design}).json()
            self.assertEqual([row["fate"] for row in preview["rows"]], ["same"] * 5)

    def test_what_is_no_schedule_is_said(self):
        design = house("critical_panel").model_dump(mode="json")
        bad = {"workbook_base64": base64.b64encode(b"no workbook").decode(), "design": design}
        answer = self.client.post("/api/transfer/preview-schedule", json=bad)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "SHEET"))
        large = self.client.post("/api/transfer/preview-schedule", json={"text": "x" * 900_001, "design": design})
        self.assertEqual(large.status_code, 422)

    def test_a_design_whose_circuits_cannot_stand_so_is_refused_with_field_value_and_range(self):
        design = house("critical_panel").model_dump(mode="json")
        design["transfer"]["circuits"][1]["slot"] = 1
        answer = self.client.post("/api/assessments", json=design)
        self.assertEqual(answer.status_code, 422)
        (problem,) = answer.json()["problems"]
        self.assertEqual((problem["field"], problem["value"]), ("transfer.circuits.1.slot", "1"))
        self.assertIn("slot 1 holds the breaker circuit 1 already", problem["accepted"])
