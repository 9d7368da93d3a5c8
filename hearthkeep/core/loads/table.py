"""From the audit to watts by hour and tier."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.compiled import entry, inner_counted
from hearthkeep.core.design import Load, Supply, Tier
from hearthkeep.core.loads.days import HOURS, DayKind, converter_efficiency, day_of

#: Tiers from the last dropped to the first; the position is the tier's index in every array.
TIERS: tuple[Tier, ...] = (Tier.LIFE, Tier.KEEP, Tier.EASE, Tier.SPARE)

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Ints = NDArray[np.int64]
#: Index of the lowest tier.
SPARE_INDEX = len(TIERS) - 1


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadRows:
    """The audit as arrays, one entry a load, so that rows can be left out cheaply.

    Hours are those of one day, 24, or of several kinds of day one after the other, 24 each.
    """

    #: Average power by load and hour, quantity, duty and standby included [W], (n, hours).
    average_w: Floats
    #: Coincident running power by load and hour: duty ignored, standby included [W], (n, hours).
    coincident_w: Floats
    #: How much one unit's start exceeds its running power, where it may run [W], (n, hours).
    start_rise_w: Floats
    #: What its converter takes from the bank for each watt it gives, less that watt; 0 without one, (n,).
    converter_loss: Floats
    #: Whether the load is fed through the inverter, (n,).
    is_ac: Bools
    #: Tier index as written, (n,).
    tier: NDArray[np.int64]
    #: Link group number, -1 for none, (n,).
    link: NDArray[np.int64]
    #: Whether the grid carries the house in an hour, (hours,).
    on_grid: Bools


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadTable:
    """Watts by hour and tier; every array is (hours, 4)."""

    ac_w: Floats
    dc_w: Floats
    #: Lost in the converters of DC loads, on the average [W].
    converter_w: Floats
    coincident_ac_w: Floats
    #: Coincident DC running power, converters included [W].
    coincident_dc_w: Floats
    #: Worst start among the tier's AC loads, above its running power [W].
    start_rise_w: Floats
    #: Whether each tier owns an AC load at all, running or not, (4,).
    owns_ac: Bools


#: Rows of more kinds of day than an outage holds are not kept: those of a whole year are large.
KEPT_KINDS = 12


def rows_from(loads: tuple[Load, ...], kinds: tuple[DayKind, ...]) -> LoadRows:
    """Turn loads into arrays, in the order given, for one or more kinds of day; kept while other parts are edited, so never
    written into."""
    return _kept_rows(loads, kinds) if len(kinds) <= KEPT_KINDS else _rows(loads, kinds)


def _rows(loads: tuple[Load, ...], kinds: tuple[DayKind, ...]) -> LoadRows:
    count, hours = len(loads), HOURS * len(kinds)
    # Average, coincident and rising watts.
    watts = np.zeros((3, count, hours))
    for index, load in enumerate(loads):
        if load.supply is Supply.PANEL:
            # Neither inverter nor bank knows of it.
            continue
        for number, kind in enumerate(kinds):
            if kind.on_grid and load.supply.is_ac:
                continue
            part = slice(number * HOURS, (number + 1) * HOURS)
            watts[:, index, part] = _row_of(load, kind)
    groups = {link: number for number, link in enumerate(sorted({load.link for load in loads if load.link}))}
    return LoadRows(
        average_w=watts[0],
        coincident_w=watts[1],
        start_rise_w=watts[2],
        converter_loss=np.array(
            [1 / converter_efficiency(load) - 1 if load.supply is Supply.DC_CONVERTED else 0.0 for load in loads]
        ),
        is_ac=np.array([load.supply.is_ac for load in loads], dtype=bool),
        tier=np.array([TIERS.index(load.tier) for load in loads], dtype=np.int64),
        link=np.array([groups[load.link] if load.link else -1 for load in loads], dtype=np.int64),
        on_grid=np.repeat(np.array([kind.on_grid for kind in kinds], dtype=bool), HOURS),
    )


_kept_rows = lru_cache(maxsize=32)(_rows)


@lru_cache(maxsize=8192)
def _row_of(load: Load, kind: DayKind) -> Floats:
    """Average, coincident and rising watts of one load through a kind of day, kept while other rows are edited, (3, 24)."""
    day = day_of(load, kind)
    running_w, standby_w = load.quantity * day.running_w, load.quantity * day.standby_w
    return np.array(
        (
            np.where(day.on, running_w * day.duty_frac, standby_w),
            np.where(day.on, running_w, standby_w),
            np.where(day.on, max(day.start_w - day.running_w, 0.0), 0.0),
        )
    )


@entry
def lived(tier: Ints, link: Ints, without: int) -> Ints:
    """Tier index each load lives in, for compiled callers; see lived_tier."""
    found = tier.copy()
    for one in range(tier.shape[0]):
        if link[one] < 0:
            continue
        highest = SPARE_INDEX
        for other in range(tier.shape[0]):
            if link[other] == link[one] and other != without:
                highest = min(highest, tier[other])
        found[one] = highest
    return found


#: Columns of TierSums: AC and DC average, lost in converters, coincident AC and DC, worst rise of a start; all [W].
AC, DC, CONVERTER, COINCIDENT_AC, COINCIDENT_DC, START_RISE, SUMS = 0, 1, 2, 3, 4, 5, 6


class TierSums(NamedTuple):
    """Watts by hour and tier, for compiled callers; see LoadTable."""

    #: (hours, 4, columns).
    watts: Floats
    #: Whether each tier owns an AC load, (4,).
    owns_ac: Bools


class CompiledRows(NamedTuple):
    """The audit's arrays, for compiled callers; see LoadRows."""

    average_w: Floats
    coincident_w: Floats
    start_rise_w: Floats
    converter_loss: Floats
    is_ac: Bools
    tier: Ints
    link: Ints


@inner_counted
def sum_tier(rows: CompiledRows, lives: Ints, without: int, of: int, sums: TierSums) -> None:
    """Add one tier's rows up anew, one load left out where its index is given."""
    # Unpacked once: a tuple that holds arrays is slow inside the loop.
    averages_w, coincidents_w, rises_w, is_ac = rows.average_w, rows.coincident_w, rows.start_rise_w, rows.is_ac
    converter_loss, watts, hours = rows.converter_loss, sums.watts, rows.average_w.shape[1]
    sums.owns_ac[of] = False
    for hour in range(hours):
        for column in range(SUMS):
            watts[hour, of, column] = 0.0
    for one in range(lives.shape[0]):
        if one == without or lives[one] != of:
            continue
        if is_ac[one]:
            sums.owns_ac[of] = True
            for hour in range(hours):
                watts[hour, of, AC] += averages_w[one, hour]
                watts[hour, of, COINCIDENT_AC] += coincidents_w[one, hour]
                watts[hour, of, START_RISE] = max(watts[hour, of, START_RISE], rises_w[one, hour])
        else:
            loss = converter_loss[one]
            for hour in range(hours):
                watts[hour, of, DC] += averages_w[one, hour]
                watts[hour, of, CONVERTER] += averages_w[one, hour] * loss
                watts[hour, of, COINCIDENT_DC] += coincidents_w[one, hour] * (1.0 + loss)


@entry
def summed(rows: CompiledRows, lives: Ints, without: int) -> TierSums:
    """Sum rows by hour and tier, one load left out where its index is given."""
    hours, tiers = rows.average_w.shape[1], SPARE_INDEX + 1
    sums = TierSums(np.zeros((hours, tiers, SUMS)), np.zeros(tiers, dtype=np.bool_))
    for of in range(tiers):
        sum_tier(rows, lives, without, of, sums)
    return sums


def compiled_rows(rows: LoadRows) -> CompiledRows:
    """The audit's arrays as the compiled loops take them."""
    return CompiledRows(
        rows.average_w,
        rows.coincident_w,
        rows.start_rise_w,
        rows.converter_loss,
        rows.is_ac,
        rows.tier,
        rows.link,
    )


def lived_tier(rows: LoadRows, *, without: int = -1) -> Ints:
    """Tier index each load lives in: linked loads share the highest tier among them, one left out, (n,)."""
    return lived(rows.tier, rows.link, without)


def table_from(rows: LoadRows, *, without: int = -1) -> LoadTable:
    """Sum the rows by tier, one of them left out where its index is given."""
    sums = summed(compiled_rows(rows), lived_tier(rows, without=without), without)
    columns = [sums.watts[:, :, column] for column in range(SUMS)]
    return LoadTable(
        ac_w=columns[AC],
        dc_w=columns[DC],
        converter_w=columns[CONVERTER],
        coincident_ac_w=columns[COINCIDENT_AC],
        coincident_dc_w=columns[COINCIDENT_DC],
        start_rise_w=columns[START_RISE],
        owns_ac=sums.owns_ac,
    )
