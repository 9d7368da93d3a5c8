"""Starts of one length put together as the compiled model takes them: those of a month, on one rating of the generator."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Design, Load
from hearthkeep.core.inverter import Draws, draws_of, house_watts
from hearthkeep.core.loads import HOURS, DayKind, rows_from, waiting_hours
from hearthkeep.core.outage import (
    Clock,
    Plant,
    Starts,
    by_day,
    clock_of,
    grid_steps,
    limits_for,
    plant_of,
    started_by_hand,
    with_grid,
)
from hearthkeep.core.sources import GeneratorRating, rate_generator
from hearthkeep.core.trials.year import TrialYear, begun

Floats = NDArray[np.float64]
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
    #: By calendar day of the outage: whose row of sources holds, as in Starts; whether nobody is at home; whether fuel can be had.
    who: Ints
    away: Bools
    fuel: Bools
    #: Whether the grid is back, by hour of the day of its start and step, (24, steps).
    on_grid: Bools


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
            yield _part(year, days, places, start_h[places], duration_h, ratings[int(places[0])])


def _days(year: TrialYear, duration_h: float) -> _Days:
    base = year.base.design
    moved = [begun(base, year.first_day + timedelta(hours=hour), duration_h).outage for hour in range(HOURS)]
    clocks = tuple(clock_of(base.model_copy(update={"outage": outage})) for outage in moved)
    with_steps = np.array([int(clock.day[-1]) + 1 for clock in clocks])
    with_dates = np.array([(outage.end.date() - outage.start.date()).days + 1 for outage in moved])
    entered = year.entered.outage.days
    most = int(max(with_steps.max(), with_dates.max()))
    day = np.arange(most)
    away = by_day([entry.away for entry in entered], day)
    on_foot = by_day([not entry.car for entry in entered], day)
    on_grid = np.stack([grid_steps(base, clock) for clock in clocks])
    return _Days(
        clocks=clocks,
        with_steps=with_steps,
        with_dates=with_dates,
        who=np.where(away, 1, np.where(on_foot, 2, 0)),
        away=away,
        fuel=by_day([entry.fuel for entry in entered], day),
        on_grid=on_grid,
    )


def _ratings(year: TrialYear, days: _Days, start_day: Ints, clock_hour: Ints) -> list[GeneratorRating | None]:
    """The generator as each outage's warmest day leaves it."""
    design = year.base.design
    if design.charging.generator is None:
        return [None] * start_day.shape[0]
    with_dates = days.with_dates[clock_hour]
    spans, span = np.unique(np.stack([start_day, with_dates], axis=-1), axis=0, return_inverse=True)
    warmest_c = np.array([year.warmest_c[first : first + count].max() for first, count in spans.tolist()])
    found = {value: rating_on(design, value) for value in np.unique(warmest_c).tolist()}
    return [found[value] for value in warmest_c[span.reshape(-1)].tolist()]


def rating_on(design: Design, warmest_c: float) -> GeneratorRating | None:
    """The generator in an outage whose warmest day is so warm [°C]; none without one."""
    day = design.outage.days[0].model_copy(update={"air_temp_c": warmest_c})
    return rate_generator(design.model_copy(update={"outage": design.outage.model_copy(update={"days": (day,)})}))


def _part(
    year: TrialYear,
    days: _Days,
    places: Ints,
    start_h: Ints,
    duration_h: float,
    generator: GeneratorRating | None,
) -> Part:
    base, start_day, clock_hour = year.base, start_h // HOURS, start_h % HOURS
    kinds, day_row = _kinds(year, days, start_day, clock_hour, duration_h)
    limits = limits_for(base.design, base.rating, generator, base.limits.cables)
    if days.on_grid.any():
        grid_rows, kinds = len(kinds) * HOURS, with_grid(kinds)
    else:
        grid_rows = 0
    house = house_watts(rows_from(base.design.loads, kinds), base.design.inverter, limits)
    return Part(
        places=places,
        starts=Starts(
            first=start_h * (year.steps_a_day // HOURS),
            clock=clock_hour,
            length_h=np.stack([clock.length_h for clock in days.clocks]),
            day_row=day_row,
            who=days.who,
            away=days.away,
            fuel=days.fuel,
            on_grid=days.on_grid,
            grid_w=base.scene.grid_w,
            grid_rows=grid_rows,
            by_hand=started_by_hand(base.design),
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


def _kinds(
    year: TrialYear, days: _Days, start_day: Ints, clock_hour: Ints, duration_h: float
) -> tuple[tuple[DayKind, ...], Ints]:
    """The kinds of day that the outages hold, and the first row of each calendar day of each, (starts, days)."""
    most = int(days.with_steps[np.unique(clock_hour)].max())
    number = np.arange(most)
    day = start_day[:, np.newaxis] + number
    codes = (year.month[day] * 2 + year.dark[day]) * 2 + days.away[number]
    waiting = [load for load in year.base.design.loads if load.flexible_h is not None]
    if year.sun_by_hour_w is None:
        found, kind = np.unique(codes, return_inverse=True)
        return tuple(_kind(int(code)) for code in found), kind.reshape(day.shape).astype(np.int64) * HOURS
    # The hours of each day that lie in the outage: loads that wait for the sun look at no others.
    since = np.where(number == 0, clock_hour[:, np.newaxis], 0)
    until = np.clip(clock_hour[:, np.newaxis] + int(duration_h) - number * HOURS, 0, HOURS)
    room = (13 * 4, year.month.shape[0], HOURS + 1, HOURS + 1)
    windows = np.ravel_multi_index(tuple(np.broadcast_arrays(codes, day, since, until)), room)
    different, window = np.unique(windows, return_inverse=True)
    kinds, kind_of_window = _kinds_of_windows(
        year.sun_by_hour_w, np.stack(np.unravel_index(different, room), axis=-1), waiting
    )
    return kinds, kind_of_window[window.reshape(day.shape)] * HOURS


def _kind(code: int, sun_w: Floats | None = None) -> DayKind:
    """A kind of day by its number: its month, whether it is dark, whether nobody is at home."""
    return DayKind(
        month=code // 4,
        is_dark=bool(code // 2 % 2),
        is_away=bool(code % 2),
        sun_w=None if sun_w is None else tuple(sun_w.tolist()),
    )


def _kinds_of_windows(by_hour_w: Floats, windows: Ints, waiting: list[Load]) -> tuple[tuple[DayKind, ...], Ints]:
    """
    The kinds of day among windows, and which of them each is: those in which all loads that wait find the same hours are one.

    :param by_hour_w: mean sun at home and away, by calendar day and hour [W], (2, days, 24).
    :param windows: number of a kind of day, calendar day, first hour and hour after the last, (windows, 4).
    """
    code, day, since, until = windows.T
    sun_w = by_hour_w[code % 2, day]
    hour = np.arange(HOURS)
    sun_w = np.where((hour >= since[:, np.newaxis]) & (hour < until[:, np.newaxis]), sun_w, 0.0)
    kinds: list[DayKind] = []
    kind_of = np.empty(code.shape[0], dtype=np.int64)
    for number in np.unique(code).tolist():
        here = np.flatnonzero(code == number)
        runs = np.hstack([waiting_hours(load, _kind(number), sun_w[here]) for load in waiting])
        _, first, alike = np.unique(runs, axis=0, return_index=True, return_inverse=True)
        kind_of[here] = len(kinds) + alike.reshape(-1)
        kinds += [_kind(number, sun_w[here[at]]) for at in first]
    return tuple(kinds), kind_of
