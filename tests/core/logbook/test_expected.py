"""What a house's instruments can show: everything that they do in a simulated outage, and no slipped decimal."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import read_design
from hearthkeep.core.logbook import Quantity, can_show
from tests.support.designs import ROOT

DEMOS = sorted((ROOT / "examples").glob("*.json"))


class CanShow(unittest.TestCase):
    def ranges(self, file):
        design = read_design(file.read_bytes())
        return design, {each.quantity: (each.low, each.high) for each in can_show(design)}

    def test_usual_readings_of_the_demos_pass_and_slipped_decimals_do_not(self):
        self.assertEqual(len(DEMOS), 5)
        for file in DEMOS:
            with self.subTest(file.stem):
                design, ranges = self.ranges(file)
                low, high = ranges[Quantity.BANK_V]
                nominal_v = design.bank.nominal_v
                for volts_v in (0.9 * nominal_v, nominal_v, 1.12 * nominal_v):
                    self.assertTrue(low <= volts_v <= high, volts_v)
                for slipped_v in (nominal_v / 10, nominal_v * 10, nominal_v / 2, nominal_v * 2):
                    self.assertFalse(low <= slipped_v <= high, slipped_v)

    def test_all_that_the_bank_may_give_and_take_and_the_brightest_hour_pass(self):
        for file in DEMOS:
            with self.subTest(file.stem):
                design, ranges = self.ranges(file)
                rating = rate(design.bank)
                if Quantity.BANK_A in ranges:
                    low_a, high_a = ranges[Quantity.BANK_A]
                    self.assertLess(low_a, -rating.discharge_limit_a)
                    self.assertGreater(high_a, rating.charge_limit_a)
                if Quantity.SUN_W in ranges:
                    self.assertGreater(ranges[Quantity.SUN_W][1], max(assess(design).outage.series.sun_w))
                self.assertGreater(ranges[Quantity.INVERTER_W][1], design.inverter.surge_w)
