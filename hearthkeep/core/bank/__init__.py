"""Bank: chemistry, temperature and what the bank can hold, take and give."""

from hearthkeep.core.bank.chemistry import TYPICAL, ChemistryTypical
from hearthkeep.core.bank.rating import BankRating, peukert_hours, rate
from hearthkeep.core.bank.temperature import capacity_factor, lead_acid_size_factor

__all__ = [
    "TYPICAL",
    "BankRating",
    "ChemistryTypical",
    "capacity_factor",
    "lead_acid_size_factor",
    "peukert_hours",
    "rate",
]
