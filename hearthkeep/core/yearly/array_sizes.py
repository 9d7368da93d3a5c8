"""How much panel: the trade's quick sum, with two kinds of sun hours, beside the modelled year and its dark day."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL, BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.inverter import Cables, house_watts
from hearthkeep.core.loads import audit_of
from hearthkeep.core.outage import limits_for, usual_day
from hearthkeep.core.sizing import bank_sums


@dataclass(frozen=True, kw_only=True, slots=True)
class ArraySum:
    """One way of sizing the array."""

    key: str
    label: str
    #: None where it cannot be worked out.
    array_w: float | None
    figure: Figure | None


@dataclass(frozen=True, kw_only=True, slots=True)
class DailyNeed:
    """What the house asks for on a usual day, and what putting it back costs."""

    #: The loads alone, and what the bank gives for them [Wh].
    loads_wh: float
    drawn_wh: float
    #: Charge efficiencies: usual for the chemistry, as the quick sum takes it, and the bank's own.
    usual_charge_frac: float
    charge_frac: float
    #: Safety of the quick sum.
    safety_frac: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DailySun:
    """Means a day: of the year, of the darkest month, and of that month's overcast days."""

    year_sun_hours: float
    worst_sun_hours: float
    #: What the arrays that charge the bank give [Wh]; none where there is no such day.
    worst_given_wh: float
    dark_day_wh: float | None
    #: Panels of those arrays [W].
    stc_w: float


def quick_array_w(
    daily_wh: float, sun_hours: float, *, safety_frac: float = 0.0, charge_efficiency_frac: float = 1.0
) -> float:
    """Panel watts by the trade's quick sum: daily Wh / sun hours x (1 + safety) / charge efficiency. No source.

    >>> quick_array_w(360, 5)
    72.0
    """
    return daily_wh / sun_hours * (1 + safety_frac) / charge_efficiency_frac


def daily_need(design: Design, rating: BankRating, cables: Cables) -> DailyNeed:
    """What a completed design asks for on a usual day."""
    audit = audit_of(design.loads, usual_day(design))
    house = house_watts(audit.rows, design.inverter, limits_for(design, rating, None, cables))
    return DailyNeed(
        loads_wh=audit.sums.daily_wh,
        drawn_wh=bank_sums(design, rating, audit.sums, house).daily_drawn_wh,
        usual_charge_frac=TYPICAL[design.bank.chemistry].charge_efficiency_frac,
        charge_frac=rating.charge_efficiency_frac,
        safety_frac=design.charging.quick_safety_frac,
    )


def array_sums(need: DailyNeed, sun: DailySun) -> tuple[ArraySum, ...]:
    """Array watts by the quick sum, with two kinds of sun hours, and by the modelled year and its dark day."""
    return (
        _quick("quick_year", "Quick sum, sun hours of the year", need, sun.year_sun_hours),
        _quick("quick_worst", "Quick sum, sun hours of the darkest month", need, sun.worst_sun_hours),
        _modelled("modelled_worst", "Modelled, darkest month", need, sun.worst_given_wh, sun.stc_w),
        _modelled("dark_day", "Modelled, an overcast day of that month", need, sun.dark_day_wh, sun.stc_w),
    )


def _quick(key: str, label: str, need: DailyNeed, sun_hours: float) -> ArraySum:
    if sun_hours <= 0:
        return ArraySum(key=key, label=label, array_w=None, figure=None)
    watts = quick_array_w(
        need.loads_wh, sun_hours, safety_frac=need.safety_frac, charge_efficiency_frac=need.usual_charge_frac
    )
    figure = Figure(
        label=label,
        value=watts,
        unit="W",
        formula="loads a day ÷ sun hours × safety ÷ charge efficiency",
        terms=(
            Term(name="loads a day", value=need.loads_wh, unit="Wh"),
            Term(name="sun hours", value=sun_hours, unit="h"),
            Term(name="safety", value=1 + need.safety_frac, unit=""),
            Term(name="charge efficiency", value=need.usual_charge_frac, unit=""),
        ),
        basis=COMMON_PRACTICE,
    )
    return ArraySum(key=key, label=label, array_w=watts, figure=figure)


def _modelled(key: str, label: str, need: DailyNeed, given_wh: float | None, stc_w: float) -> ArraySum:
    if not given_wh or stc_w <= 0:
        return ArraySum(key=key, label=label, array_w=None, figure=None)
    watts = need.drawn_wh / need.charge_frac / (given_wh / stc_w)
    figure = Figure(
        label=label,
        value=watts,
        unit="W",
        formula="drawn from the bank a day ÷ charge efficiency ÷ (given a day ÷ panels)",
        terms=(
            Term(name="drawn from the bank a day", value=need.drawn_wh, unit="Wh"),
            Term(name="charge efficiency", value=need.charge_frac, unit=""),
            Term(name="given a day", value=given_wh, unit="Wh"),
            Term(name="panels", value=stc_w, unit="W"),
        ),
        basis="The weather year on these arrays, hour by hour: Perez sky, cell heat, losses, controller, shade and snow",
    )
    return ArraySum(key=key, label=label, array_w=watts, figure=figure)


def difference_told(need: DailyNeed, sun: DailySun) -> str:
    """What the quick sum leaves out, with the figures at hand."""
    if sun.worst_sun_hours <= 0 or not sun.worst_given_wh or sun.stc_w <= 0:
        return "Without an array there is only the quick sum, on a plane tilted by the latitude."
    per_watt_h = sun.worst_given_wh / sun.stc_w
    extra = need.drawn_wh / need.loads_wh - 1 if need.loads_wh > 0 else 0.0
    lost = 1 - per_watt_h / sun.worst_sun_hours
    return (
        f"The quick sum counts the loads alone; inverter, wiring and discharge add {100 * extra:.0f} % to what the bank gives. "
        f"It takes a panel at its label for all sun hours; heat, losses and controller leave {per_watt_h:.2f} of "
        f"{sun.worst_sun_hours:.2f} Wh a day and watt, {100 * lost:.0f} % less. Its safety of "
        f"{100 * need.safety_frac:.0f} % stands for both, and for dark days, which it does not know."
    )
