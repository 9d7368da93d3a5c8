"""The outage lived again without each load in turn, compiled as one loop so that a long audit costs milliseconds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.inverter import draws_of, house_with_all, house_without, off_hours
from hearthkeep.core.loads import LoadRows, compiled_rows
from hearthkeep.core.outage import kernel
from hearthkeep.core.outage.scene import Scene
from hearthkeep.core.outage.simulate import limits_for, plant_of, steps_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class WithoutEach:
    """What each left-out load brings, (n,)."""

    #: Life or Keep first unserved [h]; -1 for never.
    dark_h: Floats
    lowest_wh: Floats
    fuel_l: Floats


def without_each(design: Design, rating: BankRating, scene: Scene, rows: LoadRows) -> WithoutEach:
    """Live the outage once for each load, that load left out."""
    dark_h, lowest_wh, fuel_l = _without_each(
        steps_of(scene),
        plant_of(design, rating),
        compiled_rows(rows),
        off_hours(design.inverter, len(scene.kinds)),
        limits_for(design, rating),
    )
    return WithoutEach(dark_h=dark_h, lowest_wh=lowest_wh, fuel_l=fuel_l)


@njit(cache=True)
def _without_each(steps, plant, rows, off, limits):  # type: ignore[no-untyped-def]
    count = rows.tier.shape[0]
    _, sums = house_with_all(rows, off, limits)
    dark_h, lowest_wh, fuel_l = np.empty(count), np.empty(count), np.empty(count)
    for index in range(count):
        house = house_without(rows, off, limits, index, sums)
        run = kernel.run(steps, draws_of(house), plant)
        dark_h[index] = run.dark_h
        lowest_wh[index] = run.lowest_wh
        fuel_l[index] = run.fuel_l
    return dark_h, lowest_wh, fuel_l
