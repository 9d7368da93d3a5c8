"""Readings whose unit slipped on some days, kilowatts among watts: found by their factor, named, and left out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.logbook.log import DAY_S, Log, Trace
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity
from hearthkeep.core.words import counted

Floats = NDArray[np.float64]

#: What is read day after day; a charger or generator that mostly rests differs a thousand times by itself.
#: What a prefix left out, or a part in place of per cent, makes of a reading.
FACTORS: dict[Quantity, tuple[float, ...]] = {
    **dict.fromkeys(
        (
            Quantity.BANK_V, Quantity.BANK_A, Quantity.SUN_W, Quantity.SUN_V, Quantity.INVERTER_W, Quantity.LOAD_W, Quantity.SUN_W_M2,
        ),
        (1e-3, 1e3),
    ),
    Quantity.CHARGE: (1e-2,),
}  # fmt: skip
#: A day's mean has slipped where the factor brings it this near to the middle of all days, either way; of so many days at least,
#: and never of more than half of them. Our own choice.
NEAR, LEAST_DAYS = 4.0, 5


@dataclass(frozen=True, kw_only=True, slots=True)
class Slip:
    """Days of one series that were read by another unit."""

    quantity: Quantity
    part: str
    #: Read so many times what it is.
    factor: float
    days: int

    @property
    def words(self) -> str:
        """As it is told."""
        label = QUANTITIES[self.quantity].label + (f", {self.part}" if self.part else "")
        times = 1.0 / self.factor if self.factor < 1 else self.factor
        how = "small" if self.factor < 1 else "large"
        return (
            f"{label}: {times:,.0f} times too {how} on {counted(self.days, 'day')}, as by another unit; they are left out. Take that "
            "log again with its column in the right unit."
        )


def without_slips(log: Log) -> tuple[Log, tuple[Slip, ...]]:
    """The log without the days whose unit slipped, and which those are."""
    traces, slips = {}, []
    for (quantity, part), trace in log.traces.items():
        kept = np.ones(trace.at_s.size, dtype=bool)
        for factor in FACTORS.get(quantity, ()):
            bad, days = _slipped(trace, factor)
            if days:
                slips.append(Slip(quantity=quantity, part=part, factor=factor, days=days))
                kept &= ~bad
        traces[quantity, part] = trace if kept.all() else Trace(at_s=trace.at_s[kept], values=trace.values[kept])
    return (Log(traces=traces), tuple(slips)) if slips else (log, ())


def _slipped(trace: Trace, factor: float) -> tuple[NDArray[np.bool_], int]:
    """Which readings lie on days that slipped by a factor, and how many days those are."""
    none = np.zeros(trace.at_s.size, dtype=bool)
    if not trace.at_s.size:
        return none, 0
    day = np.floor(trace.at_s / DAY_S).astype(np.int64)
    _, group = np.unique(day, return_inverse=True)
    size = np.bincount(group, weights=np.abs(trace.values)) / np.bincount(group)
    usual = float(np.median(size))
    if size.size < LEAST_DAYS or usual <= 0:
        return none, 0
    ratio = size / factor / usual
    slipped = (ratio > 1.0 / NEAR) & (ratio < NEAR)
    if not slipped.any() or slipped.sum() > size.size / 2:
        return none, 0
    return slipped[group], int(slipped.sum())
