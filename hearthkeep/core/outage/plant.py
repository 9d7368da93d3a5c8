"""Bank, inverter, generator and wiring of a design, as the compiled model takes them."""

from __future__ import annotations

from hearthkeep.core.bank import BankRating, acceptance_of
from hearthkeep.core.design import Design, Generator, Throttle
from hearthkeep.core.inverter import Cables, Limits, limits_of, marginal_efficiency
from hearthkeep.core.outage.kernel import NO_COUPLED, NO_GENERATOR, CoupledPlant, GeneratorPlant, Plant
from hearthkeep.core.sources import GeneratorRating
from hearthkeep.core.transfer import is_coupled


def drop_levels_frac(design: Design, rating: BankRating) -> tuple[float, float, float]:
    """State of charge at which Life, Keep and Ease are dropped."""
    keep = max(design.policy.keep_level_frac or 0.0, rating.floor_soc_frac)
    return rating.cutoff_soc_frac, keep, max(design.policy.ease_level_frac, keep)


def limits_for(design: Design, rating: BankRating, generator: GeneratorRating | None, cables: Cables) -> Limits:
    """What inverter, generator, bank and wiring allow."""
    # A coupled array needs a supply that never sleeps: search mode is off beside it.
    inverter = design.inverter
    if is_coupled(design):
        inverter = inverter.model_copy(update={"search_threshold_w": 0.0})
    return limits_of(
        inverter,
        discharge_limit_w=rating.discharge_limit_w,
        cables=cables,
        generator_w=generator.rated_w if generator else 0.0,
        generator_surge_w=generator.surge_w if generator else 0.0,
    )


def plant_of(
    design: Design, rating: BankRating, generator: GeneratorRating | None, *, start_frac: float, flat_frac: float
) -> Plant:
    """The plant at a state of charge; `flat_frac` is a flat loss in the wiring."""
    capacity_wh = rating.capacity_wh
    life, keep, ease = drop_levels_frac(design, rating)
    margin = design.policy.return_margin_frac
    return Plant(
        acceptance=acceptance_of(
            capacity_wh=capacity_wh,
            limit_w=rating.charge_limit_w,
            efficiency=rating.charge_efficiency_frac,
            tapers=rating.tapers,
        ),
        start_wh=capacity_wh * start_frac,
        drop_wh=(life * capacity_wh, keep * capacity_wh, ease * capacity_wh),
        return_wh=(
            min(life + margin, 1.0) * capacity_wh,
            min(keep + margin, 1.0) * capacity_wh,
            min(ease + margin, 1.0) * capacity_wh,
        ),
        discharge_efficiency=rating.discharge_efficiency_frac,
        peukert_exponent=rating.peukert_exponent,
        rated_power_w=rating.rated_current_a * rating.nominal_v,
        one_source=design.charging.one_source,
        generator=_generator_plant(design.charging.generator, generator, capacity_wh),
        coupled=_coupled_plant(design, capacity_wh, flat_frac),
    )


def _coupled_plant(design: Design, capacity_wh: float, flat_frac: float) -> CoupledPlant:
    unit, inverter = design.charging.grid_tied, design.inverter
    if unit is None or not is_coupled(design):
        return NO_COUPLED
    efficiency = marginal_efficiency(inverter)
    return CoupledPlant(
        # What cannot be throttled is lost as a whole.
        blocks={Throttle.FREQUENCY: 0, Throttle.BLOCKS: unit.blocks, Throttle.NONE: 1}[unit.throttle],
        back_wh=unit.back_soc_frac * capacity_wh,
        charger_w=inverter.rated_w if unit.charge_w is None else unit.charge_w,
        efficiency=efficiency,
        bus_w_per_ac_w=(1 + flat_frac) / efficiency,
        conversion_per_ac_w=1 / efficiency - 1,
        wiring_per_ac_w=flat_frac / efficiency,
    )


def _generator_plant(generator: Generator | None, rated: GeneratorRating | None, capacity_wh: float) -> GeneratorPlant:
    if generator is None or rated is None:
        return NO_GENERATOR
    return GeneratorPlant(
        rated_w=rated.rated_w,
        start_wh=generator.start_soc_frac * capacity_wh,
        stop_wh=generator.stop_soc_frac * capacity_wh,
        min_run_h=generator.min_run_h,
        charger_w=generator.charger_w,
        charger_efficiency=generator.charger_efficiency_frac,
        stock_l=generator.stock_l,
        tank_l=generator.tank_l,
        idle_l_per_h=rated.fuel_idle_l_per_h,
        l_per_kwh=rated.fuel_l_per_kwh,
        charges_only=generator.charges_only,
    )
