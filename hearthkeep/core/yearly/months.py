"""The months of a weather year, and how the year's figures come out of them."""

from __future__ import annotations

from calendar import month_abbr
from dataclasses import dataclass

from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.sources import DAYS_IN_MONTH


@dataclass(frozen=True, kw_only=True, slots=True)
class MonthSun:
    """One month of the house living on the sun alone, a day on the mean."""

    month: int
    #: Peak sun hours of all arrays, weighted by their watts, or of a plane at the site's latitude without any [h].
    sun_hours: float
    #: Within the controllers' limits [Wh a day], and what the house asks of the bank [Wh a day].
    given_wh: float
    drawn_wh: float
    spilled_wh: float
    #: Hours a day in which Life or Keep is not served [h].
    dark_h: float


def darkest(months: tuple[MonthSun, ...]) -> MonthSun:
    """The month whose mean day gives least."""
    return min(months, key=lambda month: (month.given_wh, month.sun_hours))


def year_figures(
    months: tuple[MonthSun, ...], *, stc_w: float, capacity_wh: float, spilled_frac: float
) -> dict[str, Figure]:
    """The working of the year's figures, by key."""

    def by_month(values: tuple[float, ...], unit: str) -> tuple[Term, ...]:
        return tuple(
            Term(name=month_abbr[month.month], value=value, unit=unit)
            for month, value in zip(months, values, strict=True)
        )

    def kwh(daily_wh: tuple[float, ...]) -> tuple[float, ...]:
        return tuple(wh * days / 1000 for wh, days in zip(daily_wh, DAYS_IN_MONTH, strict=True))

    given = kwh(tuple(month.given_wh for month in months))
    spilled = kwh(tuple(month.spilled_wh for month in months))
    dark = tuple(month.dark_h * days for month, days in zip(months, DAYS_IN_MONTH, strict=True))
    worst = darkest(months)
    return {
        "worst_month": Figure(
            label="A day of the darkest month",
            value=worst.given_wh,
            unit="Wh",
            formula="the month whose mean day gives least, within the controllers' limits",
            terms=by_month(tuple(month.given_wh for month in months), "Wh"),
            basis="The weather year hour by hour: plane by Perez, cell heat, losses, shade and snow",
        ),
        "given": Figure(
            label="Given in the year",
            value=sum(given),
            unit="kWh",
            formula="sum of the months, within the controllers' limits; what a full bank spills is counted in it",
            terms=(Term(name="panels", value=stc_w, unit="W"), *by_month(given, "kWh")),
            basis="The weather year hour by hour: plane by Perez, cell heat, losses, shade and snow",
        ),
        "spilled": Figure(
            label="Spilled in the year",
            value=sum(spilled),
            unit="kWh",
            formula="sum of the months: the bank is full or may not take more, or a controller is at its limit",
            terms=(Term(name="of all that is offered", value=100 * spilled_frac, unit="%"), *by_month(spilled, "kWh")),
            basis="The outage model over the year, from a full bank, on the sun alone",
        ),
        "dark": Figure(
            label="Dark by the sun alone",
            value=sum(dark),
            unit="h",
            formula="hours of the months in which Life or Keep asks and is not served, without grid, generator or others",
            terms=(Term(name="bank", value=capacity_wh, unit="Wh"), *by_month(dark, "h")),
            basis="The outage model over the year, from a full bank, on the sun alone",
        ),
    }
