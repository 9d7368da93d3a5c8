"""Starts of one length put together as the compiled model takes them: those of a month, on one rating of the generator."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.inverter import Draws, draws_of, house_watts
from hearthkeep.core.loads import HOURS, DayKind, day_of, rows_from
from hearthkeep.core.outage import Clock, Plant, Starts, clock_of, hourly_mean_w, limits_for, plant_of
from hearthkeep.core.sources import GeneratorRating, rate_generator
from hearthkeep.core.trials.year import TrialYear, begun

Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]


@dataclass(frozen=True, kw_only=True, slots=True)
class Part:
    """Outages that share house and plant."""

    #: Which of the starts asked for, by position, (starts,).
    places: Ints
    starts: Starts
    draws: Draws
    plant: Plant


@dataclass(frozen=True, kw_only=True, slots=True)
class _Days:
    """The calendar days of outages of one length, by the hour of the day at which they begin."""

    #: The outage cut into steps, by hour of the day of its start.
    clocks: tuple[Clock, ...]
    #: Calendar days in which each has steps, and on which dates its warmest day is looked for.
    with_steps: Ints
    with_dates: Ints
    #: Whether nobody is at home, by calendar day of the outage.
    away: Bools


def parts_of(year: TrialYear, duration_h: float, start_h: Ints) -> Iterator[Part]:
    """
    The parts of a trial, each ready to be run.

    :param start_h: full hours from the first one of the year, (starts,).
    """
    days = _days(year, duration_h)
    start_day, clock_hour = start_h // HOURS, start_h % HOURS
    ratings = _ratings(year, days, start_day, clock_hour)
    derates = np.array([1.0 if rating is None else rating.derate_frac for rating in ratings])
    month = year.month[start_day]
    for number in np.unique(month):
        for derate in np.unique(derates[month == number]):
            places = np.flatnonzero((month == number) & (derates == derate))
            yield _part(year, days, places, start_day[places], clock_hour[places], ratings[int(places[0])])


def _days(year: TrialYear, duration_h: float) -> _Days:
    base = year.base.design
    moved = [begun(base, year.first_day + timedelta(hours=hour), duration_h).outage for hour in range(HOURS)]
    clocks = tuple(clock_of(base.model_copy(update={"outage": outage})) for outage in moved)
    with_steps = np.array([int(clock.day[-1]) + 1 for clock in clocks])
    with_dates = np.array([(outage.end.date() - outage.start.date()).days + 1 for outage in moved])
    entered = year.entered.outage.days
    most = int(max(with_steps.max(), with_dates.max()))
    away = np.array([entered[min(day, len(entered) - 1)].away for day in range(most)], dtype=bool)
    return _Days(clocks=clocks, with_steps=with_steps, with_dates=with_dates, away=away)


def _ratings(year: TrialYear, days: _Days, start_day: Ints, clock_hour: Ints) -> list[GeneratorRating | None]:
    """The generator as each outage's warmest day leaves it."""
    design = year.base.design
    if design.charging.generator is None:
        return [None] * start_day.shape[0]
    any_day = design.outage.days[0]
    found: dict[float, GeneratorRating | None] = {}
    ratings = []
    for day, hour in zip(start_day.tolist(), clock_hour.tolist(), strict=True):
        warmest_c = float(year.warmest_c[day : day + days.with_dates[hour]].max())
        if warmest_c not in found:
            outage = design.outage.model_copy(update={"days": (any_day.model_copy(update={"air_temp_c": warmest_c}),)})
            found[warmest_c] = rate_generator(design.model_copy(update={"outage": outage}))
        ratings.append(found[warmest_c])
    return ratings


def _part(
    year: TrialYear,
    days: _Days,
    places: Ints,
    start_day: Ints,
    clock_hour: Ints,
    generator: GeneratorRating | None,
) -> Part:
    base = year.base
    kinds, day_row = _kinds(year, days, start_day, clock_hour)
    limits = limits_for(base.design, base.rating, generator, base.limits.cables)
    house = house_watts(rows_from(base.design.loads, kinds), base.design.inverter, limits)
    return Part(
        places=places,
        starts=Starts(
            first=start_day * year.steps_a_day + clock_hour * (year.steps_a_day // HOURS),
            clock=clock_hour,
            length_h=np.stack([clock.length_h for clock in days.clocks]),
            day_row=day_row,
            away=days.away,
        ),
        draws=draws_of(house),
        plant=plant_of(
            base.design,
            base.rating,
            generator,
            start_frac=base.fill.reached_frac,
            flat_frac=base.limits.cables.flat_frac,
        ),
    )


def _kinds(year: TrialYear, days: _Days, start_day: Ints, clock_hour: Ints) -> tuple[tuple[DayKind, ...], Ints]:
    """The kinds of day that the outages hold, and the first row of each calendar day of each, (starts, days)."""
    waits = any(load.flexible_h is not None for load in year.base.design.loads)
    most = int(days.with_steps[np.unique(clock_hour)].max())
    day = start_day[:, np.newaxis] + np.arange(most)
    away = np.broadcast_to(days.away[:most], day.shape)
    if waits:
        return _kinds_by_window(year, days, start_day, clock_hour, most)
    codes, number = np.unique((year.month[day] * 2 + year.dark[day]) * 2 + away, return_inverse=True)
    kinds = tuple(DayKind(month=int(code // 4), is_dark=bool(code // 2 % 2), is_away=bool(code % 2)) for code in codes)
    return kinds, number.reshape(day.shape).astype(np.int64) * HOURS


def _kinds_by_window(
    year: TrialYear, days: _Days, start_day: Ints, clock_hour: Ints, most: int
) -> tuple[tuple[DayKind, ...], Ints]:
    """
    The same where loads wait for the sun, which look at the sun of those hours of a day that lie in the outage.

    Days on which all of them find the same hours are one kind.
    """
    loads = [load for load in year.base.design.loads if load.flexible_h is not None]
    windows: dict[tuple[int, bool, int, int], int] = {}
    patterns: dict[tuple[object, ...], int] = {}
    kinds: list[DayKind] = []
    row = np.zeros((start_day.shape[0], most), dtype=np.int64)
    for one, (first, hour) in enumerate(zip(start_day.tolist(), clock_hour.tolist(), strict=True)):
        clock = days.clocks[hour]
        edges = np.searchsorted(clock.day, np.arange(days.with_steps[hour] + 1)).tolist()
        begin = first * year.steps_a_day + hour * (year.steps_a_day // HOURS)
        for number, (since, until) in enumerate(pairwise(edges)):
            away = bool(days.away[number])
            window = (begin + since, away, until - since, hour if until == edges[-1] else -1)
            if window not in windows:
                sun_w = hourly_mean_w(
                    clock.hour[since:until],
                    clock.length_h[since:until],
                    year.given(away=away).sun.offered_w[begin + since : begin + until],
                )
                day = first + number
                kind = DayKind(month=int(year.month[day]), is_dark=bool(year.dark[day]), is_away=away, sun_w=sun_w)
                found = (kind.month, kind.is_dark, away, *(day_of(load, kind).on.tobytes() for load in loads))
                if found not in patterns:
                    patterns[found] = len(kinds)
                    kinds.append(kind)
                windows[window] = patterns[found]
            row[one, number] = windows[window] * HOURS
    return tuple(kinds), row
