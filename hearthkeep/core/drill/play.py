"""A drill played: decisions laid over the storm as it comes, and what comes of them. The same decisions always give the same."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from hearthkeep.core.design import DesignPart, Identifier, SnowHabit
from hearthkeep.core.drill.scenario import LONGEST_DRILL_H, SurpriseKind
from hearthkeep.core.drill.world import GUEST_ID, World
from hearthkeep.core.foresight import (
    SOON_H,
    Course,
    Doings,
    GeneratorWish,
    Stretch,
    Way,
    doing,
    steps_under,
)
from hearthkeep.core.outage import Steps

#: Decisions of one drill.
MOST_DECISIONS = 300
#: A run that is told for no time goes on until it is stopped [h].
ENDLESS_H = float("inf")


class DecisionKind(StrEnum):
    """What a person decides."""

    LEAVE_OFF = "leave_off"
    TURN_ON = "turn_on"
    GENERATOR_ON = "generator_on"
    GENERATOR_OFF = "generator_off"
    SWEEP = "sweep"
    FETCH_FUEL = "fetch_fuel"
    #: Hold another instrument to the bank.
    CROSS_READ = "cross_read"


class DrillDecision(DesignPart):
    """One decision."""

    #: Hours from the start of the outage [h].
    at_h: Annotated[float, Field(strict=True, ge=0, le=LONGEST_DRILL_H)]
    kind: DecisionKind
    loads: Annotated[tuple[Identifier, ...], Field(max_length=400)] = ()
    #: For how long the generator is to run; none until it is stopped [h].
    for_h: Annotated[float, Field(strict=True, gt=0, le=48)] | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Played:
    """Decisions laid over a storm."""

    stretches: tuple[Stretch, ...]
    course: Course
    #: What came of each decision, in words; empty where it simply worked.
    results: tuple[str, ...]
    #: The gauge was found out at this moment; none where nobody looked [h].
    cross_read_h: float | None


def played(world: World, decisions: Sequence[DrillDecision]) -> Played:
    """Lay decisions over a storm, in the order of their hours."""
    ordered = sorted(decisions, key=lambda decision: decision.at_h)
    way = start_of(world)
    sweeps: list[float] = []
    fetched = doing(world.days, False)
    results = []
    cross_read_h = None
    for decision in ordered:
        at_h, said = decision.at_h, ""
        if decision.kind is DecisionKind.LEAVE_OFF:
            way = way.leaving_off(at_h, frozenset(decision.loads))
        elif decision.kind is DecisionKind.TURN_ON:
            way = way.bringing_back(at_h, frozenset(decision.loads))
        elif decision.kind is DecisionKind.GENERATOR_ON:
            said = _cannot_start(world, at_h)
            if not said:
                way = way.between(at_h, at_h + (decision.for_h or ENDLESS_H), GeneratorWish.ON)
        elif decision.kind is DecisionKind.GENERATOR_OFF:
            way = way.between(at_h, ENDLESS_H, GeneratorWish.OFF)
        elif decision.kind is DecisionKind.SWEEP:
            said = _cannot_sweep(world, at_h)
            if not said:
                sweeps.append(at_h)
        elif decision.kind is DecisionKind.FETCH_FUEL:
            said = _cannot_fetch(world, at_h)
            if not said:
                fetched = fetched.fetching(world.course.day_of(at_h))
        else:
            off = world.gauge_off_points(at_h)
            cross_read_h = at_h if off and cross_read_h is None else cross_read_h
            said = f"The gauge reads {off:.0f} points too much." if off else "The instruments agree."
        results.append(said)
    course = world.course.under(_steps(world, sweeps, fetched))
    return Played(stretches=way.stretches, course=course, results=tuple(results), cross_read_h=cross_read_h)


def start_of(world: World) -> Way:
    """What goes on if nobody decides anything: a guest comes, and a generator that will not start stands still."""
    way = Way(stretches=(Stretch(0.0, world.still),), doings=doing(world.days, False))
    guest, broken = world.surprise(SurpriseKind.GUEST), world.surprise(SurpriseKind.GENERATOR_FAILS)
    if guest is not None:
        way = way.bringing_back(float(guest.from_h), frozenset({GUEST_ID}))
    if broken is not None:
        way = way.between(float(broken.from_h), float(broken.to_h), GeneratorWish.OFF)
    return way


def _cannot_start(world: World, at_h: float) -> str:
    generator = world.course.design.charging.generator
    if generator is None:
        return "There is no generator."
    if world.real_days[min(world.course.day_of(at_h), len(world.real_days) - 1)].away:
        return "Nobody is there to start it."
    return "" if world.will_start(at_h) else "It does not start."


def _cannot_sweep(world: World, at_h: float) -> str:
    day = world.course.day_of(at_h)
    if not any(array.snow is SnowHabit.SWEPT for array in world.course.design.charging.arrays):
        return "No array of this design can be reached to be cleared."
    return "" if world.real.covered[min(day, world.days - 1)] else "No snow lies on the panels."


def _cannot_fetch(world: World, at_h: float) -> str:
    day = world.real_days[min(world.course.day_of(at_h), len(world.real_days) - 1)]
    if world.course.design.charging.generator is None:
        return "There is no generator to fetch it for."
    if not day.fuel:
        return "No fuel can be had today."
    return "" if world.course.clock_h(at_h) <= 12 else "Too late: it is there at noon."


def _steps(world: World, sweeps: Sequence[float], fetched: Doings) -> Steps:
    """The sun as it comes: from the hour at which snow was cleared to the end of that day as swept."""
    lying = steps_under(world.skies, [world.real], fetched)[0]
    if not sweeps:
        return lying
    swept = steps_under(world.skies, [world.real], replace(fetched, swept=np.ones(world.days, dtype=bool)))[0]
    clock = world.course.prepared.scene.clock
    is_swept: NDArray[np.bool_] = np.zeros(clock.day.shape[0], dtype=bool)
    for at_h in sweeps:
        is_swept |= (clock.day == world.course.day_of(at_h)) & (clock.edges_h[:-1] >= at_h - SOON_H)
    return lying._replace(
        sun_w=np.where(is_swept, swept.sun_w, lying.sun_w),
        clipped_w=np.where(is_swept, swept.clipped_w, lying.clipped_w),
        coupled_w=np.where(is_swept, swept.coupled_w, lying.coupled_w),
    )
