"""Findings about the chargers' set points."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Chemistry
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.practice import degrees

#: How far a set point may lie beside the usual range before it is spoken of, as a part of it.
TOLERANCE_FRAC = 0.005
#: Chemistries whose usual limit leaves room for equalising.
EQUALISED = (Chemistry.FLOODED, Chemistry.STARTER)
#: How far from 25 °C lead-acid wants its set points corrected [°C]. Common practice, no source.
CORRECT_FROM_C = 8.0


def _usual(field: str, label: str) -> Remedy:
    return Remedy(label=label, changes=(Change(path=f"charging.stages.{field}", value=None),))


def absorb(evidence: Evidence) -> Iterator[Finding]:
    """Absorb volts against what the chemistry asks for."""
    points = evidence.charging.stages
    low_v, high_v = points.usual_absorb_low_v, points.usual_absorb_high_v
    too_high = points.absorb_v > high_v * (1 + TOLERANCE_FRAC)
    if not too_high and points.absorb_v >= low_v * (1 - TOLERANCE_FRAC):
        return
    what = "overcharges and heats the bank" if too_high else "never fills the bank"
    yield Finding(
        code="ABSORB_TOO_HIGH" if too_high else "ABSORB_TOO_LOW",
        severity=Severity.STOP if too_high else Severity.MEND,
        step=Step.CHARGING,
        title=f"Absorb at {points.absorb_v:.2f} V {what}",
        message=f"This bank of {points.cells} cells usually absorbs at {low_v:.2f} to {high_v:.2f} V at 25 °C. The maker's figure decides.",
        basis=f"Cells in series x volts a cell; {COMMON_PRACTICE.lower()}",
        remedy=_usual("absorb_v", "Take the usual absorb volts"),
    )


def float_below_absorb(evidence: Evidence) -> Iterator[Finding]:
    """Float holds a full bank and must lie below absorb."""
    points = evidence.charging.stages
    if points.float_v < points.absorb_v:
        return
    yield Finding(
        code="FLOAT_NOT_BELOW_ABSORB",
        severity=Severity.STOP,
        step=Step.CHARGING,
        title="Float is not below absorb",
        message=f"{points.float_v:.2f} V would hold a full bank at its charging volts for good; usual is {points.usual_float_v:.1f} V.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(
            label="Take the usual volts for both",
            changes=(
                Change(path="charging.stages.float_v", value=None),
                Change(path="charging.stages.absorb_v", value=None),
            ),
        ),
    )


def equalise(evidence: Evidence) -> Iterator[Finding]:
    """Equalising is for flooded lead-acid only."""
    entered, chemistry = evidence.design.charging.stages, evidence.design.bank.chemistry
    if entered.never_equalised or entered.equalise_v is None or chemistry is Chemistry.FLOODED:
        return
    harm = "gasses sealed cells dry" if chemistry is not Chemistry.LFP else "drives lithium cells beyond their limit"
    yield Finding(
        code="EQUALISE_FORBIDDEN",
        severity=Severity.STOP,
        step=Step.CHARGING,
        title="This bank must not be equalised",
        message=f"Equalising at {entered.equalise_v:.1f} V {harm}. Only flooded lead-acid is equalised.",
        basis=COMMON_PRACTICE,
        remedy=_usual("equalise_v", "Take equalising out"),
    )


def over_voltage(evidence: Evidence) -> Iterator[Finding]:
    """Something has to notice a controller that has failed."""
    points, entered = evidence.charging.stages, evidence.design.charging.stages.over_voltage_v
    highest_v = max(points.absorb_at_temp_v, points.equalise_v or 0.0)
    # Where nothing is equalised, the limit need not let it through.
    usual_v = (
        points.usual_over_voltage_v
        if points.equalise_v is not None or evidence.design.bank.chemistry not in EQUALISED
        else 0.0
    )
    wanted_v = round(max(usual_v, highest_v + 0.05 * points.cells), 2)
    remedy = Remedy(
        label=f"Try {wanted_v:g} V", changes=(Change(path="charging.stages.over_voltage_v", value=wanted_v),)
    )
    if entered is None:
        if evidence.design.charging.controllers or evidence.design.charging.has_other_sources:
            yield Finding(
                code="NO_OVER_VOLTAGE_LIMIT",
                severity=Severity.MIND,
                step=Step.CHARGING,
                title="Nothing stops a charger that has failed",
                message="A failed controller lets the volts creep up until something burns. Set a disconnect or an alarm above the "
                f"highest set point, {highest_v:.1f} V, that does not depend on the charger itself.",
                basis=COMMON_PRACTICE,
                remedy=remedy,
            )
    elif entered <= highest_v:
        yield Finding(
            code="OVER_VOLTAGE_TRIPS_EARLY",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title="The over-voltage limit trips while charging",
            message=f"{entered:g} V is not above the highest set point, {highest_v:.2f} V at the bank's temperature.",
            basis="Set points with their correction for temperature",
            remedy=remedy,
        )
    elif entered > 1.05 * max(wanted_v, highest_v):
        yield Finding(
            code="OVER_VOLTAGE_TOO_LATE",
            severity=Severity.STOP,
            step=Step.CHARGING,
            title="The over-voltage limit comes too late",
            message=f"{entered:g} V; this bank should be cut off at about {wanted_v:g} V.",
            basis=COMMON_PRACTICE,
            remedy=remedy,
        )


def compensation(evidence: Evidence) -> Iterator[Finding]:
    """Lead-acid wants its volts corrected for temperature, lithium does not."""
    points, chemistry = evidence.charging.stages, evidence.design.bank.chemistry
    if chemistry is Chemistry.LFP:
        if points.compensation_mv_per_c < 0:
            yield Finding(
                code="LFP_COMPENSATED",
                severity=Severity.MEND,
                step=Step.CHARGING,
                title="Lithium is charged without temperature correction",
                message=f"{points.compensation_mv_per_c:g} mV a cell and degree would charge a cold bank to "
                f"{points.absorb_at_temp_v:.2f} V.",
                basis=COMMON_PRACTICE,
                remedy=_usual("compensation_mv_per_c", "Take the correction out"),
            )
    elif points.compensation_mv_per_c == 0 and abs(points.temp_c - 25) >= CORRECT_FROM_C:
        yield Finding(
            code="NOT_COMPENSATED",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title=f"Charged at {degrees(evidence.design, points.temp_c)} by the volts for {degrees(evidence.design, 25.0)}",
            message="Cold lead-acid is left part full, warm lead-acid is overcharged. Use chargers with a sensor at the bank.",
            basis=f"Usually -3 to -5 mV a cell and degree; {COMMON_PRACTICE.lower()}",
            remedy=_usual("compensation_mv_per_c", "Take the usual correction"),
            figure=Figure(
                label="Absorb at the bank's temperature",
                value=points.absorb_v + points.cells * -0.004 * (points.temp_c - 25),
                unit="V",
                formula="absorb + cells × correction × (temperature - 25 °C)",
                terms=(
                    Term(name="absorb", value=points.absorb_v, unit="V"),
                    Term(name="cells", value=points.cells, unit=""),
                    Term(name="correction", value=-0.004, unit="V/°C"),
                    Term(name="temperature", value=points.temp_c, unit="°C"),
                ),
                basis=COMMON_PRACTICE,
            ),
        )


CHECKS = (absorb, float_below_absorb, equalise, over_voltage, compensation)
