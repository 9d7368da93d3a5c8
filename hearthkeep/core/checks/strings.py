"""Findings about strings of panels and the controllers they feed."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.charging import StringReport, array_vmp_v
from hearthkeep.core.checks.finding import (
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
    percent,
    watts,
)
from hearthkeep.core.design import Array, Controller, ControllerKind, Kind, Practice
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.practice import degrees

#: Working voltages on one converting input that differ more than this pull each other down. Common practice, no source.
UNLIKE_FRAC = 0.1
POWER_TOLERANCE_FRAC = 0.01
#: Most direct volts of solar circuits at one- and two-family homes. NEC 690.7, from memory.
DWELLING_LIMIT_V = 600.0


def _known(evidence: Evidence) -> Iterator[tuple[str, Controller, Array, StringReport]]:
    reports = {report.array_id: report for report in evidence.charging.strings}
    for index, controller in enumerate(evidence.design.charging.controllers):
        for at, array in enumerate(controller.arrays):
            report = reports.get(array.id)
            if report is not None:
                yield f"charging.controllers.{index}.arrays.{at}", controller, array, report


def _in_series(path: str, fits: int) -> Remedy | None:
    """A string of so many panels; none where not even one fits."""
    if fits < 1:
        return None
    return Remedy(label=f"Try {fits} in series", changes=(Change(path=f"{path}.series", value=fits),))


def cold_voltage(evidence: Evidence) -> Iterator[Finding]:
    """The first cold bright morning is when controllers die."""
    for path, controller, array, report in _known(evidence):
        module, limit = array.module, controller.max_input_v
        if module is None or limit is None or report.cold_voc_v <= limit:
            continue
        fits = int(limit // (module.voc_v * report.cold_factor))
        yield Finding(
            code="COLD_VOC_OVER_LIMIT",
            severity=Severity.STOP,
            step=Step.CHARGING,
            title=f"{array.name}: {report.cold_voc_v:.0f} V in the cold",
            message=f"At {degrees(evidence.design, report.cold_c)} the open string of {array.series} reaches {report.cold_voc_v:.0f} V; {controller.name} "
            f"takes {limit:g} V and is destroyed above it, with direct voltage that arcs.",
            basis="NEC Table 690.7(A) (from memory)"
            if report.by_table
            else "The panel's own coefficient; NEC 690.7 in our own words",
            remedy=_in_series(path, fits),
            figure=Figure(
                label="Open-circuit voltage in the cold",
                value=report.cold_voc_v,
                unit="V",
                formula="Voc × factor × panels in series",
                terms=(
                    Term(name="Voc of one panel", value=module.voc_v, unit="V"),
                    Term(
                        name=f"factor at {degrees(evidence.design, report.cold_c)}", value=report.cold_factor, unit=""
                    ),
                    Term(name="in series", value=array.series, unit=""),
                ),
                basis="Published table" if report.by_table else "1 + coefficient × (cold − 25 °C)",
            ),
        )


def dwelling_voltage(evidence: Evidence) -> Iterator[Finding]:
    """A home's solar circuits have a limit of their own, whatever the controller takes."""
    design = evidence.design
    if design.practice is not Practice.NORTH_AMERICAN or design.kind is not Kind.HOME:
        return
    for path, _, array, report in _known(evidence):
        if report.cold_voc_v <= DWELLING_LIMIT_V:
            continue
        fits = int(DWELLING_LIMIT_V // (report.cold_voc_v / array.series))
        yield Finding(
            code="OVER_DWELLING_VOLTAGE",
            severity=Severity.STOP,
            step=Step.CHARGING,
            title=f"{array.name}: {report.cold_voc_v:.0f} V at a home",
            message=f"At {degrees(design, report.cold_c)} the open string reaches {report.cold_voc_v:.0f} V. Solar circuits of one- and "
            f"two-family homes stay at or below {DWELLING_LIMIT_V:g} V; local code and a licensed electrician decide.",
            basis="NEC 690.7 in our own words, from memory",
            remedy=_in_series(path, fits),
        )


def hot_voltage(evidence: Evidence) -> Iterator[Finding]:
    """On a hot day the string must still lie above the bank while it charges."""
    bank_v = evidence.rating.nominal_v
    for path, controller, array, report in _known(evidence):
        needed_v = 1.13 * bank_v + (controller.start_margin_v if controller.kind is ControllerKind.MPPT else 1.0)
        if controller.kind is ControllerKind.DIRECT or array.module is None or report.hot_vmp_v >= needed_v:
            continue
        more = int(-(-needed_v * array.series // report.hot_vmp_v))
        yield Finding(
            code="HOT_VMP_LOW",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title=f"{array.name}: too few volts when hot",
            message=f"Cells at {degrees(evidence.design, report.hot_c)} give {report.hot_vmp_v:.1f} V at full power; charging a {bank_v:g} V bank "
            f"takes {needed_v:.1f} V with the controller's margin.",
            basis="Working voltage by temperature against charging voltage, 113 % of nominal; common practice",
            remedy=Remedy(label=f"Try {more} in series", changes=(Change(path=f"{path}.series", value=min(more, 40)),)),
        )


def input_current(evidence: Evidence) -> Iterator[Finding]:
    """All strings of a controller against its input."""
    for controller in evidence.design.charging.controllers:
        if controller.max_input_a is None:
            continue
        ids = {array.id for array in controller.arrays}
        total_a = sum(report.input_a for report in evidence.charging.strings if report.array_id in ids)
        if total_a > controller.max_input_a:
            yield Finding(
                code="INPUT_CURRENT",
                severity=Severity.MEND,
                step=Step.CHARGING,
                title=f"{controller.name}: {total_a:.0f} A at its input",
                message=f"Short circuit of all strings with 25 % for strong sun is {total_a:.1f} A; it takes {controller.max_input_a:g} A. Longer "
                "strings, fewer of them, or a second controller.",
                basis="NEC 690.8 in our own words, from memory; some controllers merely hold back, their data sheet says",
            )


def string_fuses(evidence: Evidence) -> Iterator[Finding]:
    """Three or more strings side by side can burn one that fails."""
    for _, _, array, report in _known(evidence):
        module = array.module
        if module is None or not report.needs_fuses:
            continue
        most = module.series_fuse_a
        fits = report.fuse_a is not None and (most is None or report.fuse_a <= most)
        yield Finding(
            code="STRING_FUSES" if fits else "STRING_FUSE_TOO_LARGE",
            severity=Severity.MIND if fits else Severity.MEND,
            step=Step.CHARGING,
            title=f"{array.name}: a fuse in each of {array.strings} strings",
            message=f"The others drive {report.input_a - report.input_a / array.strings:.0f} A through one that fails. Each string takes a fuse of at "
            f"least 156 % of {module.isc_a:g} A"
            + (f", {report.fuse_a:g} A." if report.fuse_a else ", beyond usual fuses.")
            + ("" if fits or most is None else f" The panel allows {most:g} A: make two arrays of fewer strings."),
            basis="NEC 690.9 and 690.8 in our own words, from memory",
        )


def unlike_panels(evidence: Evidence) -> Iterator[Finding]:
    """Arrays of unlike voltage side by side on one converting input."""
    bank_v = evidence.rating.nominal_v
    for controller in evidence.design.charging.controllers:
        volts = [array_vmp_v(array, bank_v) for array in controller.arrays if array.stc_w > 0]
        if len(volts) < 2 or controller.kind is not ControllerKind.MPPT or max(volts) / min(volts) - 1 <= UNLIKE_FRAC:
            continue
        yield Finding(
            code="UNLIKE_PANELS",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title=f"{controller.name}: {min(volts):.0f} V beside {max(volts):.0f} V",
            message="One input finds one voltage: the higher array is pulled down towards the lower and much of it is lost. Give each "
            "its own controller, or strings of like voltage.",
            basis="Working voltages under standard test conditions; 10 % is common practice",
        )


def power_of_panels(evidence: Evidence) -> Iterator[Finding]:
    """The array's watts are not those of its panels."""
    for path, _, array, _ in _known(evidence):
        module = array.module
        if module is None:
            continue
        panels_w = module.stc_w * array.series * array.strings
        if abs(panels_w - array.stc_w) <= POWER_TOLERANCE_FRAC * panels_w:
            continue
        yield Finding(
            code="ARRAY_POWER_DIFFERS",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title=f"{array.name}: {watts(array.stc_w)} are not its panels'",
            message=f"{array.strings} x {array.series} panels of {watts(module.stc_w)} are {watts(panels_w)}, "
            f"{percent(panels_w / array.stc_w - 1) if array.stc_w > 0 else 'all'} off.",
            basis="Series x strings x watts of one panel",
            remedy=Remedy(label=f"Take {watts(panels_w)}", changes=(Change(path=f"{path}.stc_w", value=panels_w),)),
        )


CHECKS = (cold_voltage, dwelling_voltage, hot_voltage, input_current, string_fuses, unlike_panels, power_of_panels)
