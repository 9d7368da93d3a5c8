"""What the trials come to: a map worked by hand, curves, worst starts, and what is said about them."""

import unittest
from dataclasses import replace
from itertools import pairwise

import numpy as np

from hearthkeep.core.bank import rate
from hearthkeep.core.outage import prepare
from hearthkeep.core.prove import prove
from hearthkeep.core.sources import HOURS_A_YEAR, WeatherYear
from hearthkeep.core.trials import Reach, begun, lasts_at_least_h, trials
from tests.support.designs import array, birchrow, changed, load, moved, simple


def year_of_one_day(sunny: range) -> WeatherYear:
    """Every day the same: a strong sun in some hours, none in the others."""
    sun = np.tile([900.0 if hour in sunny else 0.0 for hour in range(24)], 365)
    still = np.zeros(HOURS_A_YEAR)
    return WeatherYear(
        key="one-day",
        name="One day, over and over",
        latitude_deg=40.0,
        longitude_deg=0.0,
        elevation_m=0.0,
        utc_offset_h=0.0,
        ghi_w_m2=sun,
        dni_w_m2=sun,
        dhi_w_m2=0.1 * sun,
        air_c=still + 10.0,
        wind_m_s=still,
        snow_cm=still,
    )


def hand_made():
    """50 W all day from 910 Wh, and 150 W of sun, the controller's limit, from 10 to 14 o'clock."""
    design = simple(
        load("lamp", 50.0, supply="dc"),
        arrays=(array("field", 9000.0),),
        bank={"unit_ah": 91.0},
        outage={"duration_h": 24.0},
        simulation={"time_step_min": 60},
    )
    return moved(design, {"charging.controllers.0.output_a": 150.0 / rate(design.bank).charging_v})


class ByHand(unittest.TestCase):
    """
    From full the bank lasts 18.2 h without sun; four hours of sun put back 400 Wh.

    Begun at 2 to 13 o'clock it is full at 14, and dark at 08:12 of the next morning: after 32.2 h less the hour it began at.
    Begun at 14 or 15 it is dark after 18.2 h, before any sun. Begun at 16 to 23, or at 0 or 1, it is not full at 14: it has
    had 400 Wh from the sun and lasts (910 + 400) / 50 h and those four, 30.2 h in all.
    """

    def carried_h(self, hour):
        if hour in (14, 15):
            return 18.2
        return 32.2 - hour if 2 <= hour <= 13 else 30.2

    def test_every_start_lasts_as_worked_by_hand(self):
        found = trials(hand_made(), year_of_one_day(range(10, 14)))
        expected = [self.carried_h(hour) for hour in range(24)]
        for length_h, share in ((12.0, 1.0), (24.0, 17 / 24), (48.0, 0.0)):
            self.assertAlmostEqual(sum(hours >= length_h for hours in expected) / 24, share)
            shares = {cell.month: cell.keep_frac for cell in found.cells if cell.length_h == length_h}
            self.assertEqual(set(shares), {None, *range(1, 13)})
            for month, value in shares.items():
                self.assertAlmostEqual(value, share, msg=f"{length_h} h, month {month}")
        # 11 of 24 last 30 h and more; half of them last to the twelfth best, begun at 3.
        year = next(curve for curve in found.curves if curve.key == "year")
        at = dict(zip(found.times_h, year.keep_frac, strict=True))
        self.assertAlmostEqual(at[30.0], 11 / 24)
        self.assertAlmostEqual(found.half_last_h, 29.2)
        self.assertAlmostEqual(found.worst[0].carried_h, 18.2)
        self.assertIn(found.worst[0].start.hour, (14, 15))

    def test_the_share_that_lasts_is_a_step_down_at_each_start(self):
        hours = np.array([5.0, 1.0, 3.0, 3.0])
        self.assertEqual([lasts_at_least_h(hours, share) for share in (0.25, 0.5, 0.75, 1.0)], [5.0, 3.0, 3.0, 1.0])


class Report(unittest.TestCase):
    def test_a_longer_outage_is_never_carried_from_more_starts_and_life_never_from_fewer(self):
        found = trials(birchrow(), reach=Reach.MONTH)
        self.assertIn(72.0, found.lengths_h)
        for month in (None, *range(1, 13)):
            cells = [cell for cell in found.cells if cell.month == month]
            self.assertEqual([cell.length_h for cell in cells], sorted(found.lengths_h))
            shares = [cell.keep_frac for cell in cells]
            self.assertEqual(shares, sorted(shares, reverse=True))
            self.assertTrue(all(cell.life_frac >= cell.keep_frac for cell in cells))
        for curve in found.curves:
            self.assertEqual(curve.keep_frac[0], 1.0)
            self.assertEqual(list(curve.keep_frac), sorted(curve.keep_frac, reverse=True))
        months = [cell for cell in found.cells if cell.month and cell.length_h == 72.0]
        self.assertEqual(sum(cell.starts for cell in months), found.starts)
        self.assertAlmostEqual(sum(cell.starts * cell.keep_frac for cell in months), found.starts * found.keep_frac)

    def test_the_worst_are_in_order_apart_and_what_the_strip_shows(self):
        design = birchrow()
        found = trials(design)
        self.assertEqual(len(found.worst), 10)
        carried = [start.carried_h for start in found.worst]
        self.assertEqual(carried, sorted(carried))
        starts = sorted(start.start for start in found.worst)
        self.assertTrue(all((b - a).total_seconds() >= 72 * 3600 for a, b in pairwise(starts)))
        for start in found.worst[:3]:
            strip = prepare(begun(design, start.start, 72.0))
            self.assertEqual(start.carried_h, strip.carried_h(strip.run().dark_h))
            self.assertEqual(start.strip.time_h[-1], 72.0)
            dark_h = sum(until - since for since, until in start.strip.dark_h)
            self.assertGreaterEqual(dark_h, start.dark_for_h - 1e-9)

    def test_an_outage_of_part_of_an_hour_is_tried_for_the_whole_one(self):
        self.assertEqual(trials(changed(birchrow(), outage={"duration_h": 5.25})).planned_h, 6.0)

    def test_seasons_turn_round_south_of_the_equator(self):
        design = changed(birchrow(), site={"latitude_deg": -44.0})
        titles = {curve.key: curve.title for curve in trials(design).curves}
        self.assertEqual((titles["summer"], titles["winter"]), ("Dec to Feb, summer", "Jun to Aug, winter"))

    def test_a_house_that_asks_for_nothing_is_not_called_carried(self):
        proof = prove(simple(load("tv", 50.0, tier="ease")))
        self.assertIn("nothing to carry", proof.trials.verdict)
        self.assertNotIn("TRIALS_CARRIED", [finding.code for finding in proof.findings])

    def test_the_verdict_says_all_none_and_some(self):
        always, never = simple(load("a", 1.0)), simple(load("a", 900.0, supply="dc", tier="life"))
        self.assertIn("from every hour of the year", trials(always).verdict)
        self.assertIn(
            "from no hour of the year, nor is Life alone", trials(changed(never, outage={"duration_h": 48.0})).verdict
        )
        self.assertRegex(
            trials(birchrow()).verdict, r"from 58 % .* Life alone from 81 %\. December is hardest with 6 %"
        )


class Findings(unittest.TestCase):
    def codes(self, design, **year):
        return {finding.code: finding for finding in prove(design, **year).findings}

    def test_a_plan_that_is_milder_than_most_storms_is_found_and_a_harder_one_tried(self):
        clear = [{"sky": "clear", "air_temp_c": 5.0}]
        mild = changed(birchrow(), outage={"days": clear, "start": "2026-06-20T08:00:00"})
        found = self.codes(mild)["TRIALS_PLAN_IS_MILD"]
        self.assertEqual(found.severity, "mend")
        assert found.remedy is not None
        harder = moved(mild, {change.path: change.value for change in found.remedy.changes})
        self.assertNotIn("TRIALS_PLAN_IS_MILD", self.codes(harder))
        self.assertIn("TRIALS_TOO_FEW", self.codes(harder))

    def test_each_is_called_up_and_silent_beside(self):
        well = changed(birchrow(), bank={"parallel": 20})
        good, bad = self.codes(well), self.codes(birchrow())
        self.assertIn("TRIALS_CARRIED", good)
        self.assertLessEqual({"TRIALS_TOO_FEW", "TRIALS_LIFE_DARK", "TRIALS_MADE_UP_YEAR"}, set(bad))
        self.assertFalse({"TRIALS_TOO_FEW", "TRIALS_LIFE_DARK", "TRIALS_PLAN_IS_MILD"} & set(good), set(good))
        self.assertNotIn("TRIALS_CARRIED", bad)

    def test_a_year_from_afar_is_named_and_one_nearby_is_not(self):
        here = year_of_one_day(range(10, 14))
        far = replace(here, key="far", latitude_deg=48.0)
        self.assertIn("TRIALS_YEAR_FROM_AFAR", self.codes(hand_made(), year=far))
        self.assertFalse({"TRIALS_YEAR_FROM_AFAR", "TRIALS_MADE_UP_YEAR"} & set(self.codes(hand_made(), year=here)))
