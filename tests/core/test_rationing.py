"""Making it last: by hand, against ten thousand random schedules, and as the design that it makes."""

import unittest

import numpy as np

from hearthkeep.core.design import read_design
from hearthkeep.core.outage import prepare
from hearthkeep.core.whatif import Rationing, ration
from tests.runner.profile import amount
from tests.support.designs import ROOT, array, birchrow, changed, load, moved, simple

SCHEDULES = amount(2_500, 10_000)


def example(name):
    return read_design((ROOT / "examples" / f"{name}.json").read_bytes())


def after(design, plan):
    """The design with a plan taken, prepared."""
    return prepare(moved(design, {row.path: [list(span) for span in row.hours_then] for row in plan.loads}))


class ByHand(unittest.TestCase):
    def test_ease_goes_first_and_no_more_of_it_than_has_to(self):
        # 1 kWh for 24 h: Life and Keep take 30 W, 720 Wh; 280 Wh are left of the 480 that the lamp asks for.
        design = simple(
            load("life", 10.0, tier="life", supply="dc"),
            load("keep", 20.0, supply="dc"),
            load("lamp", 20.0, tier="ease", supply="dc"),
            policy={"ease_level_frac": 0.05},
        )
        plan = ration(prepare(design))
        self.assertTrue(plan.is_carried)
        self.assertEqual([row.load_id for row in plan.loads], ["lamp"])
        self.assertAlmostEqual(plan.given_up_ease_wh, 200.0)
        self.assertEqual(plan.given_up_keep_wh, 0.0)
        self.assertAlmostEqual(plan.carried_then_h, 24.0)

    def test_what_cannot_be_carried_is_said_in_energy_and_power(self):
        # 100 W of Life for 24 h from 1 kWh: 14 h of 100 W are missing.
        design = simple(load("life", 100.0, tier="life", supply="dc"), load("keep", 50.0, supply="dc"))
        plan = ration(prepare(design))
        self.assertFalse(plan.is_carried)
        self.assertAlmostEqual(plan.missing_wh, 1400.0)
        self.assertAlmostEqual(plan.missing_w, 100.0)
        self.assertAlmostEqual(plan.carried_then_h, 10.0)
        self.assertEqual([(row.load_id, row.hours_then) for row in plan.loads], [("keep", ())])

    def test_what_does_not_fit_the_inverter_is_left_off_in_that_hour_alone(self):
        design = simple(
            load("pump", 700.0, hours=[[10, 12]]),
            load("heater", 500.0, hours=[[8, 12]]),
            bank={"unit_ah": 2000.0},
            inverter={"rated_w": 1000.0, "surge_w": 2000.0},
        )
        plan = ration(prepare(design))
        self.assertTrue(plan.is_carried)
        self.assertEqual([(row.load_id, row.hours_then) for row in plan.loads], [("heater", ((8, 10),))])

    def test_linked_loads_are_left_off_together_and_one_that_waits_for_the_sun_as_a_whole(self):
        design = simple(
            load("life", 10.0, tier="life", supply="dc"),
            load("boiler", 40.0, link="heat", supply="dc"),
            load("pump", 10.0, link="heat", supply="dc"),
            load("washer", 50.0, flexible_h=2, hours=[[9, 17]], tier="ease", supply="dc"),
            arrays=(array("p", 60.0),),
            sky=("overcast",),
        )
        plan = ration(prepare(design))
        self.assertTrue(plan.is_carried)
        hours = {row.load_id: row.hours_then for row in plan.loads}
        self.assertEqual(hours["boiler"], hours["pump"])
        self.assertIn(hours.get("washer", ((9, 17),)), ((), ((9, 17),)))

    def test_nothing_is_given_up_where_the_outage_is_carried(self):
        plan = ration(prepare(simple(load("a", 10.0))))
        self.assertEqual((plan.loads, plan.is_carried, plan.given_up_keep_wh), ((), True, 0.0))


class AgainstRandomSchedules(unittest.TestCase):
    def designs(self):
        flat = changed(
            example("terrace-flat"),
            outage={
                "sky_from": "by_hand",
                "start": "2026-01-12T17:00:00",
                "duration_h": 96.0,
                "days": [{"sky": "covered", "air_temp_c": 0.0}],
            },
        )
        return {
            "home": birchrow(),
            "home of two roofs without its generator": moved(example("birchrow-16"), {"charging.generator": None}),
            "cart": example("relay-cart"),
            "flat under snow": flat,
        }

    def test_the_plan_is_as_good_as_the_best_of_ten_thousand(self):
        for name, design in self.designs().items():
            with self.subTest(name):
                prepared = prepare(design)
                plan, rationing, random = ration(prepared), Rationing(prepared), np.random.default_rng(14)
                self.assertTrue(plan.is_carried)
                self.assertLess(plan.carried_now_h, plan.duration_h)
                carried = 0
                for _ in range(SCHEDULES):
                    # Some leave nearly everything on, some nearly nothing; Ease and Keep apart.
                    part = np.where(rationing.tier == 1, random.random() ** 2, random.random())
                    off = random.random(len(rationing.cells)) < part
                    if rationing.tried(off).dark_h < 0:
                        carried += 1
                        worse = rationing.given_up_wh(off, rationing.lived(off))
                        self.assertLessEqual((plan.given_up_keep_wh, plan.given_up_ease_wh), worse)
                # The schedules are worth being held against.
                self.assertGreater(carried, SCHEDULES // 50, name)

    def test_taken_into_the_design_it_carries_and_giving_back_any_hour_does_not(self):
        for name, design in self.designs().items():
            with self.subTest(name):
                plan = ration(prepare(design))
                taken = after(design, plan)
                self.assertEqual(taken.carried_h(taken.outcome().dark_h), plan.duration_h)
                rationing = Rationing(prepare(design))
                off = rationing.least()
                for at in np.flatnonzero(off):
                    back = off.copy()
                    back[at] = False
                    self.assertGreaterEqual(rationing.tried(back).dark_h, 0.0)
