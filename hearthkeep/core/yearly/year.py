"""A weather year on the design's arrays: sun hours by month, the house living on the sun alone, and the quick sum beside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating, rate
from hearthkeep.core.design import ControllerKind, Design, Sky
from hearthkeep.core.figure import Figure
from hearthkeep.core.inverter import Cables, draws_of, house_watts
from hearthkeep.core.inverter.draws import DIRECT, ON, cell_of
from hearthkeep.core.loads import HOURS, DayKind, rows_from
from hearthkeep.core.outage import Run, Steps, completed, limits_for, plant_of
from hearthkeep.core.outage import run as run_outage
from hearthkeep.core.sources import (
    DAYS_IN_MONTH,
    HOURS_A_YEAR,
    Along,
    WeatherYear,
    array_poa,
    controller_power,
    distance_km,
    latitude_plane,
    skies_of_year,
    year_for,
    year_plane_of_array,
)
from hearthkeep.core.wiring import cables_of
from hearthkeep.core.yearly.array_sizes import ArraySum, DailySun, array_sums, daily_need, difference_told
from hearthkeep.core.yearly.months import MonthSun, darkest, year_figures

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
    #: How the year's own figures come about, by key: worst_month, given, spilled, dark.
    figures: dict[str, Figure]


@dataclass(frozen=True, kw_only=True, eq=False)
class YearHours:
    """The house on the sun alone, hour by hour; every array (8760,)."""

    air_c: Floats
    #: Sun on the level [W/m2], at the panels that charge the bank, and through their controllers [W].
    level_w_m2: Floats
    offered_w: Floats
    given_w: Floats
    #: Energy in the bank when the hour begins [Wh]; loads served and sun spilled in it [W]; Life or Keep dark for so long [h].
    stored_wh: Floats
    served_w: Floats
    spilled_w: Floats
    dark_h: Floats


@dataclass(frozen=True, kw_only=True, eq=False)
class _OnArrays:
    """A year lived on a design's arrays."""

    design: Design
    rating: BankRating
    cables: Cables
    year: WeatherYear
    skies: tuple[Sky, ...]
    arrays: tuple[ArrayYear, ...]
    #: Panels that charge the bank [W], and the sun on their plane, weighed by their size; on a usual plane where there are none [W/m2].
    stc_w: float
    plane_w_m2: Floats
    #: At the panels, and through the controllers [W].
    offered_w: Floats
    passed_w: Floats
    run: Run
    #: What is asked of the bank by hour [W].
    asked_w: Floats


def year_hours(design: Design, given: WeatherYear | None = None) -> YearHours:
    """The hours behind `sun_year`."""
    lived = _lived(design, given)
    return YearHours(
        air_c=lived.year.air_c,
        level_w_m2=lived.year.ghi_w_m2,
        offered_w=lived.offered_w,
        given_w=lived.passed_w,
        stored_wh=lived.run.stored_wh[:-1],
        served_w=lived.run.served_w.sum(axis=1),
        spilled_w=lived.run.spilled_w,
        dark_h=lived.run.dark_by_step_h,
    )


def _lived(design: Design, given: WeatherYear | None) -> _OnArrays:
    rating = rate(design.bank)
    cables, design = cables_of(design, rating), completed(design, given)
    year = year_for(design.site, given)
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
            if controller.kind is not ControllerKind.PANEL_FED:
                weighted, stc_w = weighted + array.stc_w * plane, stc_w + array.stc_w
        if controller.kind is not ControllerKind.PANEL_FED:
            power = controller_power(controller, poa_by_array=poa, air_c=along.air_c, volts=rating.volts)
            offered, passed = offered + power.offered_w, passed + power.passed_w
    if stc_w > 0:
        plane = weighted / stc_w
    else:
        plane = year_plane_of_array(year, year.moments, *latitude_plane(design.site.latitude_deg))
    run, asked = _on_sun_alone(design, rating, cables, skies, passed, offered - passed)
    return _OnArrays(
        design=design,
        rating=rating,
        cables=cables,
        year=year,
        skies=skies,
        arrays=tuple(arrays),
        stc_w=stc_w,
        plane_w_m2=plane,
        offered_w=offered,
        passed_w=passed,
        run=run,
        asked_w=asked,
    )


def sun_year(design: Design, given: WeatherYear | None = None) -> SunYear:
    """Work out a year of 8,760 hours; `given` is the site's weather year, without it the made-up one is taken."""
    lived = _lived(design, given)
    design, rating, year, skies, stc_w = lived.design, lived.rating, lived.year, lived.skies, lived.stc_w
    offered, passed, run = lived.offered_w, lived.passed_w, lived.run
    months = _months(lived.plane_w_m2, passed, run, lived.asked_w)
    worst = darkest(months)
    by_day = passed.reshape(-1, 24).sum(axis=1)
    dim = [sky is Sky.OVERCAST and _MONTH_OF_DAY[day] == worst.month - 1 for day, sky in enumerate(skies)]
    dark_day_wh = float(by_day[dim].mean()) if any(dim) else None
    need = daily_need(design, rating, lived.cables)
    sun = DailySun(
        year_sun_hours=float(lived.plane_w_m2.sum() / 365_000),
        worst_sun_hours=worst.sun_hours,
        worst_given_wh=worst.given_wh,
        dark_day_wh=dark_day_wh,
        stc_w=stc_w,
    )
    spilled_frac = float(run.spilled_w.sum()) / float(offered.sum()) if offered.sum() > 0 else 0.0
    return SunYear(
        year_key=year.key,
        year_name=year.name,
        distance_km=distance_km(design.site, year),
        arrays=lived.arrays,
        months=months,
        worst_month=worst.month,
        stc_w=stc_w,
        given_kwh=float(passed.sum() / 1000),
        clipped_kwh=float((offered - passed).sum() / 1000),
        spilled_frac=spilled_frac,
        dark_h=sum(month.dark_h * days for month, days in zip(months, DAYS_IN_MONTH, strict=True)),
        clear_days=sum(sky is Sky.CLEAR for sky in skies),
        overcast_days=sum(sky is Sky.OVERCAST for sky in skies),
        covered_days=sum(sky is Sky.COVERED for sky in skies),
        overcast_day_wh=dark_day_wh,
        worst_day_wh=float(by_day.min()),
        sums=array_sums(need, sun),
        difference=difference_told(need, sun),
        figures=year_figures(months, stc_w=stc_w, capacity_wh=rating.capacity_wh, spilled_frac=spilled_frac),
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


def _on_sun_alone(
    design: Design, rating: BankRating, cables: Cables, skies: tuple[Sky, ...], passed_w: Floats, clipped_w: Floats
) -> tuple[Run, Floats]:
    """The house on the sun alone from a full bank: no grid, no other source; and the loads it asks for by hour [W]."""
    kinds = tuple(DayKind(month=month + 1, is_dark=dark) for month in range(12) for dark in (False, True))
    kind_of_day = _MONTH_OF_DAY * 2 + np.array([sky.is_dark for sky in skies])
    house = house_watts(rows_from(design.loads, kinds), design.inverter, limits_for(design, rating, None, cables))
    hours = np.tile(np.arange(24), 365)
    row = np.repeat(kind_of_day, 24) * HOURS + hours
    steps = Steps(
        length_h=np.ones(HOURS_A_YEAR),
        row=row,
        sun_w=passed_w,
        clipped_w=clipped_w,
        other_w=np.zeros(HOURS_A_YEAR),
        strongest_w=np.zeros(HOURS_A_YEAR),
        coupled_w=np.zeros(HOURS_A_YEAR),
        quiet=np.ones(HOURS_A_YEAR, dtype=bool),
        attended=np.ones(HOURS_A_YEAR, dtype=bool),
        refuels=np.zeros(HOURS_A_YEAR, dtype=bool),
    )
    draws = draws_of(house)
    run = run_outage(steps, draws, plant_of(design, rating, None, start_frac=1.0, flat_frac=cables.flat_frac))
    on_bank = 3
    asked = draws.table[cell_of(ON, row, on_bank, house.watts.shape[0]), DIRECT] / rating.discharge_efficiency_frac
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
