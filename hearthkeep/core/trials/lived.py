"""An outage lived from each of many starts: the strip's own model, on as many threads as there are cores."""

from __future__ import annotations

import os
from calendar import isleap
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.loads import HOURS
from hearthkeep.core.outage import OUTCOME_NUMBERS, outcomes_of
from hearthkeep.core.trials.parts import Part, parts_of, rating_on
from hearthkeep.core.trials.year import TrialYear

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
#: 29 February, in days from 1 January of a leap year: the weather year has no such day, and no outage begins on it.
_LEAP_DAY = 59


@dataclass(frozen=True, kw_only=True, slots=True)
class Lived:
    """What came of an outage of one length from each start; every array (starts,)."""

    duration_h: float
    #: Full hours from the first one of the year, and the month they lie in, 1 to 12.
    start_h: Ints
    month: Ints
    #: Until Life, and until Life or Keep, first asked and was not served; the whole outage where that never came [h].
    life_carried_h: Floats
    carried_h: Floats
    #: For how long Life or Keep asked and was not served, all together [h].
    dark_for_h: Floats
    lowest_wh: Floats
    fuel_l: Floats

    def carries(self, length_h: float, *, life_only: bool) -> NDArray[np.bool_]:
        """Whether each start was carried through its first so many hours, (starts,)."""
        carried: NDArray[np.bool_] = (self.life_carried_h if life_only else self.carried_h) >= length_h
        return carried


def all_starts(year: int) -> Ints:
    """Every hour of a calendar year but those of a 29 February, counted from its first, (8760,)."""
    hours = np.arange((365 + isleap(year)) * HOURS)
    return hours[hours // HOURS != _LEAP_DAY] if isleap(year) else hours


def cores() -> int:
    """Cores that this process may use."""
    return len(os.sched_getaffinity(0))


def live(
    year: TrialYear, durations_h: Sequence[float], start_h: Ints | None = None, *, threads: int | None = None
) -> dict[float, Lived]:
    """
    Live through outages of each length from each start.

    :param durations_h: whole hours, none longer than the year was made for [h].
    :param start_h: full hours from the first one of the year; all of them where none are given, (starts,).
    :returns: what came of it, by length; the same numbers as those of the strip's own run from that start.
    """
    starts = all_starts(year.first_day.year) if start_h is None else start_h
    timeline = year.timeline()
    lengths = sorted(set(durations_h))
    if not all(0 < length_h <= year.longest_h and length_h == int(length_h) for length_h in lengths):
        # A shorter last step would have its sun at another moment than the year's own steps.
        raise ValueError(f"lengths must be whole hours up to {year.longest_h:g} h (got {lengths})")
    numbers = {length_h: np.empty((starts.shape[0], OUTCOME_NUMBERS)) for length_h in lengths}

    def run(job: tuple[float, Part]) -> None:
        length_h, part = job
        numbers[length_h][part.places] = outcomes_of(timeline, part.starts, part.draws, part.plant)

    jobs = ((length_h, part) for length_h in reversed(lengths) for part in parts_of(year, length_h, starts))
    with ThreadPoolExecutor(threads or cores()) as pool:
        list(pool.map(run, jobs))
    month = year.month[starts // HOURS]
    return {length_h: _lived(length_h, starts, month, found) for length_h, found in numbers.items()}


def joined(pieces: Sequence[Lived]) -> Lived:
    """Outages of one length from starts that follow each other, as one."""
    return Lived(
        duration_h=pieces[0].duration_h,
        start_h=np.concatenate([piece.start_h for piece in pieces]),
        month=np.concatenate([piece.month for piece in pieces]),
        life_carried_h=np.concatenate([piece.life_carried_h for piece in pieces]),
        carried_h=np.concatenate([piece.carried_h for piece in pieces]),
        dark_for_h=np.concatenate([piece.dark_for_h for piece in pieces]),
        lowest_wh=np.concatenate([piece.lowest_wh for piece in pieces]),
        fuel_l=np.concatenate([piece.fuel_l for piece in pieces]),
    )


def _lived(duration_h: float, start_h: Ints, month: Ints, numbers: Floats) -> Lived:
    dark_h, dark_for_h, lowest_wh, fuel_l, life_dark_h = numbers.T
    return Lived(
        duration_h=duration_h,
        start_h=start_h,
        month=month,
        life_carried_h=np.where(life_dark_h < 0, duration_h, life_dark_h),
        carried_h=np.where(dark_h < 0, duration_h, dark_h),
        dark_for_h=dark_for_h,
        lowest_wh=lowest_wh,
        fuel_l=fuel_l,
    )


def end_matters(year: TrialYear) -> bool:
    """
    Whether the hours before an outage's end depend on when that is.

    Loads that wait for the sun look at the hours of the last day that lie in the outage, and a generator's rating falls with
    the warmest of all its days.
    """
    design = year.base.design
    if any(load.flexible_h is not None for load in design.loads):
        return True
    coolest, warmest = (rating_on(design, float(days_c)) for days_c in (year.warmest_c.min(), year.warmest_c.max()))
    return coolest is not None and warmest is not None and coolest.derate_frac != warmest.derate_frac
