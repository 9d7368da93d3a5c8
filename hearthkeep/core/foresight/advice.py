"""What to do next, one thing at a time: the cheapest ways to get there put in order, and the first of them due."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.foresight.acts import COST, Act, ActKind, acts, brought_back, gain_h
from hearthkeep.core.foresight.outlook import Outlook
from hearthkeep.core.foresight.worth import Worth

#: Steps that are put together at most.
MOST_STEPS = 6


@dataclass(frozen=True, kw_only=True, slots=True)
class Advised:
    """One step of what is advised."""

    act: Act
    #: As it goes without this step, with all before it; and what the step gains, Life's hours and Life's and Keep's [h].
    without: tuple[Worth, ...]
    gains_h: tuple[float, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class Advice:
    """What is advised, in the order in which it is due, and what comes of nothing and of it all."""

    steps: tuple[Advised, ...]
    nothing: tuple[Worth, ...]
    all_done: tuple[Worth, ...]

    @property
    def next(self) -> Advised | None:
        """The one thing to do next."""
        return self.steps[0] if self.steps else None


def advise(outlook: Outlook, refused: frozenset[ActKind] = frozenset()) -> Advice:
    """
    Put together what gets Life and Keep to the end at the least cost to the people, or as far as it goes.

    :param refused: kinds of step that people do not want now.
    """
    way, nothing = outlook.nothing, outlook.worths(outlook.nothing)
    base = nothing
    steps: list[Advised] = []
    while len(steps) < MOST_STEPS and not all(worth.is_carried for worth in base):
        open_acts = [act for act in acts(outlook, way, base) if act.kind not in refused]
        if not open_acts:
            break
        best = _best(open_acts, base)
        steps.append(Advised(act=best, without=base, gains_h=gain_h(best.worths, base)))
        way, base = best.way, best.worths
    if not steps and ActKind.BRING_BACK not in refused:
        back = brought_back(outlook, way)
        if back is not None:
            steps.append(Advised(act=back, without=base, gains_h=gain_h(back.worths, base)))
            base = back.worths
    ordered = tuple(sorted(steps, key=lambda step: step.act.at_h))
    return Advice(steps=ordered, nothing=nothing, all_done=base)


def _best(open_acts: list[Act], base: tuple[Worth, ...]) -> Act:
    """Of those that get there the one that costs people least; else the one that gains most, Life's hours before all."""
    there = [act for act in open_acts if all(worth.is_carried for worth in act.worths)]
    if there:
        return min(there, key=lambda act: COST.index(act.kind))
    cheap = [act for act in open_acts if act.kind is not ActKind.KEEP_FOR_LIFE]
    return max(cheap or open_acts, key=lambda act: sum(gain_h(act.worths, base)))
