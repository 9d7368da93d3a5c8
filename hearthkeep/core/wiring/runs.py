"""Every run of the design: from where to where, what it carries and why, and what its place asks for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from functools import partial

from hearthkeep.core.bank import BankRating, sharing_of
from hearthkeep.core.design import (
    ArrangementKind,
    Array,
    Build,
    Bypass,
    Controller,
    ControllerKind,
    Design,
    FedFrom,
    GeneratorAt,
    Kind,
    Load,
    ModuleSheet,
    Output,
    Practice,
    Service,
    Supply,
    TakeOff,
)
from hearthkeep.core.inverter import low_battery_current_a
from hearthkeep.core.loads import converter_efficiency
from hearthkeep.core.sources import array_vmp_v, cold_voc_factor, coldest, source_currents
from hearthkeep.core.transfer import CORDS, gives_split, is_coupled


class RunKind(StrEnum):
    """Where in the flow a run lies, in order."""

    STRING = "string"
    ARRAY = "array"
    CONTROLLER = "controller"
    SOURCE = "source"
    LINK = "link"
    LEAD = "lead"
    BANK = "bank"
    INVERTER = "inverter"
    BRANCH = "branch"
    GRID = "grid"
    GENERATOR = "generator"
    COUPLED = "coupled"
    PANEL = "panel"
    BYPASS = "bypass"
    GROUND = "ground"


#: 1.25 for duty of three hours and more; NEC 215.2 and 690.8 in our own words, and common practice for leads of direct current.
CONTINUOUS = 1.25
#: Strong sun over an array's rated current, NEC 690.8 in our own words (from memory).
STRONG_SUN = 1.25
#: Short-circuit over working current where only an array's watts are known. Common practice, no source.
ISC_RATIO = 1.07
#: Open circuit over working volts where only they are known. Common practice, no source.
VOC_RATIO = 1.22


@dataclass(frozen=True, kw_only=True, slots=True)
class Run:
    """One run, or several alike."""

    key: str
    kind: RunKind
    label: str
    #: Parts it joins, by their keys.
    start: str
    end: str
    #: How many alike, and the conductors of each: there and back, or one that goes on to the next block.
    count: int = 1
    poles: int = 2
    is_dc: bool = True
    #: Volts that its drop is a part of, and the most that ever stand on it [V].
    volts_v: float
    most_v: float
    #: Current that it is sized for, before the factor; and the one its drop is counted at [A].
    current_a: float
    drop_at_a: float
    factor: float = CONTINUOUS
    #: How the current comes about.
    basis: str
    #: It is fed from the bank's side, so that a fault draws on the bank.
    from_bank: bool = False
    #: A device has to sit in it.
    needs_device: bool = True
    #: Bears a fault current that its own source cannot drive beyond its size: no device is asked.
    fed_from: FedFrom = FedFrom.BUS
    #: An estimate stands behind the current.
    is_estimate: bool = False


def inverter_keys(design: Design) -> tuple[str, ...]:
    """Keys of the inverters, one a unit."""
    if design.inverter.rated_w <= 0:
        return ()
    return tuple(f"inverter-{number}" for number in range(1, design.inverter.units + 1))


def output_v(design: Design) -> float:
    """Volts between the lines by which the inverters give their whole output [V]."""
    if design.site.service is Service.V230 or design.inverter.output is Output.V230:
        return 230.0
    return 240.0 if gives_split(design) else 120.0


def unit_output_v(design: Design) -> float:
    """The same of one unit: of a pair each gives one leg [V]."""
    return 120.0 if design.inverter.output is Output.SPLIT_PAIR else output_v(design)


def is_built_in_charger(design: Design) -> bool:
    """Whether the inverter charges from its own alternating-current input."""
    return design.inverter.build is not Build.SEPARATE and design.inverter.rated_w > 0


def branch_loads(design: Design) -> tuple[Load, ...]:
    """Loads that hang on the bank by branch circuits of their own."""
    return tuple(load for load in design.loads if load.supply in (Supply.DC, Supply.DC_CONVERTED))


def branch_w(load: Load) -> float:
    """What a direct-current load takes from its branch while it runs, all units together [W]."""
    power_w = load.quantity * max(load.running_w, load.standby_w)
    return power_w / converter_efficiency(load) if load.supply is Supply.DC_CONVERTED else power_w


def lowest_v(design: Design, rating: BankRating) -> float:
    """The lowest volts at which the bank still gives: the inverter's cut-off, else nine tenths of nominal [V]."""
    if design.inverter.rated_w > 0:
        return design.inverter.low_cutoff_v
    return 0.9 * rating.nominal_v


def bank_current_a(design: Design, rating: BankRating) -> float:
    """Direct current the bank's leads are sized for [A]: all inverters at their rating and all branches, at the lowest volts; or
    all that charges together, where that is more.
    """
    inverter, low_v = design.inverter.together, lowest_v(design, rating)
    given_a = low_battery_current_a(inverter, inverter.rated_w) if inverter.rated_w > 0 else 0.0
    given_a += sum(branch_w(load) for load in branch_loads(design)) / low_v
    return max(given_a, charging_a(design, rating))


def charging_a(design: Design, rating: BankRating) -> float:
    """All that charges together, or the strongest where one source alone does [A]."""
    currents = [source.current_a for source in source_currents(design, rating.volts)]
    if not currents:
        return 0.0
    return max(currents) if design.charging.one_source else sum(currents)


def runs_of(design: Design, rating: BankRating, *, year_low_c: float | None = None) -> tuple[Run, ...]:
    """Every run of a design as it was entered, in the order in which current flows.

    `year_low_c` is the coldest hour of the site's weather year [°C].
    """
    return (
        *_solar(design, rating, year_low_c),
        *_other_sources(design, rating),
        *bank_runs(design, rating),
        *branch_runs(design, rating),
        *_house(design),
        *_grounds(design, rating),
    )


def _isc_a(array: Array, module: ModuleSheet | None, nominal_v: float) -> float:
    """Short-circuit current of one string [A]."""
    if module is not None:
        return module.isc_a
    return ISC_RATIO * array.stc_w / array_vmp_v(array, nominal_v) / array.strings


def _solar(design: Design, rating: BankRating, year_low_c: float | None) -> Iterator[Run]:
    cold_c, _ = coldest(design, year_low_c)
    for controller in design.charging.controllers:
        for array in controller.arrays:
            yield from _array_runs(design, rating, controller, array, cold_c)
        if controller.charges and not controller.built_in:
            yield Run(
                key=f"controller-{controller.id}",
                kind=RunKind.CONTROLLER,
                label=f"{controller.name} to bus",
                start=f"controller-{controller.id}",
                end="bus",
                volts_v=rating.nominal_v,
                most_v=rating.charging_v,
                current_a=controller.output_a,
                drop_at_a=controller.output_a,
                basis="the controller's rated output",
                from_bank=True,
            )


def _array_runs(
    design: Design, rating: BankRating, controller: Controller, array: Array, cold_c: float
) -> Iterator[Run]:
    module, nominal_v = array.module, rating.nominal_v
    vmp_v = array_vmp_v(array, nominal_v)
    isc_a = _isc_a(array, module, nominal_v)
    imp_a = array.stc_w / vmp_v
    most_v = module.voc_v * cold_voc_factor(module, cold_c)[0] * array.series if module else VOC_RATIO * vmp_v
    combines = array.strings > 1
    factor = CONTINUOUS if design.practice is Practice.NORTH_AMERICAN else 1.0
    basis = "short-circuit current × 1.25 for strong sun" + (
        "" if module else "; of the panel only the watts are known, so this is an estimate"
    )
    fed = controller.kind is not ControllerKind.PANEL_FED
    target = f"controller-{controller.id}" if fed else f"load-{controller.id}"
    if combines:
        yield Run(
            key=f"string-{array.id}",
            kind=RunKind.STRING,
            label=f"{array.name}, each string to combiner",
            start=f"array-{array.id}",
            end=f"combiner-{array.id}",
            count=array.strings,
            volts_v=vmp_v,
            most_v=most_v,
            current_a=STRONG_SUN * isc_a,
            drop_at_a=imp_a / array.strings,
            factor=factor,
            basis=basis,
            needs_device=array.strings > 2,
            is_estimate=module is None,
        )
    yield Run(
        key=f"array-{array.id}",
        kind=RunKind.ARRAY,
        label=f"{array.name} to {controller.name if fed else 'its loads'}",
        start=f"combiner-{array.id}" if combines else f"array-{array.id}",
        end=target,
        volts_v=vmp_v,
        most_v=most_v,
        current_a=STRONG_SUN * isc_a * array.strings,
        drop_at_a=imp_a,
        factor=factor,
        basis=basis + (f", {array.strings} strings" if combines else ""),
        needs_device=False,
        is_estimate=module is None,
    )


def _other_sources(design: Design, rating: BankRating) -> Iterator[Run]:
    charging = design.charging
    found: list[tuple[str, str, float, str]] = []
    if charging.alternator is not None:
        found.append(("alternator", "Alternator charger", charging.alternator.current_a, "its output"))
    if charging.wind is not None:
        found.append(
            ("wind", "Wind turbine", charging.wind.rated_w / rating.charging_v, "rated watts ÷ charging volts")
        )
    if charging.bench_charger is not None:
        found.append(
            ("bench", "Plug-in charger", charging.bench_charger.output_w / rating.charging_v, "output ÷ charging volts")
        )
    if not is_built_in_charger(design):
        charger_w = max(charging.grid_charger.output_w, charging.generator.charger_w if charging.generator else 0.0)
        if charger_w > 0:
            found.append(("charger", "Charger", charger_w / rating.charging_v, "output ÷ charging volts"))
    for key, name, current_a, basis in found:
        if current_a > 0:
            yield Run(
                key=f"source-{key}",
                kind=RunKind.SOURCE,
                label=f"{name} to bus",
                start=key,
                end="bus",
                volts_v=rating.nominal_v,
                most_v=rating.charging_v,
                current_a=current_a,
                drop_at_a=current_a,
                basis=basis,
                from_bank=True,
            )


def bank_runs(design: Design, rating: BankRating) -> Iterator[Run]:
    """What joins the blocks of the bank, the bank to its bus, and the bus to the inverters."""
    bank, inverter = design.bank, design.inverter
    total_a = bank_current_a(design, rating)
    run_of = partial(Run, volts_v=rating.nominal_v, most_v=rating.charging_v)
    share_a = total_a / bank.parallel * sharing_of(bank).worst_ratio
    if bank.series > 1:
        yield run_of(
            key="series-links", kind=RunKind.LINK, label="Between blocks in series", start="bank", end="bank",
            count=(bank.series - 1) * bank.parallel, current_a=share_a, drop_at_a=share_a,
            basis="the string with the largest share", needs_device=False, poles=1,
        )  # fmt: skip
    if bank.parallel > 1 and bank.takeoff is TakeOff.EQUAL_LEADS:
        yield run_of(
            key="string-leads", kind=RunKind.LEAD, label="Each string to the bank's bars", start="bank", end="bank",
            count=bank.parallel, current_a=share_a, drop_at_a=share_a, basis="an even share of the bank's current",
            from_bank=True, needs_device=bank.parallel > 2,
        )  # fmt: skip
    elif bank.parallel > 1:
        yield run_of(
            key="parallel-links", kind=RunKind.LINK, label="Between strings side by side", start="bank", end="bank",
            count=bank.parallel - 1, current_a=total_a, drop_at_a=total_a - total_a / bank.parallel,
            basis="as thick as the leads, whose current they nearly carry", needs_device=False,

        )  # fmt: skip
    if total_a > 0:
        low_v = lowest_v(design, rating)
        yield Run(
            key="bank", kind=RunKind.BANK, label="Bank to bus", start="bank", end="bus", current_a=total_a,
            drop_at_a=total_a, from_bank=True, volts_v=low_v, most_v=rating.charging_v,
            basis="all inverters at their rated output at the low cut-off and all branches, or all that charges at once",
        )  # fmt: skip
    rated_a = low_battery_current_a(inverter, inverter.rated_w)
    for number, key in enumerate(inverter_keys(design), start=1):
        set_on = design.wiring.of_run(key)
        yield Run(
            key=key, kind=RunKind.INVERTER, start="bus", end=key, current_a=rated_a, drop_at_a=rated_a, from_bank=True,
            label="Bus to inverter" if inverter.units == 1 else f"Bus to inverter {number}",
            volts_v=inverter.low_cutoff_v, most_v=rating.charging_v,
            basis="rated output ÷ efficiency ÷ low cut-off volts",
            fed_from=set_on.fed_from if set_on else FedFrom.BUS,
        )  # fmt: skip


def branch_runs(design: Design, rating: BankRating) -> Iterator[Run]:
    """Branch circuits of direct-current loads, one a load."""
    low_v = lowest_v(design, rating)
    for load in branch_loads(design):
        current_a = branch_w(load) / low_v
        if current_a <= 0:
            continue
        key = f"branch-{load.id}"
        set_on = design.wiring.of_run(key)
        yield Run(
            key=key, kind=RunKind.BRANCH, label=f"Branch: {load.name}", start="bus", end=f"load-{load.id}",
            volts_v=rating.nominal_v, most_v=rating.charging_v, current_a=current_a, drop_at_a=current_a, from_bank=True,
            basis="running watts of all units at the lowest volts",
            fed_from=set_on.fed_from if set_on else FedFrom.BUS,
        )  # fmt: skip


def _house(design: Design) -> Iterator[Run]:
    """Alternating-current runs: what feeds the inverters, and what they feed."""
    inverter, charging, kind = design.inverter.together, design.charging, design.transfer.arrangement
    keys, volts_v = inverter_keys(design), output_v(design)
    run_of = partial(Run, is_dc=False, volts_v=volts_v, most_v=volts_v)
    given_a = inverter.rated_w / volts_v
    if keys and has_grid_input(design):
        through_a = 0.0 if kind is ArrangementKind.MOVED_CIRCUITS else given_a
        charge_a = charging.grid_charger.output_w / charging.grid_charger.efficiency_frac / volts_v
        current_a = through_a + charge_a
        if current_a > 0:
            yield run_of(
                key="grid", kind=RunKind.GRID, label="Grid to inverter input", start="main", end=keys[0],
                current_a=current_a, drop_at_a=current_a,
                basis="rated output passed through and the charger at its full input",
            )  # fmt: skip
    generator = charging.generator
    if generator is not None:
        generator_v = 230.0 if volts_v == 230.0 else volts_v if generator.rated_w > 3_600 else 120.0
        at_panel = design.transfer.device.generator_at is GeneratorAt.PANEL or not keys
        end = "panel" if at_panel and not generator.charges_only else keys[0] if keys else "charger"
        if not is_built_in_charger(design) and generator.charges_only:
            end = "charger"
        current_a = generator.rated_w / generator_v
        yield Run(
            key="generator", kind=RunKind.GENERATOR, label="Generator inlet to its breaker", start="generator", end=end,
            is_dc=False, volts_v=generator_v, most_v=generator_v, current_a=current_a, drop_at_a=current_a,
            basis="the generator's rated output",
        )  # fmt: skip
    if charging.grid_tied is not None and charging.grid_tied.arrays:
        current_a = charging.grid_tied.rated_w / volts_v
        yield run_of(
            key="coupled", kind=RunKind.COUPLED, label="Grid-tied inverter to its panel", start="grid-tied",
            end="panel" if is_coupled(design) else "main", current_a=current_a, drop_at_a=current_a,
            basis="its rated output",
        )  # fmt: skip
    if keys and given_a > 0:
        where = "outlets" if kind in CORDS else "backed-up panel" if kind is not None else "house loads"
        yield run_of(
            key="panel", kind=RunKind.PANEL, label=f"Inverter to {where}", start=keys[0], end="panel",
            current_a=given_a, drop_at_a=given_a, basis="the rated output of all inverters",
        )  # fmt: skip
        if design.transfer.device.bypass is not Bypass.NONE and kind not in (None, *CORDS):
            yield run_of(
                key="bypass", kind=RunKind.BYPASS, label="Bypass to backed-up panel", start="main", end="panel",
                current_a=given_a, drop_at_a=given_a, basis="what the inverters would carry",
            )  # fmt: skip


def has_grid_input(design: Design) -> bool:
    """Whether the grid is led to an input of the inverter, or of the unit's charger."""
    passes = design.transfer.arrangement in (
        ArrangementKind.CRITICAL_PANEL,
        ArrangementKind.AC_COUPLED,
        ArrangementKind.AUTOMATIC,
    )
    return is_built_in_charger(design) and (passes or design.charging.grid_charger.output_w > 0)


def _grounds(design: Design, rating: BankRating) -> Iterator[Run]:
    """Conductors that carry no current unless something has failed."""
    arrays = [array for controller in design.charging.controllers for array in controller.arrays]
    run_of = partial(
        Run, kind=RunKind.GROUND, drop_at_a=0.0, factor=1.0, needs_device=False, poles=1, volts_v=rating.nominal_v,
        most_v=rating.nominal_v,
    )  # fmt: skip
    if arrays:
        isc_a = max(STRONG_SUN * _isc_a(array, array.module, rating.nominal_v) * array.strings for array in arrays)
        yield run_of(
            key="ground-array", label="Array frames to ground bar", start="frames", end="ground",
            current_a=CONTINUOUS * isc_a,
            basis="device of 156 % of the largest array's short-circuit current",
        )  # fmt: skip
    total_a = bank_current_a(design, rating)
    if total_a > 0:
        yield run_of(
            key="ground-dc", label="Equipment to ground bar", start="equipment", end="ground",
            current_a=CONTINUOUS * total_a,
            basis="device of the bank's leads",
        )  # fmt: skip
    if design.kind is Kind.HOME and (arrays or total_a > 0):
        yield run_of(
            key="ground-electrode", label="Ground bar to electrode", start="ground", end="electrode",
            current_a=CONTINUOUS * total_a,
            basis="the system's largest conductor",
        )  # fmt: skip
