"""The outage prepared: its clock, its sun and other sources, its kinds of day. Everything but the house."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import ControllerKind, Design, Sky, SkySource, hours_in
from hearthkeep.core.loads import HOURS, Audit, DayKind, audit_of
from hearthkeep.core.outage.clock import Clock, cut
from hearthkeep.core.outage.kernel import Run, Steps
from hearthkeep.core.sources import (
    Along,
    SourceSteps,
    SteadyPower,
    SunPower,
    WeatherYear,
    array_poa,
    controller_power,
    day_of_year,
    grid_tied_power,
    hand_parts,
    hours_of_year,
    panel_fed_w,
    skies_of_year,
    steady_power,
    sun_is_up,
    year_for,
)
from hearthkeep.core.transfer import is_coupled, start_together

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

#: How long after the grid's return the refill is followed [h].
RECOVERY_H = 72.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Scene:
    """The outage prepared: everything but the house, so that many houses can be tried in it."""

    clock: Clock
    sun: SunPower
    #: Of the grid-tied array at its own terminals, where it is AC-coupled.
    coupled: SunPower
    #: Alternator, wind and the like.
    steady: SteadyPower
    #: Steps in which the grid is back, (n,), and what its charger then gives at the direct-current bus [W].
    on_grid: Bools
    grid_w: float
    #: By array: sun it could use [W/m2], (n,); and the air [°C], (n,).
    poa_w_m2: dict[str, Floats]
    air_c: Floats
    #: Power of the arrays that feed loads straight [W], (n,).
    panel_fed_w: Floats
    #: Whether the sun is up at the middle of each step.
    daylight: Bools
    #: The sky of each calendar day, as set by hand or as the weather year has it.
    skies: tuple[Sky, ...]
    #: The kinds of day that the outage holds, each step's kind, and its hour counted through them.
    kinds: tuple[DayKind, ...]
    kind_of_step: NDArray[np.int64]
    row: NDArray[np.int64]
    #: Whether the generator has to stay off, and whether somebody is at home, by step.
    quiet: Bools
    attended: Bools
    #: Steps with which the generator's stock is full again.
    refuels: Bools
    #: Coldest hour of the site's stored weather year; none without one [°C].
    year_low_c: float | None
    #: Sun and grid charger after the grid's return [W], with its own clock.
    recovery_clock: Clock
    recovery_sun: SunPower

    @property
    def steps(self) -> Steps:
        """The steps as the compiled model takes them."""
        steps = Steps(
            length_h=self.clock.length_h,
            row=self.row,
            sun_w=self.sun.passed_w,
            clipped_w=self.sun.clipped_w + self.coupled.clipped_w,
            other_w=self.steady.total_w,
            strongest_w=self.steady.strongest_w,
            coupled_w=self.coupled.passed_w,
            quiet=self.quiet,
            attended=self.attended,
            refuels=self.refuels,
        )
        if not self.on_grid.any():
            return steps
        grid_w = np.where(self.on_grid, self.grid_w, 0.0)
        return steps._replace(
            other_w=steps.other_w + grid_w,
            strongest_w=np.maximum(steps.strongest_w, grid_w),
            # While the grid is back the generator rests.
            quiet=steps.quiet | self.on_grid,
        )


@dataclass(frozen=True, kw_only=True, slots=True)
class Given:
    """What all sources but the generator give along a clock; fields as in Scene."""

    sun: SunPower
    coupled: SunPower
    steady: SteadyPower
    poa_w_m2: dict[str, Floats]
    along: Along


def given_along(design: Design, clock: Clock, rating: BankRating, year: WeatherYear | None = None) -> Given:
    """What the sources of a completed design give along a clock that begins as its outage does."""
    along = along_clock(design, clock, first_day=0, year=year)
    poa = planes(design, along)
    return Given(
        sun=charging_sun(design, poa, along.air_c, volts=rating.volts),
        coupled=coupled_sun(design, poa, along.air_c),
        steady=steady_along(design, clock, rating, along.attended, year),
        poa_w_m2=poa,
        along=along,
    )


def steady_along(
    design: Design, clock: Clock, rating: BankRating, attended: Bools, year: WeatherYear | None = None
) -> SteadyPower:
    """What alternator, wind and the like give along a clock that begins as the design's outage does."""
    return steady_power(
        design.charging,
        SourceSteps(
            hour=clock.hour,
            day=clock.day,
            day_wind_m_s=_winds(design, clock, year),
            attended=attended,
            car=by_day([day.car for day in design.outage.days], clock.day),
            charging_v=rating.charging_v,
        ),
    )


def by_day(values: Sequence[bool], day: NDArray[np.int64]) -> Bools:
    """What the outage's days say of each step or day, the last of them going on."""
    found: Bools = np.array(values, dtype=bool)[np.minimum(day, len(values) - 1)]
    return found


def scene_of(design: Design, rating: BankRating, year: WeatherYear | None = None) -> Scene:
    """Cut the outage into steps and work out its sun and its other sources."""
    outage, offset = design.outage, design.site.utc_offset_h
    clock = clock_of(design)
    after = cut(outage.end, duration_h=RECOVERY_H, step_min=60, utc_offset_h=offset)
    first_day_after = (outage.end.date() - outage.start.date()).days
    given = given_along(design, clock, rating, year)
    sun, poa, along = given.sun, given.poa_w_m2, given.along
    skies = skies_of(design, int(clock.day[-1]) + 1, year)
    on_grid = grid_steps(design, clock)
    kinds, kind_of_step = step_kinds(design, clock, sun, skies, on_grid)
    after_along = along_clock(design, after, first_day=first_day_after, year=year)
    return Scene(
        clock=clock,
        sun=sun,
        coupled=_without_grid(given.coupled, on_grid),
        steady=given.steady,
        on_grid=on_grid,
        grid_w=design.charging.grid_charger.output_w,
        poa_w_m2=poa,
        air_c=along.air_c,
        panel_fed_w=panel_fed_w(design.charging.controllers, poa, air_c=along.air_c),
        skies=skies,
        kinds=kinds,
        kind_of_step=kind_of_step,
        row=kind_of_step * HOURS + clock.hour,
        quiet=quiet_steps(design, clock) | (~along.attended & started_by_hand(design)),
        attended=along.attended,
        refuels=fetching_steps(clock) & along.attended & by_day([day.fuel for day in design.outage.days], clock.day),
        daylight=sun_is_up(design.site, clock.moments),
        year_low_c=None if year is None else float(year.air_c.min()),
        recovery_clock=after,
        recovery_sun=charging_sun(design, planes(design, after_along), after_along.air_c, volts=rating.volts),
    )


def clock_of(design: Design) -> Clock:
    """The design's outage cut into its steps."""
    return cut(
        design.outage.start,
        duration_h=design.outage.duration_h,
        step_min=design.simulation.time_step_min,
        utc_offset_h=design.site.utc_offset_h,
    )


def _by_year(design: Design) -> bool:
    return design.outage.sky_from is SkySource.YEAR


def along_clock(design: Design, clock: Clock, *, first_day: int, year: WeatherYear | None) -> Along:
    """Sky and air along a clock: set by hand day by day, or the weather year's on the same calendar days."""
    days = design.outage.days
    day = np.minimum(clock.day + first_day, len(days) - 1)
    attended = by_day([not entry.away for entry in days], day)
    if _by_year(design):
        chosen = year_for(design.site, year)
        hours = hours_of_year(chosen, clock.moments)
        covered = np.array([sky is Sky.COVERED for sky in skies_of_year(chosen)])[hours // HOURS]
        air_c, part = chosen.air_c[hours], np.ones(hours.shape[0])
    else:
        chosen = None
        parts, lies = hand_parts([entry.sky for entry in days])
        covered, part = lies[day], parts[day]
        air_c = np.array([entry.air_temp_c for entry in days])[day]
    return Along(
        site=design.site,
        moments=clock.moments,
        hour=clock.hour,
        air_c=air_c,
        covered=covered,
        attended=attended,
        part=part,
        year=chosen,
    )


def skies_of(design: Design, count: int, year: WeatherYear | None) -> tuple[Sky, ...]:
    """The sky of each calendar day of the outage."""
    outage = design.outage
    if not _by_year(design):
        return tuple(outage.days[min(day, len(outage.days) - 1)].sky for day in range(count))
    skies = skies_of_year(year_for(design.site, year))
    dates = [outage.start + timedelta(days=day) for day in range(count)]
    return tuple(skies[day_of_year(date.month, date.day)] for date in dates)


def _winds(design: Design, clock: Clock, year: WeatherYear | None) -> list[float | None]:
    """Mean wind of each calendar day, none where the turbine's own holds [m/s]: by hand, or the weather year's."""
    outage, count = design.outage, int(clock.day[-1]) + 1
    if not _by_year(design):
        return [outage.days[min(day, len(outage.days) - 1)].wind_m_s for day in range(count)]
    chosen = year_for(design.site, year)
    daily = chosen.wind_m_s.reshape(-1, HOURS).mean(axis=1)
    dates = [outage.start + timedelta(days=day) for day in range(count)]
    return [float(round(daily[day_of_year(date.month, date.day)], 2)) for date in dates]


def quiet_steps(design: Design, clock: Clock) -> Bools:
    """Steps in the generator's quiet hours."""
    generator = design.charging.generator
    hours = np.array(hours_in(() if generator is None else generator.quiet_hours), dtype=bool)
    quiet: NDArray[np.bool_] = hours[clock.hour]
    return quiet


#: Hour of the day from which fuel that can be had is there. Our assumption.
FETCHED_BY_HOUR = 12


def fetching_steps(clock: Clock) -> Bools:
    """The first step of each day's hour from which fuel is there, (n,)."""
    there = clock.hour == FETCHED_BY_HOUR
    first: Bools = there & ~np.concatenate(([False], there[:-1]))
    return first


def started_by_hand(design: Design) -> bool:
    """Whether the generator stays off with nobody at home."""
    return design.charging.generator is not None and design.charging.generator.by_hand


def grid_steps(design: Design, clock: Clock) -> Bools:
    """Steps in which the grid is back: those whose middle lies in one of the spans, (n,)."""
    middle_h = (clock.edges_h[:-1] + clock.edges_h[1:]) / 2
    # Sorted and merged, so that of all edges passed an odd number lies inside a span.
    edges_h = np.array(design.outage.grid_back, dtype=float).reshape(-1)
    back: Bools = np.searchsorted(edges_h, middle_h, side="right") % 2 == 1
    return back


def _without_grid(coupled: SunPower, on_grid: Bools) -> SunPower:
    """A coupled array while the inverter leads it; with the grid back it works into that."""
    if not on_grid.any():
        return coupled
    return SunPower(
        offered_w=np.where(on_grid, 0.0, coupled.offered_w), passed_w=np.where(on_grid, 0.0, coupled.passed_w)
    )


def grid_held_w(scene: Scene, run: Run) -> Floats:
    """What the grid's charger holds back because nothing takes it [W], (n,): sun and other sources come first.

    The model counts it as not used; of a charger's watts that were never drawn nobody would say that they were spilled.
    """
    unused_w = run.spilled_w - scene.sun.clipped_w - scene.coupled.clipped_w
    held: Floats = np.where(scene.on_grid, np.clip(unused_w, 0.0, scene.grid_w), 0.0)
    return held


def spilled_wh(scene: Scene, run: Run) -> float:
    """Sun and other sources not used, without what the grid's charger holds back [Wh]."""
    return run.unused_wh - float((grid_held_w(scene, run) * scene.clock.length_h).sum())


def with_other_watts(scene: Scene, design: Design, rating: BankRating) -> Scene:
    """The scene of the same design with other panel watts: the sun on each plane stays, and so does the refill after."""
    sun = charging_sun(design, scene.poa_w_m2, scene.air_c, volts=rating.volts)
    kinds, kind_of_step = step_kinds(design, scene.clock, sun, scene.skies, scene.on_grid)
    return replace(
        scene,
        sun=sun,
        coupled=_without_grid(coupled_sun(design, scene.poa_w_m2, scene.air_c), scene.on_grid),
        panel_fed_w=panel_fed_w(design.charging.controllers, scene.poa_w_m2, air_c=scene.air_c),
        kinds=kinds,
        kind_of_step=kind_of_step,
        row=kind_of_step * HOURS + scene.clock.hour,
    )


def planes(design: Design, along: Along) -> dict[str, Floats]:
    """Sun on each array, by its id [W/m2]."""
    return {array.id: array_poa(array, along) for array in design.charging.arrays}


def coupled_sun(design: Design, poa_w_m2: dict[str, Floats], air_c: Floats) -> SunPower:
    """The grid-tied array's power at its own terminals; none where nothing would lead it in an outage."""
    return grid_tied_power(design.charging.grid_tied if is_coupled(design) else None, poa_w_m2, air_c=air_c)


def charging_sun(design: Design, poa_w_m2: dict[str, Floats], air_c: Floats, *, volts: BankVolts) -> SunPower:
    """Sum of all controllers that charge the bank."""
    offered, passed = np.zeros_like(air_c), np.zeros_like(air_c)
    for controller in design.charging.controllers:
        if controller.kind is ControllerKind.PANEL_FED:
            continue
        poa = tuple(poa_w_m2[array.id] for array in controller.arrays)
        power = controller_power(controller, poa_by_array=poa, air_c=air_c, volts=volts)
        offered, passed = offered + power.offered_w, passed + power.passed_w
    return SunPower(offered_w=offered, passed_w=passed)


def usual_audit(design: Design) -> Audit:
    """The audit of a usual day, with the starts that fall together at a change-over."""
    return audit_of(design.loads, usual_day(design), start_together(design))


def usual_day(design: Design) -> DayKind:
    """The day the audit is added up for: people at home, a bright sky, the month in which the outage begins."""
    return DayKind(month=design.outage.start.month)


def step_kinds(
    design: Design, clock: Clock, sun: SunPower, skies: tuple[Sky, ...], on_grid: Bools
) -> tuple[tuple[DayKind, ...], NDArray[np.int64]]:
    """The kinds of day in the outage, behind them the same on the grid where it comes back, and each step's kind, (n,)."""
    kinds, kind_of_day = day_kinds(design, clock, sun, skies)
    kind_of_step = kind_of_day[clock.day]
    if not on_grid.any():
        return kinds, kind_of_step
    return with_grid(kinds), kind_of_step + len(kinds) * on_grid


def with_grid(kinds: tuple[DayKind, ...]) -> tuple[DayKind, ...]:
    """Kinds of day, and behind them the same while the grid is back."""
    return (*kinds, *(replace(kind, on_grid=True) for kind in kinds))


def day_kinds(
    design: Design, clock: Clock, sun: SunPower, skies: tuple[Sky, ...]
) -> tuple[tuple[DayKind, ...], NDArray[np.int64]]:
    """The different kinds of day in the outage, and which of them each calendar day is, (days,)."""
    days = design.outage.days
    waits = any(load.flexible_h is not None for load in design.loads)
    kinds: list[DayKind] = []
    kind_of_day = []
    for number in range(int(clock.day[-1]) + 1):
        entry = days[min(number, len(days) - 1)]
        kind = DayKind(
            month=(design.outage.start + timedelta(days=number)).month,
            is_dark=skies[number].is_dark,
            is_away=entry.away,
            sun_w=_hourly_w(clock, sun, number) if waits else None,
        )
        if kind not in kinds:
            kinds.append(kind)
        kind_of_day.append(kinds.index(kind))
    return tuple(kinds), np.array(kind_of_day, dtype=np.int64)


def _hourly_w(clock: Clock, sun: SunPower, day: int) -> tuple[float, ...]:
    """Mean sun offered in each hour of a calendar day; hours outside the outage have none [W]."""
    here = clock.day == day
    return hourly_mean_w(clock.hour[here], clock.length_h[here], sun.offered_w[here])


def hourly_mean_w(hour: NDArray[np.int64], steps_h: Floats, power_w: Floats) -> tuple[float, ...]:
    """Mean power in each hour of the day over steps of these lengths [h]; nothing in hours without a step [W], (24,)."""
    energy_wh = np.bincount(hour, weights=power_w * steps_h, minlength=HOURS)
    length_h = np.bincount(hour, weights=steps_h, minlength=HOURS)
    return tuple(np.round(energy_wh / np.maximum(length_h, 1e-9), 3).tolist())
