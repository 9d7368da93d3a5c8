"""From a design to one run of the outage: prepare the arrays, run the kernel, give the result its names."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.charging import (
    SKY_FACTOR,
    SunPower,
    clear_plane_of_array,
    controller_power,
    rate_generator,
    sun_is_up,
)
from hearthkeep.core.design import Design, hours_in
from hearthkeep.core.inverter import HouseWatts, Limits, Overload, draws_of, generator_draws_of, house_watts, limits_of
from hearthkeep.core.loads import HOURS, TIERS, DayKind, LoadRows, rows_from
from hearthkeep.core.outage import kernel
from hearthkeep.core.outage.clock import Clock, cut

Floats = NDArray[np.float64]

#: A dropped tier returns this far above its level, as a part of full.
RETURN_MARGIN_FRAC = 0.10
#: How long after the grid's return the refill is followed [h].
RECOVERY_H = 72.0


class EventKind(StrEnum):
    """What happened at a moment of the outage."""

    DROPPED = "dropped"
    RETURNED = "returned"
    OVERLOADED = "overloaded"
    FITS_AGAIN = "fits_again"
    CUT_OFF = "cut_off"
    FULL = "full"
    DARK = "dark"
    BACK_ON = "back_on"
    GENERATOR_ON = "generator_on"
    GENERATOR_OFF = "generator_off"


EVENT_KINDS = {
    kernel.DROPPED: EventKind.DROPPED,
    kernel.RETURNED: EventKind.RETURNED,
    kernel.OVERLOADED: EventKind.OVERLOADED,
    kernel.FITS_AGAIN: EventKind.FITS_AGAIN,
    kernel.CUT_OFF: EventKind.CUT_OFF,
    kernel.FULL: EventKind.FULL,
    kernel.DARK: EventKind.DARK,
    kernel.BACK_ON: EventKind.BACK_ON,
    kernel.GENERATOR_ON: EventKind.GENERATOR_ON,
    kernel.GENERATOR_OFF: EventKind.GENERATOR_OFF,
}
#: Causes by number: those of an overload, and why the generator stopped.
CAUSES = {
    **{overload.value: overload.name.lower() for overload in Overload},
    kernel.STOP_FULL: "charged",
    kernel.STOP_QUIET: "quiet_hours",
    kernel.STOP_EMPTY: "out_of_fuel",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Event:
    """One moment worth telling."""

    #: Hours from the start of the outage [h].
    time_h: float
    kind: EventKind
    tier: str | None
    #: For an overload: rating, surge, bank_current or switched_off; for a stop of the generator: charged, quiet_hours or
    #: out_of_fuel.
    cause: str | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Scene:
    """The outage prepared: everything but the house, so that many houses can be tried in it."""

    clock: Clock
    sun: SunPower
    #: Whether the sun is up at the middle of each step.
    daylight: NDArray[np.bool_]
    #: The kinds of day that the outage holds, and each step's hour counted through them.
    kinds: tuple[DayKind, ...]
    row: NDArray[np.int64]
    #: Whether the generator has to stay off, by step.
    quiet: NDArray[np.bool_]
    #: Sun and grid charger after the grid's return [W], with its own clock.
    recovery_clock: Clock
    recovery_sun: SunPower


def scene_of(design: Design, rating: BankRating) -> Scene:
    """Cut the outage into steps and work out its sun."""
    outage, step_min, offset = design.outage, design.rules.time_step_min, design.site.utc_offset_h
    clock = cut(outage.start, duration_h=outage.duration_h, step_min=step_min, utc_offset_h=offset)
    after = cut(outage.end, duration_h=RECOVERY_H, step_min=60, utc_offset_h=offset)
    first_day_after = (outage.end.date() - outage.start.date()).days
    sun = _sun(design, clock, first_day=0, bank_v=rating.nominal_v)
    kinds, kind_of_day = day_kinds(design, clock, sun)
    return Scene(
        clock=clock,
        sun=sun,
        kinds=kinds,
        row=kind_of_day[clock.day] * HOURS + clock.hour,
        quiet=_quiet(design, clock),
        daylight=sun_is_up(design.site, clock.moments),
        recovery_clock=after,
        recovery_sun=_sun(design, after, first_day=first_day_after, bank_v=rating.nominal_v),
    )


def _quiet(design: Design, clock: Clock) -> NDArray[np.bool_]:
    """Steps in the generator's quiet hours."""
    generator = design.charging.generator
    hours = np.array(hours_in(() if generator is None else generator.quiet_hours), dtype=bool)
    quiet: NDArray[np.bool_] = hours[clock.hour]
    return quiet


def _sun(design: Design, clock: Clock, *, first_day: int, bank_v: float) -> SunPower:
    """Sum of all controllers under the sky of each day."""
    days = design.outage.days
    day = np.minimum(clock.day + first_day, len(days) - 1)
    sky = np.array([SKY_FACTOR[entry.sky] for entry in days])[day]
    air_c = np.array([entry.air_temp_c for entry in days])[day]
    offered = np.zeros_like(air_c)
    passed = np.zeros_like(air_c)
    for controller in design.charging.controllers:
        poa = tuple(
            clear_plane_of_array(design.site, clock.moments, array.tilt_deg, array.azimuth_deg) * sky
            for array in controller.arrays
        )
        power = controller_power(controller, poa_by_array=poa, air_c=air_c, bank_v=bank_v)
        offered, passed = offered + power.offered_w, passed + power.passed_w
    return SunPower(offered_w=offered, passed_w=passed)


def usual_day(design: Design) -> DayKind:
    """The day the audit is added up for: people at home, a bright sky, the month in which the outage begins."""
    return DayKind(month=design.outage.start.month)


def day_kinds(design: Design, clock: Clock, sun: SunPower) -> tuple[tuple[DayKind, ...], NDArray[np.int64]]:
    """The different kinds of day in the outage, and which of them each calendar day is, (days,)."""
    days = design.outage.days
    waits = any(load.flexible_h is not None for load in design.loads)
    kinds: list[DayKind] = []
    kind_of_day = []
    for number in range(int(clock.day[-1]) + 1):
        entry = days[min(number, len(days) - 1)]
        kind = DayKind(
            month=(design.outage.start + timedelta(days=number)).month,
            is_dark=entry.sky.is_dark,
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
    energy_wh = np.bincount(clock.hour[here], weights=(sun.offered_w * clock.length_h)[here], minlength=HOURS)
    length_h = np.bincount(clock.hour[here], weights=clock.length_h[here], minlength=HOURS)
    return tuple(np.round(energy_wh / np.maximum(length_h, 1e-9), 3).tolist())


def house_of(design: Design, rating: BankRating, rows: LoadRows) -> HouseWatts:
    """The loads by hour and tier, with what the inverter and the bank let run together."""
    return house_watts(rows, design.inverter, limits_for(design, rating))


def limits_for(design: Design, rating: BankRating) -> Limits:
    """What inverter, generator, bank and wiring allow."""
    generator = rate_generator(design)
    return limits_of(
        design.inverter,
        discharge_limit_w=rating.discharge_limit_w,
        wiring_loss_frac=design.wiring.loss_frac,
        generator_w=generator.rated_w if generator else 0.0,
        generator_surge_w=generator.surge_w if generator else 0.0,
    )


def plant_of(design: Design, rating: BankRating) -> kernel.Plant:
    """Bank, inverter and wiring as the kernel takes them."""
    levels = np.array(drop_levels_frac(design, rating))
    returns = np.minimum(levels + RETURN_MARGIN_FRAC, 1.0)
    return kernel.Plant(
        capacity_wh=rating.capacity_wh,
        start_wh=rating.capacity_wh * design.bank.start_soc_frac,
        drop_wh=levels * rating.capacity_wh,
        return_wh=returns * rating.capacity_wh,
        charge_limit_w=rating.charge_limit_w,
        charge_efficiency=rating.charge_efficiency_frac,
        discharge_efficiency=rating.discharge_efficiency_frac,
        peukert_exponent=rating.peukert_exponent,
        rated_power_w=rating.rated_current_a * rating.nominal_v,
        tapers=rating.tapers,
        generator=_generator_plant(design, rating),
    )


#: No generator.
NO_GENERATOR = kernel.GeneratorPlant(0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0)


def _generator_plant(design: Design, rating: BankRating) -> kernel.GeneratorPlant:
    generator, rated = design.charging.generator, rate_generator(design)
    if generator is None or rated is None:
        return NO_GENERATOR
    return kernel.GeneratorPlant(
        rated_w=rated.rated_w,
        start_wh=generator.start_soc_frac * rating.capacity_wh,
        stop_wh=generator.stop_soc_frac * rating.capacity_wh,
        min_run_h=generator.min_run_h,
        charger_w=generator.charger_w,
        charger_efficiency=generator.charger_efficiency_frac,
        stock_l=generator.stock_l,
        idle_l_per_h=rated.fuel_idle_l_per_h,
        l_per_kwh=rated.fuel_l_per_kwh,
    )


def drop_levels_frac(design: Design, rating: BankRating) -> tuple[float, float, float]:
    """State of charge at which Life, Keep and Ease are dropped."""
    return (
        rating.cutoff_soc_frac,
        rating.floor_soc_frac,
        max(design.rules.ease_level_frac, rating.floor_soc_frac),
    )


def run_scene(scene: Scene, house: HouseWatts, plant: kernel.Plant) -> kernel.Run:
    """Carry a house through the outage of a scene."""
    run: kernel.Run = kernel.run(steps_of(scene), draws_of(house), generator_draws_of(house), plant)
    return run


def steps_of(scene: Scene) -> kernel.Steps:
    """The scene's steps as the kernel takes them."""
    return kernel.Steps(
        length_h=scene.clock.length_h,
        row=scene.row,
        sun_w=scene.sun.passed_w,
        clipped_w=scene.sun.clipped_w,
        quiet=scene.quiet,
    )


def hours_back_to_full(
    design: Design, rating: BankRating, scene: Scene, plant: kernel.Plant, *, stored_wh: float
) -> float | None:
    """Hours from the grid's return until the bank is full; none when it takes longer than is followed [h].

    The grid carries the house meanwhile; charger and sun together fill the bank within its charge limit.
    """
    if stored_wh >= plant.capacity_wh * (1 - 1e-6):
        return 0.0
    clock = scene.recovery_clock
    steps = kernel.Steps(
        length_h=clock.length_h,
        row=clock.hour,
        sun_w=scene.recovery_sun.passed_w + design.charging.grid_charger.output_w,
        clipped_w=scene.recovery_sun.clipped_w,
        quiet=np.ones(clock.length_h.shape[0], dtype=bool),
    )
    empty = house_of(design, rating, rows_from((), (DayKind(month=1),)))
    alone = plant._replace(start_wh=stored_wh, generator=NO_GENERATOR)
    run = kernel.run(steps, draws_of(empty), generator_draws_of(empty), alone)
    return None if run.full_h < 0 else float(run.full_h)


def events_of(run: kernel.Run) -> tuple[Event, ...]:
    """The run's events with their names."""
    return tuple(
        Event(
            time_h=float(time_h),
            kind=EVENT_KINDS[int(kind)],
            tier=TIERS[int(tier)].value if tier >= 0 else None,
            cause=CAUSES[int(cause)] if cause > 0 else None,
        )
        for time_h, kind, tier, cause in run.events[: run.event_count]
    )
