"""After the outage: how long grid and sun take to fill the bank, or off the grid the house's own sources."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from hearthkeep.core.design import Inverter, OutageDay, Sky, SkySource
from hearthkeep.core.inverter import NO_CABLES, Draws, draws_of, house_watts, limits_of
from hearthkeep.core.loads import DayKind, rows_from
from hearthkeep.core.outage import kernel
from hearthkeep.core.outage.kernel import NO_GENERATOR, Steps
from hearthkeep.core.outage.prepared import PreparedOutage, prepare
from hearthkeep.core.outage.scene import RECOVERY_H

#: No inverter: it takes nothing and carries nothing.
_NONE = Inverter(rated_w=0.0, surge_w=0.0, idle_w=0.0, efficiency_frac=1.0, low_cutoff_v=1.0)


def hours_back_to_full(prepared: PreparedOutage, *, stored_wh: float) -> float | None:
    """Hours from the grid's return until the bank is full; none when it takes longer than is followed [h].

    The grid carries the house meanwhile; charger and sun fill the bank within its charge limit,
    together or one at a time as the design has it. Off the grid normal life goes on instead: the house with all its sources
    under the weather year's skies, its fuel on hand again.
    """
    if prepared.design.site.off_grid:
        return _living_on(prepared, stored_wh)
    scene, plant = prepared.scene, prepared.plant
    if stored_wh >= plant.acceptance.capacity_wh * (1 - 1e-6):
        return 0.0
    clock = scene.recovery_clock
    count = clock.length_h.shape[0]
    charger_w = np.full(count, prepared.design.charging.grid_charger.output_w)
    steps = Steps(
        length_h=clock.length_h,
        row=clock.hour,
        sun_w=scene.recovery_sun.passed_w,
        clipped_w=scene.recovery_sun.clipped_w,
        other_w=charger_w,
        strongest_w=charger_w,
        # The grid carries house and array meanwhile; what the array gives them is not counted for the bank.
        coupled_w=np.zeros(count),
        quiet=np.ones(count, dtype=bool),
        attended=np.ones(count, dtype=bool),
        refuels=np.zeros(count, dtype=bool),
    )
    run = kernel.run(steps, _nothing_drawn(), plant._replace(start_wh=stored_wh, generator=NO_GENERATOR))
    return None if run.full_h < 0 else float(run.full_h)


def _living_on(prepared: PreparedOutage, stored_wh: float) -> float | None:
    design, capacity_wh = prepared.entered, prepared.plant.acceptance.capacity_wh
    if stored_wh >= capacity_wh * (1 - 1e-6):
        return 0.0
    after = design.outage.model_copy(
        update={
            "start": design.outage.end,
            "duration_h": RECOVERY_H,
            "sky_from": SkySource.YEAR,
            "days": (OutageDay(sky=Sky.CLEAR, air_temp_c=0.0),),
        }
    )
    bank = design.bank.model_copy(update={"start_soc_frac": min(stored_wh / capacity_wh, 1.0)})
    run = prepare(design.model_copy(update={"outage": after, "bank": bank}), prepared.year).run()
    return None if run.full_h < 0 else float(run.full_h)


@lru_cache(maxsize=1)
def _nothing_drawn() -> Draws:
    """A day without loads."""
    limits = limits_of(_NONE, discharge_limit_w=0.0, cables=NO_CABLES)
    draws: Draws = draws_of(house_watts(rows_from((), (DayKind(month=1),)), _NONE, limits))
    return draws
