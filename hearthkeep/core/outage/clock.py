"""The outage cut into steps: edges, hours of the day, calendar days, mid-step moments."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.sources import Moments

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class Clock:
    """Steps from a start, aligned to the clock so that each lies inside one hour of the day."""

    #: Step edges from the start [h], (n + 1,).
    edges_h: Floats
    #: Length of each step [h], (n,).
    length_h: Floats
    #: Hour of the day of each step, 0 to 23, (n,).
    hour: NDArray[np.int64]
    #: Calendar day of each step, 0 for the day of the start, (n,).
    day: NDArray[np.int64]
    moments: Moments

    def spans_h(self, holds: NDArray[np.bool_]) -> tuple[tuple[float, float], ...]:
        """Stretches of steps in which something holds, from and to, in hours from the start [h]; `holds` is (n,)."""
        turns = np.flatnonzero(np.diff(np.concatenate(([False], holds, [False]))))
        return tuple(
            (float(self.edges_h[start]), float(self.edges_h[end]))
            for start, end in zip(turns[::2], turns[1::2], strict=True)
        )


def cut(start: datetime, *, duration_h: float, step_min: int, utc_offset_h: float) -> Clock:
    """Cut `duration_h` hours from `start` (local standard time) at every clock multiple of the step."""
    into_day_h = start.hour + start.minute / 60.0 + start.second / 3600.0
    step_h = step_min / 60.0
    first = math.floor(into_day_h / step_h + 1e-9) + 1
    last = math.ceil((into_day_h + duration_h) / step_h - 1e-9)
    inner = np.arange(first, last) * step_h - into_day_h
    edges = np.concatenate(([0.0], inner, [duration_h]))
    middle = (edges[:-1] + edges[1:]) / 2.0
    clock_h = into_day_h + middle
    return Clock(
        edges_h=edges,
        length_h=np.diff(edges),
        hour=np.floor(clock_h).astype(np.int64) % 24,
        day=np.floor(clock_h / 24.0).astype(np.int64),
        moments=Moments(start=start, offsets_h=tuple(middle.tolist()), utc_offset_h=utc_offset_h),
    )
