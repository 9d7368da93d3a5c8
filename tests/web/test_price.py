"""A price in words: hours first, then fuel, then charge; never less than is worth telling."""

import unittest

from tests.support.web import called


def told(gain_h=0.0, fuel_l=0.0, lowest=0.0, practice="metric_230"):
    price = {"gain_h": gain_h, "fuel_gain_l": fuel_l, "lowest_soc_gain_frac": lowest}
    words = called("shared/price", "priceText", price, practice)
    return words["text"], words["weight"]


class PriceWords(unittest.TestCase):
    def test_hours_speak_before_all_else(self):
        self.assertEqual(told(gain_h=1.25, fuel_l=-3.0, lowest=-0.2), ("+1 h 15", "gain"))
        self.assertEqual(told(gain_h=-0.5, fuel_l=3.0, lowest=0.2), ("−0 h 30", "loss"))

    def test_fuel_speaks_where_the_hours_stay(self):
        self.assertEqual(told(fuel_l=1.5, lowest=-0.1), ("−1.5 L", "gain"))
        self.assertEqual(told(fuel_l=-3.785412, practice="north_american"), ("+1.0 gal", "loss"))
        self.assertEqual(told(gain_h=0.005, fuel_l=1.5), ("−1.5 L", "gain"))

    def test_charge_speaks_where_there_is_no_fuel_to_tell(self):
        self.assertEqual(told(fuel_l=0.04, lowest=0.12), ("+12 % low", "gain"))
        self.assertEqual(told(lowest=-0.12), ("−12 % low", "loss"))

    def test_nothing_is_told_as_nothing(self):
        self.assertEqual(told(lowest=0.004), ("±0 h", ""))
        self.assertEqual(called("shared/price", "priceText", None, "metric_230")["text"], "–")
