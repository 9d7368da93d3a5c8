"""What must hold for any charging: more never gives less, sums agree with their parts, and the two ways of a sum agree."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import BankVolts, charged_frac, hours_to_full, rate
from hearthkeep.core.design import Controller, Generator, Wind
from hearthkeep.core.sources import controller_power, derate_frac, fuel_l_per_h, mean_turbine_w, table_factor
from tests.runner.profile import examples
from tests.support.designs import array, load, moved, simple

quick = examples(60)
few = examples(20)
PART = st.floats(0, 1).map(lambda value: round(value, 3))
WATTS = st.floats(5, 2000).map(lambda value: round(value, 1))
HOURS = st.floats(0, 60).map(lambda value: round(value, 2))
AMPS = st.floats(0, 200).map(lambda value: round(value, 2))
CHEMISTRY = st.sampled_from(["lfp", "agm", "gel", "flooded"])


def bank(chemistry, efficiency=None):
    """A bank of 1 kWh that takes 20 A, at the chemistry's own efficiency or another."""
    return rate(
        simple(
            bank={
                "chemistry": chemistry, "unit_max_charge_a": 20.0, "cutoff_soc_frac": 0.0,
                "charge_efficiency_frac": efficiency, "temp_c": 25.0,
            }
        ).bank
    )  # fmt: skip


class Filling(unittest.TestCase):
    @quick
    @given(CHEMISTRY, WATTS, PART, HOURS, HOURS)
    def test_an_hour_now_and_an_hour_later_are_two_hours(self, chemistry, charger_w, start, one_h, other_h):
        unit = bank(chemistry)
        between = charged_frac(unit, charger_w=charger_w, from_frac=start, hours_h=one_h)
        end = charged_frac(unit, charger_w=charger_w, from_frac=between, hours_h=other_h)
        whole = charged_frac(unit, charger_w=charger_w, from_frac=start, hours_h=one_h + other_h)
        self.assertAlmostEqual(end, whole, places=7)
        self.assertTrue(start - 1e-12 <= between <= end + 1e-9 <= 1 + 2e-9)

    @quick
    @given(CHEMISTRY, WATTS, WATTS, PART)
    def test_a_stronger_charger_is_never_slower(self, chemistry, one_w, other_w, start):
        unit, (weak, strong) = bank(chemistry), sorted((one_w, other_w))
        self.assertGreaterEqual(
            hours_to_full(unit, charger_w=weak, from_frac=start) + 1e-9,
            hours_to_full(unit, charger_w=strong, from_frac=start),
        )

    @quick
    @given(CHEMISTRY, WATTS, PART)
    def test_the_time_to_full_is_the_time_after_which_it_is_full(self, chemistry, charger_w, start):
        unit = bank(chemistry)
        needed_h = hours_to_full(unit, charger_w=charger_w, from_frac=start)
        self.assertAlmostEqual(
            charged_frac(unit, charger_w=charger_w, from_frac=start, hours_h=needed_h), 1.0, places=6
        )
        if needed_h > 0.1:
            before = charged_frac(unit, charger_w=charger_w, from_frac=start, hours_h=0.9 * needed_h)
            self.assertLess(before, 1.0)

    @few
    @given(CHEMISTRY, st.floats(50, 2000), st.floats(0.05, 0.95))
    def test_the_outage_model_fills_in_the_same_time(self, chemistry, charger_w, start):
        # An outage in which nothing runs: the grid's return fills the bank from where it began.
        found = assess(
            simple(
                bank={"chemistry": chemistry, "cutoff_soc_frac": 0.0, "start_soc_frac": start, "unit_max_charge_a": 20.0},
                charging={"grid_charger": {"output_w": charger_w}},
                outage={"duration_h": 1.0},
            )
        )  # fmt: skip
        unit = bank(chemistry, efficiency=1.0)
        needed_h = hours_to_full(unit, charger_w=charger_w, from_frac=start)
        told_h = found.outage.hours_back_to_full_h
        if needed_h > 72:
            self.assertIsNone(told_h)
        else:
            self.assertAlmostEqual(told_h, needed_h, delta=0.002 * needed_h + 0.002)


class Sources(unittest.TestCase):
    @few
    @given(WATTS, st.floats(50, 1500), st.floats(20, 600), st.floats(5, 80), st.booleans())
    def test_sources_together_never_carry_less_than_one_at_a_time(self, load_w, panels_w, bench_w, charge_a, lead):
        parts = {
            "bank": {
                "unit_ah": 300.0, "unit_max_charge_a": charge_a, "chemistry": "agm" if lead else "lfp", "cutoff_soc_frac": 0.1,
            },
            "charging": {"bench_charger": {"output_w": bench_w, "plugged_hours": [[8, 18]]}},
            "outage": {"duration_h": 72.0},
        }  # fmt: skip
        found = assess(simple(load("a", min(load_w, 400.0), tier="life"), arrays=(array("p", panels_w),), **parts))
        habits = found.charging.habits
        self.assertGreaterEqual(habits.together_h, habits.one_source_h - 1e-6)
        self.assertLessEqual(habits.together_spilled_wh, habits.one_source_spilled_wh + 1e-6)

    @few
    @given(st.lists(PART, min_size=24, max_size=24), st.integers(0, 23), st.sampled_from(["clear", "overcast"]))
    def test_more_shade_never_gives_more_sun(self, shade, hour, sky):
        shadier = [1.0 if at == hour else part for at, part in enumerate(shade)]
        bright, dim = (
            assess(simple(load("a", 10), arrays=(array("p", 500, shade_frac=parts),), sky=(sky,))).charging.offered_wh
            for parts in (shade, shadier)
        )
        self.assertLessEqual(dim, bright + 1e-9)

    @quick
    @given(st.floats(10, 5000), st.floats(0.5, 25), st.floats(0.5, 25))
    def test_a_turbine_gives_no_more_than_its_rating_and_more_in_more_wind(self, rated_w, one, other):
        weak, strong = sorted((one, other))
        # It never stops, so that storms do not take back what they give.
        unit = Wind(rated_w=rated_w, mean_m_s=5.0, cut_out_m_s=60.0, efficiency_frac=0.9)
        self.assertLessEqual(mean_turbine_w(unit, weak), mean_turbine_w(unit, strong) + 1e-6 * rated_w)
        self.assertLessEqual(mean_turbine_w(unit, strong), 0.9 * rated_w)

    @quick
    @given(st.lists(st.floats(10, 4000), min_size=1, max_size=4), AMPS, st.sampled_from(["mppt", "pwm"]))
    def test_a_controller_lets_through_no_more_than_it_may_and_loses_nothing_below_it(self, sizes, output_a, kind):
        arrays = [array(f"a{number}", size, vmp_v=30.0) for number, size in enumerate(sizes)]
        unit = Controller.model_validate({"id": "c", "name": "c", "kind": kind, "output_a": output_a, "arrays": arrays})
        sun = np.linspace(0, 1200, 25)
        power = controller_power(
            unit, poa_by_array=(sun,) * len(sizes), air_c=np.full(25, 10.0), volts=BankVolts(12.0, 14.4)
        )
        self.assertLessEqual(power.passed_w.max(), output_a * 14.4 + 1e-9)
        np.testing.assert_allclose(power.passed_w, np.minimum(power.offered_w, output_a * 14.4))
        self.assertTrue((np.diff(power.offered_w) >= -1e-9).all())
        self.assertTrue((power.clipped_w >= 0).all())

    @few
    @given(st.lists(st.floats(50, 3000), min_size=1, max_size=3), st.floats(10, 200), st.floats(0, 500))
    def test_the_parts_of_the_sums_add_up(self, sizes, output_a, bench_w):
        arrays = tuple(array(f"a{number}", size, azimuth_deg=90.0 * number) for number, size in enumerate(sizes))
        charging = {} if bench_w < 10 else {"bench_charger": {"output_w": bench_w}}
        design = simple(
            load("a", 50), arrays=arrays, controller={"output_a": output_a}, sky=("clear", "overcast"), charging=charging,
            outage={"duration_h": 40.0},
        )  # fmt: skip
        found = assess(design)
        sums, ledger = found.charging, found.outage.ledger_wh
        self.assertAlmostEqual(sum(sums.daily_wh), sums.offered_wh, places=6)
        self.assertAlmostEqual(sums.offered_wh, ledger.sun, places=6)
        self.assertAlmostEqual(
            sums.given_wh("alternator") + sums.given_wh("wind") + sums.given_wh("bench_charger"), ledger.other, places=6
        )
        self.assertAlmostEqual(sums.spilled_frac * (ledger.sun + ledger.other), ledger.spilled, places=5)
        self.assertLessEqual(sums.clipped_wh, ledger.spilled + 1e-6)
        self.assertEqual(sums.stc_w, sum(design.charging.controllers[0].arrays[at].stc_w for at in range(len(sizes))))


class Fuel(unittest.TestCase):
    @quick
    @given(st.sampled_from(["gasoline", "diesel", "propane"]), st.floats(500, 50_000), PART, PART)
    def test_more_load_burns_more_and_less_for_each_kilowatt_hour(self, fuel, rated_w, one, other):
        unit = Generator(rated_w=rated_w, fuel=fuel, stock_l=10.0, charger_w=100.0)
        low, high = sorted((one * rated_w, other * rated_w))
        self.assertLessEqual(fuel_l_per_h(unit, low), fuel_l_per_h(unit, high))
        if low > 1:
            self.assertGreaterEqual(fuel_l_per_h(unit, low) / low * (1 + 1e-9), fuel_l_per_h(unit, high) / high)

    @quick
    @given(st.floats(-430, 5000), st.floats(-430, 5000), st.floats(-60, 70), st.floats(-60, 70))
    def test_height_and_heat_only_ever_take(self, one_m, other_m, one_c, other_c):
        low, high = sorted((one_m, other_m))
        cool, warm = sorted((one_c, other_c))
        self.assertGreaterEqual(derate_frac(elevation_m=low, air_c=cool), derate_frac(elevation_m=high, air_c=warm))
        self.assertTrue(0 < derate_frac(elevation_m=high, air_c=warm) <= 1)

    @few
    @given(
        st.floats(0.2, 0.8),
        st.floats(200, 3000),
        st.floats(50, 900),
        HOURS.map(lambda hours: hours / 20),
        st.floats(0.3, 20),
    )
    def test_what_is_burnt_follows_from_hours_and_energy_and_never_passes_the_stock(
        self, start, rated_w, load_w, run_h, stock_l
    ):
        generator = {
            "rated_w": rated_w, "stock_l": stock_l, "tank_l": 10.0, "charger_w": 200.0, "start_soc_frac": round(start, 3),
            "stop_soc_frac": round(start + 0.2, 3), "min_run_h": run_h, "fuel_idle_l_per_h": 0.2, "fuel_l_per_kwh": 0.4,
        }  # fmt: skip
        found = assess(
            simple(load("a", load_w, tier="life"), charging={"generator": generator}, outage={"duration_h": 30.0})
        ).outage
        worked = 0.2 * found.generator_h + 0.4 * found.ledger_wh.generator / 1000
        self.assertAlmostEqual(found.fuel_l, worked, places=6)
        self.assertLessEqual(found.fuel_l, stock_l + 1e-9)
        self.assertLessEqual(found.ledger_wh.generator, rated_w * found.generator_h + 1e-6)


class Strings(unittest.TestCase):
    @quick
    @given(st.floats(-60, 60), st.floats(-60, 60))
    def test_the_cold_never_lowers_the_volts(self, one, other):
        cold, warm = sorted((one, other))
        self.assertGreaterEqual(table_factor(cold), table_factor(warm))

    @few
    @given(st.integers(1, 20), st.integers(1, 10), st.sampled_from([None, -0.0025, -0.004]))
    def test_volts_grow_with_the_panels_in_series_and_amps_with_the_strings(self, series, strings, coefficient):
        sheet = {
            "name": "m", "stc_w": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.5,
            "voc_temp_coeff_per_c": coefficient,
        }  # fmt: skip
        one = simple(arrays=(array("p", 400, module=sheet),), site={"record_low_c": -20.0})
        many = moved(one, {
            "charging.controllers.0.arrays.0.series": series, "charging.controllers.0.arrays.0.strings": strings,
        })  # fmt: skip
        alone, whole = (assess(design).charging.strings[0] for design in (one, many))
        self.assertAlmostEqual(whole.cold_voc_v, series * alone.cold_voc_v)
        self.assertAlmostEqual(whole.hot_vmp_v, series * alone.hot_vmp_v)
        self.assertAlmostEqual(whole.input_a, strings * alone.input_a)
        self.assertLess(alone.hot_vmp_v, sheet["vmp_v"])
        self.assertGreater(alone.cold_voc_v, sheet["voc_v"])
        self.assertEqual(whole.needs_fuses, strings > 2)
