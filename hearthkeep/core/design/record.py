"""The record: outages that the home has really had, and what the utility publishes of its own."""

from __future__ import annotations

from datetime import datetime, timedelta
from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, field_validator, model_validator

from hearthkeep.core.design.fields import DesignPart
from hearthkeep.core.design.site import LONGEST_OUTAGE_H, LocalMoment, local_moment

#: Outages that a record may hold, and the most years it may cover.
MOST_OUTAGES, MOST_YEARS = 1_000, 100.0


class RecordedOutage(DesignPart):
    """An outage that the home has had."""

    start: LocalMoment
    length_h: Annotated[float, Field(strict=True, gt=0, le=LONGEST_OUTAGE_H)]

    @field_validator("start")
    @classmethod
    def _start_is_local(cls, start: datetime) -> datetime:
        return local_moment(start)

    @property
    def end(self) -> datetime:
        """When the grid came back, local standard time."""
        return self.start + timedelta(hours=self.length_h)


class UtilityIndices(DesignPart):
    """What a utility publishes of a year, by IEEE Std 1366."""

    #: Sustained interruptions per customer [1/a], and how long they last together per customer [min/a].
    saifi_per_year: Annotated[float, Field(strict=True, gt=0, le=1_000)]
    saidi_min_per_year: Annotated[float, Field(strict=True, gt=0, le=525_600)]

    @model_validator(mode="after")
    def _fits_a_year(self) -> Self:
        if self.saidi_min_per_year / self.saifi_per_year > LONGEST_OUTAGE_H * 60:
            raise ValueError(
                f"saidi_min_per_year ÷ saifi_per_year must be at most {LONGEST_OUTAGE_H * 60:g} minutes an interruption "
                f"(got {self.saidi_min_per_year / self.saifi_per_year:g})"
            )
        return self


class OutageRecord(DesignPart):
    """The outages of the past, as far as they are known."""

    #: Sorted by start; none overlaps another.
    outages: Annotated[tuple[RecordedOutage, ...], Field(max_length=MOST_OUTAGES)] = ()
    #: How long the record was kept [a].
    years: Annotated[float, Field(strict=True, gt=0, le=MOST_YEARS)] = 1.0
    utility: UtilityIndices | None = None

    @field_validator("outages")
    @classmethod
    def _in_order_and_apart(cls, outages: tuple[RecordedOutage, ...]) -> tuple[RecordedOutage, ...]:
        ordered = tuple(sorted(outages, key=lambda outage: outage.start))
        for one, next_one in pairwise(ordered):
            if next_one.start < one.end:
                raise ValueError(
                    f"the outage of {next_one.start:%Y-%m-%d %H:%M} begins before the one before it has ended"
                )
        return ordered
