"""Findings about the inverter's volts while it works hard, and about what its surge asks of the bank's boards."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Evidence, Finding, Remedy, Severity, Step, with_strings
from hearthkeep.core.design import MOST_STRINGS
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.inverter import low_battery_current_a, marginal_efficiency
from hearthkeep.core.practice import degrees
from hearthkeep.core.wiring import InverterVolts, VoltsCase, current_of_power_a
from hearthkeep.core.words import watts

BASIS = "Ohm's law; typical resistances and their growth in the cold are common practice, no source"


def sags(evidence: Evidence) -> Iterator[Finding]:
    """Peak and start against the low cut-off, from a full bank and from one at its floor."""
    volts = evidence.volts
    if volts is None:
        return
    design = evidence.entered
    for what, code, title in (
        ("peak", "VOLTS_AT_PEAK", "The inverter cuts off at the peak"),
        ("start", "VOLTS_AT_START", "The inverter cuts off at the worst start"),
    ):
        low, full = volts.of(what, "low"), volts.of(what, "full")
        if low.holds:
            continue
        when = "even from a full bank" if not full.holds else "once the bank is near its floor"
        worst = full if not full.holds else low
        if low.rest_v <= volts.cutoff_v and full.holds:
            # At its floor the bank rests below the cut-off: the inverter leaves it full, whatever it drives.
            yield Finding(
                code="CUTOFF_VOLTS_ABOVE_FLOOR",
                severity=Severity.MIND,
                step=Step.WIRING,
                title="The inverter cuts off before the bank is at its floor",
                message=f"At its floor the bank rests at {low.rest_v:.1f} V, the low cut-off is {volts.cutoff_v:g} V: what lies between is never used.",
                basis="Rest volts by the trade's tables, common practice, no source",
            )
            return
        reads = (
            "so much power cannot be had through that resistance"
            if worst.inverter_v == 0
            else f"{worst.inverter_v:.1f} V are left at its terminals, its low cut-off is {volts.cutoff_v:g} V"
        )
        known = design.bank.unit is not None and design.bank.unit.internal_resistance_mohm is not None
        yield Finding(
            code=code,
            severity=Severity.MEND if not full.holds or known else Severity.MIND,
            step=Step.WIRING,
            title=title,
            message=f"{watts(worst.power_w)} through {volts.bank_mohm:.1f} mΩ of bank at {degrees(design, evidence.rating.temp_c)} and {volts.leads_mohm:.1f} mΩ of leads: {reads}, {when}. "
            + ("" if known else "The bank's resistance is a typical one: look it up. ")
            + "More strings, shorter and thicker leads, a warmer place or a higher system voltage.",
            basis=BASIS,
            remedy=_more_strings(evidence, volts, low),
        )


def _more_strings(evidence: Evidence, volts: InverterVolts, low: VoltsCase) -> Remedy | None:
    """As many strings as hold the volts above the cut-off; none where more of them do not."""
    bank = evidence.entered.bank
    for strings in range(bank.parallel + 1, MOST_STRINGS + 1):
        ohm = volts.bank_mohm / 1000.0 * bank.parallel / strings + volts.leads_mohm / 1000.0
        current_a = current_of_power_a(rest_v=low.rest_v, power_w=low.power_w, ohm=ohm)
        if current_a is not None and low.rest_v - current_a * ohm >= volts.cutoff_v + 0.01 * low.rest_v:
            return with_strings(bank, strings, bank.takeoff)
    return None


def surge_over_board(evidence: Evidence) -> Iterator[Finding]:
    """The inverter's own surge against what the protection boards bear for seconds, whether or not today's audit reaches it."""
    rating, inverter = evidence.rating, evidence.all_inverters
    if rating.short_discharge_a is None or inverter.rated_w <= 0 or rating.discharge_limit_w == 0:
        return
    surge_a = low_battery_current_a(inverter, inverter.surge_w)
    if surge_a <= rating.short_discharge_a or evidence.inverter.bank_surge_a > rating.short_discharge_a:
        return
    yield Finding(
        code="SURGE_OVER_BOARD",
        severity=Severity.MIND,
        step=Step.WIRING,
        title="The inverter's surge is more than the bank bears",
        message=f"Its {watts(inverter.surge_w)} ask {surge_a:.0f} A at the low cut-off; for a few seconds the bank bears {rating.short_discharge_a:.0f} A. Today's loads "
        "do not reach it; the next larger motor will find the bank's limit, not the inverter's.",
        basis="Surge over efficiency and the low cut-off voltage; twice the continuous limit is common practice, no source",
        figure=Figure(
            label="At its surge",
            value=surge_a,
            unit="A",
            formula="(idle + surge ÷ efficiency of each further watt) ÷ low cut-off volts",
            terms=(
                Term(name="surge", value=inverter.surge_w, unit="W"),
                Term(name="idle", value=inverter.idle_w, unit="W"),
                Term(name="efficiency", value=marginal_efficiency(inverter), unit=""),
                Term(name="low cut-off", value=inverter.low_cutoff_v, unit="V"),
                Term(name="the bank bears for seconds", value=rating.short_discharge_a, unit="A"),
            ),
            basis=PHYSICS,
        ),
    )


CHECKS = (sags, surge_over_board)
