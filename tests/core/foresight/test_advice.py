"""What to do next: following it never carries less than doing nothing, and comes near to the best that there is."""

import unittest

import numpy as np

from hearthkeep.core.design import Design
from hearthkeep.core.foresight.acts import ActKind
from hearthkeep.core.foresight.advice import advise
from hearthkeep.core.foresight.course import Choices, GeneratorWish, Stretch, course_of
from hearthkeep.core.foresight.forecast import doing, foretold, skies_of
from hearthkeep.core.foresight.outlook import Outlook, Way
from hearthkeep.core.outage import prepare
from tests.core.foresight.lived import lived, nothing_of
from tests.core.foresight.made_outages import made_house, other_skies
from tests.core.second_model import live_through
from tests.runner.profile import amount
from tests.support.designs import array, load, simple


def outlook_of(design, *, at_h=0.0, off=frozenset()):
    """As things stand at a moment by the plan, nothing done from there on."""
    course = course_of(prepare(design))
    days = int(course.prepared.scene.clock.day[-1]) + 1
    nothing = nothing_of(design)
    choices = Choices(off=off, generator=nothing.generator, by_levels=False)
    weather = foretold(design.outage.days, days)
    return Outlook(
        skies=skies_of(course), state=course.run(course.first(), 0.0, at_h, choices).last, at_h=at_h, end_h=course.end_h,
        nothing=Way(stretches=(Stretch(0.0, choices),), doings=doing(days, False)), weathers=(weather, weather),
    )  # fmt: skip


def by_hand(**fields):
    return {
        "rated_w": 2000.0, "stock_l": 10.0, "tank_l": 10.0, "charger_w": 500.0, "charger_efficiency_frac": 1.0, "by_hand": True,
        "charges_only": True, "start_soc_frac": 0.2, "stop_soc_frac": 0.9, "min_run_h": 0.0, "fuel_idle_l_per_h": 0.0,
        "fuel_l_per_kwh": 0.5, **fields,
    }  # fmt: skip


STORMS = amount(50, 200)


class Following(unittest.TestCase):
    def test_it_never_carries_less_than_doing_nothing(self):
        """Storms that come otherwise than they were foretold; Keep is given up for Life alone, and Life gains by it."""
        gained = 0
        for seed in range(STORMS):
            design = made_house(seed, hours=48.0, step_min=60)
            came = other_skies(design, seed + 1000)
            still, done = lived(design, came, follows=False), lived(design, came, follows=True)
            gained += done.keep_h > still.keep_h + 1.0
            with self.subTest(seed=seed, told=done.told):
                self.assertGreaterEqual(done.life_h, still.life_h - 0.01)
                if done.life_h <= still.life_h + 0.01:
                    self.assertGreaterEqual(done.keep_h, still.keep_h - 0.01)
        # It is worth following: more than an hour in many storms.
        self.assertGreater(gained, 0.3 * STORMS)

    def test_without_sun_the_best_is_by_arithmetic(self):
        # 1000 Wh; Keep and Life take 50 W, Ease 50 W: left off from the first moment it lasts 20 h.
        design = simple(
            load("heart", 10, tier="life"), load("fridge", 40), load("tv", 50, tier="ease"), outage={"duration_h": 40.0}
        )
        self.assertAlmostEqual(lived(design, design, follows=False).keep_h, 10.0)
        self.assertAlmostEqual(lived(design, design, follows=True).keep_h, 20.0, delta=0.05)

    def test_with_fuel_the_best_is_by_arithmetic(self):
        # 1000 Wh and 1 L at 0.5 L/kWh, 2000 Wh more: 100 W last 30 h.
        generator = by_hand(stock_l=1.0, stop_soc_frac=1.0)
        design = simple(load("fridge", 100), charging={"generator": generator}, outage={"duration_h": 60.0})
        self.assertAlmostEqual(lived(design, design, follows=False).keep_h, 10.0)
        self.assertAlmostEqual(lived(design, design, follows=True).keep_h, 30.0, delta=0.3)

    def test_it_comes_near_to_the_best_of_all_runs_tried_on_the_second_model(self):
        """Ease left off or not, and one run of the generator from each hour and of each length: every one lived second by second."""
        generator = by_hand(stock_l=1.5, fuel_idle_l_per_h=0.1)
        parts = {
            "arrays": (array("roof", 150),),
            "sky": ("overcast", "clear", "overcast"),
            "outage": {"start": "2026-10-03T12:00:00", "duration_h": 60.0},
            "bank": {"start_soc_frac": 0.8},
            "simulation": {"time_step_min": 60},
        }
        loads = (load("fridge", 70), load("tv", 40, tier="ease", hours=[[17, 23]]))
        entered = simple(*loads, charging={"generator": generator}, **parts)
        followed = lived(entered, entered, follows=True).keep_h
        best = 0.0
        for first in range(12, 36):
            for length in (2, 4, 6):
                # A generator of the model's own that runs in these hours alone; its clock comes round each day, its fuel does not.
                hours = {(first + more) % 24 for more in range(length)}
                quiet = [[hour, hour + 1] for hour in range(24) if hour not in hours]
                tried = by_hand(
                    stock_l=1.5, fuel_idle_l_per_h=0.1, start_soc_frac=0.95, stop_soc_frac=1.0, quiet_hours=quiet
                )
                design = simple(loads[0], charging={"generator": tried}, **parts)
                best = max(best, live_through(design, slice_s=30.0).hours_carried_h)
        self.assertGreater(best, lived(entered, entered, follows=False).keep_h + 3)
        self.assertGreaterEqual(followed, 0.97 * best)


class OneThing(unittest.TestCase):
    def test_nothing_is_said_where_nothing_is_needed(self):
        design = simple(load("fridge", 20))
        self.assertIsNone(advise(outlook_of(design)).next)

    def test_no_more_of_ease_than_is_needed(self):
        # 24 h: Keep takes 720 Wh, Ease 300 + 50 + 30: without the largest it is carried.
        design = simple(
            load("fridge", 30), load("oven", 300, tier="ease", hours=[[6, 7]]), load("tv", 50, tier="ease", hours=[[7, 8]]),
            load("lamp", 30, tier="ease", hours=[[8, 9]]), outage={"duration_h": 24.0},
        )  # fmt: skip
        step = advise(outlook_of(design)).next
        self.assertEqual((step.act.kind, step.act.loads), (ActKind.LEAVE_OFF, frozenset({"oven"})))
        self.assertTrue(all(worth.is_carried for worth in step.act.worths))

    def test_what_is_off_comes_back_when_the_house_can_carry_it(self):
        design = simple(load("fridge", 20), load("tv", 10, tier="ease"))
        step = advise(outlook_of(design, off=frozenset({"tv"}))).next
        self.assertEqual((step.act.kind, step.act.loads), (ActKind.BRING_BACK, frozenset({"tv"})))
        poor = simple(load("fridge", 35), load("tv", 20, tier="ease"))
        self.assertIsNone(advise(outlook_of(poor, off=frozenset({"tv"}))).next)

    def test_the_generator_runs_before_its_quiet_hours_and_in_waking_ones(self):
        # Dark at 3 o'clock in the night; it may not run from 21 to 7, and to its stop level the night is too long.
        generator = by_hand(quiet_hours=[[0, 7], [21, 24]])
        design = simple(
            load("fridge", 90), charging={"generator": generator}, outage={"start": "2026-06-21T16:00:00", "duration_h": 24.0}
        )  # fmt: skip
        outlook = outlook_of(design)
        act = advise(outlook).next.act
        self.assertIs(act.kind, ActKind.GENERATOR)
        self.assertTrue(7 <= outlook.clock_h(act.at_h) < 21)
        self.assertLessEqual(outlook.clock_h(act.at_h) + act.for_h, 21 + 1e-6)
        self.assertTrue(all(worth.is_carried for worth in advise(outlook).all_done))

    def test_a_dark_house_is_told_to_start_the_generator_now(self):
        generator = by_hand()
        design = simple(load("fridge", 100), charging={"generator": generator}, outage={"duration_h": 48.0})
        act = advise(outlook_of(design, at_h=12.0)).next.act
        self.assertEqual((act.kind, act.at_h), (ActKind.GENERATOR, 12.0))

    def test_keep_is_given_up_for_life_at_its_level_and_not_before(self):
        # 1000 Wh, 100 W: at Keep's level of 30 % after 7 h; Life's 10 W then last 30 h more.
        design = simple(
            load("heart", 10, tier="life"), load("fridge", 90), policy={"keep_level_frac": 0.3}, outage={"duration_h": 72.0}
        )  # fmt: skip
        act = advise(outlook_of(design)).next.act
        self.assertIs(act.kind, ActKind.KEEP_FOR_LIFE)
        self.assertAlmostEqual(act.at_h, 7.0, delta=0.51)
        self.assertNotIn("heart", act.loads)

    def test_what_people_do_not_want_is_not_said_again(self):
        design = simple(load("fridge", 50), load("tv", 50, tier="ease"))
        self.assertIs(advise(outlook_of(design)).next.act.kind, ActKind.LEAVE_OFF)
        self.assertIsNone(advise(outlook_of(design), refused=frozenset({ActKind.LEAVE_OFF})).next)

    def test_snow_is_cleared_where_it_gains_something(self):
        design = simple(
            load("fridge", 60), arrays=(array("roof", 2000, snow="swept", swept_hour=9),), sky=("covered", "covered", "covered"),
            controller={"output_a": 200.0}, outage={"start": "2026-03-03T06:00:00", "duration_h": 48.0},
        )  # fmt: skip
        outlook = outlook_of(design)
        act = advise(outlook).next.act
        self.assertIs(act.kind, ActKind.SWEEP)
        self.assertAlmostEqual(outlook.clock_h(act.at_h), 9.0)

    def test_fuel_is_fetched_where_it_gains_something(self):
        design = simple(
            load("fridge", 100), charging={"generator": by_hand(stock_l=0.5, by_hand=False)}, outage={"duration_h": 60.0}
        )  # fmt: skip
        values = design.model_dump()
        values["outage"]["days"] = [{**values["outage"]["days"][0], "fuel": number == 1} for number in range(3)]
        outlook = outlook_of(Design.model_validate(values))
        kinds = [step.act.kind for step in advise(outlook).steps]
        self.assertIn(ActKind.FETCH_FUEL, kinds)


class Ways(unittest.TestCase):
    def test_a_run_is_laid_over_what_goes_on(self):
        way = Way(stretches=(Stretch(0.0, Choices()),), doings=doing(2, False))
        run = (
            way.leaving_off(1.0, frozenset({"tv"}))
            .between(3.0, 5.0, GeneratorWish.ON)
            .bringing_back(4.0, frozenset({"tv"}))
        )
        self.assertEqual(
            [(each.from_h, sorted(each.choices.off), each.choices.generator.value) for each in run.stretches],
            [
                (0.0, [], "by_rule"),
                (1.0, ["tv"], "by_rule"),
                (3.0, ["tv"], "on"),
                (4.0, [], "on"),
                (5.0, [], "by_rule"),
            ],
        )

    def test_days_count_from_the_midnight_before_the_start(self):
        outlook = outlook_of(simple(load("a", 1), outage={"start": "2026-06-21T18:00:00", "duration_h": 48.0}))
        self.assertEqual([outlook.day_of(hour) for hour in (0.0, 5.9, 6.1, 30.1)], [0, 0, 1, 2])
        np.testing.assert_allclose(outlook.clock_h(7.5), 1.5)
