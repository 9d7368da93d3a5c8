"""Upkeep: each task asked for where its part is, and only there."""

import unittest

from hypothesis import given

from hearthkeep.core.design import read_design
from hearthkeep.core.upkeep import upkeep_of
from hearthkeep.demo import demo_designs
from tests.core.test_invariants import quick
from tests.strategies import designs
from tests.support.designs import CART, birchrow, changed, moved

GENERATOR = {
    "rated_w": 2000.0,
    "charger_w": 800.0,
    "stock_l": 20.0,
    "tank_l": 20.0,
    "start_soc_frac": 0.3,
    "stop_soc_frac": 0.8,
}


def keys(design):
    return {task.key for task in upkeep_of(design)}


class ByPart(unittest.TestCase):
    def test_flooded_cells_are_watered_read_and_equalised(self):
        flooded = moved(birchrow(), {"bank.chemistry": "flooded", "bank.depth_frac": 0.5, "bank.cutoff_soc_frac": 0.3})
        self.assertLessEqual({"water", "gravity", "equalise", "vent"}, keys(flooded))
        self.assertFalse({"water", "gravity", "equalise"} & keys(birchrow()))

    def test_the_days_between_equalising_are_those_entered(self):
        flooded = moved(
            birchrow(), {"bank.chemistry": "flooded", "bank.depth_frac": 0.5, "charging.stages.equalise_every_days": 45}
        )
        self.assertEqual([task.every_days for task in upkeep_of(flooded) if task.key == "equalise"], [45])

    def test_a_generator_asks_for_runs_oil_and_fuel(self):
        asked = {"generator_run", "generator_oil", "fuel"}
        self.assertFalse(asked & keys(birchrow()))
        with_it = changed(birchrow(), charging={"generator": GENERATOR})
        self.assertLessEqual(asked, keys(with_it))
        every = {task.key: task.every_days for task in upkeep_of(with_it)}
        diesel = {
            task.key: task.every_days
            for task in upkeep_of(changed(birchrow(), charging={"generator": {**GENERATOR, "fuel": "diesel"}}))
        }
        self.assertLess(every["fuel"], diesel["fuel"])

    def test_the_change_over_is_drilled_before_the_dark_months(self):
        month = {task.key: task.month for task in upkeep_of(birchrow())}["drill"]
        south = {task.key: task.month for task in upkeep_of(moved(birchrow(), {"site.latitude_deg": -42.0}))}["drill"]
        self.assertEqual((month, south), (10, 4))
        self.assertNotIn("drill", keys(moved(birchrow(), {"transfer.arrangement": None})))

    def test_a_portable_unit_is_charged_in_store_and_metric_ones_press_their_buttons(self):
        cart = read_design(CART.read_bytes())
        self.assertLessEqual({"stored", "residual_current"}, keys(cart))
        self.assertFalse({"stored", "residual_current"} & keys(birchrow()))

    def test_somebody_depends_on_it(self):
        self.assertIn("medical", keys(birchrow()))
        spare = [{**load, "tier": "keep"} for load in birchrow().model_dump(mode="json")["loads"]]
        self.assertNotIn("medical", keys(changed(birchrow(), loads=spare)))


class Whole(unittest.TestCase):
    def check(self, design):
        tasks = upkeep_of(design)
        self.assertEqual(len({task.key for task in tasks}), len(tasks))
        for task in tasks:
            self.assertTrue((task.title and task.do.endswith(".")) or task.do.endswith("?"), task.key)
            self.assertTrue(task.basis)
            self.assertTrue(1 <= task.every_days <= 730 and (task.month is None or 1 <= task.month <= 12), task.key)

    def test_demos(self):
        for design in demo_designs():
            self.check(design)

    @quick
    @given(designs())
    def test_any_design(self, design):
        self.check(design)
