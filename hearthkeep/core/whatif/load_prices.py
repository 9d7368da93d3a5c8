"""What could be done about one load, each with its price in hours."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Design, Load, merge_spans
from hearthkeep.core.loads import daily_wh
from hearthkeep.core.outage import prepare, usual_day
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.whatif.priced import PriceInHours, Pricing


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadPrices:
    """What could be done about one load."""

    without_it: PriceInHours
    #: With the last hour of its day left out, and which hour that is; none for a load of no hours.
    one_hour_less: PriceInHours | None
    hour_left_out: int | None
    #: Its hours without that one, as [from, to) pairs.
    shorter_hours: tuple[tuple[int, int], ...]
    #: With another load in its place.
    replaced: PriceInHours | None
    #: Energy of the load a day as it is, and of its replacement [Wh].
    daily_wh: float
    replaced_daily_wh: float | None


def load_prices(design: Design, index: int, replacement: Load | None, year: WeatherYear | None = None) -> LoadPrices:
    """Price what could be done about one load; nothing of the design is changed."""
    prepared = prepare(design, year)
    load, loads = design.loads[index], design.loads
    on = [hour for hour, is_on in enumerate(load.on_by_hour) if is_on]
    shorter = None
    if on:
        spans = tuple((hour, hour + 1) for hour in on[:-1])
        shorter = load.model_copy(update={"hours": merge_spans(spans)})
    pricing, usual = Pricing(prepared), usual_day(design)

    def with_instead(*others: Load) -> PriceInHours:
        changed = (*loads[:index], *others, *loads[index + 1 :])
        return pricing.of(prepare(design.model_copy(update={"loads": changed}), year))

    return LoadPrices(
        without_it=with_instead(),
        one_hour_less=None if shorter is None else with_instead(shorter),
        hour_left_out=on[-1] if on else None,
        shorter_hours=() if shorter is None else shorter.hours,
        replaced=None if replacement is None else with_instead(replacement),
        daily_wh=daily_wh(load, usual),
        replaced_daily_wh=None if replacement is None else daily_wh(replacement, usual),
    )
