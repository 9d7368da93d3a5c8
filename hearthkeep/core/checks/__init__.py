"""Findings: one rule a function, registered per step."""

from collections.abc import Callable, Iterator

from hearthkeep.core.checks import trials
from hearthkeep.core.checks.arrangement import ALIKE_CODE, MIXED_CODES, TOO_MANY_CODES
from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.missing import Missing, still_missing
from hearthkeep.core.checks.registry import Check, judged
from hearthkeep.core.checks.trials import Proved

#: The rules of a design's trials, which are asked for apart.
TRIAL_CHECKS: tuple[Callable[[Proved], Iterator[Finding]], ...] = trials.CHECKS

__all__ = [
    "ALIKE_CODE",
    "MIXED_CODES",
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
    "judged",
    "still_missing",
]
