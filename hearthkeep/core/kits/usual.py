"""The ranges a search begins with: units of the library that are like those of the design, around as many as it has."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TypeVar

from pydantic import ValidationError

from hearthkeep.core.design import (
    LONGEST_OUTAGE_H,
    MOST_STOCK_L,
    MOST_STRINGS,
    Design,
    LibraryBattery,
    LibraryInverter,
    LibraryModule,
    Output,
    Service,
    Tier,
)
from hearthkeep.core.kits.choices import newly_dead, string_of
from hearthkeep.core.kits.ranges import (
    MOST_PANELS,
    BatteryRange,
    FuelRange,
    InverterRange,
    KitRanges,
    KitTarget,
    PanelRange,
)
from hearthkeep.core.practice import can_of_fuel
from hearthkeep.core.trials import MOST_STARTS_FRAC, planned_length_h
from hearthkeep.core.whatif import SAME_VOLTAGE_FRAC

#: How many units of a kind are proposed.
PROPOSED = 3
Unit = TypeVar("Unit", LibraryBattery, LibraryInverter, LibraryModule)


def usual_ranges(
    design: Design,
    batteries: Sequence[LibraryBattery],
    inverters: Sequence[LibraryInverter],
    modules: Sequence[LibraryModule],
) -> KitRanges:
    """Ranges around the design as it stands, out of the library's units that have a price."""
    bank, inverter, charging = design.bank, design.inverter, design.charging
    blocks = _nearest(
        [unit for unit in batteries if unit.chemistry is bank.chemistry and string_of(unit, bank.nominal_v)],
        lambda unit: unit.unit_v * unit.unit_ah,
        bank.unit_v * bank.unit_ah,
    )
    same = [
        unit
        for unit in inverters
        if abs(unit.system_v / bank.nominal_v - 1) <= SAME_VOLTAGE_FRAC
        and (unit.output is Output.V230) == (design.site.service is Service.V230)
        and _suits(design, unit)
    ]
    array = next((entry for kind in charging.controllers if kind.charges for entry in kind.arrays), None)
    panels = _nearest(
        modules, lambda unit: unit.stc_w, 400.0 if array is None or array.module is None else array.module.stc_w
    )
    suited = _nearest(same, lambda unit: unit.rated_w, inverter.rated_w)
    generator = charging.generator
    return KitRanges(
        target=KitTarget(
            lowest_tier=Tier.KEEP,
            hours_h=int(min(planned_length_h(design), LONGEST_OUTAGE_H)),
            share_frac=MOST_STARTS_FRAC,
        ),
        batteries=BatteryRange(units=blocks, least=1, most=min(max(4, 2 * bank.parallel), MOST_STRINGS))
        if blocks
        else None,
        inverters=InverterRange(units=suited, least=inverter.units, most=inverter.units) if suited else None,
        panels=None
        if array is None or not panels
        else PanelRange(
            array_id=array.id,
            units=panels,
            least=1,
            most=min(max(6, round(2 * array.stc_w / min(unit.stc_w for unit in panels))), MOST_PANELS),
        ),
        fuel=None
        if generator is None
        else FuelRange(stock_l=(generator.stock_l, min(generator.stock_l + can_of_fuel(design), MOST_STOCK_L))),
    )


def _suits(design: Design, unit: LibraryInverter) -> bool:
    """Whether an inverter can stand in the design and leaves no load without a supply."""
    try:
        return not newly_dead(design.model_copy(update={"inverter": unit.as_inverter(design.inverter)}), design)
    except ValidationError:
        return False


def _nearest(units: Sequence[Unit], size_of: Callable[[Unit], float], size: float) -> tuple[Unit, ...]:
    """The few units nearest in size that have a price, in the order of their size."""
    priced = [unit for unit in units if unit.price is not None]
    nearest = sorted(priced, key=lambda unit: (abs(size_of(unit) - size), unit.library_id))[:PROPOSED]
    return tuple(sorted(nearest, key=size_of))
