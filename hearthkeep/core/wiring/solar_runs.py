"""Runs of the sun: strings, arrays, and their controllers to the bus."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import (
    Array,
    Controller,
    ControllerKind,
    Design,
    ModuleSheet,
    Practice,
)
from hearthkeep.core.sources import STC_CELL_C, array_vmp_v, cold_voc_factor, coldest, vmp_coeff_per_c
from hearthkeep.core.wiring.runs import (
    CONTINUOUS,
    STRONG_SUN,
    Run,
    RunKind,
    load_terminals_a,
)

#: Short-circuit over working current where only an array's watts are known. Common practice, no source.
ISC_RATIO = 1.07
#: Open circuit over working volts where only they are known. Common practice, no source.
VOC_RATIO = 1.22
#: Cells in full sun on a hot day [°C]. Common practice, no source.
HOT_CELL_C = 65.0


def string_isc_a(array: Array, module: ModuleSheet | None, nominal_v: float) -> float:
    """Short-circuit current of one string [A]."""
    if module is not None:
        return module.isc_a
    return ISC_RATIO * array.stc_w / array_vmp_v(array, nominal_v) / array.strings


def controller_isc_a(controller: Controller, nominal_v: float) -> tuple[float, bool]:
    """Short-circuit current of all strings on a controller [A], and whether every panel's is known."""
    isc_a = sum(string_isc_a(array, array.module, nominal_v) * array.strings for array in controller.arrays)
    return isc_a, all(array.module is not None for array in controller.arrays)


def solar_runs(design: Design, rating: BankRating, year_low_c: float | None) -> Iterator[Run]:
    cold_c, _ = coldest(design, year_low_c)
    for controller in design.charging.controllers:
        for array in controller.arrays:
            yield from _array_runs(design, rating, controller, array, cold_c)
        if controller.charges and not controller.built_in:
            gives_a, basis = controller.output_a, "the controller's rated output"
            if controller.kind is ControllerKind.PWM:
                isc_a, is_known = controller_isc_a(controller, rating.nominal_v)
                terminals_a = load_terminals_a(design)
                if is_known or STRONG_SUN * isc_a > gives_a:
                    gives_a, basis = STRONG_SUN * isc_a, "the array's short-circuit current × 1.25, which it passes"
                if terminals_a > gives_a:
                    gives_a, basis = terminals_a, "what its load terminals give on"
            yield Run(
                key=f"controller-{controller.id}",
                kind=RunKind.CONTROLLER,
                label=f"{controller.name} to bus",
                start=f"controller-{controller.id}",
                end="bus",
                volts_v=rating.nominal_v,
                most_v=rating.charging_v,
                current_a=gives_a,
                drop_at_a=min(controller.output_a, gives_a),
                basis=basis,
                from_bank=True,
            )


def _array_runs(
    design: Design, rating: BankRating, controller: Controller, array: Array, cold_c: float
) -> Iterator[Run]:
    module, nominal_v = array.module, rating.nominal_v
    vmp_v = array_vmp_v(array, nominal_v)
    isc_a = string_isc_a(array, module, nominal_v)
    imp_a = array.stc_w / vmp_v
    most_v = module.voc_v * cold_voc_factor(module, cold_c)[0] * array.series if module else VOC_RATIO * vmp_v
    spare_v = 0.0
    if controller.kind is ControllerKind.PWM and module is not None:
        hot_v = vmp_v * (1.0 + vmp_coeff_per_c(array, module) * (HOT_CELL_C - STC_CELL_C))
        spare_v = max(hot_v - rating.charging_v, 0.0)
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
        spare_v=spare_v,
        is_estimate=module is None,
    )
