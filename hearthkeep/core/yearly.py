"""A weather year on the design's arrays: sun hours by month, the house living on the sun alone, and the quick sum beside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import TYPICAL, BankRating, rate
from hearthkeep.core.charging import (
    DAYS_IN_MONTH,
    HOURS_A_YEAR,
    Along,
    WeatherYear,
    array_poa,
    controller_power,
    distance_km,
    skies_of_year,
    year_for,
    year_plane_of_array,
)
from hearthkeep.core.design import ControllerKind, Design, Sky
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.inverter import draws_of, generator_draws_of
from hearthkeep.core.loads import HOURS, DayKind, LoadSums, rows_from, sums_from, table_from
from hearthkeep.core.outage import NO_GENERATOR, house_of, plant_of, usual_day, whole
from hearthkeep.core.outage import kernel as outage_kernel
from hearthkeep.core.outage.shapes import Run, Steps
from hearthkeep.core.sizing import bank_sums

Floats = NDArray[np.float64]
_MONTH_OF_DAY = np.repeat(np.arange(12), DAYS_IN_MONTH)
_MONTH_OF_HOUR = np.repeat(_MONTH_OF_DAY, 24)


@dataclass(frozen=True, kw_only=True, slots=True)
class ArrayYear:
    """One array through the year."""

    array_id: str
    name: str
    #: Peak sun hours: sun on the plane, shade and snow counted, by month [kWh/m2 a day], and over the year.
    sun_hours_by_month: tuple[float, ...]
    sun_hours: float


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


@dataclass(frozen=True, kw_only=True, slots=True)
class ArraySum:
    """One way of sizing the array."""

    key: str
    label: str
    #: None where it cannot be worked out.
    array_w: float | None
    figure: Figure | None


@dataclass(frozen=True, kw_only=True, slots=True)
class SunYear:
    """The design's arrays and house in a weather year."""

    year_key: str
    year_name: str
    #: Of the weather's place from the site [km]; 0 for the made-up year.
    distance_km: float
    arrays: tuple[ArrayYear, ...]
    months: tuple[MonthSun, ...]
    worst_month: int
    #: Panels that charge the bank; those of loads fed straight are left out here and in the sums [W].
    stc_w: float
    given_kwh: float
    clipped_kwh: float
    #: Of all that is given: the part spilled because the bank is full or may not take more.
    spilled_frac: float
    dark_h: float
    clear_days: int
    overcast_days: int
    covered_days: int
    #: Mean of the days called overcast in the worst month, and the worst day of the year [Wh].
    overcast_day_wh: float | None
    worst_day_wh: float
    sums: tuple[ArraySum, ...]
    #: Why the sums differ, in one or two sentences.
    difference: str


def quick_array_w(
    daily_wh: float, sun_hours: float, *, safety_frac: float = 0.0, charge_efficiency_frac: float = 1.0
) -> float:
    """Panel watts by the trade's quick sum: daily Wh / sun hours x (1 + safety) / charge efficiency. No source.

    >>> quick_array_w(360, 5)
    72.0
    """
    return daily_wh / sun_hours * (1 + safety_frac) / charge_efficiency_frac


def sun_year(design: Design, given: WeatherYear | None = None) -> SunYear:
    """Work out a year of 8,760 hours; `given` is the site's weather year, without it the made-up one is taken."""
    design = whole(design)
    year, rating = year_for(design.site, given), rate(design.bank)
    skies = skies_of_year(year)
    along = _along(design, year, skies)
    arrays: list[ArrayYear] = []
    offered, passed, weighted = (np.zeros(HOURS_A_YEAR) for _ in range(3))
    stc_w = 0.0
    for controller in design.charging.controllers:
        poa = tuple(array_poa(array, along) for array in controller.arrays)
        for array, plane in zip(controller.arrays, poa, strict=True):
            by_month = _daily_by_month(plane) / 1000
            arrays.append(
                ArrayYear(
                    array_id=array.id,
                    name=array.name,
                    sun_hours_by_month=tuple(by_month.tolist()),
                    sun_hours=float(plane.sum() / 365_000),
                )
            )
            if controller.kind is not ControllerKind.DIRECT:
                weighted, stc_w = weighted + array.stc_w * plane, stc_w + array.stc_w
        if controller.kind is not ControllerKind.DIRECT:
            power = controller_power(controller, poa_by_array=poa, air_c=along.air_c, bank_v=rating.nominal_v)
            offered, passed = offered + power.offered_w, passed + power.passed_w
    if stc_w > 0:
        plane = weighted / stc_w
    else:
        tilt_deg, faces_deg = abs(design.site.latitude_deg), 180.0 if design.site.latitude_deg >= 0 else 0.0
        plane = year_plane_of_array(year, year.moments, tilt_deg, faces_deg)
    run, kinds_wh = _live_through(design, rating, skies, passed, offered - passed)
    months = _months(plane, passed, run, kinds_wh)
    worst = min(months, key=lambda month: (month.given_wh, month.sun_hours))
    by_day = passed.reshape(-1, 24).sum(axis=1)
    dim = [sky is Sky.OVERCAST and _MONTH_OF_DAY[day] == worst.month - 1 for day, sky in enumerate(skies)]
    loads = _usual_sums(design)
    sums = _sums(design, rating, loads, months, plane, by_day, dim, stc_w)
    unused = float(run.spilled_w.sum())
    return SunYear(
        year_key=year.key,
        year_name=year.name,
        distance_km=distance_km(design.site, year),
        arrays=tuple(arrays),
        months=months,
        worst_month=worst.month,
        stc_w=stc_w,
        given_kwh=float(passed.sum() / 1000),
        clipped_kwh=float((offered - passed).sum() / 1000),
        spilled_frac=unused / float(offered.sum()) if offered.sum() > 0 else 0.0,
        dark_h=sum(month.dark_h * days for month, days in zip(months, DAYS_IN_MONTH, strict=True)),
        clear_days=sum(sky is Sky.CLEAR for sky in skies),
        overcast_days=sum(sky is Sky.OVERCAST for sky in skies),
        covered_days=sum(sky is Sky.COVERED for sky in skies),
        overcast_day_wh=float(by_day[dim].mean()) if any(dim) else None,
        worst_day_wh=float(by_day.min()),
        sums=sums,
        difference=_difference(design, sums),
    )


def _along(design: Design, year: WeatherYear, skies: tuple[Sky, ...]) -> Along:
    return Along(
        site=design.site,
        moments=year.moments,
        hour=np.tile(np.arange(24), 365),
        air_c=year.air_c,
        covered=np.repeat([sky is Sky.COVERED for sky in skies], 24),
        attended=np.ones(HOURS_A_YEAR, dtype=bool),
        part=np.ones(HOURS_A_YEAR),
        year=year,
    )


def _daily_by_month(hourly: Floats) -> Floats:
    """Mean a day of each month, of values that sum by the hour."""
    sums = np.bincount(_MONTH_OF_HOUR, weights=hourly, minlength=12)
    return np.asarray(sums / np.array(DAYS_IN_MONTH), dtype=np.float64)


def _usual_sums(design: Design) -> LoadSums:
    usual = usual_day(design)
    rows = rows_from(design.loads, (usual,))
    return sums_from(design.loads, rows, table_from(rows), usual)


def _live_through(
    design: Design, rating: BankRating, skies: tuple[Sky, ...], passed_w: Floats, clipped_w: Floats
) -> tuple[Run, Floats]:
    """The house on the sun alone from a full bank: no grid, no other source; and the loads it asks for by hour [W]."""
    kinds = tuple(DayKind(month=month + 1, is_dark=dark) for month in range(12) for dark in (False, True))
    kind_of_day = _MONTH_OF_DAY * 2 + np.array([sky.is_dark for sky in skies])
    house = house_of(design, rating, rows_from(design.loads, kinds))
    hours = np.tile(np.arange(24), 365)
    row = np.repeat(kind_of_day, 24) * HOURS + hours
    steps = Steps(
        length_h=np.ones(HOURS_A_YEAR),
        row=row,
        sun_w=passed_w,
        clipped_w=clipped_w,
        other_w=np.zeros(HOURS_A_YEAR),
        strongest_w=np.zeros(HOURS_A_YEAR),
        quiet=np.ones(HOURS_A_YEAR, dtype=bool),
        attended=np.ones(HOURS_A_YEAR, dtype=bool),
    )
    plant = plant_of(design, rating)._replace(start_wh=rating.capacity_wh, generator=NO_GENERATOR)
    draws = draws_of(house)
    run = outage_kernel.run(steps, draws, generator_draws_of(house), plant)
    on_bank = 3
    asked = (draws.load_w + draws.conversion_w + draws.wiring_w)[row, on_bank] / rating.discharge_efficiency_frac
    return run, asked


def _months(plane: Floats, passed_w: Floats, run: Run, asked_w: Floats) -> tuple[MonthSun, ...]:
    sun_hours, given = _daily_by_month(plane) / 1000, _daily_by_month(passed_w)
    spilled, drawn = _daily_by_month(run.spilled_w), _daily_by_month(asked_w)
    dark = _daily_by_month(run.dark_by_step_h)
    return tuple(
        MonthSun(
            month=month + 1,
            sun_hours=float(sun_hours[month]),
            given_wh=float(given[month]),
            drawn_wh=float(drawn[month]),
            spilled_wh=float(spilled[month]),
            dark_h=float(dark[month]),
        )
        for month in range(12)
    )


def _sums(
    design: Design,
    rating: BankRating,
    loads: LoadSums,
    months: tuple[MonthSun, ...],
    plane: Floats,
    by_day_wh: Floats,
    dim: list[bool],
    stc_w: float,
) -> tuple[ArraySum, ...]:
    """Array watts by the quick sum, with two kinds of sun hours, and by the modelled year and its dark day."""
    typical = TYPICAL[design.bank.chemistry]
    charge, safety = typical.charge_efficiency_frac, design.charging.quick_safety_frac
    worst = min(months, key=lambda month: (month.given_wh, month.sun_hours))
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
        quick("quick_year", "Quick sum, sun hours of the year", float(plane.sum() / 365_000)),
        quick("quick_worst", "Quick sum, sun hours of the darkest month", worst.sun_hours),
        modelled("modelled_worst", "Modelled, darkest month", worst.given_wh),
        modelled(
            "dark_day", "Modelled, an overcast day of that month", float(by_day_wh[dim].mean()) if any(dim) else None
        ),
    )


def _difference(design: Design, sums: tuple[ArraySum, ...]) -> str:
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
