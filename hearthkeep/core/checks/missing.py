"""What a design still lacks before it says anything, in the order in which it is entered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.checks.finding import Evidence, Step
from hearthkeep.core.design import Kind

#: What a new design says of its place.
NO_PLACE = "Place not set"


@dataclass(frozen=True, kw_only=True, slots=True)
class Missing:
    """One thing to be entered, and on which page."""

    step: Step
    what: str


def still_missing(evidence: Evidence) -> tuple[Missing, ...]:
    """What is missing, the next thing first; empty for a design that is whole."""
    return tuple(_missing(evidence))


def _missing(evidence: Evidence) -> Iterator[Missing]:
    design = evidence.entered
    if design.site.place == NO_PLACE:
        yield Missing(step=Step.STORM, what="where it stands")
    if not evidence.outage.is_asked:
        yield Missing(step=Step.LOADS, what="what must stay on")
    has_sun = evidence.charging.stc_w > 0 or design.charging.grid_tied is not None
    if not (has_sun or design.charging.has_other_sources) and not (
        evidence.outage.is_asked and evidence.outage.carried_to_the_end
    ):
        yield Missing(step=Step.CHARGING, what="panels, or a generator")
    if design.transfer.arrangement is None and any(load.supply.is_ac for load in design.loads):
        yield Missing(
            step=Step.TRANSFER,
            what="how it is switched over" if design.kind is Kind.HOME else "how loads reach it",
        )
