"""The worst starts of the year, each lived once more with its record, as a small strip."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.loads import HOURS
from hearthkeep.core.outage import PreparedOutage, Run, prepare
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials.lived import Lived
from hearthkeep.core.trials.year import TrialYear, begun

#: Worst starts shown, and points of each one's small strip at most.
MOST_WORST, _POINTS = 10, 120


@dataclass(frozen=True, kw_only=True, slots=True)
class SmallStrip:
    """The outage from one start, drawn small."""

    #: Hours from the start, and the charge at them as a part of full.
    time_h: tuple[float, ...]
    stored_frac: tuple[float, ...]
    #: Steps in which Life or Keep was dark, joined: from and to [h].
    dark_h: tuple[tuple[float, float], ...]
    #: The sun is down: from and to [h].
    nights_h: tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class WorstStart:
    """An outage that goes worse than almost all others."""

    #: Local standard time.
    start: datetime
    carried_h: float
    life_carried_h: float
    #: For how long Life or Keep was dark, all together [h]; lowest charge as a part of full; fuel burnt [L].
    dark_for_h: float
    lowest_frac: float
    fuel_l: float
    strip: SmallStrip


def worst_starts(year: TrialYear, lived: Lived, given: WeatherYear | None) -> tuple[WorstStart, ...]:
    """The worst of them, no two of which overlap: neighbouring hours are the same storm."""
    return tuple(_told(year, lived, at, given) for at in _apart(lived))


def worst_first(lived: Lived) -> NDArray[np.int64]:
    """Positions of the starts, the worst first: carried for the shortest time, dark for the longest, lowest in charge."""
    return np.lexsort((lived.start_h, lived.lowest_wh, -lived.dark_for_h, lived.carried_h))


def _apart(lived: Lived) -> list[int]:
    """Positions of the worst starts, none of which overlaps another."""
    apart_h = max(lived.duration_h, HOURS)
    chosen: list[int] = []
    for at in worst_first(lived).tolist():
        if all(abs(int(lived.start_h[at] - lived.start_h[other])) >= apart_h for other in chosen):
            chosen.append(at)
            if len(chosen) == MOST_WORST:
                break
    return chosen


def _told(year: TrialYear, lived: Lived, at: int, given: WeatherYear | None) -> WorstStart:
    start = year.first_day + timedelta(hours=int(lived.start_h[at]))
    prepared = prepare(begun(year.entered, start, lived.duration_h), given)
    return WorstStart(
        start=start,
        carried_h=float(lived.carried_h[at]),
        life_carried_h=float(lived.life_carried_h[at]),
        dark_for_h=float(lived.dark_for_h[at]),
        lowest_frac=float(lived.lowest_wh[at]) / prepared.rating.capacity_wh,
        fuel_l=float(lived.fuel_l[at]),
        strip=_small(prepared, prepared.run()),
    )


def _small(prepared: PreparedOutage, run: Run) -> SmallStrip:
    scene, edges_h = prepared.scene, prepared.scene.clock.edges_h
    stride = max(1, round(edges_h.shape[0] / _POINTS))
    shown = np.unique(np.append(np.arange(0, edges_h.shape[0], stride), edges_h.shape[0] - 1))
    return SmallStrip(
        time_h=tuple(edges_h[shown].tolist()),
        stored_frac=tuple((run.stored_wh[shown] / prepared.rating.capacity_wh).tolist()),
        dark_h=scene.clock.spans_h(run.dark_by_step_h > 0),
        nights_h=scene.clock.spans_h(~scene.daylight),
    )
