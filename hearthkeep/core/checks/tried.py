"""Remedies of the Wiring page, each tried on the plan before it is offered: it settles its finding and raises nothing grave there."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from pydantic import ValidationError

from hearthkeep.core.bank import rate
from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Design, RunSet, TakeOff, with_changes
from hearthkeep.core.errors import InputError
from hearthkeep.core.wiring import wiring_plan

#: What is worked out of a run where nobody has set it; how it lies, its length and its lugs are facts of the place and stay.
WORKED_OUT = (
    "size",
    "per_pole",
    "good_for_a",
    "insulation_c",
    "terminal_c",
    "device",
    "device_a",
    "interrupt_a",
    "unknown",
)
GRAVE = (Severity.STOP, Severity.MEND)
NO_SINGLE_CHANGE = " No single change settles it without raising another: a person decides."

Check = Callable[[Evidence], Iterator[Finding]]


def tried(evidence: Evidence, findings: Sequence[Finding], checks: Sequence[Check]) -> Iterator[Finding]:
    """The findings of the Wiring page, their remedies tried: as they are, else with the whole run as it is worked out, else without.

    :param checks: the rules by which the changed plan is judged.
    """
    for finding in findings:
        if finding.step is not Step.WIRING or finding.remedy is None:
            yield finding
            continue
        remedies = (finding.remedy, _whole_runs(evidence, finding.remedy))
        offered = next(
            (each for each in remedies if each and _settles(evidence, finding, each, findings, checks)), None
        )
        words = "" if offered is not None else NO_SINGLE_CHANGE
        yield replace(finding, remedy=offered, message=finding.message + words)


def _whole_runs(evidence: Evidence, remedy: Remedy) -> Remedy | None:
    """The same with all that can be worked out of its runs as it is worked out; none where it is not of runs alone."""
    if not all(change.path.startswith("wiring.runs.") for change in remedy.changes):
        return None
    usual = RunSet(run="usual")
    places = dict.fromkeys(int(change.path.split(".")[2]) for change in remedy.changes)
    changes = {change.path: change for change in remedy.changes}
    for at in places:
        entry = evidence.entered.wiring.runs[at]
        for name in WORKED_OUT:
            if getattr(entry, name) != getattr(usual, name):
                path = f"wiring.runs.{at}.{name}"
                changes[path] = Change(path=path, value=getattr(usual, name))
    return None if len(changes) == len(remedy.changes) else Remedy(label=remedy.label, changes=tuple(changes.values()))


def _settles(
    evidence: Evidence, finding: Finding, remedy: Remedy, before: Sequence[Finding], checks: Sequence[Check]
) -> bool:
    try:
        entered = _with(evidence.entered, remedy.changes)
    except (InputError, ValidationError):
        return False
    rating = evidence.rating if entered.bank == evidence.entered.bank else rate(entered.bank)
    plan = wiring_plan(entered, rating, year_low_c=evidence.year_low_c)
    there = replace(evidence, entered=entered, rating=rating, wiring=plan)
    after = [each for check in checks for each in check(there)]
    settled = _count(after)[finding.code] < _count(before)[finding.code]
    return settled and _count(after, GRAVE) <= _count(before, GRAVE)


def _with(design: Design, changes: Sequence[Change]) -> Design:
    """The design with the changes; those of runs, and of where the leads leave the bank, without reading the rest of it anew."""
    runs: dict[int, dict[str, object]] = {}
    bank: dict[str, object] = {}
    for change in changes:
        first, second, *rest = change.path.split(".")
        if (first, second) == ("wiring", "runs") and len(rest) == 2:
            runs.setdefault(int(rest[0]), {})[rest[1]] = change.value
        elif (first, second) == ("bank", "takeoff"):
            bank["takeoff"] = TakeOff(str(change.value))
        else:
            return with_changes(design, changes)
    wiring = design.wiring
    entries = tuple(
        RunSet.model_validate_json(json.dumps({**entry.model_dump(mode="json"), **runs[at]})) if at in runs else entry
        for at, entry in enumerate(wiring.runs)
    )
    return design.model_copy(
        update={
            "wiring": wiring.model_copy(update={"runs": entries}) if runs else wiring,
            "bank": design.bank.model_copy(update=bank) if bank else design.bank,
        }
    )


def _count(findings: Sequence[Finding], severities: Sequence[Severity] = tuple(Severity)) -> Counter[str]:
    return Counter(each.code for each in findings if each.severity in severities)
