"""Which hours of which day a load runs: usual days, dark days, days away, seasons, and loads that wait for the sun."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import DarkDay, Load

HOURS = 24
NOON_H = 12.0
#: Converters where the design names no efficiency. Common practice, no source.
TYPICAL_CONVERTER_EFFICIENCY = 0.9


@dataclass(frozen=True, kw_only=True, slots=True)
class DayKind:
    """What distinguishes one day of the outage from another for the loads."""

    month: int
    is_dark: bool = False
    is_away: bool = False
    #: Mean sun offered in each hour of the day [W], (24,); none where the sun of the day is not looked at, and loads
    #: that wait for it are taken to run around noon.
    sun_w: tuple[float, ...] | None = None
    #: The grid is back for a while: it carries the house, and the bank only what runs on direct current.
    on_grid: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class DayOfLoad:
    """One load on one kind of day."""

    #: Whether it may run, by hour of the day, (24,).
    on: NDArray[np.bool_]
    #: Running and start power of one unit [W].
    running_w: float
    start_w: float
    duty_frac: float
    #: Power of one unit in the other hours [W].
    standby_w: float


def day_of(load: Load, kind: DayKind) -> DayOfLoad:
    """What a load does on a kind of day."""
    day = _before_the_sun(load, kind)
    if load.flexible_h is None:
        return day
    if kind.sun_w is not None:
        return replace(day, on=sunniest_hours(load, day, np.array([kind.sun_w]))[0])
    on = np.zeros(HOURS, dtype=bool)
    around_noon = sorted(np.flatnonzero(day.on), key=lambda hour: (abs(hour + 0.5 - NOON_H), hour))
    on[around_noon[: load.flexible_h]] = True
    return replace(day, on=on)


def waiting_hours(load: Load, kind: DayKind, sun_w: NDArray[np.float64]) -> NDArray[np.bool_]:
    """The hours in which a load that waits for the sun runs on days of one kind with suns of their own [W], both (n, 24)."""
    return sunniest_hours(load, _before_the_sun(load, kind), sun_w)


def sunniest_hours(load: Load, day: DayOfLoad, sun_w: NDArray[np.float64]) -> NDArray[np.bool_]:
    """The sunniest of a day's hours, as many as the load needs, whose sun carries its own average draw, both (n, 24)."""
    average_w = load.quantity * day.running_w * day.duty_frac
    usable = day.on & (sun_w > 0) & (sun_w >= average_w)
    sunniest = np.argsort(np.where(usable, -sun_w, np.inf), axis=1, kind="stable")[:, : load.flexible_h]
    chosen = np.zeros_like(usable)
    np.put_along_axis(chosen, sunniest, np.take_along_axis(usable, sunniest, axis=1), axis=1)
    return chosen


def _before_the_sun(load: Load, kind: DayKind) -> DayOfLoad:
    """What a load does on a kind of day; one that waits for the sun in any of its hours."""
    start_w = load.running_w if load.start_w is None else load.start_w
    running_w, duty = load.running_w, load.duty_frac
    factor = 1.0 if load.month_factors is None else load.month_factors[kind.month - 1]
    dropped = kind.is_dark and load.dark_day is DarkDay.DROP
    if dropped or factor == 0.0 or (kind.is_away and load.stops_when_away):
        # Switched off at the wall: it does not even stand by.
        return DayOfLoad(on=np.zeros(HOURS, dtype=bool), running_w=0.0, start_w=0.0, duty_frac=0.0, standby_w=0.0)
    if kind.is_dark and load.dark_day is DarkDay.SUBSTITUTE:
        running_w = start_w = load.substitute_w
    return DayOfLoad(
        on=np.array(load.on_by_hour, dtype=bool),
        running_w=running_w,
        start_w=start_w,
        duty_frac=duty * factor,
        standby_w=load.standby_w,
    )


def converter_efficiency(load: Load) -> float:
    """Efficiency of a load's own converter."""
    given = load.converter_efficiency_frac
    return TYPICAL_CONVERTER_EFFICIENCY if given is None else given
