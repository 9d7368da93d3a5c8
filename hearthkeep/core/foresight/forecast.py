"""The weather that may come: the forecast as it was entered, and how far days ahead have been otherwise than they were foretold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import OutageDay, Sky, SkySource
from hearthkeep.core.foresight.course import Course
from hearthkeep.core.outage import Steps, along_clock, charging_sun, coupled_sun, planes
from hearthkeep.core.sources import SKY_FACTOR

Floats = NDArray[np.float64]

#: Weathers that are drawn, and the seed of it: the same moment has always the same band.
MEMBERS, SEED = 32, 18
#: By how many times a day's sun may be more or less, one standard deviation of its logarithm: of today, and more with each day
#: ahead up to the most. Our assumption, no source.
SPREAD_TODAY, SPREAD_A_DAY, SPREAD_MOST = 0.30, 0.12, 0.75
#: How much of one day's error stays on the next. Our assumption.
STAYS = 0.6
#: More than a clear sky's sun no day has, less than this part of it only under snow.
LEAST_PART, MOST_PART = 0.06, 1.05
#: In frost a dull day may bring snow on the panels, and a day foretold with snow may be without; the chance on a day ahead. Our
#: assumption.
SNOW_COMES, SNOW_GOES = 0.15, 0.15
FROST_C = 1.0
#: How far a load's use may yet be from what was read of it in the last hours, and from the plan's where nothing is read of it, one
#: standard deviation. Our assumption; a house whose days differ by more is given more.
USE_SPREAD, USE_SPREAD_UNREAD, USE_SPREAD_MOST = 0.10, 0.20, 0.45
#: Three uses that stand for all: nodes of Gauss and Hermite, in standard deviations, and how much each counts. Textbook.
USE_NODES, USE_WEIGHTS = (0.0, -(3.0**0.5), 3.0**0.5), (2 / 3, 1 / 6, 1 / 6)


@dataclass(frozen=True, kw_only=True, slots=True)
class Weather:
    """The sky of each calendar day of an outage."""

    #: Part of a clear sky's sun that each lets through, and whether snow lies on panels that hold it, (days,).
    part: Floats
    covered: NDArray[np.bool_]


@dataclass(frozen=True, kw_only=True, slots=True)
class Doings:
    """What people do on each calendar day of an outage, (days,)."""

    #: Snow is cleared from the arrays that the design has cleared, at their hour.
    swept: NDArray[np.bool_]
    #: Fuel is fetched, where the design says that it can be had.
    fetched: NDArray[np.bool_]

    def sweeping(self, day: int) -> Doings:
        """The same, and snow cleared on one more day."""
        return replace(self, swept=_with(self.swept, day))

    def fetching(self, day: int) -> Doings:
        """The same, and fuel fetched on one more day."""
        return replace(self, fetched=_with(self.fetched, day))


def _with(days: NDArray[np.bool_], day: int) -> NDArray[np.bool_]:
    changed = days.copy()
    changed[day] = True
    return changed


def doing(count: int, done: bool) -> Doings:
    """Everything done on every day, or nothing on any."""
    return Doings(swept=np.full(count, done), fetched=np.full(count, done))


def foretold(days: tuple[OutageDay, ...], count: int) -> Weather:
    """The forecast as it was entered, the last of its days going on."""
    skies = [days[min(day, len(days) - 1)].sky for day in range(count)]
    return Weather(
        part=np.array([SKY_FACTOR[Sky.OVERCAST if sky is Sky.COVERED else sky] for sky in skies]),
        covered=np.array([sky is Sky.COVERED for sky in skies]),
    )


def drawn(days: tuple[OutageDay, ...], count: int, today: int, members: int, seed: int = SEED) -> tuple[Weather, ...]:
    """
    Weathers that may come, the days before today as they were.

    :param today: number of today's calendar day, 0 for that of the start.
    """
    base = foretold(days, count)
    air_c = np.array([days[min(day, len(days) - 1)].air_temp_c for day in range(count)])
    ahead = np.arange(count) - today
    spread = np.where(ahead < 0, 0.0, np.minimum(SPREAD_TODAY + SPREAD_A_DAY * ahead, SPREAD_MOST))
    # Half of the members mirror the other half, so that few of them have the right middle.
    half = np.random.default_rng(seed).standard_normal((members // 2, count))
    shocks = np.concatenate([half, -half])
    chances = np.random.default_rng(seed + 1).random((members // 2 * 2, count))
    error = np.zeros(shocks.shape)
    for day in range(max(today, 0), count):
        before = error[:, day - 1] if day > today and day > 0 else 0.0
        error[:, day] = STAYS * before + (1 - STAYS**2) ** 0.5 * shocks[:, day]
    found = []
    for number in range(shocks.shape[0]):
        part = np.where(
            ahead < 0, base.part, np.clip(base.part * np.exp(spread * error[number]), LEAST_PART, MOST_PART)
        )
        turns = chances[number]
        comes = ~base.covered & (air_c < FROST_C) & (base.part <= SKY_FACTOR[Sky.OVERCAST]) & (turns < SNOW_COMES)
        stays = base.covered & (turns >= SNOW_GOES)
        covered = np.where(ahead < 0, base.covered, np.where(ahead == 0, base.covered, comes | stays))
        found.append(Weather(part=part, covered=covered))
    return tuple(found)


@dataclass(frozen=True, kw_only=True, slots=True)
class Skies:
    """The sun of a course under a clear sky and under snow, from which that of any weather is mixed."""

    course: Course
    clear_w_m2: dict[str, Floats]
    #: Where nobody clears the snow, and where somebody does.
    under_snow_w_m2: dict[str, Floats]
    swept_w_m2: dict[str, Floats]


def skies_of(course: Course) -> Skies:
    """What the arrays of a course would have on days all clear and on days all covered."""
    design, clock = course.design, course.prepared.scene.clock

    def along(sky: Sky, *, left: bool = False) -> dict[str, Floats]:
        days = tuple(day.model_copy(update={"sky": sky}) for day in design.outage.days)
        outage = design.outage.model_copy(update={"days": days, "sky_from": SkySource.BY_HAND})
        changed = design.model_copy(update={"outage": outage})
        moments = along_clock(changed, clock, first_day=0, year=None)
        # With nobody there nobody sweeps.
        return planes(changed, replace(moments, attended=np.zeros_like(moments.attended)) if left else moments)

    return Skies(
        course=course,
        clear_w_m2=along(Sky.CLEAR),
        under_snow_w_m2=along(Sky.COVERED, left=True),
        swept_w_m2=along(Sky.COVERED),
    )


def steps_under(skies: Skies, weathers: Sequence[Weather], doings: Doings) -> list[Steps]:
    """The steps of a course under each of some weathers; what is neither sun nor fuel stays as it is."""
    course, scene = skies.course, skies.course.prepared.scene
    day, count, many = scene.clock.day, scene.clock.day.shape[0], len(weathers)
    part = np.concatenate([weather.part[day] for weather in weathers])
    covered = np.concatenate([weather.covered[day] for weather in weathers])
    cleared = np.tile(doings.swept[day], many)
    poa = {}
    for key, clear in skies.clear_w_m2.items():
        snowy = np.where(cleared, np.tile(skies.swept_w_m2[key], many), np.tile(skies.under_snow_w_m2[key], many))
        poa[key] = np.where(covered, snowy, np.tile(clear, many) * part)
    air_c = np.tile(scene.air_c, many)
    sun = charging_sun(course.design, poa, air_c, volts=course.prepared.rating.volts)
    tied = coupled_sun(course.design, poa, air_c)
    refuels = course.steps.refuels & doings.fetched[day]
    found = []
    for number in range(many):
        here = slice(number * count, (number + 1) * count)
        # With the grid back a coupled array works into that.
        coupled_w = np.where(scene.on_grid, 0.0, tied.passed_w[here])
        clipped_w = sun.clipped_w[here] + np.where(scene.on_grid, 0.0, tied.clipped_w[here])
        found.append(
            course.steps._replace(sun_w=sun.passed_w[here], clipped_w=clipped_w, coupled_w=coupled_w, refuels=refuels)
        )
    return found
