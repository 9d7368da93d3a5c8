"""Loads: the audit as arrays, tables and sums."""

from hearthkeep.core.loads.entry import LoadEntry, read_line
from hearthkeep.core.loads.sums import LoadSum, LoadSums, daily_wh, sums_from
from hearthkeep.core.loads.table import TIERS, LoadRows, LoadTable, lived, lived_tier, rows_from, summed, table_from

__all__ = [
    "TIERS",
    "LoadEntry",
    "LoadRows",
    "LoadSum",
    "LoadSums",
    "LoadTable",
    "daily_wh",
    "lived",
    "lived_tier",
    "read_line",
    "rows_from",
    "summed",
    "sums_from",
    "table_from",
]
