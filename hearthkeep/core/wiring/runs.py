"""Every run of the design: from where to where, what it carries and why, and what its place asks for."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import (
    Build,
    Design,
    FedFrom,
    Load,
    Output,
    Service,
    Supply,
)
from hearthkeep.core.inverter import low_battery_current_a
from hearthkeep.core.loads import converter_efficiency
from hearthkeep.core.sources import source_currents
from hearthkeep.core.transfer import gives_split


class RunKind(StrEnum):
    """Where in the flow a run lies, in order."""

    STRING = "string"
    ARRAY = "array"
    CONTROLLER = "controller"
    SOURCE = "source"
    LINK = "link"
    LEAD = "lead"
    BANK = "bank"
    INVERTER = "inverter"
    FEED = "feed"
    BRANCH = "branch"
    GRID = "grid"
    GENERATOR = "generator"
    COUPLED = "coupled"
    PANEL = "panel"
    BYPASS = "bypass"
    GROUND = "ground"


#: Strong sun over an array's rated current, NEC 690.8 in our own words (from memory).
STRONG_SUN = 1.25
#: 1.25 for duty of three hours and more; NEC 215.2 and 690.8 in our own words, and common practice for leads of direct current.
CONTINUOUS = 1.25


@dataclass(frozen=True, kw_only=True, slots=True)
class Run:
    """One run, or several alike."""

    key: str
    kind: RunKind
    label: str
    #: Parts it joins, by their keys.
    start: str
    end: str
    #: How many alike, and the conductors of each: there and back, or one that goes on to the next block.
    count: int = 1
    poles: int = 2
    is_dc: bool = True
    #: Volts that its drop is a part of, and the most that ever stand on it [V].
    volts_v: float
    most_v: float
    #: Current that it is sized for, before the factor; and the one its drop is counted at [A].
    current_a: float
    drop_at_a: float
    factor: float = CONTINUOUS
    #: The factor that is asked of what is there, where what is proposed is asked more.
    least_factor: float | None = None
    #: How the current comes about.
    basis: str
    #: What its device is sized for, where that is another current: of strings side by side what is left to each when others are out [A].
    device_a: float | None = None
    #: Volts above what the run's end asks on a hot day, which a controller that cannot convert throws away anyway [V].
    spare_v: float = 0.0
    #: It is fed from the bank's side, so that a fault draws on the bank.
    from_bank: bool = False
    #: A device has to sit in it.
    needs_device: bool = True
    fed_from: FedFrom = FedFrom.BUS
    #: An estimate stands behind the current.
    is_estimate: bool = False


def inverter_keys(design: Design) -> tuple[str, ...]:
    """Keys of the inverters, one a unit."""
    if design.inverter.rated_w <= 0:
        return ()
    return tuple(f"inverter-{number}" for number in range(1, design.inverter.units + 1))


def output_v(design: Design) -> float:
    """Volts between the lines by which the inverters give their whole output [V]."""
    if design.site.service is Service.V230 or design.inverter.output is Output.V230:
        return 230.0
    return 240.0 if gives_split(design) else 120.0


def unit_output_v(design: Design) -> float:
    """The same of one unit: of a pair each gives one leg [V]."""
    return 120.0 if design.inverter.output is Output.SPLIT_PAIR else output_v(design)


def is_built_in_charger(design: Design) -> bool:
    """Whether the inverter charges from its own alternating-current input."""
    return design.inverter.build is not Build.SEPARATE and design.inverter.rated_w > 0


def branch_loads(design: Design) -> tuple[Load, ...]:
    """Loads fed from the bank by branch circuits of their own."""
    return tuple(load for load in design.loads if load.supply in (Supply.DC, Supply.DC_CONVERTED))


def branch_w(load: Load) -> float:
    """What a direct-current load takes from its branch while it runs, all units together [W]."""
    power_w = load.quantity * max(load.running_w, load.standby_w)
    return power_w / converter_efficiency(load) if load.supply is Supply.DC_CONVERTED else power_w


def load_terminals_a(design: Design) -> float:
    """What the branches on load terminals take together, at nominal volts [A]."""
    fed = {entry.run for entry in design.wiring.runs if entry.fed_from is FedFrom.LOAD_TERMINALS}
    loads = (load for load in branch_loads(design) if f"branch-{load.id}" in fed)
    return sum(branch_w(load) for load in loads) / design.bank.nominal_v


def lowest_v(design: Design, rating: BankRating) -> float:
    """The lowest volts at which the bank still gives: the inverter's cut-off, else nine tenths of nominal [V]."""
    if design.inverter.rated_w > 0:
        return design.inverter.low_cutoff_v
    return 0.9 * rating.nominal_v


def bank_current_a(design: Design, rating: BankRating) -> float:
    """Direct current the bank's leads are sized for [A]: all inverters at their rating and all branches, at the lowest volts; or
    all that charges together, where that is more.
    """
    inverter, low_v = design.inverter.together, lowest_v(design, rating)
    given_a = low_battery_current_a(inverter, inverter.rated_w) if inverter.rated_w > 0 else 0.0
    given_a += sum(branch_w(load) for load in branch_loads(design)) / low_v
    return max(given_a, charging_a(design, rating))


def charging_a(design: Design, rating: BankRating) -> float:
    """All that charges together, or the strongest where one source alone does [A]."""
    currents = [source.current_a for source in source_currents(design, rating.volts)]
    if not currents:
        return 0.0
    return max(currents) if design.charging.one_source else sum(currents)
