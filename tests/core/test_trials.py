"""Trials against the strip's own run, start by start, and the year's shape by hand."""

import unittest
from collections import Counter
from datetime import timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.design import Design
from hearthkeep.core.outage import prepare
from hearthkeep.core.trials import all_starts, begun, end_matters, live, trial_year
from tests.runner.profile import examples
from tests.strategies import rough_designs
from tests.support.designs import array, birchrow, changed, load, simple

DESIGNS = 80
#: Designs of each kind among them at the least; how many there are exactly changes with whatever seeds the drawing.
LEAST_SEEN = 3
STARTS_A_DESIGN = 4


_AWAY = {"sky": "covered", "air_temp_c": -4.0, "away": True}
_FETCHED = {"sky": "clear", "air_temp_c": 5.0, "fuel": True}
_ON_FOOT = {"sky": "clear", "air_temp_c": 5.0, "car": False}
FETCHED = ([_AWAY, _FETCHED, _ON_FOOT], [_FETCHED, _ON_FOOT], [_ON_FOOT, _FETCHED])
FUELLED = {
    "generator": {"rated_w": 2000.0, "charger_w": 600.0, "stock_l": 5.0},
    "alternator": {"current_a": 30.0},
}


@st.composite
def designs_and_starts(draw: st.DrawFn) -> tuple[Design, float, list[int]]:
    """A design with any source, a whole number of hours, and starts, the first and the last hour of the year among them."""
    design = draw(rough_designs())
    home, away = {"sky": "clear", "air_temp_c": 5.0}, {"sky": "covered", "air_temp_c": -4.0, "away": True}
    fetched, on_foot = {**home, "fuel": True}, {**home, "car": False}
    design = changed(
        design,
        outage={
            "start": f"{draw(st.sampled_from([2026, 2028]))}-03-03T05:20:00",
            "days": draw(
                st.sampled_from([[home], [away], [home, away], [away, fetched, on_foot], [on_foot], [fetched]])
            ),
        },
        policy={"keep_level_frac": draw(st.sampled_from([None, 0.4, 0.8]))},
        simulation={"time_step_min": draw(st.sampled_from([5, 15, 30, 60]))},
    )
    year = all_starts(design.outage.start.year)
    at = draw(st.lists(st.integers(0, 8759), min_size=STARTS_A_DESIGN, max_size=STARTS_A_DESIGN, unique=True))
    return design, draw(st.sampled_from([1.0, 7.0, 24.0, 60.0])), [int(year[0]), int(year[-1]), *year[at].tolist()]


class OneStart(unittest.TestCase):
    def test_is_the_strips_own_run_to_the_last_bit(self):
        seen: Counter[str] = Counter()

        def agree(drawn):
            design, length_h, starts = drawn
            year = trial_year(design, 60.0)
            found = live(year, [length_h], np.array(starts))[length_h]
            for at, start_h in enumerate(starts):
                strip = prepare(begun(design, year.first_day + timedelta(hours=start_h), length_h))
                run = strip.run()
                self.assertEqual(
                    (found.carried_h[at], found.lowest_wh[at], found.fuel_l[at]),
                    (strip.carried_h(run.dark_h), run.lowest_wh, run.fuel_l),
                )
                outcome = strip.outcome()
                self.assertEqual(
                    (found.dark_for_h[at], found.life_carried_h[at]),
                    (outcome.dark_for_h, strip.carried_h(outcome.life_dark_h)),
                )
                seen["goes dark"] += run.dark_h >= 0
                seen["Life outlasts Keep"] += found.life_carried_h[at] > found.carried_h[at]
                seen["burns"] += run.fuel_l > 0
            charging = design.charging
            seen["sun"] += bool(charging.arrays)
            seen.update(
                name
                for name in ("generator", "alternator", "bench_charger", "wind", "grid_tied")
                if getattr(charging, name) is not None
            )
            seen["waits"] += any(load.flexible_h for load in design.loads)
            seen["fuel fetched"] += any(day.fuel for day in design.outage.days) and bool(design.charging.generator)
            seen["no car"] += any(not day.car for day in design.outage.days) and bool(design.charging.alternator)
            seen["away at times"] += len({day.away for day in design.outage.days}) > 1

        examples(DESIGNS)(given(designs_and_starts())(agree))()
        # Which of them are drawn moves with the sources: what is rare is simulated in any case.
        for days in FETCHED:
            design = changed(simple(load("fridge", 200.0), charging=FUELLED), outage={"start": "2026-03-03T05:20:00", "days": days})  # fmt: skip
            agree((design, 60.0, [0, 24 * 40 + 5, 24 * 200 + 17]))
        least = {"sun", "generator", "alternator", "bench_charger", "wind", "grid_tied", "waits", "away at times"}
        least |= {"fuel fetched", "no car"}
        rare = {name: seen[name] for name in (*least, "goes dark", "burns") if seen[name] < LEAST_SEEN}
        self.assertEqual(rare, {}, seen)
        self.assertGreater(seen["Life outlasts Keep"], 5)

    def test_a_hot_day_takes_from_the_generator_of_those_starts_alone(self):
        design = simple(
            load("fridge", 900.0),
            outage={"start": "2026-07-01T00:00:00"},
            charging={"generator": {"rated_w": 1000.0, "charger_w": 400.0, "stock_l": 40.0}},
        )
        year = trial_year(design, 48.0)
        self.assertTrue(end_matters(year))
        starts = all_starts(2026)
        found = live(year, [48.0])[48.0]
        hottest = np.array([year.warmest_c[day : day + 3].max() for day in starts // 24])
        for at in (int(hottest.argmax()), int(hottest.argmin())):
            strip = prepare(begun(design, year.first_day + timedelta(hours=int(starts[at])), 48.0))
            self.assertEqual(found.fuel_l[at], strip.outcome().fuel_l)


class TheYear(unittest.TestCase):
    def test_has_every_hour_once_and_none_of_a_leap_day(self):
        self.assertEqual(all_starts(2026).tolist(), list(range(8760)))
        leap = all_starts(2028)
        self.assertEqual(leap.shape[0], 8760)
        self.assertEqual(set(range(8784)) - set(leap.tolist()), set(range(59 * 24, 60 * 24)))

    def test_a_shorter_outage_is_the_longer_ones_beginning_where_the_end_does_not_matter(self):
        year = trial_year(birchrow(), 96.0)
        self.assertFalse(end_matters(year))
        starts = np.arange(0, 8760, 37)
        found = live(year, [24.0, 96.0], starts)
        np.testing.assert_array_equal(found[24.0].carried_h, np.minimum(found[96.0].carried_h, 24.0))
        np.testing.assert_array_equal(found[24.0].life_carried_h, np.minimum(found[96.0].life_carried_h, 24.0))

    def test_more_threads_change_nothing(self):
        year = trial_year(birchrow(), 72.0)
        one, several = (live(year, [72.0], threads=threads)[72.0] for threads in (1, 3))
        np.testing.assert_array_equal(one.carried_h, several.carried_h)
        np.testing.assert_array_equal(one.lowest_wh, several.lowest_wh)

    def test_lengths_are_whole_hours_the_year_has_room_for(self):
        year = trial_year(birchrow(), 24.0)
        for length_h in (25.0, 0.0, 1.5):
            with self.assertRaisesRegex(ValueError, "whole hours up to 24 h"):
                live(year, [length_h])


class ByHand(unittest.TestCase):
    def test_a_steady_load_without_sun_lasts_as_the_hand_formula_says(self):
        # 16 W from 4.8 kWh: 300 h, 12.5 days, from whichever hour it begins. Common practice, no source.
        design = simple(load("radio", 16.0, tier="life", supply="dc"), bank={"unit_ah": 480.0})
        found = live(trial_year(design, 312.0), [312.0], np.arange(0, 8760, 101))[312.0]
        np.testing.assert_allclose(found.carried_h, 300.0, rtol=1e-12)
        np.testing.assert_allclose(found.carried_h / 24, 12.5, rtol=1e-12)

    def test_the_sun_of_the_season_decides(self):
        # 100 W from a small bank under 600 W of panels: carried through a July day and night, not through one of January.
        design = simple(
            load("lamp", 20.0, tier="life", supply="dc"), arrays=(array("roof", 600.0),), bank={"unit_ah": 40.0}
        )
        design = changed(design, site={"latitude_deg": 47.0})
        found = live(trial_year(design, 72.0), [72.0])[72.0]
        share = {month: float((found.carried_h[found.month == month] >= 72).mean()) for month in (1, 7)}
        self.assertGreater(share[7], share[1] + 0.3)
