"""Every choice on the pages with its price in hours."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from hearthkeep.core.design import MOST_STRINGS
from hearthkeep.core.outage import PreparedOutage, Run, with_other_watts
from hearthkeep.core.sources import STEADY
from hearthkeep.core.whatif.each_load_out import each_load_out
from hearthkeep.core.whatif.panels import with_panels
from hearthkeep.core.whatif.priced import Measured, PriceInHours, Pricing, beside

#: The night in which the inverter could be switched off, as [from, to) hours of the day.
NIGHT_HOURS = ((0, 6), (22, 24))


@dataclass(frozen=True, kw_only=True, slots=True)
class Prices:
    """Prices of the choices on the pages."""

    #: By load id: the house without that load.
    without_load: dict[str, PriceInHours]
    #: One parallel unit more; none at the limit.
    one_unit_more: PriceInHours | None
    #: One parallel unit less; none when it is the last.
    one_unit_less: PriceInHours | None
    #: By array id: the house without that array, and with half as much again.
    without_array: dict[str, PriceInHours]
    half_more_array: dict[str, PriceInHours]
    #: An inverter that took nothing while idle.
    without_idle: PriceInHours
    #: The house without the generator; none where there is none.
    without_generator: PriceInHours | None
    #: Without one of the steady sources, by its key; those that are there.
    without_source: dict[str, PriceInHours]
    #: The inverter switched off from 22 to 6, only DC loads running.
    off_at_night: PriceInHours


def prices_of(prepared: PreparedOutage, run: Run) -> Prices:
    """Simulate the outage again for each load, one unit more and less, each source, and no idle; `run` is its own."""
    design = prepared.design
    bank, charging = design.bank, design.charging
    pricing = Pricing(prepared, run)
    price = pricing.of

    def with_strings(count: int) -> PriceInHours:
        return price(prepared.with_parts({"bank": bank.model_copy(update={"parallel": count})}))

    arrays = [array.id for array in charging.arrays]
    tireless = prepared.house._replace(standing_w=np.zeros_like(prepared.house.standing_w))
    sleeping = design.inverter.model_copy(update={"off_hours": NIGHT_HOURS})
    return Prices(
        without_load=_without_each(prepared, pricing),
        one_unit_more=with_strings(bank.parallel + 1) if bank.parallel < MOST_STRINGS else None,
        one_unit_less=with_strings(bank.parallel - 1) if bank.parallel > 1 else None,
        without_array={key: price(_with_watts(prepared, key, 0.0)) for key in arrays},
        half_more_array={key: price(_with_watts(prepared, key, 1.5)) for key in arrays},
        without_generator=price(prepared.with_parts({"charging": charging.model_copy(update={"generator": None})}))
        if charging.generator
        else None,
        without_source={
            kind.key: price(_without_source(prepared, kind.key)) for kind in STEADY if kind.is_in(charging)
        },
        off_at_night=price(prepared.with_parts({"inverter": sleeping})),
        without_idle=price(prepared.with_house(tireless)),
    )


def _without_each(prepared: PreparedOutage, pricing: Pricing) -> dict[str, PriceInHours]:
    """By load id: the house without it."""
    loads = prepared.design.loads
    found = [Measured.of(prepared, outcome) for outcome in each_load_out(prepared, range(len(loads)))]
    large = [at for at, other in enumerate(found) if pricing.is_large(pricing.price_of(other))]
    sides = [
        [Measured.of(prepared, outcome) for outcome in each_load_out(side, large)] if large else []
        for side in beside(prepared)
    ]
    by_side = dict(zip(large, zip(*sides, strict=True), strict=True))
    return {
        load.id: pricing.with_sides(other, lambda at=at: by_side[at])  # type: ignore[misc]
        for at, (load, other) in enumerate(zip(loads, found, strict=True))
    }


def _with_watts(prepared: PreparedOutage, array_id: str, factor: float) -> PreparedOutage:
    """The outage with one array's panels multiplied."""
    design = with_panels(prepared.design, {array_id}, factor)
    return prepared.with_scene(with_other_watts(prepared.scene, design, prepared.rating))


def _without_source(prepared: PreparedOutage, key: str) -> PreparedOutage:
    """The outage with one of the steady sources still."""
    return prepared.with_scene(replace(prepared.scene, steady=prepared.scene.steady.without(key)))
