"""Bank: chemistry, temperature, arrangement, life, and what the bank can hold, take and give."""

from hearthkeep.core.bank.acceptance import Acceptance, acceptance_of
from hearthkeep.core.bank.cells import CELLS, BankVolts, CellPoints, cells_of
from hearthkeep.core.bank.charge_time import charged_frac, hours_to_full
from hearthkeep.core.bank.chemistry import TYPICAL, ChemistryTypical
from hearthkeep.core.bank.life import BankLife, cycles_at, left_after, life_of
from hearthkeep.core.bank.rating import BankRating, heater_w, peukert_hours, rate
from hearthkeep.core.bank.rest import RestState, rest_state
from hearthkeep.core.bank.sharing import (
    Evening,
    Sharing,
    StringsAsked,
    evening_of,
    shares,
    sharing_of,
    strings_for,
)
from hearthkeep.core.bank.temperature import capacity_factor, lead_acid_size_factor
from hearthkeep.core.bank.ventilation import (
    Ventilation,
    air_flow_m3_per_h,
    opening_cm2,
    ventilation_of,
)

__all__ = [
    "CELLS",
    "TYPICAL",
    "Acceptance",
    "BankLife",
    "BankRating",
    "BankVolts",
    "CellPoints",
    "ChemistryTypical",
    "Evening",
    "RestState",
    "Sharing",
    "StringsAsked",
    "Ventilation",
    "acceptance_of",
    "air_flow_m3_per_h",
    "capacity_factor",
    "cells_of",
    "charged_frac",
    "cycles_at",
    "evening_of",
    "heater_w",
    "hours_to_full",
    "lead_acid_size_factor",
    "left_after",
    "life_of",
    "opening_cm2",
    "peukert_hours",
    "rate",
    "rest_state",
    "shares",
    "sharing_of",
    "strings_for",
    "ventilation_of",
]
