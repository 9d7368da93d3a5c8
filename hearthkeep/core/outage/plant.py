"""Bank, inverter, generator and wiring of a design, as the compiled model takes them."""

from __future__ import annotations

from hearthkeep.core.bank import BankRating, acceptance_of
from hearthkeep.core.design import Design, Generator
from hearthkeep.core.inverter import Limits, limits_of
from hearthkeep.core.outage.kernel import NO_GENERATOR, GeneratorPlant, Plant
from hearthkeep.core.sources import GeneratorRating

#: A dropped tier returns this far above its level, as a part of full.
RETURN_MARGIN_FRAC = 0.10


def drop_levels_frac(design: Design, rating: BankRating) -> tuple[float, float, float]:
    """State of charge at which Life, Keep and Ease are dropped."""
    return (
        rating.cutoff_soc_frac,
        rating.floor_soc_frac,
        max(design.policy.ease_level_frac, rating.floor_soc_frac),
    )


def limits_for(design: Design, rating: BankRating, generator: GeneratorRating | None) -> Limits:
    """What inverter, generator, bank and wiring allow."""
    return limits_of(
        design.inverter,
        discharge_limit_w=rating.discharge_limit_w,
        wiring_loss_frac=design.wiring.loss_frac,
        generator_w=generator.rated_w if generator else 0.0,
        generator_surge_w=generator.surge_w if generator else 0.0,
    )


def plant_of(design: Design, rating: BankRating, generator: GeneratorRating | None, *, start_frac: float) -> Plant:
    """The plant at a state of charge."""
    capacity_wh = rating.capacity_wh
    life, keep, ease = drop_levels_frac(design, rating)
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
            _returns_frac(life) * capacity_wh,
            _returns_frac(keep) * capacity_wh,
            _returns_frac(ease) * capacity_wh,
        ),
        discharge_efficiency=rating.discharge_efficiency_frac,
        peukert_exponent=rating.peukert_exponent,
        rated_power_w=rating.rated_current_a * rating.nominal_v,
        one_source=design.charging.one_source,
        generator=_generator_plant(design.charging.generator, generator, capacity_wh),
    )


def _returns_frac(level_frac: float) -> float:
    return min(level_frac + RETURN_MARGIN_FRAC, 1.0)


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
