"""Which tiers' AC loads fit the inverter and the bank's discharge limit together, hour by hour."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.design import Inverter
from hearthkeep.core.inverter.losses import marginal_efficiency
from hearthkeep.core.loads import LoadTable


class Overload(IntEnum):
    """Why a tier's AC loads do not fit."""

    NONE = 0
    RATING = 1
    SURGE = 2
    BANK_CURRENT = 3


#: The same as plain numbers, for the compiled loop.
RATING, SURGE, BANK_CURRENT = int(Overload.RATING), int(Overload.SURGE), int(Overload.BANK_CURRENT)


@dataclass(frozen=True, kw_only=True, slots=True)
class Fit:
    """For each hour of the day and each number of tiers on the bank (column n-1 for n tiers), (24, 4)."""

    #: How many tiers, counted from Life, have their DC loads carried.
    dc_tiers: NDArray[np.int64]
    #: How many tiers, counted from Life, have their AC loads carried; never more than dc_tiers.
    ac_tiers: NDArray[np.int64]
    #: Why the next tier's loads are not, as an Overload.
    cause: NDArray[np.int64]


@njit(cache=True)
def fit_hours(
    ac_w: NDArray[np.float64],
    dc_w: NDArray[np.float64],
    start_rise_w: NDArray[np.float64],
    idle_w: NDArray[np.float64],
    limits_w: tuple[float, float, float],
    per_watt: float,
    wiring: float,
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]:
    """Count up from Life, hour by hour; the first tier that does not fit also keeps out all below it."""
    hours, tiers = ac_w.shape
    rated_w, surge_w, discharge_w = limits_w
    dc_tiers = np.zeros((hours, tiers), dtype=np.int64)
    ac_tiers = np.zeros((hours, tiers), dtype=np.int64)
    cause = np.zeros((hours, tiers), dtype=np.int64)
    for hour in range(hours):
        for last in range(tiers):
            direct_w = idle_w[last]
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
                if running_w > rated_w + 1e-9:
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


def fit_table(table: LoadTable, inverter: Inverter, *, discharge_limit_w: float, wiring_loss_frac: float) -> Fit:
    """Drop the lowest tier's AC loads until running watts, worst start and bank current all fit.

    The running watts are those that may fall together, and the whole draw is held against the bank's limit without
    counting on the sun: a passing cloud puts it all on the bank within seconds.
    """
    carries = inverter.rated_w > 0
    idle_w = np.where(np.cumsum(table.owns_ac) > 0, inverter.idle_w if carries else 0.0, 0.0)
    dc_tiers, ac_tiers, cause = fit_hours(
        table.coincident_ac_w,
        table.coincident_dc_w,
        table.start_rise_w,
        idle_w,
        (inverter.rated_w, inverter.surge_w, discharge_limit_w),
        (1 + wiring_loss_frac) / marginal_efficiency(inverter),
        wiring_loss_frac,
    )
    return Fit(dc_tiers=dc_tiers, ac_tiers=ac_tiers, cause=cause)
