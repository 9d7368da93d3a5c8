"""Weather years on real PostgreSQL: stored once, shared between designs, refused with line and reason, used by assessments."""

import json

from hearthkeep.exchange import read_weather
from hearthkeep.store import NotFoundError
from tests.support.api import BINARY, JSON, ApiTest
from tests.support.weather import epw_lines, joined, tmy3_lines


class WeatherRoutes(ApiTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.years = cls.client.app.state.weather

    def put(self, content, name="made-up.epw"):
        return self.client.post("/api/weather-years", params={"name": name}, content=content, headers=BINARY)

    def in_year(self, key, **outage):
        values = json.loads(self.document())
        values["site"]["weather_year"] = key
        values["outage"] |= {"sky_from": "year", **outage}
        return values

    def assessed(self, values):
        return self.client.post("/api/assessments", content=json.dumps(values), headers=JSON).json()

    def test_a_file_is_stored_once_and_comes_back_as_it_was(self):
        first, again = self.put(joined(epw_lines())).json(), self.put(joined(epw_lines()), "other-name.epw").json()
        self.assertEqual(first, again)
        self.assertEqual([year["key"] for year in self.client.get("/api/weather-years").json()].count(first["key"]), 1)
        read, stored = read_weather(joined(epw_lines()), "a"), self.years.get(first["key"])
        self.assertEqual(stored, read)
        for name in ("ghi_w_m2", "dni_w_m2", "air_c", "snow_cm"):
            self.assertLess(abs(getattr(stored, name) - getattr(read, name)).max(), 1e-3)
        self.assertAlmostEqual(first["level_kwh_m2_day"], read.ghi_w_m2.sum() / 365_000, places=4)

    def test_a_stored_year_goes_out_as_a_file_and_comes_in_as_the_same(self):
        first = self.put(joined(tmy3_lines())).json()
        answer = self.client.get(f"/api/weather-years/{first['key']}/year.epw")
        self.assertIn(f'filename="{first["key"]}.epw"', answer.headers["content-disposition"])
        self.assertEqual(self.put(answer.content, "again.epw").json(), first)
        self.assertEqual(self.client.get("/api/weather-years/wy-gone/year.epw").status_code, 404)

    def test_an_assessment_takes_its_sky_from_the_stored_year(self):
        key = self.put(joined(epw_lines())).json()["key"]
        winter, summer = (
            self.assessed(self.in_year(key, start=f"2026-{month}-12T17:00:00"))["charging"] for month in ("01", "07")
        )
        self.assertEqual(len(winter["skies"]), len(winter["daily_wh"]))
        self.assertGreater(summer["offered_wh"], 2 * winter["offered_wh"])
        # The same hours without snow in the file give other skies.
        dry = self.put(joined(tmy3_lines()), "dry.csv").json()["key"]
        self.assertNotIn("covered", self.assessed(self.in_year(dry))["charging"]["skies"])

    def test_a_year_that_is_not_here_is_told_and_the_made_up_one_stands_in(self):
        missing = self.assessed(self.in_year("wy-gone"))
        self.assertIn("WEATHER_MISSING", [finding["code"] for finding in missing["findings"]])
        self.assertEqual(missing["outage"], self.assessed(self.in_year(None))["outage"])

    def test_a_year_in_use_stays_and_says_where(self):
        key = self.put(joined(tmy3_lines()), "used.csv").json()["key"]
        values = self.in_year(key)
        made = self.client.post(
            "/api/designs/import", content=json.dumps({**values, "name": "Sunny side"}), headers=JSON
        )
        refused = self.client.delete(f"/api/weather-years/{key}")
        self.assertEqual(refused.status_code, 409)
        self.assertIn("Sunny side", refused.json()["detail"])
        values["site"]["weather_year"] = None
        self.client.put(
            f"/api/designs/{made.json()['id']}",
            params={"expected_revision": 1},
            content=json.dumps(values),
            headers=JSON,
        )
        self.assertEqual(self.client.delete(f"/api/weather-years/{key}").status_code, 204)
        self.assertEqual(self.client.delete(f"/api/weather-years/{key}").status_code, 404)
        with self.assertRaises(NotFoundError):
            self.years.get(key)

    def test_hostile_files_are_refused_with_line_and_reason(self):
        rows = tmy3_lines()
        del rows[700]
        for content, told in (
            (joined(epw_lines()[:4000]), "Line 4,000: the file ends after 3,992 of 8,760 hours."),
            (joined(rows), "Line 701: month 1, day 30, hour 4 stands where"),
            (b"PK\x03\x04" + b"\x00" * 5000, "Line 1: this is not text"),
        ):
            answer = self.put(content)
            self.assertEqual(answer.status_code, 422)
            self.assertEqual(answer.json()["type"], "urn:hearthkeep:problem:weather-file")
            self.assertIn(told, answer.json()["detail"])

    def test_200_megabytes_are_refused_unread(self):
        answer = self.client.post("/api/weather-years", content=b"x" * 12_000_001, headers=BINARY)
        self.assertEqual(answer.status_code, 413)
        self.assertIn("12,000,000 bytes", answer.json()["detail"])
        huge = self.client.post("/api/weather-years", content=b"x", headers={**BINARY, "content-length": "200000000"})
        self.assertEqual(huge.status_code, 413)

    def test_the_year_on_the_arrays(self):
        key = self.put(joined(epw_lines())).json()["key"]
        answer = self.client.post("/api/sun-year", content=json.dumps(self.in_year(key)), headers=JSON).json()
        self.assertEqual(answer["year_key"], key)
        self.assertEqual(len(answer["months"]), 12)
        self.assertEqual(
            {row["key"] for row in answer["sums"]}, {"quick_year", "quick_worst", "modelled_worst", "dark_day"}
        )
