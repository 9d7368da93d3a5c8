"""Single failures and one more of each: each against the design that really has it, by hand where that can be."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.outage import prepare
from hearthkeep.core.trials import one_more_of_each, single_failures
from tests.support.designs import ROOT, array, birchrow, changed, load, moved, simple

GENERATOR = {"rated_w": 2000.0, "charger_w": 500.0, "stock_l": 4.0, "tank_l": 4.0, "start_failure_frac": 0.25}


def by_key(design):
    found = single_failures(design)
    return found, {failure.key: failure for failure in found.failures}


def sixteen():
    return read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())


class ByHand(unittest.TestCase):
    def test_one_of_two_strings_halves_the_hours_and_a_spare_buys_them_back(self):
        # 2 kWh carry 100 W for 20 h, one string for 10.
        found, failures = by_key(
            simple(load("a", 100.0, supply="dc"), bank={"parallel": 2, "unit": {"name": "b", "price": 90.0}})
        )
        bank = failures["bank"]
        self.assertAlmostEqual(found.sound.carried_h, 20.0)
        self.assertAlmostEqual(bank.outlook.carried_h, 10.0)
        assert bank.spare is not None
        self.assertAlmostEqual(bank.spare.hours_h, 10.0)
        self.assertEqual(bank.spare.price, 90.0)

    def test_without_its_only_string_nothing_carries_the_house_but_a_generator(self):
        design = simple(load("a", 100.0), arrays=(array("p", 2000.0),))
        self.assertLess(by_key(design)[1]["bank"].outlook.carried_h, 0.01)
        with_generator = changed(design, charging={"generator": {**GENERATOR, "stock_l": 500.0, "tank_l": 500.0}})
        bank = by_key(with_generator)[1]["bank"]
        self.assertLess(bank.outlook.dark_for_h, 1.0)

    def test_a_load_left_on_runs_at_its_watts_day_and_night(self):
        # 100 W for two hours a day, left on: 1 kWh lasts 10 h.
        design = simple(load("kettle", 100.0, hours=[[20, 22]], supply="dc"), outage={"duration_h": 48.0})
        failure = by_key(design)[1]["load:kettle"]
        self.assertAlmostEqual(failure.outlook.carried_h, 10.0)
        self.assertIn("100 W day and night", failure.assumes)

    def test_a_generator_that_will_not_start_by_its_own_chance(self):
        design = simple(load("a", 100.0), charging={"generator": GENERATOR}, outage={"duration_h": 48.0})
        found, failures = by_key(design)
        failure = failures["generator"]
        self.assertAlmostEqual(failure.outlook.carried_h, 10.0)
        self.assertEqual(failure.chance_frac, 0.25)
        self.assertAlmostEqual(failure.mean_carried_h, 0.25 * 10.0 + 0.75 * found.sound.carried_h)
        self.assertLess(failures["fuel"].outlook.carried_h, found.sound.carried_h)

    def test_a_cold_snap_stops_lithium_from_charging_in_the_garage_and_not_in_the_living_room(self):
        design = simple(
            load("a", 60.0, supply="dc"),
            arrays=(array("p", 1500.0),),
            bank={"temp_c": 5.0},
            outage={"duration_h": 72.0},
        )
        self.assertGreater(by_key(design)[1]["cold"].lost_h, 10.0)
        inside = changed(design, bank={"place": "living_space"})
        self.assertAlmostEqual(by_key(inside)[1]["cold"].lost_h, 0.0, delta=0.5)


class AgainstTheDesign(unittest.TestCase):
    def test_each_is_the_design_that_has_it(self):
        design = sixteen()
        _, failures = by_key(design)
        for key, fields in {
            "bank": {"bank.parallel": design.bank.parallel - 1},
            "generator": {"charging.generator": None},
            "fuel": {"charging.generator.stock_l": design.charging.generator.stock_l / 2},
        }.items():
            prepared = prepare(moved(design, fields))
            self.assertEqual(failures[key].outlook.carried_h, prepared.carried_h(prepared.outcome().dark_h), key)

    def test_the_inverter_out_is_the_figure_of_its_own_page(self):
        for design in (birchrow(), sixteen(), changed(sixteen(), inverter={"units": 2})):
            failed = assess(design).one_failed
            assert failed is not None
            self.assertEqual(by_key(design)[1]["inverter"].outlook.carried_h, failed.hours_carried_h)

    def test_the_worst_comes_first_and_a_loss_is_against_nothing_wrong(self):
        found = single_failures(sixteen())
        hours = [failure.outlook.carried_h for failure in found.failures]
        self.assertEqual(hours, sorted(hours))
        for failure in found.failures:
            self.assertAlmostEqual(failure.lost_h, found.sound.carried_h - failure.outlook.carried_h)
            self.assertAlmostEqual(failure.lost_frac, found.sound.keep_frac - failure.outlook.keep_frac)

    def test_what_is_not_there_does_not_fail(self):
        bare = simple(load("a", 10.0, supply="dc"), inverter={"rated_w": 0.0, "surge_w": 0.0})
        keys = set(by_key(bare)[1])
        self.assertEqual(keys, {"bank", "cold", "nobody"})


class OneMore(unittest.TestCase):
    def test_one_more_string_by_hand_and_by_money(self):
        design = simple(
            load("a", 100.0, supply="dc"),
            bank={"unit": {"name": "b", "price": 50.0}, "series": 2, "unit_v": 5.0},
            outage={"duration_h": 48.0},
        )
        part = next(part for part in one_more_of_each(design).parts if part.key == "bank")
        self.assertAlmostEqual(part.gained_h, 10.0)
        # A string of two at 50 each.
        self.assertEqual((part.price, part.amount), (100.0, 2.0))
        self.assertAlmostEqual(part.gained_h_per_100, 10.0)
        self.assertAlmostEqual(part.gained_h_each, 5.0)

    def test_a_can_of_fuel_and_a_panel_are_the_designs_with_them(self):
        design = sixteen()
        parts = {part.key: part for part in one_more_of_each(design).parts}
        first = design.charging.controllers[0].arrays[0]
        self.assertIn(f"array:{first.id}", parts)
        stock_l = design.charging.generator.stock_l
        fuller = prepare(moved(design, {"charging.generator.stock_l": stock_l + parts["fuel"].amount}))
        self.assertEqual(parts["fuel"].outlook.carried_h, fuller.carried_h(fuller.outcome().dark_h))
        panel = parts[f"array:{first.id}"]
        more = prepare(moved(design, {"charging.controllers.0.arrays.0.stc_w": first.stc_w + panel.amount}))
        self.assertAlmostEqual(panel.outlook.dark_for_h, more.outcome().dark_for_h)

    def test_more_never_carries_fewer_starts(self):
        for part in one_more_of_each(birchrow()).parts:
            self.assertGreaterEqual(part.gained_frac, 0.0, part.key)
