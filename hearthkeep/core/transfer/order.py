"""The energy order with the grid up: where a clear day of the array goes, hour by hour, in the order the design names."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import ArrangementKind, Build, Design, Use
from hearthkeep.core.loads import HOURS, DayKind, rows_from
from hearthkeep.core.sources import Along, Moments, array_poa, controller_power, grid_tied_power
from hearthkeep.core.transfer.fates import Fates
from hearthkeep.core.transfer.supply import is_coupled

Floats = NDArray[np.float64]
#: Uses that the order of an arrangement can put first: a unit in parallel with the grid can fill the bank before the loads.
_IN_PARALLEL = (ArrangementKind.CRITICAL_PANEL, ArrangementKind.AC_COUPLED)


#: Uses that need no grid.
_OWN_USES = (Use.LOADS, Use.BANK)


@dataclass(frozen=True, kw_only=True, slots=True)
class UseOfDay:
    """One use of a clear day of the array."""

    use: Use
    #: What it gets [Wh], and by hour of the day [W], 24 values.
    energy_wh: float
    by_hour_w: tuple[float, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class EnergyOrder:
    """Grid up and grid down."""

    #: In the order of the design; what is left over at the end is held back.
    up: tuple[UseOfDay, ...]
    offered_w: tuple[float, ...]
    offered_wh: float
    held_back_wh: float
    #: Whether the equipment lets the user choose the order.
    may_reorder: bool
    why_not: str
    #: With the grid down, first to last, in words.
    down: tuple[str, ...]


def energy_order(design: Design, rating: BankRating, fates: Fates, carried_w: Floats) -> EnergyOrder:
    """Where a clear day of all arrays goes; `carried_w` is what the backed-up loads draw by hour of the day [W], (24,).

    Each use takes what those before it leave: backed-up loads and the rest of the house their average draw of the hour, the bank
    up to its charge limit until it is full from where the grid charger keeps it, export whatever is left.
    """
    kind = DayKind(month=design.outage.start.month)
    left_out = fates.left_out
    house = tuple(load for load in design.loads if load.id in left_out)
    asks = {Use.LOADS: carried_w, Use.HOUSE: rows_from(house, (kind,)).average_w.sum(axis=0)}
    kept = design.charging.grid_charger.top_up_soc_frac
    stored_wh = rating.capacity_wh * (design.bank.start_soc_frac if kept is None else kept)
    offered_w = clear_day_w(design, rating.volts)
    taken = {use: np.zeros(HOURS) for use in Use}
    order = tuple(use for use in design.transfer.order if not design.site.off_grid or use in _OWN_USES)
    for hour in range(HOURS):
        left_w = float(offered_w[hour])
        for use in order:
            if use is Use.EXPORT:
                got_w = left_w
            elif use is Use.BANK:
                room_w = (rating.capacity_wh - stored_wh) / rating.charge_efficiency_frac
                got_w = min(left_w, rating.charge_limit_w, room_w)
                stored_wh += got_w * rating.charge_efficiency_frac
            else:
                got_w = min(left_w, float(asks[use][hour]))
            taken[use][hour] = got_w
            left_w -= got_w
    may, why_not = _may_reorder(design)
    used_wh = sum(float(taken[use].sum()) for use in order)
    return EnergyOrder(
        up=tuple(
            UseOfDay(use=use, energy_wh=float(taken[use].sum()), by_hour_w=tuple(taken[use].round(1).tolist()))
            for use in order
        ),
        offered_w=tuple(offered_w.round(1).tolist()),
        offered_wh=float(offered_w.sum()),
        held_back_wh=float(offered_w.sum()) - used_wh,
        may_reorder=may,
        why_not=why_not,
        down=_down(design),
    )


def clear_day_w(design: Design, volts: BankVolts) -> Floats:
    """All arrays on a clear day at the date the outage begins, by hour of the day [W], (24,).

    Those on controllers count as they reach the bank, the grid-tied one at its own terminals; the inverter's loss is left out.
    """
    start, charging = design.outage.start, design.charging
    along = Along(
        site=design.site,
        moments=Moments(
            start=datetime(start.year, start.month, start.day),
            offsets_h=tuple(hour + 0.5 for hour in range(HOURS)),
            utc_offset_h=design.site.utc_offset_h,
        ),
        hour=np.arange(HOURS),
        air_c=np.full(HOURS, design.outage.days[0].air_temp_c),
        covered=np.zeros(HOURS, dtype=bool),
        attended=np.ones(HOURS, dtype=bool),
        part=np.ones(HOURS),
    )
    poa = {array.id: array_poa(array, along) for array in charging.arrays}
    power = grid_tied_power(charging.grid_tied, poa, air_c=along.air_c).passed_w.copy()
    for controller in charging.controllers:
        if controller.charges:
            planes = tuple(poa[array.id] for array in controller.arrays)
            power += controller_power(controller, poa_by_array=planes, air_c=along.air_c, volts=volts).passed_w
    return power


def _may_reorder(design: Design) -> tuple[bool, str]:
    if design.site.off_grid:
        return False, "There is no grid: the loads come first, then the bank; the rest is held back."
    if design.transfer.arrangement not in _IN_PARALLEL:
        return False, "Nothing here works in parallel with the grid: the order is fixed."
    if design.inverter.build is Build.SEPARATE:
        return False, "An inverter alone cannot work in parallel with the grid."
    return True, ""


def _down(design: Design) -> tuple[str, ...]:
    if is_coupled(design):
        return ("critical loads, straight from the array", "bank, up to its charge limit", "the rest is held back")
    if design.charging.arrays:
        return ("loads", "bank, up to its charge limit", "Spare, on what is left over", "the rest is held back")
    return ("loads, from the bank",)
