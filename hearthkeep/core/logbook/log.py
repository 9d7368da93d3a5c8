"""The readings of an installation as arrays, ready to be compared with the plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.logbook.quantities import Quantity

Floats = NDArray[np.float64]
Key = tuple[Quantity, str]

#: Between readings that lie this many times the usual distance apart there is a gap.
GAP_TIMES = 3.5
HOUR_S, DAY_S = 3_600.0, 86_400.0
#: How the part of a series ends whose readings are kept and not believed.
DOUBTED = " (doubted)"


@dataclass(frozen=True, kw_only=True, slots=True)
class Trace:
    """One quantity over time: seconds of local standard time since 1970, ascending, and values; (n,) each."""

    at_s: Floats
    values: Floats


@dataclass(frozen=True, kw_only=True, slots=True)
class Log:
    """All readings of an installation, by quantity and part."""

    traces: Mapping[Key, Trace]

    def find(self, quantity: Quantity, part: str = "") -> Trace | None:
        """A trace; where the part named none the only one there is, of several the first."""
        own = self.traces.get((quantity, part))
        if own is not None or part:
            return own
        return next((trace for (other, _), trace in self.traces.items() if other is quantity), None)

    def parts(self, quantity: Quantity) -> tuple[str, ...]:
        """The parts of which there are readings of a quantity."""
        return tuple(part for other, part in self.traces if other is quantity)


@dataclass(frozen=True, kw_only=True, slots=True)
class Joint:
    """Several quantities at the moments that they share, (n,) each."""

    at_s: Floats
    columns: tuple[Floats, ...]
    #: How long each reading stands for: to the next one, nothing before a gap [h].
    length_h: Floats


def joint(*traces: Trace) -> Joint:
    """Traces at the moments that all of them have."""
    at_s = traces[0].at_s
    for trace in traces[1:]:
        at_s = np.intersect1d(at_s, trace.at_s, assume_unique=True)
    columns = tuple(trace.values[np.searchsorted(trace.at_s, at_s)] for trace in traces)
    return Joint(at_s=at_s, columns=columns, length_h=lengths_h(at_s))


def lengths_h(at_s: Floats) -> Floats:
    """How long each reading stands for: to the next one, nothing where there is a gap [h], (n,)."""
    if at_s.size < 2:
        return np.zeros(at_s.size)
    steps = np.diff(at_s)
    usual = float(np.median(steps))
    steps = np.where(steps > GAP_TIMES * usual, 0.0, steps)
    return np.append(steps, 0.0) / HOUR_S


def blocks(at_s: Floats, length_s: float) -> NDArray[np.int64]:
    """Number of the block of time that each moment lies in, (n,)."""
    found: NDArray[np.int64] = np.floor(at_s / length_s).astype(np.int64)
    return found


def block_means(at_s: Floats, length_s: float, *columns: Floats) -> tuple[Floats, ...]:
    """Means of columns over blocks of time, of blocks with readings; neighbours in time are then nearly free of each other."""
    _, group = np.unique(blocks(at_s, length_s), return_inverse=True)
    count = np.bincount(group)
    return tuple(np.bincount(group, weights=column) / count for column in columns)
