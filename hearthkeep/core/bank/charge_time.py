"""A steady charge: how long it takes to full, and how far it gets in a time, by the law of acceptance."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank.acceptance import Acceptance, acceptance_of, along_limit_h, along_limit_wh, falls_to_wh
from hearthkeep.core.bank.rating import BankRating


@dataclass(frozen=True, kw_only=True, slots=True)
class _Course:
    """A charge in two stretches: steady up to where the falling limit meets the charger, then along the limit."""

    acceptance: Acceptance
    #: Rise of the steady stretch, as a part of full [1/h], and where it ends.
    rise_per_h: float
    meets_frac: float


def _course(rating: BankRating, charger_w: float) -> _Course | None:
    power_w = min(charger_w, rating.charge_limit_w)
    if power_w <= 0:
        return None
    acceptance = acceptance_of(
        capacity_wh=rating.capacity_wh,
        limit_w=rating.charge_limit_w,
        efficiency=rating.charge_efficiency_frac,
        tapers=rating.tapers,
    )
    meets = falls_to_wh(power_w, acceptance) / rating.capacity_wh if rating.tapers else 1.0
    return _Course(
        acceptance=acceptance,
        rise_per_h=power_w * (rating.charge_efficiency_frac / rating.capacity_wh),
        meets_frac=min(meets, 1.0),
    )


def hours_to_full(rating: BankRating, *, charger_w: float, from_frac: float) -> float | None:
    """From a state of charge to full at a steady charger [h]; none without one.

    Where the charger stays below the falling limit of lead-acid for a while, the slow stretch begins later.
    """
    course = _course(rating, charger_w)
    if course is None:
        return None
    steady_h = max(course.meets_frac - from_frac, 0.0) / course.rise_per_h
    start = max(from_frac, course.meets_frac)
    if not rating.tapers or start >= 1.0:
        return steady_h
    full_wh = rating.capacity_wh
    return float(steady_h + along_limit_h(start * full_wh, full_wh, course.acceptance))


def charged_frac(rating: BankRating, *, charger_w: float, from_frac: float, hours_h: float) -> float:
    """State of charge after so many hours at a steady charger."""
    course = _course(rating, charger_w)
    if course is None:
        return from_frac
    steady_h = max(course.meets_frac - from_frac, 0.0) / course.rise_per_h
    if hours_h <= steady_h or not rating.tapers:
        return min(from_frac + course.rise_per_h * min(hours_h, steady_h), 1.0)
    start_wh = max(from_frac, course.meets_frac) * rating.capacity_wh
    return min(float(along_limit_wh(start_wh, hours_h - steady_h, course.acceptance)) / rating.capacity_wh, 1.0)
