"""Filling the bank by a steady charger: how long it takes, and how far it gets in a time."""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.bank.rating import BankRating

#: Lead-acid's acceptance near full, here and in the outage model: above this part of full the limit falls in a line, down
#: to this part of itself when full.
TAPER_FROM_FRAC, TAPER_END_PART = 0.8, 0.05
_SLOPE = (1 - TAPER_END_PART) / (1 - TAPER_FROM_FRAC)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Course:
    """A charge in two stretches: steady up to where the falling limit meets the charger, then along an exponential."""

    #: Rise of the steady stretch, as a part of full [1/h], and where it ends.
    rise_per_h: float
    meets_frac: float
    #: Speed of the exponential [1/h].
    speed_per_h: float


def _course(rating: BankRating, charger_w: float) -> _Course | None:
    power_w = min(charger_w, rating.charge_limit_w)
    if power_w <= 0:
        return None
    per_wh = rating.charge_efficiency_frac / rating.capacity_wh
    meets = TAPER_FROM_FRAC + (1 - power_w / rating.charge_limit_w) / _SLOPE if rating.tapers else 1.0
    return _Course(
        rise_per_h=power_w * per_wh,
        meets_frac=min(meets, 1.0),
        speed_per_h=_SLOPE * rating.charge_limit_w * per_wh,
    )


def filling_h(rating: BankRating, *, charger_w: float, from_frac: float) -> float | None:
    """From a state of charge to full at a steady charger [h]; none without one. Lead-acid takes less and less near full.

    In the falling stretch the limit is a line in the charge, so that the charge runs along an exponential. Where the
    charger stays below the falling limit for a while, the stretch begins later.
    """
    course = _course(rating, charger_w)
    if course is None:
        return None
    steady_h = max(course.meets_frac - from_frac, 0.0) / course.rise_per_h
    start = max(from_frac, course.meets_frac)
    if not rating.tapers or start >= 1.0:
        return steady_h
    return steady_h + math.log(_limit_part(start) / TAPER_END_PART) / course.speed_per_h


def filled_frac(rating: BankRating, *, charger_w: float, from_frac: float, hours_h: float) -> float:
    """State of charge after so many hours at a steady charger."""
    course = _course(rating, charger_w)
    if course is None:
        return from_frac
    steady_h = max(course.meets_frac - from_frac, 0.0) / course.rise_per_h
    if hours_h <= steady_h or not rating.tapers:
        return min(from_frac + course.rise_per_h * min(hours_h, steady_h), 1.0)
    # The limit as a part of the full current shrinks exponentially, and the charge follows its line.
    left = _limit_part(max(from_frac, course.meets_frac)) * math.exp(-course.speed_per_h * (hours_h - steady_h))
    return min(TAPER_FROM_FRAC + (1 - left) / _SLOPE, 1.0)


def _limit_part(soc_frac: float) -> float:
    return 1 - _SLOPE * (soc_frac - TAPER_FROM_FRAC)
