"""Logbook: what is written down of an installation, and what it says of the plan."""

from hearthkeep.core.logbook.alarms import COLD_PER_H, Alarm, alarms_of, volts_limits
from hearthkeep.core.logbook.calibrate import Calibration, calibrate, group_ids
from hearthkeep.core.logbook.clocks import happened_at
from hearthkeep.core.logbook.due import DueTask, Written, due_tasks
from hearthkeep.core.logbook.entries import (
    KINDS,
    MOST_INSTRUMENTS,
    MOST_TEST_STEPS,
    DecisionEntry,
    EventEntry,
    EventKind,
    ForecastDay,
    ForecastEntry,
    OutageEntry,
    ReadingEntry,
    WatchEntry,
    WatchWhat,
    read_entry,
)
from hearthkeep.core.logbook.expected import CanShow, can_show
from hearthkeep.core.logbook.log import DAY_S, DOUBTED, HOUR_S, Log, Trace, blocks, lengths_h
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity, QuantityInfo
from hearthkeep.core.logbook.replay import Replay, replay

__all__ = [
    "COLD_PER_H",
    "DAY_S",
    "DOUBTED",
    "HOUR_S",
    "KINDS",
    "MOST_INSTRUMENTS",
    "MOST_TEST_STEPS",
    "QUANTITIES",
    "Alarm",
    "Calibration",
    "CanShow",
    "DecisionEntry",
    "DueTask",
    "EventEntry",
    "EventKind",
    "ForecastDay",
    "ForecastEntry",
    "Log",
    "OutageEntry",
    "Quantity",
    "QuantityInfo",
    "ReadingEntry",
    "Replay",
    "Trace",
    "WatchEntry",
    "WatchWhat",
    "Written",
    "alarms_of",
    "blocks",
    "calibrate",
    "can_show",
    "due_tasks",
    "group_ids",
    "happened_at",
    "lengths_h",
    "read_entry",
    "replay",
    "volts_limits",
]
