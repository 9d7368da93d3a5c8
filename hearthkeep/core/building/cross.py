"""Cross-reading: the same quantity on several instruments. Do they agree, which one is off, does it drift?"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from itertools import pairwise

import numpy as np

from hearthkeep.core.building.fitting import robust_slope, spread_of
from hearthkeep.core.building.last_gates import AGREE_V_PER_12
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term

#: Instruments for current agree within this part of it or so many amps; for charge within so much of full. Common practice, no source.
AGREE_A_FRAC, AGREE_A_LEAST, AGREE_SOC_FRAC = 0.03, 0.3, 0.05
#: A drift is told where it would leave half the band within so many days. Our assumption.
DRIFT_DAYS = 30.0


class Shown(StrEnum):
    """What is read on several instruments."""

    VOLTS = "volts"
    AMPS = "amps"
    CHARGE = "charge"


UNITS = {Shown.VOLTS: "V", Shown.AMPS: "A", Shown.CHARGE: "%"}


@dataclass(frozen=True, kw_only=True, slots=True)
class Round:
    """Readings of one quantity within a minute: by instrument [V, A or %]."""

    at: datetime
    values: dict[str, float]


class InstrumentVerdict(StrEnum):
    """What is to be held of an instrument."""

    AGREES = "agrees"
    OFF = "off"
    DRIFTS = "drifts"
    #: Two that differ and no third, or none that agrees with another.
    UNDECIDED = "undecided"


@dataclass(frozen=True, kw_only=True, slots=True)
class InstrumentReading:
    """One instrument among the others."""

    instrument: str
    #: In the newest round it was read in.
    value: float
    #: From the median of the others in that round.
    apart_now: float
    #: From the median, over all rounds: the middle one and how it scatters.
    offset: float
    scatter: float
    rounds: int
    #: By a day, and between which ends; none with fewer than four rounds.
    drift_per_day: float | None
    drift_low: float | None
    drift_high: float | None
    #: What the drift comes to in a month of 30 days.
    drift_per_month: float | None
    verdict: InstrumentVerdict


@dataclass(frozen=True, kw_only=True, slots=True)
class CrossReading:
    """What several instruments say together."""

    shown: Shown
    unit: str
    #: Of the newest round: the middle reading and how far they lie apart.
    middle: float
    apart: float
    #: Within which they agree.
    band: float
    instruments: tuple[InstrumentReading, ...]
    sentence: str
    figure: Figure


def band_of(shown: Shown, middle: float, nominal_v: float) -> float:
    """Within which instruments agree: 0.15 V for each 12 V; 3 % or 0.3 A; 5 points of charge. Common practice, no source.

    >>> round(band_of(Shown.VOLTS, 52.0, 48.0), 3)
    0.6
    """
    if shown is Shown.VOLTS:
        return AGREE_V_PER_12 * nominal_v / 12.0
    return max(AGREE_A_FRAC * abs(middle), AGREE_A_LEAST) if shown is Shown.AMPS else 100 * AGREE_SOC_FRAC


def cross_read(shown: Shown, rounds: Sequence[Round], *, nominal_v: float) -> CrossReading | None:
    """Compare instruments over rounds of readings, the newest last; none without two readings in the newest.

    The median is what an instrument is held against: with three or more, one that is off does not move it.
    """
    ordered = sorted(rounds, key=lambda each: each.at)
    if not ordered or len(ordered[-1].values) < 2:
        return None
    newest = ordered[-1]
    middle = float(np.median(list(newest.values.values())))
    apart = max(newest.values.values()) - min(newest.values.values())
    band = band_of(shown, middle, nominal_v)
    found = tuple(_instrument(name, ordered, newest, band) for name in newest.values)
    return CrossReading(
        shown=shown,
        unit=UNITS[shown],
        middle=middle,
        apart=apart,
        band=band,
        instruments=found,
        sentence=_sentence(found, apart, band, UNITS[shown]),
        figure=Figure(
            label="Instruments agree within", value=band, unit=UNITS[shown], formula=_FORMULAS[shown],
            terms=(
                Term(name="system", value=nominal_v, unit="V"),
                Term(name="middle reading", value=middle, unit=UNITS[shown]),
                Term(name="apart", value=apart, unit=UNITS[shown]),
                Term(name="rounds of readings", value=len(ordered), unit=""),
            ), basis=f"{COMMON_PRACTICE}; offset by the median of the others, drift by Theil and Sen's slope: textbook",
        ),
    )  # fmt: skip


_FORMULAS = {
    Shown.VOLTS: "0.15 V for each 12 V of the system",
    Shown.AMPS: "3 % of the current, at least 0.3 A",
    Shown.CHARGE: "5 points of charge",
}


def _instrument(name: str, ordered: Sequence[Round], newest: Round, band: float) -> InstrumentReading:
    offsets, days = [], []
    for each in ordered:
        if name in each.values and len(each.values) > 1:
            offsets.append(each.values[name] - _against(each.values, name))
            days.append((each.at - ordered[0].at).total_seconds() / 86_400.0)
    offset = np.array(offsets)
    slope = robust_slope(np.array(days), offset)
    beside = [value for other, value in newest.values.items() if other != name]
    now = newest.values[name] - float(np.median(beside))
    return InstrumentReading(
        instrument=name,
        value=newest.values[name],
        apart_now=now,
        offset=float(np.median(offset)),
        scatter=spread_of(offset),
        rounds=len(offsets),
        drift_per_day=slope[0] if slope else None,
        drift_low=slope[1] if slope else None,
        drift_high=slope[2] if slope else None,
        drift_per_month=slope[0] * DRIFT_DAYS if slope else None,
        verdict=_verdict(newest.values[name], beside, slope, band),
    )


def _against(values: dict[str, float], name: str) -> float:
    """What an instrument is held against: the median of all, which one that drifts away does not move; of two, the other."""
    if len(values) == 2:
        return next(value for other, value in values.items() if other != name)
    return float(np.median(list(values.values())))


def _verdict(
    value: float, others: Sequence[float], slope: tuple[float, float, float] | None, band: float
) -> InstrumentVerdict:
    # Two instruments show the same drift with opposite signs: which one it is a third decides.
    drifts = slope is not None and slope[1] * slope[2] > 0 and abs(slope[0]) * DRIFT_DAYS > band / 2
    near = [other for other in others if abs(other - value) <= band]
    if len(others) < 2:
        return InstrumentVerdict.AGREES if near and not drifts else InstrumentVerdict.UNDECIDED
    if near:
        return InstrumentVerdict.DRIFTS if drifts else InstrumentVerdict.AGREES
    # That others agree among themselves is what makes this one the odd one out.
    ordered = sorted(others)
    agree = any(high - low <= band for low, high in pairwise(ordered))
    return InstrumentVerdict.OFF if agree else InstrumentVerdict.UNDECIDED


def _sentence(found: Sequence[InstrumentReading], apart: float, band: float, unit: str) -> str:
    off = [each for each in found if each.verdict is InstrumentVerdict.OFF]
    drifting = [each for each in found if each.verdict is InstrumentVerdict.DRIFTS]
    if off:
        told = "; ".join(f"{each.instrument} shows {each.apart_now:+.2f} {unit} against the others" for each in off)
        return f"{told}. Believe the others until it is set right."
    if drifting:
        told = "; ".join(
            f"{each.instrument} moves by {each.drift_per_month or 0:+.2f} {unit} a month" for each in drifting
        )
        return f"They agree today, within {apart:.2f} {unit}, but {told}."
    if any(each.verdict is InstrumentVerdict.UNDECIDED for each in found):
        which = "one of the two is off" if len(found) == 2 else "no two of them agree"
        return f"{apart:.2f} {unit} apart, and {which}: a third instrument decides, a good hand meter best."
    # Each has another beside it within the band; of three the outer two may be further apart than that.
    far = max(min(abs(each.value - other.value) for other in found if other is not each) for each in found)
    return f"They agree: each within {far:.2f} {unit} of another, {band:.2f} {unit} allowed."
