"""Which tiers' AC loads fit the inverter and the bank's discharge limit together, hour by hour."""

from __future__ import annotations

from enum import IntEnum
from typing import Any, NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.design import Inverter, hours_in
from hearthkeep.core.inverter.losses import marginal_efficiency
from hearthkeep.core.inverter.standing import stand
from hearthkeep.core.loads import LoadRows, lived, summed


class Overload(IntEnum):
    """Why a tier's AC loads do not fit."""

    NONE = 0
    RATING = 1
    SURGE = 2
    BANK_CURRENT = 3
    SWITCHED_OFF = 4


#: The same as plain numbers, for the compiled loop.
RATING, SURGE, BANK_CURRENT, SWITCHED_OFF = (
    int(Overload.RATING),
    int(Overload.SURGE),
    int(Overload.BANK_CURRENT),
    int(Overload.SWITCHED_OFF),
)


class HouseWatts(NamedTuple):
    """The house as the outage meets it: watts by hour and tier, and what the inverter and the bank let run together.

    Arrays are (hours, 4) by tier, or by the number of tiers on the bank less one.
    """

    ac_w: NDArray[np.float64]
    dc_w: NDArray[np.float64]
    #: Lost in the converters of DC loads [W].
    converter_w: NDArray[np.float64]
    #: What the inverter takes at no load, by number of tiers [W].
    standing_w: NDArray[np.float64]
    #: House watts left dead by search mode, by number of tiers and tier [W], (hours, 4, 4).
    dead_w: NDArray[np.float64]
    #: By number of tiers: how many, counted from Life, have their DC loads carried.
    dc_tiers: NDArray[np.int64]
    #: How many, counted from Life, have their AC loads carried; never more than dc_tiers.
    ac_tiers: NDArray[np.int64]
    #: Why the next tier's loads are not, as an Overload.
    overload_cause: NDArray[np.int64]


class Limits(NamedTuple):
    """What inverter, bank and wiring allow, for the compiled loops."""

    rated_w: float
    surge_w: float
    #: Most the bank gives at its terminals [W].
    discharge_w: float
    #: Idle draw, search draw and search threshold [W].
    idle_w: float
    search_w: float
    search_threshold_w: float
    #: Direct-current watts taken for each house watt, wiring included.
    per_watt: float
    wiring: float


@njit(cache=True)
def fit_hours(
    ac_w: NDArray[np.float64],
    dc_w: NDArray[np.float64],
    start_rise_w: NDArray[np.float64],
    owns_ac: NDArray[np.bool_],
    off: NDArray[np.bool_],
    limits: Limits,
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]:
    """Count up from Life, hour by hour; the first tier that does not fit also keeps out all below it."""
    hours, tiers = ac_w.shape
    rated_w, surge_w, discharge_w = limits.rated_w, limits.surge_w, limits.discharge_w
    per_watt, wiring = limits.per_watt, limits.wiring
    dc_tiers = np.zeros((hours, tiers), dtype=np.int64)
    ac_tiers = np.zeros((hours, tiers), dtype=np.int64)
    cause = np.zeros((hours, tiers), dtype=np.int64)
    for hour in range(hours):
        owns = False
        for last in range(tiers):
            owns = owns or owns_ac[last]
            direct_w = limits.idle_w if owns and not off[hour] else 0.0
            for tier in range(last + 1):
                if (direct_w + dc_w[hour, tier]) * (1 + wiring) > discharge_w + 1e-9:
                    cause[hour, last] = BANK_CURRENT
                    break
                direct_w += dc_w[hour, tier]
                dc_tiers[hour, last] = tier + 1
            running_w = 0.0
            rise_w = 0.0
            for tier in range(dc_tiers[hour, last]):
                running_w += ac_w[hour, tier]
                rise_w = max(rise_w, start_rise_w[hour, tier])
                if off[hour] and running_w > 0.0:
                    cause[hour, last] = SWITCHED_OFF
                elif running_w > rated_w + 1e-9:
                    cause[hour, last] = RATING
                elif running_w + rise_w > surge_w + 1e-9:
                    cause[hour, last] = SURGE
                elif direct_w * (1 + wiring) + running_w * per_watt > discharge_w + 1e-9:
                    cause[hour, last] = BANK_CURRENT
                else:
                    ac_tiers[hour, last] = tier + 1
                    continue
                break
    return dc_tiers, ac_tiers, cause


@njit(cache=True)
def house_without(rows, off: NDArray[np.bool_], limits: Limits, without: int) -> HouseWatts:  # type: ignore[no-untyped-def]
    """The house with one load left out, or with none where the index is -1, for compiled callers."""
    average_w, coincident_w, start_rise_w, converter_loss, is_ac, tier, link = rows
    lives = lived(tier, link, without)
    ac_w, dc_w, converter_w, peak_ac_w, peak_dc_w, rise_w, owns_ac = summed(
        average_w, coincident_w, start_rise_w, converter_loss, is_ac, lives, without
    )
    powers_w = (limits.idle_w, limits.search_w, limits.search_threshold_w)
    standing_w, dead_w = stand(average_w, coincident_w, is_ac, lives, without, off, powers_w)
    dc_tiers, ac_tiers, cause = fit_hours(peak_ac_w, peak_dc_w, rise_w, owns_ac, off, limits)
    return HouseWatts(ac_w, dc_w, converter_w, standing_w, dead_w, dc_tiers, ac_tiers, cause)


def compiled_rows(rows: LoadRows) -> tuple[NDArray[Any], ...]:
    """The audit's arrays in the order the compiled loops take them."""
    return (
        rows.average_w,
        rows.coincident_w,
        rows.start_rise_w,
        rows.converter_loss,
        rows.is_ac,
        rows.tier,
        rows.link,
    )


def limits_of(inverter: Inverter, *, discharge_limit_w: float, wiring_loss_frac: float) -> Limits:
    """What inverter, bank and wiring allow. An inverter of 0 W takes nothing and carries nothing."""
    is_there = inverter.rated_w > 0
    return Limits(
        rated_w=inverter.rated_w,
        surge_w=inverter.surge_w,
        discharge_w=discharge_limit_w,
        idle_w=inverter.idle_w if is_there else 0.0,
        search_w=inverter.search_w if is_there else 0.0,
        search_threshold_w=inverter.search_threshold_w,
        per_watt=(1 + wiring_loss_frac) / marginal_efficiency(inverter),
        wiring=wiring_loss_frac,
    )


def off_hours(inverter: Inverter, days: int) -> NDArray[np.bool_]:
    """Whether the inverter is switched off, hour by hour of so many days one after the other, (24 x days,)."""
    return np.tile(np.array(hours_in(inverter.off_hours), dtype=bool), days)


def house_watts(rows: LoadRows, inverter: Inverter, *, discharge_limit_w: float, wiring_loss_frac: float) -> HouseWatts:
    """Drop the lowest tier's AC loads until running watts, worst start and bank current all fit.

    The running watts are those that may fall together, and the whole draw is held against the bank's limit without
    counting on the sun: a passing cloud puts it all on the bank within seconds.
    """
    limits = limits_of(inverter, discharge_limit_w=discharge_limit_w, wiring_loss_frac=wiring_loss_frac)
    off = off_hours(inverter, rows.average_w.shape[1] // 24)
    house: HouseWatts = house_without(compiled_rows(rows), off, limits, -1)
    return house
