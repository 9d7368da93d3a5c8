"""Findings about strings of panels and the controllers they feed."""

from __future__ import annotations

import math
from collections.abc import Iterator

from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Array, Controller, ControllerKind, Kind, Practice
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.practice import degrees
from hearthkeep.core.sources import LOW_LAW, ColdFrom, StringReport, array_vmp_v
from hearthkeep.core.words import counted, percent, watts

#: Working voltages on one converting input that differ more than this pull each other down. Common practice, no source.
UNLIKE_FRAC = 0.1
POWER_TOLERANCE_FRAC = 0.01
#: Most direct volts of solar circuits at one- and two-family homes. NEC 690.7, from memory.
DWELLING_LIMIT_V = 600.0
#: Part of a hot day lost from which it is worth a word, and from which the array hardly charges. Our assumptions.
HOT_LOSS_MIND_FRAC, HOT_LOSS_MEND_FRAC = 0.05, 0.5


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


def _if_guessed(report: StringReport) -> str:
    return ", estimated from the place," if report.cold_from is ColdFrom.ESTIMATE else ""


def cold_is_estimated(evidence: Evidence) -> Iterator[Finding]:
    """The record low decides whether a controller lives, and nobody has entered it."""
    known = [report for _, _, _, report in _known(evidence) if report.cold_from is ColdFrom.ESTIMATE]
    if not known:
        return
    design, report = evidence.design, max(known, key=lambda report: report.cold_voc_v)
    yield Finding(
        code="COLD_IS_ESTIMATED",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title="The record low is an estimate",
        message=f"Strings are judged at {degrees(design, report.cold_c)}, guessed from latitude and height or from the coldest day of "
        f"this outage; there the longest reaches {report.cold_voc_v:.0f} V. Enter the record low of the place on the Storm page.",
        basis=LOW_LAW,
        remedy=Remedy(
            label=f"Take {degrees(design, report.cold_c)} as the record",
            changes=(Change(path="site.record_low_c", value=report.cold_c),),
        ),
    )


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
            message=f"At {degrees(evidence.design, report.cold_c)}{_if_guessed(report)} the open string of {array.series} reaches {report.cold_voc_v:.0f} V; {controller.name} "
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
            message=f"At {degrees(design, report.cold_c)}{_if_guessed(report)} the open string reaches {report.cold_voc_v:.0f} V. Solar circuits of one- and "
            f"two-family homes stay at or below {DWELLING_LIMIT_V:g} V; local code and a licensed electrician decide.",
            basis="NEC 690.7 in our own words, from memory",
            remedy=_in_series(path, fits),
        )


def cannot_start(evidence: Evidence) -> Iterator[Finding]:
    """A converting controller wakes only when the open string lies above the bank by its margin."""
    bank_v = evidence.rating.nominal_v
    for path, controller, array, _ in _known(evidence):
        module = array.module
        if controller.kind is not ControllerKind.MPPT or module is None:
            continue
        needed_v, open_v = bank_v + controller.start_margin_v, module.voc_v * array.series
        if open_v >= needed_v:
            continue
        yield Finding(
            code="STRING_CANNOT_START",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title=f"{array.name}: {controller.name} does not wake",
            message=f"Open, the string shows {open_v:.1f} V at 25 °C; the controller starts {controller.start_margin_v:g} V above the bank, "
            f"at {needed_v:.1f} V.",
            basis="Open-circuit volts against nominal bank volts and the controller's margin to start",
            remedy=_in_series(path, min(-int(-needed_v // module.voc_v), 40)),
        )


def hot_voltage(evidence: Evidence) -> Iterator[Finding]:
    """What a hot day costs where the panel's volts fall below those of a bank that is charged."""
    for path, _, array, report in _known(evidence):
        day = report.hot_day
        if day.lost_frac < HOT_LOSS_MIND_FRAC:
            continue
        hardly = day.lost_frac >= HOT_LOSS_MEND_FRAC
        more = math.ceil(day.needed_v * array.series / report.hot_vmp_v)
        yield Finding(
            code="HOT_VMP_LOW",
            severity=Severity.MEND if hardly else Severity.MIND,
            step=Step.CHARGING,
            title=f"{array.name}: hardly charges when hot" if hardly else f"{array.name}: loses some charge when hot",
            message=f"Cells at {degrees(evidence.design, report.hot_c)} work at {report.hot_vmp_v:.1f} V; a bank that is charged takes "
            f"{day.needed_v:.1f} V. A clear midsummer day at the record high loses {day.lost_wh:,.0f} Wh of {day.full_wh:,.0f} Wh "
            f"({percent(day.lost_frac)}) with the bank held at its charging volts all day; while it is lower, less.",
            basis="The panel's curve through its data sheet's points, at the day's own cell temperatures; textbook form, from memory",
            remedy=Remedy(label=f"Try {more} in series", changes=(Change(path=f"{path}.series", value=min(more, 40)),))
            if array.series < more <= 40
            else None,
            figure=Figure(
                label="Lost on a hot day",
                value=day.lost_wh,
                unit="Wh",
                formula="sum over quarter hours of power with volts to spare − power at the volts needed",
                terms=(
                    Term(name="working volts when hottest", value=report.hot_vmp_v, unit="V"),
                    Term(name="volts needed", value=day.needed_v, unit="V"),
                    Term(name="the day with volts to spare", value=day.full_wh, unit="Wh"),
                ),
                basis="Clear sky by Ineichen on midsummer's day; half a volt for cable and controller is our assumption",
            ),
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
            title=f"{array.name}: a fuse in each of {counted(array.strings, 'string')}",
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


CHECKS = (
    cold_voltage,
    cold_is_estimated,
    dwelling_voltage,
    cannot_start,
    hot_voltage,
    input_current,
    string_fuses,
    unlike_panels,
    power_of_panels,
)
