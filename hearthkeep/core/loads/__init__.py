"""Loads: readings, the audit as arrays, tables and sums."""

from hearthkeep.core.loads.days import HOURS, DayKind, converter_efficiency, day_of
from hearthkeep.core.loads.entry import LoadEntry, read_line
from hearthkeep.core.loads.measure import (
    UNCERTAINTY_FRAC,
    Reading,
    StartReading,
    given_by_readings,
    quality_of,
    read,
    read_start,
    rests_on_reading,
    with_readings,
)
from hearthkeep.core.loads.sums import LoadSum, LoadSums, daily_wh, sums_from
from hearthkeep.core.loads.table import (
    SPARE_INDEX,
    TIERS,
    CompiledRows,
    LoadRows,
    LoadTable,
    TierSums,
    compiled_rows,
    lived,
    lived_tier,
    rows_from,
    sum_tier,
    summed,
    table_from,
)
from hearthkeep.core.loads.typical import TypicalLoad, typical_loads

__all__ = [
    "HOURS",
    "SPARE_INDEX",
    "TIERS",
    "UNCERTAINTY_FRAC",
    "CompiledRows",
    "DayKind",
    "LoadEntry",
    "LoadRows",
    "LoadSum",
    "LoadSums",
    "LoadTable",
    "Reading",
    "StartReading",
    "TierSums",
    "TypicalLoad",
    "compiled_rows",
    "converter_efficiency",
    "daily_wh",
    "day_of",
    "given_by_readings",
    "lived",
    "lived_tier",
    "quality_of",
    "read",
    "read_line",
    "read_start",
    "rests_on_reading",
    "rows_from",
    "sum_tier",
    "summed",
    "sums_from",
    "table_from",
    "typical_loads",
    "with_readings",
]
