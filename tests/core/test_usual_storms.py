"""Storms to start from: each is a whole, valid outage of its season on either half of the globe, and they differ as they say."""

import unittest
from math import ceil

from hearthkeep.core.assess import assess
from hearthkeep.core.design import SkySource
from hearthkeep.core.outage import usual_storms
from tests.support.designs import birchrow, changed

NORTH, SOUTH, YEAR = 44.6, -43.5, 2027


def with_storm(design, storm):
    fields = storm.model_dump(include={"start", "duration_h", "warning_h", "days"})
    return changed(design, outage={**fields, "sky_from": SkySource.BY_HAND})


class UsualStorms(unittest.TestCase):
    def test_every_calendar_day_of_a_storm_has_its_own_sky_and_no_more(self):
        for storm in usual_storms(NORTH, YEAR):
            into_day_h = storm.start.hour + storm.start.minute / 60
            with self.subTest(storm.key):
                self.assertEqual(len(storm.days), ceil((into_day_h + storm.duration_h) / 24))

    def test_the_south_has_its_winter_half_a_year_later(self):
        for north, south in zip(usual_storms(NORTH, YEAR), usual_storms(SOUTH, YEAR), strict=True):
            with self.subTest(north.key):
                self.assertEqual((south.start.month - north.start.month) % 12, 6)
                self.assertEqual((north.start.year, south.start.year), (YEAR, YEAR))
                self.assertEqual(north.days, south.days)

    def test_each_runs_in_the_model_for_its_whole_length_under_its_own_sun(self):
        design, sun_w = birchrow(), {}
        for storm in usual_storms(NORTH, YEAR):
            series = assess(with_storm(design, storm)).outage.series
            self.assertEqual(series.time_h[-1], storm.duration_h, storm.key)
            sun_w[storm.key] = sum(series.sun_w) / len(series.sun_w)
        self.assertLess(sun_w["ice"], sun_w["day"])
        self.assertLess(sun_w["ice"], sun_w["away"])
        self.assertLess(sun_w["away"], sun_w["hurricane"])
        self.assertEqual(sun_w["night"], 0)

    def test_only_the_days_away_are_without_people(self):
        for storm in usual_storms(NORTH, YEAR):
            self.assertEqual({day.away for day in storm.days}, {storm.key == "away"}, storm.key)
