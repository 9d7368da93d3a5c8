"""Wiring against published tables and formulas: each source stands beside its check; all values are from memory."""

import math
import unittest

from hearthkeep.core.bank import rate
from hearthkeep.core.design import DeviceKind, Practice
from hearthkeep.core.published import (
    conduit_areas_mm2,
    free_air_ampacities,
    iec_breaker_ratings,
    iec_fuse_ratings,
    iec_resistance_rows,
    insulated_areas_mm2,
    metric_copper_amps,
    nec_device_ratings,
    nec_resistance_rows,
)
from hearthkeep.core.sources import table_factor
from hearthkeep.core.wiring import wiring_plan
from hearthkeep.core.wiring.bank_side import precharge_of
from hearthkeep.core.wiring.conductors import (
    Lying,
    ambient_factor,
    ampacity_a,
    bundling_factor,
    conductor_of,
    drop_v,
    largest_device_a,
    next_size_device_a,
    resistance_at,
)
from hearthkeep.core.wiring.devices import interrupt_a, next_rating_a
from hearthkeep.core.wiring.grounding import grounding_size
from tests.core.made import home
from tests.core.made_wiring import everything
from tests.support.designs import moved

US, METRIC = Practice.NORTH_AMERICAN, Practice.METRIC_230


def lying(practice=US, **fields):
    usual = {"insulation_c": 90, "terminal_c": 75, "ambient_c": 30.0, "bundled": 1, "method": "B2"}
    return Lying(practice=practice, **{**usual, **fields})


class Copper(unittest.TestCase):
    def test_awg_diameters_by_the_formula_of_astm_b258(self):
        # d = 0.127 mm x 92^((36 - n) / 39); a stranded conductor has the same copper as the solid one it is named after.
        numbers = {"14": 14, "12": 12, "10": 10, "8": 8, "6": 6, "4": 4, "2": 2, "1/0": 0, "2/0": -1, "4/0": -3}
        published_mm = {"14": 1.628, "12": 2.053, "10": 2.588, "8": 3.264, "6": 4.115, "4": 5.189, "2": 6.544,
                        "1/0": 8.251, "2/0": 9.266, "4/0": 11.684}  # fmt: skip
        for size, number in numbers.items():
            with self.subTest(size):
                diameter_mm = 0.127 * 92 ** ((36 - number) / 39)
                self.assertAlmostEqual(diameter_mm, published_mm[size], delta=0.001)
                area_mm2 = math.pi / 4 * diameter_mm**2
                self.assertAlmostEqual(conductor_of(US, size).area_mm2 / area_mm2, 1.0, delta=0.003)

    def test_resistance_of_nec_chapter_9_table_8_follows_from_copper(self):
        # Copper of 58.0 MS/m at 20 °C, 2 % more way through the strands, at 75 °C by NEC's 0.00323 from there: within 2 %.
        for row in nec_resistance_rows():
            with self.subTest(row.size):
                at_20 = 1000.0 / 58.0 / row.area_mm2 * 1.02
                self.assertAlmostEqual(row.ohm_per_km / (at_20 / (1 + 0.00323 * (20 - 75))), 1.0, delta=0.02)

    def test_rows_of_chapter_9_table_8(self):
        known = {"14": 10.3, "10": 4.07, "6": 1.608, "2": 0.634, "2/0": 0.317, "500": 0.0845}
        for size, ohm_per_km in known.items():
            self.assertAlmostEqual(1000 * conductor_of(US, size).ohm_per_m, ohm_per_km, places=6)

    def test_iec_60228_at_temperature(self):
        # R(T) = R20 (1 + 0.00393 (T - 20)); class 5, 35 mm2: 0.554 Ω/km at 20 °C, 0.6629 at 70 °C. And 254.5 / (234.5 + T).
        self.assertAlmostEqual(resistance_at(0.554, 70.0), 0.66286, places=5)
        self.assertAlmostEqual(resistance_at(0.554, 70.0) / 0.554, (234.5 + 70.0) / 254.5, delta=0.0005)
        self.assertAlmostEqual(1000 * conductor_of(METRIC, "35").ohm_per_m, 0.66286, places=5)
        self.assertEqual(next(row.ohm_per_km for row in iec_resistance_rows() if row.size == "50"), 0.386)

    def test_a_published_kind_of_sum(self):
        # 2 L I R: 20 A over 30 m of 10 AWG there and back, 4.07 Ω/km: 4.884 V.
        self.assertAlmostEqual(drop_v(conductor_of(US, "10"), length_m=30.0, current_a=20.0), 4.884, places=6)


class Ampacity(unittest.TestCase):
    def test_rows_of_nec_310_16(self):
        for size, at_60, at_75, at_90 in (
            ("10", 30, 35, 40),
            ("3", 85, 100, 115),
            ("2/0", 145, 175, 195),
            ("500", 320, 380, 430),
        ):
            conductor = conductor_of(US, size)
            for terminal_c, amps in ((60, at_60), (75, at_75), (90, at_90)):
                self.assertEqual(ampacity_a(conductor, lying(terminal_c=terminal_c)), amps, (size, terminal_c))

    def test_rows_of_nec_310_17(self):
        """Single conductors in free air, NEC Table 310.17; terminals are read in Table 310.16 all the same."""
        rows = free_air_ampacities()
        for size, at_60, at_75, at_90 in (
            ("14", 25, 30, 35),
            ("10", 40, 50, 55),
            ("2", 140, 170, 190),
            ("2/0", 225, 265, 300),
            ("350", 420, 505, 570),
        ):
            self.assertEqual(rows[size], {60: at_60, 75: at_75, 90: at_90}, size)
        # 2/0 of 90 °C in free air and 50 °C: 300 x 0.82 = 246 A; its terminals of 75 °C bear 175, of 90 °C 195.
        hot = lying(method="free_air", ambient_c=50.0)
        self.assertEqual(ampacity_a(conductor_of(US, "2/0"), hot), 175.0)
        self.assertEqual(ampacity_a(conductor_of(US, "2/0"), lying(method="free_air", terminal_c=90)), 195.0)

    def test_rows_of_leads_in_vehicles_and_boats(self):
        """ABYC E-11, 105 °C, outside engine spaces, not bundled."""
        free = lying(method="vehicle", insulation_c=105)
        for size, amps in (("18", 20), ("16", 25), ("14", 35), ("10", 60), ("2", 210), ("2/0", 330), ("4/0", 445)):
            self.assertEqual(ampacity_a(conductor_of(US, size), free), amps, size)
        for together, factor in ((2, 1.0), (3, 0.7), (4, 0.6), (6, 0.6), (7, 0.5), (24, 0.5)):
            self.assertEqual(bundling_factor(US, together, "vehicle"), factor)
        # The makers' usual leads: 2,000 W at 12 V on 2/0, 250 to 300 A of fuse.
        self.assertGreaterEqual(next_size_device_a(conductor_of(US, "2/0"), free), 300.0)
        # The next rating above 60 A of 10 AWG is 60; above 35 A of 14 AWG 35; above 25 A of 16 AWG 25; 18 AWG 20.
        self.assertEqual(
            [next_size_device_a(conductor_of(US, size), free) for size in ("18", "16", "14", "10")], [20, 25, 35, 60]
        )
        # 6 AWG at 60 °C: 120 x sqrt(45 / 75) = 93.0 A, next 100.
        self.assertAlmostEqual(
            ampacity_a(conductor_of(US, "6"), lying(method="vehicle", ambient_c=60.0)), 92.95, places=2
        )
        self.assertEqual(next_size_device_a(conductor_of(US, "6"), lying(method="vehicle", ambient_c=60.0)), 100.0)

    def test_the_next_standard_size_of_240_4_b(self):
        at_60, at_75 = lying(terminal_c=60), lying()
        for size, ways, most_a in (("6", at_60, 60.0), ("6", at_75, 70.0), ("3", at_75, 100.0), ("2", at_75, 125.0), ("4/0", at_75, 250.0),
                                   ("14", at_75, 15.0), ("10", at_75, 30.0)):  # fmt: skip
            self.assertEqual(next_size_device_a(conductor_of(US, size), ways), most_a, size)
        # Above 800 A there is none, and none in metric practice: IEC 60364-4-43, 433.1.
        many = conductor_of(US, "500", 4)
        self.assertEqual(next_size_device_a(many, at_75), largest_device_a(many, at_75))
        for method in ("B2", "C", "E"):
            wire, ways = conductor_of(METRIC, "10"), lying(METRIC, insulation_c=70, method=method)
            self.assertEqual(next_size_device_a(wire, ways), ampacity_a(wire, ways))

    def test_buried_cable_is_corrected_for_the_ground(self):
        """IEC 60364-5-52, Table B.52.15: at 20 °C 1, at 30 °C 0.89 (PVC) and 0.93 (XLPE), between them on a line."""
        wire = conductor_of(METRIC, "16")
        for ambient_c, amps in (
            (20.0, 78.0),
            (10.0, 78 * 1.10),
            (30.0, 78 * 0.89),
            (25.0, 78 * 0.95),
            (40.0, 78 * 0.77),
        ):
            self.assertAlmostEqual(
                ampacity_a(wire, lying(METRIC, insulation_c=70, ambient_c=ambient_c, method="D1")), amps, places=6
            )
        for insulation_c in (70, 90):
            for ambient_c in (10, 15, 25, 30, 40, 50, 60):
                by_formula = math.sqrt((insulation_c - ambient_c) / (insulation_c - 20))
                found = ambient_factor(METRIC, insulation_c, float(ambient_c), "D1")
                self.assertAlmostEqual(found, by_formula, delta=0.012)

    def test_after_correction_by_hand(self):
        # 6 AWG, 90 °C, in 50 °C air, six conductors together: 75 x 0.82 x 0.80 = 49.2 A, less than its 75 °C terminals bear.
        self.assertAlmostEqual(ampacity_a(conductor_of(US, "6"), lying(ambient_c=50.0, bundled=6)), 49.2)
        # In 30 °C the insulation would carry 75 A; the terminals hold it to 65.
        self.assertEqual(ampacity_a(conductor_of(US, "6"), lying()), 65.0)

    def test_factors_of_310_15(self):
        # Table 310.15(B)(1)(1) by its own formula, sqrt((Tc - Ta) / (Tc - 30)), Ta the upper end of the row.
        for insulation_c in (60, 75, 90):
            for ambient_c in (15, 20, 25, 30, 35, 40, 45, 50, 55):
                by_formula = math.sqrt((insulation_c - ambient_c) / (insulation_c - 30))
                self.assertAlmostEqual(ambient_factor(US, insulation_c, float(ambient_c)), by_formula, delta=0.006)
        for together, factor in (
            (3, 1.0),
            (4, 0.8),
            (9, 0.7),
            (10, 0.5),
            (21, 0.45),
            (31, 0.4),
            (41, 0.35),
            (60, 0.35),
        ):
            self.assertEqual(bundling_factor(US, together), factor)

    def test_small_conductors_of_240_4_d(self):
        for size, most_a in (("14", 15), ("12", 20), ("10", 30)):
            self.assertEqual(largest_device_a(conductor_of(US, size), lying(terminal_c=90)), most_a)
        self.assertEqual(largest_device_a(conductor_of(US, "8"), lying()), 50.0)

    def test_rows_of_iec_60364_5_52(self):
        self.assertEqual(
            [metric_copper_amps(method)["16"] for method in ("A1", "B1", "B2", "C", "D1", "E")],
            [61, 76, 69, 85, 78, 94],
        )
        # 25 mm2 on a wall, 40 °C, three circuits bunched: 112 x 0.87 x 0.70 = 68.2 A.
        found = ampacity_a(
            conductor_of(METRIC, "25"), lying(METRIC, insulation_c=70, ambient_c=40.0, bundled=3, method="C")
        )
        self.assertAlmostEqual(found, 68.208, places=3)

    def test_table_b_52_14_follows_the_square_root_of_the_temperatures(self):
        for insulation_c in (70, 90):
            for ambient_c in (10, 20, 40, 50, 60):
                by_formula = math.sqrt((insulation_c - ambient_c) / (insulation_c - 30))
                self.assertAlmostEqual(ambient_factor(METRIC, insulation_c, float(ambient_c)), by_formula, delta=0.01)


class Devices(unittest.TestCase):
    def test_standard_sizes(self):
        # NEC 240.6(A); IEC 60269 and 60898-1: preferred numbers.
        self.assertEqual([a for a in nec_device_ratings() if 90 <= a <= 200], [90, 100, 110, 125, 150, 175, 200])
        self.assertEqual([a for a in iec_fuse_ratings() if 80 <= a <= 200], [80, 100, 125, 160, 200])
        self.assertEqual(iec_breaker_ratings()[-1], 125)
        self.assertEqual(next_rating_a(100.1, DeviceKind.CLASS_T, US), 110.0)
        self.assertEqual(next_rating_a(13.5, DeviceKind.AC_BREAKER, METRIC), 16.0)
        self.assertIsNone(next_rating_a(801.0, DeviceKind.CLASS_T, US))

    def test_what_they_break(self):
        # Common practice, no source: a post-mounted fuse breaks less the higher the volts.
        self.assertEqual(
            [interrupt_a(DeviceKind.POST, volts) for volts in (14.0, 28.0, 57.0, 60.0)], [10_000, 5_000, 2_000, None]
        )
        self.assertEqual(interrupt_a(DeviceKind.CLASS_T, 57.6), 20_000)

    def test_grounds_grow_with_conductors_that_grew_for_the_drop(self):
        """250.122(B): 20 A on 12 AWG has a ground of 12; on 6 AWG, 13.3 mm² for 3.31, of 3.31 x 4.02 = 13.3 mm²: 6 AWG."""
        by_heat, thick = conductor_of(US, "12"), conductor_of(US, "6")
        self.assertEqual(grounding_size(US, 20.0, by_heat, by_heat), "12")
        self.assertEqual(grounding_size(US, 20.0, thick, by_heat), "6")
        # 100 A on 3 AWG has 8; on 1/0, 53.49 for 26.67 mm², 8.367 x 2.006 = 16.8 mm²: 4 AWG.
        self.assertEqual(grounding_size(US, 100.0, conductor_of(US, "1/0"), conductor_of(US, "3")), "4")

    def test_grounding_conductors_of_250_122_and_of_iec_60364_5_54(self):
        for device_a, size in ((15, "14"), (20, "12"), (60, "10"), (61, "8"), (100, "8"), (200, "6"), (400, "3")):
            self.assertEqual(grounding_size(US, float(device_a), None), size)
        for area, size in (("10", "10"), ("16", "16"), ("25", "16"), ("35", "16"), ("70", "35"), ("120", "70")):
            self.assertEqual(grounding_size(METRIC, 63.0, conductor_of(METRIC, area)), size)

    def test_precharge_of_a_known_capacitor(self):
        # 10 mF at 56.8 V through 22 Ω: 16.1 J, 2.58 A at first, 4.605 x 22 x 0.01 = 1.01 s to 99 %. Textbook.
        design = moved(home(), {"wiring.inverter_capacitance_f": 0.01})
        found = precharge_of(design, rate(design.bank))
        self.assertAlmostEqual(found.energy_j, 0.5 * 0.01 * 56.8**2, places=6)
        self.assertAlmostEqual(found.seconds_s, 1.0131, places=4)
        left = math.exp(-found.seconds_s / (found.resistor_ohm * 0.01))
        self.assertAlmostEqual(left, 0.01, delta=0.0001)


class Solar(unittest.TestCase):
    def test_the_factor_of_690_8_and_the_cold_of_690_7(self):
        # 1.25 x 1.25 x Isc: 13.8 A of short circuit ask 21.5625 A; NEC 690.8. 690.7(A): 40 V x 10 panels at -18 °C, 472 V.
        design = moved(everything(), {"site.record_low_c": -18.0})
        runs = {run.run.key: run for run in wiring_plan(design, rate(design.bank)).runs}
        self.assertAlmostEqual(runs["array-west"].needed_a, 1.5625 * 13.8, places=9)
        self.assertAlmostEqual(40.0 * 10 * table_factor(-18.0), 472.0)
        # Its own coefficient stands before the table: 37.1 V x 5 x (1 + 0.0026 x 43).
        self.assertAlmostEqual(runs["array-west"].run.most_v, 37.1 * 5 * (1 + 0.0026 * 43), places=6)

    def test_string_fuses_from_three_strings_on(self):
        # NEC 690.9: three strings of 9.8 A: 15.3 A and the next fuse, 20 A, within the panel's own 20 A.
        runs = {run.run.key: run for run in wiring_plan(everything(), rate(everything().bank)).runs}
        self.assertEqual(
            (runs["string-south"].device.rating_a, runs["string-south"].device.kind), (20.0, DeviceKind.SOLAR_FUSE)
        )
        self.assertIsNone(runs["string-wall"].device)


class Conduit(unittest.TestCase):
    def test_fill_by_hand(self):
        # NEC Chapter 9: four 10 AWG THWN-2 of 0.0211 in2 in 1/2 in EMT of 0.304 in2: 27.8 %, of 40 % allowed.
        design = moved(home(), {"wiring": {"runs": [{"run": "grid", "conduit": "1/2", "size": "10 AWG"}]}})
        grid = wiring_plan(design, rate(design.bank)).find("grid")
        self.assertAlmostEqual(grid.fill_frac, 4 * 0.0211 / 0.304, places=9)
        self.assertEqual(grid.fill_limit_frac, 0.4)
        self.assertAlmostEqual(conduit_areas_mm2("pvc")["1"] / 645.16, 0.832, places=9)
        self.assertAlmostEqual(insulated_areas_mm2()["2/0"] / 645.16, 0.2223, places=9)
