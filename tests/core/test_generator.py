"""The generator: each rule in a case worked by hand, the fuel line, and books that still close."""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.design import Generator
from hearthkeep.core.sources import derate_frac, fuel_l_per_h, made_up_year
from hearthkeep.core.whatif import generator_choices
from tests.core.test_invariants import quick
from tests.strategies import designs, sources, with_sources
from tests.support.designs import array, birchrow, changed, load, moved, simple

#: Burns 1 L a kilowatt-hour and nothing idle, so that litres are kilowatt-hours.
UNIT = {
    "rated_w": 1000.0,
    "stock_l": 50.0,
    "charger_w": 200.0,
    "charger_efficiency_frac": 0.8,
    "fuel_idle_l_per_h": 0.0,
    "fuel_l_per_kwh": 1.0,
    "start_soc_frac": 0.5,
    "stop_soc_frac": 0.7,
    "min_run_h": 0.0,
}


def lived(*loads, generator=None, **parts):
    unit = None if generator is None else {**UNIT, **generator}
    return assess(simple(*loads, charging={"generator": unit, "grid_charger": {"output_w": 0.0}}, **parts)).outage


def when(outage, kind):
    return [round(event.time_h, 6) for event in outage.events if event.kind == kind]


class Runs(unittest.TestCase):
    def test_it_starts_on_charge_carries_the_house_and_stops_when_charged(self):
        # 1 kWh at 100 W: half after 5 h. Then the house is on the generator, and 200 W lift the bank by a fifth in 1 h.
        found = lived(load("a", 100), generator={}, outage={"duration_h": 8.0})
        self.assertEqual(when(found, "generator_on"), [5.0])
        self.assertEqual(when(found, "generator_off"), [6.0])
        self.assertAlmostEqual(found.generator_h, 1.0)
        # 100 W of house and 200 W of charger at 80 %: 350 Wh, 0.35 L.
        self.assertAlmostEqual(found.ledger_wh.generator, 350)
        self.assertAlmostEqual(found.fuel_l, 0.35)
        self.assertAlmostEqual(found.ledger_wh.charge_loss, 50)
        self.assertEqual(found.hours_carried_h, 8.0)

    def test_the_inverter_rests_while_the_generator_carries_the_house(self):
        idle = {"rated_w": 1000.0, "surge_w": 3000.0, "idle_w": 20.0, "efficiency_frac": 0.9}
        found = lived(load("a", 80), generator={"start_soc_frac": 0.999, "stop_soc_frac": 1.0, "min_run_h": 24.0},
                      inverter=idle, outage={"duration_h": 2.0})  # fmt: skip
        self.assertLess(found.ledger_wh.inverter_loss, 1)

    def test_the_minimum_run_goes_on_past_the_stop_level(self):
        found = lived(load("a", 100), generator={"min_run_h": 1.5}, outage={"duration_h": 7.0})
        self.assertEqual(when(found, "generator_off"), [6.5])
        self.assertAlmostEqual(found.end_soc_frac, 0.8 - 0.05)

    def test_quiet_hours_keep_it_off_and_end_a_run_early(self):
        # From midnight: half at 10, quiet until 12 and again from 13, long before the stop level is met.
        found = lived(load("a", 50), generator={"quiet_hours": [[0, 12], [13, 24]]}, outage={"duration_h": 20.0})
        self.assertEqual(when(found, "generator_on"), [12.0])
        self.assertEqual(when(found, "generator_off"), [13.0])
        self.assertEqual([e.cause for e in found.events if e.kind == "generator_off"], ["quiet_hours"])

    def test_an_empty_tank_ends_the_run_and_the_house_goes_on_on_the_bank(self):
        # 350 W burn 0.175 L in half an hour, from hour 5; 60 % is left, which lasts 6 h more.
        found = lived(load("a", 100), generator={"stock_l": 0.175}, outage={"duration_h": 20.0})
        self.assertEqual(when(found, "generator_off"), [5.5])
        self.assertAlmostEqual(found.fuel_l, 0.175)
        self.assertAlmostEqual(found.hours_carried_h, 11.5)

    def test_the_sun_charges_first_and_the_charger_only_fills_up(self):
        both = lived(
            load("a", 100),
            generator={"start_soc_frac": 0.99, "stop_soc_frac": 1.0},
            arrays=(array("p", 2000),),
            bank={"unit_max_charge_a": 15.0, "start_soc_frac": 0.3},
            outage={"start": "2026-06-21T12:00:00", "duration_h": 1.0},
        )
        # The sun alone fills the bank's limit: the generator gives nothing but the house.
        self.assertAlmostEqual(both.ledger_wh.generator, 100)
        self.assertGreater(both.ledger_wh.spilled, 500)

    def test_house_and_charger_stay_within_the_rating(self):
        found = lived(load("a", 900), generator={"start_soc_frac": 0.99, "stop_soc_frac": 1.0, "charger_w": 400.0},
                      bank={"start_soc_frac": 0.5}, outage={"duration_h": 1.0})  # fmt: skip
        # 100 W are left for the charger, 80 W into the bank.
        self.assertAlmostEqual(found.ledger_wh.generator, 1000)
        self.assertAlmostEqual(found.end_soc_frac, 0.58)

    def test_what_it_cannot_carry_stands_back(self):
        found = lived(
            load("a", 600), load("b", 600, tier="ease"),
            generator={"start_soc_frac": 0.99, "stop_soc_frac": 1.0}, bank={"start_soc_frac": 0.5}, outage={"duration_h": 1.0},
        )  # fmt: skip
        self.assertAlmostEqual(found.per_tier["keep"].served_wh, 600)
        self.assertEqual(found.per_tier["ease"].served_wh, 0)

    def test_a_running_generator_returns_life_and_keep_at_once(self):
        found = lived(load("a", 100), generator={"quiet_hours": [[0, 11]], "start_soc_frac": 0.2, "stop_soc_frac": 0.9},
                      outage={"duration_h": 12.0})  # fmt: skip
        self.assertEqual(when(found, "dark"), [10.0])
        self.assertEqual(when(found, "back_on"), [11.0])


class Prices(unittest.TestCase):
    """Where a generator evens the charge out, choices are told apart by the fuel."""

    def found(self, *loads, **parts):
        unit = {**UNIT, "rated_w": 5000.0}
        return assess(simple(*loads, charging={"generator": unit}, outage={"duration_h": 30.0}, **parts))

    def test_a_load_less_saves_what_deleting_it_saves(self):
        loads = (load("a", 100, tier="life"), load("b", 60), load("c", 40, supply="dc"))
        whole = self.found(*loads)
        self.assertTrue(whole.outage.carried_to_the_end)
        for at, row in enumerate(loads):
            with self.subTest(row["id"]):
                price = whole.prices.without_load[row["id"]]
                alone = self.found(*(other for other in loads if other is not row)).outage
                self.assertEqual(price.gain_h, 0)
                self.assertAlmostEqual(price.fuel_gain_l, whole.outage.fuel_l - alone.fuel_l)
                self.assertGreater(price.fuel_gain_l, 0, at)

    def test_without_the_generator_its_fuel_is_saved_and_the_hours_are_lost(self):
        found = self.found(load("a", 100))
        price = found.prices.without_generator
        self.assertAlmostEqual(price.gain_h, 10 - 30)
        self.assertAlmostEqual(price.fuel_gain_l, found.outage.fuel_l)

    def test_more_sun_burns_less(self):
        found = self.found(load("a", 100), arrays=(array("p", 400),))
        self.assertLess(found.prices.without_array["p"].fuel_gain_l, 0)
        self.assertGreater(found.prices.half_more_array["p"].fuel_gain_l, 0)


class OnItsChargerAlone(unittest.TestCase):
    def test_the_house_stays_on_the_inverter_and_the_charger_carries_both(self):
        # 1 kWh at 100 W: half after 5 h. Then 200 W of charger leave 100 W for the bank: a fifth of it takes 2 h.
        found = lived(load("a", 100), generator={"charges_only": True}, outage={"duration_h": 9.0})
        self.assertEqual(when(found, "generator_on"), [5.0])
        self.assertEqual(when(found, "generator_off"), [7.0])
        # 200 W at 80 % for 2 h: half a kilowatt-hour and half a litre.
        self.assertAlmostEqual(found.ledger_wh.generator, 500)
        self.assertAlmostEqual(found.fuel_l, 0.5)
        self.assertAlmostEqual(found.ledger_wh.charge_loss, 100)
        self.assertEqual(found.hours_carried_h, 9.0)

    def test_the_inverter_does_not_rest(self):
        idle = {"rated_w": 1000.0, "surge_w": 3000.0, "idle_w": 20.0, "efficiency_frac": 0.9}
        runs = {"start_soc_frac": 0.999, "stop_soc_frac": 1.0, "min_run_h": 24.0, "charges_only": True}
        found = lived(load("a", 80), generator=runs, inverter=idle, outage={"duration_h": 2.0})
        alone = lived(load("a", 80), inverter=idle, outage={"duration_h": 2.0})
        self.assertAlmostEqual(found.ledger_wh.inverter_loss, alone.ledger_wh.inverter_loss)

    def test_one_far_too_small_for_the_house_darkens_nothing(self):
        small = {"rated_w": 300.0, "charger_w": 200.0}
        through = lived(load("a", 500), generator=small)
        beside = lived(load("a", 500), generator={**small, "charges_only": True})
        without = lived(load("a", 500))
        # A kilowatt-hour at 500 W, at half of it the generator takes over; without it the bank lasts 2 h; beside it half
        # lasts 1 h, and the rest at 300 W another 1.667 h.
        self.assertEqual(through.hours_carried_h, 1.0)
        self.assertEqual(without.hours_carried_h, 2.0)
        self.assertAlmostEqual(beside.hours_carried_h, 1 + 500 / 300)

    def test_what_went_dark_returns_at_once_only_if_the_charger_carries_it(self):
        # Quiet until 5, so dark at 3:20; then 200 W carry 150 W of house at once, and 300 W only from a tenth of charge on.
        rules = {"charges_only": True, "quiet_hours": [[0, 5]], "start_soc_frac": 0.9, "stop_soc_frac": 1.0}
        strong = lived(load("a", 300, hours=[[0, 4]]), load("b", 150, hours=[[4, 24]]), generator=rules)
        self.assertEqual(when(strong, "back_on")[0], 5.0)
        weak = lived(load("a", 300), generator=rules)
        # A tenth of a kilowatt-hour at 200 W takes half an hour, and at -100 W it lasts one.
        self.assertEqual(when(weak, "back_on")[:2], [5.5, 7.0])
        self.assertLess(len(weak.events), 80)

    def test_the_one_sized_to_charge_is_lived_so(self):
        design = simple(load("a", 500), charging={"generator": UNIT})
        rows = {row.key: row for row in generator_choices(design)}
        self.assertEqual([rows[key].charges_only for key in ("as_is", "charge", "house")], [False, True, False])


class FuelAndHeight(unittest.TestCase):
    def test_height_and_heat_take_their_part(self):
        self.assertEqual(derate_frac(elevation_m=100, air_c=10), 1.0)
        self.assertAlmostEqual(derate_frac(elevation_m=1500, air_c=36), 1 - 0.035 * 4 - 0.02)

    def test_what_is_left_is_shown_with_its_parts(self):
        # 1,200 m above the first 300 take 14 %; 11 °C above 25 take 2 %.
        high = simple(load("a", 10), charging={"generator": UNIT}, site={"elevation_m": 1500.0},
                      outage={"days": [{"sky": "clear", "air_temp_c": 20.0}, {"sky": "clear", "air_temp_c": 36.0}]})  # fmt: skip
        figure = assess(high).figures["charging.generator_rating"]
        self.assertAlmostEqual(figure.value, 840.0)
        self.assertEqual([round(term.value, 9) for term in figure.terms], [1000.0, 0.14, 0.02])
        self.assertIn("1,500 m and 36 °C", figure.label)

    def test_under_a_weather_year_its_own_heat_counts(self):
        year = replace(made_up_year(40.0, 0.0, 0.0, 0.0), key="hot", air_c=np.full(8760, 47.0))
        by_year = simple(load("a", 950), charging={"generator": UNIT}, outage={"sky_from": "year"})
        self.assertAlmostEqual(assess(by_year, year).figures["charging.generator_rating"].value, 960.0)
        # Somewhat hotter it no longer carries the load, in the outage, in the sizes beside it and with one inverter failed.
        hotter = replace(year, key="hotter", air_c=np.full(8760, 69.0))
        self.assertIn("GENERATOR_BELOW_PEAK", [entry.code for entry in assess(by_year, hotter).findings])
        runs = moved(by_year, {"charging.generator.start_soc_frac": 0.6, "charging.generator.stop_soc_frac": 0.9})
        self.assertGreater(assess(runs, year).outage.hours_carried_h, assess(runs, hotter).outage.hours_carried_h)
        sizes = {row.key: row.rated_w for row in generator_choices(runs, hotter)}
        cool = {
            row.key: row.rated_w for row in generator_choices(runs, replace(year, key="cool", air_c=np.zeros(8760)))
        }
        self.assertGreaterEqual(sizes["house"], cool["house"])

    def test_a_big_one_at_quarter_load_burns_far_more_than_a_quarter(self):
        unit = Generator(rated_w=5000.0, stock_l=20.0, charger_w=1000.0)
        self.assertGreater(fuel_l_per_h(unit, 1250), 0.4 * fuel_l_per_h(unit, 5000))

    def test_the_sizes_side_by_side(self):
        design = changed(
            birchrow(), charging={**birchrow().charging.model_dump(mode="json"), "generator": {**UNIT, "rated_w": 7000.0,
            "fuel_idle_l_per_h": None, "fuel_l_per_kwh": None, "charger_w": 1500.0}},
        )  # fmt: skip
        rows = {row.key: row for row in generator_choices(design)}
        self.assertEqual(set(rows), {"as_is", "charge", "house"})
        self.assertLess(rows["charge"].rated_w, rows["house"].rated_w)
        self.assertLess(rows["charge"].fuel_l, rows["house"].fuel_l)
        self.assertEqual(generator_choices(birchrow()), ())


class Books(unittest.TestCase):
    @quick
    @given(designs(tiers=("life", "keep", "ease", "spare")), sources(), st.booleans())
    def test_they_close_with_every_source_at_once_and_the_bank_s_limit_holds(self, design, more, away):
        found = assess(with_sources(design, more, away=away))
        ledger = found.outage.ledger_wh
        put_in = ledger.sun + ledger.generator + ledger.other + ledger.bank_drawn
        went = ledger.served + ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss + ledger.spilled
        turned_over = ledger.sun + ledger.generator + ledger.other + ledger.served + 1
        self.assertLess(abs(put_in - went) / turned_over, 1e-4)
        self.assertLessEqual(found.outage.fuel_l, more["generator"]["stock_l"] + 1e-6)
        for part in (ledger.generator, ledger.other, ledger.charge_loss, ledger.wiring_loss):
            self.assertGreaterEqual(part, -1e-6)
        self.assertGreaterEqual(ledger.spilled, -1e-6)
        # No step charges faster than the bank's limit allows.
        series, limit_w = found.outage.series, found.bank.charge_limit_a * found.bank.nominal_v
        for step, gained in enumerate(b - a for a, b in zip(series.stored_wh, series.stored_wh[1:], strict=False)):
            length_h = series.time_h[step + 1] - series.time_h[step]
            self.assertLessEqual(gained, limit_w * length_h + 0.3)
        # No step lets the generator run in its quiet hours.
        quiet = {hour for first, last in more["generator"]["quiet_hours"] for hour in range(first, last)}
        start_h = design.outage.start.hour + design.outage.start.minute / 60
        for step, power in enumerate(series.generator_w):
            hour = int((start_h + (series.time_h[step] + series.time_h[step + 1]) / 2) % 24)
            self.assertFalse(power > 0 and hour in quiet)


class TheLastOfTheFuel(unittest.TestCase):
    def test_it_lasts_as_long_as_what_is_really_burnt(self):
        # A bank that takes nothing in the cold: 20 W of house, not the charger's 4 kW, decide how long one litre lasts.
        rules = {"rated_w": 6000.0, "charger_w": 4000.0, "fuel_idle_l_per_h": 0.1, "fuel_l_per_kwh": 0.35, "stock_l": 1.0,
                 "start_soc_frac": 0.9, "stop_soc_frac": 1.0}  # fmt: skip
        found = lived(load("a", 20, tier="life"), generator=rules, bank={"temp_c": -1.0, "start_soc_frac": 0.8},
                      simulation={"time_step_min": 60})  # fmt: skip
        self.assertAlmostEqual(found.out_of_fuel_h, 1.0 / (0.1 + 0.35 * 0.02), places=6)
        self.assertAlmostEqual(found.generator_h, found.out_of_fuel_h, places=6)
        self.assertLess(abs(found.ledger_wh.difference), 1e-6)

    def test_along_the_falling_acceptance_too(self):
        # Lead-acid near full: the charger gives less and less, so that the fuel lasts longer than its first minute says.
        rules = {"charger_w": 500.0, "fuel_idle_l_per_h": 0.0, "fuel_l_per_kwh": 1.0, "stock_l": 0.1,
                 "charger_efficiency_frac": 1.0, "start_soc_frac": 0.9, "stop_soc_frac": 1.0}  # fmt: skip
        bank = {"chemistry": "agm", "unit_max_charge_a": 20.0, "start_soc_frac": 0.85}
        found = lived(generator=rules, bank=bank)
        # 100 Wh into 1 kWh from 85 to 95 %: the limit falls from 152.5 W by 0.95 W a watt-hour, ln(152.5 / 57.5) / 0.95 h.
        self.assertAlmostEqual(found.fuel_l, 0.1, places=6)
        self.assertAlmostEqual(found.end_soc_frac, 0.95, places=6)
        self.assertAlmostEqual(found.out_of_fuel_h, math.log(152.5 / 57.5) / 0.95, places=6)

    def test_starts_are_counted_beyond_the_list_of_events(self):
        rules = {"start_soc_frac": 0.5, "stop_soc_frac": 0.51, "stock_l": 5000.0}
        unit = {**rules, "rated_w": 400.0, "charger_w": 400.0, "charger_efficiency_frac": 1.0, "charges_only": True}
        found = lived(load("a", 300), generator=unit, bank={"unit_ah": 1.0}, outage={"duration_h": 240.0})
        told = sum(event.kind == "generator_on" for event in found.events)
        self.assertGreater(found.generator_starts, told)
        self.assertEqual(len(found.events), 2000)
