"""Findings about arrays on buildings: shutdown, faults to ground, arcs."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Array, Controller, Kind, Mounting, Practice
from hearthkeep.core.wiring import RunKind
from hearthkeep.core.words import shortened, some_of

#: From these volts or amps on an array on a building has protection against faults to ground: NEC 690.41(B) (from memory).
GROUND_FAULT_FROM_V, GROUND_FAULT_FROM_A = 30.0, 8.0
#: From these volts between any two conductors on it has protection against arcs: NEC 690.11 (from memory).
ARC_FAULT_FROM_V = 80.0


def _on_controllers(evidence: Evidence) -> Iterator[tuple[str, str, Controller, Array]]:
    """Each array with its path and that of its controller."""
    for number, controller in enumerate(evidence.entered.charging.controllers):
        path = f"charging.controllers.{number}"
        for at, array in enumerate(controller.arrays):
            yield f"{path}.arrays.{at}", path, controller, array


def _most(evidence: Evidence, array: Array) -> tuple[float, float]:
    """The most volts and amps that an array puts on its run."""
    run = next(
        (
            each.run
            for each in evidence.wiring.runs
            if each.run.kind is RunKind.ARRAY and each.run.key == f"array-{array.id}"
        ),
        None,
    )
    return (0.0, 0.0) if run is None else (run.most_v, run.current_a)


def _sees(is_there: bool | None) -> str:
    return "what sees" if is_there is None else "nothing sees"


def on_buildings(evidence: Evidence) -> Iterator[Finding]:
    """An array on a building can be shut down from outside, and what watches over it sees faults to ground and arcs."""
    north_american = evidence.entered.practice is Practice.NORTH_AMERICAN
    for path, at, controller, array in _on_controllers(evidence):
        if array.mounting is not Mounting.BUILDING:
            continue
        most_v, most_a = _most(evidence, array)
        if north_american and not array.rapid_shutdown:
            yield Finding(
                code="NO_RAPID_SHUTDOWN",
                severity=Severity.STOP if array.rapid_shutdown is False else Severity.MEND,
                step=Step.WIRING,
                title=f"{shortened(array.name)}: {'nothing makes' if array.rapid_shutdown is False else 'what makes'} the roof's wires safe{'' if array.rapid_shutdown is False else '?'}",
                message=f"By daylight {most_v:.0f} V stand on them whatever is switched off below. On a building they have to fall to 30 V within 30 s "
                "outside the array, and to 80 V inside it, when somebody outside the house works the switch."
                + ("" if array.rapid_shutdown is False else " Nobody has said whether they do."),
                basis="NEC 690.12 and 690.56(C), in our own words (from memory); the adopted edition decides",
                remedy=Remedy(
                    label="Try it with rapid shutdown", changes=(Change(path=f"{path}.rapid_shutdown", value=True),)
                ),
            )
        if not controller.ground_fault and (most_v > GROUND_FAULT_FROM_V or most_a > GROUND_FAULT_FROM_A):
            yield Finding(
                code="NO_GROUND_FAULT_PROTECTION",
                severity=Severity.MIND if controller.ground_fault is None else Severity.MEND,
                step=Step.WIRING,
                title=f"{shortened(array.name)}: {_sees(controller.ground_fault)} a fault to ground{'?' if controller.ground_fault is None else ''}",
                message=f"Up to {most_v:.0f} V and {most_a:.1f} A on a building: a fault to ground has to be detected, interrupted or isolated, and shown. A "
                "controller's own counts if it is listed for it.",
                basis="NEC 690.41(B) (from memory)"
                if north_american
                else "IEC 60364-7-712 and 62548: earth fault detection and alarm (from memory)",
                remedy=Remedy(
                    label="Try a controller that sees it", changes=(Change(path=f"{at}.ground_fault", value=True),)
                ),
            )
        if north_american and not controller.arc_fault and most_v >= ARC_FAULT_FROM_V:
            yield Finding(
                code="NO_ARC_FAULT_PROTECTION",
                severity=Severity.MIND if controller.arc_fault is None else Severity.MEND,
                step=Step.WIRING,
                title=f"{shortened(array.name)}: {_sees(controller.arc_fault)} an arc{'?' if controller.arc_fault is None else ''}",
                message=f"Up to {most_v:.0f} V on a building: from {ARC_FAULT_FROM_V:g} V on an arc burns without end, and has to be seen and "
                "interrupted.",
                basis="NEC 690.11 (from memory); the adopted edition decides",
                remedy=Remedy(
                    label="Try a controller that sees it", changes=(Change(path=f"{at}.arc_fault", value=True),)
                ),
            )


def not_said(evidence: Evidence) -> Iterator[Finding]:
    """Arrays of a home of which nobody has said what they stand on."""
    if evidence.entered.kind is not Kind.HOME:
        return
    lost = [array for _, _, _, array in _on_controllers(evidence) if array.mounting is None]
    if not lost:
        return
    yield Finding(
        code="MOUNTING_NOT_SAID",
        severity=Severity.MIND,
        step=Step.WIRING,
        title="On a building, or on the ground?",
        message=f"{some_of([array.name for array in lost])}: what shuts it down and what watches over it depends on what it stands on. Say so on "
        "the Charging page.",
        basis="NEC 690.11, 690.12 and 690.41(B); IEC 60364-7-712 (from memory)",
    )


CHECKS = (on_buildings, not_said)
