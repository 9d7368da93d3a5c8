"""How the current divides among parallel strings joined by link cables."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from hearthkeep.core.design import MOST_STRINGS, Bank, TakeOff

#: Internal resistance of a unit where its data sheet gives none: this part of its voltage at a current of 1 C.
#: Common practice, no source.
TYPICAL_RESISTANCE_FRAC = 0.03


@dataclass(frozen=True, kw_only=True, slots=True)
class Sharing:
    """The solved division of the bank's current."""

    #: Each string's part of the whole, from the first to the last.
    share_frac: tuple[float, ...]
    #: The largest part over the equal part; 1 is perfect.
    worst_ratio: float
    #: Internal resistance of one string [mΩ].
    string_mohm: float
    link_mohm: float


@dataclass(frozen=True, kw_only=True, slots=True)
class StringsAsked:
    """How many strings a current asks for, how they are joined, and what each may give or take towards it [A]."""

    strings: int
    takeoff: TakeOff
    per_string_a: float


def string_resistance_mohm(bank: Bank) -> float:
    """Internal resistance of one series string [mΩ]."""
    sheet = bank.unit
    if sheet is not None and sheet.internal_resistance_mohm is not None:
        return sheet.internal_resistance_mohm * bank.series
    return TYPICAL_RESISTANCE_FRAC * bank.unit_v / bank.unit_ah * 1000.0 * bank.series


def sharing_of(bank: Bank) -> Sharing:
    """Solve the bank's network for the share of each string."""
    string_mohm = string_resistance_mohm(bank)
    share = shares(strings=bank.parallel, string_mohm=string_mohm, link_mohm=bank.link_mohm, takeoff=bank.takeoff)
    return Sharing(
        share_frac=share,
        worst_ratio=max(share) * bank.parallel,
        string_mohm=string_mohm,
        link_mohm=bank.link_mohm,
    )


def strings_for(bank: Bank, *, asked_a: float, string_a: float) -> StringsAsked:
    """Fewest strings that carry a current, the one with the largest share within its own limit `string_a` [A].

    Further strings joined the same way divide the current less and less evenly. Where that would take more than twice as
    many as sharing evenly does, they are counted on equal leads instead.
    """
    if asked_a <= 0 or string_a <= 0:
        return StringsAsked(strings=1, takeoff=bank.takeoff, per_string_a=string_a)
    even = max(1, math.ceil(asked_a / string_a - 1e-9))
    for strings in range(even, min(2 * even, MOST_STRINGS) + 1):
        each_a = _even_a(bank, strings, string_a)
        if asked_a <= strings * each_a * (1 + 1e-9):
            return StringsAsked(strings=strings, takeoff=bank.takeoff, per_string_a=each_a)
    return StringsAsked(strings=even, takeoff=TakeOff.EQUAL_LEADS, per_string_a=string_a)


def _even_a(bank: Bank, strings: int, string_a: float) -> float:
    """What each of so many strings may carry on average while the hardest-worked one meets its limit [A]."""
    share = shares(
        strings=strings, string_mohm=string_resistance_mohm(bank), link_mohm=bank.link_mohm, takeoff=bank.takeoff
    )
    return string_a / (max(share) * strings)


@lru_cache(maxsize=1024)
def shares(*, strings: int, string_mohm: float, link_mohm: float, takeoff: TakeOff) -> tuple[float, ...]:
    """Part of the whole current that each of equal strings carries; they sum to 1.

    Nodal analysis of the resistor ladder: a positive and a negative bar of links, a string between them at each rung.
    Source: Kirchhoff's laws. Not for strings of unlike charge or age.

    >>> shares(strings=4, string_mohm=10.0, link_mohm=0.0, takeoff=TakeOff.ONE_END)
    (0.25, 0.25, 0.25, 0.25)
    """
    if strings == 1 or takeoff is TakeOff.EQUAL_LEADS or link_mohm == 0.0:
        return (1.0 / strings,) * strings
    count = 2 * strings
    conductance = np.zeros((count, count))
    injected = np.zeros(count)
    # Nodes 0 to m-1 are the positive bar, m to 2m-1 the negative. Each string is 1 V behind its resistance, which is a
    # current of 1 / R driven from the negative node into the positive.
    for rung in range(strings):
        _join(conductance, rung, strings + rung, 1.0 / string_mohm)
        injected[rung] += 1.0 / string_mohm
        injected[strings + rung] -= 1.0 / string_mohm
    for rung in range(strings - 1):
        _join(conductance, rung, rung + 1, 1.0 / link_mohm)
        _join(conductance, strings + rung, strings + rung + 1, 1.0 / link_mohm)
    # One ampere is taken out; where does not change the shares' sum, only their division.
    out = strings if takeoff is TakeOff.ONE_END else count - 1
    injected[0] -= 1.0
    injected[out] += 1.0
    # The negative take-off is the reference; its row is left out.
    kept = [node for node in range(count) if node != out]
    volts = np.zeros(count)
    volts[kept] = np.linalg.solve(conductance[np.ix_(kept, kept)], injected[kept])
    currents = (1.0 - (volts[:strings] - volts[strings:])) / string_mohm
    return tuple(float(part) for part in currents / currents.sum())


def _join(conductance: np.ndarray, one: int, other: int, siemens: float) -> None:
    """Add a conductance between two nodes to the nodal matrix."""
    conductance[one, one] += siemens
    conductance[other, other] += siemens
    conductance[one, other] -= siemens
    conductance[other, one] -= siemens
