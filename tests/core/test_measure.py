"""Readings: what each comes to, by hand and against the published table."""

import unittest

from hypothesis import given

from hearthkeep.core.design import Load, Quality
from hearthkeep.core.loads import quality_of, read_of, rests_on_reading, with_readings
from hearthkeep.core.loads.known_text import known_from, known_text, start_from, start_text
from hearthkeep.core.loads.measure import UNCERTAINTY_FRAC
from tests.runner.profile import examples
from tests.strategies import audited_loads
from tests.support.designs import load


def read(known=None, start=None, **fields) -> Load:
    base = {"id": "a", "name": "a", "tier": "keep", "running_w": 100.0, **fields}
    return with_readings(Load.model_validate({**base, "known": known, "start_known": start}))


class Watts(unittest.TestCase):
    def test_nameplate_is_volts_amps_and_power_factor(self):
        load = read({"kind": "nameplate", "volts_v": 115.0, "current_a": 0.5, "power_factor": 0.8})
        self.assertEqual((load.running_w, quality_of(load)), (46.0, Quality.NAMEPLATE))

    def test_a_spot_reading_is_rounded_up_to_the_step_and_one_on_the_step_stays(self):
        for reading_w, step_w, expected in (
            (117.0, 5.0, 120.0),
            (120.0, 5.0, 120.0),
            (0.3, 0.1, 0.3),
            (33.2, 0.0, 33.2),
        ):
            with self.subTest(reading_w):
                load = read({"kind": "spot", "reading_w": reading_w, "step_w": step_w})
                self.assertAlmostEqual(load.running_w, expected)

    def test_a_meter_left_in_gives_the_duty(self):
        load = read({"kind": "meter", "energy_kwh": 2.07, "over_h": 48.0, "running_w": 120.0})
        self.assertEqual((load.running_w, load.duty_frac), (120.0, 0.359375))

    def test_a_label_counts_all_hours_of_the_year(self):
        load = read({"kind": "label", "energy_kwh_per_year": 300.0, "running_w": 120.0}, hours=[[8, 20]])
        # Common practice, no source: 300 kWh a year are 34 W on average.
        self.assertAlmostEqual(load.running_w * load.duty_frac, 34.25, places=2)
        self.assertEqual(load.hours, ((0, 24),))

    def test_an_average_above_the_running_watts_lifts_them(self):
        load = read({"kind": "meter", "energy_kwh": 1.2, "over_h": 10.0, "running_w": 100.0})
        self.assertEqual((load.running_w, load.duty_frac), (120.0, 1.0))

    def test_amps_on_the_battery_side(self):
        # 72 W leave the battery. On DC that is the load; what an inverter or a converter loses on the way is not the load's.
        amps = {"kind": "dc_amps", "current_a": 6.0, "at_v": 12.0}
        for supply, more, running_w in (
            ("dc", {}, 72.0),
            ("ac", {}, 72.0 * 0.85),
            ("ac", {"through_efficiency_frac": 0.9}, 72.0 * 0.9),
            ("dc_converted", {}, 72.0 * 0.9),
        ):
            with self.subTest(supply=supply, more=more):
                row = Load.model_validate(load("a", 1, supply=supply, known={**amps, **more}))
                self.assertAlmostEqual(with_readings(row).running_w, running_w)
                self.assertAlmostEqual(read_of(row).figure.value, running_w)

    def test_the_chosen_speed_counts(self):
        settings = [{"name": "low", "power_w": 20.0}, {"name": "high", "power_w": 55.0}]
        load = read({"kind": "speeds", "settings": settings, "chosen": "low"})
        self.assertEqual(load.running_w, 20.0)

    def test_doubt_grows_as_the_reading_gets_poorer(self):
        doubts = [UNCERTAINTY_FRAC[quality] for quality in Quality]
        self.assertEqual(doubts, sorted(doubts))

    def test_figures_typed_over_a_reading_no_longer_rest_on_it(self):
        load = read({"kind": "nameplate", "volts_v": 120.0, "current_a": 1.0, "power_factor": 1.0})
        self.assertTrue(rests_on_reading(load))
        self.assertFalse(rests_on_reading(load.model_copy(update={"running_w": 90.0})))


class Starts(unittest.TestCase):
    def test_a_multiple_follows_the_running_watts(self):
        self.assertEqual(read(start={"kind": "multiple", "multiple": 3.0}).start_w, 300.0)

    def test_a_code_letter_takes_the_upper_end_and_the_open_letter_its_lower(self):
        # NEC Table 430.7(B) (from memory): K is 8.0 to 8.99 kVA/hp; V is 22.4 and up.
        self.assertEqual(read(start={"kind": "code", "code_letter": "K", "horsepower_hp": 0.5}).start_w, 4495.0)
        self.assertEqual(read(start={"kind": "code", "code_letter": "V", "horsepower_hp": 1.0}).start_w, 22_400.0)


class Text(unittest.TestCase):
    @examples(150)
    @given(audited_loads())
    def test_a_reading_written_in_a_line_is_read_back_identical(self, load):
        self.assertEqual(known_from(known_text(load.known)), load.known)
        self.assertEqual(start_from(start_text(load.start_known)), load.start_known)

    def test_what_is_not_a_reading_says_what_is_expected(self):
        with self.assertRaisesRegex(ValueError, "or a reading such as nameplate 120 V"):
            known_from("roughly 5")
        with self.assertRaisesRegex(ValueError, "0.1 to 1"):
            known_from("nameplate 120 V 5 A pf 3")
        with self.assertRaisesRegex(ValueError, "chosen setting marked with"):
            known_from("speeds low=5, high=9 measured")
        with self.assertRaisesRegex(ValueError, "code K 0.5 hp"):
            start_from("plenty")
