"""Practice units: sentences and workings count as the project's practice does, and never change what is computed."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.practice import degrees, distance_text, height_text, volume, volume_text, wind_speed
from tests.core.test_checks import CASES, YEARS
from tests.support.designs import changed, load, simple

METRIC = simple(load("a", 10))
AMERICAN = changed(METRIC, practice="north_american")


class Units(unittest.TestCase):
    def test_both_practices(self):
        for told, metric, american in (
            (degrees(METRIC, -20.0), "-20 °C", None), (degrees(AMERICAN, -20.0), None, "-4 °F"),
            (volume_text(METRIC, 18.927), "18.9 L", None), (volume_text(AMERICAN, 18.927), None, "5 gal"),
            (distance_text(METRIC, 160.9344), "161 km", None), (distance_text(AMERICAN, 160.9344), None, "100 miles"),
            (height_text(METRIC, 3048.0), "3,048 m", None), (height_text(AMERICAN, 3048.0), None, "10,000 ft"),
        ):  # fmt: skip
            self.assertEqual(told, metric or american)
        self.assertEqual(wind_speed(METRIC, 4.4704), (4.4704, "m/s"))
        value, unit = wind_speed(AMERICAN, 4.4704)
        self.assertAlmostEqual(value, 10.0)
        self.assertEqual(unit, "mph")
        self.assertAlmostEqual(volume(AMERICAN, 3.785412)[0], 1.0)

    def test_findings_about_fuel_and_weather_speak_the_practice(self):
        for code, metric, american in (
            ("OUT_OF_FUEL", "0.2 L", "0.05 gal"),
            ("TANK_RUNS_DRY", "50 L on hand", "13.2 gal on hand"),
            ("GENERATOR_HARDLY_LOADED", "L a kWh", "gal a kWh"),
            ("WEATHER_FAR", " km away", " miles away"),
        ):
            design = CASES[code]
            year = YEARS.get(code)
            for practice, words in (("metric_230", metric), ("north_american", american)):
                with self.subTest(code, practice=practice):
                    found = assess(changed(design, practice=practice), year).findings
                    self.assertIn(words, next(entry.message for entry in found if entry.code == code))

    def test_the_outage_is_the_same_in_both(self):
        design = CASES["GENERATOR_HARDLY_LOADED"]
        metric, american = assess(design), assess(changed(design, practice="north_american"))
        self.assertEqual(metric.outage.fuel_l, american.outage.fuel_l)
        self.assertEqual(metric.outage.ledger_wh, american.outage.ledger_wh)
        self.assertAlmostEqual(
            metric.figures["charging.fuel"].value, american.figures["charging.fuel"].value * 3.785412
        )
