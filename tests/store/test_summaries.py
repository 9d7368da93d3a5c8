"""What the list shows is kept with its engine, its revision and its weather year, and found anew when one of them changes."""

import unittest
from dataclasses import replace

from hearthkeep.store import Designs, Summaries, Summary, WeatherYears
from tests.support.designs import birchrow, changed
from tests.support.shared import fresh_engine
from tests.support.weather import YEAR

FOUND = Summary(
    kind="home",
    place="Birchrow Terrace",
    hours_carried_h=41.0,
    duration_h=72.0,
    daily_wh=3000.0,
    bank_wh=5120.0,
    stops=1,
    mends=2,
)


class Kept(unittest.TestCase):
    def setUp(self):
        self.engine = fresh_engine()
        self.addCleanup(self.engine.dispose)
        self.designs, self.summaries = Designs(self.engine), Summaries(self.engine)

    def line(self, by="one"):
        (line,) = self.summaries.page(by=by).lines
        return line

    def test_nothing_is_known_of_a_new_design_until_it_is_kept(self):
        made = self.designs.create(birchrow())
        line = self.line()
        self.assertEqual((line.id, line.revision, line.summary), (made.id, 1, None))
        self.summaries.keep(line, FOUND, by="one")
        self.assertEqual(self.line().summary, FOUND)

    def test_it_holds_for_its_engine_only(self):
        self.designs.create(birchrow())
        self.summaries.keep(self.line(), FOUND, by="one")
        self.assertIsNone(self.line(by="two").summary)
        self.summaries.keep(self.line(by="two"), FOUND, by="two")
        self.assertIsNone(self.line(by="one").summary)

    def test_it_holds_for_its_revision_only(self):
        made = self.designs.create(birchrow())
        self.summaries.keep(self.line(), FOUND, by="one")
        self.designs.save(made.id, changed(birchrow(), name="another"), expected_revision=1)
        self.assertEqual((self.line().name, self.line().summary), ("another", None))

    def test_it_is_found_anew_once_the_weather_year_it_asks_for_is_stored(self):
        year = replace(YEAR, key="another-year")
        self.designs.create(changed(birchrow(), site={"weather_year": year.key}))
        self.assertIsNone(self.line().weather_year)
        self.summaries.keep(self.line(), FOUND, by="one")
        self.assertEqual(self.line().summary, FOUND)
        WeatherYears(self.engine).put(year)
        self.assertEqual((self.line().weather_year, self.line().summary), (year.key, None))
