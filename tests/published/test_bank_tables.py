"""Peukert's law and the cold factors of IEEE 485."""

import unittest

from hearthkeep.core.bank import (
    air_flow_m3_per_h,
    capacity_factor,
    lead_acid_size_factor,
    opening_cm2,
    peukert_hours,
    rest_state,
    ventilation_of,
)
from hearthkeep.core.design import Chemistry
from tests.support.designs import simple


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


class Iec62485Ventilation(unittest.TestCase):
    """IEC 62485-2 clause 7.2, worked examples; values from memory (high confidence in formula and gas currents)."""

    CASES = ((5, 1.2, 33.6), (20, 4.8, 134.4), (1, 0.24, 6.72), (8, 1.92, 53.76))

    def test_forty_eight_volts_of_two_hundred_amp_hours(self):
        for gas, air, area in self.CASES:
            with self.subTest(gas):
                found = air_flow_m3_per_h(cells=24, gas_ma_per_ah=gas, capacity_ah=200)
                self.assertAlmostEqual(found, air)
                self.assertAlmostEqual(opening_cm2(found), area)

    def test_the_path_the_application_uses(self):
        bank = {"unit_v": 12.0, "series": 4, "unit_ah": 200.0, "cutoff_soc_frac": 0.2}
        wet = ventilation_of(simple(bank={**bank, "chemistry": "flooded"}).bank)
        sealed = ventilation_of(simple(bank={**bank, "chemistry": "agm"}).bank)
        self.assertEqual((wet.cells, wet.float_m3_per_h, wet.boost_m3_per_h), (24, 1.2, 4.8))
        self.assertAlmostEqual(sealed.boost_opening_cm2, 53.76)
        self.assertIsNone(ventilation_of(simple().bank))


class RestVoltage(unittest.TestCase):
    """Charge tables of the trade: common practice, no source; values from memory."""

    def test_a_flooded_block(self):
        bank = simple(bank={"chemistry": "flooded", "unit_v": 12.0, "cutoff_soc_frac": 0.2}).bank
        for volts, soc in ((12.73, 1.0), (12.50, 0.8), (12.10, 0.5), (11.66, 0.2)):
            self.assertAlmostEqual(rest_state(bank, volts).soc_frac, soc)

    def test_a_twelve_volt_lfp_block_is_flat_and_told_with_doubt(self):
        found = rest_state(simple(bank={"unit_v": 12.8}).bank, 13.1)
        self.assertGreaterEqual(found.doubt_frac, 0.15)
        self.assertTrue(0.5 < found.soc_frac < 0.7)
