"""Published ratings of overcurrent devices, and what the trade's data sheets say they can break."""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from hearthkeep.core.published.tables import table_of

#: Ratings of at least this are standard ones for conductors in both the 2023 code and those before it [A].
_STANDARD_FROM_A = 15.0


@cache
def nec_device_ratings() -> tuple[float, ...]:
    """Standard ratings of fuses and breakers, smallest first [A]; 10 A, new in 2023, is left to the fuses.

    Source: NEC 240.6(A), 2023 (values from memory).
    """
    return tuple(float(a) for a in table_of("nec_240_6_ratings")["ratings_a"] if a >= _STANDARD_FROM_A)


@cache
def nec_fuse_ratings() -> tuple[float, ...]:
    """The same with the further ratings of fuses below 15 A, smallest first [A].

    Source: NEC 240.6(A), 2023 (values from memory).
    """
    small = (float(a) for a in table_of("nec_240_6_ratings")["additional_fuse_ratings_a"] if a < _STANDARD_FROM_A)
    return (*sorted(small), *nec_device_ratings())


@cache
def iec_fuse_ratings() -> tuple[float, ...]:
    """Preferred ratings of gG fuses, smallest first [A].

    Source: IEC 60269 (values from memory).
    """
    return tuple(float(a) for a in table_of("iec_protection")["gg_fuse_a"])


@cache
def iec_breaker_ratings() -> tuple[float, ...]:
    """Preferred ratings of miniature circuit-breakers, smallest first [A].

    Source: IEC 60898-1 (values from memory).
    """
    return tuple(float(a) for a in table_of("iec_protection")["mcb_a"])


class BreaksRow(NamedTuple):
    """What a kind of device can break [A], up to a direct voltage [V]."""

    up_to_v: float
    interrupt_a: float


@cache
def dc_device_rows() -> dict[str, tuple[BreaksRow, ...]]:
    """What each kind of direct-current device can break, by kind, lowest voltage first.

    Common practice, no source: recurring data-sheet values, from memory; the device's own data sheet decides.
    """
    found: dict[str, list[BreaksRow]] = {}
    for row in table_of("dc_devices")["devices"]:
        found.setdefault(row["type"], []).append(BreaksRow(float(row["at_v"]), float(row["interrupt_a"])))
    return {kind: tuple(sorted(rows)) for kind, rows in found.items()}
