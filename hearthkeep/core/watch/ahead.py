"""The hours ahead as a picture: charge with its band, sun and draw hour by hour, and what happens when."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.foresight import (
    HIGH_PART,
    LOW_PART,
    Course,
    Futures,
    quantile,
    steps_between,
)
from hearthkeep.core.outage import events_of

Floats = NDArray[np.float64]

#: Events told one by one.
MOST_EVENTS = 40


@dataclass(frozen=True, kw_only=True, slots=True)
class AheadEvent:
    """Something that happens by the plan, hours from now [h]."""

    in_h: float
    #: As the outage's model names it.
    kind: str
    tier: str | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Ahead:
    """The hours ahead, by full hours from now."""

    #: Hours from now [h], and charge as a part of full then: the middle, and the band of nine futures in ten, (n,).
    in_h: tuple[float, ...]
    charge_frac: tuple[float, ...]
    low_frac: tuple[float, ...]
    high_frac: tuple[float, ...]
    #: Charge where nobody does anything from now on, (n,).
    nothing_frac: tuple[float, ...]
    #: Means of the hours in between: sun offered to the bank, loads served, and generator [W], (n - 1,).
    sun_w: tuple[float, ...]
    served_w: tuple[float, ...]
    generator_w: tuple[float, ...]
    events: tuple[AheadEvent, ...]


def ahead_of(course: Course, futures: Futures, nothing_wh: Floats) -> Ahead:
    """
    The hours ahead.

    :param nothing_wh: charge at the edges of the course's steps from now where nobody does anything [Wh].
    """
    steps = steps_between(course.steps, course.edges_h, futures.at_h, course.end_h)
    edges_h = np.concatenate(([0.0], np.cumsum(steps.length_h)))
    hours = np.arange(0.0, np.floor(futures.ahead_h + 1e-9) + 1)
    capacity_wh = course.prepared.plant.acceptance.capacity_wh

    def at_hours(stored_wh: Floats) -> tuple[float, ...]:
        return tuple(np.round(np.interp(hours, edges_h, stored_wh) / capacity_wh, 4).tolist())

    def means(power_w: Floats) -> tuple[float, ...]:
        energy_wh = np.concatenate(([0.0], np.cumsum(power_w * steps.length_h)))
        return tuple(np.round(np.diff(np.interp(hours, edges_h, energy_wh)), 1).tolist())

    middle = futures.middle
    low_wh = np.minimum(quantile(futures.stored_wh, futures.weight_frac, LOW_PART), middle.stored_wh)
    high_wh = np.maximum(quantile(futures.stored_wh, futures.weight_frac, HIGH_PART), middle.stored_wh)
    return Ahead(
        in_h=tuple(hours.tolist()),
        charge_frac=at_hours(middle.stored_wh),
        low_frac=at_hours(low_wh),
        high_frac=at_hours(high_wh),
        nothing_frac=at_hours(nothing_wh),
        sun_w=means(steps.sun_w + steps.coupled_w),
        served_w=means(middle.served_w.sum(axis=1)),
        generator_w=means(middle.generator_w),
        events=tuple(
            AheadEvent(in_h=event.time_h, kind=event.kind.value, tier=event.tier)
            for event in events_of(middle)[:MOST_EVENTS]
        ),
    )
