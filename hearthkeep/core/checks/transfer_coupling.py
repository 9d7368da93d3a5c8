"""Findings about a grid-tied array beside the battery inverter."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.transfer import set_to
from hearthkeep.core.design import ArrangementKind, Throttle
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.transfer import LEADS_ARRAY, is_coupled
from hearthkeep.core.words import watts


def array_beside_inverter(evidence: Evidence) -> Iterator[Finding]:
    """A grid-tied array: led by the battery inverter or dark, no larger than it, taken by the bank, and held back when full."""
    design, unit = evidence.entered, evidence.entered.charging.grid_tied
    if unit is None:
        if design.transfer.arrangement is ArrangementKind.AC_COUPLED:
            yield Finding(
                code="NO_GRID_TIED",
                severity=Severity.MEND,
                step=Step.TRANSFER,
                title="No grid-tied array to couple",
                message="The arrangement joins a battery inverter to an array that is there; enter it below the arrangement, or "
                "choose a critical panel.",
                basis="The design's own sources",
                remedy=Remedy(label="Try a critical panel", changes=(set_to("arrangement", "critical_panel"),)),
            )
        return
    if not is_coupled(design):
        coupled = design.transfer.arrangement in LEADS_ARRAY and not unit.on_backup_panel
        yield Finding(
            code="GRID_TIED_DARK",
            severity=Severity.MEND if coupled else Severity.MIND,
            step=Step.TRANSFER,
            title="The grid-tied array is dark in an outage",
            message=f"A grid-tied inverter follows a supply and makes none: without the grid its {watts(unit.rated_w)} are still. "
            + (
                "It stands on the main panel, where the battery inverter cannot lead it."
                if coupled
                else "Only on the critical panel of an AC-coupled arrangement does it go on."
            ),
            basis="Anti-islanding of grid-tied inverters, IEEE 1547 and IEC 62116 (from memory)",
            remedy=Remedy(
                label="Try it on the backed-up panel",
                changes=(Change(path="charging.grid_tied.on_backup_panel", value=True),),
            )
            if coupled
            else None,
        )
        return
    yield from _coupled_sizes(evidence)
    yield from _held_back(evidence)
    generator = design.charging.generator
    if generator is not None and not generator.charges_only:
        yield Finding(
            code="ARRAY_BESIDE_GENERATOR",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="Array and generator must not run together",
            message="While the generator carries the house the array would follow it and push power back into it: a generator cannot "
            "take that. The outage is simulated with the array locked out for as long; see that the inverter does so, or let the "
            "generator feed its charger alone.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label="Try it on its charger alone",
                changes=(Change(path="charging.generator.charges_only", value=True),),
            ),
        )


def _coupled_sizes(evidence: Evidence) -> Iterator[Finding]:
    unit, inverter = evidence.entered.charging.grid_tied, evidence.all_inverters
    if unit is None:
        return
    if unit.rated_w > inverter.rated_w + 1e-9:
        yield Finding(
            code="GRID_TIED_OVER_INVERTER",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title=f"{watts(unit.rated_w)} of array on an inverter of {watts(inverter.rated_w)}",
            message="When the loads switch off, all of the array's power flows back through the battery inverter within milliseconds. "
            "It must not be larger than the inverter; put a part of it on the main panel.",
            basis="AC coupling: grid-tied watts at most the battery inverter's; common practice, no source",
        )
    into_w = unit.rated_w * evidence.inverter.marginal_efficiency_frac
    limit_w = evidence.rating.charge_limit_w
    if into_w > limit_w + 1e-9:
        yield Finding(
            code="GRID_TIED_OVER_BANK",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title="The bank cannot take the whole array",
            message=f"{watts(unit.rated_w)} of array bring {watts(into_w)} to the bank, which takes {watts(limit_w)}. Until it is "
            "held back the volts rise, and the protection board may open and leave the house dark.",
            basis="AC coupling: the bank absorbs the array's full output; common practice, no source",
            figure=Figure(
                label="Array into the bank",
                value=into_w,
                unit="W",
                formula="rated output × efficiency of the battery inverter, against the bank's charge limit",
                terms=(
                    Term(name="array", value=unit.rated_w, unit="W"),
                    Term(name="bank takes", value=limit_w, unit="W"),
                ),
                basis=COMMON_PRACTICE,
            ),
        )


def _held_back(evidence: Evidence) -> Iterator[Finding]:
    unit, outage = evidence.entered.charging.grid_tied, evidence.outage
    if unit is None or outage.coupled is None:
        return
    if unit.throttle is Throttle.NONE:
        yield Finding(
            code="NO_THROTTLE",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title="Nothing holds the array back",
            message="With a full bank and small loads its power has nowhere to go: volts rise until something trips or fails. It must "
            "follow the inverter's frequency, or be switched off in parts by the bank's charge.",
            basis="AC coupling: throttling or disconnection when full; common practice, no source",
            remedy=Remedy(
                label="Try frequency shift", changes=(Change(path="charging.grid_tied.throttle", value="frequency"),)
            ),
        )
    elif outage.coupled.held_back_wh > 0.02 * max(outage.coupled.offered_wh, 1.0):
        yield Finding(
            code="ARRAY_HELD_BACK",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title=f"{outage.coupled.held_back_wh / 1000:.1f} kWh of the array are held back",
            message=f"Of {outage.coupled.offered_wh / 1000:.1f} kWh that it offers, loads take {outage.coupled.to_loads_wh / 1000:.1f} and "
            f"the inverter passes {outage.coupled.to_bank_wh / 1000:.1f} towards the bank; the rest is "
            + ("throttled" if unit.throttle is Throttle.FREQUENCY else "switched off in parts")
            + " while the bank is full, cold or at its limit, or nothing leads it. Loads that can wait for the sun would use it.",
            basis="The outage model, step by step",
        )
    went_out = outage.min_soc_frac <= evidence.rating.cutoff_soc_frac + 1e-6 and not outage.carried_to_the_end
    sun_beside = any(controller.charges for controller in evidence.entered.charging.controllers)
    if went_out and not sun_beside and evidence.entered.charging.generator is None:
        yield Finding(
            code="NO_BLACK_START",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title="Once empty, the array cannot start it again",
            message="When the bank is empty the inverter goes off, and with it the supply that the array follows: the brightest sun "
            "changes nothing. A controller straight at the bank, a generator or a higher cut-off brings it back.",
            basis="The outage model; a grid-tied inverter makes no supply of its own",
        )
    if evidence.entered.inverter.search_threshold_w > 0:
        yield Finding(
            code="SEARCH_WITH_ARRAY",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="Search mode is off beside the array",
            message="What the array follows must not sleep; the outage is simulated with the inverter always awake.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(label="Switch it off", changes=(Change(path="inverter.search_threshold_w", value=0.0),)),
        )


CHECKS = (array_beside_inverter,)
