"""Commissioning and keeping against the outside world: standards, a reference library of cells, and facts of the trade."""

import unittest

import numpy as np
from pvlib import pvsystem

from hearthkeep.core.building import CapacityRun, Drawdown, capacity_test, drawdown
from hearthkeep.core.building.cross import Shown, band_of
from hearthkeep.core.building.windows import VOC_PER_LOG_SUN
from tests.core.building.moments import gate_of, many_strings, noon
from tests.support.designs import birchrow, load, simple


class OpenVolts(unittest.TestCase):
    def test_strings_five_per_cent_off_are_looked_at(self):
        """IEC 62446-1 (2016, from memory): open-circuit volts of strings alike, in steady sun, are expected within 5 %."""
        _, gate = gate_of(many_strings(), "strings", noon(sun_w_m2=900.0))
        window = next(ask.window for ask in gate.asks if ask.key == "strings.south.1_v")
        for part, is_inside in ((0.92, False), (0.97, True), (1.0, True), (1.03, True), (1.09, False)):
            self.assertEqual(window.holds(part * window.expected), is_inside, part)

    def test_their_fall_with_weak_sun_is_that_of_the_five_parameter_cell(self):
        """De Soto's single-diode model as pvlib computes it, over silicon modules of the CEC list that ships with pvlib."""
        modules = pvsystem.retrieve_sam("CECMod").T
        silicon = modules[modules["Technology"].isin(["Mono-c-Si", "Multi-c-Si"])].iloc[::400]
        self.assertGreater(len(silicon), 20)
        for sun_w_m2 in (200.0, 400.0, 700.0):
            ratios = []
            for _, module in silicon.iterrows():
                keys = ("alpha_sc", "a_ref", "I_L_ref", "I_o_ref", "R_sh_ref", "R_s", "Adjust")
                values = [float(module[key]) for key in keys]
                volts = [
                    pvsystem.singlediode(*pvsystem.calcparams_cec(sun, 25.0, *values))["v_oc"]
                    for sun in (sun_w_m2, 1000.0)
                ]
                ratios.append(float(volts[0]) / float(volts[1]))
            ours = 1 + VOC_PER_LOG_SUN * np.log(sun_w_m2 / 1000.0)
            self.assertAlmostEqual(float(np.median(ratios)), ours, delta=0.012, msg=f"{sun_w_m2} W/m²")


class Capacity(unittest.TestCase):
    def test_below_eighty_per_cent_it_is_replaced(self):
        """IEEE 450 and 1188 (from memory): a battery is replaced when its capacity falls below 80 % of the rating."""
        for left, is_worn in ((0.79, True), (0.82, False)):
            found = capacity_test(birchrow(), CapacityRun(ah=left * 200.0, hours_h=10.0, temp_c=25.0))
            self.assertEqual("replacement" in found.sentence, is_worn)


class Trade(unittest.TestCase):
    """Common practice, no source."""

    def test_thirty_hours_that_use_a_tenth(self):
        design = simple(
            load("l", 16.0), bank={"unit_v": 12.0, "unit_ah": 400.0, "depth_frac": 1.0, "cutoff_soc_frac": 0.0}
        )
        found = drawdown(design, Drawdown(start_soc_frac=1.0, end_soc_frac=0.9, hours_h=30.0))
        self.assertAlmostEqual(found.mean_w, 16.0)
        self.assertEqual(int(found.days_from_full), 12)

    def test_displays_of_a_12_v_system_within_15_hundredths(self):
        self.assertAlmostEqual(band_of(Shown.VOLTS, 13.0, 12.0), 0.15)
