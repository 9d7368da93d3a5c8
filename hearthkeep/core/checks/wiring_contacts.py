"""Findings about what opens a run besides its device: switches, plugs and connectors, and the breakers built into blocks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.wiring import set_on
from hearthkeep.core.design import DeviceKind, OpenedBy
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.wiring import SizedRun, breaker_fault, device_words, limits, needed_figure, next_rating_a
from hearthkeep.core.words import shortened

NAMES = {OpenedBy.SWITCH: "switch", OpenedBy.PLUG: "plug"}


def contacts_too_small(evidence: Evidence) -> Iterator[Finding]:
    """Switches, plugs and connectors that carry more than they are rated for."""
    for sized in evidence.wiring.runs:
        if sized.contact_a is None or sized.contact_a >= sized.run.current_a - 1e-9:
            continue
        name = NAMES[sized.opened_by]
        yield Finding(
            code="CONTACTS_TOO_SMALL",
            severity=Severity.STOP,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: its {name} is for {sized.contact_a:g} A",
            message=f"The run carries {sized.run.current_a:.1f} A, {sized.run.basis}; its {name} is rated for {sized.contact_a:g} A. Contacts that "
            "carry too much melt, and then can neither open nor be pulled.",
            basis="NEC 110.3(B), 690.13 and 690.33; IEC 60947-3 and 62852 (in our own words, from memory)",
            remedy=_larger(evidence, sized),
            figure=_beside(needed_figure(sized), Term(name=name, value=sized.contact_a, unit="A")),
        )


def _larger(evidence: Evidence, sized: SizedRun) -> Remedy | None:
    """Contacts of the next rating that is made; none where none is. To forget what was entered would settle nothing."""
    kind = DeviceKind.DC_BREAKER if sized.run.is_dc else DeviceKind.AC_BREAKER
    rating_a = next_rating_a(sized.run.current_a, kind, evidence.entered.practice)
    found = None if rating_a is None else set_on(evidence, sized, contact_a=rating_a)
    return None if found is None else replace(found, label=f"Try contacts for {rating_a:g} A")


def _beside(figure: Figure, term: Term) -> Figure:
    return Figure(
        label=figure.label, value=figure.value, unit=figure.unit, formula=figure.formula, terms=(*figure.terms, term),
        basis=figure.basis,
    )  # fmt: skip


def built_in_cannot_break(evidence: Evidence) -> Iterator[Finding]:
    """Breakers built into the blocks that meet more than they break, while no fuse limits it for them."""
    meets = breaker_fault(evidence.entered, evidence.wiring.fault)
    if meets is None or meets.breaks_a is None or meets.fault_a <= meets.breaks_a:
        return
    before = [evidence.wiring.find(key) for key in ("string-leads", "bank")]
    if any(limits(run.device, DeviceKind.DC_BREAKER) for run in before if run is not None):
        return
    fault, bank = evidence.wiring.fault, evidence.entered.bank
    surely = meets.fault_a * (1.0 if fault.is_known else fault.usual_part) > meets.breaks_a
    asks = "" if fault.is_known else " The blocks' resistance is a typical one: enter it."
    asks += "" if meets.is_entered else " What it breaks is usual for its kind: enter what its sheet says."
    is_stop = surely and fault.is_known and meets.is_entered
    lead = evidence.wiring.find("string-leads") or evidence.wiring.find("bank")
    there = (
        f" The {device_words(lead.device)} behind it does not." if lead and lead.device and lead.device.rating_a else ""
    )
    yield Finding(
        code="BUILT_IN_CANNOT_BREAK",
        severity=Severity.STOP if is_stop else Severity.MEND if surely else Severity.MIND,
        step=Step.WIRING,
        title=f"The blocks' own breakers {'cannot' if surely else 'may not'} break the fault",
        message=f"{meets.source} drives {meets.fault_a:,.0f} A into a short behind a block's {bank.unit_breaker_a:g} A breaker, which breaks {meets.breaks_a:,.0f} A. "
        f"A class T fuse of at most 400 A in the lead limits what reaches it.{there}{asks}",
        basis=f"Full rest volts over the strings' resistance; a current-limiting fuse in the same path is credited: {COMMON_PRACTICE}",
        figure=Figure(
            label="Fault at a block's own breaker",
            value=meets.fault_a,
            unit="A",
            formula="full rest volts ÷ resistance of what drives it",
            terms=(
                Term(name="rest volts, full", value=fault.full_v, unit="V"),
                Term(name="resistance", value=1000.0 * fault.full_v / meets.fault_a, unit="mΩ"),
                Term(name="breaker", value=bank.unit_breaker_a or 0.0, unit="A"),
                Term(name="it breaks", value=meets.breaks_a, unit="A"),
                *((Term(name="behind it", value=lead.device.rating_a, unit="A"),) if lead and lead.device and lead.device.rating_a else ()),
                Term(name="largest fuse that limits it", value=400.0, unit="A"),
            ),
            basis=PHYSICS,
        ),
    )  # fmt: skip


CHECKS = (contacts_too_small, built_in_cannot_break)
