"""Findings: one rule a function, registered per step."""

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
    trials,
    weather,
    wiring,
    wiring_arrays,
    wiring_board,
    wiring_devices,
    wiring_guard,
    wiring_sizes,
    wiring_volts,
)
from hearthkeep.core.checks.arrangement import ALIKE_CODE, MIXED_CODES, TOO_MANY_CODES
from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.missing import Missing, still_missing
from hearthkeep.core.checks.trials import Proved

Check = Callable[[Evidence], Iterator[Finding]]

#: Every rule, in the order of the steps.
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
    *wiring.CHECKS,
    *wiring_sizes.CHECKS,
    *wiring_guard.CHECKS,
    *wiring_arrays.CHECKS,
    *wiring_devices.CHECKS,
    *wiring_volts.CHECKS,
    *wiring_board.CHECKS,
)

#: The rules of a design's trials, which are asked for apart.
TRIAL_CHECKS: tuple[Callable[[Proved], Iterator[Finding]], ...] = trials.CHECKS

__all__ = [
    "ALIKE_CODE",
    "MIXED_CODES",
    "REGISTRY",
    "TOO_MANY_CODES",
    "TRIAL_CHECKS",
    "Change",
    "Check",
    "Evidence",
    "Finding",
    "Missing",
    "Proved",
    "Remedy",
    "Severity",
    "Step",
    "still_missing",
]
