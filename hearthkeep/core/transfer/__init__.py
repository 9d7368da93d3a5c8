"""Transfer: how the house is switched over, what that carries, and whether it is safe."""

from hearthkeep.core.transfer.advisor import Suit, ranked_arrangements
from hearthkeep.core.transfer.arrangements import BY_KIND, Arrangement, carried_by, failure_of, gap_words
from hearthkeep.core.transfer.bonds import BondCount, bond_basis, bond_counts
from hearthkeep.core.transfer.circuit_line import CircuitEntry, Hangable, PanelNow, hanging_on, read_circuit_line
from hearthkeep.core.transfer.circuit_words import (
    read_backed_up,
    read_breaker_a,
    read_leg,
    read_poles,
    read_slots,
    read_wire,
)
from hearthkeep.core.transfer.fates import (
    CircuitState,
    Fate,
    Fates,
    LoadFate,
    fates_of,
    has_positions,
    live_on_generator,
)
from hearthkeep.core.transfer.labels import labels_of
from hearthkeep.core.transfer.legs import Balance, balance
from hearthkeep.core.transfer.neutrals import SharedNeutral, ampacity_a, neutral_current_a
from hearthkeep.core.transfer.paths import SUPPLIES, Hazard, PowerPath, power_path
from hearthkeep.core.transfer.report import TransferReport, transfer_figures, transfer_report
from hearthkeep.core.transfer.rides import ITI_BASIS, SURELY_STOPS_S, Ride, gap_s, only_blinks, start_together
from hearthkeep.core.transfer.supply import (
    BY_ITSELF,
    CORDS,
    LEADS_ARRAY,
    WHOLE_PANEL,
    changes_over,
    gives_split,
    is_coupled,
)

__all__ = [
    "BY_ITSELF",
    "BY_KIND",
    "CORDS",
    "ITI_BASIS",
    "LEADS_ARRAY",
    "SUPPLIES",
    "SURELY_STOPS_S",
    "WHOLE_PANEL",
    "Arrangement",
    "Balance",
    "BondCount",
    "CircuitEntry",
    "CircuitState",
    "Fate",
    "Fates",
    "Hangable",
    "Hazard",
    "LoadFate",
    "PanelNow",
    "PowerPath",
    "Ride",
    "SharedNeutral",
    "Suit",
    "TransferReport",
    "ampacity_a",
    "balance",
    "bond_basis",
    "bond_counts",
    "carried_by",
    "changes_over",
    "failure_of",
    "fates_of",
    "gap_s",
    "gap_words",
    "gives_split",
    "hanging_on",
    "has_positions",
    "is_coupled",
    "labels_of",
    "live_on_generator",
    "neutral_current_a",
    "only_blinks",
    "power_path",
    "ranked_arrangements",
    "read_backed_up",
    "read_breaker_a",
    "read_circuit_line",
    "read_leg",
    "read_poles",
    "read_slots",
    "read_wire",
    "start_together",
    "transfer_figures",
    "transfer_report",
]
