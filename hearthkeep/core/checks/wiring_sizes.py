"""Findings about conductors' sizes as they were entered: of the other practice, or in no table."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.wiring import set_on
from hearthkeep.core.conductor_sizes import in_tables, is_of, with_unit
from hearthkeep.core.design import Design, Practice
from hearthkeep.core.wiring import AMPACITY
from hearthkeep.core.words import counted, shortened, some_of

_UNITS = {
    Practice.NORTH_AMERICAN: "North American practice count in AWG and kcmil",
    Practice.METRIC_230: "metric practice count in mm²",
}


def _sizes_set(design: Design) -> Iterator[tuple[Step, str, str, str]]:
    """Every size that is set: its page, whose it is, its path and itself."""
    transfer = design.transfer
    for at, circuit in enumerate(transfer.circuits):
        if circuit.wire is not None:
            yield Step.TRANSFER, f"slot {circuit.slot}", f"transfer.circuits.{at}.wire", circuit.wire
    for number, panel in enumerate(transfer.further):
        for at, own in enumerate(panel.circuits):
            if own.wire is not None:
                yield Step.TRANSFER, shortened(own.name, 32), f"transfer.further.{number}.circuits.{at}.wire", own.wire
    if transfer.device.feeder_wire is not None:
        yield Step.TRANSFER, "the feeder", "transfer.device.feeder_wire", transfer.device.feeder_wire
    for at, entry in enumerate(design.wiring.runs):
        if entry.size is not None:
            yield Step.WIRING, f"run {entry.run}", f"wiring.runs.{at}.size", entry.size


def of_other_practice(evidence: Evidence) -> Iterator[Finding]:
    """Sizes that are counted in the other practice's unit: they stay as they were entered and are judged as thinner ones."""
    design = evidence.entered
    labels = {f"run {sized.run.key}": sized.run.label for sized in evidence.wiring.runs}
    for step in (Step.TRANSFER, Step.WIRING):
        found = [
            (labels.get(whose, whose), path, size, name)
            for page, whose, path, size in _sizes_set(design)
            if page is step
            and not is_of(size, design.practice)
            and (name := in_tables(size, design.practice)) is not None
        ]
        if not found:
            continue
        sizes = some_of(
            [
                f"{shortened(whose, 40)} ({size} as {with_unit(name, design.practice)})"
                for whose, _, size, name in found
            ],
            longest=90,
        )
        yield Finding(
            code="SIZE_OF_OTHER_PRACTICE",
            severity=Severity.MIND,
            step=step,
            title=f"{counted(len(found), 'size')} in the unit of the other practice",
            message=f"The tables of {_UNITS[design.practice]}. What was entered stays, and is judged as the next thinner size that they "
            f"have: {sizes}. Read the size on the insulation; if only the practice was changed, enter what is really there.",
            basis=AMPACITY[design.practice],
            remedy=Remedy(
                label="Enter the thinner sizes",
                changes=tuple(Change(path=path, value=with_unit(name, design.practice)) for _, path, _, name in found),
            ),
        )


def not_in_tables(evidence: Evidence) -> Iterator[Finding]:
    """Sizes that the practice's tables do not hold."""
    for sized in evidence.wiring.runs:
        if sized.size is None or sized.conductor is not None:
            continue
        yield Finding(
            code="SIZE_NOT_IN_TABLES",
            severity=Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: {sized.size} is in no table",
            message=f"A conductor of {sized.size} cannot be judged: the tables of this practice have neither it nor, of the other "
            "practice's sizes, anything as thin. Read the size on the insulation once more.",
            basis=AMPACITY[evidence.entered.practice],
            remedy=set_on(evidence, sized, size=None),
        )


#: In the order in which they are said.
CHECKS = (of_other_practice, not_in_tables)
