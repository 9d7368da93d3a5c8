"""The trade's own check values. Common practice, no source: recurring worked answers, through the public core functions."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.loads import daily_wh, read_line
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.yearly import quick_array_w
from tests.support.designs import array, load, simple


def wh(*lines: str) -> float:
    return sum(daily_wh(read_line(line).load) for line in lines)


class CommonPractice(unittest.TestCase):
    def test_a_label_of_three_hundred_kilowatt_hours_a_year(self):
        load = read_line("fridge 300kWh/year 120W").load
        self.assertEqual(round(daily_wh(load)), 822)
        # The rule says 821 Wh: 300,000 / 365 cut down, where 8.76 keeps the leap days out.
        self.assertEqual(int(daily_wh(load)), 821)
        self.assertEqual(round(load.running_w * load.duty_frac), 34)

    def test_lamp_and_fan_draw_six_amps_at_twelve_volts_with_room(self):
        found = assess(
            simple(load("lamp", 10, supply="dc"), load("fan", 35, supply="dc"), bank={"unit_v": 12.0, "unit_ah": 100.0})
        )
        # 45 W at 12 V; the panel bought for them, 72 W, gives 6 A.
        self.assertAlmostEqual(found.bank.daily_drawn_ah / 24, 3.75)

    def test_a_meter_s_six_amps_and_the_inverter_s_ten_watts(self):
        # The amp-hour school reads the battery side: what the inverter itself takes is in its six amps.
        self.assertEqual(read_line("house 6A 12V dc").load.running_w, 72)

    def test_lamp_and_fan_for_eight_hours(self):
        energy = wh("lamp 10W 0-8", "fan 35W 0-8")
        self.assertEqual(energy, 360)
        self.assertEqual(quick_array_w(energy, 5), 72)
        # 100 W are bought, and at 12 V a 10 A controller takes them.
        self.assertLess(100 / 12, 10)

    def test_array_of_the_amp_hour_ledger(self):
        # 206 Ah over 7 useful hours are 29.4 A; at 18 V a 12 V panel gives 530 W, with 30 % safety 689 W.
        self.assertAlmostEqual(206 / 7, 29.4, places=1)
        self.assertAlmostEqual(quick_array_w(206 * 18, 7), 530, delta=0.5)
        self.assertAlmostEqual(quick_array_w(206 * 18, 7, safety_frac=0.3), 689, delta=0.5)
        # A converting controller gives the 30 % back.
        self.assertAlmostEqual(quick_array_w(206 * 18, 7, safety_frac=0.3) / 1.3, 530, delta=0.5)

    def test_a_converting_controller_gives_up_to_thirty_percent_more(self):
        panels = array("p", 200, vmp_v=18.0)
        noon = {"start": "2026-01-15T11:00:00", "duration_h": 2.0, "days": [{"sky": "clear", "air_temp_c": -5.0}]}
        pwm, mppt = (
            assess(
                simple(
                    arrays=(panels,),
                    controller={"kind": kind, "efficiency_frac": None},
                    bank={"unit_v": 13.0},
                    outage=noon,
                )
            ).charging.offered_wh
            for kind in ("pwm", "mppt")
        )
        self.assertTrue(1.2 < mppt / pwm < 1.5, mppt / pwm)

    def test_overcast_yields_a_quarter_and_snow_nothing(self):
        of_sky = {
            sky: assess(simple(arrays=(array("p", 500, power_temp_coeff_per_c=0.0),), sky=(sky,))).charging.offered_wh
            for sky in ("clear", "overcast", "covered")
        }
        self.assertAlmostEqual(of_sky["overcast"] / of_sky["clear"], 0.25)
        self.assertEqual(of_sky["covered"], 0)

    def test_four_loads_and_half_depth_at_twelve_volts(self):
        rows = (
            load("lamps", 6, quantity=2, hours=[[0, 5]]),
            load("tv", 65, hours=[[0, 3]]),
            load("laptop", 80, hours=[[0, 4]]),
            load("router", 6),
        )
        found = assess(simple(*rows, bank={"unit_v": 12.0, "depth_frac": 0.5, "unit_ah": 120.0}))
        self.assertAlmostEqual(found.loads.daily_wh, 719)
        # 719 Wh / (12 V x 0.5) = 119.8 Ah, so 120 Ah carries just the day.
        self.assertAlmostEqual(found.loads.daily_wh / (12 * 0.5), 119.83, places=2)
        self.assertAlmostEqual(found.bank.autonomy_h, 24 * 720 / 719, places=6)

    def test_amp_hour_ledger(self):
        rows = ((1, 4), (13, 8), (3, 8), (100, 0.5), (1, 24))
        loads = [
            load(f"l{number}", amps * 10, supply="dc", duty_frac=hours / 24)
            for number, (amps, hours) in enumerate(rows)
        ]
        found = assess(simple(*loads, bank={"unit_ah": 1000.0}))
        self.assertAlmostEqual(found.bank.daily_drawn_ah, 206)

    def test_fall_of_a_known_bank_gives_the_average_draw(self):
        # 4.8 kWh falls 10 % in 30 h: 16 W on average, 12.5 days to empty.
        found = assess(simple(load("a", 16), bank={"unit_v": 48.0, "unit_ah": 100.0}, outage={"duration_h": 30.0}))
        self.assertAlmostEqual(found.outage.min_soc_frac, 0.9)
        self.assertAlmostEqual(found.bank.autonomy_h / 24, 12.5)

    def test_series_adds_volts_and_parallel_adds_amp_hours(self):
        six = assess(simple(bank={"unit_v": 12.0, "unit_ah": 55.0, "parallel": 6})).bank
        two = assess(simple(bank={"unit_v": 12.0, "unit_ah": 250.0, "series": 2})).bank
        self.assertEqual((six.nominal_v, six.rated_ah), (12, 330))
        self.assertEqual((two.nominal_v, two.rated_ah), (24, 250))

    def test_amps_of_the_ac_side_at_twelve_volts(self):
        # DC amps at 12 V are about ten times the 120 V AC amps.
        found = assess(simple(load("a", 1200), bank={"unit_v": 12.0}, inverter={"low_cutoff_v": 12.0}))
        self.assertAlmostEqual(found.inverter.peak_current_a / (1200 / 120), 10)

    def test_three_dark_days_of_an_amp_hour_ledger(self):
        # 206 Ah a day less the cooking, 50 Ah, over three dark days: 468 Ah; 936 Ah of lead-acid, 585 Ah of LFP at 80 %.
        rows = ((1, 4), (13, 8), (3, 8), (1, 24))
        loads = [
            load(f"l{number}", amps * 10, supply="dc", duty_frac=hours / 24)
            for number, (amps, hours) in enumerate(rows)
        ]
        need = {"autonomy_h": 72.0, "growth_frac": 0.0, "end_of_life_frac": 1.0, "lowest_tier": "keep"}
        for chemistry, depth, expected_ah in (("agm", 0.5, 936), ("lfp", 0.8, 585)):
            with self.subTest(chemistry):
                bank = {"chemistry": chemistry, "depth_frac": depth, "unit_ah": 1000.0, "need": need}
                found = assess(simple(*loads, bank=bank)).arrangement.need
                self.assertAlmostEqual(found.stored_wh / 10, 468)
                self.assertAlmostEqual(found.nominal_wh / 10, expected_ah)

    def test_one_hundred_thirteen_amps_buy_two_kilowatts(self):
        # 113 A at 12 V are 1,356 W; with the usual 20 % the next size up is 2,000 W.
        house_w = read_line("house 113A 12V dc").load.running_w
        self.assertEqual((house_w, next_size(house_w * 1.2, SIZES_W)), (1356, 2000))

    def test_two_inverters_of_eight_kilowatts_are_sixteen(self):
        unit = {"rated_w": 8000.0, "surge_w": 16_000.0, "units": 2}
        self.assertEqual(simple(inverter=unit).inverter.together.rated_w, 16_000)
        found = assess(
            simple(load("a", 14_000), inverter=unit, bank={"unit_ah": 2000.0, "unit_max_discharge_a": 5000.0})
        )
        self.assertNotIn("PEAK_OVER_RATING", [finding.code for finding in found.findings])

    def test_ten_kilowatt_hours_a_day_for_two_to_three_days(self):
        found = assess(simple(load("a", 10_000 / 24), bank={"unit_v": 50.0, "unit_ah": 500.0}))
        self.assertAlmostEqual(found.bank.autonomy_h / 24, 2.5)

    def test_a_forty_amp_controller_takes_two_panels_with_ease(self):
        panels = {"id": "p", "name": "p", "stc_w": 400.0, "tilt_deg": 30.0, "azimuth_deg": 180.0}
        found = assess(simple(arrays=(panels,), controller={"output_a": 40.0}, bank={"unit_v": 12.0}))
        self.assertEqual(found.charging.clipped_wh, 0)
        self.assertGreater(found.charging.offered_wh, 1000)
