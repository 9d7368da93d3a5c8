"""What an installation's own instruments can show: a hand reading beyond it is asked about once before it is kept."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import CELLS, cells_of, rate
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity

#: A cell reads no less than this while anything is left of it [V]: LFP, lead-acid. Common practice, no source.
LEAST_CELL_V = {True: 2.0, False: 1.5}
#: So many times what is usual passes without a question: volts of a cold lead-acid bank, of lithium, currents and powers.
COLD_LEAD, LITHIUM, CURRENTS, POWERS = 1.08, 1.03, 1.5, 1.3


@dataclass(frozen=True, kw_only=True, slots=True)
class CanShow:
    """The range in which readings of a quantity lie here."""

    quantity: Quantity
    #: As the quantity is kept.
    unit: str
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
    found = [_range(quantity, low_v, high_v) for quantity in (Quantity.BANK_V, Quantity.HIGHEST_V, Quantity.LOWEST_V)]
    # A bank too cold to be charged may be warmer when it is read.
    if out_a > 0 and in_a > 0:
        found.append(_range(Quantity.BANK_A, -out_a, in_a))
    panels_w = sum(array.stc_w for controller in design.charging.controllers for array in controller.arrays)
    if panels_w > 0:
        found.append(_range(Quantity.SUN_W, 0.0, panels_w * POWERS))
    surge_w = design.inverter.surge_w * design.inverter.units
    if surge_w > 0:
        found.append(_range(Quantity.INVERTER_W, 0.0, surge_w * POWERS))
    return tuple(found)


def _range(quantity: Quantity, low: float, high: float) -> CanShow:
    return CanShow(quantity=quantity, unit=QUANTITIES[quantity].unit, low=low, high=high)
