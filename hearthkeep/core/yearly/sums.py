"""How much panel: the trade's quick sum, with two kinds of sun hours, beside the modelled year and its dark day."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL, BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.loads import LoadSums, rows_from, sums_from, table_from
from hearthkeep.core.outage import house_of, usual_day
from hearthkeep.core.sizing import bank_sums


@dataclass(frozen=True, kw_only=True, slots=True)
class ArraySum:
    """One way of sizing the array."""

    key: str
    label: str
    #: None where it cannot be worked out.
    array_w: float | None
    figure: Figure | None


def quick_array_w(
    daily_wh: float, sun_hours: float, *, safety_frac: float = 0.0, charge_efficiency_frac: float = 1.0
) -> float:
    """Panel watts by the trade's quick sum: daily Wh / sun hours x (1 + safety) / charge efficiency. No source.

    >>> quick_array_w(360, 5)
    72.0
    """
    return daily_wh / sun_hours * (1 + safety_frac) / charge_efficiency_frac


def _usual_sums(design: Design) -> LoadSums:
    usual = usual_day(design)
    rows = rows_from(design.loads, (usual,))
    return sums_from(design.loads, rows, table_from(rows), usual)


def array_sums(
    design: Design,
    rating: BankRating,
    *,
    year_sun_hours: float,
    worst_sun_hours: float,
    worst_given_wh: float,
    dark_day_wh: float | None,
    stc_w: float,
) -> tuple[ArraySum, ...]:
    """Array watts by the quick sum, with two kinds of sun hours, and by the modelled year and its dark day.

    Sun hours and energies are means a day: of the year, of the darkest month, and of that month's overcast days.
    """
    charge, safety = TYPICAL[design.bank.chemistry].charge_efficiency_frac, design.charging.quick_safety_frac
    loads = _usual_sums(design)
    drawn_wh = bank_sums(
        design, rating, loads, house_of(design, rating, rows_from(design.loads, (usual_day(design),)))
    ).daily_drawn_wh

    def quick(key: str, label: str, sun_hours: float) -> ArraySum:
        if sun_hours <= 0:
            return ArraySum(key=key, label=label, array_w=None, figure=None)
        watts = quick_array_w(loads.daily_wh, sun_hours, safety_frac=safety, charge_efficiency_frac=charge)
        terms = (
            Term(name="loads a day", value=loads.daily_wh, unit="Wh"),
            Term(name="sun hours", value=sun_hours, unit="h"),
            Term(name="safety", value=1 + safety, unit=""),
            Term(name="charge efficiency", value=charge, unit=""),
        )
        formula = "loads a day ÷ sun hours × safety ÷ charge efficiency"
        return ArraySum(
            key=key,
            label=label,
            array_w=watts,
            figure=Figure(label=label, value=watts, unit="W", formula=formula, terms=terms, basis=COMMON_PRACTICE),
        )

    def modelled(key: str, label: str, given_wh: float | None) -> ArraySum:
        if not given_wh or stc_w <= 0:
            return ArraySum(key=key, label=label, array_w=None, figure=None)
        watts = drawn_wh / rating.charge_efficiency_frac / (given_wh / stc_w)
        terms = (
            Term(name="drawn from the bank a day", value=drawn_wh, unit="Wh"),
            Term(name="charge efficiency", value=rating.charge_efficiency_frac, unit=""),
            Term(name="given a day", value=given_wh, unit="Wh"),
            Term(name="panels", value=stc_w, unit="W"),
        )
        return ArraySum(
            key=key,
            label=label,
            array_w=watts,
            figure=Figure(
                label=label,
                value=watts,
                unit="W",
                formula="drawn from the bank a day ÷ charge efficiency ÷ (given a day ÷ panels)",
                terms=terms,
                basis="The weather year on these arrays, hour by hour: Perez sky, cell heat, losses, controller, shade and snow",
            ),
        )

    return (
        quick("quick_year", "Quick sum, sun hours of the year", year_sun_hours),
        quick("quick_worst", "Quick sum, sun hours of the darkest month", worst_sun_hours),
        modelled("modelled_worst", "Modelled, darkest month", worst_given_wh),
        modelled("dark_day", "Modelled, an overcast day of that month", dark_day_wh),
    )


def difference_told(design: Design, sums: tuple[ArraySum, ...]) -> str:
    """What the quick sum leaves out, with the figures at hand."""
    by_key = {entry.key: entry for entry in sums}
    quick, modelled = by_key["quick_worst"], by_key["modelled_worst"]
    if quick.array_w is None or modelled.array_w is None or quick.figure is None or modelled.figure is None:
        return "Without an array there is only the quick sum, on a plane tilted by the latitude."
    terms = {term.name: term.value for term in (*quick.figure.terms, *modelled.figure.terms)}
    loads_wh, drawn_wh = terms["loads a day"], terms["drawn from the bank a day"]
    per_watt_h = terms["given a day"] / terms["panels"]
    extra = drawn_wh / loads_wh - 1 if loads_wh > 0 else 0.0
    lost = 1 - per_watt_h / terms["sun hours"]
    return (
        f"The quick sum counts the loads alone; inverter, wiring and discharge add {100 * extra:.0f} % to what the bank gives. "
        f"It takes a panel at its label for all sun hours; heat, losses and controller leave {per_watt_h:.2f} of "
        f"{terms['sun hours']:.2f} Wh a day and watt, {100 * lost:.0f} % less. Its safety of "
        f"{100 * design.charging.quick_safety_frac:.0f} % stands for both, and for dark days, which it does not know."
    )
