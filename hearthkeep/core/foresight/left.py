"""How long it lasts: each tier's hours from now, and the band in which they lie for the weather and the use that may come."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Tier
from hearthkeep.core.foresight.course import Choices, Course
from hearthkeep.core.foresight.forecast import (
    USE_NODES,
    USE_SPREAD,
    USE_WEIGHTS,
    Doings,
    Skies,
    Weather,
    steps_under,
)
from hearthkeep.core.outage import EventKind, Run, State, events_of

Floats = NDArray[np.float64]

#: The tiers that have a time left, in order.
LASTING = (Tier.LIFE, Tier.KEEP, Tier.EASE)
#: Parts of all that may come below and above the band: nine of ten lie inside.
LOW_PART, HIGH_PART = 0.05, 0.95


@dataclass(frozen=True, kw_only=True, slots=True)
class TierLeft:
    """How long a tier lasts from now [h]; as far as is looked ahead where it lasts longer."""

    tier: Tier
    hours: float
    low_h: float
    high_h: float
    #: It lasts at least as long as is looked ahead.
    is_beyond: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Futures:
    """What may come from a state on: the middle, and each weather under each use with how much it counts."""

    at_h: float
    ahead_h: float
    #: By the forecast and the use as they are: the run, and each tier's hours [h].
    middle: Run
    middle_h: tuple[float, float, float]
    #: Each tier's hours [h], (futures, 3), and the charge at the edges of the run's steps [Wh], (futures, edges).
    hours: Floats
    stored_wh: Floats
    #: How much each counts, one all together, (futures,).
    weight_frac: Floats


def tiers_left_h(course: Course, state: State, at_h: float, choices: Choices) -> tuple[float, float, float]:
    """Until Life, Keep and Ease are first not served, from now, as far as the course goes [h]."""
    return _tiers_left(course, state, at_h, choices)[1]


def _tiers_left(course: Course, state: State, at_h: float, choices: Choices) -> tuple[Run, tuple[float, float, float]]:
    run = course.run(state, at_h, course.end_h, choices)
    ahead_h = course.end_h - at_h
    outcome, _ = course.outcome(state, at_h, course.end_h, choices)
    life_h = ahead_h if outcome.life_dark_h < 0 else outcome.life_dark_h
    keep_h = ahead_h if outcome.dark_h < 0 else outcome.dark_h
    return run, (life_h, min(keep_h, life_h), min(_ease_h(run, state, ahead_h), keep_h, life_h))


def _ease_h(run: Run, state: State, ahead_h: float) -> float:
    if state.out & (1 << LASTING.index(Tier.EASE)):
        return 0.0
    gone = (EventKind.DROPPED, EventKind.OVERLOADED)
    return next(
        (event.time_h for event in events_of(run) if event.kind in gone and event.tier == Tier.EASE.value), ahead_h
    )


def futures_of(
    skies: Skies,
    state: State,
    at_h: float,
    choices: Choices,
    weathers: Sequence[Weather],
    doings: Doings,
    use_spread: Floats | float = USE_SPREAD,
) -> Futures:
    """
    Run forward from a state.

    :param weathers: those that may come; the course's own weather gives the middle.
    :param use_spread: how far the use may be from the course's, one standard deviation as a part of it, for all or (loads,).
    """
    course = skies.course
    middle, middle_h = _tiers_left(course, state, at_h, choices)
    hours, stored, weights = [], [], []
    steps = steps_under(skies, weathers, doings)
    for node, weight in zip(USE_NODES, USE_WEIGHTS, strict=True):
        using = course if node == 0 else course.using(course.use_factor * (1.0 + node * use_spread))
        for own in steps:
            run, left_h = _tiers_left(using.under(own), state, at_h, choices)
            hours.append(left_h)
            stored.append(run.stored_wh)
            weights.append(weight / len(steps))
    return Futures(
        at_h=at_h,
        ahead_h=course.end_h - at_h,
        middle=middle,
        middle_h=middle_h,
        hours=np.array(hours),
        stored_wh=np.array(stored),
        weight_frac=np.array(weights),
    )


def time_left(futures: Futures) -> tuple[TierLeft, ...]:
    """How long Life, Keep and Ease last, in that order, each with the band that holds nine of ten futures."""
    lows = quantile(futures.hours, futures.weight_frac, LOW_PART)
    highs = quantile(futures.hours, futures.weight_frac, HIGH_PART)
    return tuple(
        TierLeft(
            tier=tier,
            hours=hours,
            low_h=min(float(low), hours),
            high_h=max(float(high), hours),
            is_beyond=hours >= futures.ahead_h - 1e-6,
        )
        for tier, hours, low, high in zip(LASTING, futures.middle_h, lows, highs, strict=True)
    )


def quantile(values: Floats, weight: Floats, part: float) -> Floats:
    """The value below which a part of all weights lies, column by column; values are (n, columns), weights (n,)."""
    order = np.argsort(values, axis=0, kind="stable")
    total = np.cumsum(weight[order], axis=0)
    at = np.argmax(total >= part * weight.sum() - 1e-12, axis=0)
    found: Floats = np.take_along_axis(np.take_along_axis(values, order, axis=0), at[None, :], axis=0)[0]
    return found
