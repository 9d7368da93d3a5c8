"""Findings about outlets and inlets against the breaker before them."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Evidence, Finding, Severity, Step
from hearthkeep.core.checks.transfer import by_practice
from hearthkeep.core.design import Circuit, Design, FurtherCircuit, Practice
from hearthkeep.core.words import begun, shortened


def outlets(evidence: Evidence) -> Iterator[Finding]:
    """Outlets and the inlet against the breaker before them."""
    design = evidence.entered
    device = design.transfer.device
    found = [
        f"outlets of {circuit.outlets_a:g} A in slot {circuit.slot}, {circuit.name[:40]}, behind {circuit.breaker_a:g} A"
        for circuit in design.transfer.circuits
        if circuit.outlets_a is not None and circuit.outlets_a < _least_outlet_a(circuit, design) - 1e-9
    ]
    found += [
        f"outlets of {circuit.outlets_a:g} A on {shortened(circuit.name, 40)} in {shortened(panel.name, 32)}, behind {circuit.breaker_a:g} A"
        for panel in design.transfer.further
        for circuit in panel.circuits
        if circuit.outlets_a is not None and circuit.outlets_a < _least_outlet_a(circuit, design) - 1e-9
    ]
    if device.by_inlet and device.inlet_a is not None and (device.feeder_a or 0.0) > device.inlet_a + 1e-9:
        found.append(f"an inlet of {device.inlet_a:g} A behind {device.feeder_a:g} A")
    if not found:
        return
    yield Finding(
        code="OUTLETS_TOO_SMALL",
        severity=Severity.MEND,
        step=Step.TRANSFER,
        title=begun(shortened(found[0])),
        message=f"{'; '.join(found[:3])}{'; and more' if len(found) > 3 else ''}. The breaker lets through more than they are made for: they "
        "scorch before it opens. A smaller breaker, or outlets made for it.",
        basis=by_practice(
            design,
            "NEC 210.21(B): one outlet alone at least as its device; several 15 A behind 15 or 20, 20 behind 20, 30 behind 30 (from memory)",
            "IEC 60364-4-43, 433.1: no part behind a device for less than its rating (from memory)",
        ),
    )


def _least_outlet_a(circuit: Circuit | FurtherCircuit, design: Design) -> float:
    """What the outlets of a circuit are rated for at least [A]."""
    is_shared_20 = circuit.breaker_a == 20.0 and not circuit.one_outlet and design.practice is Practice.NORTH_AMERICAN
    return 15.0 if is_shared_20 else circuit.breaker_a


CHECKS = (outlets,)
