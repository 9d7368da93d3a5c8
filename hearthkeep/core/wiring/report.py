"""What the assessment says of the wiring as a whole; the runs one by one are asked for by their page."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.figure import COMMON_PRACTICE, PHYSICS, Figure, Term
from hearthkeep.core.wiring.bank_side import SHUNT_STEADY_FRAC, Precharge, Shunt
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.volts import InverterVolts, volts_figures


@dataclass(frozen=True, kw_only=True, slots=True)
class WiringSums:
    """The wiring in a few figures."""

    run_count: int
    device_count: int
    #: Runs of which something is set, and those of which something is not known.
    set_count: int
    unknown_count: int
    #: Short circuit at the bank's terminals [A].
    short_a: float
    shunt: Shunt
    precharge: Precharge | None
    #: None without an inverter, or where the size of its leads is not known.
    volts: InverterVolts | None


def wiring_sums(plan: WiringPlan, volts: InverterVolts | None) -> WiringSums:
    """Count what the plan holds."""
    return WiringSums(
        run_count=len(plan.runs),
        device_count=sum(run.device is not None for run in plan.runs),
        set_count=sum(run.is_set for run in plan.runs),
        unknown_count=sum(bool(run.unknown) for run in plan.runs),
        short_a=plan.fault.short_a,
        shunt=plan.shunt,
        precharge=plan.precharge,
        volts=volts,
    )


def wiring_figures(plan: WiringPlan, volts: InverterVolts | None) -> dict[str, Figure]:
    """How the figures come about."""
    found = {
        "wiring.short_a": Figure(
            label="Short circuit at the bank",
            value=plan.fault.short_a,
            unit="A",
            formula="rest volts when full ÷ resistance of all strings side by side",
            terms=(
                Term(name="rest volts, full", value=plan.fault.full_v, unit="V"),
                Term(name="strings together", value=plan.fault.least_mohm, unit="mΩ"),
            ),
            basis="Ohm's law; resistance of the data sheet"
            if plan.fault.is_known
            else "Ohm's law; the low end of what blocks of this chemistry have, common practice, no source",
        ),
        "wiring.shunt_a": Figure(
            label="Shunt",
            value=plan.shunt.asked_a,
            unit="A",
            formula=f"the next usual rating at or above the leads' current ÷ {SHUNT_STEADY_FRAC:g}",
            terms=(Term(name="the leads carry", value=plan.shunt.carries_a, unit="A"),),
            basis=COMMON_PRACTICE,
        ),
    }
    precharge = plan.precharge
    if precharge is not None:
        found["wiring.precharge_s"] = Figure(
            label="Precharge, to 99 % of the bank's volts",
            value=precharge.seconds_s,
            unit="s",
            formula="4.6 × R × C; the resistor takes C × V² ÷ 2",
            terms=(
                Term(name="resistor", value=precharge.resistor_ohm, unit="Ω"),
                Term(name="capacitors", value=1000.0 * precharge.capacitance_f, unit="mF"),
                Term(name="bank", value=precharge.bank_v, unit="V"),
                Term(name="first rush", value=precharge.first_a, unit="A"),
                Term(name="first watts in the resistor", value=precharge.first_w, unit="W"),
                Term(name="energy in the resistor", value=precharge.energy_j, unit="J"),
            ),
            basis=PHYSICS
            + (
                ""
                if precharge.is_known
                else "; capacitors usual for this size, common practice, low confidence: ask the maker"
            ),
        )
    return {**found, **volts_figures(volts)}
