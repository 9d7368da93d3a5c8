"""Findings about what guards each run: from which sources a fault can be driven, and what opens between them and the conductor."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.wiring import judged_on_transfer, named, set_on
from hearthkeep.core.checks.wiring_contacts import built_in_cannot_break, contacts_too_small
from hearthkeep.core.design import Chemistry, ControllerKind, DeviceKind, RunFact
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.wiring import (
    AMPACITY,
    CONTINUOUS,
    STRONG_SUN,
    Feed,
    Guarded,
    Opening,
    RunKind,
    SizedRun,
    ampacity_figure,
    charging_a,
    conductor_set_words,
    controller_isc_a,
    device_words,
    fault_figure,
    is_built_in_charger,
    leads_hold_from_a,
)
from hearthkeep.core.words import begun, counted, shortened

NEXT_SIZE = "NEC 240.4(B), up to 800 A (from memory); the adopted edition decides"
VEHICLE_DEVICE = "ABYC E-11, up to 150 % of the ampacity where nothing nearer is made (from memory)"


def is_judged(evidence: Evidence, sized: SizedRun) -> bool:
    """Whether enough is known of a run to say what guards it, and no other page says it."""
    if RunFact.DEVICE in sized.unknown or sized.next_size_a is None or judged_on_transfer(evidence, sized):
        return False
    device = sized.device
    # That none is made for it is another finding.
    return device is None or device.kind is DeviceKind.NONE or device.rating_a is not None


def _none_built_in(guarded: Guarded) -> list[Feed]:
    """Sources from which nothing at all opens."""
    return [feed for feed in guarded.unguarded if not feed.openings]


def unguarded(evidence: Evidence) -> Iterator[Finding]:
    """Runs that a fault can be driven on while nothing opens in time."""
    for guarded in evidence.wiring.guarded:
        sized = guarded.sized
        run, device = sized.run, sized.device
        if run.kind in (RunKind.LINK, RunKind.STRING) or not is_judged(evidence, sized) or not guarded.unguarded:
            continue
        is_thin = sized.ampacity_a is not None and sized.ampacity_a < sized.least_a - 1e-9
        if is_thin and (device is None or not device.is_set) and any(feed.openings for feed in guarded.unguarded):
            # Then the conductor is too thin, which another finding says.
            continue
        bare = _none_built_in(guarded)
        feed = bare[0] if bare else guarded.unguarded[0]
        if bare:
            drives = (
                (f"{feed.limit_a:.0f} A" if feed.limit_a is not None else "whatever it can")
                if device is None or device.fault_a is None or feed.limit_a is not None
                else f"{device.fault_a:,.0f} A"
            )
            yield Finding(
                code="NO_DEVICE",
                severity=Severity.STOP,
                step=Step.WIRING,
                title=f"{shortened(run.label)}: nothing breaks a fault",
                message=f"{begun(feed.source)} drives {drives} into a short there, and nothing stands between them: the cable is "
                "then the fuse.",
                basis="NEC 240.21 and 690.9; IEC 60364-4-43 (in our own words, from memory)",
                remedy=set_on(evidence, sized, device=None, device_a=None, interrupt_a=None),
                figure=fault_figure(sized, evidence.wiring.fault)
                if device is not None and device.fault_a is not None and feed.limit_a is None
                else None,
            )
            continue
        opening = min(feed.openings, key=lambda each: each.lets_a)
        is_own = opening.run == run.key and device is not None
        yield Finding(
            code="DEVICE_TOO_LARGE",
            severity=Severity.STOP,
            step=Step.WIRING,
            title=f"{shortened(run.label)}: {device_words(device) if is_own else opening.words} guards too thin a wire",
            message=f"From {feed.source} the least that opens is {opening.words}: {opening.lets_a:g} A through a conductor for "
            f"{sized.ampacity_a or 0.0:.0f} A, {conductor_set_words(sized, evidence.entered.practice)}. The wire burns before it opens.",
            basis=AMPACITY[evidence.entered.practice],
            # What an array's run needs depends on the controller's device, which another run has.
            remedy=None
            if run.kind is RunKind.ARRAY
            else set_on(evidence, sized, device_a=None, size=None, per_pole=None, device=None, good_for_a=None),
            figure=_through(sized, opening),
        )


def _through(sized: SizedRun, opening: Opening) -> Figure:
    """What a conductor may carry, beside the least that opens before it."""
    figure = ampacity_figure(sized)
    terms = [term for term in figure.terms if term.name != "device"]
    return replace(figure, terms=(*terms, Term(name="the least that opens", value=opening.lets_a, unit="A")))


def strings_unguarded(evidence: Evidence) -> Iterator[Finding]:
    """From three strings on the others drive more into one than its panels or its cable bear."""
    arrays = {array.id: array for array in evidence.entered.charging.arrays}
    for guarded in evidence.wiring.guarded:
        sized = guarded.sized
        device = sized.device
        if sized.run.kind is not RunKind.STRING or not is_judged(evidence, sized):
            continue
        if not sized.run.needs_device or (device is not None and device.kind is not DeviceKind.NONE):
            continue
        others_a = (sized.run.count - 1) * sized.run.current_a
        module = arrays[sized.run.key.removeprefix("string-")].module
        most_a = module.series_fuse_a if module is not None else None
        if not guarded.unguarded and most_a is not None and others_a <= most_a + 1e-9:
            continue
        bears = f"its panels bear {most_a:g} A" if most_a is not None else "what its panels bear is not entered"
        yield Finding(
            code="NO_DEVICE",
            severity=Severity.STOP,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: nothing breaks a fault",
            message=f"Into a fault in one string the other {sized.run.count - 1} drive {others_a:.1f} A, {sized.run.count - 1} × "
            f"{sized.run.current_a:.1f} A; {bears}.",
            basis="NEC 690.9(A); IEC 62548 (in our own words, from memory)",
            remedy=set_on(evidence, sized, device=None),
        )


def next_size_up(evidence: Evidence) -> Iterator[Finding]:
    """Devices larger than the ampacity that the rule of the next standard size allows."""
    found = [
        guarded.sized
        for guarded in evidence.wiring.guarded
        if is_judged(evidence, guarded.sized) and not guarded.unguarded and _is_next_size(guarded.sized)
    ]
    if not found:
        return
    first = found[0]
    rating_a = (first.device.rating_a or 0.0) if first.device else 0.0
    yield Finding(
        code="NEXT_SIZE_UP",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"{counted(len(found), 'device')} by the rule of the next size",
        message=f"{named(found)}: {rating_a:g} A before {conductor_set_words(first, evidence.entered.practice)}, good for {first.ampacity_a or 0.0:.0f} A. "
        "The next standard rating above an ampacity may protect it; the load itself has to stay within it.",
        basis=VEHICLE_DEVICE if first.lying.is_vehicle else NEXT_SIZE,
        figure=ampacity_figure(first),
    )


def _is_next_size(sized: SizedRun) -> bool:
    device = sized.device
    if device is None or not device.is_set or device.rating_a is None or device.kind is DeviceKind.NONE:
        return False
    return (sized.largest_device_a or 0.0) + 1e-9 < device.rating_a <= (sized.next_size_a or 0.0) + 1e-9


def too_small(evidence: Evidence) -> Iterator[Finding]:
    """Devices that open under what the run carries, also where none would be needed."""
    for sized in evidence.wiring.runs:
        device, run = sized.device, sized.run
        if (
            device is None
            or device.rating_a is None
            or device.kind is DeviceKind.NONE
            or judged_on_transfer(evidence, sized)
        ):
            continue
        least_a = sized.device_least_a
        if device.rating_a >= least_a - 1e-9 or (run.kind is RunKind.LEAD and device.rating_a >= sized.least_a - 1e-9):
            continue
        if run.kind in (RunKind.STRING, RunKind.ARRAY):
            yield from _opens_in_sun(evidence, sized, least_a)
            continue
        opens = device.rating_a < run.current_a
        peak_a = _audit_peak_a(evidence, sized)
        bears_audit = peak_a is not None and device.rating_a >= sized.device_least_a * peak_a / run.current_a - 1e-9
        yield Finding(
            code="DEVICE_TOO_SMALL",
            severity=Severity.MIND if bears_audit else Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(run.label)}: {device_words(device)} opens under load",
            message=f"The run carries {run.current_a:.0f} A, {run.basis}; {_asked(evidence, sized)}. "
            + (
                f"What the audit draws at its peak, {peak_a:.0f} A, it bears; with the inverter at its rating it opens."
                if bears_audit
                else "It opens as soon as the run works."
                if opens
                else "It opens after some hours, in the middle of the storm."
            ),
            basis="1.25 × what flows for hours: NEC 210.20 and 215.3 (from memory); common practice for direct current",
            remedy=set_on(evidence, sized, device_a=None, device=None, size=None, per_pole=None),
            figure=_asked_figure(
                sized,
                formula="current × what is asked over it",
                terms=(
                    Term(name="current", value=run.current_a, unit="A"),
                    Term(name="asked over it", value=least_a / run.current_a, unit=""),
                    Term(name="device", value=device.rating_a, unit="A"),
                    *(_of_leads(evidence) if run.kind is RunKind.LEAD else ()),
                    *(() if peak_a is None else (Term(name="at the audit's peak", value=peak_a, unit="A"),)),
                ),
            ),
        )


def _audit_peak_a(evidence: Evidence, sized: SizedRun) -> float | None:
    """What the audit draws through the run between bank and inverters at its peak [A]; none of another run, of a share, without an audit,
    or where charging takes more.
    """
    entered, inverter = evidence.entered, evidence.inverter
    if sized.run.kind is RunKind.BANK:
        peak_a, charging = inverter.bank_peak_a, charging_a(entered, evidence.rating)
    elif sized.run.kind is RunKind.INVERTER and entered.inverter.units == 1:
        built_in_w = entered.charging.grid_charger.output_w if is_built_in_charger(entered) else 0.0
        peak_a, charging = inverter.peak_current_a, built_in_w / evidence.rating.charging_v
    else:
        return None
    return peak_a if peak_a > 0 and charging <= peak_a else None


def _asked_figure(sized: SizedRun, *, formula: str, terms: tuple[Term, ...], value_a: float | None = None) -> Figure:
    """What is asked of a run's device [A]."""
    return Figure(
        label="Device, at least",
        value=sized.device_least_a if value_a is None else value_a,
        unit="A",
        formula=formula,
        terms=terms,
        basis="NEC 210.20, 215.3 and 690.9 (from memory); common practice for direct current",
    )


def _of_leads(evidence: Evidence) -> tuple[Term, ...]:
    strings = evidence.entered.bank.parallel
    return Term(name="strings", value=strings, unit=""), Term(name="of them out", value=strings // 2, unit="")


def _asked(evidence: Evidence, sized: SizedRun) -> str:
    """How what is asked of a run's device comes about."""
    run, least_a = sized.run, sized.device_least_a
    if run.kind is RunKind.LEAD:
        out = evidence.entered.bank.parallel // 2
        return f"with {out} of {evidence.entered.bank.parallel} strings out, and at most what a string's own board gives, {least_a:.0f} A is asked"
    if sized.is_full_rated or run.least_factor is not None or run.factor == 1.0:
        return f"{least_a:.0f} A is asked"
    return (
        f"a device holds its rating day and night only in the cool, so that × {run.factor:g} {least_a:.0f} A is asked"
    )


def _opens_in_sun(evidence: Evidence, sized: SizedRun, least_a: float) -> Iterator[Finding]:
    device, run = sized.device, sized.run
    isc_a = run.current_a / STRONG_SUN
    asked = f"{least_a / isc_a:.2f} × {isc_a:.1f} A = {least_a:.1f} A"
    what = "one string" if run.kind is RunKind.ARRAY else counted(run.count, "string")
    yield Finding(
        code="DEVICE_TOO_SMALL",
        severity=Severity.MEND,
        step=Step.WIRING,
        title=f"{shortened(run.label)}: {device_words(device)} opens in bright sun",
        message=(
            f"{asked} is asked of it."
            if run.needs_device
            else f"Of {what} none is needed, since nothing else can drive a fault into {'it' if run.kind is RunKind.ARRAY else 'them'}; one that is there "
            f"has to bear {asked}."
        ),
        basis="NEC 690.9(A) and (B); IEC 62548 (from memory)",
        remedy=set_on(evidence, sized, device=None, device_a=None),
        figure=_asked_figure(
            sized,
            formula="short-circuit current × what is asked over it",
            value_a=least_a,
            terms=(
                Term(name="short-circuit current", value=isc_a, unit="A"),
                Term(name="asked over it", value=least_a / isc_a, unit=""),
            ),
        ),
    )


def leads_in_turn(evidence: Evidence) -> Iterator[Finding]:
    """Devices in the leads of strings side by side that open one after another once one of them has."""
    sized, bank = evidence.wiring.find("string-leads"), evidence.entered.bank
    if sized is None or sized.device is None or sized.device.rating_a is None or sized.device.kind is DeviceKind.NONE:
        return
    holds_a = leads_hold_from_a(evidence.entered, evidence.rating)
    if not sized.least_a - 1e-9 <= sized.device.rating_a < holds_a - 1e-9:
        return
    yield Finding(
        code="LEADS_OPEN_IN_TURN",
        severity=Severity.MEND,
        step=Step.WIRING,
        title=f"{bank.parallel} strings behind {device_words(sized.device)}: when one opens, all do",
        message=f"With one of {bank.parallel} out each of the others carries {holds_a / CONTINUOUS:.0f} A, × {CONTINUOUS:g} {holds_a:.0f} A: the next opens, "
        "and then the next. A lead's device holds what is left to it.",
        basis=COMMON_PRACTICE,
        remedy=set_on(evidence, sized, device_a=None, device=None, size=None, per_pole=None),
        figure=_asked_figure(
            sized,
            formula="the bank's current ÷ strings left × factor for hours on end",
            value_a=holds_a,
            terms=(
                Term(name="strings", value=bank.parallel, unit=""),
                Term(name="to each with one out", value=holds_a / CONTINUOUS, unit="A"),
                Term(name="factor", value=CONTINUOUS, unit=""),
            ),
        ),
    )


def strings_linked(evidence: Evidence) -> Iterator[Finding]:
    """Strings joined by links, between which nothing opens."""
    found = next((each for each in evidence.wiring.guarded if each.sized.run.key == "parallel-links"), None)
    if found is None or found.sized.next_size_a is None or not found.unguarded:
        return
    bank = evidence.entered.bank
    lithium = bank.chemistry is Chemistry.LFP
    yield Finding(
        code="STRINGS_LINKED_BARE",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"Nothing opens between {bank.parallel} strings",
        message="A short in one string is fed by the others through the links, and the bank's device does not see it. "
        + (
            "Equal leads to bars, each with a device of its own, are usual for lithium."
            if lithium
            else "Equal leads to bars, each with a device of its own, part them."
        ),
        basis="NEC 240.21(H) (in our own words, from memory); common practice",
        remedy=Remedy(label="Try equal leads to bus bars", changes=(Change(path="bank.takeoff", value="equal_leads"),)),
    )


def pwm_overloaded(evidence: Evidence) -> Iterator[Finding]:
    """A switching controller passes the whole current of its array: its rating is the array's limit."""
    for controller in evidence.entered.charging.controllers:
        if controller.kind is not ControllerKind.PWM or not controller.arrays:
            continue
        isc_a, is_known = controller_isc_a(controller, evidence.rating.nominal_v)
        asked_a = STRONG_SUN * isc_a
        if asked_a <= controller.output_a + 1e-9:
            continue
        known = "" if is_known else " Of a panel only the watts are known: enter its short-circuit current."
        yield Finding(
            code="PWM_OVERLOADED",
            severity=Severity.STOP if is_known else Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(controller.name)}: {isc_a:.0f} A of panels on {controller.output_a:g} A",
            message=f"A PWM controller passes what its panels drive and cannot hold it back: {STRONG_SUN:g} × {isc_a:.1f} A = {asked_a:.1f} A in a strong sun, it is "
            f"made for {controller.output_a:g} A. It burns. Fewer strings, or a controller that converts.{known}",
            basis="NEC 690.8(A) (from memory); the controller's data sheet",
            figure=Figure(
                label="Through the controller",
                value=asked_a,
                unit="A",
                formula="strong sun × short-circuit current of all strings",
                terms=(
                    Term(name="strong sun", value=STRONG_SUN, unit=""),
                    Term(name="short-circuit current", value=isc_a, unit="A"),
                    Term(name="made for", value=controller.output_a, unit="A"),
                ),
                basis="NEC 690.8(A) (from memory)",
            ),
        )


def holds(evidence: Evidence) -> Iterator[Finding]:
    """Every conductor bears what it carries, every device its run, and from every source something opens in time."""
    runs, paths = evidence.wiring.runs, evidence.wiring.guarded
    devices = [run.device for run in runs if run.device is not None and run.device.kind is not DeviceKind.NONE]
    if not devices or any(run.unknown or run.conductor is None for run in runs):
        return
    bears = all(run.ampacity_a is None or run.ampacity_a >= run.least_a - 1e-9 for run in runs)
    guards = not any(path.unguarded for path in paths)
    carries = all(
        run.device is None
        or run.device.kind is DeviceKind.NONE
        or (run.device.rating_a is not None and run.device.rating_a >= run.device_least_a - 1e-9)
        for run in runs
    )
    breaks = all(
        device.fault_a is None or device.limited_by or (device.interrupt_a or 0.0) >= device.fault_a
        for device in devices
    )
    opens = not any(contacts_too_small(evidence)) and not any(built_in_cannot_break(evidence))
    if bears and guards and carries and breaks and opens:
        yield Finding(
            code="RUNS_HOLD",
            severity=Severity.GOOD,
            step=Step.WIRING,
            title="Every run bears its current and is guarded",
            message=f"{counted(len(runs), 'run')}, {counted(len(devices), 'device')}: from every source that can drive a fault something opens before "
            "the conductor suffers, each device bears what its run carries, and breaks the fault it may meet.",
            basis=AMPACITY[evidence.entered.practice],
        )


CHECKS = (
    unguarded,
    strings_unguarded,
    too_small,
    leads_in_turn,
    pwm_overloaded,
    strings_linked,
    next_size_up,
    holds,
)
