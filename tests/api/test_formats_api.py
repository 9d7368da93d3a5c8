"""Open formats through the interface; a bundle out of one installation into another."""

import csv
import io
import zipfile

from fastapi.testclient import TestClient
from icalendar import Calendar

from hearthkeep.api import create_app
from hearthkeep.workers import Workers
from tests.support.api import BINARY, JSON, PORT, ApiTest
from tests.support.recalculated import recalculated
from tests.support.shared import fresh_engine
from tests.support.weather import epw_lines, joined


class Out(ApiTest):
    def given(self, design_id, file):
        answer = self.client.get(f"/api/designs/{design_id}/{file}")
        self.assertEqual(answer.status_code, 200, answer.text[:300])
        self.assertIn(f'filename="birchrow-14-ice-storm-plan-{file}"', answer.headers["content-disposition"])
        return answer.content

    def test_workbook_calendar_and_hours(self):
        made = self.made()
        cells = recalculated(self.given(made["id"], "workbook.xlsx"))
        found = self.client.post("/api/assessments", content=self.document(), headers=JSON).json()
        self.assertIn(found["loads"]["daily_wh"], [value for (sheet, _), value in cells.items() if sheet == "AUDIT"])
        self.assertGreater(len(Calendar.from_ical(self.given(made["id"], "upkeep.ics")).walk("VEVENT")), 5)
        rows = list(csv.reader(io.StringIO(self.given(made["id"], "outage.csv").decode("utf-8-sig"))))
        self.assertEqual(len(rows), 1 + len(found["outage"]["series"]["sun_w"]))
        self.assertEqual(len(self.given(made["id"], "year.csv").splitlines()), 8761)

    def test_a_design_that_is_not_there(self):
        for file in ("bundle.zip", "workbook.xlsx", "upkeep.ics", "outage.csv", "year.csv"):
            answer = self.client.get(f"/api/designs/00000000-0000-0000-0000-000000000000/{file}")
            self.assertEqual(answer.status_code, 404, file)


class Elsewhere(ApiTest):
    """A second installation, on a database of its own."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        engine = fresh_engine()
        cls.addClassCleanup(engine.dispose)
        workers = Workers(engine.url, 1)
        cls.addClassCleanup(workers.close)
        app = create_app(engine=engine, workers=workers, port=PORT, web=None)
        cls.there = cls.enterClassContext(TestClient(app, base_url=f"http://127.0.0.1:{PORT}"))

    def taken(self, content):
        return self.there.post("/api/bundles", content=content, headers=BINARY)

    def test_the_same_assessment_to_the_last_bit(self):
        year = self.client.post("/api/weather-years", content=joined(epw_lines()), headers=BINARY).json()
        unit = {"library_id": "wide-100", "name": "Wide 100", "chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100.0}
        sheet = "library_id,name,chemistry,unit_v,unit_ah\nwide-100,Wide 100,lfp,51.2,100\n"
        put = self.client.post("/api/library/battery/import", json={"text": sheet})
        self.assertLess(put.status_code, 300, put.text)
        values = self.client.post("/api/designs", json={"start": "rack"}).json()["document"]
        values["site"]["weather_year"], values["outage"]["sky_from"] = year["key"], "year"
        values["bank"]["unit"] = {"library_id": unit["library_id"], "name": unit["name"]}
        made = self.client.post("/api/designs/import", json=values).json()
        kept = self.client.post(f"/api/designs/{made['id']}/alternatives", json={"label": "As it was"})
        self.assertEqual(kept.status_code, 201)
        bundle = self.client.get(f"/api/designs/{made['id']}/bundle.zip").content
        with zipfile.ZipFile(io.BytesIO(bundle)) as archive:
            names = set(archive.namelist())
            self.assertIn(b"wide-100", archive.read("units.json"))
        self.assertEqual(
            names,
            {
                "bundle.json",
                "design.json",
                "units.json",
                "results.json",
                "alternatives/01.json",
                f"weather/{year['key']}.epw",
            },
        )
        answer = self.taken(bundle)
        self.assertEqual(answer.status_code, 201, answer.text)
        taken = answer.json()
        self.assertEqual(
            {name: taken[name] for name in ("alternatives", "new_years", "new_units", "same_figures", "note")},
            {"alternatives": 1, "new_years": 1, "new_units": 1, "same_figures": True, "note": ""},
        )
        here = self.client.post("/api/assessments", json=made["document"]).content
        document = self.there.get(f"/api/designs/{taken['id']}").json()["document"]
        self.assertEqual(document, made["document"])
        self.assertEqual(self.there.post("/api/assessments", json=document).content, here)
        tree = self.there.get(f"/api/designs/{taken['id']}/alternatives").json()
        self.assertEqual([one["label"] for one in tree], ["", "As it was"])
        # Taken twice, what is there already stays, and the design is another.
        again = self.taken(bundle).json()
        self.assertEqual((again["new_years"], again["new_units"]), (0, 0))
        self.assertNotEqual(again["id"], taken["id"])

    def test_results_of_another_engine_are_said_to_differ(self):
        from hearthkeep.core.design import read_design
        from hearthkeep.exchange import Bundle, write_bundle

        made = Bundle(
            design=read_design(self.document().encode()), revision=1, alternatives=(), years=(), batteries=(), inverters=(),
            modules=(), results=b"{}", engine="0.0.1+other",
        )  # fmt: skip
        taken = self.taken(write_bundle(made)).json()
        self.assertFalse(taken["same_figures"])
        self.assertIn("0.0.1+other", taken["note"])

    def test_what_is_refused_leaves_nothing_behind(self):
        before = self.there.get("/api/designs").json()["total"]
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            archive.writestr("../../etc/passwd", "x")
        for content, word in ((out.getvalue(), "path"), (b"no archive", "not a bundle")):
            answer = self.taken(content)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(word, answer.json()["detail"])
        self.assertEqual(self.there.post("/api/bundles", content=b"{}", headers=JSON).status_code, 415)
        huge = self.there.post("/api/bundles", content=bytes(20_000_001), headers=BINARY)
        self.assertEqual(huge.status_code, 413)
        self.assertEqual(self.there.get("/api/designs").json()["total"], before)
