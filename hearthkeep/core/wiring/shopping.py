"""The shopping list: units, protection, fittings and cable."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.design import ArrangementKind, Design, DeviceKind, Disconnects, OpenedBy
from hearthkeep.core.transfer import BY_KIND
from hearthkeep.core.wiring.cuts import CutLine
from hearthkeep.core.wiring.devices import NAMES
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.shopping_fittings import fittings_of
from hearthkeep.core.words import begun

#: Cable is bought longer than it is cut, for trimming and mistakes. Common practice, no source.
SPARE_CABLE_FRAC = 0.1
#: The group of what is priced as a unit; all else is cable and fittings.
UNITS = "Units"


@dataclass(frozen=True, kw_only=True, slots=True)
class PartLine:
    """One item to buy."""

    #: By which its price is kept.
    item: str
    group: str
    what: str
    quantity: float
    #: piece, m, set.
    unit: str
    #: Of one; none where nobody has entered it. Money in the project's own currency.
    price: float | None
    #: The price is of a data sheet in the design, not of this list.
    is_fixed: bool


def parts_of(design: Design, plan: WiringPlan, cuts: tuple[CutLine, ...], *, placards: int) -> Iterator[PartLine]:
    """Everything to buy, with what is priced on a data sheet; `placards` signs are written."""
    yield from _units(design)
    yield from _protection(design, plan)
    for fitting in fittings_of(design, plan, cuts, placards=placards):
        yield _line(fitting.item, "Fittings", fitting.what, fitting.quantity, fitting.unit)
    yield from _copper(cuts)


def _line(item: str, group: str, what: str, quantity: float, unit: str = "piece") -> PartLine:
    return PartLine(item=item, group=group, what=what, quantity=quantity, unit=unit, price=None, is_fixed=False)


def _priced(item: str, group: str, what: str, quantity: float, price: float | None) -> PartLine:
    """A unit whose price stands in the design; without it, it is asked for here."""
    return PartLine(
        item=item, group=group, what=what, quantity=quantity, unit="piece", price=price, is_fixed=price is not None
    )


def _units(design: Design) -> Iterator[PartLine]:
    bank, inverter, charging = design.bank, design.inverter, design.charging
    sheet = bank.unit
    label = TYPICAL[bank.chemistry].label
    name = sheet.name if sheet else f"{begun(label)}, {bank.unit_v:g} V {bank.unit_ah:g} Ah"
    yield _priced("unit/battery", UNITS, name, bank.series * bank.parallel, sheet.price if sheet else None)
    if inverter.rated_w > 0:
        own = inverter.sheet
        yield _priced(
            "unit/inverter",
            UNITS,
            own.name if own else f"Inverter {inverter.rated_w:,.0f} W",
            inverter.units,
            own.price if own else None,
        )
    for controller in charging.controllers:
        if controller.charges and not controller.built_in:
            yield _line(
                f"unit/controller {controller.id}"[:80],
                UNITS,
                f"{controller.name}, {controller.kind.value.upper()} {controller.output_a:g} A",
                1,
            )
        for array in controller.arrays:
            if array.module is not None:
                yield _priced(
                    f"unit/panel {array.id}"[:80],
                    UNITS,
                    f"{array.module.name}, {array.name}",
                    array.series * array.strings,
                    array.module.price,
                )
            else:
                yield _line(
                    f"unit/panel {array.id}"[:80], UNITS, f"Panels of {array.name}, {array.stc_w:,.0f} W", 1, "set"
                )
    if charging.generator is not None:
        yield _line("unit/generator", UNITS, f"Generator {charging.generator.rated_w:,.0f} W", 1)
    for key, source, what in (
        ("alternator", charging.alternator, "Alternator charger"),
        ("wind", charging.wind, "Wind turbine with its regulator"),
        ("bench", charging.bench_charger, "Plug-in charger"),
    ):
        if source is not None:
            yield _priced(f"unit/{key}", UNITS, what, 1, source.price)
    kind = design.transfer.arrangement
    if kind is not None:
        yield _priced("unit/transfer", UNITS, f"{BY_KIND[kind].title}, work included", 1, design.transfer.device.price)


def _protection(design: Design, plan: WiringPlan) -> Iterator[PartLine]:
    found: dict[tuple[DeviceKind, float], int] = {}
    opens = {"both": 0, "one": 0}
    for sized in plan.runs:
        device = sized.device
        if device is not None and device.rating_a is not None and device.kind is not DeviceKind.NONE:
            key = (device.kind, device.rating_a)
            found[key] = found.get(key, 0) + sized.run.count
        if sized.opened_by is OpenedBy.PLUG:
            # Connectors are bought with the panels' others.
            continue
        if sized.asks_locks and sized.disconnects is Disconnects.BOTH:
            opens["both"] += 2 * sized.run.count
        elif sized.disconnects is Disconnects.LOAD or (
            sized.disconnects is Disconnects.SOURCE and sized.run.key == "bank"
        ):
            opens["one"] += sized.run.count
    for (kind, rating_a), count in sorted(found.items(), key=lambda entry: (entry[0][0].value, entry[0][1])):
        holder = " with holder" if kind is not DeviceKind.AC_BREAKER and kind is not DeviceKind.DC_BREAKER else ""
        yield _line(
            f"device/{kind.value} {rating_a:g} A",
            "Protection",
            f"{begun(NAMES[kind])} {rating_a:g} A{holder}",
            count,
        )
    if opens["both"]:
        yield _line(
            "device/disconnect with lock", "Protection", "DC disconnect with lock, for the array's volts", opens["both"]
        )
    if opens["one"]:
        yield _line("device/disconnect", "Protection", "DC disconnect", opens["one"])
    if plan.shunt.rating_a is not None and plan.shunt.carries_a > 0:
        yield _line(
            f"device/shunt {plan.shunt.rating_a:g} A",
            "Protection",
            f"Shunt {plan.shunt.rating_a:g} A, 50 mV, with its monitor",
            1,
        )
    if plan.precharge is not None and plan.precharge.is_needed:
        yield _line(f"device/resistor {plan.precharge.resistor_ohm:g} ohm", "Protection",
                    f"Resistor {plan.precharge.resistor_ohm:g} Ω for precharge, {plan.precharge.energy_j:.0f} J or more at once", 1)  # fmt: skip
    arrays = [controller for controller in design.charging.controllers if controller.arrays]
    if design.wiring.surge_dc and arrays:
        yield _line("device/surge dc", "Protection", "Surge protector, solar input", len(arrays))
    if design.wiring.surge_ac and design.transfer.arrangement not in (
        None,
        ArrangementKind.CORDS,
        ArrangementKind.PORTABLE_METRIC,
    ):
        yield _line(
            "device/surge ac",
            "Protection",
            "Surge protector, house panel" if design.site.off_grid else "Surge protector, backed-up panel",
            1,
        )


def _copper(cuts: tuple[CutLine, ...]) -> Iterator[PartLine]:
    metres: dict[tuple[str, str], float] = {}
    lugs: dict[tuple[str, float], tuple[str, int]] = {}
    colours = {
        "plus": "red",
        "minus": "black",
        "link": "red",
        "ground": "green",
        "line": "line",
        "line 1": "line",
        "line 2": "line",
        "neutral": "neutral",
    }
    for cut in cuts:
        key = (cut.conductor, colours[cut.pole])
        metres[key] = metres.get(key, 0.0) + cut.quantity * cut.length_m
        if cut.hole_mm is not None:
            lug = (cut.conductor, cut.hole_mm)
            lugs[lug] = (cut.lug, lugs.get(lug, ("", 0))[1] + 2 * cut.quantity)
    for (conductor, colour), length_m in metres.items():
        yield _line(
            f"cable/{_ascii(conductor)} {colour}",
            "Cable",
            f"Cable {conductor}, {colour}",
            round(length_m * (1 + SPARE_CABLE_FRAC), 1),
            "m",
        )
    for (conductor, hole_mm), (words, count) in lugs.items():
        yield _line(
            f"lug/{_ascii(conductor)} lugs hole {hole_mm:g} mm"[:80],
            "Cable",
            f"Lug {conductor}, {words.removeprefix('lugs ')}",
            count,
        )


def _ascii(text: str) -> str:
    """Text for a key."""
    return "".join(char if char.isascii() and (char.isalnum() or char in "/. _-") else "" for char in text).strip()
