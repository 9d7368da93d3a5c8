"""Strings and generators against the outside world."""

import unittest

import numpy as np

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Generator
from hearthkeep.core.design import Wind as WindUnit
from hearthkeep.core.sources import fuel_l_per_h, mean_turbine_w, rayleigh_density, string_report, table_factor
from tests.support.designs import array, simple

MODULE = {"name": "m", "stc_w": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.5}


def report(series=10, strings=1, low=-18.0, **module):
    design = simple(
        arrays=(array("p", 400, module={**MODULE, **module}, series=series, strings=strings),),
        site={"record_low_c": low, "record_high_c": 35.0},
    )
    controller = design.charging.controllers[0]
    return string_report(design, controller, controller.arrays[0], volts=rate(design.bank).volts)


class ColdVoltage(unittest.TestCase):
    """NEC Table 690.7(A), 2017 to 2023; values from memory (high confidence)."""

    def test_rows(self):
        for temp_c, factor in ((24, 1.02), (15, 1.04), (0, 1.10), (-1, 1.12), (-18, 1.18), (-25, 1.20), (-40, 1.25)):
            with self.subTest(temp_c):
                self.assertEqual(table_factor(float(temp_c)), factor)

    def test_worked_example(self):
        # 10 modules of 40 V at -18 °C: 472 V.
        self.assertAlmostEqual(report().cold_voc_v, 472.0)

    def test_a_coefficient_comes_before_the_table(self):
        found = report(voc_temp_coeff_per_c=-0.003)
        self.assertAlmostEqual(found.cold_voc_v, 400 * (1 + 0.003 * 43))
        self.assertFalse(found.by_table)

    def test_colder_is_never_less(self):
        factors = [table_factor(temp / 2) for temp in range(60, -120, -1)]
        self.assertEqual(factors, sorted(factors))


class Currents(unittest.TestCase):
    """NEC 690.8 and 690.9 in our own words, from memory: 125 % of short circuit, 156 % for conductor and device."""

    def test_arithmetic(self):
        found = report(strings=3)
        self.assertAlmostEqual(found.input_a, 45.0)
        self.assertAlmostEqual(found.conductor_a, 56.25)
        # One string: 1.5625 x 12 A = 18.75 A, so 20 A.
        self.assertEqual((found.needs_fuses, found.fuse_a), (True, 20.0))

    def test_one_or_two_strings_need_none(self):
        self.assertEqual([report(strings=n).needs_fuses for n in (1, 2, 3)], [False, False, True])


class Fuel(unittest.TestCase):
    """F = 0.246 P + 0.08415 P_rated [L/h], Skarstein & Uhlen, Wind Engineering 13(2), 1989 (from memory, medium-high)."""

    def test_the_published_law(self):
        unit = Generator(rated_w=30_000.0, fuel="diesel", stock_l=100.0, charger_w=3000.0)
        for load_w in (0, 7_500, 15_000, 30_000):
            self.assertAlmostEqual(fuel_l_per_h(unit, load_w), 0.246 * load_w / 1000 + 0.08415 * 30)

    def test_portables_against_the_public_charts(self):
        # Common practice, +-25 %, and not straight lines themselves: gasoline 5 kW, propane 6 kW, at quarter, half, three quarters and full load [L/h].
        for fuel, rated_w, chart in (
            ("gasoline", 5000.0, (1.32, 1.89, 2.46, 3.03)),
            ("propane", 6000.0, (2.27, 3.03, 4.16, 5.30)),
        ):
            unit = Generator(rated_w=rated_w, fuel=fuel, stock_l=20.0, charger_w=1000.0)
            for quarter, litres in enumerate(chart, start=1):
                with self.subTest(fuel=fuel, quarter=quarter):
                    self.assertAlmostEqual(fuel_l_per_h(unit, rated_w * quarter / 4), litres, delta=0.15 * litres)


class Wind(unittest.TestCase):
    """Rayleigh winds, as IEC 61400-12-1 takes them for the energy of a year (from memory)."""

    def test_more_than_twice_the_mean_blows_four_percent_of_the_time(self):
        # 1 - F(2 m) = exp(-pi), textbook.
        speeds = (np.arange(20_000) + 0.5) / 1000 + 10.0
        self.assertAlmostEqual(float(rayleigh_density(speeds, 5.0).sum() / 1000), np.exp(-np.pi), places=5)

    def test_the_cube_of_the_wind_is_nearly_twice_that_of_the_mean(self):
        # Energy pattern factor 6 / pi = 1.91, textbook.
        speeds = (np.arange(60_000) + 0.5) / 1000
        cube = float((rayleigh_density(speeds, 5.0) * speeds**3).sum() / 1000)
        self.assertAlmostEqual(cube / 125, 1.91, places=2)

    def test_a_small_turbine_in_a_gentle_wind_earns_a_tenth_of_its_rating(self):
        # Common practice, no source: 5 to 15 % at 3.5 to 4.5 m/s.
        unit = WindUnit(rated_w=400.0, mean_m_s=4.0, efficiency_frac=1.0)
        self.assertTrue(0.05 < mean_turbine_w(unit, 4.0) / 400 < 0.15)
