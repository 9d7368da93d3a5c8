"""Strings at their extremes, worked by hand: which temperatures count, how volts fall with heat, and what the remedies say."""

import unittest

import numpy as np

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import ModuleSheet
from hearthkeep.core.sources import made_up_year, string_report
from hearthkeep.core.sources.heat import current_part
from tests.core.test_checks import strung
from tests.support.designs import array, changed, load, moved, simple

SHEET = {"name": "m", "stc_w": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.5}
FIRST = "charging.controllers.0.arrays.0"


def report(design=None, **fields):
    """The extremes of an array of two in series; fields are the array's, `module` its sheet's."""
    module = {**SHEET, **fields.pop("module", {})}
    if design is None:
        panels = array("p", 800, module=module, series=2, **fields)
        design = simple(arrays=(panels,), site={"record_low_c": -15.0, "record_high_c": 30.0})
    controller = design.charging.controllers[0]
    return string_report(design, controller, controller.arrays[0], volts=rate(design.bank).volts)


def finding(design, code):
    return next((entry for entry in assess(design).findings if entry.code == code), None)


class Heat(unittest.TestCase):
    def test_cells_are_35_degrees_above_the_records_air(self):
        self.assertEqual(report().hot_c, 65.0)

    def test_the_steeper_coefficient_takes_the_working_volts(self):
        # 40 degrees above standard conditions, two panels of 33 V.
        for power, of_open, taken in (
            (-0.0045, -0.003, 0.0045),
            (-0.0030, -0.005, 0.0050),
            # A sheet without one: 0.4 % a degree, or the array's own if that is steeper.
            (-0.0030, None, 0.0040),
            (-0.0060, None, 0.0060),
        ):
            with self.subTest(power=power, of_open=of_open):
                found = report(power_temp_coeff_per_c=power, module={"voc_temp_coeff_per_c": of_open})
                self.assertAlmostEqual(found.hot_vmp_v, 2 * 33 * (1 - 40 * taken))

    def test_a_hot_day_is_judged_by_what_it_costs(self):
        # Three lithium cells: 10.65 V while charged, and half a volt on the way. With cells at 73 °C panels of 14 V work at
        # 11.3 V and lose nothing, those of 12 V give about the same watts a little above their best volts, those of 11.4 V far
        # less, and those of 10.5 V hardly charge.
        said = {}
        for vmp_v, voc_v in ((14.0, 17.5), (12.0, 15.0), (11.4, 14.0), (10.5, 12.9)):
            design = strung(vmp_v=vmp_v, voc_v=voc_v)
            day = assess(design).charging.strings[0].hot_day
            told = finding(design, "HOT_VMP_LOW")
            said[vmp_v] = (day.lost_frac, None if told is None else told.severity.value)
            self.assertAlmostEqual(day.needed_v, 11.15)
        parts = [part for part, _ in said.values()]
        self.assertEqual(parts, sorted(parts))
        self.assertEqual([told for _, told in said.values()], [None, None, "mind", "mend"])

    def test_two_panels_for_twelve_volts_in_parallel_are_well_made(self):
        sheet = {"name": "36 cells", "stc_w": 100.0, "voc_v": 21.8, "vmp_v": 17.8, "isc_a": 6.1, "imp_a": 5.6}
        for chemistry, unit_v in (("lfp", 12.8), ("agm", 12.0), ("flooded", 12.0)):
            for kind in ("mppt", "pwm"):
                with self.subTest(chemistry=chemistry, kind=kind):
                    panels = array("p", 200, module=sheet, strings=2)
                    design = simple(load("a", 10), arrays=(panels,), controller={"kind": kind, "output_a": 20.0},
                                    bank={"chemistry": chemistry, "unit_v": unit_v})  # fmt: skip
                    self.assertIsNone(finding(design, "HOT_VMP_LOW"))
                    self.assertIsNone(finding(design, "STRING_CANNOT_START"))

    def test_the_remedy_lifts_the_hot_string_above_the_volts_needed(self):
        remedy = finding(strung(vmp_v=10.5, voc_v=12.9), "HOT_VMP_LOW").remedy
        self.assertEqual([(change.path, change.value) for change in remedy.changes], [(f"{FIRST}.series", 2)])

    def test_the_curve_goes_through_the_points_of_the_data_sheet(self):
        module = ModuleSheet.model_validate(SHEET)
        parts = current_part(np.array([0.0, module.vmp_v / module.voc_v, 1.0]), module)
        for found, expected in zip(parts, (1.0, module.imp_a / module.isc_a, 0.0), strict=True):
            self.assertAlmostEqual(float(found), expected, delta=2e-3)


class Cold(unittest.TestCase):
    def test_the_record_counts_and_else_the_place_or_the_outage_whichever_is_colder(self):
        self.assertEqual((report().cold_c, report().cold_from.value), (-15.0, "record"))
        panels = array("p", 800, module=SHEET, series=2)
        for air_c, cold_c in ((-2.0, -15.0), (-8.0, -18.0)):
            with self.subTest(air_c):
                # At 40° of latitude and sea level: 6 - 1.4 x 15 = -15 °C; the outage's coldest day less 10.
                days = [{"sky": "clear", "air_temp_c": 3.0}, {"sky": "clear", "air_temp_c": air_c}]
                found = report(simple(arrays=(panels,), outage={"days": days}))
                self.assertEqual((found.cold_c, found.cold_from.value), (cold_c, "estimate"))

    def test_a_plan_for_july_does_not_hide_january(self):
        # Nine panels of 52 V at 44° of latitude, guessed at -20.6 °C: 468 V x 1.20. July's days alone would leave them below the input's 500 V.
        module = {**SHEET, "voc_v": 52.0, "vmp_v": 43.0}
        panels = array("p", 3600, module=module, series=9)
        july = simple(arrays=(panels,), controller={"max_input_v": 500.0}, site={"latitude_deg": 44.0},
                      outage={"start": "2026-07-10T12:00:00"})  # fmt: skip
        told = finding(july, "COLD_VOC_OVER_LIMIT")
        self.assertEqual(told.severity.value, "stop")
        self.assertIn("562 V", told.message)
        self.assertIn("estimated from the place", told.message)
        self.assertIn("record low", finding(july, "COLD_IS_ESTIMATED").message)
        mild = moved(july, {"site.record_low_c": 12.0})
        self.assertIsNone(finding(mild, "COLD_VOC_OVER_LIMIT"))
        self.assertIsNone(finding(mild, "COLD_IS_ESTIMATED"))

    def test_a_stored_weather_year_s_coldest_hour_less_five_degrees_counts_and_the_record_before_it(self):
        panels = array("p", 800, module=SHEET, series=2)
        year = made_up_year(44.0, -75.0, 100.0, -5.0)
        by_year = simple(arrays=(panels,), outage={"sky_from": "year"})
        for design in (by_year, moved(by_year, {"outage.sky_from": "by_hand"})):
            found = assess(design, year).charging.strings[0]
            self.assertAlmostEqual(found.cold_c, float(year.air_c.min()) - 5)
            self.assertEqual(found.cold_from.value, "weather_year")
        # The invented year that stands in where none is stored tells nothing of the place.
        self.assertEqual(assess(by_year).charging.strings[0].cold_from.value, "estimate")
        tight = moved(by_year, {"charging.controllers.0.max_input_v": 90.0})
        self.assertIn("COLD_VOC_OVER_LIMIT", [entry.code for entry in assess(tight, year).findings])
        recorded = moved(by_year, {"site.record_low_c": -40.0})
        self.assertEqual(assess(recorded, year).charging.strings[0].cold_c, -40.0)

    def test_a_record_above_standard_conditions_takes_nothing_off(self):
        design = simple(arrays=(array("p", 400, module=SHEET),), site={"record_low_c": 26.0, "record_high_c": 40.0})
        self.assertEqual(report(design).cold_voc_v, 40.0)

    def test_the_remedy_is_the_longest_string_that_stays_below_the_limit(self):
        # At the estimated -15 °C the factor is 1.16: 46.4 V a panel, so 150 V take three of five.
        found = finding(strung(series=5, controller={"max_input_v": 150.0}), "COLD_VOC_OVER_LIMIT")
        self.assertEqual(found.remedy.changes[0].value, 3)
        self.assertIn("232 V", found.message)
        alone = finding(strung(series=2, controller={"max_input_v": 42.0}), "COLD_VOC_OVER_LIMIT")
        self.assertIsNone(alone.remedy)

    def test_the_working_multiplies_up_to_the_volts(self):
        figure = finding(strung(series=5, controller={"max_input_v": 150.0}), "COLD_VOC_OVER_LIMIT").figure
        worked = 1.0
        for term in figure.terms:
            worked *= term.value
        self.assertAlmostEqual(worked, figure.value)

    def test_600_volts_hold_for_american_homes_alone(self):
        long = strung(series=15)
        for practice, kind, told in (
            ("north_american", "home", True),
            ("north_american", "portable", False),
            ("metric_230", "home", False),
        ):
            with self.subTest(practice=practice, kind=kind):
                found = finding(changed(long, practice=practice, kind=kind), "OVER_DWELLING_VOLTAGE")
                self.assertEqual(found is not None, told)


class Amps(unittest.TestCase):
    def test_all_strings_of_all_arrays_meet_at_the_input(self):
        # 1.25 x 12 A x (2 + 1) strings.
        arrays = (array("p", 800, module=SHEET, strings=2), array("q", 400, module=SHEET))
        tight = simple(load("a", 10), arrays=arrays, controller={"max_input_a": 44.9})
        self.assertIn("45.0 A", finding(tight, "INPUT_CURRENT").message)
        self.assertIsNone(finding(moved(tight, {"charging.controllers.0.max_input_a": 45.0}), "INPUT_CURRENT"))

    def test_the_others_feed_the_one_that_fails(self):
        # Three strings of 12 A with a quarter more for strong sun: two of them drive 30 A.
        self.assertIn("30 A through one that fails", finding(strung(strings=3), "STRING_FUSES").message)

    def test_beyond_the_usual_fuses_none_is_named(self):
        # 1.5625 x 20 A = 31.25 A, and 30 A is the largest.
        found = finding(strung(strings=3, isc_a=20.0), "STRING_FUSE_TOO_LARGE")
        self.assertIn("beyond usual fuses", found.message)

    def test_the_smallest_fuse_above_156_percent(self):
        for isc_a, fuse_a in ((6.4, 10.0), (6.5, 12.0), (9.6, 15.0), (19.2, 30.0)):
            with self.subTest(isc_a):
                panels = array("p", 1200, module={**SHEET, "isc_a": isc_a, "imp_a": 6.0}, strings=3)
                self.assertEqual(report(simple(arrays=(panels,))).fuse_a, fuse_a)


class Unlike(unittest.TestCase):
    def test_only_arrays_on_one_converting_input_pull_each_other_down(self):
        two = simple(load("a", 10), arrays=(array("p", 100, vmp_v=18.0), array("q", 100, vmp_v=36.0)))
        self.assertIsNotNone(finding(two, "UNLIKE_PANELS"))
        self.assertIsNone(finding(moved(two, {"charging.controllers.0.kind": "pwm"}), "UNLIKE_PANELS"))
        self.assertIsNone(finding(moved(two, {f"{FIRST}.stc_w": 0.0}), "UNLIKE_PANELS"))
