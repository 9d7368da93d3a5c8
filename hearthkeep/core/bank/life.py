"""How long the bank lasts, and how it stands in storage."""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.bank.charge_time import hours_to_full
from hearthkeep.core.bank.chemistry import TYPICAL
from hearthkeep.core.bank.rating import BankRating
from hearthkeep.core.design import Bank, CyclePoint


@dataclass(frozen=True, kw_only=True, slots=True)
class BankLife:
    """What use and rest do to the bank."""

    #: Cycles to 80 % of capacity at the design's depth.
    cycles: float
    cycles_per_year: float
    #: Years until 80 %, by use or by the calendar, whichever comes first.
    years: float
    by_calendar: bool
    #: Part of the charge left after eleven months of rest.
    left_after_storage_frac: float
    #: From the design floor to full by the grid charger alone [h]; none without a charger.
    recharge_h: float | None


def cycles_at(points: tuple[CyclePoint, ...], depth_frac: float) -> float:
    """Cycles at a depth, straight between the points on log-log paper and on beyond them.

    Source: the usual way of reading cycle-life charts; common practice.

    >>> round(cycles_at((CyclePoint(depth_frac=0.5, cycles=1000), CyclePoint(depth_frac=1.0, cycles=250)), 0.25))
    4000
    """
    if len(points) == 1:
        return points[0].cycles
    # The two points around the depth, or the two nearest to it.
    after = next((i for i, point in enumerate(points) if point.depth_frac >= depth_frac), len(points) - 1)
    one, other = points[max(after, 1) - 1], points[max(after, 1)]
    slope = math.log(other.cycles / one.cycles) / math.log(other.depth_frac / one.depth_frac)
    return float(one.cycles * (depth_frac / one.depth_frac) ** slope)


def left_after(months: float, month_frac: float) -> float:
    """Part of the charge left after so many months of rest, each losing the same part of what is left."""
    return float((1.0 - month_frac) ** months)


def life_of(bank: Bank, rating: BankRating, *, charger_w: float) -> BankLife:
    """Life at the depth really used and the design's use, rest, and refill."""
    typical, sheet = TYPICAL[bank.chemistry], bank.unit
    points = sheet.cycle_points if sheet and sheet.cycle_points else typical.cycle_points
    calendar = sheet.calendar_years if sheet and sheet.calendar_years else typical.calendar_years
    month = typical.self_discharge_month_frac
    if sheet and sheet.self_discharge_month_frac is not None:
        month = sheet.self_discharge_month_frac
    cycles = cycles_at(points, rating.depth_frac)
    by_use = cycles / bank.need.cycles_per_year if bank.need.cycles_per_year > 0 else math.inf
    return BankLife(
        cycles=cycles,
        cycles_per_year=bank.need.cycles_per_year,
        years=min(by_use, calendar),
        by_calendar=calendar <= by_use,
        left_after_storage_frac=left_after(11, month),
        recharge_h=hours_to_full(rating, charger_w=charger_w, from_frac=rating.floor_soc_frac),
    )
