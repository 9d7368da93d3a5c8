"""Findings about fuses, breakers and disconnects, and about what hangs where it must not."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.wiring import named, set_on
from hearthkeep.core.design import Build, ControllerKind, DeviceKind, Disconnects, FedFrom, RunFact
from hearthkeep.core.wiring import (
    DEVICE_NAMES,
    RunKind,
    device_words,
    fault_figure,
    length_words,
    needed_figure,
)
from hearthkeep.core.words import counted, listed, shortened

#: How far from the bank its device may sit [m]. Common practice: within 180 mm (7 in); nearer a metre only in a sheath.
NEAR_M, SHEATHED_M = 0.18, 1.0
#: A fault so many times what a kind of device usually breaks is beyond all of its kind. Our assumption.
FAR_BEYOND = 2.0
_NEAR = (
    "Common practice, no source: within 180 mm (7 in) of the terminal, up to 1 m (40 in) in a sheath or an enclosure"
)


def not_made(evidence: Evidence) -> Iterator[Finding]:
    """Runs for which no device is made in their rating."""
    lost = [
        run
        for run in evidence.wiring.runs
        if run.run.needs_device
        and run.device is not None
        and run.device.rating_a is None
        and run.device.kind is not DeviceKind.NONE
        and RunFact.DEVICE not in run.unknown
    ]
    if not lost:
        return
    most = max(lost, key=lambda run: run.needed_a)
    kind = most.device.kind if most.device else DeviceKind.NONE
    yield Finding(
        code="DEVICE_NOT_MADE",
        severity=Severity.MEND,
        step=Step.WIRING,
        title=f"{counted(len(lost), 'run')} no usual device is made for",
        message=f"{named(lost)}: no {DEVICE_NAMES[kind]} is made for {most.needed_a:,.0f} A. A higher system voltage or several leads, each with "
        "its own device, bring the current down.",
        basis="Ratings made: NEC 240.6(A), IEC 60269 (from memory); ranges by kind are common practice",
        remedy=set_on(evidence, most, device=None, device_a=None),
        figure=needed_figure(most),
    )


def cannot_break(evidence: Evidence) -> Iterator[Finding]:
    """Devices that cannot break what the bank drives into a fault."""
    for sized in evidence.wiring.runs:
        device = sized.device
        if device is None or device.fault_a is None or device.rating_a is None:
            continue
        if device.limited_by or (device.interrupt_a is not None and device.interrupt_a >= device.fault_a):
            continue
        set_on_it = evidence.entered.wiring.of_run(sized.run.key)
        is_entered = set_on_it is not None and set_on_it.interrupt_a is not None
        known = evidence.wiring.fault.is_known
        likely = device.fault_a * (1.0 if known else evidence.wiring.fault.usual_part)
        surely = (device.interrupt_a or 0.0) < likely
        # No device of a kind breaks so many times what is usual for it.
        is_stop = surely and known and (is_entered or (device.interrupt_a or 0.0) * FAR_BEYOND < device.fault_a)
        doubt = "" if known else " The blocks' resistance is a typical one: enter it."
        doubt += (
            ""
            if is_entered or device.interrupt_a is None or is_stop
            else " What it breaks is usual for its kind: enter what its sheet says."
        )
        breaks = (
            f"none of its kind is made for {sized.run.most_v:.0f} V"
            if device.interrupt_a is None
            else f"it breaks {device.interrupt_a:,.0f} A"
        )
        yield Finding(
            code="CANNOT_BREAK_FAULT",
            severity=Severity.STOP if is_stop else Severity.MEND if surely else Severity.MIND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: the {DEVICE_NAMES[device.kind]} {'cannot' if surely else 'may not'} break the fault",
            message=f"The bank drives {device.fault_a:,.0f} A into a short there; {breaks}. Beyond that it bursts, and the arc goes on.{doubt}",
            basis="Full rest volts over the resistance of bank and cable, against usual data-sheet values by kind and volts (common practice); "
            "the device's own sheet decides",
            remedy=set_on(evidence, sized, device=None, interrupt_a=None, device_a=None),
            figure=fault_figure(sized, evidence.wiring.fault),
        )


def device_far(evidence: Evidence) -> Iterator[Finding]:
    """A bank's device that sits too far from it."""
    for sized in evidence.wiring.runs:
        device = sized.device
        if device is None or sized.run.kind not in (RunKind.BANK, RunKind.LEAD) or device.at_m <= NEAR_M + 1e-9:
            continue
        yield Finding(
            code="DEVICE_FAR",
            severity=Severity.STOP if device.at_m > SHEATHED_M else Severity.MIND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: the device sits far from the bank",
            message=f"The first {length_words(evidence.entered, device.at_m)} of cable have nothing before them: a short there burns until the bank is empty. "
            + (
                "Move it to the terminal."
                if device.at_m > SHEATHED_M
                else "In a sheath or an enclosure that is accepted; nearer is better."
            ),
            basis=_NEAR,
            remedy=set_on(evidence, sized, device_at_m=None),
        )


def string_fuse_over_panel(evidence: Evidence) -> Iterator[Finding]:
    """String fuses larger than the panel's maker allows."""
    arrays = {array.id: array for array in evidence.entered.charging.arrays}
    for sized in evidence.wiring.runs:
        if sized.run.kind is not RunKind.STRING or sized.device is None or sized.device.rating_a is None:
            continue
        module = arrays[sized.run.key.removeprefix("string-")].module
        if module is None or module.series_fuse_a is None or sized.device.rating_a <= module.series_fuse_a + 1e-9:
            continue
        yield Finding(
            code="STRING_FUSE_OVER_PANEL",
            severity=Severity.STOP if sized.device.is_set else Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: the fuse is larger than the panel allows",
            message=f"A fuse of {sized.device.rating_a:g} A in a string whose panels are made for {module.series_fuse_a:g} A: into a fault in one "
            "string the others feed until a panel burns.",
            basis="The panel's data sheet; NEC 690.9, IEC 62548 (from memory)",
            remedy=set_on(evidence, sized, device_a=None) if sized.device.is_set else None,
        )


def disconnects_missing(evidence: Evidence) -> Iterator[Finding]:
    """Runs that cannot be opened where they have to be, or not locked open."""
    for sized in evidence.wiring.runs:
        if sized.disconnects is None:
            continue
        there, asked = sized.disconnects, sized.asks_disconnects
        lacks_end = asked is not Disconnects.NONE and there is not Disconnects.BOTH and there is not asked
        lacks_lock = sized.asks_locks and not sized.has_locks
        if not lacks_end and not lacks_lock:
            continue
        high = asked is Disconnects.BOTH
        where = {"both": "at both ends", "source": "at its source", "load": "at its load end"}.get(asked.value, "")
        yield Finding(
            code="DISCONNECT_MISSING",
            severity=Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: {'a disconnect is missing' if lacks_end else 'its disconnects have no lock'}",
            message=f"It has to be opened {where}{' and locked open' if sized.asks_locks else ''}"
            + (
                f": up to {sized.run.most_v:.0f} V stand on it by daylight, whoever works at the far end must be sure of it."
                if high
                else " before anybody works on what it feeds."
            ),
            basis="NEC 690.13 and 690.15, IEC 60364-7-712 (in our own words, from memory); lock-off is common practice",
            remedy=set_on(evidence, sized, disconnects=None, lock_off=None),
        )


def on_load_terminals(evidence: Evidence) -> Iterator[Finding]:
    """What hangs on a controller's load terminals: an inverter never, a branch within the controller's own rating."""
    most_a = max(
        (
            entry.output_a
            for entry in evidence.entered.charging.controllers
            if entry.kind is not ControllerKind.PANEL_FED
        ),
        default=None,
    )
    for sized in evidence.wiring.runs:
        if sized.run.fed_from is not FedFrom.LOAD_TERMINALS:
            continue
        if sized.run.kind is RunKind.INVERTER:
            yield Finding(
                code="INVERTER_ON_LOAD_TERMINALS",
                severity=Severity.STOP,
                step=Step.WIRING,
                title="An inverter on a controller's load terminals",
                message=f"They are made for lamps, {most_a or 0.0:g} A or less; the inverter takes {sized.run.current_a:.0f} A and "
                "far more while its capacitors fill. The controller burns. It belongs on the bus, behind its own device.",
                basis=COMMON_PRACTICE,
                remedy=set_on(evidence, sized, fed_from=FedFrom.BUS.value),
            )
        elif most_a is None or sized.run.current_a > most_a:
            yield Finding(
                code="BRANCH_OVER_LOAD_TERMINALS",
                severity=Severity.MEND,
                step=Step.WIRING,
                title=f"{shortened(sized.run.label)}: too much for load terminals",
                message="There is no controller whose load terminals could feed it."
                if most_a is None
                else f"It takes {sized.run.current_a:.1f} A; load terminals give at most the controller's {most_a:g} A.",
                basis="Common practice, no source: load terminals bear what the controller charges with, or less",
                remedy=set_on(evidence, sized, fed_from=FedFrom.BUS.value),
            )


def order_of_sizes(evidence: Evidence) -> Iterator[Finding]:
    """Devices behind the bank's that are larger than it."""
    main = evidence.wiring.find("bank")
    if main is None or main.device is None or main.device.rating_a is None:
        return
    larger = [
        run
        for run in evidence.wiring.runs
        if run.run.from_bank
        and run.run.kind not in (RunKind.BANK, RunKind.LEAD)
        and run.device is not None
        and (run.device.rating_a or 0.0) > main.device.rating_a + 1e-9
    ]
    if not larger:
        return
    yield Finding(
        code="ORDER_OF_SIZES",
        severity=Severity.MIND,
        step=Step.WIRING,
        title="A device behind the bank's is larger than the bank's",
        message=f"{named(larger)}: a fault there opens the bank's {device_words(main.device)} first, and everything is dark instead of one run.",
        basis="Common practice, no source: devices grow smaller from the source outwards",
        remedy=set_on(evidence, *larger, main, device_a=None),
    )


def breakers_both_ways(evidence: Evidence) -> Iterator[Finding]:
    """Polarised breakers in runs that carry current both ways."""
    two_way = {RunKind.BANK, RunKind.LEAD}
    if evidence.entered.inverter.build is not Build.SEPARATE:
        two_way.add(RunKind.INVERTER)
    found = [
        run
        for run in evidence.wiring.runs
        if run.run.kind in two_way and run.device is not None and run.device.kind is DeviceKind.DC_BREAKER
    ]
    if found:
        yield Finding(
            code="BREAKER_BOTH_WAYS",
            severity=Severity.MIND,
            step=Step.WIRING,
            title="Breakers that must open both ways",
            message=f"{named(found)}: the current goes into the bank and out of it. A polarised breaker opens one way only, and burns the other: take one marked "
            "for both, without plus and minus on its case.",
            basis=COMMON_PRACTICE,
        )


def beside_the_bank(evidence: Evidence) -> Iterator[Finding]:
    """Shunt and surge protection."""
    shunt, wiring = evidence.wiring.shunt, evidence.entered.wiring
    if shunt.carries_a <= 0:
        return
    if shunt.rating_a is None:
        yield Finding(
            code="NO_SHUNT",
            severity=Severity.MIND,
            step=Step.WIRING,
            title="Nothing counts what the bank gives",
            message="Without a shunt in the negative the charge is guessed from the volts, which of lithium say next to nothing between a fifth and nine tenths.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label=f"Try a shunt of {shunt.asked_a:g} A", changes=(Change(path="wiring.has_shunt", value=True),)
            ),
        )
    elif shunt.rating_a < shunt.carries_a:
        yield Finding(
            code="SHUNT_TOO_SMALL",
            severity=Severity.MEND,
            step=Step.WIRING,
            title=f"A shunt of {shunt.rating_a:g} A carries {shunt.carries_a:.0f} A",
            message="It runs hot, reads wrong and in the end opens the negative. "
            + (
                f"{shunt.asked_a:g} A is asked."
                if shunt.is_made
                else f"No shunt is made that large: {shunt.asked_a:g} A is the largest usual one."
            ),
            basis="Common practice, no source: four fifths of its rating day and night",
            remedy=Remedy(label=f"Try {shunt.asked_a:g} A", changes=(Change(path="wiring.shunt_a", value=None),))
            if shunt.is_made
            else None,
        )
    arrays = any(controller.arrays for controller in evidence.entered.charging.controllers)
    panel = "house" if evidence.entered.site.off_grid else "backed-up"
    lacks = {
        path: where
        for path, where, there in (
            ("wiring.surge_dc", "at the solar input", wiring.surge_dc or not arrays),
            ("wiring.surge_ac", f"at the {panel} panel", wiring.surge_ac),
        )
        if not there
    }
    if lacks:
        yield Finding(
            code="NO_SURGE_PROTECTION",
            severity=Severity.MIND,
            step=Step.WIRING,
            title="No surge protection " + listed(list(lacks.values())),
            message="Ice and wind bring lines together, and what comes back with the grid or down from a roof finds the electronics first.",
            basis="NEC 230.67 and 242, IEC 60364-4-44 (from memory), for services; common practice at solar inputs",
            remedy=Remedy(
                label="Try both" if len(lacks) > 1 else "Try it",
                changes=tuple(Change(path=path, value=True) for path in lacks),
            ),
        )


CHECKS = (
    not_made,
    cannot_break,
    device_far,
    string_fuse_over_panel,
    on_load_terminals,
    disconnects_missing,
    order_of_sizes,
    breakers_both_ways,
    beside_the_bank,
)
