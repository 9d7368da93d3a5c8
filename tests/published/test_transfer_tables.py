"""Transfer against published rules: load-side connection, small conductors, shared neutrals, the voltage-tolerance curve."""

import unittest

from hearthkeep.core.checks.transfer_ratings import bus_rule
from hearthkeep.core.design import ArrangementKind
from hearthkeep.core.transfer import ampacity_a, neutral_current_a
from hearthkeep.core.transfer.rides import USUAL_GAP_S, usual_rides_s
from tests.core.made_transfers import house, metric_flat
from tests.support.designs import load, simple


class LoadSide(unittest.TestCase):
    """NEC 705.12 (2023, values from memory): 125 % of the supply's current plus the main, at most 120 % of the bus."""

    def test_most_supply_current(self):
        for bus_a, main_a, most_a in ((200, 200, 32.0), (225, 200, 56.0), (200, 175, 52.0)):
            with self.subTest(bus=bus_a, main=main_a):
                rule = bus_rule(source_a=most_a, main_a=main_a, bus_a=bus_a, at_far_end=True)
                self.assertEqual(rule.most_a, most_a)
                self.assertTrue(rule.holds)
                more = bus_rule(source_a=most_a + 0.1, main_a=main_a, bus_a=bus_a, at_far_end=True)
                self.assertFalse(more.holds)

    def test_anywhere_else_on_the_bus_the_plain_sum(self):
        rule = bus_rule(source_a=20, main_a=175, bus_a=200, at_far_end=False)
        self.assertEqual((rule.sum_a, rule.allowed_a, rule.most_a, rule.holds), (200.0, 200.0, 20.0, True))


class Conductors(unittest.TestCase):
    """NEC Table 310.16, 60 °C column, and 240.4(D) (2023, values from memory)."""

    def test_small_and_larger_copper(self):
        design = house("inlet")
        for wire, amps in (("14", 15), ("12", 20), ("10", 30), ("8", 40), ("6", 55), ("1/0", 125)):
            with self.subTest(wire):
                self.assertEqual(ampacity_a(f"{wire} AWG", design), amps)
        # Between 16 and 14 AWG it counts as the thinner, of which 240.4(D) allows 10 A; 0.75 mm² is thinner than any.
        self.assertEqual(ampacity_a("1.5 mm²", design), 10)
        self.assertIsNone(ampacity_a("0.75 mm²", design))


class MetricConductors(unittest.TestCase):
    """IEC 60364-5-52, Table B.52.2, copper, PVC, two loaded conductors, method B2 (2009, values from memory)."""

    def test_sizes_of_branch_circuits(self):
        for wire, amps in (("1.5", 16.5), ("2.5", 23), ("4", 30), ("6", 38), ("10", 52), ("16", 69)):
            with self.subTest(wire):
                self.assertEqual(ampacity_a(f"{wire} mm²", metric_flat()), amps)
        self.assertIsNone(ampacity_a("12 mm²", metric_flat()))


class SharedNeutral(unittest.TestCase):
    """Kirchhoff's current law, worked by hand: a multiwire circuit with 12 A and 9 A on its halves."""

    def test_difference_across_the_legs_and_sum_on_one_line(self):
        self.assertEqual(neutral_current_a(12.0, 9.0, adds_up=False), 3.0)
        self.assertEqual(neutral_current_a(12.0, 9.0, adds_up=True), 21.0)
        self.assertEqual(neutral_current_a(15.0, 15.0, adds_up=False), 0.0)


class Tolerance(unittest.TestCase):
    """ITI (CBEMA) curve, Information Technology Industry Council, 2000: 20 ms without voltage; the rest common practice."""

    def test_a_computer_rides_through_a_relay_and_not_a_hand(self):
        (computer,) = simple(load("desktop computer", 120.0)).loads
        self.assertEqual(usual_rides_s(computer), 0.02)
        self.assertLessEqual(USUAL_GAP_S[ArrangementKind.CRITICAL_PANEL], 0.02)
        self.assertGreaterEqual(USUAL_GAP_S[ArrangementKind.MANUAL_SWITCH], 60)

    def test_typical_values(self):
        for name, seconds in (("Router and fibre box", 0.01), ("CPAP, heated hose off", 0.0), ("Boiler and blower", 0.02),
                              ("Fridge", 0.0), ("Laptop", 3600.0)):  # fmt: skip
            with self.subTest(name):
                (row,) = simple({**load("a", 50.0), "name": name}).loads
                self.assertEqual(usual_rides_s(row), seconds)


if __name__ == "__main__":
    unittest.main()
