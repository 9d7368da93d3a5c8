"""Time left: what the model with full knowledge says, from what can be read at a moment; and a band that holds the truth."""

import random
import unittest

import numpy as np

from hearthkeep.core.foresight.course import Choices, Stretch, course_of
from hearthkeep.core.foresight.forecast import MEMBERS, Weather, doing, drawn, foretold, skies_of, steps_under
from hearthkeep.core.foresight.left import futures_of, quantile, tiers_left_h, time_left
from hearthkeep.core.outage import EventKind, events_of, prepare
from hearthkeep.core.watch.now import Fact, reckoned, use_spreads
from tests.core.foresight.made_outages import made_house, other_skies
from tests.support.designs import load, simple

BY_PLAN = Choices()


def true_left_h(prepared, at_h):
    """Until Keep and Ease are next not served, from the events of the whole outage run from its start [h]."""
    events = events_of(prepared.run())
    dark, ease_out = False, False
    keep_h = ease_h = prepared.duration_h - at_h
    for event in events:
        if event.kind is EventKind.DARK and event.time_h > at_h and not dark:
            keep_h = min(keep_h, event.time_h - at_h)
        if event.tier == "ease" and event.kind is EventKind.DROPPED and event.time_h > at_h and not ease_out:
            ease_h = min(ease_h, event.time_h - at_h)
        if event.time_h <= at_h:
            if event.kind in (EventKind.DARK, EventKind.BACK_ON):
                dark = event.kind is EventKind.DARK
            if event.tier == "ease" and event.kind in (EventKind.DROPPED, EventKind.RETURNED):
                ease_out = event.kind is EventKind.DROPPED
    return 0.0 if dark else keep_h, 0.0 if ease_out or dark else min(ease_h, keep_h)


class WithTrueForecasts(unittest.TestCase):
    def test_it_is_what_the_model_with_full_knowledge_says(self):
        """Fifty houses at random moments, from a start, hourly charge to a tenth of a per cent and whether the generator runs."""
        short = 0
        for seed in range(50):
            dice = random.Random(seed)
            design = made_house(seed, hours=72.0)
            prepared = prepare(design)
            course, run = course_of(prepared), prepared.run()
            at_h = dice.uniform(1.0, 60.0)
            edges_h, capacity_wh = course.edges_h, prepared.plant.acceptance.capacity_wh
            facts = [
                Fact(at_h=hour, charge_frac=round(float(np.interp(hour, edges_h, run.stored_wh)) / capacity_wh, 3))
                for hour in np.arange(1.0, at_h, 1.0)
                # Between steps the charge is no straight line: at the edges it was read.
                if np.isclose(edges_h, hour).any()
            ]
            state = reckoned(course, [Stretch(0.0, BY_PLAN)], facts, at_h)
            _, keep_h, ease_h = tiers_left_h(course, state, at_h, BY_PLAN)
            true_keep_h, true_ease_h = true_left_h(prepared, at_h)
            short += true_keep_h < 72.0 - at_h
            with self.subTest(seed=seed, at_h=at_h):
                self.assertAlmostEqual(keep_h, true_keep_h, delta=max(0.02 * true_keep_h, 0.1))
                self.assertAlmostEqual(ease_h, true_ease_h, delta=max(0.02 * true_ease_h, 0.1))
        # Enough of them do go dark: else nothing was tried.
        self.assertGreater(short, 12)


class WithWrongForecasts(unittest.TestCase):
    def test_the_band_holds_the_truth_in_ninety_of_a_hundred(self):
        """Skies turn out otherwise day by day, scatter inside their kind, and the house uses more or less than planned."""
        inside = np.zeros(3)
        many = 100
        for seed in range(many):
            dice = random.Random(seed)
            design = made_house(seed, hours=120.0)
            came = other_skies(design, seed + 5000)
            course = course_of(prepare(design))
            skies, days = skies_of(course), int(course.prepared.scene.clock.day[-1]) + 1
            at_h = dice.uniform(1.0, 48.0)
            start = design.outage.start
            today = int((start.hour + start.minute / 60 + at_h) // 24)
            base = foretold((*design.outage.days[:today], *came.outage.days[today:]), days)
            scatter = np.array([dice.lognormvariate(0.0, 0.15) if day >= today else 1.0 for day in range(days)])
            real = Weather(part=np.clip(base.part * scatter, 0.05, 1.05), covered=base.covered)
            use = min(max(dice.gauss(1.0, 0.10), 0.6), 1.4)
            state = course.run(course.first(), 0.0, at_h, BY_PLAN).last
            done = doing(days, True)
            truth = tiers_left_h(
                course.using(course.use_factor * use).under(steps_under(skies, [real], done)[0]), state, at_h, BY_PLAN
            )
            weathers = drawn(design.outage.days, days, today, MEMBERS)
            left = time_left(futures_of(skies, state, at_h, BY_PLAN, weathers, done))
            inside += [tier.low_h - 0.05 <= true <= tier.high_h + 0.05 for tier, true in zip(left, truth, strict=True)]
        for tier, count in zip(("life", "keep", "ease"), inside, strict=True):
            with self.subTest(tier=tier):
                self.assertGreaterEqual(count, 90 * many / 100)

    def test_a_house_of_which_nothing_is_read_may_be_off_by_a_fifth(self):
        """The use is off by a fifth, one standard deviation; nothing of it is read, or its log shows as much from day to day."""
        inside = np.zeros(3)
        many = 100
        for seed in range(many):
            dice = random.Random(seed)
            course = course_of(prepare(made_house(seed, hours=120.0)))
            skies, days = skies_of(course), int(course.prepared.scene.clock.day[-1]) + 1
            state, done = course.first(), doing(days, True)
            use = max(dice.gauss(1.0, 0.20), 0.4)
            truth = tiers_left_h(course.using(course.use_factor * use), state, 0.0, BY_PLAN)
            weathers = drawn(course.design.outage.days, days, 0, MEMBERS)
            spread = use_spreads(course.design, (), None)
            left = time_left(futures_of(skies, state, 0.0, BY_PLAN, weathers, done, spread))
            inside += [tier.low_h - 0.05 <= true <= tier.high_h + 0.05 for tier, true in zip(left, truth, strict=True)]
        for tier, count in zip(("life", "keep", "ease"), inside, strict=True):
            with self.subTest(tier=tier):
                self.assertGreaterEqual(count, 90 * many / 100)

    def test_a_band_is_no_wider_than_it_has_to_be(self):
        """Without sun only the use is in doubt: 50 W from 1000 Wh last 20 h, and at the nodes 1 ± 0.173 of it 17.1 h and 24.2 h."""
        design = simple(load("fridge", 50), outage={"duration_h": 48.0})
        course = course_of(prepare(design))
        weathers = drawn(design.outage.days, 3, 0, MEMBERS)
        keep = time_left(futures_of(skies_of(course), course.first(), 0.0, BY_PLAN, weathers, doing(3, True)))[1]
        self.assertAlmostEqual(keep.hours, 20.0)
        self.assertAlmostEqual(keep.low_h, 20.0 / (1 + 0.1 * 3**0.5), places=6)
        self.assertAlmostEqual(keep.high_h, 20.0 / (1 - 0.1 * 3**0.5), places=6)

    def test_past_days_are_as_they_were(self):
        days = made_house(1).outage.days
        for weather in drawn(days, 5, 2, 8):
            np.testing.assert_array_equal(weather.part[:2], foretold(days, 5).part[:2])

    def test_weighted_quantiles(self):
        values = np.array([[3.0], [1.0], [2.0]])
        self.assertEqual(float(quantile(values, np.array([0.2, 0.7, 0.1]), 0.5)[0]), 1.0)
        self.assertEqual(float(quantile(values, np.array([0.2, 0.7, 0.1]), 0.95)[0]), 3.0)
