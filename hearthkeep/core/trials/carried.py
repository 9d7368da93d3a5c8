"""What the starts come to: shares carried by month and length, and the chance of lasting so long."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.trials.lived import Lived

Floats = NDArray[np.float64]

#: Three months each, as the weather services count them; the names are those of the north.
_SEASONS = (
    ("Dec to Feb", (12, 1, 2)),
    ("Mar to May", (3, 4, 5)),
    ("Jun to Aug", (6, 7, 8)),
    ("Sep to Nov", (9, 10, 11)),
)
_NORTH = ("winter", "spring", "summer", "autumn")
#: Points of the endurance curve at most, about.
_POINTS = 240


@dataclass(frozen=True, kw_only=True, slots=True)
class CarriedCell:
    """The starts of one month, or of the whole year, against one length."""

    #: 1 to 12; none for the year.
    month: int | None
    length_h: float
    starts: int
    #: Of them, carried through that length: Life alone, and Life and Keep.
    life_frac: float
    keep_frac: float


@dataclass(frozen=True, kw_only=True, slots=True)
class EnduranceCurve:
    """The share of starts from which the house lasts at least so long."""

    key: str
    title: str
    starts: int
    #: At each time of the report, for Life alone, and for Life and Keep.
    life_frac: tuple[float, ...]
    keep_frac: tuple[float, ...]


def carried_map(lived: Mapping[float, Lived], lengths_h: tuple[float, ...]) -> tuple[CarriedCell, ...]:
    """
    Month by month, and for the year, the share carried through each length.

    Each length is read from the shortest outage lived that is at least as long.
    """
    cells = []
    for length_h in lengths_h:
        found = lived[min(duration_h for duration_h in lived if duration_h >= length_h)]
        life = found.carries(length_h, life_only=True)
        keep = found.carries(length_h, life_only=False)
        for month in (None, *range(1, 13)):
            here = np.ones_like(life) if month is None else found.month == month
            cells.append(
                CarriedCell(
                    month=month,
                    length_h=length_h,
                    starts=int(here.sum()),
                    life_frac=_share(life[here]),
                    keep_frac=_share(keep[here]),
                )
            )
    return tuple(cells)


def times_of(longest_h: float) -> tuple[float, ...]:
    """Times of the endurance curve, from 0 to the longest outage at even distances of whole hours [h]."""
    stride = max(1, round(longest_h / _POINTS))
    return (*(float(time_h) for time_h in range(0, int(longest_h), stride)), longest_h)


def endurance_curves(lived: Lived, times_h: tuple[float, ...], *, is_north: bool) -> tuple[EnduranceCurve, ...]:
    """The curve of the year, and of each season."""
    names = _NORTH if is_north else (*_NORTH[2:], *_NORTH[:2])
    seasons = [
        (name, f"{title}, {name}", np.isin(lived.month, months))
        for name, (title, months) in zip(names, _SEASONS, strict=True)
    ]
    curves = []
    for key, title, here in (("year", "Year", np.ones(lived.month.shape, dtype=bool)), *seasons):
        if here.any():
            curves.append(
                EnduranceCurve(
                    key=key,
                    title=title,
                    starts=int(here.sum()),
                    life_frac=_lasting(lived.life_carried_h[here], times_h),
                    keep_frac=_lasting(lived.carried_h[here], times_h),
                )
            )
    return tuple(curves)


def _lasting(carried_h: Floats, times_h: tuple[float, ...]) -> tuple[float, ...]:
    shorter = np.searchsorted(np.sort(carried_h), times_h, side="left")
    return tuple((1.0 - shorter / carried_h.shape[0]).tolist())


def lasts_at_least_h(carried_h: Floats, share: float) -> float:
    """
    The longest time that at least this share of the starts lasts [h].

    >>> lasts_at_least_h(np.array([10.0, 20.0, 30.0, 40.0]), 0.75)
    20.0
    """
    ordered = np.sort(carried_h)[::-1]
    return float(ordered[int(np.ceil(share * ordered.shape[0] - 1e-9)) - 1])


def _share(carried: NDArray[np.bool_]) -> float:
    return float(carried.mean()) if carried.shape[0] else 0.0
