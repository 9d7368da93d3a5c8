"""The kits of a search: every choice out of its ranges that goes together, each with its number, its design and its price."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import product

from hearthkeep.core.bank import TYPICAL, rate
from hearthkeep.core.design import (
    MOST_ARRAY_SIDE,
    MOST_IN_SERIES,
    MOST_STRINGS,
    Array,
    Bank,
    Controller,
    ControllerKind,
    Design,
    LibraryBattery,
    LibraryInverter,
    LibraryModule,
    ModuleSheet,
)
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.kits.ranges import KitRanges
from hearthkeep.core.practice import volume_text
from hearthkeep.core.sources import string_report
from hearthkeep.core.transfer import Fate, fates_of
from hearthkeep.core.whatif import SAME_VOLTAGE_FRAC

#: A search over more kits than this is refused. At a tenth of a second each they take some ten minutes on two cores.
MOST_KITS = 10_000
#: What a solar controller takes where its limit is not entered, open strings in the record cold [V]. Our assumption: a usual limit.
USUAL_INPUT_V = 150.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One range's part of a kit: what it is called, what it costs, and the design with it."""

    #: Which range it comes from, and what of it: batteries, inverters, panels or fuel.
    range_name: str
    title: str
    price: float
    put_in: Callable[[Design], Design]


@dataclass(frozen=True, kw_only=True, slots=True)
class Kit:
    """One choice out of every range."""

    number: int
    parts: tuple[Choice, ...]

    @property
    def price(self) -> float:
        """Of what is chosen; everything else of the design is the same in each kit. In the project's own currency."""
        return sum(part.price for part in self.parts)

    @property
    def titles(self) -> tuple[str, ...]:
        """What is chosen, in words."""
        return tuple(part.title for part in self.parts)

    def of(self, design: Design) -> Design:
        """The design with this kit, named after it."""
        for part in self.parts:
            design = part.put_in(design)
        return design


@dataclass(frozen=True, kw_only=True, slots=True)
class LeftOut:
    """Choices that do not go together with the rest, and why."""

    why: str
    count: int


@dataclass(frozen=True, kw_only=True, slots=True)
class KitPlan:
    """All kits of a search, in an order that does not change."""

    kits: tuple[Kit, ...]
    left_out: tuple[LeftOut, ...]
    #: What was assumed where the design does not say it.
    assumed: tuple[str, ...]


def kits_of(design: Design, ranges: KitRanges, *, year_low_c: float | None = None) -> KitPlan:
    """
    Every kit out of the ranges.

    :param year_low_c: coldest hour of the site's stored weather year [°C], which bounds the panels in series.
    :raises InputError: nothing to choose, a unit without a price, no such array or generator, too many kits or none.
    """
    _refuse_unusable(design, ranges)
    left_out: Counter[str] = Counter()
    voltages = _system_volts(design, ranges)
    fuel = _fuel(design, ranges)
    groups: list[Sequence[Sequence[Choice]]] = []
    # Banks of the same volts suit the same strings.
    panels_at: dict[tuple[float, float], list[Choice] | None] = {}
    for system_v, inverters in voltages:
        for bank, batteries in _batteries(design, ranges, system_v, left_out):
            volts = rate(bank).volts
            if volts not in panels_at:
                panels_at[volts] = _panels(design, ranges, bank, year_low_c, left_out)
            panels = panels_at[volts]
            groups.append([part for part in (batteries, inverters, panels, fuel) if part is not None])
    count = sum(_product(group) for group in groups)
    if count > MOST_KITS:
        raise InputError((_too_many(count, groups),))
    if count == 0:
        why = "; ".join(f"{why} ({number:,} times)" for why, number in left_out.most_common(3))
        raise InputError((FieldProblem(field="kits", value="no kit", accepted=f"must leave at least one kit: {why}"),))
    numbered = enumerate(parts for group in groups for parts in product(*group))
    return KitPlan(
        kits=tuple(Kit(number=number, parts=parts) for number, parts in numbered),
        left_out=tuple(LeftOut(why=why, count=number) for why, number in left_out.most_common()),
        assumed=_assumed(design, ranges),
    )


def newly_dead(other: Design, design: Design) -> list[str]:
    """Names of loads without a supply in another design and with one in this."""
    known = {load.id for load in fates_of(design).of(Fate.DEAD)}
    return [load.name for load in fates_of(other).of(Fate.DEAD) if load.id not in known]


def _product(group: Sequence[Sequence[Choice]]) -> int:
    count = 1
    for part in group:
        count *= len(part)
    return count


def _too_many(count: int, groups: Sequence[Sequence[Sequence[Choice]]]) -> FieldProblem:
    widest = max((part for group in groups for part in group), key=len)
    return FieldProblem(
        field=widest[0].range_name,
        value=f"{count:,} kits",
        accepted=f"must leave at most {MOST_KITS:,} kits: narrow {widest[0].range_name} first, which alone stands for "
        f"{len(widest):,} choices",
    )


def _refuse_unusable(design: Design, ranges: KitRanges) -> None:
    if all(part is None for part in (ranges.batteries, ranges.inverters, ranges.panels, ranges.fuel)):
        accepted = "must name batteries, inverters, panels or fuel to choose among"
        raise InputError((FieldProblem(field="kits", value="nothing", accepted=accepted),))
    unpriced = [
        FieldProblem(field=f"{name}.units.{at}.price", value=unit.name, accepted="must have a price")
        for name, units in _units(ranges).items()
        for at, unit in enumerate(units)
        if unit.price is None
    ]
    if unpriced:
        raise InputError(tuple(unpriced))
    if ranges.fuel is not None and design.charging.generator is None:
        accepted = "must be left out: the design has no generator"
        raise InputError((FieldProblem(field="fuel", value="stocks of fuel", accepted=accepted),))
    if ranges.panels is not None and _place_of(design, ranges.panels.array_id) is None:
        accepted = "must be an array on a solar controller of the design"
        raise InputError((FieldProblem(field="panels.array_id", value=ranges.panels.array_id, accepted=accepted),))


def _units(ranges: KitRanges) -> dict[str, Sequence[LibraryBattery | LibraryInverter | LibraryModule]]:
    """The units to choose among, by the range that names them."""
    return {
        "batteries": ranges.batteries.units if ranges.batteries else (),
        "inverters": ranges.inverters.units if ranges.inverters else (),
        "panels": ranges.panels.units if ranges.panels else (),
    }


def _assumed(design: Design, ranges: KitRanges) -> tuple[str, ...]:
    place = _place_of(design, ranges.panels.array_id) if ranges.panels else None
    if place is None or place[0].max_input_v is not None:
        return ()
    return (
        f"{place[0].name}: the most volts it takes are not entered on the Charging page; {USUAL_INPUT_V:g} V are taken.",
    )


# --- inverters and the bank's voltage


def _system_volts(design: Design, ranges: KitRanges) -> list[tuple[float, list[Choice] | None]]:
    """The bank's voltages to be met, each with the inverters made for it; the design's own where none are chosen among."""
    if ranges.inverters is None:
        return [(design.bank.nominal_v, None)]
    found: dict[float, list[Choice]] = {}
    for unit in ranges.inverters.units:
        for count in range(ranges.inverters.least, ranges.inverters.most + 1):
            found.setdefault(unit.system_v, []).append(_inverter(unit, count))
    return list(found.items())


def _inverter(unit: LibraryInverter, count: int) -> Choice:
    def put_in(design: Design) -> Design:
        like = design.inverter.model_copy(update={"units": count})
        return design.model_copy(update={"inverter": unit.as_inverter(like)})

    return Choice(
        range_name="inverters", title=_some(count, unit.name), price=count * (unit.price or 0.0), put_in=put_in
    )


def _some(count: int, name: str) -> str:
    return name if count == 1 else f"{count} × {name}"


# --- batteries


def _batteries(
    design: Design, ranges: KitRanges, system_v: float, left_out: Counter[str]
) -> Iterable[tuple[Bank, list[Choice] | None]]:
    """Banks for a voltage, a choice for each number of strings; the design's own where none are chosen among."""
    if ranges.batteries is None:
        if abs(design.bank.nominal_v / system_v - 1) <= SAME_VOLTAGE_FRAC:
            yield design.bank, None
        else:
            left_out[f"Inverters for {system_v:g} V: the bank has {design.bank.nominal_v:g} V"] += 1
        return
    for unit in ranges.batteries.units:
        series = string_of(unit, system_v)
        if series is None:
            left_out[f"{unit.name}: no string of it makes {system_v:g} V"] += 1
            continue
        counts = range(ranges.batteries.least, min(ranges.batteries.most, unit.max_parallel or MOST_STRINGS) + 1)
        if len(counts) < ranges.batteries.most - ranges.batteries.least + 1:
            left_out[f"{unit.name}: its maker allows {unit.max_parallel} side by side"] += (
                ranges.batteries.most - ranges.batteries.least + 1 - len(counts)
            )
        if counts:
            yield (
                _bank(design.bank, unit, series, counts[0]),
                [_battery(unit, series, parallel) for parallel in counts],
            )


def string_of(unit: LibraryBattery, system_v: float) -> int | None:
    """How many of a unit in series make a voltage [V]; none where they miss it or the maker allows fewer."""
    series = max(1, round(system_v / unit.unit_v))
    misses = abs(unit.unit_v * series / system_v - 1) > SAME_VOLTAGE_FRAC
    return None if misses or series > (unit.max_series or MOST_IN_SERIES) else series


def _battery(unit: LibraryBattery, series: int, parallel: int) -> Choice:
    def put_in(design: Design) -> Design:
        return design.model_copy(update={"bank": _bank(design.bank, unit, series, parallel)})

    count = series * parallel
    title = _some(count, unit.name) + (f" ({series} in series)" if series > 1 else "")
    return Choice(range_name="batteries", title=title, price=count * (unit.price or 0.0), put_in=put_in)


def _bank(bank: Bank, unit: LibraryBattery, series: int, parallel: int) -> Bank:
    """The bank of other units. Of another chemistry it is used as deep as that chemistry usually is."""
    depth = bank.depth_frac if unit.chemistry is bank.chemistry else TYPICAL[unit.chemistry].usual_depth_frac
    sheet = {name: getattr(unit, name) for name in type(unit).model_fields}
    taken = {
        name: sheet.pop(name)
        for name in ("chemistry", "unit_v", "unit_ah", "unit_max_charge_a", "unit_max_discharge_a")
    }
    return Bank.model_validate(
        {
            **{name: getattr(bank, name) for name in Bank.model_fields},
            **taken,
            "series": series,
            "parallel": parallel,
            "depth_frac": depth,
            "cutoff_soc_frac": min(bank.cutoff_soc_frac, round(1 - depth, 6)),
            "unit": sheet,
        }
    )


# --- panels


def _place_of(design: Design, array_id: str) -> tuple[Controller, Array] | None:
    return next(
        (
            (controller, array)
            for controller in design.charging.controllers
            for array in controller.arrays
            if array.id == array_id
        ),
        None,
    )


def _panels(
    design: Design, ranges: KitRanges, bank: Bank, year_low_c: float | None, left_out: Counter[str]
) -> list[Choice] | None:
    """Numbers of panels that the controller takes at the bank's voltage; none where none are chosen among."""
    if ranges.panels is None:
        return None
    place = _place_of(design, ranges.panels.array_id)
    assert place is not None, "looked for before"
    controller, array = place
    found = []
    for unit in ranges.panels.units:
        least, most = _in_series(design, controller, array, unit, bank, year_low_c)
        for count in range(ranges.panels.least, ranges.panels.most + 1):
            # A converting controller likes long strings, a switching one those just above the bank.
            lengths = [
                length
                for length in range(least, most + 1)
                if count % length == 0 and count // length <= MOST_ARRAY_SIDE
            ]
            if not lengths:
                left_out[f"{unit.name}: {controller.name} takes {_from_to(least, most)}"] += 1
                continue
            series = lengths[0] if controller.kind is ControllerKind.PWM else lengths[-1]
            found.append(_array(array, unit, series, count // series))
    return found


def _from_to(least: int, most: int) -> str:
    if most < least:
        return "no string of them at this bank"
    return f"strings of {least}" if most == least else f"strings of {least} to {most}"


def _in_series(
    design: Design, controller: Controller, array: Array, unit: LibraryModule, bank: Bank, year_low_c: float | None
) -> tuple[int, int]:
    """
    How many of a panel may stand in series, from and to.

    Enough that on a hot day they still charge the bank, and open at 25 °C wake the controller; few enough that in the record
    cold they stay below what it takes.
    """
    one = array.model_copy(update={"module": unit, "series": 1, "strings": 1})
    rating = rate(bank)
    report = string_report(design, controller, one, volts=rating.volts, year_low_c=year_low_c)
    assert report is not None, "the panel is known"
    wake_v = bank.nominal_v + (controller.start_margin_v if controller.kind is ControllerKind.MPPT else 0.0)
    least = max(-int(-report.hot_day.needed_v // report.hot_vmp_v), -int(-wake_v // unit.voc_v))
    limit_v = USUAL_INPUT_V if controller.max_input_v is None else controller.max_input_v
    return max(least, 1), min(int(limit_v // report.cold_voc_v), MOST_ARRAY_SIDE)


def _array(array: Array, unit: LibraryModule, series: int, strings: int) -> Choice:
    def put_in(design: Design) -> Design:
        def changed(entry: Array) -> Array:
            if entry.id != array.id:
                return entry
            coefficient = unit.power_temp_coeff_per_c
            return entry.model_copy(
                update={
                    "module": ModuleSheet.model_validate(unit.model_dump(), strict=False),
                    "series": series,
                    "strings": strings,
                    "stc_w": unit.stc_w * series * strings,
                    "vmp_v": None,
                    "power_temp_coeff_per_c": entry.power_temp_coeff_per_c if coefficient is None else coefficient,
                }
            )

        controllers = tuple(
            controller.model_copy(update={"arrays": tuple(changed(entry) for entry in controller.arrays)})
            for controller in design.charging.controllers
        )
        return design.model_copy(update={"charging": design.charging.model_copy(update={"controllers": controllers})})

    count = series * strings
    how = (
        f" ({strings} strings of {series})" if strings > 1 < series else f" ({series} in series)" if series > 1 else ""
    )
    title = _some(count, unit.name) + how
    return Choice(range_name="panels", title=title, price=count * (unit.price or 0.0), put_in=put_in)


# --- fuel


def _fuel(design: Design, ranges: KitRanges) -> list[Choice] | None:
    if ranges.fuel is None:
        return None
    return [_stock(design, stock_l, ranges.fuel.price_per_l) for stock_l in sorted(set(ranges.fuel.stock_l))]


def _stock(design: Design, stock_l: float, price_per_l: float) -> Choice:
    def put_in(design: Design) -> Design:
        generator = design.charging.generator
        assert generator is not None, "looked for before"
        fuller = generator.model_copy(update={"stock_l": stock_l})
        return design.model_copy(update={"charging": design.charging.model_copy(update={"generator": fuller})})

    return Choice(
        range_name="fuel", title=f"{volume_text(design, stock_l)} of fuel", price=stock_l * price_per_l, put_in=put_in
    )
