"""The small sources, the grid before a storm, and both habits of charging: each rule in a case worked by hand."""

import unittest
from typing import ClassVar

import numpy as np

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import charged_frac, hours_to_full, rate
from hearthkeep.core.design import Wind
from hearthkeep.core.sources import mean_turbine_w, rayleigh_density, turbine_w
from tests.support.designs import array, load, simple

AWAY = [{"sky": "clear", "air_temp_c": 5.0, "away": True}]
GENERATOR = {
    "rated_w": 1000.0, "stock_l": 50.0, "charger_w": 200.0, "charger_efficiency_frac": 0.8, "fuel_idle_l_per_h": 0.0,
    "fuel_l_per_kwh": 1.0, "start_soc_frac": 0.5, "stop_soc_frac": 0.7, "min_run_h": 0.0,
}  # fmt: skip


def lived(*loads, **parts):
    return assess(simple(*loads, **parts))


class SmallSources(unittest.TestCase):
    def test_an_alternator_charges_while_it_is_driven(self):
        # 20 A for two hours into a bank of three lithium cells, which stands at 10.65 V while it is charged.
        driven = {"alternator": {"current_a": 20.0, "driven_hours": [[8, 9], [17, 18]]}}
        found = lived(load("a", 10), charging=driven, bank={"start_soc_frac": 0.3})
        self.assertAlmostEqual(found.outage.ledger_wh.other, 426)
        self.assertAlmostEqual(found.charging.given_wh("alternator"), 426)
        self.assertAlmostEqual(found.outage.end_soc_frac, 0.3 + 0.426 - 0.24)

    def test_with_nobody_there_nothing_is_driven_or_plugged_in_but_the_wind_blows(self):
        sources = {
            "alternator": {"current_a": 20.0},
            "bench_charger": {"output_w": 100.0},
            "wind": {"rated_w": 100.0, "mean_m_s": 5.0},
        }
        found = lived(load("a", 10), charging=sources, outage={"days": AWAY}).charging
        self.assertEqual((found.given_wh("alternator"), found.given_wh("bench_charger")), (0.0, 0.0))
        self.assertGreater(found.given_wh("wind"), 100)

    def test_a_bench_charger_gives_while_it_is_plugged_in(self):
        found = lived(load("a", 10), charging={"bench_charger": {"output_w": 100.0, "plugged_hours": [[9, 12]]}},
                      bank={"start_soc_frac": 0.2})  # fmt: skip
        self.assertAlmostEqual(found.outage.ledger_wh.other, 300)

    def test_the_wind_of_a_day_stands_in_for_the_mean(self):
        days = [{"sky": "clear", "air_temp_c": 5.0, "wind_m_s": 0.0}, {"sky": "clear", "air_temp_c": 5.0}]
        wind = {"rated_w": 400.0, "mean_m_s": 5.0, "efficiency_frac": 1.0}
        found = lived(load("a", 10), charging={"wind": wind}, outage={"days": days, "duration_h": 48.0})
        self.assertAlmostEqual(found.charging.given_wh("wind"), 24 * mean_turbine_w(Wind(**wind), 5.0))

    def test_what_the_full_bank_does_not_take_is_spilled(self):
        found = lived(load("a", 10), charging={"bench_charger": {"output_w": 100.0, "plugged_hours": [[0, 1]]}}).outage
        self.assertAlmostEqual(found.ledger_wh.spilled, 90)


class TheTurbine(unittest.TestCase):
    UNIT = Wind(rated_w=1000.0, rated_m_s=10.0, cut_in_m_s=2.0, cut_out_m_s=25.0, mean_m_s=6.0, efficiency_frac=1.0)

    def test_its_curve_is_cubic_and_level_and_stops(self):
        powers = turbine_w(self.UNIT, np.array([1.9, 2.0, 6.0, 10.0, 24.9, 25.0]))
        expected = [0, 0, 1000 * (216 - 8) / (1000 - 8), 1000, 1000, 0]
        np.testing.assert_allclose(powers, expected, atol=1e-9)

    def test_the_density_sums_to_one_with_its_mean(self):
        speeds = (np.arange(60_000) + 0.5) / 1000
        density = rayleigh_density(speeds, 6.0)
        self.assertAlmostEqual(float(density.sum() / 1000), 1.0, places=6)
        self.assertAlmostEqual(float((density * speeds).sum() / 1000), 6.0, places=4)

    def test_the_mean_of_a_turbine_that_is_never_level(self):
        # A plain cube over Rayleigh winds: 6/pi times the cube of the mean wind.
        unit = self.UNIT.model_copy(update={"rated_m_s": 39.0, "cut_in_m_s": 0.0, "cut_out_m_s": 60.0})
        self.assertAlmostEqual(mean_turbine_w(unit, 5.0), 1000 * (6 / np.pi) * (5 / 39) ** 3, places=3)


class BeforeTheStorm(unittest.TestCase):
    def start(self, *, warning_h, bank=None, **charger):
        found = lived(
            load("a", 10), charging={"grid_charger": charger}, outage={"warning_h": warning_h}, bank=bank or {}
        )
        return found.charging.fill, found.outage.series.stored_wh[0]

    def test_the_bank_rises_by_what_the_charger_gives(self):
        fill, stored = self.start(warning_h=3.0, output_w=100.0, efficiency_frac=0.8, top_up_soc_frac=0.4)
        self.assertAlmostEqual(stored, 700)
        self.assertAlmostEqual(fill.needed_h, 6.0)
        self.assertAlmostEqual(fill.grid_wh, 375)
        self.assertFalse(fill.is_full)

    def test_the_bank_s_own_limit_holds(self):
        _, stored = self.start(warning_h=2.0, output_w=900.0, top_up_soc_frac=0.4, bank={"unit_max_charge_a": 5.0})
        self.assertAlmostEqual(stored, 500)

    def test_without_a_set_point_the_bank_s_page_decides(self):
        fill, stored = self.start(warning_h=9.0, output_w=900.0, bank={"start_soc_frac": 0.6})
        self.assertAlmostEqual(stored, 600)
        self.assertEqual(fill.grid_wh, 0)

    def test_lead_acid_creeps_to_full_as_the_outage_model_would_have_it(self):
        bank = {"chemistry": "agm", "depth_frac": 0.5, "unit_max_charge_a": 20.0, "charge_efficiency_frac": 0.85}
        rating = rate(simple(bank=bank).bank)
        needed = hours_to_full(rating, charger_w=120.0, from_frac=0.6)
        # The same, lived through by the compiled model with a charger that never tires.
        charging = {"bench_charger": {"output_w": 120.0, "plugged_hours": [[0, 24]]}}
        full = lived(charging=charging, bank={**bank, "start_soc_frac": 0.6}, outage={"duration_h": 48.0}).outage
        told = next(event.time_h for event in full.events if event.kind == "full")
        self.assertAlmostEqual(told, needed, places=3)
        for hours in (1.0, 3.0, needed - 0.5):
            reached = charged_frac(rating, charger_w=120.0, from_frac=0.6, hours_h=hours)
            self.assertAlmostEqual(hours_to_full(rating, charger_w=120.0, from_frac=reached), needed - hours, places=6)


class Habits(unittest.TestCase):
    SOURCES: ClassVar = {
        "bench_charger": {"output_w": 60.0, "plugged_hours": [[0, 24]]},
        "alternator": {"current_a": 4.0},
    }

    def test_together_the_sources_add_up_to_the_bank_s_limit(self):
        bank = {"start_soc_frac": 0.1, "unit_max_charge_a": 8.0}
        driven = {**self.SOURCES, "alternator": {"current_a": 4.0, "driven_hours": [[0, 2]]}}
        found = lived(charging=driven, bank=bank, outage={"duration_h": 3.0}).outage
        # Two hours of 80 W in place of 60 W and 4 A at 10.65 V, then 60 W.
        self.assertAlmostEqual(found.end_soc_frac, 0.1 + 0.16 + 0.06)
        self.assertAlmostEqual(found.ledger_wh.spilled, 45.2)

    def test_one_at_a_time_the_strongest_charges_and_the_other_is_spilled(self):
        arrays = (array("p", 200),)
        noon = {"start": "2026-06-21T11:00:00", "duration_h": 2.0}
        charging = {"one_source": True, "bench_charger": {"output_w": 60.0, "plugged_hours": [[0, 24]]}}
        found = lived(arrays=arrays, charging=charging, bank={"start_soc_frac": 0.1}, outage=noon)
        self.assertAlmostEqual(found.outage.ledger_wh.spilled, 120)
        habits = found.charging.habits
        self.assertAlmostEqual(habits.one_source_spilled_wh - habits.together_spilled_wh, 120)
        self.assertGreater(habits.together_end_frac, habits.one_source_end_frac)

    def test_two_of_the_small_sources_are_two_sources(self):
        # 60 W from a socket and 42.6 W from the vehicle: only the socket's charge.
        charging = {**self.SOURCES, "one_source": True, "alternator": {"current_a": 4.0, "driven_hours": [[0, 24]]}}
        found = lived(charging=charging, bank={"start_soc_frac": 0.1}, outage={"duration_h": 2.0}).outage
        self.assertAlmostEqual(found.end_soc_frac, 0.1 + 0.12)
        self.assertAlmostEqual(found.ledger_wh.spilled, 85.2)

    def test_a_running_generator_s_charger_is_one_source_among_them(self):
        parts = {"bank": {"start_soc_frac": 0.4}, "outage": {"duration_h": 1.0}}
        charging = {
            "one_source": True,
            "generator": GENERATOR,
            "bench_charger": {"output_w": 60.0, "plugged_hours": [[0, 24]]},
        }
        found = lived(load("a", 100), charging=charging, **parts).outage
        # The charger's 200 W against 60 W: the bench charger waits.
        self.assertAlmostEqual(found.end_soc_frac, 0.6)
        self.assertAlmostEqual(found.ledger_wh.spilled, 60)
        charging["bench_charger"]["output_w"] = 250.0
        found = lived(load("a", 100), charging=charging, **parts).outage
        # Now the generator only carries the house.
        self.assertAlmostEqual(found.ledger_wh.generator, 100)
        self.assertAlmostEqual(found.end_soc_frac, 0.65)


class TheTank(unittest.TestCase):
    def test_away_it_runs_on_the_tank_alone_and_at_home_on_the_stock(self):
        # 350 W burn 0.35 L an hour from hour 5: the tank of 0.14 L is dry at 5.4.
        charging = {"generator": {**GENERATOR, "tank_l": 0.14}}
        away = lived(load("a", 100), charging=charging, outage={"days": AWAY, "duration_h": 8.0}).outage
        stops = [(round(event.time_h, 6), event.cause) for event in away.events if event.kind == "generator_off"]
        self.assertEqual(stops, [(5.4, "tank_empty")])
        self.assertAlmostEqual(away.fuel_l, 0.14)
        home = lived(load("a", 100), charging=charging, outage={"duration_h": 8.0}).outage
        self.assertEqual([event.cause for event in home.events if event.kind == "generator_off"], ["charged"])


class StraightFromAPanel(unittest.TestCase):
    NOON: ClassVar = {"start": "2026-06-21T12:00:00", "duration_h": 1.0}

    def test_it_runs_while_the_panel_carries_it_and_the_bank_knows_nothing_of_it(self):
        fan = load("fan", 50, tier="ease", supply="panel", duty_frac=0.5)
        found = lived(fan, arrays=(array("p", 100),), controller={"kind": "panel_fed"}, outage=self.NOON)
        self.assertAlmostEqual(found.charging.panel_loads.served_wh["fan"], 25)
        self.assertAlmostEqual(found.outage.per_tier["ease"].served_wh, 25)
        self.assertEqual(found.outage.ledger_wh.bank_drawn, 0)
        self.assertEqual(found.bank.daily_drawn_wh, 0)
        self.assertAlmostEqual(found.outage.ledger_wh.difference, 0)
        self.assertGreater(found.outage.ledger_wh.spilled, 40)

    def test_the_higher_tier_takes_what_there_is_and_no_load_runs_in_part(self):
        pump, fan = (load(name, watts, tier=tier, supply="panel") for name, watts, tier in
                     (("pump", 60, "ease"), ("fan", 60, "spare")))  # fmt: skip
        found = lived(fan, pump, arrays=(array("p", 100),), controller={"kind": "panel_fed"}, outage=self.NOON)
        self.assertAlmostEqual(found.charging.panel_loads.served_wh["pump"], 60)
        self.assertEqual(found.charging.panel_loads.served_wh["fan"], 0)

    def test_at_night_it_stands_still_and_nobody_calls_the_house_dark(self):
        found = lived(load("fan", 10, supply="panel"), arrays=(array("p", 100),), controller={"kind": "panel_fed"},
                      outage={"duration_h": 3.0})  # fmt: skip
        self.assertEqual(found.charging.panel_loads.served_wh["fan"], 0)
        self.assertTrue(found.outage.carried_to_the_end)


class Value(unittest.TestCase):
    def test_price_over_what_comes_on_dark_days(self):
        bank = {"unit": {"name": "b", "price": 300.0}, "depth_frac": 0.8, "charge_efficiency_frac": 0.9}
        charging = {"bench_charger": {"output_w": 100.0, "plugged_hours": [[9, 12]], "price": 54.0}}
        found = lived(
            load("a", 10), bank=bank, charging=charging, sky=("overcast", "clear"), outage={"duration_h": 48.0}
        )
        values = {value.key: value for value in found.charging.values}
        # 300 Wh on the one dark day, 270 Wh of them stored; a battery holds 800 Wh once.
        self.assertAlmostEqual(values["bench_charger"].dark_wh, 270)
        self.assertAlmostEqual(values["bench_charger"].price_per_dark_kwh, 200)
        self.assertAlmostEqual(values["battery"].price_per_dark_kwh, 375)
