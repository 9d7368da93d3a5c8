"""What a design still lacks before it says anything, in the order in which it is entered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.checks.finding import Step
from hearthkeep.core.design import Design, Kind
from hearthkeep.core.outage import OutageReport

#: What a new design says of its place.
NO_PLACE = "Place not set"


@dataclass(frozen=True, kw_only=True, slots=True)
class Missing:
    """One thing to be entered, and on which page."""

    step: Step
    what: str


def still_missing(entered: Design, outage: OutageReport) -> tuple[Missing, ...]:
    """What is missing of a design as it was entered, the next thing first; empty for one that is whole."""
    return tuple(_missing(entered, outage))


def _missing(design: Design, outage: OutageReport) -> Iterator[Missing]:
    if design.site.place == NO_PLACE:
        yield Missing(step=Step.STORM, what="where it stands")
    if not outage.is_asked:
        yield Missing(step=Step.LOADS, what="what must stay on")
    charging = design.charging
    has_sun = charging.grid_tied is not None or any(array.stc_w > 0 for array in charging.arrays)
    if not (has_sun or charging.has_other_sources) and not (outage.is_asked and outage.carried_to_the_end):
        yield Missing(step=Step.CHARGING, what="panels, or a generator")
    if design.transfer.arrangement is None and any(load.supply.is_ac for load in design.loads):
        yield Missing(
            step=Step.TRANSFER,
            what="how it is switched over" if design.kind is Kind.HOME else "how loads reach it",
        )
