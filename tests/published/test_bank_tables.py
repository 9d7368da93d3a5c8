"""Peukert's law and the cold factors of IEEE 485."""

import unittest

from hearthkeep.core.bank import capacity_factor, lead_acid_size_factor, peukert_hours
from hearthkeep.core.design import Chemistry


class Peukert(unittest.TestCase):
    """W. Peukert, 1897 (ETZ); common textbook form. High confidence in the arithmetic."""

    def test_textbook_examples(self):
        for exponent, current_a, expected_h in (
            (1.2, 10, 8.705505632961241),
            (1.05, 5, 20.0),
            (1.05, 10, 9.659363289248455),
            (1.05, 20, 4.665164957684037),
        ):
            with self.subTest(exponent=exponent, current_a=current_a):
                hours = peukert_hours(capacity_ah=100, rated_hours_h=20, exponent=exponent, current_a=current_a)
                self.assertAlmostEqual(hours, expected_h, places=9)


class Ieee485(unittest.TestCase):
    """IEEE Std 485, Table 1, vented lead-acid; values from memory (high confidence at 5 F steps)."""

    def test_table_points(self):
        for fahrenheit, factor in ((25, 1.52), (30, 1.43), (50, 1.19), (77, 1.0)):
            with self.subTest(fahrenheit):
                self.assertAlmostEqual(lead_acid_size_factor((fahrenheit - 32) / 1.8), factor, places=9)

    def test_worked_example(self):
        # Uncorrected 500 Ah at 50 F, design margin 1.10, ageing 1.25: 818.125 Ah.
        self.assertAlmostEqual(500 * lead_acid_size_factor(10.0) * 1.10 * 1.25, 818.125, places=6)

    def test_the_application_uses_its_inverse_and_counts_no_gain_from_heat(self):
        self.assertAlmostEqual(capacity_factor(Chemistry.AGM, 10.0), 1 / 1.19)
        self.assertEqual(capacity_factor(Chemistry.AGM, 40.0), 1.0)

    def test_colder_is_never_more(self):
        for chemistry in Chemistry:
            parts = [capacity_factor(chemistry, temp / 2) for temp in range(-80, 100)]
            self.assertEqual(parts, sorted(parts))
            self.assertGreater(parts[0], 0.3)
