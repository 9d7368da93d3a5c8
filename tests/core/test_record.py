"""Past outages: indices, each outage lived on its date, and the utility's usual ones."""

import math
import unittest
from datetime import datetime, timedelta

from hearthkeep.core.errors import InputError
from hearthkeep.core.outage import prepare
from hearthkeep.core.trials import begun, indices, reliability
from tests.support.designs import birchrow, changed, load, simple

PAST = [
    {"start": "2024-02-29T13:40:00", "length_h": 30.0},
    {"start": "2023-07-04T09:00:00", "length_h": 0.05},
    {"start": "2025-12-21T05:10:00", "length_h": 40.25},
]


class Past(unittest.TestCase):
    def test_each_is_lived_on_its_date_from_its_full_hour_and_ends_when_it_did(self):
        design = changed(birchrow(), record={"outages": PAST, "years": 4.0})
        found = reliability(design)
        by_start = {outage.start: outage for outage in found.outages}
        self.assertEqual(len(by_start), 3)
        outage = by_start[datetime(2025, 12, 21, 5, 10)]
        strip = prepare(begun(design, datetime(design.outage.start.year, 12, 21, 5), 41.0))
        run = strip.outcome()
        self.assertEqual(outage.carried_h, strip.carried_h(run.dark_h))
        self.assertLess(outage.carried_h, 40.0)
        self.assertLessEqual(outage.carried_h + outage.dark_h, 40.25 + 1e-9)
        # 29 February is the 28th in a year without one.
        leap = by_start[datetime(2024, 2, 29, 13, 40)]
        strip = prepare(begun(design, datetime(2026, 2, 28, 13), 30.0))
        self.assertEqual(leap.carried_h, strip.carried_h(strip.outcome().dark_h))
        self.assertEqual(found.outages[0], max(found.outages, key=lambda entry: entry.dark_h))

    def test_indices_without_and_with_the_design(self):
        # 10 h carried: of 30, 0.05 and 40.25 h twenty and thirty and a quarter are dark; the shortest is momentary.
        design = simple(load("a", 100.0, supply="dc"), record={"outages": PAST, "years": 2.0})
        found = reliability(design)
        assert found.without and found.with_design
        self.assertAlmostEqual(found.without.saifi_per_year, 1.0)
        self.assertAlmostEqual(found.without.maifi_per_year, 0.5)
        self.assertAlmostEqual(found.without.saidi_min_per_year, (30 + 40.25) * 60 / 2)
        self.assertAlmostEqual(found.with_design.saidi_min_per_year, (20 + 30.25) * 60 / 2)
        self.assertAlmostEqual(found.with_design.caidi_min, (20 + 30.25) * 60 / 2)
        self.assertEqual(found.with_design.maifi_per_year, 0.0)
        self.assertAlmostEqual(found.without.asai_frac, 1 - (30 + 40.25) / 2 / 8760)

    def test_without_a_record_there_is_nothing_to_say(self):
        found = reliability(simple(load("a", 1.0)))
        self.assertEqual((found.outages, found.without, found.utility_without), ((), None, None))


class Utility(unittest.TestCase):
    def test_a_house_that_lasts_ten_hours_by_hand(self):
        # Mean 2 h: the part exp(-10 / 2) of them is longer than ten hours, and then lasts two hours more.
        design = simple(
            load("a", 100.0, supply="dc"),
            record={"utility": {"saifi_per_year": 1.5, "saidi_min_per_year": 180.0}},
        )
        found = reliability(design)
        assert found.utility_without and found.utility_with_design
        self.assertAlmostEqual(found.utility_without.caidi_min, 120.0)
        self.assertAlmostEqual(found.utility_with_design.saifi_per_year, 1.5 * math.exp(-5))
        self.assertAlmostEqual(found.utility_with_design.saidi_min_per_year, 180.0 * math.exp(-5))

    def test_usual_outages_of_days_are_followed_for_longer_than_a_week_by_hand(self):
        # 1 W from 1 kWh: 1,000 h, more than is ever followed. Means of 40 and of 200 h: for 372 of them 384 h, and at most 720.
        for mean_h, followed_h in ((2.0, 168.0), (40.0, 384.0), (200.0, 720.0)):
            with self.subTest(mean_h):
                record = {"utility": {"saifi_per_year": 0.5, "saidi_min_per_year": 0.5 * 60.0 * mean_h}}
                found = reliability(simple(load("a", 1.0, supply="dc"), record=record))
                self.assertEqual(found.utility_followed_h, followed_h)
                self.assertAlmostEqual(
                    found.utility_with_design.saifi_per_year, 0.5 * math.exp(-followed_h / mean_h), places=9
                )
        self.assertIsNone(reliability(simple(load("a", 1.0, supply="dc"))).utility_followed_h)


class Document(unittest.TestCase):
    def refused(self, **record):
        with self.assertRaises(InputError) as caught:
            changed(birchrow(), record=record)
        return [(problem.field, problem.accepted) for problem in caught.exception.problems]

    def test_outages_that_overlap_and_figures_that_are_none_are_refused_by_their_field(self):
        twice = [PAST[0], {**PAST[0], "start": "2024-02-29T20:00:00"}]
        self.assertIn("begins before the one before it has ended", self.refused(outages=twice)[0][1])
        for utility, field in (
            ({"saifi_per_year": 0.0, "saidi_min_per_year": 10.0}, "record.utility.saifi_per_year"),
            ({"saifi_per_year": 0.001, "saidi_min_per_year": 500_000.0}, "record.utility"),
        ):
            self.assertEqual(self.refused(utility=utility)[0][0], field)

    def test_they_are_kept_in_order(self):
        design = changed(birchrow(), record={"outages": PAST})
        starts = [outage.start for outage in design.record.outages]
        self.assertEqual(starts, sorted(starts))
        self.assertEqual(design.record.outages[-1].end - starts[-1], timedelta(hours=40.25))

    def test_customers_of_a_whole_town(self):
        found = indices([(100, 3.0), (500, 60.0)], customers=1000, years=2.0)
        self.assertEqual((found.maifi_per_year, found.saifi_per_year, found.caidi_min), (0.05, 0.25, 60.0))
