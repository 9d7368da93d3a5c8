"""Where the house stands now: the model run up to this moment through everything that was read and decided."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Design, Tier
from hearthkeep.core.foresight import (
    SOON_H,
    USE_SPREAD,
    USE_SPREAD_MOST,
    USE_SPREAD_UNREAD,
    Choices,
    Course,
    Stretch,
    choices_at,
)
from hearthkeep.core.logbook import DAY_S, HOUR_S, Log, Quantity, Trace, blocks, group_ids, lengths_h
from hearthkeep.core.outage import Genset, State

Floats = NDArray[np.float64]

#: The use of the house is compared with the plan's over so long before now [h], from so many readings on.
USE_OVER_H, LEAST_READINGS = 2.0, 3
#: Since something was left off it has to be read for so long before that alone counts [h].
LEAST_SINCE_H = 0.5
#: Plans of less than this are no ground for a comparison [W]; and no factor beyond these is believed.
LEAST_PLAN_W, LEAST_USE, MOST_USE = 5.0, 0.1, 5.0
#: Days of the log that show how much a house's use differs from day to day: so many at least, each read in so many of its hours. Our
#: assumption.
LEAST_DAYS, DAY_READ_H = 6, 18
#: A reading older than this says nothing of now [h].
FRESH_H = 0.5
#: A gauge that is set anew may jump by so much; further it is believed only once it has said the same so often, an hour apart.
#: Our assumption.
JUMP_FRAC, SAID_AGAIN = 0.15, 3
#: From this on a generator runs [W].
RUNS_W = 30.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Fact:
    """What is known of a moment; none where it was not read."""

    at_h: float
    charge_frac: float | None = None
    runs: bool | None = None
    fuel_l: float | None = None
    #: Somebody stands behind it: it is believed whatever was read before.
    is_told: bool = False


def reckoned(course: Course, stretches: Sequence[Stretch], facts: Sequence[Fact], at_h: float) -> State:
    """
    The state at a moment: from the beginning through each decision and each fact, by the model in between.

    :param stretches: what was decided, from when on; the first from the beginning [h from the start].
    :param facts: in any order; those after the moment are left out.
    """
    own = sorted((fact for fact in facts if -SOON_H <= fact.at_h <= at_h + SOON_H), key=lambda fact: fact.at_h)
    state, reached_h = course.first(), 0.0
    capacity_wh = course.prepared.plant.acceptance.capacity_wh
    for fact in (*own, Fact(at_h=at_h)):
        for _, _, after in course.along(state, stretches, reached_h, min(fact.at_h, at_h)):
            state = after
        reached_h = max(min(fact.at_h, at_h), reached_h)
        if fact.charge_frac is not None:
            state = state._replace(stored_wh=min(max(fact.charge_frac, 0.0), 1.0) * capacity_wh)
        state = state._replace(genset=_genset(course, state.genset, fact))
    return state


def _genset(course: Course, genset: Genset, fact: Fact) -> Genset:
    plant = course.prepared.plant.generator
    if fact.fuel_l is not None:
        genset = genset._replace(fuel_l=fact.fuel_l, tank_l=min(plant.tank_l, fact.fuel_l))
    if fact.runs is not None and plant.rated_w > 0 and fact.runs != genset.runs:
        genset = genset._replace(runs=fact.runs, run_h=0.0)
    return genset


def facts_of(log: Log, start_s: float, fuel: Sequence[tuple[float, float]], generator_is_read: bool) -> list[Fact]:
    """
    Facts from readings, of each hour the last, and from what was counted.

    :param start_s: start of the outage, seconds of local standard time since 1970 [s].
    :param fuel: fuel on hand, when and how much [h, L].
    """
    found = [Fact(at_h=at_h, fuel_l=litres) for at_h, litres in fuel]
    for at_s, value in _hourly(log.find(Quantity.CHARGE)):
        found.append(Fact(at_h=(at_s - start_s) / HOUR_S, charge_frac=value / 100.0))
    if generator_is_read:
        for at_s, value in _hourly(log.find(Quantity.GENERATOR_W)):
            found.append(Fact(at_h=(at_s - start_s) / HOUR_S, runs=value > RUNS_W))
    return found


def believed(facts: Sequence[Fact], per_h: float) -> tuple[list[Fact], tuple[Fact, ...]]:
    """
    Facts whose charge the bank can have reached from the one before, and those that it cannot: a gauge that jumps is not believed
    until it has said the same a few times.

    :param per_h: the most by which the charge can change, as a part of full [1/h].
    :returns: facts to go by, the charge left out where it is not believed; and the doubted ones.
    """
    kept: list[Fact] = []
    doubted: list[Fact] = []
    #: When it was last believed, and what it said [h, part of full]; and since then what was not believed.
    last: tuple[float, float] | None = None
    apart: list[Fact] = []
    for fact in sorted(facts, key=lambda each: (each.at_h, not each.is_told)):
        if fact.charge_frac is None:
            kept.append(fact)
            continue
        is_far = last is not None and abs(fact.charge_frac - last[1]) > JUMP_FRAC + per_h * (fact.at_h - last[0])
        if is_far and not fact.is_told:
            apart.append(fact)
            if len(apart) < SAID_AGAIN:
                kept.append(replace(fact, charge_frac=None))
                doubted.append(fact)
                continue
            # It stays there: the gauge was set, or the bank is another one.
            doubted = [each for each in doubted if each not in apart]
        kept.append(fact)
        last, apart = (fact.at_h, fact.charge_frac), []
    return kept, tuple(doubted)


def _hourly(trace: Trace | None) -> Iterator[tuple[float, float]]:
    if trace is None or not trace.at_s.size:
        return
    hour = np.floor(trace.at_s / HOUR_S)
    last = np.append(np.flatnonzero(np.diff(hour)), trace.at_s.size - 1)
    yield from zip(trace.at_s[last].tolist(), trace.values[last].tolist(), strict=True)


@dataclass(frozen=True, kw_only=True, slots=True)
class GroupUse:
    """What a group of loads took of late, beside its plan in the same hours."""

    #: Name of the group as its readings call it; empty for the whole house.
    part: str
    read_w: float
    plan_w: float
    #: How many times its plan.
    factor: float
    #: Those that the factor holds for; none where the plan has next to nothing in these hours.
    loads: frozenset[str]


def uses_of(
    course: Course, log: Log, start_s: float, at_h: float, stretches: Sequence[Stretch]
) -> tuple[GroupUse, ...]:
    """
    What was read of the house's use over the last hours: by group, and what is left of the whole.

    What was left off meanwhile stands in the readings before that: counted are those since, and until there are enough of them those
    before, with everything that was on then.
    """
    changed_h = _changed_h(stretches, at_h)
    if changed_h is not None and changed_h > at_h - USE_OVER_H:
        if at_h - changed_h >= LEAST_SINCE_H:
            since = _uses(course, log, start_s, at_h, choices_at(stretches, at_h), at_h - changed_h)
            if since:
                return since
        before_h = max(changed_h - 2.0 * SOON_H, 0.0)
        return _uses(course, log, start_s, before_h, choices_at(stretches, before_h), USE_OVER_H)
    return _uses(course, log, start_s, at_h, choices_at(stretches, at_h), USE_OVER_H)


def _changed_h(stretches: Sequence[Stretch], at_h: float) -> float | None:
    """When what is left off changed for the last time [h]; none where it never did."""
    changed = [
        later.from_h
        for earlier, later in pairwise(stretches)
        if later.from_h <= at_h + SOON_H and later.choices.off != earlier.choices.off
    ]
    return changed[-1] if changed else None


def _uses(
    course: Course, log: Log, start_s: float, at_h: float, choices: Choices, over_h: float
) -> tuple[GroupUse, ...]:
    design = course.design
    found = []
    grouped: set[str] = set()
    for part in log.parts(Quantity.LOAD_W):
        ids = group_ids(design, part) - choices.off
        use = _use(course, log.find(Quantity.LOAD_W, part), start_s, at_h, ids, part, over_h)
        if use is not None:
            found.append(use)
            grouped |= use.loads
    rest = (
        {load.id for load in design.loads if load.supply.is_ac and load.tier is not Tier.SPARE} - choices.off - grouped
    )
    whole = _recent(log.find(Quantity.INVERTER_W), start_s, at_h, over_h)
    if whole is not None and rest:
        from_h, read_w = whole
        # What a group takes that the plan knows nothing of stays with the rest.
        read_w -= sum(use.read_w for use in found if use.loads and _all_ac(design, use.loads))
        found.append(_compared(course, from_h, at_h, rest, "", max(read_w, 0.0)))
    return tuple(found)


def _all_ac(design: Design, ids: frozenset[str]) -> bool:
    return all(load.supply.is_ac for load in design.loads if load.id in ids)


def _use(
    course: Course, trace: Trace | None, start_s: float, at_h: float, ids: set[str], part: str, over_h: float
) -> GroupUse | None:
    recent = _recent(trace, start_s, at_h, over_h)
    return None if recent is None or not ids else _compared(course, recent[0], at_h, ids, part, recent[1])


def _recent(trace: Trace | None, start_s: float, at_h: float, over_h: float) -> tuple[float, float] | None:
    """From when on it was read of late, and the mean [h, W]; none with too few readings or none of now."""
    if trace is None:
        return None
    at = (trace.at_s - start_s) / HOUR_S
    own = (at >= at_h - over_h) & (at <= at_h + SOON_H)
    if own.sum() < LEAST_READINGS or at_h - float(at[own][-1]) > FRESH_H:
        return None
    lengths = lengths_h(trace.at_s[own])
    values = trace.values[own]
    mean_w = float(values.mean()) if lengths.sum() <= 0 else float(lengths @ values / lengths.sum())
    return float(at[own][0]), mean_w


def _compared(course: Course, from_h: float, at_h: float, ids: set[str], part: str, read_w: float) -> GroupUse:
    plan_w = planned_w(course, from_h, at_h, ids)
    if plan_w < LEAST_PLAN_W:
        return GroupUse(part=part, read_w=read_w, plan_w=plan_w, factor=1.0, loads=frozenset())
    factor = float(np.clip(read_w / plan_w, LEAST_USE, MOST_USE))
    return GroupUse(part=part, read_w=read_w, plan_w=plan_w, factor=factor, loads=frozenset(ids))


def planned_w(course: Course, from_h: float, to_h: float, ids: set[str]) -> float:
    """Mean watts that the plan has for some loads between two moments [W]."""
    edges_h, rows = course.edges_h, course.prepared.rows
    overlap = np.clip(np.minimum(edges_h[1:], to_h) - np.maximum(edges_h[:-1], from_h), 0.0, None)
    own = np.array([load.id in ids for load in course.design.loads])
    watts = rows.average_w[own].sum(axis=0)[course.prepared.scene.row]
    total_h = float(overlap.sum())
    return float(overlap @ watts) / total_h if total_h > 0 else 0.0


def use_factors(design: Design, uses: Sequence[GroupUse]) -> Floats:
    """How many times its plan each load takes, in the order of the completed design, (loads,)."""
    factor = {key: use.factor for use in uses for key in use.loads}
    return np.array([factor.get(load.id, 1.0) for load in design.loads])


def use_spreads(design: Design, uses: Sequence[GroupUse], from_day_to_day: float | None) -> Floats:
    """How far each load's use may be from what is reckoned with, one standard deviation as a part of it, (loads,).

    :param from_day_to_day: how much the use of this house differs by its log; none where that does not say.
    """
    read = {key for use in uses for key in use.loads}
    least = np.array([USE_SPREAD if load.id in read else USE_SPREAD_UNREAD for load in design.loads])
    spread: Floats = np.minimum(np.maximum(least, from_day_to_day or 0.0), USE_SPREAD_MOST)
    return spread


def use_from_day_to_day(by_hour: Trace) -> float | None:
    """
    How much the house's use differs from day to day: standard deviation of the logarithms of the days' means.

    :param by_hour: means of the hours that were read, at their beginnings, local standard time [W].
    :return: a part of the use; none where too few days of the log were read.
    """
    _, day = np.unique(blocks(by_hour.at_s, DAY_S), return_inverse=True)
    read_h, taken_wh = np.bincount(day), np.bincount(day, weights=by_hour.values)
    whole = (read_h >= DAY_READ_H) & (taken_wh > 0)
    if whole.sum() < LEAST_DAYS:
        return None
    return float(np.std(np.log(taken_wh[whole] / read_h[whole]), ddof=1))
