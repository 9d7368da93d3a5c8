"""What an installation's own instruments can show: a hand reading beyond it is asked about once before it is kept."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import CELLS, cells_of, rate
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.logbook.quantities import Quantity

#: A cell reads no less than this while anything is left of it [V]: LFP, lead-acid. Common practice, no source.
LEAST_CELL_V = {True: 2.0, False: 1.5}
#: So many times what is usual passes without a question: volts of a cold lead-acid bank, of lithium, currents and powers.
COLD_LEAD, LITHIUM, CURRENTS, POWERS = 1.08, 1.03, 1.5, 1.3
BASIS = "The bank's cells, what it may give and take, and what is connected to it; common practice, no source"


@dataclass(frozen=True, kw_only=True, slots=True)
class CanShow:
    """The range in which readings of a quantity lie here, in the quantity's own unit."""

    quantity: Quantity
    low: float
    high: float


def can_show(design: Design) -> tuple[CanShow, ...]:
    """The range of each quantity that the design limits."""
    bank, rating = design.bank, rate(design.bank)
    is_lithium = bank.chemistry is Chemistry.LFP
    cells, points = cells_of(bank), CELLS[bank.chemistry]
    low_v = cells * LEAST_CELL_V[is_lithium]
    high_v = cells * points.over_voltage_v * (LITHIUM if is_lithium else COLD_LEAD)
    out_a = max(rating.discharge_limit_a, rating.short_discharge_a or 0.0) * CURRENTS
    in_a = rating.charge_limit_a * CURRENTS
    found = [
        CanShow(quantity=quantity, low=low_v, high=high_v)
        for quantity in (Quantity.BANK_V, Quantity.HIGHEST_V, Quantity.LOWEST_V)
    ]
    # A bank too cold to be charged may be warmer when it is read.
    if out_a > 0 and in_a > 0:
        found.append(CanShow(quantity=Quantity.BANK_A, low=-out_a, high=in_a))
    panels_w = sum(array.stc_w for controller in design.charging.controllers for array in controller.arrays)
    if panels_w > 0:
        found.append(CanShow(quantity=Quantity.SUN_W, low=0.0, high=panels_w * POWERS))
    surge_w = design.inverter.surge_w * design.inverter.units
    if surge_w > 0:
        found.append(CanShow(quantity=Quantity.INVERTER_W, low=0.0, high=surge_w * POWERS))
    return tuple(found)
