"""What is taken to the shop and to the bench: parts, cut list, schedule of devices, placards."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace

from hearthkeep.core.bank import TYPICAL, BankRating
from hearthkeep.core.design import ArrangementKind, Design, DeviceKind, Disconnects, Practice
from hearthkeep.core.transfer import BY_KIND
from hearthkeep.core.wiring.conductors import conductor_set
from hearthkeep.core.wiring.devices import NAMES
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import device_words

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


@dataclass(frozen=True, kw_only=True, slots=True)
class CutLine:
    """Pieces of one conductor, cut alike."""

    run: str
    label: str
    conductor: str
    #: plus, minus, ground and the like.
    pole: str
    quantity: int
    length_m: float
    lug: str
    heat_shrink: str


@dataclass(frozen=True, kw_only=True, slots=True)
class DeviceLine:
    """One overcurrent device."""

    run: str
    label: str
    device: str
    quantity: int
    place: str
    volts_v: float
    fault_a: float | None
    interrupt_a: float | None
    conductor: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Placard:
    """A sign and where it hangs."""

    where: str
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Lists:
    """Everything to buy, cut and write."""

    parts: tuple[PartLine, ...]
    #: Sum of what has a price, and how many lines have none.
    total: float
    unpriced: int
    cuts: tuple[CutLine, ...]
    devices: tuple[DeviceLine, ...]
    placards: tuple[Placard, ...]

    @property
    def fittings_total(self) -> float:
        """Cable, fuses and fittings that have a price; the units are not among them."""
        return sum((part.price or 0.0) * part.quantity for part in self.parts if part.group != UNITS)

    @property
    def ends(self) -> dict[tuple[str, str], int]:
        """How many ends of a kind are put on how many of a conductor; each piece has two."""
        found = Counter[tuple[str, str]]()
        for cut in self.cuts:
            found[cut.lug, cut.conductor] += 2 * cut.quantity
        return dict(found)


def lists_of(design: Design, rating: BankRating, plan: WiringPlan) -> Lists:
    """The lists of a design as it was entered."""
    # Thickest first, so that each drum is taken up once.
    found = [(cut, _area_mm2(cut, run, design)) for run in plan.runs for cut in _cuts(run, design)]
    cuts = tuple(cut for cut, _ in sorted(found, key=lambda entry: (-entry[1], entry[0].conductor)))
    prices = {entry.item: entry.price for entry in design.wiring.prices}
    parts = tuple(
        part if part.is_fixed else replace(part, price=prices.get(part.item)) for part in _parts(design, plan, cuts)
    )
    return Lists(
        parts=parts,
        total=sum((part.price or 0.0) * part.quantity for part in parts),
        unpriced=sum(part.price is None for part in parts),
        cuts=cuts,
        devices=tuple(_device(run, design) for run in plan.runs if run.device is not None),
        placards=tuple(placards_of(design, rating, plan)),
    )


def _area_mm2(cut: CutLine, sized: SizedRun, design: Design) -> float:
    """Copper of one piece [mm²]; 0 where its size is not known."""
    if cut.pole == "ground" and sized.ground_size is not None:
        own = conductor_set(design.practice, sized.ground_size)
        return own.area_mm2 if own else 0.0
    return sized.conductor.area_mm2 if sized.conductor else 0.0


def poles_of(sized: SizedRun) -> tuple[str, ...]:
    """The conductors of a run, by name."""
    run = sized.run
    if run.kind is RunKind.GROUND:
        return ("ground",)
    if run.poles == 1:
        return ("link",)
    if run.is_dc:
        return ("plus", "minus")
    return ("line 1", "line 2", "neutral") if run.volts_v == 240.0 else ("line", "neutral")


def _cuts(sized: SizedRun, design: Design) -> Iterator[CutLine]:
    run = sized.run
    conductor = sized.size or "size not known"
    per_pole = sized.conductor.per_pole if sized.conductor else 1
    screws = not run.is_dc
    shrink = {"plus": "red", "minus": "black", "link": "red and black", "ground": "green"}
    for pole in poles_of(sized):
        yield CutLine(
            run=run.key,
            label=run.label,
            conductor=conductor,
            pole=pole,
            quantity=run.count * per_pole,
            length_m=sized.length_m,
            lug="connectors"
            if run.kind in (RunKind.STRING, RunKind.ARRAY)
            else "screw terminals"
            if screws
            else f"lugs, hole {sized.lug_mm:g} mm",
            heat_shrink="" if screws or run.kind in (RunKind.STRING, RunKind.ARRAY) else shrink[pole],
        )
    if sized.ground_size is not None:
        yield CutLine(
            run=run.key, label=run.label, conductor=sized.ground_size, pole="ground", quantity=run.count,
            length_m=sized.length_m, lug="screw terminals", heat_shrink="",
        )  # fmt: skip


def _device(sized: SizedRun, design: Design) -> DeviceLine:
    run, device = sized.run, sized.device
    assert device is not None
    ends = {"bank": "the bank", "bus": "the bus"}
    return DeviceLine(
        run=run.key,
        label=run.label,
        device=device_words(device),
        quantity=run.count,
        place=f"{1000 * device.at_m:.0f} mm from {'the bus' if run.end == 'bus' and run.start != 'bank' else ends.get(run.start, 'its source')}",
        volts_v=run.most_v,
        fault_a=device.fault_a,
        interrupt_a=device.interrupt_a,
        conductor=sized.size or "size not known",
    )


def _parts(design: Design, plan: WiringPlan, cuts: tuple[CutLine, ...]) -> Iterator[PartLine]:
    yield from _units(design)
    yield from _protection(design, plan)
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
    name = sheet.name if sheet else f"{label[0].upper()}{label[1:]}, {bank.unit_v:g} V {bank.unit_ah:g} Ah"
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
            f"{NAMES[kind].capitalize()} {rating_a:g} A{holder}",
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
    if plan.precharge is not None:
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
    lugs: dict[tuple[str, str], int] = {}
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
        if cut.lug.startswith("lugs"):
            lug = (cut.conductor, cut.lug)
            lugs[lug] = lugs.get(lug, 0) + 2 * cut.quantity
    for (conductor, colour), length_m in metres.items():
        yield _line(
            f"cable/{_ascii(conductor)} {colour}",
            "Cable",
            f"Cable {conductor}, {colour}",
            round(length_m * (1 + SPARE_CABLE_FRAC), 1),
            "m",
        )
    for (conductor, fitting), count in lugs.items():
        yield _line(
            f"lug/{_ascii(conductor)} {_ascii(fitting)}"[:80],
            "Cable",
            f"Lug {conductor}, {fitting.removeprefix('lugs, ')}",
            count,
        )


def _ascii(text: str) -> str:
    """Text for a key."""
    return "".join(char if char.isascii() and (char.isalnum() or char in "/. _-") else "" for char in text).strip()


def placards_of(design: Design, rating: BankRating, plan: WiringPlan) -> Iterator[Placard]:
    """Signs with the volts and amps to be expected; their wording in our own words, local code decides."""
    bank_run = plan.find("bank")
    for sized in plan.runs:
        if sized.run.kind is RunKind.ARRAY:
            yield Placard(
                where=f"{sized.run.label}, at each disconnect",
                text=f"SOLAR DC DISCONNECT. Up to {sized.run.most_v:.0f} V in the cold, {sized.run.current_a:.0f} A. "
                "Live on both sides by daylight. Do not open under load unless it is made for it.",
            )
    if bank_run is not None:
        device = device_words(bank_run.device)
        yield Placard(
            where="At the bank",
            text=f"BATTERY, {rating.nominal_v:g} V nominal, {rating.charging_v:.1f} V charging, {rating.rated_wh / 1000:.1f} kWh. "
            f"Short circuit {plan.fault.short_a:,.0f} A. {device}. Take off rings and watches; insulated tools.",
        )
        yield Placard(
            where="At the bank's disconnect",
            text=f"BATTERY DISCONNECT, up to {rating.charging_v:.1f} V, {bank_run.run.current_a:.0f} A. Precharge before closing"
            + (
                f": {plan.precharge.resistor_ohm:g} Ω, {max(plan.precharge.seconds_s, 1.0):.0f} s."
                if plan.precharge
                else "."
            ),
        )
    panel = plan.find("panel")
    if panel is not None:
        yield Placard(
            where="At the backed-up side",
            text=f"STAND-ALONE SUPPLY, {panel.run.volts_v:.0f} V, up to {panel.run.current_a:.0f} A; no utility is connected."
            if design.site.off_grid
            else f"FED BY A BACKUP SUPPLY, {panel.run.volts_v:.0f} V, up to {panel.run.current_a:.0f} A, also while the grid is out.",
        )
    generator = plan.find("generator")
    if generator is not None:
        yield Placard(
            where="At the generator's inlet",
            text=f"GENERATOR {generator.run.volts_v:.0f} V, up to {generator.run.current_a:.0f} A. Outdoors only, at least "
            + ("20 ft" if design.practice is Practice.NORTH_AMERICAN else "6 m")
            + " from doors, windows and vents: carbon monoxide kills.",
        )
