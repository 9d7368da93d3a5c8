"""What may lie behind a reading outside its window: each suspect says what the meter would show, and readings decide."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from hearthkeep.core.building.gate import Ask

#: Where a suspect says nothing of a reading, its expected window holds. Outside a range the odds fall off as a bell curve of this
#: part of the range, and never below one in so many: a reading may be wrong for a reason of its own.
TAIL_FRAC, NEVER_BELOW = 0.25, 1e-7
#: Something that is not on the list; so often, and then anything may be read. Our assumption.
ELSE_PRIOR = 0.04
#: Suspects with less than this are not worth a measurement.
LEAST_SHARE = 0.02
MOST_TOLD = 4

Range = tuple[float, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class Suspect:
    """One thing that may be wrong."""

    key: str
    title: str
    #: How often it is met, against the others. Common practice, no source.
    prior: float
    #: What the readings would be, by their keys; from where to where.
    says: Mapping[str, Range] = field(default_factory=dict)
    #: What to measure or look at next.
    next: str


@dataclass(frozen=True, kw_only=True, slots=True)
class LikelyCause:
    """A suspect as the readings leave it."""

    key: str
    title: str
    #: Its part of all that may be behind these readings.
    share_frac: float
    next: str


ELSE = "else"


def likely_causes(
    asks: Sequence[Ask], readings: Mapping[str, float], suspects: Sequence[Suspect]
) -> tuple[LikelyCause, ...]:
    """Suspects by how well they explain all the readings of a gate together, the likeliest first.

    Only those that would move a reading outside its window share the odds. Bayes' rule: how often a thing is met × the odds of these readings if it were so. `readings` by the keys of asks [their units].
    """
    read = [ask for ask in asks if ask.key in readings]
    if not read:
        return ()
    weights: list[tuple[Suspect | None, float]] = []
    outside = {ask.key for ask in read if not ask.window.holds(readings[ask.key])}
    for suspect in suspects:
        if outside and not outside & suspect.says.keys():
            # It would not move what is outside.
            continue
        weights.append((suspect, math.log(suspect.prior) + sum(_log_odds(ask, readings, suspect) for ask in read)))
    weights.append((None, math.log(ELSE_PRIOR) + sum(_log_else(ask, readings) for ask in read)))
    most = max(weight for _, weight in weights)
    total = sum(math.exp(weight - most) for _, weight in weights)
    found = [(suspect, math.exp(weight - most) / total) for suspect, weight in weights]
    found.sort(key=lambda each: -each[1])
    told = [each for each in found if each[1] >= LEAST_SHARE][:MOST_TOLD]
    return tuple(
        LikelyCause(key=ELSE, title="Something that is not on this list", share_frac=share, next="Open everything again, in reverse order, and measure part by part from the bank on.")
        if suspect is None
        else LikelyCause(key=suspect.key, title=suspect.title, share_frac=share, next=suspect.next)
        for suspect, share in told
    )  # fmt: skip


def _log_odds(ask: Ask, readings: Mapping[str, float], suspect: Suspect) -> float:
    """Log of the odds, for each window's width, of a reading if the suspect were so."""
    scale = _scale(ask)
    low, high = suspect.says.get(ask.key, (ask.window.low, ask.window.high))
    return math.log(_density(readings[ask.key], low, high, scale))


def _log_else(ask: Ask, readings: Mapping[str, float]) -> float:
    """Of something else, any reading from below nothing to twice the window may come, or its window's own."""
    reach = max(abs(ask.window.high), abs(readings[ask.key]), _scale(ask))
    own = _density(readings[ask.key], ask.window.low, ask.window.high, _scale(ask))
    anywhere = _scale(ask) / (4 * reach)
    return math.log(0.5 * own + 0.5 * anywhere)


def _scale(ask: Ask) -> float:
    return max(ask.window.high - ask.window.low, 1e-3 * abs(ask.window.expected), 1e-6)


def _density(value: float, low: float, high: float, scale: float) -> float:
    """Level between two ends and falling off outside; times the scale, so that it has no unit."""
    tail = TAIL_FRAC * max(high - low, 0.2 * scale)
    off = max(low - value, value - high, 0.0)
    level = scale / ((high - low) + tail * math.sqrt(2 * math.pi))
    return max(level * math.exp(-0.5 * (off / tail) ** 2), NEVER_BELOW)
