"""Overcurrent devices: which kind suits a place, the next rating that is made, and what it can break."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, lru_cache

from hearthkeep.core.design import Chemistry, DeviceKind, Practice
from hearthkeep.core.published import (
    dc_device_rows,
    iec_breaker_ratings,
    iec_fuse_ratings,
    nec_device_ratings,
    nec_fuse_ratings,
)
from hearthkeep.core.wiring.runs import Run, RunKind

#: Names as one says them, and those of the table of what each can break.
NAMES = {
    DeviceKind.CLASS_T: "class T fuse",
    DeviceKind.STRIP: "strip fuse",
    DeviceKind.POST: "post-mounted fuse",
    DeviceKind.BOLT_SMALL: "small bolt-down fuse",
    DeviceKind.BOLT_LARGE: "large bolt-down fuse",
    DeviceKind.BLADE: "blade fuse",
    DeviceKind.DC_BREAKER: "DC breaker",
    DeviceKind.SOLAR_FUSE: "solar fuse",
    DeviceKind.AC_BREAKER: "breaker",
    DeviceKind.NONE: "none",
}
_ROWS = {
    DeviceKind.CLASS_T: "class T",
    DeviceKind.STRIP: "strip (ANL pattern)",
    DeviceKind.POST: "post-mounted terminal fuse",
    DeviceKind.BOLT_SMALL: "small bolt-down",
    DeviceKind.BOLT_LARGE: "large bolt-down",
    DeviceKind.BLADE: "blade, 32 V",
    DeviceKind.DC_BREAKER: "moulded DC breaker",
    DeviceKind.SOLAR_FUSE: "gPV 10x38 fuse",
}
#: Smallest and largest ratings in which each kind is made [A]. Common practice, no source.
MADE_A = {
    DeviceKind.CLASS_T: (30.0, 800.0),
    DeviceKind.STRIP: (35.0, 600.0),
    DeviceKind.POST: (30.0, 300.0),
    DeviceKind.BOLT_SMALL: (30.0, 200.0),
    DeviceKind.BOLT_LARGE: (100.0, 500.0),
    DeviceKind.BLADE: (1.0, 30.0),
    DeviceKind.DC_BREAKER: (5.0, 250.0),
    DeviceKind.SOLAR_FUSE: (1.0, 32.0),
    DeviceKind.AC_BREAKER: (6.0, 800.0),
}
#: Kinds that suit a place, the usual one first. Common practice, no source: class T at a lithium bank, strip or post-mounted fuses
#: at others, breakers where something is also switched.
AT_LITHIUM = (DeviceKind.CLASS_T,)
AT_LEAD_ACID = (DeviceKind.STRIP, DeviceKind.POST, DeviceKind.CLASS_T)
AT_INVERTER = (DeviceKind.DC_BREAKER, DeviceKind.CLASS_T, DeviceKind.STRIP)
AT_SOURCE = (DeviceKind.DC_BREAKER, DeviceKind.STRIP, DeviceKind.CLASS_T)
AT_FEED = (DeviceKind.BOLT_SMALL, DeviceKind.DC_BREAKER, DeviceKind.CLASS_T)
AT_BRANCH = (DeviceKind.BLADE, DeviceKind.DC_BREAKER, DeviceKind.CLASS_T)
#: A fuse of a solar string melts within 1.5 to 2.4 times the short-circuit current: IEC 62548 (from memory).
STRING_FUSE_LOW, STRING_FUSE_HIGH = 1.5, 2.4
SOLAR_FUSES_A = (10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
#: Kinds that melt.
FUSES = (
    DeviceKind.CLASS_T,
    DeviceKind.STRIP,
    DeviceKind.POST,
    DeviceKind.BOLT_SMALL,
    DeviceKind.BOLT_LARGE,
    DeviceKind.BLADE,
    DeviceKind.SOLAR_FUSE,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Asked:
    """A device as a place asks for it."""

    kind: DeviceKind
    rating_a: float
    #: What it breaks at the volts of its place [A]; none where no usual data sheet says.
    interrupt_a: float | None


@lru_cache(maxsize=1024)
def interrupt_a(kind: DeviceKind, volts_v: float) -> float | None:
    """What a usual device of its kind breaks at a direct voltage [A]; none where none is made for so much.

    >>> interrupt_a(DeviceKind.POST, 28.0), interrupt_a(DeviceKind.BLADE, 48.0)
    (5000.0, None)
    """
    rows = dc_device_rows().get(_ROWS.get(kind, ""), ())
    return next((row.interrupt_a for row in rows if volts_v <= row.up_to_v), None)


@cache
def ratings_of(kind: DeviceKind, practice: Practice) -> tuple[float, ...]:
    """Ratings in which a kind of device is made, smallest first [A]."""
    if kind is DeviceKind.SOLAR_FUSE:
        return SOLAR_FUSES_A
    is_metric = practice is Practice.METRIC_230
    if kind is DeviceKind.AC_BREAKER:
        made = iec_breaker_ratings() if is_metric else nec_device_ratings()
    elif kind is DeviceKind.BLADE or is_metric:
        made = iec_fuse_ratings() if is_metric else nec_fuse_ratings()
    else:
        made = nec_device_ratings()
    low, high = MADE_A[kind]
    return tuple(rating for rating in made if low <= rating <= high)


@lru_cache(maxsize=4096)
def next_rating_a(needed_a: float, kind: DeviceKind, practice: Practice) -> float | None:
    """The next rating that is made, at or above a current [A]; none where none is.

    >>> next_rating_a(93.0, DeviceKind.CLASS_T, Practice.NORTH_AMERICAN)
    100.0
    """
    return next((rating for rating in ratings_of(kind, practice) if rating >= needed_a - 1e-9), None)


def device_kinds(run: Run, chemistry: Chemistry) -> tuple[DeviceKind, ...]:
    """Kinds of device that suit a run, the usual one first."""
    if not run.is_dc:
        return (DeviceKind.AC_BREAKER,)
    match run.kind:
        case RunKind.STRING | RunKind.ARRAY:
            return (DeviceKind.SOLAR_FUSE,)
        case RunKind.BANK | RunKind.LEAD:
            return AT_LITHIUM if chemistry is Chemistry.LFP else AT_LEAD_ACID
        case RunKind.INVERTER:
            return AT_INVERTER
        case RunKind.FEED:
            return AT_LITHIUM if chemistry is Chemistry.LFP else AT_FEED
        case RunKind.BRANCH:
            return AT_BRANCH
        case _:
            return AT_SOURCE


def asked_device(
    run: Run, *, practice: Practice, chemistry: Chemistry, needed_a: float, fault_a: float | None
) -> Asked | None:
    """The device a run asks for: the first kind that suits, is made in the next rating, and breaks the fault.

    Where none of them does, the one that breaks most, so that the fault can be said; none where none is made.
    """
    made: list[Asked] = []
    for kind in device_kinds(run, chemistry):
        rating_a = next_rating_a(needed_a, kind, practice)
        if rating_a is not None:
            breaks_a = interrupt_a(kind, run.most_v) if run.is_dc else None
            made.append(Asked(kind=kind, rating_a=rating_a, interrupt_a=breaks_a))
    if fault_a is None or not run.is_dc:
        return made[0] if made else None
    holding = (each for each in made if each.interrupt_a is not None and each.interrupt_a >= fault_a)
    return next(holding, max(made, key=lambda each: each.interrupt_a or 0.0, default=None))


def string_fuse_a(isc_a: float, *, practice: Practice) -> float:
    """What the fuse of one solar string is at least [A]: 1.5625 or 1.5 times its short-circuit current.

    Source: NEC 690.9(B); IEC 62548 (from memory).
    """
    return (1.5625 if practice is Practice.NORTH_AMERICAN else STRING_FUSE_LOW) * isc_a
