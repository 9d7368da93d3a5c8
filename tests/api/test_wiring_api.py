"""Wiring over the interface: the sheet with everything on it, lists as files, the drawing; bad input named by its field."""

import csv
import io
import xml.etree.ElementTree as ElementTree

from openpyxl import load_workbook

from tests.core.made_wiring import everything
from tests.support.api import ApiTest
from tests.support.designs import birchrow, moved

SVG = "{http://www.w3.org/2000/svg}"


class WiringApi(ApiTest):
    def post(self, path, design):
        return self.client.post(f"/api/wiring/{path}", json=design.model_dump(mode="json"))

    def test_the_sheet_holds_runs_drawing_board_lists_and_checks(self):
        sheet = self.post("sheet", everything()).json()
        keys = [run["key"] for run in sheet["runs"]]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertEqual(sorted(keys), sorted(line["key"] for line in sheet["one_line"]["lines"] if line["is_run"]))
        self.assertEqual(sorted(keys), sorted(check["run"] for check in sheet["checks"]))
        self.assertEqual({cut["run"] for cut in sheet["lists"]["cuts"]}, set(keys))
        self.assertAlmostEqual(sheet["mass_kg"], sum(part["mass_kg"] for part in sheet["board"]))
        for run in sheet["runs"]:
            for figure in run["figures"]:
                self.assertTrue(figure["formula"] and figure["basis"], figure)

    def test_every_list_as_csv_in_the_units_of_the_practice(self):
        for which, header in (
            ("runs", "Run"), ("parts", "Part"), ("cuts", "Conductor"), ("devices", "Run"), ("placards", "Where"),
        ):  # fmt: skip
            with self.subTest(which):
                answer = self.post(f"export-csv/{which}", birchrow())
                self.assertIn(f'filename="wiring-{which}.csv"', answer.headers["content-disposition"])
                rows = list(csv.reader(io.StringIO(answer.content.decode("utf-8-sig"))))
                self.assertEqual(rows[0][0], header)
                self.assertGreater(len(rows), 3)
        runs = list(csv.DictReader(io.StringIO(self.post("export-csv/runs", birchrow()).content.decode("utf-8-sig"))))
        roof = next(row for row in runs if row["Run"].startswith("South roof"))
        self.assertEqual((roof["Length ft"], roof["Conductor"]), ("45.9", "10 AWG"))
        self.assertEqual(self.client.post("/api/wiring/export-csv/else", json={}).status_code, 422)

    def test_all_lists_as_a_workbook_and_the_sum_of_the_prices(self):
        design = moved(birchrow(), {"wiring.prices": [{"item": "unit/battery", "price": 1200.0}]})
        book = load_workbook(io.BytesIO(self.post("export-xlsx", design).content))
        self.assertEqual(book.sheetnames, ["Runs", "Parts", "Cuts", "Devices", "Placards"])
        parts = list(book["Parts"].values)
        battery = next(row for row in parts if row[2] == 2 and row[4] == 1200)
        self.assertEqual(battery[5], 2400)
        # The transfer device stands in the design with its quote of 780.
        self.assertEqual(parts[-1][5], 2400 + 780)

    def test_the_drawing_is_a_whole_svg_with_every_run_and_text(self):
        design = everything()
        answer = self.post("one-line-svg", design)
        self.assertEqual(answer.headers["content-type"], "image/svg+xml")
        root = ElementTree.fromstring(answer.content)
        sheet = self.post("sheet", design).json()["one_line"]
        texts = [text.text for text in root.iter(f"{SVG}text")]
        drawn = [text["text"] for owner in (*sheet["symbols"], *sheet["lines"]) for text in owner["texts"]]
        drawn += [note["text"] for note in sheet["notes"]]
        self.assertEqual(sorted(texts), sorted([*drawn, f"{design.name}: one-line diagram", texts[-1]]))
        self.assertIn("licensed electrician", texts[-1])
        # A bus is a bar, which can be cut where a tall drawing goes on elsewhere.
        buses = sum(symbol["kind"] == "bus" for symbol in sheet["symbols"])
        self.assertEqual(len(list(root.iter(f"{SVG}path"))), len(sheet["symbols"]) - buses + len(sheet["lines"]))
        self.assertEqual(len([bar for bar in root.iter(f"{SVG}rect") if bar.find(f"{SVG}title") is not None]), buses)

    def test_a_name_with_marks_of_its_own_breaks_no_drawing(self):
        design = moved(everything(), {"name": '<b>"&', "charging.controllers.0.name": "<script>"})
        ElementTree.fromstring(self.post("one-line-svg", design).content)

    def test_what_cannot_be_is_refused_by_its_field(self):
        values = birchrow().model_dump(mode="json")
        for field, value in (("length_m", 10_000.0), ("size", "thick"), ("device_a", -2.0)):
            with self.subTest(field):
                values["wiring"]["runs"] = [{"run": "bank", field: value}]
                answer = self.client.post("/api/wiring/sheet", json=values)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(
                    [problem["field"] for problem in answer.json()["problems"]], [f"wiring.runs.0.{field}"]
                )
