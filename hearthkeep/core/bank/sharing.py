"""How the current divides among parallel strings joined by link cables."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from hearthkeep.core.bank.rest import rest_state
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
    return tuple(float(part) for part in _ladder(strings, string_mohm, link_mohm, takeoff).share_frac)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Ladder:
    """The network solved: shares of one ampere taken out, and how the strings' own voltages drive currents among them."""

    share_frac: np.ndarray
    #: Modes of the network, orthonormal columns, and what each drives for its voltage [A/mV], (strings, strings) and (strings,).
    modes: np.ndarray
    mode_per_mv: np.ndarray


@lru_cache(maxsize=256)
def _ladder(strings: int, string_mohm: float, link_mohm: float, takeoff: TakeOff) -> _Ladder:
    """Nodal analysis: nodes 0 to m-1 are the positive bar, m to 2m-1 the negative; the negative take-off is the reference."""
    count = 2 * strings
    conductance = np.zeros((count, count))
    for rung in range(strings):
        _join(conductance, rung, strings + rung, 1.0 / string_mohm)
    for rung in range(strings - 1):
        _join(conductance, rung, rung + 1, 1.0 / link_mohm)
        _join(conductance, strings + rung, strings + rung + 1, 1.0 / link_mohm)
    out = strings if takeoff is TakeOff.ONE_END else count - 1
    # A column for one ampere taken out, and one for each string as a current of 1 mV / R from its negative node to its positive.
    injected = np.zeros((count, strings + 1))
    injected[0, 0], injected[out, 0] = -1.0, 1.0
    for rung in range(strings):
        injected[rung, rung + 1] += 1.0 / string_mohm
        injected[strings + rung, rung + 1] -= 1.0 / string_mohm
    kept = [node for node in range(count) if node != out]
    millivolts = np.zeros((count, strings + 1))
    millivolts[kept] = np.linalg.solve(conductance[np.ix_(kept, kept)], injected[kept])
    across = millivolts[:strings] - millivolts[strings:]
    share = -across[:, 0] / string_mohm
    # Current of string i for each millivolt of string j with nothing taken out: symmetric, by reciprocity.
    driven = (np.eye(strings) - across[:, 1:]) / string_mohm
    per_mv, modes = np.linalg.eigh((driven + driven.T) / 2.0)
    return _Ladder(share_frac=share / share.sum(), modes=modes, mode_per_mv=per_mv)


@dataclass(frozen=True, kw_only=True, slots=True)
class Evening:
    """Shares of the current while the bank is drawn from full to its floor at a steady current.

    The harder a string works, the lower its voltage sinks, and the less it then carries.
    """

    current_a: float
    #: Largest share over an even one: in the first minute, half way down, and of all the ampere-hours given.
    first_ratio: float
    half_way_ratio: float
    of_all_ratio: float


def evening_of(bank: Bank, *, current_a: float, depth_frac: float) -> Evening | None:
    """Follow the shares while a current is drawn down to a depth; none where they are equal from the first.

    The strings' rest voltage falls along the trade's charge table, straight from 90 to 30 % of charge; common practice, no
    source. Not for strings of unlike age.
    """
    if bank.parallel == 1 or bank.takeoff is TakeOff.EQUAL_LEADS or bank.link_mohm == 0.0 or current_a <= 0:
        return None
    ladder = _ladder(bank.parallel, string_resistance_mohm(bank), bank.link_mohm, bank.takeoff)
    table = dict(rest_state(bank, 0.0).table)
    low_v, high_v = np.interp([0.3, 0.9], list(table), list(table.values()))
    fall_mv_per_ah = 1000.0 * (high_v - low_v) / 0.6 / bank.unit_ah
    whole_h = depth_frac * bank.rated_ah / current_a
    # The currents pull each other level as a sum of exponentials, one for each mode of the network; all strings alike is the
    # mode that stays.
    speeds_per_h = np.maximum(ladder.mode_per_mv, 0.0) * fall_mv_per_ah
    parts_a = ladder.modes.T @ (ladder.share_frac * current_a)
    decay = np.exp(-speeds_per_h * whole_h)
    lasting_h = np.where(speeds_per_h * whole_h > 1e-9, (1.0 - decay) / np.maximum(speeds_per_h, 1e-30), whole_h)
    half_way_a = ladder.modes @ (parts_a * np.sqrt(decay))
    taken_ah = ladder.modes @ (parts_a * lasting_h)
    return Evening(
        current_a=current_a,
        first_ratio=float(ladder.share_frac.max()) * bank.parallel,
        half_way_ratio=float(half_way_a.max()) * bank.parallel / current_a,
        of_all_ratio=float(taken_ah.max() / taken_ah.mean()),
    )


def _join(conductance: np.ndarray, one: int, other: int, siemens: float) -> None:
    """Add a conductance between two nodes to the nodal matrix."""
    conductance[one, one] += siemens
    conductance[other, other] += siemens
    conductance[one, other] -= siemens
    conductance[other, one] -= siemens
