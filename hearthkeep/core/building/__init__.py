"""Build: gates of commissioning in the order that harms nothing, expected windows, likely causes, tests that correct the plan."""

from hearthkeep.core.building.bank_tests import (
    CapacityResult,
    CapacityRun,
    Drawdown,
    DrawdownResult,
    capacity_test,
    drawdown,
)
from hearthkeep.core.building.correction import Correction, corrected, scaled_loads
from hearthkeep.core.building.cross import CrossReading, Round, Shown, cross_read
from hearthkeep.core.building.gate import Moment
from hearthkeep.core.building.load_test import LoadStep, LoadTest, load_test
from hearthkeep.core.building.progress import GateEntry, GateStand, Signed, Signing
from hearthkeep.core.building.sheet import BuildSheet, ReadingsByGate, build_sheet, check_gate, expected_of
from hearthkeep.core.building.unexplained import Unexplained, WattPair, unexplained

__all__ = [
    "BuildSheet",
    "CapacityResult",
    "CapacityRun",
    "Correction",
    "CrossReading",
    "Drawdown",
    "DrawdownResult",
    "GateEntry",
    "GateStand",
    "LoadStep",
    "LoadTest",
    "Moment",
    "ReadingsByGate",
    "Round",
    "Shown",
    "Signed",
    "Signing",
    "Unexplained",
    "WattPair",
    "build_sheet",
    "capacity_test",
    "check_gate",
    "corrected",
    "cross_read",
    "drawdown",
    "expected_of",
    "load_test",
    "scaled_loads",
    "unexplained",
]
