"""Logbook: what is written down of an installation, and what it says of the plan."""

from hearthkeep.core.logbook.clocks import happened_at
from hearthkeep.core.logbook.entries import (
    MOST_INSTRUMENTS,
    MOST_TEST_STEPS,
    CapacityEntry,
    CrossEntry,
    DrawdownEntry,
    Entry,
    InstrumentName,
    LoadTestEntry,
    WattsEntry,
    read_entry,
)
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity, QuantityInfo

__all__ = [
    "MOST_INSTRUMENTS",
    "MOST_TEST_STEPS",
    "QUANTITIES",
    "CapacityEntry",
    "CrossEntry",
    "DrawdownEntry",
    "Entry",
    "InstrumentName",
    "LoadTestEntry",
    "Quantity",
    "QuantityInfo",
    "WattsEntry",
    "happened_at",
    "read_entry",
]
