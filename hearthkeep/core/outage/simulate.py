"""From a design to one run of the outage: prepare the arrays, run the kernel, give the result its names."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.charging import rate_generator
from hearthkeep.core.design import Design
from hearthkeep.core.inverter import HouseWatts, Limits, Overload, draws_of, house_watts, limits_of
from hearthkeep.core.loads import TIERS, DayKind, LoadRows, rows_from
from hearthkeep.core.outage import kernel, shapes
from hearthkeep.core.outage.fill import fill_before
from hearthkeep.core.outage.scene import Scene

Floats = NDArray[np.float64]

#: A dropped tier returns this far above its level, as a part of full.
RETURN_MARGIN_FRAC = 0.10


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
    INVERTER_BACK = "inverter_back"


EVENT_KINDS = {
    shapes.DROPPED: EventKind.DROPPED,
    shapes.RETURNED: EventKind.RETURNED,
    shapes.OVERLOADED: EventKind.OVERLOADED,
    shapes.FITS_AGAIN: EventKind.FITS_AGAIN,
    shapes.CUT_OFF: EventKind.CUT_OFF,
    shapes.FULL: EventKind.FULL,
    shapes.DARK: EventKind.DARK,
    shapes.BACK_ON: EventKind.BACK_ON,
    shapes.GENERATOR_ON: EventKind.GENERATOR_ON,
    shapes.GENERATOR_OFF: EventKind.GENERATOR_OFF,
    shapes.INVERTER_BACK: EventKind.INVERTER_BACK,
}
#: Causes by number: those of an overload, and why the generator stopped.
CAUSES = {
    **{overload.value: overload.name.lower() for overload in Overload},
    shapes.STOP_FULL: "charged",
    shapes.STOP_QUIET: "quiet_hours",
    shapes.STOP_EMPTY: "out_of_fuel",
    shapes.STOP_TANK: "tank_empty",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Event:
    """One moment worth telling."""

    #: Hours from the start of the outage [h].
    time_h: float
    kind: EventKind
    tier: str | None
    #: For an overload: rating, surge, bank_current or switched_off; for a stop of the generator: charged, quiet_hours,
    #: out_of_fuel or tank_empty.
    cause: str | None


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


def plant_of(design: Design, rating: BankRating) -> shapes.Plant:
    """Bank, inverter and wiring as the kernel takes them."""
    levels = np.array(drop_levels_frac(design, rating))
    returns = np.minimum(levels + RETURN_MARGIN_FRAC, 1.0)
    return shapes.Plant(
        capacity_wh=rating.capacity_wh,
        start_wh=rating.capacity_wh * fill_before(design, rating).reached_frac,
        drop_wh=levels * rating.capacity_wh,
        return_wh=returns * rating.capacity_wh,
        charge_limit_w=rating.charge_limit_w,
        charge_efficiency=rating.charge_efficiency_frac,
        discharge_efficiency=rating.discharge_efficiency_frac,
        peukert_exponent=rating.peukert_exponent,
        rated_power_w=rating.rated_current_a * rating.nominal_v,
        tapers=rating.tapers,
        one_source=design.charging.one_source,
        generator=_generator_plant(design, rating),
    )


#: No generator.
NO_GENERATOR = shapes.GeneratorPlant(0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, False)


def _generator_plant(design: Design, rating: BankRating) -> shapes.GeneratorPlant:
    generator, rated = design.charging.generator, rate_generator(design)
    if generator is None or rated is None:
        return NO_GENERATOR
    return shapes.GeneratorPlant(
        rated_w=rated.rated_w,
        start_wh=generator.start_soc_frac * rating.capacity_wh,
        stop_wh=generator.stop_soc_frac * rating.capacity_wh,
        min_run_h=generator.min_run_h,
        charger_w=generator.charger_w,
        charger_efficiency=generator.charger_efficiency_frac,
        stock_l=generator.stock_l,
        tank_l=generator.tank_l,
        idle_l_per_h=rated.fuel_idle_l_per_h,
        l_per_kwh=rated.fuel_l_per_kwh,
        charges_only=generator.charges_only,
    )


def drop_levels_frac(design: Design, rating: BankRating) -> tuple[float, float, float]:
    """State of charge at which Life, Keep and Ease are dropped."""
    return (
        rating.cutoff_soc_frac,
        rating.floor_soc_frac,
        max(design.rules.ease_level_frac, rating.floor_soc_frac),
    )


def run_scene(scene: Scene, house: HouseWatts, plant: shapes.Plant) -> shapes.Run:
    """Carry a house through the outage of a scene."""
    run: shapes.Run = kernel.run(steps_of(scene), draws_of(house), plant)
    return run


def steps_of(scene: Scene) -> shapes.Steps:
    """The scene's steps as the kernel takes them."""
    return shapes.Steps(
        length_h=scene.clock.length_h,
        row=scene.row,
        sun_w=scene.sun.passed_w,
        clipped_w=scene.sun.clipped_w,
        other_w=scene.other.total_w,
        strongest_w=scene.other.strongest_w,
        quiet=scene.quiet,
        attended=scene.attended,
    )


def hours_back_to_full(
    design: Design, rating: BankRating, scene: Scene, plant: shapes.Plant, *, stored_wh: float
) -> float | None:
    """Hours from the grid's return until the bank is full; none when it takes longer than is followed [h].

    The grid carries the house meanwhile; charger and sun fill the bank within its charge limit,
    together or one at a time as the design has it.
    """
    if stored_wh >= plant.capacity_wh * (1 - 1e-6):
        return 0.0
    clock = scene.recovery_clock
    charger_w = np.full(clock.length_h.shape[0], design.charging.grid_charger.output_w)
    steps = shapes.Steps(
        length_h=clock.length_h,
        row=clock.hour,
        sun_w=scene.recovery_sun.passed_w,
        clipped_w=scene.recovery_sun.clipped_w,
        other_w=charger_w,
        strongest_w=charger_w,
        quiet=np.ones(clock.length_h.shape[0], dtype=bool),
        attended=np.ones(clock.length_h.shape[0], dtype=bool),
    )
    empty = house_of(design, rating, rows_from((), (DayKind(month=1),)))
    alone = plant._replace(start_wh=stored_wh, generator=NO_GENERATOR)
    run = kernel.run(steps, draws_of(empty), alone)
    return None if run.full_h < 0 else float(run.full_h)


def events_of(run: shapes.Run) -> tuple[Event, ...]:
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
