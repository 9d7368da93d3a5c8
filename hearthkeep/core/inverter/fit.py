"""Which tiers' AC loads fit the inverter and the bank's discharge limit together, hour by hour."""

from __future__ import annotations

from enum import IntEnum
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.compiled import inner, inner_counted
from hearthkeep.core.design import Inverter
from hearthkeep.core.inverter.cables import Cables, lost_in_runs_compiled_w
from hearthkeep.core.inverter.losses import marginal_efficiency
from hearthkeep.core.loads import TierSums
from hearthkeep.core.loads.table import COINCIDENT_AC, COINCIDENT_DC, START_RISE


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
    #: Direct-current watts taken for each house watt, a flat loss in the wiring included.
    bus_w_per_ac_w: float
    cables: Cables
    #: What the generator carries through the transfer relay; 0 without one [W].
    generator_w: float
    generator_surge_w: float


#: Columns of what fits, by number of tiers: how many, counted from Life, have their DC loads carried, and their AC loads; why
#: the next one's are not, as an Overload; how many have their DC loads carried while the inverter takes nothing; their AC
#: loads by the generator, and why not more.
DC_TIERS, AC_TIERS, WHY, DIRECT_TIERS, GENERATOR_TIERS, GENERATOR_WHY, FITS = 0, 1, 2, 3, 4, 5, 6


@inner_counted
def fit_hours(sums: TierSums, off: NDArray[np.bool_], limits: Limits) -> NDArray[np.int64]:
    """What fits together in each hour, by number of tiers, (hours, 4, columns)."""
    # Unpacked once: a tuple that holds arrays is slow inside the loop.
    watts, owns_ac = sums.watts, sums.owns_ac
    hours, tiers = watts.shape[0], watts.shape[1]
    has_generator = limits.generator_w > 0.0
    fits = np.zeros((hours, tiers, FITS), dtype=np.int64)
    owns = False
    for last in range(tiers):
        owns = owns or owns_ac[last]
        for hour in range(hours):
            idle_w = limits.idle_w if owns and not off[hour] else 0.0
            _fit_inverter(watts, hour, last, idle_w, off[hour], limits, fits)
            _fit_direct(watts, hour, last, limits, fits)
            if has_generator:
                _fit_generator(watts, hour, last, limits, fits)
    return fits


@inner
def _fit_inverter(watts, hour, last, idle_w, is_off, limits, fits):  # type: ignore[no-untyped-def]
    """Count up from Life, in each tier its direct current first.

    The first tier whose house current does not fit also keeps out that of all below it; their direct current may still fit.
    """
    direct_w = 0.0
    running_w = 0.0
    rise_w = 0.0
    house_fits = True
    for tier in range(last + 1):
        more_direct_w = direct_w + watts[hour, tier, COINCIDENT_DC]
        if _asked_of_bank_w(more_direct_w, idle_w, running_w, limits) > limits.discharge_w + 1e-9:
            if house_fits:
                fits[hour, last, WHY] = BANK_CURRENT
            break
        direct_w = more_direct_w
        fits[hour, last, DC_TIERS] = tier + 1
        if not house_fits:
            continue
        more_w = running_w + watts[hour, tier, COINCIDENT_AC]
        rise_w = max(rise_w, watts[hour, tier, START_RISE])
        house_fits = False
        if is_off and more_w > 0.0:
            fits[hour, last, WHY] = SWITCHED_OFF
        elif more_w > limits.rated_w + 1e-9:
            fits[hour, last, WHY] = RATING
        elif more_w + rise_w > limits.surge_w + 1e-9:
            fits[hour, last, WHY] = SURGE
        elif _asked_of_bank_w(direct_w, idle_w, more_w, limits) > limits.discharge_w + 1e-9:
            fits[hour, last, WHY] = BANK_CURRENT
        else:
            running_w = more_w
            fits[hour, last, AC_TIERS] = tier + 1
            house_fits = True


@inner
def _asked_of_bank_w(direct_w, idle_w, house_w, limits):  # type: ignore[no-untyped-def]
    """What the bank has to give for direct current, an idling inverter and house current together [W]."""
    flat = 1 + limits.cables.flat_frac
    input_w = idle_w + house_w * limits.bus_w_per_ac_w / flat
    asked_w = (direct_w + idle_w) * flat + house_w * limits.bus_w_per_ac_w
    return asked_w + lost_in_runs_compiled_w(direct_w, input_w, limits.cables)


@inner
def _fit_direct(watts, hour, last, limits, fits):  # type: ignore[no-untyped-def]
    """Direct current alone, while the inverter takes nothing."""
    direct_w = 0.0
    for tier in range(last + 1):
        direct_w += watts[hour, tier, COINCIDENT_DC]
        if _asked_of_bank_w(direct_w, 0.0, 0.0, limits) > limits.discharge_w + 1e-9:
            break
        fits[hour, last, DIRECT_TIERS] = tier + 1


@inner
def _fit_generator(watts, hour, last, limits, fits):  # type: ignore[no-untyped-def]
    """House current straight from the generator."""
    running_w = 0.0
    rise_w = 0.0
    for tier in range(last + 1):
        running_w += watts[hour, tier, COINCIDENT_AC]
        rise_w = max(rise_w, watts[hour, tier, START_RISE])
        if running_w > limits.generator_w + 1e-9:
            fits[hour, last, GENERATOR_WHY] = RATING
            break
        if running_w + rise_w > limits.generator_surge_w + 1e-9:
            fits[hour, last, GENERATOR_WHY] = SURGE
            break
        fits[hour, last, GENERATOR_TIERS] = tier + 1


def limits_of(
    inverter: Inverter,
    *,
    discharge_limit_w: float,
    cables: Cables,
    generator_w: float = 0.0,
    generator_surge_w: float = 0.0,
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
        bus_w_per_ac_w=(1 + cables.flat_frac) / marginal_efficiency(inverter),
        cables=cables,
        generator_w=generator_w,
        generator_surge_w=generator_surge_w,
    )
