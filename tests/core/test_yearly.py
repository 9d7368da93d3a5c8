"""A year on the arrays: sun hours, the house living on the sun alone, and the quick sum beside the model."""

import unittest

import numpy as np

from hearthkeep.core.design import read_design
from hearthkeep.core.sources import made_up_year, year_plane_of_array
from hearthkeep.core.yearly import sun_year
from tests.support.designs import array, birchrow, changed, load, simple


def year_of(*loads, arrays=None, **parts):
    return sun_year(simple(*loads, arrays=arrays or (array("p", 1000),), **parts))


class Year(unittest.TestCase):
    def test_sun_hours_are_the_plane_s_energy_a_day(self):
        found = year_of(load("a", 10), arrays=(array("p", 1000, snow="slides"),))
        plane = year_plane_of_array(
            made_up_year(40.0, 0.0, 0.0, 0.0), made_up_year(40.0, 0.0, 0.0, 0.0).moments, 40.0, 180.0
        )
        self.assertAlmostEqual(found.arrays[0].sun_hours, plane.sum() / 365_000)
        self.assertAlmostEqual(found.arrays[0].sun_hours_by_month[0], plane[:744].sum() / 31_000)
        days = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
        self.assertAlmostEqual(
            (np.array(found.arrays[0].sun_hours_by_month) * days).sum() / 365, found.arrays[0].sun_hours
        )

    def test_snow_that_lies_costs_its_days(self):
        lies, slides = (year_of(arrays=(array("p", 1000, snow=habit),)) for habit in ("lies", "slides"))
        self.assertGreater(lies.covered_days, 5)
        self.assertLess(lies.given_kwh, slides.given_kwh)
        self.assertEqual(lies.worst_day_wh, 0)

    def test_a_house_that_asks_nothing_spills_everything_after_the_bank_is_full(self):
        found = year_of()
        self.assertGreater(found.spilled_frac, 0.99)
        self.assertEqual(found.dark_h, 0)

    def test_a_house_that_asks_too_much_is_dark_and_spills_little(self):
        found = year_of(load("a", 400))
        self.assertGreater(found.dark_h, 3000)
        self.assertLess(found.spilled_frac, 0.35)
        self.assertEqual(found.worst_month, min(found.months, key=lambda month: month.given_wh).month)

    def test_every_month_s_dark_hours_add_up(self):
        found = year_of(load("a", 150))
        self.assertTrue(all(0 <= month.dark_h <= 24 for month in found.months))
        self.assertTrue(all(abs(month.drawn_wh - 3600) < 1e-6 for month in found.months))


class QuickSum(unittest.TestCase):
    def test_it_is_the_trade_s_own(self):
        # 40 W all day: 960 Wh; over the sun hours, with 30 % safety and lithium's charge efficiency.
        found = year_of(load("a", 40))
        row = {entry.key: entry for entry in found.sums}["quick_worst"]
        worst = found.months[found.worst_month - 1]
        self.assertAlmostEqual(row.array_w, 960 / worst.sun_hours * 1.3 / 0.97)

    def test_a_larger_safety_asks_for_more(self):
        plain, wary = (year_of(load("a", 40), charging={"quick_safety_frac": part}) for part in (0.0, 0.5))
        self.assertAlmostEqual(wary.sums[0].array_w / plain.sums[0].array_w, 1.5)

    def test_the_modelled_array_carries_the_darkest_month_on_the_mean(self):
        found = year_of(load("a", 40))
        watts = {entry.key: entry for entry in found.sums}["modelled_worst"].array_w
        again = year_of(load("a", 40), arrays=(array("p", round(watts, 3)),))
        worst = again.months[again.worst_month - 1]
        self.assertAlmostEqual(worst.given_wh, worst.drawn_wh, delta=0.01)

    def test_panels_of_loads_fed_straight_are_left_out_of_the_sums(self):
        alone = year_of(load("a", 40))
        values = simple(load("a", 40), arrays=(array("p", 1000),)).model_dump(mode="json")
        values["charging"]["controllers"].append(
            {"id": "d", "name": "d", "kind": "panel_fed", "output_a": 0.0, "arrays": [array("q", 700, tilt_deg=5.0)]}
        )
        beside = sun_year(read_design(values))
        self.assertEqual(beside.stc_w, 1000)
        for one, other in zip(alone.sums, beside.sums, strict=True):
            self.assertAlmostEqual(one.array_w, other.array_w)
        self.assertEqual(len(beside.arrays), 2)

    def test_a_dark_day_asks_for_more_than_the_month(self):
        found = {entry.key: entry.array_w for entry in year_of(load("a", 40)).sums}
        self.assertGreater(found["dark_day"], found["modelled_worst"])
        self.assertGreater(found["quick_worst"], found["quick_year"])

    def test_the_difference_is_explained_with_the_figures(self):
        self.assertRegex(sun_year(birchrow()).difference, r"add \d+ %.*leave [\d.]+ of [\d.]+ Wh.*30 %")

    def test_without_an_array_there_is_the_quick_sum_alone(self):
        found = sun_year(changed(birchrow(), charging={"controllers": []}))
        rows = {entry.key: entry.array_w for entry in found.sums}
        self.assertGreater(rows["quick_year"], 0)
        self.assertIsNone(rows["modelled_worst"])
        self.assertIn("Without an array", found.difference)
