"""The audit's arithmetic: daily energy, tiers, links, peak and start."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.loads import DayKind, daily_wh, rows_from, sums_from, table_from
from tests.support.designs import load, simple

USUAL = DayKind(month=1)


def sums(*loads):
    design = simple(*loads)
    rows = rows_from(design.loads, (USUAL,))
    return sums_from(design.loads, rows, table_from(rows), USUAL)


class DailyEnergy(unittest.TestCase):
    def test_duty_quantity_hours_and_standby_outside_them(self):
        row = simple(load("tv", 80, quantity=2, duty_frac=0.5, hours=[[18, 22]], standby_w=3.0)).loads[0]
        self.assertAlmostEqual(daily_wh(row), 2 * (80 * 0.5 * 4 + 3 * 20))

    def test_table_agrees_with_the_rows_one_by_one(self):
        found = sums(
            load("a", 100, hours=[[3, 9]]), load("b", 40, duty_frac=0.3), load("c", 7, supply="dc", tier="ease")
        )
        self.assertAlmostEqual(found.daily_wh, sum(row.daily_wh for row in found.rows))
        self.assertAlmostEqual(found.daily_dc_wh, 7 * 24)
        self.assertEqual(found.daily_by_tier_wh["ease"], 7 * 24)

    def test_profile_has_a_value_for_each_hour(self):
        profile = sums(load("a", 100, hours=[[3, 9]])).profile_w["keep"]
        self.assertEqual(len(profile), 24)
        self.assertEqual(profile[2:5], (0.0, 100.0, 100.0))

    def test_an_empty_audit_comes_to_nothing(self):
        self.assertEqual(sums().daily_wh, 0)
        self.assertIsNone(sums().start_surge_load)


class Quality(unittest.TestCase):
    def test_energy_is_told_by_how_it_is_known_and_the_largest_doubt_is_measured_next(self):
        measured = {"kind": "typed", "quality": "measured"}
        found = sums(
            load("big", 200, known=measured),
            load("plate", 60, known={"kind": "nameplate", "volts_v": 120.0, "current_a": 0.5}),
            load("guess", 30),
        )
        self.assertEqual(found.daily_by_quality_wh, {"measured": 4800, "label": 0, "nameplate": 1440, "guess": 720})
        # 40 % of 1,440 is more than 60 % of 720; what is measured is not worth measuring again.
        self.assertEqual(found.measure_next, "plate")
        self.assertIsNone(sums(load("big", 200, known=measured)).measure_next)


class PeakAndStart(unittest.TestCase):
    def test_peak_ignores_duty_and_counts_standby(self):
        found = sums(load("pump", 600, duty_frac=0.05), load("tv", 80, hours=[[18, 22]], standby_w=2.0))
        self.assertEqual((found.peak_w, found.peak_hour), (680.0, 18))

    def test_start_counts_one_unit_on_top_of_all_else_that_runs(self):
        found = sums(load("pump", 600, quantity=2, start_w=1900.0), load("lamp", 50, hours=[[20, 21]]))
        self.assertEqual(found.start_surge_w, 1900 + 600 + 50)
        self.assertEqual((found.start_surge_load, found.start_surge_hour), ("pump", 20))

    def test_direct_current_loads_do_not_load_the_inverter(self):
        found = sums(load("fan", 35, supply="dc"), load("lamp", 10))
        self.assertEqual((found.peak_w, found.peak_dc_w), (10.0, 35.0))

    def test_worst_start_can_fall_in_another_hour_than_the_peak(self):
        found = sums(load("oven", 2000, hours=[[12, 13]]), load("pump", 300, start_w=3000.0, hours=[[3, 4]]))
        self.assertEqual((found.peak_hour, found.start_surge_hour), (12, 3))


class Links(unittest.TestCase):
    def test_linked_loads_live_in_the_highest_tier_among_them(self):
        found = sums(load("boiler", 150, tier="keep", link="heat"), load("pump", 90, tier="ease", link="heat"))
        self.assertEqual([row.lived_tier for row in found.rows], ["keep", "keep"])
        self.assertEqual(found.daily_by_tier_wh["keep"], 240 * 24)

    def test_without_the_higher_one_the_rest_falls_back(self):
        rows = rows_from(
            simple(load("a", 1, tier="life", link="x"), load("b", 2, tier="spare", link="x")).loads, (USUAL,)
        )
        table = table_from(rows, without=0)
        self.assertEqual(table.ac_w[0].tolist(), [0, 0, 0, 2])

    def test_the_price_of_a_linked_load_moves_its_partners(self):
        design = simple(
            load("boiler", 100, link="heat"), load("pump", 100, tier="ease", link="heat"), outage={"duration_h": 20.0}
        )
        # 1 kWh carries 200 W for 5 h. Without the pump the boiler runs 10 h. Without the boiler the pump is Ease,
        # which does not count, so the outage is carried to its end.
        price = assess(design).prices.without_load
        self.assertAlmostEqual(price["pump"].gain_h, 5.0)
        self.assertAlmostEqual(price["boiler"].gain_h, 15.0)
