"""Hours of the day as spans: what the designer paints, sorted, merged, and asked hour by hour."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from pydantic import AfterValidator, Field

HourSpan = tuple[
    Annotated[int, Field(strict=True, ge=0, le=24)],
    Annotated[int, Field(strict=True, ge=0, le=24)],
]


@lru_cache(maxsize=4096)
def hours_in(spans: tuple[tuple[int, int], ...]) -> tuple[bool, ...]:
    """Whether each of the 24 hours of the day lies in one of the spans."""
    return tuple(any(start_h <= hour < end_h for start_h, end_h in spans) for hour in range(24))


def checked_spans(spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
    """Spans sorted and merged; one that does not run forward is refused."""
    for start_h, end_h in spans:
        if start_h >= end_h:
            raise ValueError(
                f"each span needs from < to within 0 to 24 (got [{start_h}, {end_h}]); "
                "write a night as two spans, [0, 6] and [22, 24]"
            )
    return merge_spans(spans)


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


#: Hours of the day as [from, to) pairs; stored sorted and merged.
HourSpans = Annotated[tuple[HourSpan, ...], Field(max_length=24), AfterValidator(checked_spans)]
