"""What a way of going on is worth: how long it carries, and what it burns and spills."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hearthkeep.core.design import Tier
from hearthkeep.core.foresight.course import Course, Stretch, choices_at
from hearthkeep.core.outage import State

#: Hours that differ by less than this are the same [h].
SAME_H = 0.02


@dataclass(frozen=True, kw_only=True, slots=True)
class Worth:
    """One way of going on, hours counted from the start of the outage."""

    #: Until Life, and until Life or Keep, first asked and was not served; where that never came the end that is looked to [h].
    life_h: float
    keep_h: float
    #: For how long Life or Keep asked and was not served [h].
    dark_for_h: float
    #: Fuel left at the end [L].
    fuel_left_l: float
    end_h: float

    @property
    def is_carried(self) -> bool:
        """Life and Keep are carried to the end."""
        return self.keep_h >= self.end_h - SAME_H


def worth_of(course: Course, state: State, at_h: float, stretches: Sequence[Stretch], end_h: float) -> Worth:
    """
    Go on from a state to the end.

    :param stretches: choices, each from its moment on [h from the start].
    """
    life_h = keep_h = end_h
    dark_for_h = 0.0
    kept = {load.id for load in course.design.loads if load.tier in (Tier.LIFE, Tier.KEEP)}
    for from_h, outcome, after in course.along(state, stretches, at_h, end_h):
        state = after
        dark_for_h += outcome.dark_for_h
        if outcome.dark_h >= 0:
            keep_h = min(keep_h, from_h + outcome.dark_h)
        if outcome.life_dark_h >= 0:
            life_h = min(life_h, from_h + outcome.life_dark_h)
        if choices_at(stretches, from_h).off & kept:
            # Left off by choice is not served.
            keep_h = min(keep_h, from_h)
    return Worth(life_h=life_h, keep_h=keep_h, dark_for_h=dark_for_h, fuel_left_l=state.genset.fuel_l, end_h=end_h)
