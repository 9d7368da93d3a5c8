"""A house off the grid through its whole weather year, day after day: the proof where normal life is the outage."""

from __future__ import annotations

from calendar import isleap, month_abbr, month_name
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import LONGEST_OUTAGE_H, Design, OutageDay, Sky
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.loads import HOURS
from hearthkeep.core.outage import FULL_ENOUGH_FRAC, PreparedOutage, Run, prepare
from hearthkeep.core.practice import volume
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials.year import begun
from hearthkeep.core.whatif import ENDLESS_L
from hearthkeep.core.words import counted

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

#: Dark spells shown, the longest first.
MOST_SPELLS = 10
#: Days over which most fuel is looked for: about what people put by for.
FUEL_DAYS = 30
_NOON, _WEEK_H = 12, 168.0
_BASIS = (
    "The outage model of the strip over every hour of the weather year, from 1 January with the charge of 31 December (of the plan, where the year ends dark); everybody at "
    "home, fuel always to be had, the generator as the hottest day leaves it"
)


@dataclass(frozen=True, kw_only=True, slots=True)
class DayLived:
    """One day of the year."""

    #: Charge as a part of full: lowest, highest, and at noon.
    lowest_frac: float
    highest_frac: float
    noon_frac: float
    #: Life or Keep asks and is not served, and Life alone [h].
    dark_h: float
    life_dark_h: float
    #: The generator runs [h].
    generator_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class MonthLived:
    """One month of the year."""

    month: int
    days: int
    #: Days on which Life or Keep goes unserved at some time, for how long in all, and Life alone [h].
    dark_days: int
    dark_h: float
    life_dark_h: float
    #: Days on which the bank is full by noon.
    full_by_noon_days: int
    lowest_frac: float
    #: Of the generator: for how long it runs [h], and what it burns [L].
    generator_h: float
    fuel_l: float
    #: Sun and other sources not used [Wh].
    spilled_wh: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DarkSpell:
    """Dark days in a row."""

    #: Midnight before the first of them, local standard time, and how many there are.
    start: datetime
    days: int
    dark_h: float
    #: Charge at that midnight, as a part of full.
    begins_frac: float
    #: The same as a planned spell: whole hours, at most the longest that can be planned.
    planned_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class WholeYear:
    """The year off the grid."""

    #: The first day, local standard time.
    start: datetime
    days: tuple[DayLived, ...]
    months: tuple[MonthLived, ...]
    dark_days: int
    dark_h: float
    life_dark_h: float
    full_by_noon_days: int
    generator_h: float
    fuel_l: float
    #: Most burnt in so many days in a row [L], and how many days that is.
    most_fuel_l: float
    fuel_days: int
    has_generator: bool
    lowest_frac: float
    spells: tuple[DarkSpell, ...]
    #: From when on the house is dark to the end of the year, a week at least; the year then begins with the charge of the plan.
    #: None where it comes back, local standard time.
    stays_dark_from: datetime | None
    #: Charge on the date and hour at which the planned spell begins, as a part of full; and where the plan begins.
    at_plan_frac: float
    planned_frac: float
    verdict: str
    #: How the figures come about, by key: dark_days, dark, noon, generator, fuel, most_fuel, lowest.
    figures: dict[str, Figure]


def whole_year(design: Design, given: WeatherYear | None = None) -> WholeYear:
    """Live the calendar year of the planned spell through; `given` is the site's weather year, else the made-up one."""
    first = datetime(design.outage.start.year, 1, 1)
    count = 365 + isleap(first.year)
    usual = design.outage.model_copy(update={"days": (OutageDay(sky=Sky.CLEAR, air_temp_c=0.0),)})
    design = design.model_copy(update={"outage": usual})
    prepared = prepare(begun(design, first, float(count * HOURS)), given)
    run = _settled(prepared)
    days = _days(prepared, run, count)
    months = _months(prepared, run, days, first)
    fuel_l = _by_day(prepared, run.fuel_by_step_l, count)
    at_plan_h = (design.outage.start - first).total_seconds() / 3600
    dark_from_h = _dark_to_the_end_h(prepared, run)
    stays_dark_from = None if dark_from_h is None else first + timedelta(hours=dark_from_h)
    around_l = np.concatenate((fuel_l, fuel_l[: FUEL_DAYS - 1]))
    most_fuel_l = float(np.convolve(around_l, np.ones(FUEL_DAYS), "valid").max())
    return WholeYear(
        start=first,
        days=days,
        months=months,
        dark_days=sum(month.dark_days for month in months),
        dark_h=sum(month.dark_h for month in months),
        life_dark_h=sum(month.life_dark_h for month in months),
        full_by_noon_days=sum(month.full_by_noon_days for month in months),
        generator_h=sum(month.generator_h for month in months),
        fuel_l=sum(month.fuel_l for month in months),
        most_fuel_l=most_fuel_l,
        fuel_days=FUEL_DAYS,
        has_generator=prepared.generator is not None,
        lowest_frac=min(day.lowest_frac for day in days),
        spells=_spells(prepared, run, days, first),
        stays_dark_from=stays_dark_from,
        at_plan_frac=float(np.interp(at_plan_h, prepared.scene.clock.edges_h, run.stored_wh))
        / prepared.rating.capacity_wh,
        planned_frac=prepared.fill.reached_frac,
        verdict=_verdict(months, stays_dark_from),
        figures=_figures(design, months, most_fuel_l),
    )


def _settled(prepared: PreparedOutage) -> Run:
    """The year as it comes round, fuel without end: begun with the charge with which it ends, or as planned where it ends dark."""
    generator = prepared.plant.generator
    plant = (
        prepared.plant._replace(generator=generator._replace(stock_l=ENDLESS_L))
        if generator.rated_w > 0
        else prepared.plant
    )
    once = prepared.with_plant(plant).run()
    if _dark_to_the_end_h(prepared, once) is not None:
        return once
    return prepared.with_plant(plant._replace(start_wh=float(once.stored_wh[-1]))).run()


def _dark_to_the_end_h(prepared: PreparedOutage, run: Run) -> float | None:
    """From when on the house is dark to the end, where that is a week at least [h]."""
    edges_h = prepared.scene.clock.edges_h
    lit = np.flatnonzero(run.dark_by_step_h < prepared.scene.clock.length_h * (1 - 1e-9))
    since_h = float(edges_h[lit[-1] + 1]) if lit.size else 0.0
    return since_h if edges_h[-1] - since_h >= _WEEK_H else None


def _by_day(prepared: PreparedOutage, values: Floats, days: int) -> Floats:
    """Sums a day, (days,)."""
    summed = np.bincount(prepared.scene.clock.day, weights=values, minlength=days)[:days]
    return np.asarray(summed, dtype=np.float64)


def _days(prepared: PreparedOutage, run: Run, count: int) -> tuple[DayLived, ...]:
    edges_h, capacity_wh = prepared.scene.clock.edges_h, prepared.rating.capacity_wh
    at = np.searchsorted(edges_h, np.arange(count + 1) * float(HOURS) - 1e-6)
    noon = run.stored_wh[np.searchsorted(edges_h, np.arange(count) * float(HOURS) + _NOON - 1e-6)] / capacity_wh
    dark_h, life_h = (_by_day(prepared, values, count) for values in (run.dark_by_step_h, run.life_dark_by_step_h))
    ran_h = _by_day(prepared, run.generator_by_step_h, count)
    return tuple(
        DayLived(
            lowest_frac=float(run.stored_wh[since : until + 1].min()) / capacity_wh,
            highest_frac=float(run.stored_wh[since : until + 1].max()) / capacity_wh,
            noon_frac=float(noon[day]),
            dark_h=float(dark_h[day]),
            life_dark_h=float(life_h[day]),
            generator_h=float(ran_h[day]),
        )
        for day, (since, until) in enumerate(pairwise(at.tolist()))
    )


def _months(prepared: PreparedOutage, run: Run, days: tuple[DayLived, ...], first: datetime) -> tuple[MonthLived, ...]:
    month = np.array([(first + timedelta(days=day)).month for day in range(len(days))])
    spilled_wh, fuel_l = (
        _by_day(prepared, values, len(days))
        for values in (run.spilled_w * prepared.scene.clock.length_h, run.fuel_by_step_l)
    )
    found = []
    for number in range(1, 13):
        here = np.flatnonzero(month == number).tolist()
        there = [days[day] for day in here]
        found.append(
            MonthLived(
                month=number,
                days=len(here),
                dark_days=sum(day.dark_h > 0 for day in there),
                dark_h=sum(day.dark_h for day in there),
                life_dark_h=sum(day.life_dark_h for day in there),
                full_by_noon_days=sum(day.noon_frac >= FULL_ENOUGH_FRAC for day in there),
                lowest_frac=min(day.lowest_frac for day in there),
                generator_h=sum(day.generator_h for day in there),
                fuel_l=float(fuel_l[here].sum()),
                spilled_wh=float(spilled_wh[here].sum()),
            )
        )
    return tuple(found)


def _spells(prepared: PreparedOutage, run: Run, days: tuple[DayLived, ...], first: datetime) -> tuple[DarkSpell, ...]:
    edges_h, capacity_wh = prepared.scene.clock.edges_h, prepared.rating.capacity_wh
    dark = np.array([day.dark_h > 0 for day in days])
    edges = np.flatnonzero(np.diff(np.concatenate(([0], dark.astype(np.int8), [0])))).reshape(-1, 2)
    spells = [
        DarkSpell(
            start=first + timedelta(days=int(since)),
            days=int(until - since),
            dark_h=sum(day.dark_h for day in days[since:until]),
            begins_frac=float(run.stored_wh[np.searchsorted(edges_h, since * float(HOURS) - 1e-6)]) / capacity_wh,
            planned_h=float(min((until - since) * HOURS, LONGEST_OUTAGE_H)),
        )
        for since, until in edges.tolist()
    ]
    return tuple(sorted(spells, key=lambda spell: (-spell.dark_h, spell.start))[:MOST_SPELLS])


def _verdict(months: tuple[MonthLived, ...], stays_dark_from: datetime | None) -> str:
    """The dark days of the year and where they lie, and what the generator had to do."""
    dark = sum(month.dark_days for month in months)
    ran_h = sum(month.generator_h for month in months)
    with_it = f", the generator running {ran_h:,.0f} h" if ran_h > 0 else ""
    if dark == 0:
        return f"Life and Keep are carried through every day of the year{with_it}."
    if stays_dark_from is not None:
        return (
            f"From {stays_dark_from.day} {month_name[stays_dark_from.month]} on Life or Keep stays dark to the end of the year: nothing "
            "fills the bank again."
        )
    worst = max(months, key=lambda month: (month.dark_days, month.dark_h))
    bright = sum(month.dark_days == 0 for month in months)
    return (
        f"Life or Keep goes dark on {counted(dark, 'day')} of the year{with_it}. {month_name[worst.month]} is hardest with "
        f"{counted(worst.dark_days, 'day')}; "
        + (
            f"{counted(bright, 'month')} {'is' if bright == 1 else 'are'} carried throughout."
            if bright
            else "no month is carried throughout."
        )
    )


def _figures(design: Design, months: tuple[MonthLived, ...], most_fuel_l: float) -> dict[str, Figure]:
    def of(label: str, unit: str, formula: str, values: list[float], value: float | None = None) -> Figure:
        return Figure(
            label=label,
            value=sum(values) if value is None else value,
            unit=unit,
            formula=formula,
            terms=tuple(
                Term(name=month_abbr[month.month], value=value, unit=unit)
                for month, value in zip(months, values, strict=True)
            ),
            basis=_BASIS,
        )

    def fuel(volume_l: float) -> float:
        return volume(design, volume_l)[0]

    unit = volume(design, 1.0)[1]
    burnt = [fuel(month.fuel_l) for month in months]
    lowest = [100 * month.lowest_frac for month in months]
    return {
        "dark_days": of(
            "Dark days", "days", "days on which Life or Keep asks and is not served at some time",
            [float(month.dark_days) for month in months],
        ),
        "dark": of(
            "Dark", "h", "hours in which Life or Keep asks and is not served, by month",
            [month.dark_h for month in months],
        ),
        "noon": of(
            "Full by noon", "days", f"days on which the bank stands at {100 * FULL_ENOUGH_FRAC:g} % or above at 12:00",
            [float(month.full_by_noon_days) for month in months],
        ),
        "generator": of(
            "The generator runs", "h", "hours by month, started and stopped by its levels outside quiet hours",
            [month.generator_h for month in months],
        ),
        "fuel": of(
            "Fuel", unit, "fuel an hour at no load × hours run + fuel a kWh × energy given", burnt,
        ),
        "most_fuel": of(
            f"Most fuel in {FUEL_DAYS} days", unit,
            f"the {FUEL_DAYS} days in a row that burn most, the year taken round; beside it the months",
            burnt, fuel(most_fuel_l),
        ),
        "lowest": of(
            "Lowest charge", "%", "the lowest charge of the year as a part of full; beside it the months",
            lowest, min(lowest),
        ),
    }  # fmt: skip
