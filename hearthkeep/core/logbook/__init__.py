"""Logbook: what is written down of an installation, and what it says of the plan."""

from hearthkeep.core.logbook.alarms import Alarm, alarms_of
from hearthkeep.core.logbook.calibrate import Calibration, calibrate
from hearthkeep.core.logbook.clocks import happened_at
from hearthkeep.core.logbook.due import DueTask, Written, due_tasks
from hearthkeep.core.logbook.entries import (
    MOST_INSTRUMENTS,
    MOST_TEST_STEPS,
    InstrumentName,
    OutageEntry,
    ReadingEntry,
    read_entry,
)
from hearthkeep.core.logbook.log import Log, Trace
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity, QuantityInfo
from hearthkeep.core.logbook.replay import Replay, replay

__all__ = [
    "MOST_INSTRUMENTS",
    "MOST_TEST_STEPS",
    "QUANTITIES",
    "Alarm",
    "Calibration",
    "DueTask",
    "InstrumentName",
    "Log",
    "OutageEntry",
    "Quantity",
    "QuantityInfo",
    "ReadingEntry",
    "Replay",
    "Trace",
    "Written",
    "alarms_of",
    "calibrate",
    "due_tasks",
    "happened_at",
    "read_entry",
    "replay",
]
