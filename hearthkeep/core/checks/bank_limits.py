"""Findings about what the inverter asks of the bank: at its rating, at the peak, and at a start."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import TYPICAL, strings_for
from hearthkeep.core.checks.finding import (
    Evidence,
    Finding,
    Severity,
    Step,
    with_strings,
)
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.words import counted, watts


def bank_can_feed(evidence: Evidence) -> Iterator[Finding]:
    """What the loads and the inverter's own rating ask of the bank, its strings and their protection, at the low cut-off."""
    rating = evidence.rating
    if rating.discharge_limit_w == 0:
        # Too cold to give anything, which another finding says.
        return
    limit_a, peak_a, rated_a = (
        rating.discharge_limit_a,
        evidence.inverter.bank_peak_a,
        evidence.inverter.rated_current_a,
    )
    if peak_a > limit_a:
        yield _bank_limit(
            evidence,
            code="BANK_CURRENT_LIMIT",
            title="The bank's limit comes first",
            asks=f"The peak asks for {peak_a:.0f} A",
            asked_a=peak_a,
            severity=Severity.MEND,
        )
    elif rated_a > limit_a:
        yield _bank_limit(
            evidence,
            code="RATING_OVER_BANK",
            title="The inverter can ask more than the bank gives",
            asks=f"At its rated {watts(evidence.all_inverters.rated_w)} the inverter draws {rated_a:.0f} A",
            asked_a=rated_a,
            severity=_as_known(evidence),
        )


def _as_known(evidence: Evidence) -> Severity:
    """How heavily a limit counts: one of a data sheet is to be kept, a typical one is worth knowing."""
    return Severity.MIND if evidence.design.bank.unit_max_discharge_a is None else Severity.MEND


def _bank_limit(evidence: Evidence, *, code: str, title: str, asks: str, asked_a: float, severity: Severity) -> Finding:
    bank, rating, inverter = evidence.design.bank, evidence.rating, evidence.design.inverter
    asked = strings_for(bank, asked_a=asked_a, string_a=rating.string_discharge_a)
    has_board = TYPICAL[bank.chemistry].short_discharge_ratio is not None
    whose = "its" if bank.parallel == 1 else "their"
    then = (
        f"then {whose} protection opens and the house is dark"
        if has_board
        else f"beyond that {whose} volts collapse and age comes fast"
    )
    known = (
        ""
        if bank.unit_max_discharge_a is not None
        else f" That is a typical figure for {TYPICAL[bank.chemistry].label}."
    )
    others = counted(bank.parallel, "string")
    return Finding(
        code=code,
        severity=severity,
        step=Step.BANK,
        title=title,
        message=f"{asks} at the low cut-off of {inverter.low_cutoff_v:g} V; {others} may give {rating.discharge_limit_a:.0f} A, {then}."
        f"{known}",
        basis="Output over efficiency and the low cut-off voltage, against the limit of the string that carries the largest share",
        remedy=with_strings(bank, asked.strings, asked.takeoff),
        figure=Figure(
            label="Direct current asked of the bank",
            value=asked_a,
            unit="A",
            formula="(idle + AC W ÷ marginal efficiency + DC W) ÷ low cut-off volts",
            terms=(
                Term(name="low cut-off", value=inverter.low_cutoff_v, unit="V"),
                Term(name="one string may give", value=rating.string_discharge_a, unit="A"),
                Term(name="all strings by their shares", value=rating.discharge_limit_a, unit="A"),
            ),
            basis=PHYSICS,
        ),
    )


def start_opens_board(evidence: Evidence) -> Iterator[Finding]:
    """A motor's start against what the protection boards bear for seconds."""
    rating, surge_a = evidence.rating, evidence.inverter.bank_surge_a
    if rating.short_discharge_a is None or rating.string_short_a is None or surge_a <= rating.short_discharge_a:
        return
    sheet = evidence.design.bank.unit
    is_known = sheet is not None and sheet.short_discharge_a is not None
    asked = strings_for(evidence.design.bank, asked_a=surge_a, string_a=rating.string_short_a)
    yield Finding(
        code="START_OPENS_BOARD",
        severity=Severity.MEND if is_known else Severity.MIND,
        step=Step.BANK,
        title=f"{evidence.loads.start_surge_load or 'The largest start'} may open the bank's protection",
        message=f"The worst start draws {surge_a:.0f} A at the low cut-off; for a few seconds the bank bears {rating.short_discharge_a:.0f} A"
        + (", by its data sheet." if is_known else ", taken as twice its continuous limit: look it up.")
        + " Once a board has opened, everything is dark until it is reset.",
        basis="Start over efficiency and the low cut-off voltage; twice the continuous limit is common practice, no source",
        remedy=with_strings(evidence.design.bank, asked.strings, asked.takeoff),
    )
