"""From the audit to watts by hour of the day and tier."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.design import Load, Supply, Tier

#: Tiers from the last dropped to the first; the position is the tier's index in every array.
TIERS: tuple[Tier, ...] = (Tier.LIFE, Tier.KEEP, Tier.EASE, Tier.SPARE)
HOURS = 24

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Ints = NDArray[np.int64]
#: Index of the lowest tier.
SPARE_INDEX = len(TIERS) - 1


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadRows:
    """The audit as arrays, one entry a load, so that rows can be left out cheaply."""

    #: Average power by load and hour of the day, quantity, duty and standby included [W], (n, 24).
    average_w: Floats
    #: Coincident running power by load and hour: duty ignored, standby included [W], (n, 24).
    coincident_w: Floats
    #: How much one unit's start exceeds its running power, where it may run [W], (n, 24).
    start_rise_w: Floats
    #: Whether the load is fed through the inverter, (n,).
    is_ac: Bools
    #: Tier index as written, (n,).
    tier: NDArray[np.int64]
    #: Link group number, -1 for none, (n,).
    link: NDArray[np.int64]


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadTable:
    """Watts by hour of the day and tier; every array is (24, 4)."""

    ac_w: Floats
    dc_w: Floats
    coincident_ac_w: Floats
    coincident_dc_w: Floats
    #: Worst start among the tier's AC loads, above its running power [W].
    start_rise_w: Floats
    #: Whether each tier owns an AC load at all, running or not, (4,).
    owns_ac: Bools


def rows_from(loads: tuple[Load, ...]) -> LoadRows:
    """Turn loads into arrays, in the order given."""
    count = len(loads)
    on = np.array([load.on_by_hour for load in loads], dtype=bool).reshape(count, HOURS)
    quantity = np.array([load.quantity for load in loads], dtype=float)
    running_w = np.array([load.running_w for load in loads], dtype=float)
    start_w = np.array([load.running_w if load.start_w is None else load.start_w for load in loads], dtype=float)
    duty = np.array([load.duty_frac for load in loads], dtype=float)
    standby_w = np.array([load.standby_w for load in loads], dtype=float)
    groups = {link: number for number, link in enumerate(sorted({load.link for load in loads if load.link}))}
    return LoadRows(
        average_w=np.where(on, (quantity * running_w * duty)[:, None], (quantity * standby_w)[:, None]),
        coincident_w=np.where(on, (quantity * running_w)[:, None], (quantity * standby_w)[:, None]),
        start_rise_w=np.where(on, np.maximum(start_w - running_w, 0.0)[:, None], 0.0),
        is_ac=np.array([load.supply is Supply.AC for load in loads], dtype=bool),
        tier=np.array([TIERS.index(load.tier) for load in loads], dtype=np.int64),
        link=np.array([groups[load.link] if load.link else -1 for load in loads], dtype=np.int64),
    )


@njit(cache=True)
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


@njit(cache=True)
def summed(
    average_w: Floats, coincident_w: Floats, start_rise_w: Floats, is_ac: Bools, tier: Ints, without: int
) -> tuple[Floats, Floats, Floats, Floats, Floats, Bools]:
    """Sum rows by hour of the day and tier, for compiled callers; see table_from."""
    hours, tiers = average_w.shape[1], SPARE_INDEX + 1
    ac_w, dc_w = np.zeros((hours, tiers)), np.zeros((hours, tiers))
    coincident_ac_w, coincident_dc_w = np.zeros((hours, tiers)), np.zeros((hours, tiers))
    rise_w = np.zeros((hours, tiers))
    owns_ac = np.zeros(tiers, dtype=np.bool_)
    for one in range(tier.shape[0]):
        if one == without:
            continue
        of = tier[one]
        if is_ac[one]:
            owns_ac[of] = True
            for hour in range(hours):
                ac_w[hour, of] += average_w[one, hour]
                coincident_ac_w[hour, of] += coincident_w[one, hour]
                rise_w[hour, of] = max(rise_w[hour, of], start_rise_w[one, hour])
        else:
            for hour in range(hours):
                dc_w[hour, of] += average_w[one, hour]
                coincident_dc_w[hour, of] += coincident_w[one, hour]
    return ac_w, dc_w, coincident_ac_w, coincident_dc_w, rise_w, owns_ac


def lived_tier(rows: LoadRows, *, without: int = -1) -> Ints:
    """Tier index each load lives in: linked loads share the highest tier among them, one left out, (n,)."""
    return lived(rows.tier, rows.link, without)


def table_from(rows: LoadRows, *, without: int = -1) -> LoadTable:
    """Sum the rows by tier, one of them left out where its index is given."""
    tier = lived_tier(rows, without=without)
    ac_w, dc_w, coincident_ac_w, coincident_dc_w, rise_w, owns_ac = summed(
        rows.average_w, rows.coincident_w, rows.start_rise_w, rows.is_ac, tier, without
    )
    return LoadTable(
        ac_w=ac_w,
        dc_w=dc_w,
        coincident_ac_w=coincident_ac_w,
        coincident_dc_w=coincident_dc_w,
        start_rise_w=rise_w,
        owns_ac=owns_ac,
    )
