"""Loads: what must stay on, when, and in which order it is dropped."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field, field_validator

from hearthkeep.core.design.fields import DesignPart, Fraction, Identifier, LoadWatts, Name, StartWatts


class Tier(StrEnum):
    """Drop order, from the last dropped to the first."""

    LIFE = "life"
    KEEP = "keep"
    EASE = "ease"
    SPARE = "spare"


class Supply(StrEnum):
    """How a load is fed: through the inverter, or straight from the bank."""

    AC = "ac"
    DC = "dc"


HourSpan = tuple[
    Annotated[int, Field(strict=True, ge=0, le=24)],
    Annotated[int, Field(strict=True, ge=0, le=24)],
]


class Load(DesignPart):
    """One row of the audit."""

    id: Identifier
    name: Name
    tier: Tier
    quantity: Annotated[int, Field(strict=True, ge=1, le=500)] = 1
    #: Power of one unit while it runs [W].
    running_w: LoadWatts
    #: Power of one unit while it starts [W]; none means that it starts at its running power.
    start_w: StartWatts | None = None
    #: Share of its hours in which it really runs.
    duty_frac: Fraction = 1.0
    #: Hours of the day in which it may run, as [from, to) pairs; stored sorted and merged.
    hours: Annotated[tuple[HourSpan, ...], Field(max_length=24)] = ((0, 24),)
    supply: Supply = Supply.AC
    #: Power of one unit outside its hours [W].
    standby_w: LoadWatts = 0.0
    #: Loads with the same link are useless apart: they live and drop together.
    link: Name | None = None

    @field_validator("hours")
    @classmethod
    def _hours_are_spans(cls, spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
        for start_h, end_h in spans:
            if start_h >= end_h:
                raise ValueError(
                    f"each span needs from < to within 0 to 24 (got [{start_h}, {end_h}]); "
                    "write a night as two spans, [0, 6] and [22, 24]"
                )
        return merge_spans(spans)

    @property
    def on_by_hour(self) -> tuple[bool, ...]:
        """Whether the load is on in each of the 24 hours of the day."""
        return tuple(any(start_h <= hour < end_h for start_h, end_h in self.hours) for hour in range(24))


def merge_spans(spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
    """Sort hour spans and join those that touch.

    >>> merge_spans(((17, 18), (7, 8), (8, 10)))
    ((7, 10), (17, 18))
    """
    merged: list[tuple[int, int]] = []
    for start_h, end_h in sorted(spans):
        if merged and start_h <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(end_h, merged[-1][1]))
        else:
            merged.append((start_h, end_h))
    return tuple(merged)
