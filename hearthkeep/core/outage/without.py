"""The outage lived again without each load in turn, compiled as one loop so that a long audit costs milliseconds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.inverter import fit_hours, marginal_efficiency
from hearthkeep.core.loads import LoadRows, lived, summed
from hearthkeep.core.outage import kernel
from hearthkeep.core.outage.simulate import Scene, plant_of, steps_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class WithoutEach:
    """What each left-out load brings, (n,)."""

    #: Life or Keep first unserved [h]; -1 for never.
    dark_h: Floats
    lowest_wh: Floats


def without_each(design: Design, rating: BankRating, scene: Scene, rows: LoadRows) -> WithoutEach:
    """Live the outage once for each load, that load left out."""
    inverter, wiring = design.inverter, design.wiring.loss_frac
    dark_h, lowest_wh = _without_each(
        steps_of(scene),
        plant_of(design, rating),
        (rows.average_w, rows.coincident_w, rows.start_rise_w, rows.is_ac, rows.tier, rows.link),
        (inverter.rated_w, inverter.surge_w, rating.discharge_limit_w),
        inverter.idle_w if inverter.rated_w > 0 else 0.0,
        (1 + wiring) / marginal_efficiency(inverter),
        wiring,
    )
    return WithoutEach(dark_h=dark_h, lowest_wh=lowest_wh)


@njit(cache=True)
def _without_each(steps, plant, rows, limits_w, idle_w, per_watt, wiring):  # type: ignore[no-untyped-def]
    average_w, coincident_w, start_rise_w, is_ac, tier, link = rows
    count = tier.shape[0]
    dark_h, lowest_wh = np.empty(count), np.empty(count)
    for index in range(count):
        lives = lived(tier, link, index)
        ac_w, dc_w, peak_ac_w, peak_dc_w, rise_w, owns_ac = summed(
            average_w, coincident_w, start_rise_w, is_ac, lives, index
        )
        idle_by_tier_w = np.zeros(owns_ac.shape[0])
        idles = False
        for position in range(owns_ac.shape[0]):
            idles = idles or owns_ac[position]
            idle_by_tier_w[position] = idle_w if idles else 0.0
        dc_tiers, ac_tiers, cause = fit_hours(peak_ac_w, peak_dc_w, rise_w, idle_by_tier_w, limits_w, per_watt, wiring)
        run = kernel.run(steps, kernel.House(ac_w, dc_w, owns_ac, dc_tiers, ac_tiers, cause), plant)
        dark_h[index] = run.dark_h
        lowest_wh[index] = run.lowest_wh
    return dark_h, lowest_wh
