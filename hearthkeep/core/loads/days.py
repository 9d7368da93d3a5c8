"""Which hours of which day a load runs: usual days, dark days, days away, seasons, and loads that wait for the sun."""

from __future__ import annotations

from dataclasses import dataclass

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
    start_w = load.running_w if load.start_w is None else load.start_w
    running_w, duty, standby_w = load.running_w, load.duty_frac, load.standby_w
    on = np.array(load.on_by_hour, dtype=bool)
    factor = 1.0 if load.month_factors is None else load.month_factors[kind.month - 1]
    dropped = kind.is_dark and load.dark_day is DarkDay.DROP
    if dropped or factor == 0.0 or (kind.is_away and load.stops_when_away):
        # Switched off at the wall: it does not even stand by.
        return DayOfLoad(on=np.zeros(HOURS, dtype=bool), running_w=0.0, start_w=0.0, duty_frac=0.0, standby_w=0.0)
    if kind.is_dark and load.dark_day is DarkDay.SUBSTITUTE:
        running_w = start_w = load.substitute_w
    duty *= factor
    if load.flexible_h is not None:
        on = _waits_for_sun(load, on, kind, load.quantity * running_w * duty)
    return DayOfLoad(on=on, running_w=running_w, start_w=start_w, duty_frac=duty, standby_w=standby_w)


def _waits_for_sun(load: Load, on: NDArray[np.bool_], kind: DayKind, average_w: float) -> NDArray[np.bool_]:
    """The sunniest of its hours, as many as it needs, in which the sun alone carries the load's own average draw."""
    hours = np.flatnonzero(on)
    if kind.sun_w is None:
        order = sorted(hours, key=lambda hour: (abs(hour + 0.5 - NOON_H), hour))
    else:
        sun = kind.sun_w
        order = [hour for hour in sorted(hours, key=lambda hour: (-sun[hour], hour)) if 0 < sun[hour] >= average_w]
    chosen = np.zeros(HOURS, dtype=bool)
    chosen[order[: load.flexible_h]] = True
    return chosen


def converter_efficiency(load: Load) -> float:
    """Efficiency of a load's own converter."""
    given = load.converter_efficiency_frac
    return TYPICAL_CONVERTER_EFFICIENCY if given is None else given
