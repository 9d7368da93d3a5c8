"""What the units of a design cost: by their data sheets, and by usual prices where those say nothing."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.design import Array, Design
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.sold import (
    CONTROLLER_PRICE_PER_A,
    GENERATOR_PRICE_PER_W,
    INVERTER_PRICE_PER_W,
    PANEL_PRICE_PER_W,
)
from hearthkeep.core.sources import STEADY


@dataclass(frozen=True, kw_only=True, slots=True)
class PriceLine:
    """One kind of unit."""

    #: bank, inverter, panels, controllers, generator, transfer, or a steady source's own key.
    key: str
    label: str
    #: In the project's own currency.
    price: float
    #: No data sheet names it: a usual price of its size.
    is_assumed: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class UnitsPrice:
    """All units of a design; cable, fuses and work are not among them."""

    lines: tuple[PriceLine, ...]
    total: float
    #: The part of it that rests on usual prices.
    assumed: float


def units_price(design: Design) -> UnitsPrice:
    """
    Price of bank, inverter, panels, controllers, generator and other sources, in the project's own currency.

    A grid-tied array is taken as there already. Sources whose price is not known count nothing.
    """
    lines = tuple(line for line in _lines(design) if line.price > 0)
    return UnitsPrice(
        lines=lines,
        total=sum(line.price for line in lines),
        assumed=sum(line.price for line in lines if line.is_assumed),
    )


def _lines(design: Design) -> list[PriceLine]:
    bank, inverter, charging = design.bank, design.inverter, design.charging
    units = bank.series * bank.parallel
    block = None if bank.unit is None else bank.unit.price
    unit = None if inverter.sheet is None else inverter.sheet.price
    arrays = [array for controller in charging.controllers for array in controller.arrays]
    # The solar inputs of an all-in-one are in its price.
    separate_a = sum(controller.output_a for controller in charging.controllers if not controller.built_in)
    generator_w = charging.generator.rated_w if charging.generator else 0.0
    device = design.transfer.device
    return [
        _known_or("bank", "Bank", block, units, bank.rated_wh / 1000 * TYPICAL[bank.chemistry].price_per_kwh),
        _known_or("inverter", "Inverter", unit, inverter.units, inverter.together.rated_w * INVERTER_PRICE_PER_W),
        *_panels(arrays),
        PriceLine(
            key="controllers", label="Solar controllers", price=separate_a * CONTROLLER_PRICE_PER_A, is_assumed=True
        ),
        PriceLine(key="generator", label="Generator", price=generator_w * GENERATOR_PRICE_PER_W, is_assumed=True),
        *(
            PriceLine(key=kind.key, label=kind.label, price=kind.price(charging) or 0.0, is_assumed=False)
            for kind in STEADY
            if kind.is_in(charging)
        ),
        PriceLine(key="transfer", label="Transfer", price=device.price or 0.0, is_assumed=False),
    ]


def _panels(arrays: list[Array]) -> list[PriceLine]:
    known = unknown = 0.0
    for array in arrays:
        module = array.module
        if module is not None and module.price is not None:
            known += module.price * array.stc_w / module.stc_w
        else:
            unknown += array.stc_w * PANEL_PRICE_PER_W
    return [
        PriceLine(key="panels", label="Panels", price=known, is_assumed=False),
        PriceLine(key="other_panels", label="Panels without a price", price=unknown, is_assumed=True),
    ]


def _known_or(key: str, label: str, unit_price: float | None, units: int, usual: float) -> PriceLine:
    if unit_price is None:
        return PriceLine(key=key, label=label, price=usual, is_assumed=True)
    return PriceLine(key=key, label=label, price=unit_price * units, is_assumed=False)


def price_figure(price: UnitsPrice) -> Figure:
    """How a price of units comes about."""
    return Figure(
        label="Price of the units",
        value=price.total,
        unit="",
        formula="sum of the units; cable, fuses and work are not among them",
        terms=tuple(
            Term(
                name=f"{line.label.lower()}{', by what such a size usually costs' if line.is_assumed else ''}",
                value=line.price,
                unit="",
            )
            for line in price.lines
        ),
        basis="Data sheets in the design; usual prices where they name none are our assumptions",
    )
