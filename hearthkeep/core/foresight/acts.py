"""What could be done next, each weighed by the model run forward from now: nothing here switches anything."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from hearthkeep.core.design import SnowHabit, Tier
from hearthkeep.core.foresight.course import Choices, Course, GeneratorWish, steps_between
from hearthkeep.core.foresight.outlook import Outlook, Way
from hearthkeep.core.foresight.worth import SAME_H, Worth
from hearthkeep.core.loads import HOURS, TIERS
from hearthkeep.core.outage import State

#: Less gained than this is not worth the words [h].
WORTH_SAYING_H = 0.25
#: Starts of the generator that are tried: every so often, and so far ahead [h]; it runs no longer at a time than this [h].
START_EVERY_H, START_AHEAD_H, LONGEST_RUN_H = 1.0, 36.0, 14.0
#: A run shorter than this is not worth the start [h].
SHORTEST_RUN_H = 0.25
#: So near to a charge counts as there: lead-acid creeps through its last per cent.
FULL_SLACK_FRAC = 0.005
#: Hours of the day in which people are awake; of starts worth the same one of these is better. Our assumption.
AWAKE_FROM, AWAKE_TO = 7, 22


class ActKind(StrEnum):
    """What is to be done."""

    SWEEP = "sweep"
    GENERATOR = "generator"
    LEAVE_OFF = "leave_off"
    FETCH_FUEL = "fetch_fuel"
    KEEP_FOR_LIFE = "keep_for_life"
    BRING_BACK = "bring_back"


#: What costs people less comes first, where both carry the house.
COST = (ActKind.SWEEP, ActKind.GENERATOR, ActKind.LEAVE_OFF, ActKind.FETCH_FUEL, ActKind.KEEP_FOR_LIFE)


@dataclass(frozen=True, kw_only=True, slots=True)
class Act:
    """One thing that could be done, and the way of going on with it."""

    kind: ActKind
    #: When, and for how long; no length where it holds until further notice [h].
    at_h: float
    for_h: float | None
    loads: frozenset[str]
    way: Way
    worths: tuple[Worth, ...]


def gain_h(act: tuple[Worth, ...], base: tuple[Worth, ...]) -> tuple[float, float]:
    """What one way has above another, Life's hours and Life's and Keep's, the mean of the weathers looked at [h]."""
    pairs = list(zip(act, base, strict=True))
    life_h = sum(one.life_h - other.life_h for one, other in pairs) / len(pairs)
    keep_h = sum(one.keep_h - other.keep_h for one, other in pairs) / len(pairs)
    if abs(keep_h) <= SAME_H:
        # Dark already, or dark at the same moment: what counts is for how long.
        keep_h = sum(other.dark_for_h - one.dark_for_h for one, other in pairs) / len(pairs)
    return life_h, keep_h


def harms(act: tuple[Worth, ...], base: tuple[Worth, ...]) -> bool:
    """Whether under any weather looked at it carries less."""
    return any(
        one.life_h < other.life_h - 0.01 or one.keep_h < other.keep_h - 0.01
        for one, other in zip(act, base, strict=True)
    )


def acts(outlook: Outlook, way: Way, base: tuple[Worth, ...]) -> Iterator[Act]:
    """Everything that could be done on a way and gains something there without harm elsewhere."""
    for act in (
        *_sweeps(outlook, way),
        *_runs(outlook, way, base),
        *_left_off(outlook, way, base),
        *_fetches(outlook, way),
        *_for_life(outlook, way, base),
    ):
        life_h, keep_h = gain_h(act.worths, base)
        if act.kind is ActKind.KEEP_FOR_LIFE:
            if life_h >= WORTH_SAYING_H:
                yield act
        elif max(life_h, keep_h) >= WORTH_SAYING_H and not harms(act.worths, base):
            yield act


def _sweeps(outlook: Outlook, way: Way) -> Iterator[Act]:
    """Clear the snow on the next day that has it: at the array's hour, or now where that is past."""
    design = outlook.course.design
    swept = [array for array in design.charging.arrays if array.snow is SnowHabit.SWEPT]
    if not swept:
        return
    hour = min(array.swept_hour for array in swept)
    for day in (outlook.today, outlook.today + 1):
        if day >= way.doings.swept.shape[0] or way.doings.swept[day] or not outlook.weathers[0].covered[day]:
            continue
        at_h = max(outlook.at_h + (day - outlook.today) * HOURS + hour - outlook.clock_h(outlook.at_h), outlook.at_h)
        if day == outlook.today and outlook.clock_h(outlook.at_h) > 14:
            # What is left of the day's sun is hardly worth the ladder.
            continue
        done = way.doing(way.doings.sweeping(day))
        yield Act(kind=ActKind.SWEEP, at_h=at_h, for_h=None, loads=frozenset(), way=done, worths=outlook.worths(done))
        return


def _runs(outlook: Outlook, way: Way, base: tuple[Worth, ...]) -> Iterator[Act]:
    """Start the generator: of the starts worth the same a waking hour, and as late as can be."""
    course, generator = outlook.course, outlook.course.design.charging.generator
    if generator is None or outlook.state.genset.runs or way.at(outlook.at_h).generator is GeneratorWish.ON:
        return
    nominal = outlook.under(way.doings)[0]
    dark_h = min(worth.keep_h for worth in base)
    tried: list[Act] = []
    state, reached_h = outlook.state, outlook.at_h
    for number in range(int(START_AHEAD_H / START_EVERY_H)):
        start_h = outlook.at_h + number * START_EVERY_H
        if start_h > min(dark_h, outlook.end_h - SHORTEST_RUN_H):
            break
        for _, _, after in nominal.along(state, way.stretches, reached_h, start_h):
            state = after
        reached_h = start_h
        is_free = outlook.may_start(start_h) and _attended(outlook, start_h) and not course.is_quiet(start_h)
        if not is_free or state.genset.runs:
            continue
        # To its stop level, or where a night without it is long to the full bank.
        lengths_h = {
            run_length_h(nominal, state, start_h, way.at(start_h), to) for to in (generator.stop_soc_frac, 1.0)
        }
        for for_h in lengths_h:
            if for_h >= SHORTEST_RUN_H:
                done = way.between(start_h, start_h + for_h, GeneratorWish.ON)
                tried.append(
                    Act(
                        kind=ActKind.GENERATOR,
                        at_h=start_h,
                        for_h=for_h,
                        loads=frozenset(),
                        way=done,
                        worths=outlook.worths(done),
                    )
                )
    if not tried:
        return
    gains = [sum(gain_h(act.worths, base)) for act in tried]
    near = [act for act, gain in zip(tried, gains, strict=True) if gain >= max(gains) - 2 * WORTH_SAYING_H]
    awake = [act for act in near if AWAKE_FROM <= outlook.clock_h(act.at_h) < AWAKE_TO]
    yield max(awake or near, key=lambda act: (act.at_h, -(act.for_h or 0.0)))


def run_length_h(course: Course, state: State, start_h: float, choices: Choices, to_frac: float) -> float:
    """How long a run lasts: to a charge, or until fuel or the hours in which it may run are over [h]."""
    generator = course.design.charging.generator
    if generator is None:
        return 0.0
    end_h = min(start_h + LONGEST_RUN_H, course.end_h)
    quiet_h = next((float(hour) for hour in np.arange(start_h, end_h, 0.25) if course.is_quiet(float(hour))), end_h)
    run = course.run(state, start_h, quiet_h, replace(choices, generator=GeneratorWish.ON))
    stop_wh = (to_frac - FULL_SLACK_FRAC) * course.prepared.plant.acceptance.capacity_wh
    ran_h, least_h = run.generator_h, min(generator.min_run_h, run.generator_h)
    reached = np.flatnonzero(run.stored_wh >= stop_wh)
    if not reached.size:
        return ran_h
    edges_h = np.concatenate(([0.0], np.cumsum(steps_between(course.steps, course.edges_h, start_h, quiet_h).length_h)))
    to_stop_h = float(np.interp(stop_wh, run.stored_wh[: reached[0] + 1][-2:], edges_h[: reached[0] + 1][-2:]))
    return max(min(to_stop_h, ran_h), least_h)


def _attended(outlook: Outlook, at_h: float) -> bool:
    """Whether somebody is there to start it."""
    days = outlook.course.design.outage.days
    return not days[min(outlook.day_of(at_h), len(days) - 1)].away


def _left_off(outlook: Outlook, way: Way, base: tuple[Worth, ...]) -> Iterator[Act]:
    """Leave Ease off, the largest first, and no more of it than is needed to get there."""
    dark_h = min(worth.keep_h for worth in base)
    off = way.at(outlook.at_h).off
    asked = sorted(((asked_wh(outlook, number, dark_h), load.id) for number, load in enumerate(outlook.course.design.loads)
                    if load.tier is Tier.EASE and load.id not in off), reverse=True)  # fmt: skip
    asked = [each for each in asked if each[0] > 0]
    if not asked or dark_h <= outlook.at_h:
        return
    count, found = 1, None
    while True:
        some = frozenset(key for _, key in asked[:count])
        done = way.leaving_off(outlook.at_h, some)
        found = Act(
            kind=ActKind.LEAVE_OFF, at_h=outlook.at_h, for_h=None, loads=some, way=done, worths=outlook.worths(done)
        )
        if count >= len(asked) or all(worth.is_carried for worth in found.worths):
            break
        count = min(2 * count, len(asked))
    yield found


def asked_wh(outlook: Outlook, number: int, until_h: float) -> float:
    """What a load asks from now until a moment, by its place in the completed design [Wh]."""
    prepared = outlook.course.prepared
    steps = steps_between(outlook.course.steps, outlook.course.edges_h, outlook.at_h, until_h)
    return float(prepared.rows.average_w[number, steps.row] @ steps.length_h) * float(outlook.course.use_factor[number])


def _fetches(outlook: Outlook, way: Way) -> Iterator[Act]:
    """Fetch fuel on the next day on which it can be had."""
    design = outlook.course.design
    if design.charging.generator is None:
        return
    edges_h, refuels = outlook.course.edges_h, outlook.course.steps.refuels
    for step in np.flatnonzero(refuels):
        at_h = float(edges_h[step])
        day = outlook.day_of(at_h)
        if outlook.at_h < at_h < outlook.end_h and not way.doings.fetched[day]:
            done = way.doing(way.doings.fetching(day))
            yield Act(
                kind=ActKind.FETCH_FUEL, at_h=at_h, for_h=None, loads=frozenset(), way=done, worths=outlook.worths(done)
            )
            return


def _for_life(outlook: Outlook, way: Way, base: tuple[Worth, ...]) -> Iterator[Act]:
    """Keep what is left for Life alone, from Keep's level on."""
    design, at_h = outlook.course.design, outlook.at_h
    # Poor weather alone is no ground for giving Keep up: it may not come.
    if not any(load.tier is Tier.LIFE for load in design.loads) or base[0].life_h >= base[0].end_h - SAME_H:
        return
    level_wh = outlook.course.prepared.plant.drop_wh[1]
    if outlook.state.stored_wh > level_wh:
        course = outlook.under(way.doings)[0]
        state, reached_h = outlook.state, at_h
        step_h = 0.5
        while state.stored_wh > level_wh and at_h < outlook.end_h - step_h:
            for _, _, after in course.along(state, way.stretches, reached_h, at_h + step_h):
                state = after
            at_h = reached_h = at_h + step_h
        if state.stored_wh > level_wh:
            return
    off = way.at(at_h).off
    kept = frozenset(load.id for load in design.loads if load.tier in (Tier.KEEP, Tier.EASE) and load.id not in off)
    if not kept:
        return
    done = way.leaving_off(at_h, kept)
    yield Act(kind=ActKind.KEEP_FOR_LIFE, at_h=at_h, for_h=None, loads=kept, way=done, worths=outlook.worths(done))


def brought_back(outlook: Outlook, way: Way) -> Act | None:
    """
    Loads that were left off and that may come on again: Life and Keep where the bank is back above Keep's level and Life stays
    carried, Ease where Life and Keep are carried to the end with it; under the poor weather too.
    """
    off = way.at(outlook.at_h).off
    loads = [load for load in outlook.course.design.loads if load.id in off]
    loads.sort(key=lambda load: TIERS.index(load.tier))
    kept = sum(load.tier in (Tier.LIFE, Tier.KEEP) for load in loads)
    may_keep = outlook.state.stored_wh >= outlook.course.prepared.plant.return_wh[1]
    best = None
    for count in range(max(kept, 1), len(loads) + 1):
        some = frozenset(load.id for load in loads[:count])
        done = way.bringing_back(outlook.at_h, some)
        worths = outlook.worths(done)
        is_carried = all(worth.is_carried for worth in worths)
        keeps_life = kept == count and may_keep and all(worth.life_h >= worth.end_h - SAME_H for worth in worths)
        if not is_carried and not keeps_life:
            break
        best = Act(kind=ActKind.BRING_BACK, at_h=outlook.at_h, for_h=None, loads=some, way=done, worths=worths)
    return best
