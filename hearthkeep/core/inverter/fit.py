"""Which tiers' AC loads fit the inverter and the bank's discharge limit together, hour by hour."""

from __future__ import annotations

from enum import IntEnum
from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.design import Inverter
from hearthkeep.core.inverter.losses import marginal_efficiency
from hearthkeep.core.loads import TierSums


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
    #: What the generator carries through the transfer relay; 0 without one [W].
    generator_w: float
    generator_surge_w: float
    #: The generator feeds its charger alone; the house stays on the inverter.
    charges_only: bool


@njit(cache=True)
def fit_hours(
    sums: TierSums, off: NDArray[np.bool_], limits: Limits
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]:
    """Count up from Life, hour by hour, in each tier its direct current first.

    The first tier whose house current does not fit also keeps out that of all below it; their direct current may still fit.
    """
    ac_w, dc_w, start_rise_w = sums.coincident_ac_w, sums.coincident_dc_w, sums.start_rise_w
    hours, tiers = ac_w.shape
    rated_w, surge_w, discharge_w = limits.rated_w, limits.surge_w, limits.discharge_w
    per_watt, wiring = limits.per_watt, limits.wiring
    dc_tiers = np.zeros((hours, tiers), dtype=np.int64)
    ac_tiers = np.zeros((hours, tiers), dtype=np.int64)
    cause = np.zeros((hours, tiers), dtype=np.int64)
    for hour in range(hours):
        owns = False
        for last in range(tiers):
            owns = owns or sums.owns_ac[last]
            direct_w = limits.idle_w if owns and not off[hour] else 0.0
            running_w = 0.0
            rise_w = 0.0
            house_fits = True
            for tier in range(last + 1):
                with_dc_w = (direct_w + dc_w[hour, tier]) * (1 + wiring) + running_w * per_watt
                if with_dc_w > discharge_w + 1e-9:
                    if house_fits:
                        cause[hour, last] = BANK_CURRENT
                    break
                direct_w += dc_w[hour, tier]
                dc_tiers[hour, last] = tier + 1
                if not house_fits:
                    continue
                more_w = running_w + ac_w[hour, tier]
                rise_w = max(rise_w, start_rise_w[hour, tier])
                house_fits = False
                if off[hour] and more_w > 0.0:
                    cause[hour, last] = SWITCHED_OFF
                elif more_w > rated_w + 1e-9:
                    cause[hour, last] = RATING
                elif more_w + rise_w > surge_w + 1e-9:
                    cause[hour, last] = SURGE
                elif direct_w * (1 + wiring) + more_w * per_watt > discharge_w + 1e-9:
                    cause[hour, last] = BANK_CURRENT
                else:
                    running_w = more_w
                    ac_tiers[hour, last] = tier + 1
                    house_fits = True
    return dc_tiers, ac_tiers, cause


@njit(cache=True)
def fit_generator(sums: TierSums, limits: Limits) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """The same for house current straight from the generator: AC tiers carried by number of tiers, and why not more."""
    hours, tiers = sums.coincident_ac_w.shape
    carried = np.zeros((hours, tiers), dtype=np.int64)
    cause = np.zeros((hours, tiers), dtype=np.int64)
    for hour in range(hours):
        for last in range(tiers):
            running_w = 0.0
            rise_w = 0.0
            for tier in range(last + 1):
                running_w += sums.coincident_ac_w[hour, tier]
                rise_w = max(rise_w, sums.start_rise_w[hour, tier])
                if running_w > limits.generator_w + 1e-9:
                    cause[hour, last] = RATING
                    break
                if running_w + rise_w > limits.generator_surge_w + 1e-9:
                    cause[hour, last] = SURGE
                    break
                carried[hour, last] = tier + 1
    return carried, cause


def limits_of(
    inverter: Inverter,
    *,
    discharge_limit_w: float,
    wiring_loss_frac: float,
    generator_w: float = 0.0,
    generator_surge_w: float = 0.0,
    charges_only: bool = False,
) -> Limits:
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
        generator_w=generator_w,
        generator_surge_w=generator_surge_w,
        charges_only=charges_only,
    )
