"""Every rule in the order of the steps, and what all of them have to say of a design."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from hearthkeep.core.checks import (
    arrangement,
    audit,
    bank,
    charging,
    generator,
    inverter,
    loads,
    sources,
    stages,
    storm,
    strings,
    transfer,
    transfer_circuits,
    transfer_coupling,
    transfer_outlets,
    transfer_ratings,
    weather,
    wiring,
    wiring_arrays,
    wiring_board,
    wiring_contacts,
    wiring_devices,
    wiring_guard,
    wiring_sizes,
    wiring_volts,
)
from hearthkeep.core.checks.finding import Evidence, Finding
from hearthkeep.core.checks.tried import tried

Check = Callable[[Evidence], Iterator[Finding]]

#: Every rule of the other pages, in the order of the steps.
REGISTRY: tuple[Check, ...] = (
    *storm.CHECKS,
    *weather.CHECKS,
    *loads.CHECKS,
    *audit.CHECKS,
    *bank.CHECKS,
    *arrangement.CHECKS,
    *inverter.CHECKS,
    *charging.CHECKS,
    *strings.CHECKS,
    *generator.CHECKS,
    *sources.CHECKS,
    *stages.CHECKS,
    *transfer.CHECKS,
    *transfer_circuits.CHECKS,
    *transfer_ratings.CHECKS,
    *transfer_outlets.CHECKS,
    *transfer_coupling.CHECKS,
    *transfer.PAPERS,
    *wiring_volts.CHECKS,
)
#: Those of the wiring plan, whose remedies are tried on the plan before they are offered.
WIRING: tuple[Check, ...] = (
    *wiring.CHECKS,
    *wiring_sizes.CHECKS,
    *wiring_guard.CHECKS,
    *wiring_arrays.CHECKS,
    *wiring_devices.CHECKS,
    *wiring_contacts.CHECKS,
    *wiring_board.CHECKS,
)


def judged(evidence: Evidence) -> tuple[Finding, ...]:
    """Everything that is to be said of a design, in the order of the steps."""
    found = [finding for check in REGISTRY for finding in check(evidence)]
    wired = [finding for check in WIRING for finding in check(evidence)]
    return (*found, *tried(evidence, wired, WIRING))
