"""What a circuit costs in hours: the outage with it backed up against the outage with it left on the grid."""

from __future__ import annotations

from hearthkeep.core.design import Design
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.whatif.priced import PriceInHours, Pricing


def circuit_price(design: Design, index: int, year: WeatherYear | None = None) -> PriceInHours:
    """Hours gained when the circuit of that index is backed up if it is not, or kept on the grid if it is backed up."""
    circuits = design.transfer.circuits
    turned = circuits[index].model_copy(update={"backed_up": not circuits[index].backed_up})
    transfer = design.transfer.model_copy(update={"circuits": (*circuits[:index], turned, *circuits[index + 1 :])})
    other = prepare(design.model_copy(update={"transfer": transfer}), year)
    return Pricing(prepare(design, year)).of(other)
