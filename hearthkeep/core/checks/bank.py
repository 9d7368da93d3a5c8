"""Findings about the bank."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Chemistry, Place, TakeOff
from hearthkeep.core.practice import degrees
from hearthkeep.core.words import percent

#: Published for flooded lead-acid only; beyond its cold end the size factor is extrapolated.
IEEE_485_COLD_END_C = -3.9


def lead_acid_gas(evidence: Evidence) -> Iterator[Finding]:
    """Lead-acid gives off hydrogen; vented cells never belong where people live, and their gas always needs a way out."""
    bank = evidence.design.bank
    if not TYPICAL[bank.chemistry].is_lead_acid:
        return
    vented = bank.chemistry.is_vented
    basis = "IEC 62485-2 clause 7.2 in our own words, from memory; local code decides"
    if vented and bank.place is Place.LIVING_SPACE:
        yield Finding(
            code="FLOODED_IN_LIVING_SPACE",
            severity=Severity.STOP,
            step=Step.BANK,
            title="Vented cells in living space",
            message="Vented cells give off hydrogen and acid mist while charging; hydrogen burns from 4 % in air. Put the bank "
            "in a shed or a vented box outdoors, or choose a sealed chemistry.",
            basis=basis,
            remedy=Remedy(
                label="Try a ventilated shed",
                changes=(Change(path="bank.place", value="shed"), Change(path="bank.ventilated", value=True)),
            ),
        )
    elif vented and (bank.ventilated or bank.place is Place.OUTDOOR_BOX):
        yield Finding(
            code="VENTED_GAS",
            severity=Severity.MIND,
            step=Step.BANK,
            title="Where its gas goes",
            message="Vented cells give off hydrogen and acid mist with every full charge: the air must lead outdoors, away from "
            "windows and from anything that sparks, the outlet at the highest point." + _air(evidence),
            basis=basis,
        )
    elif not bank.ventilated and bank.place is not Place.OUTDOOR_BOX:
        yield Finding(
            code="LEAD_ACID_UNVENTILATED",
            severity=Severity.STOP if vented else Severity.MIND,
            step=Step.BANK,
            title="Lead-acid without ventilation",
            message=("Vented" if vented else "Sealed")
            + " lead-acid needs moving air"
            + ("." if vented else ": sealed cells vent too when overcharged.")
            + _air(evidence)
            + " Keep sparks away.",
            basis=basis,
            remedy=Remedy(label="Try it ventilated", changes=(Change(path="bank.ventilated", value=True),)),
        )


def starter_battery(evidence: Evidence) -> Iterator[Finding]:
    """A cranking battery is not a storage battery."""
    bank, life = evidence.design.bank, evidence.arrangement.life
    if bank.chemistry is not Chemistry.STARTER:
        return
    yield Finding(
        code="STARTER_BATTERY",
        severity=Severity.MEND,
        step=Step.BANK,
        title="A starter battery is not for storage",
        message=f"Its thin plates give hundreds of amps for seconds. At a depth of {percent(evidence.rating.depth_frac)} it lasts about "
        f"{life.cycles:,.0f} cycles, and each deep one leaves it smaller. A deep-cycle battery, AGM or LFP is made for this.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(
            label="Try AGM at 50 %",
            changes=(
                Change(path="bank.chemistry", value="agm"),
                Change(path="bank.depth_frac", value=0.5),
                Change(path="bank.cutoff_soc_frac", value=min(bank.cutoff_soc_frac, 0.5)),
                Change(path="bank.unit", value=None),
            ),
        ),
    )


def begins_low(evidence: Evidence) -> Iterator[Finding]:
    """The outage finds the bank below its own floor."""
    begins, floor = evidence.charging.fill.reached_frac, evidence.rating.floor_soc_frac
    if begins >= floor - 1e-9 or not evidence.design.loads:
        return
    tops_up = evidence.design.charging.grid_charger.top_up_soc_frac is not None
    field = "charging.grid_charger.top_up_soc_frac" if tops_up else "bank.start_soc_frac"
    yield Finding(
        code="BEGINS_BELOW_FLOOR",
        severity=Severity.MEND,
        step=Step.BANK,
        title=f"The outage finds the bank at {percent(begins)}",
        message=f"The floor is {percent(floor)}: Keep draws nothing from the bank until it is {100 * evidence.design.policy.return_margin_frac:.0f} points above, and Life lives on what "
        f"is left above the cut-off, {percent(evidence.rating.cutoff_soc_frac)}. Keep it full in the storm season.",
        basis="The drop rules of the outage model",
        remedy=Remedy(label="Try it full", changes=(Change(path=field, value=1.0),)),
    )


def _air(evidence: Evidence) -> str:
    """What the place needs, in numbers."""
    air = evidence.arrangement.ventilation
    if air is None:
        return ""
    return (
        f" At boost charge {air.cells} cells need {air.boost_m3_per_h:.2f} m³/h, by natural draught an inlet low and an outlet high "
        f"of {air.boost_opening_cm2:.0f} cm² each; no sparks within {air.spark_distance_mm:.0f} mm."
    )


def lfp_in_the_cold(evidence: Evidence) -> Iterator[Finding]:
    """LFP must not be charged below freezing."""
    bank = evidence.design.bank
    temp_c = round(evidence.rating.temp_c, 1)
    if bank.chemistry is not Chemistry.LFP:
        return
    if temp_c < TYPICAL[Chemistry.LFP].discharge_min_c:
        yield Finding(
            code="LFP_TOO_COLD_TO_DISCHARGE",
            severity=Severity.MEND,
            step=Step.BANK,
            title="Too cold to give anything",
            message=f"At {degrees(evidence.design, temp_c)} the bank is below {degrees(evidence.design, -20)}, where protection boards stop the discharge: nothing is served.",
            basis="Battery-industry practice (from memory); the maker's data sheet decides",
            remedy=Remedy(
                label=f"Try a place at {degrees(evidence.design, 10)}",
                changes=(Change(path="bank.temp_c", value=10.0),),
            ),
        )
    elif temp_c < 0:
        yield Finding(
            code="LFP_NO_CHARGE_IN_COLD",
            severity=Severity.MEND,
            step=Step.BANK,
            title="No charging below freezing",
            message=f"At {degrees(evidence.design, temp_c)} lithium iron phosphate must not be charged: metal plates out and the cell is ruined, "
            f"later dangerous. {_not_taken(evidence)}Move the bank indoors or give it a heated box.",
            basis="Battery-industry practice: charge 0 to 45 °C (from memory); the maker's data sheet decides",
            remedy=_heated(evidence),
        )
    elif temp_c < 5 and bank.heater is None:
        yield Finding(
            code="LFP_NEAR_FREEZING",
            severity=Severity.MIND,
            step=Step.BANK,
            title="Close to freezing",
            message=f"The bank's place is at {degrees(evidence.design, temp_c)}. Below {degrees(evidence.design, 0)} it must not be charged: plan insulation or a heater "
            "and a charge cut-off by cell temperature.",
            basis="Battery-industry practice (from memory); the maker's data sheet decides",
            remedy=_heated(evidence),
        )


def _not_taken(evidence: Evidence) -> str:
    """What becomes of the sources meanwhile; empty where there is none."""
    if evidence.charging.stc_w == 0 and not evidence.design.charging.has_other_sources:
        return ""
    return "What the sources give beyond the loads is spilled. "


def _heated(evidence: Evidence) -> Remedy:
    """A heater large enough for an insulated box at this place."""
    target_c, loss_w_per_c = 5.0, 1.5
    power_w = float(min(2000, max(20, round((target_c - evidence.design.bank.temp_c) * loss_w_per_c * 1.2))))
    return Remedy(
        label=f"Try a heated box, {power_w:.0f} W",
        changes=(
            Change(
                path="bank.heater",
                value={"power_w": power_w, "loss_w_per_c": loss_w_per_c, "target_c": target_c},
            ),
        ),
    )


def cold_beyond_table(evidence: Evidence) -> Iterator[Finding]:
    """The published cold factors end."""
    bank = evidence.design.bank
    if TYPICAL[bank.chemistry].is_lead_acid and bank.temp_c < IEEE_485_COLD_END_C:
        yield Finding(
            code="COLD_BEYOND_TABLE",
            severity=Severity.MIND,
            step=Step.BANK,
            title="Colder than the published table",
            message=f"The bank's place is at {degrees(evidence.design, bank.temp_c)}; the published factors end at {degrees(evidence.design, -3.9)}. The capacity used, "
            f"{percent(evidence.rating.temperature_frac)} of rated, follows the table's last slope. A discharged bank may freeze.",
            basis="IEEE Std 485 Table 1 (values from memory), extrapolated: our assumption",
            remedy=Remedy(
                label=f"Try a place at {degrees(evidence.design, 10)}",
                changes=(Change(path="bank.temp_c", value=10.0),),
            ),
        )


def depth(evidence: Evidence) -> Iterator[Finding]:
    """Deeper than the chemistry is usually cycled."""
    bank, typical = evidence.design.bank, TYPICAL[evidence.design.bank.chemistry]
    if bank.cutoff_soc_frac > 1 - bank.depth_frac + 1e-9:
        yield Finding(
            code="CUTOFF_ABOVE_FLOOR",
            severity=Severity.MIND,
            step=Step.BANK,
            title="The cut-off comes before the floor",
            message=f"A depth of {percent(bank.depth_frac)} ends at {percent(1 - bank.depth_frac)} charge, but everything is cut off at "
            f"{percent(bank.cutoff_soc_frac)} already. The cut-off is used for both.",
            basis="The drop rules of the outage model",
            remedy=Remedy(
                label="Try the cut-off's depth",
                changes=(Change(path="bank.depth_frac", value=round(1 - bank.cutoff_soc_frac, 4)),),
            ),
        )
    if bank.depth_frac <= typical.usual_depth_frac + 1e-9 or bank.chemistry is Chemistry.STARTER:
        return
    if typical.is_lead_acid:
        yield Finding(
            code="DEPTH_LEAD_ACID",
            severity=Severity.MEND if bank.depth_frac > 0.8 else Severity.MIND,
            step=Step.BANK,
            title=f"{percent(bank.depth_frac)} is deep for lead-acid",
            message="Lead-acid is usually cycled to 40 to 50 %. Deeper cycles take its life within a season or two, and the "
            "hours gained here are paid for in new batteries.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(label="Try 50 %", changes=(Change(path="bank.depth_frac", value=0.5),)),
        )
    else:
        yield Finding(
            code="DEPTH_LFP",
            severity=Severity.MIND,
            step=Step.BANK,
            title="Nothing is held back",
            message=f"A depth of {percent(bank.depth_frac)} leaves no reserve for a wrong gauge or an aged cell; 80 to 90 % is usual.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(label="Try 90 %", changes=(Change(path="bank.depth_frac", value=0.9),)),
        )


def parallel_blocks(evidence: Evidence) -> Iterator[Finding]:
    """Many small blocks in parallel share badly."""
    bank = evidence.design.bank
    allowed = bank.unit.max_parallel if bank.unit else None
    if bank.parallel > 4 and bank.unit_v < 20 and allowed is None and bank.takeoff is not TakeOff.EQUAL_LEADS:
        yield Finding(
            code="MANY_PARALLEL",
            severity=Severity.MIND,
            step=Step.BANK,
            title=f"{bank.parallel} blocks side by side",
            message="Makers of 12 V blocks commonly allow four in parallel. More share badly unless fed from opposite ends or by "
            "equal leads; a higher system voltage needs fewer strings.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label="Try equal leads to bus bars", changes=(Change(path="bank.takeoff", value="equal_leads"),)
            ),
        )


CHECKS = (lead_acid_gas, starter_battery, begins_low, lfp_in_the_cold, cold_beyond_table, depth, parallel_blocks)
