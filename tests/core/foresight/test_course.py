"""An outage gone along in pieces is the outage in one piece, whatever the house and wherever it is cut."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.foresight.course import Choices, GeneratorWish, Stretch, course_of, pieces, steps_between
from hearthkeep.core.foresight.worth import worth_of
from hearthkeep.core.outage import prepare
from tests.core.foresight.made_outages import made_house
from tests.runner.profile import examples
from tests.strategies import rough_designs
from tests.support.designs import load, simple


class InPieces(unittest.TestCase):
    @given(design=rough_designs(), parts=st.lists(st.floats(0.01, 0.99), min_size=1, max_size=4, unique=True))
    @examples(60)
    def test_the_pieces_end_where_the_whole_ends(self, design, parts):
        prepared = prepare(design)
        whole, course = prepared.run(), course_of(prepared)
        state, reached_h, fuel_l, dark_h = course.first(), 0.0, 0.0, -1.0
        for at_h in (*(part * course.end_h for part in sorted(parts)), course.end_h):
            run = course.run(state, reached_h, at_h, Choices())
            if dark_h < 0 <= run.dark_h:
                dark_h = reached_h + run.dark_h
            fuel_l += run.fuel_l
            state, reached_h = run.last, at_h
        self.assertAlmostEqual(state.stored_wh, float(whole.stored_wh[-1]), delta=1e-4)
        self.assertAlmostEqual(fuel_l, whole.fuel_l, delta=1e-6)
        self.assertAlmostEqual(dark_h, whole.dark_h, delta=1e-6)
        self.assertEqual(state.out, whole.last.out)

    def test_outcome_and_run_say_the_same(self):
        for seed in range(20):
            course = course_of(prepare(made_house(seed)))
            choices = Choices(by_levels=bool(seed % 2), off=frozenset({"tv"} if seed % 3 else ()))
            run = course.run(course.first(), 3.2, 50.7, choices)
            outcome, last = course.outcome(course.first(), 3.2, 50.7, choices)
            self.assertEqual((outcome.dark_h, last), (run.dark_h, run.last))

    def test_steps_are_cut_at_both_ends_and_fuel_is_fetched_once(self):
        course = course_of(prepare(made_house(0)))
        steps = course.steps._replace(refuels=np.ones_like(course.steps.refuels))
        cut = steps_between(steps, course.edges_h, 0.75, 2.1)
        self.assertAlmostEqual(float(cut.length_h.sum()), 1.35)
        self.assertEqual([bool(each) for each in cut.refuels], [False, *[True] * (len(cut.refuels) - 1)])
        self.assertEqual(steps_between(steps, course.edges_h, 2.0, 2.0).length_h.shape[0], 0)


class Decisions(unittest.TestCase):
    def house(self, **parts):
        return simple(load("heart", 20, tier="life"), load("fridge", 30), load("tv", 50, tier="ease"), **parts)

    def test_what_is_left_off_does_not_draw(self):
        # 100 W to 10 h; without the television 50 W to 20 h.
        course = course_of(prepare(self.house()))
        still = Choices(by_levels=False)
        worth = worth_of(course, course.first(), 0.0, [Stretch(0.0, still)], 24.0)
        self.assertAlmostEqual(worth.keep_h, 10.0)
        off = Choices(by_levels=False, off=frozenset({"tv"}))
        worth = worth_of(course, course.first(), 0.0, [Stretch(0.0, off)], 24.0)
        self.assertAlmostEqual(worth.keep_h, 20.0)
        # Off after four hours: 400 Wh gone, the rest for 12 h.
        worth = worth_of(course, course.first(), 0.0, [Stretch(0.0, still), Stretch(4.0, off)], 24.0)
        self.assertAlmostEqual(worth.keep_h, 16.0)

    def test_keep_that_is_left_off_counts_as_unserved_from_then_on(self):
        course = course_of(prepare(self.house()))
        ways = [
            Stretch(0.0, Choices(by_levels=False)),
            Stretch(5.0, Choices(by_levels=False, off=frozenset({"tv", "fridge"}))),
        ]
        worth = worth_of(course, course.first(), 0.0, ways, 24.0)
        self.assertAlmostEqual(worth.keep_h, 5.0)
        self.assertAlmostEqual(worth.life_h, 24.0)

    def test_nobody_drops_anything_where_levels_do_not_hold(self):
        design = self.house(policy={"ease_level_frac": 0.5, "keep_level_frac": 0.3})
        course = course_of(prepare(design))
        # By levels: Ease out at 5 h, Keep at 9 h; by nobody: all dark at 10 h.
        self.assertAlmostEqual(course.run(course.first(), 0, 24, Choices()).dark_h, 9.0)
        self.assertAlmostEqual(course.run(course.first(), 0, 24, Choices(by_levels=False)).dark_h, 10.0)

    def test_a_generator_runs_while_it_is_told_to(self):
        generator = {"rated_w": 2000.0, "stock_l": 100.0, "charger_w": 200.0, "start_soc_frac": 0.1, "stop_soc_frac": 0.9,
                     "charges_only": True, "quiet_hours": [[0, 24]], "charger_efficiency_frac": 1.0}  # fmt: skip
        course = course_of(prepare(self.house(charging={"generator": generator})))
        on, off = Choices(by_levels=False, generator=GeneratorWish.ON), Choices(by_levels=False)
        ways = [Stretch(0.0, off), Stretch(6.0, on), Stretch(9.0, off)]
        # 1000 - 600 + 3 h x 100 W = 700 Wh at hour 9, dark at 16.
        worth = worth_of(course, course.first(), 0.0, ways, 24.0)
        self.assertAlmostEqual(worth.keep_h, 16.0)

    def test_more_use_shortens_the_time(self):
        course = course_of(prepare(self.house()))
        twice = course.using(course.use_factor * 2)
        self.assertAlmostEqual(twice.run(twice.first(), 0, 24, Choices(by_levels=False)).dark_h, 5.0)

    def test_pieces_follow_the_decisions(self):
        one, other = Choices(), Choices(off=frozenset({"x"}))
        found = list(pieces([Stretch(0.0, one), Stretch(2.0, other)], 1.0, 3.0))
        self.assertEqual(found, [(1.0, 2.0, one), (2.0, 3.0, other)])
