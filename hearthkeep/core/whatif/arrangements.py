"""Every arrangement in the place of the chosen one: how well it suits, and the outage simulated with it."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Design
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.transfer import (
    BY_KIND,
    Arrangement,
    Fate,
    PowerPath,
    Suit,
    fates_of,
    gap_s,
    gap_words,
    power_path,
    ranked_arrangements,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Advice:
    """One arrangement, described for this design."""

    arrangement: Arrangement
    suit: Suit
    #: Gap at the change-over, as one says it.
    gap: str
    #: With this arrangement and the design's circuits: hours carried, and the loads that are not carried.
    hours_carried_h: float
    left_out: tuple[str, ...]
    path: PowerPath


def advise(design: Design, year: WeatherYear | None = None) -> tuple[Advice, ...]:
    """All arrangements, the one that suits best first; the outage is simulated with each, all else as it is."""
    return tuple(_advice(design, suit, year) for suit in ranked_arrangements(design))


def _advice(design: Design, suit: Suit, year: WeatherYear | None) -> Advice:
    tried = design.model_copy(update={"transfer": design.transfer.model_copy(update={"arrangement": suit.kind})})
    prepared = prepare(tried, year)
    return Advice(
        arrangement=BY_KIND[suit.kind],
        suit=suit,
        gap=gap_words(gap_s(tried) or 0.0),
        hours_carried_h=prepared.carried_h(prepared.outcome().dark_h),
        left_out=tuple(load.name for load in fates_of(tried).loads if load.fate is not Fate.CARRIED),
        path=power_path(tried, suit.kind),
    )
