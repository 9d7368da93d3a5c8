"""Set points of the chargers: per chemistry, for the whole bank, corrected for temperature."""

import unittest

from hearthkeep.core.assess import assess
from tests.support.designs import simple


def points(**bank):
    stages = bank.pop("stages", {})
    return assess(simple(bank=bank, charging={"stages": stages})).charging.stages


class SetPoints(unittest.TestCase):
    def test_of_a_12_v_block_as_the_trade_has_them(self):
        """What data sheets of blocks absorb at, from and to. Common practice, no source; from memory."""
        lead = {"unit_v": 12.0, "depth_frac": 0.5}
        for chemistry, unit_v, absorb, floats in (
            ("lfp", 12.8, (13.8, 14.4), 13.5),
            ("agm", 12.0, (14.1, 14.8), 13.6),
            ("gel", 12.0, (14.0, 14.4), 13.7),
            ("flooded", 12.0, (14.4, 14.8), 13.5),
        ):
            with self.subTest(chemistry):
                found = points(**{**lead, "chemistry": chemistry, "unit_v": unit_v})
                self.assertAlmostEqual(found.usual_absorb_low_v, absorb[0])
                self.assertAlmostEqual(found.usual_absorb_high_v, absorb[1])
                self.assertAlmostEqual(found.float_v, floats)
                self.assertLessEqual(absorb[0], round(found.absorb_v, 6))

    def test_a_48_v_bank_is_four_of_them(self):
        self.assertAlmostEqual(points(chemistry="lfp", unit_v=51.2).absorb_v, 4 * 14.3)
        self.assertAlmostEqual(points(chemistry="gel", unit_v=12.0, series=4, depth_frac=0.5).absorb_v, 4 * 14.1)

    def test_only_flooded_cells_are_equalised(self):
        flooded = points(chemistry="flooded", unit_v=12.0, depth_frac=0.5)
        self.assertAlmostEqual(flooded.equalise_v, 15.5)
        self.assertEqual(flooded.equalise_every_days, 30)
        self.assertIsNone(points(chemistry="agm", unit_v=12.0, depth_frac=0.5).equalise_v)

    def test_lead_acid_is_corrected_for_the_cold_as_far_as_freezing_and_lithium_is_not(self):
        # 6 cells x 4 mV x 20 °C.
        cold = points(chemistry="gel", unit_v=12.0, depth_frac=0.5, temp_c=5.0)
        self.assertAlmostEqual(cold.absorb_at_temp_v, 14.1 + 0.48)
        self.assertAlmostEqual(cold.float_at_temp_v, 13.7 + 0.48)
        colder = points(chemistry="gel", unit_v=12.0, depth_frac=0.5, temp_c=-20.0)
        self.assertAlmostEqual(colder.absorb_at_temp_v, 14.1 + 0.6)
        lithium = points(chemistry="lfp", unit_v=12.8, temp_c=5.0)
        self.assertAlmostEqual(lithium.absorb_at_temp_v, lithium.absorb_v)

    def test_what_is_entered_stands(self):
        found = points(chemistry="lfp", unit_v=12.8, stages={"absorb_v": 14.0, "absorb_h": 1.0, "over_voltage_v": 15.0})
        self.assertEqual((found.absorb_v, found.absorb_h, found.over_voltage_v), (14.0, 1.0, 15.0))
