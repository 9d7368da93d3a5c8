"""Strings at their extremes, worked by hand: which temperatures count, how volts fall with heat, and what the remedies say."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.charging import made_up_year, string_report
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
    return string_report(design, design.charging.controllers[0].arrays[0])


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

    def test_the_remedy_lifts_the_hot_string_above_bank_and_margin(self):
        # A 10 V bank charges at 11.3 V, and the controller wants 5 V more: 16.3 V. One panel of 12 V leaves 9.7 V.
        design = strung(vmp_v=12.0, voc_v=15.0)
        remedy = finding(design, "HOT_VMP_LOW").remedy
        self.assertEqual([(change.path, change.value) for change in remedy.changes], [(f"{FIRST}.series", 2)])

    def test_a_switching_controller_needs_a_volt(self):
        # 12.3 V are needed; 0.808 of 15.3 V are 12.36 V.
        pwm = strung(vmp_v=15.3, voc_v=20.0, controller={"kind": "pwm"})
        self.assertIsNone(finding(pwm, "HOT_VMP_LOW"))
        self.assertIsNotNone(finding(moved(pwm, {f"{FIRST}.module.vmp_v": 15.2}), "HOT_VMP_LOW"))
        self.assertIsNotNone(finding(moved(pwm, {"charging.controllers.0.kind": "mppt"}), "HOT_VMP_LOW"))


class Cold(unittest.TestCase):
    def test_the_record_counts_and_else_the_coldest_day_less_ten_degrees(self):
        self.assertEqual(report().cold_c, -15.0)
        days = [{"sky": "clear", "air_temp_c": 3.0}, {"sky": "clear", "air_temp_c": -4.0}]
        panels = array("p", 800, module=SHEET, series=2)
        self.assertEqual(report(simple(arrays=(panels,), outage={"days": days})).cold_c, -14.0)

    def test_under_a_weather_year_its_coldest_hour_less_five_degrees_counts_and_the_record_before_it(self):
        panels = array("p", 800, module=SHEET, series=2)
        year = made_up_year(44.0, -75.0, 100.0, -5.0)
        by_year = simple(arrays=(panels,), outage={"sky_from": "year"})
        found = assess(by_year, year).charging.strings[0]
        self.assertAlmostEqual(found.cold_c, float(year.air_c.min()) - 5)
        # 20 °C by hand would have left the limit unbroken.
        tight = moved(by_year, {"charging.controllers.0.max_input_v": 90.0})
        self.assertIn("COLD_VOC_OVER_LIMIT", [entry.code for entry in assess(tight, year).findings])
        by_hand = moved(tight, {"outage.sky_from": "by_hand"})
        self.assertNotIn("COLD_VOC_OVER_LIMIT", [entry.code for entry in assess(by_hand, year).findings])
        recorded = moved(by_year, {"site.record_low_c": -40.0})
        self.assertEqual(assess(recorded, year).charging.strings[0].cold_c, -40.0)

    def test_a_record_above_standard_conditions_takes_nothing_off(self):
        design = simple(arrays=(array("p", 400, module=SHEET),), site={"record_low_c": 26.0, "record_high_c": 40.0})
        self.assertEqual(report(design).cold_voc_v, 40.0)

    def test_the_remedy_is_the_longest_string_that_stays_below_the_limit(self):
        # Factor 1.06: 42.4 V a panel, so 150 V take three of five.
        found = finding(strung(series=5, controller={"max_input_v": 150.0}), "COLD_VOC_OVER_LIMIT")
        self.assertEqual(found.remedy.changes[0].value, 3)
        self.assertIn("212 V", found.message)
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
