"""Loads: readings, the audit as arrays, tables and sums."""

from hearthkeep.core.loads.audit import Audit, LoadSum, LoadSums, audit_of, daily_wh, sums_from
from hearthkeep.core.loads.days import HOURS, DayKind, converter_efficiency, day_of
from hearthkeep.core.loads.entry import LoadEntry, read_line
from hearthkeep.core.loads.figures import load_energy_figure, load_figures
from hearthkeep.core.loads.measure import (
    Reading,
    StartReading,
    given_by_readings,
    quality_of,
    read,
    read_of,
    read_start,
    rests_on_reading,
    with_readings,
)
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
    "Audit",
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
    "audit_of",
    "compiled_rows",
    "converter_efficiency",
    "daily_wh",
    "day_of",
    "given_by_readings",
    "lived",
    "lived_tier",
    "load_energy_figure",
    "load_figures",
    "quality_of",
    "read",
    "read_line",
    "read_of",
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
