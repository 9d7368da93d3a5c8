"""A design's weather year on the clock, ready for an outage from any full hour: its sources, its skies, its kinds of day."""

from __future__ import annotations

from calendar import isleap
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import pairwise
from math import ceil

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design, OutageDay, Sky, SkySource
from hearthkeep.core.loads import HOURS
from hearthkeep.core.outage import (
    Clock,
    Given,
    PreparedOutage,
    Timeline,
    clock_of,
    fetching_steps,
    given_along,
    hourly_mean_w,
    prepare,
    quiet_steps,
    steady_along,
)
from hearthkeep.core.sources import WeatherYear, day_of_year, skies_of_year, year_for

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class TrialYear:
    """The calendar year in which a design's outage begins, and as many days after it as the longest outage takes."""

    #: As it was entered, and the same outage from the first hour of the year under the year's skies, prepared.
    entered: Design
    base: PreparedOutage
    weather: WeatherYear
    longest_h: float
    #: Every step from the first hour of 1 January.
    clock: Clock
    #: What the sources give on days at home, on days away, and at home without a car; one thing where it makes no difference.
    home: Given
    away: Given
    on_foot: Given
    #: Of each calendar day of the clock: month, whether its sky is dark, and the warmest hour of the year on that date [°C].
    month: Ints
    dark: NDArray[np.bool_]
    warmest_c: Floats
    #: Where loads wait for the sun: its mean in each hour of each calendar day, at home and away [W], (2, days, 24).
    sun_by_hour_w: Floats | None

    @property
    def first_day(self) -> datetime:
        """The first hour of 1 January, local standard time."""
        return self.base.design.outage.start

    @property
    def steps_a_day(self) -> int:
        """Steps of a calendar day."""
        return HOURS * 60 // self.base.design.simulation.time_step_min

    def timeline(self) -> Timeline:
        """The year as the compiled model takes it."""
        ways = (self.home, self.away, self.on_foot)
        return Timeline(
            steps_a_day=self.steps_a_day,
            hour=self.clock.hour,
            quiet=quiet_steps(self.base.design, self.clock),
            fetches=fetching_steps(self.clock),
            sun_w=np.stack([given.sun.passed_w for given in ways]),
            other_w=np.stack([given.steady.total_w for given in ways]),
            strongest_w=np.stack([given.steady.strongest_w for given in ways]),
            coupled_w=np.stack([given.coupled.passed_w for given in ways]),
        )


def trial_year(design: Design, longest_h: float, year: WeatherYear | None = None) -> TrialYear:
    """
    A design's year for outages up to so long [h]; `year` is its site's weather year, without it the made-up one is taken.

    Outages begin in the calendar year of the planned one and under its weather, whatever skies are set by hand.
    """
    weather = year_for(design.site, year)
    first = datetime(design.outage.start.year, 1, 1)
    base = prepare(begun(design, first, longest_h), year)
    whole_days = 365 + isleap(first.year) + ceil(longest_h / HOURS) + 1
    clock = clock_of(_whole(base.design, whole_days, away=False))
    given = {
        away: given_along(_whole(base.design, whole_days, away=away), clock, base.rating, year)
        for away in {day.away for day in design.outage.days}
    }
    home = given[min(given)]
    dates = [first + timedelta(days=day) for day in range(whole_days)]
    of_year = np.array([day_of_year(date.month, date.day) for date in dates])
    return TrialYear(
        entered=design,
        base=base,
        weather=weather,
        longest_h=longest_h,
        clock=clock,
        home=home,
        away=given[max(given)],
        on_foot=_on_foot(_whole(base.design, whole_days, away=False, car=False), clock, base.rating, home, year),
        month=np.array([date.month for date in dates]),
        dark=np.array([sky.is_dark for sky in skies_of_year(weather)])[of_year],
        sun_by_hour_w=np.stack([_by_hour_w(clock, given[away], whole_days) for away in (min(given), max(given))])
        if any(load.flexible_h is not None for load in base.design.loads)
        else None,
        warmest_c=weather.air_c.reshape(-1, HOURS).max(axis=1)[of_year],
    )


def _on_foot(design: Design, clock: Clock, rating: BankRating, home: Given, year: WeatherYear | None) -> Given:
    """The same days at home without a car."""
    if design.charging.alternator is None:
        return home
    return replace(home, steady=steady_along(design, clock, rating, home.along.attended, year))


def _by_hour_w(clock: Clock, given: Given, days: int) -> Floats:
    """Mean sun offered in each hour of each calendar day, as loads that wait for it see it [W], (days, 24)."""
    steps = [slice(*ends) for ends in pairwise(np.linspace(0, clock.hour.shape[0], days + 1).astype(int).tolist())]
    return np.array([hourly_mean_w(clock.hour[day], clock.length_h[day], given.sun.offered_w[day]) for day in steps])


def planned_length_h(design: Design) -> float:
    """Length of the planned outage in whole hours, rounded up [h]."""
    return float(max(1, ceil(design.outage.duration_h - 1e-9)))


def begun(design: Design, start: datetime, duration_h: float) -> Design:
    """The design with its outage begun at another moment under the weather year; who is at home on which day stays."""
    outage = design.outage.model_copy(
        update={"start": start, "duration_h": duration_h, "sky_from": SkySource.YEAR},
    )
    return design.model_copy(update={"outage": outage})


def _whole(design: Design, days: int, *, away: bool, car: bool = True) -> Design:
    """The design with an outage of so many days; of each day only counts who and what is there, the rest is the year's."""
    outage = design.outage.model_copy(
        update={
            "duration_h": float(days * HOURS),
            "days": (OutageDay(sky=Sky.CLEAR, air_temp_c=0.0, away=away, car=car),),
        }
    )
    return design.model_copy(update={"outage": outage})
