"""A drill at a moment: what the person sees of it, the gauge's lie included."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Design, Sky, SnowHabit, Tier
from hearthkeep.core.drill.play import DecisionKind, DrillDecision, Played, played
from hearthkeep.core.drill.scenario import Scenario, SurpriseKind
from hearthkeep.core.drill.world import GUEST_ID, GUEST_NAME, World, world_of
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.foresight import (
    Choices,
    choices_at,
    pieces,
    run_ended,
    steps_between,
)
from hearthkeep.core.outage import State, Steps, events_of
from hearthkeep.core.sources import WeatherYear

Floats = NDArray[np.float64]

#: Column of Ease among the tiers served.
EASE = 2
#: Days of the forecast that are told.
DAYS_TOLD = 3
#: Hour of the day at which a day's sky is seen.
SEEN_FROM = 7


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillNews:
    """Something that happened, as people notice it."""

    at_h: float
    #: As the outage's model names it, or ``told``.
    kind: str
    tier: str | None
    said: str


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillLoad:
    """A load that can be switched."""

    id: str
    name: str
    tier: Tier
    is_off: bool
    #: What it would take on the average in this hour [W].
    now_w: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillDay:
    """A day as it is foretold, today's as it is."""

    on: date
    sky: Sky
    is_seen: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillStand:
    """A drill at a moment."""

    at_h: float
    end_h: float
    #: The beginning of the outage, and now; local standard time.
    start: datetime
    now: datetime
    is_over: bool
    #: As the gauge shows it, or as it is once somebody held another instrument to it.
    gauge_frac: float
    is_cross_read: bool
    house_w: float
    sun_w: float
    generator_runs: bool
    has_generator: bool
    can_sweep: bool
    fuel_l: float
    #: Whether each is served now; one that asks for nothing counts as served.
    is_life_served: bool
    is_keep_served: bool
    is_ease_served: bool
    #: So far: when Life, and Life or Keep, first was not served [h]; none where never.
    life_dark_h: float | None
    keep_dark_h: float | None
    loads: tuple[DrillLoad, ...]
    days: tuple[DrillDay, ...]
    news: tuple[DrillNews, ...]
    #: What came of each decision, in the order of their hours; empty where it simply worked.
    results: tuple[str, ...]
    #: By full hours so far: hours [h], the gauge [part of full], sun offered, loads served, generator [W], (n,) each, the means
    #: of the hour before; the first stands for the beginning.
    in_h: tuple[float, ...]
    shown_frac: tuple[float, ...]
    sun_by_hour_w: tuple[float, ...]
    served_by_hour_w: tuple[float, ...]
    generator_by_hour_w: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class Lived:
    """A drill run through: pieces put together."""

    edges_h: Floats
    stored_wh: Floats
    served_w: Floats
    sun_w: Floats
    generator_w: Floats
    events: tuple[DrillNews, ...]
    state: State
    life_dark_h: float | None
    keep_dark_h: float | None
    #: What the house's own Ease got [Wh]: a guest's things do not count.
    ease_wh: float


def lived_through(world: World, play: Played, to_h: float) -> Lived:
    """Run a play from its beginning to a moment."""
    course, state = play.course, world.course.first()
    kept = {load.id for load in course.design.loads if load.tier in (Tier.LIFE, Tier.KEEP)}
    edges, stored, served, sun, generator = [0.0], [float(state.stored_wh)], [], [], []
    events: list[DrillNews] = []
    life_dark_h = keep_dark_h = None
    ease_wh = 0.0
    for from_h, until_h, choices in pieces(play.stretches, 0.0, to_h):
        state = run_ended(state, play.stretches, from_h)
        run = course.run(state, from_h, until_h, choices)
        outcome, _ = course.outcome(state, from_h, until_h, choices)
        steps = steps_between(course.steps, course.edges_h, from_h, until_h)
        edges += (from_h + np.cumsum(steps.length_h)).tolist()
        stored += run.stored_wh[1:].tolist()
        served.append(run.served_w)
        ease_wh += _own_ease_wh(world, choices, run.served_w[:, EASE], steps)
        sun.append(steps.sun_w + steps.coupled_w)
        generator.append(run.generator_w)
        events += [
            DrillNews(at_h=from_h + event.time_h, kind=event.kind.value, tier=event.tier, said="")
            for event in events_of(run)
        ]
        if life_dark_h is None and outcome.life_dark_h >= 0:
            life_dark_h = from_h + outcome.life_dark_h
        if keep_dark_h is None and outcome.dark_h >= 0:
            keep_dark_h = from_h + outcome.dark_h
        if choices.off & kept:
            keep_dark_h = from_h if keep_dark_h is None else min(keep_dark_h, from_h)
        state = run.last
    nothing = np.zeros(0)
    return Lived(
        edges_h=np.array(edges),
        stored_wh=np.array(stored),
        served_w=np.concatenate(served) if served else np.zeros((0, 4)),
        sun_w=np.concatenate(sun) if sun else nothing,
        generator_w=np.concatenate(generator) if generator else nothing,
        events=tuple(events),
        state=state,
        life_dark_h=life_dark_h,
        keep_dark_h=keep_dark_h,
        ease_wh=ease_wh,
    )


def _own_ease_wh(world: World, choices: Choices, served_w: Floats, steps: Steps) -> float:
    """What of Ease was served went to the house's own loads, in the measure in which they ask [Wh]."""
    own, asked = ease_asked_w(world, choices)
    of_own = np.divide(own, asked, out=np.zeros_like(own), where=asked > 0)[steps.row]
    return float((served_w * of_own) @ steps.length_h)


def ease_asked_w(world: World, choices: Choices) -> tuple[Floats, Floats]:
    """What Ease asks by hour of each kind of day, the house's own and all of it, what is left off not counted [W], (hours,)."""
    prepared = world.course.prepared
    on = np.array([load.tier is Tier.EASE and load.id not in choices.off for load in prepared.design.loads], dtype=bool)
    own = on & np.array([load.id != GUEST_ID for load in prepared.design.loads], dtype=bool)
    return prepared.rows.average_w[own].sum(axis=0), prepared.rows.average_w[on].sum(axis=0)


def drill_stand(
    design: Design,
    scenario: Scenario,
    decisions: Sequence[DrillDecision],
    at_h: float,
    year: WeatherYear | None = None,
) -> DrillStand:
    """
    A drill at a moment, from its beginning through every decision; the same ones always give the same.

    :param at_h: hours from the start of the outage [h].
    """
    world = world_of(design, scenario, year)
    _checked(world, decisions)
    ordered = sorted(decisions, key=lambda decision: decision.at_h)
    play = played(world, ordered)
    at_h = min(at_h, world.course.end_h)
    lived = lived_through(world, play, at_h)
    course, capacity_wh = play.course, world.course.prepared.plant.acceptance.capacity_wh
    is_cross_read = play.cross_read_h is not None and play.cross_read_h <= at_h
    step = min(int(np.searchsorted(course.edges_h, at_h + 1e-9, side="right")) - 1, course.quiet.shape[0] - 1)
    choices = choices_at(play.stretches, at_h)
    now_run = course.run(lived.state, at_h, min(at_h + 0.1, course.end_h), choices) if at_h < course.end_h else None
    served = lived.served_w[-1] if now_run is None else now_run.served_w[0]
    out = lived.state.out if now_run is None else now_run.last.out
    hours = np.unique(np.append(np.arange(0.0, np.floor(at_h) + 1), at_h))
    lie = np.array([0.0 if _is_known(play, hour) else world.gauge_off_points(hour) / 100 for hour in hours])
    shown = np.clip(np.interp(hours, lived.edges_h, lived.stored_wh) / capacity_wh + lie, 0.0, 1.0)
    start = course.design.outage.start
    return DrillStand(
        at_h=at_h,
        end_h=course.end_h,
        start=start,
        now=start + timedelta(hours=at_h),
        is_over=at_h >= course.end_h - 1e-9,
        gauge_frac=float(shown[-1]),
        is_cross_read=is_cross_read,
        house_w=float(served.sum()),
        sun_w=float(course.steps.sun_w[step] + course.steps.coupled_w[step]),
        generator_runs=bool((lived.state if now_run is None else now_run.last).genset.runs),
        has_generator=course.design.charging.generator is not None,
        can_sweep=any(array.snow is SnowHabit.SWEPT for array in course.design.charging.arrays),
        fuel_l=float(lived.state.genset.fuel_l),
        is_life_served=not out & 1,
        is_keep_served=not out & 3,
        is_ease_served=not out & 7,
        life_dark_h=lived.life_dark_h,
        keep_dark_h=lived.keep_dark_h,
        loads=_loads(world, play, at_h, step),
        days=_days(world, at_h),
        news=_news(world, lived, ordered, play, at_h),
        results=play.results,
        in_h=tuple(hours.tolist()),
        shown_frac=tuple(np.round(shown, 4).tolist()),
        sun_by_hour_w=_means(lived, lived.sun_w, hours),
        served_by_hour_w=_means(lived, lived.served_w.sum(axis=1), hours),
        generator_by_hour_w=_means(lived, lived.generator_w, hours),
    )


def _checked(world: World, decisions: Sequence[DrillDecision]) -> None:
    """Raise InputError where a decision speaks of a load that is not there."""
    known = {load.id for load in world.course.design.loads}
    problems = [
        FieldProblem(field=f"decisions.{number}.loads", value=key, accepted="must name loads of the design")
        for number, decision in enumerate(decisions)
        for key in decision.loads
        if key not in known
    ]
    if problems:
        raise InputError(tuple(problems[:5]))


def _is_known(play: Played, at_h: float) -> bool:
    return play.cross_read_h is not None and at_h >= play.cross_read_h


def _means(
    lived: Lived,
    power_w: Floats,
    hours: Floats,
) -> tuple[float, ...]:
    energy_wh = np.concatenate(([0.0], np.cumsum(power_w * np.diff(lived.edges_h))))
    mean_w = np.diff(np.interp(hours, lived.edges_h, energy_wh)) / np.diff(hours)
    return (0.0, *np.round(mean_w, 1).tolist())


def _loads(world: World, play: Played, at_h: float, step: int) -> tuple[DrillLoad, ...]:
    prepared, choices = world.course.prepared, choices_at(play.stretches, at_h)
    row = prepared.scene.row[step]
    guest = world.surprise(SurpriseKind.GUEST)
    return tuple(
        DrillLoad(
            id=load.id,
            name=load.name,
            tier=load.tier,
            is_off=load.id in choices.off,
            now_w=float(prepared.rows.average_w[number, row]),
        )
        for number, load in enumerate(prepared.design.loads)
        if load.id != GUEST_ID or (guest is not None and at_h >= guest.from_h)
    )


def _days(world: World, at_h: float) -> tuple[DrillDay, ...]:
    today, start = world.course.day_of(at_h), world.course.design.outage.start.date()
    found = []
    for number in range(today, min(today + DAYS_TOLD, len(world.told_days))):
        is_seen = number == today and world.course.clock_h(at_h) >= SEEN_FROM
        day = (world.real_days if is_seen else world.told_days)[number]
        found.append(DrillDay(on=start + timedelta(days=number), sky=day.sky, is_seen=is_seen))
    return tuple(found)


def _news(
    world: World, lived: Lived, decisions: Sequence[DrillDecision], play: Played, at_h: float
) -> tuple[DrillNews, ...]:
    """What people noticed so far: the model's events, the surprises as they show, and what did not work."""
    found = list(lived.events)
    found += [
        DrillNews(at_h=decision.at_h, kind="told", tier=None, said=said)
        for decision, said in zip(decisions, play.results, strict=True)
        if said and decision.kind is not DecisionKind.CROSS_READ
    ]
    for each in world.scenario.surprises:
        for moment_h, said in _seen(world, each.kind, each.from_h, each.to_h, each.day):
            found.append(DrillNews(at_h=moment_h, kind="told", tier=None, said=said))
    return tuple(sorted((each for each in found if each.at_h <= at_h + 1e-9), key=lambda each: each.at_h))


def _seen(world: World, kind: SurpriseKind, from_h: float, to_h: float, day: int) -> list[tuple[float, str]]:
    morning_h = day * 24.0 + SEEN_FROM - world.course.into_day_h
    if kind is SurpriseKind.GUEST:
        return [(float(from_h), f"A guest arrives and plugs in a heater: {GUEST_NAME} is on.")]
    if kind is SurpriseKind.FLICKER:
        return [(float(from_h), "The grid is back."), (float(to_h), "The grid is gone again.")]
    if day >= len(world.real_days) or world.real_days[day].sky == world.told_days[day].sky:
        return []
    if kind is SurpriseKind.SNOW:
        return [(max(morning_h, 0.0), "Snow lies on the panels.")]
    if kind is SurpriseKind.OTHER_SKY:
        return [(max(morning_h, 0.0), f"The day is {world.real_days[day].sky.value}, other than foretold.")]
    return []
