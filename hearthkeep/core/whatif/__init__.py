"""What if: the outage simulated again with one thing changed, and what that says of the choices."""

from hearthkeep.core.whatif.arrangements import Advice, advise
from hearthkeep.core.whatif.charging import ChargingSums, SourceValue, SteadySum, charging_sums
from hearthkeep.core.whatif.charging_figures import charging_figures
from hearthkeep.core.whatif.circuit_price import circuit_price
from hearthkeep.core.whatif.generator_sizes import GeneratorChoice, generator_choices
from hearthkeep.core.whatif.habits import ENDLESS_L, Habits
from hearthkeep.core.whatif.load_prices import LoadPrices, load_prices
from hearthkeep.core.whatif.one_failed import OneFailed, one_failed, without_one
from hearthkeep.core.whatif.panels import with_panels
from hearthkeep.core.whatif.priced import PriceInHours
from hearthkeep.core.whatif.prices import Prices, prices_of
from hearthkeep.core.whatif.ranking import SAME_VOLTAGE_FRAC, RankedInverter, rank_inverters
from hearthkeep.core.whatif.rationing import RationedLoad, Rationing, RationPlan, ration

__all__ = [
    "ENDLESS_L",
    "SAME_VOLTAGE_FRAC",
    "Advice",
    "ChargingSums",
    "GeneratorChoice",
    "Habits",
    "LoadPrices",
    "OneFailed",
    "PriceInHours",
    "Prices",
    "RankedInverter",
    "RationPlan",
    "RationedLoad",
    "Rationing",
    "SourceValue",
    "SteadySum",
    "advise",
    "charging_figures",
    "charging_sums",
    "circuit_price",
    "generator_choices",
    "load_prices",
    "one_failed",
    "prices_of",
    "rank_inverters",
    "ration",
    "with_panels",
    "without_one",
]
