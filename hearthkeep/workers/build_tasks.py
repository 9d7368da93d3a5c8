"""What the processes do for Build: gates with their windows, readings judged, tests worked out."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from hearthkeep.core.building import (
    BuildSheet,
    CapacityResult,
    CapacityRun,
    Drawdown,
    DrawdownResult,
    GateEntry,
    LoadStep,
    LoadTest,
    Moment,
    build_sheet,
    capacity_test,
    check_gate,
    drawdown,
    expected_of,
    load_test,
)
from hearthkeep.core.design import Design, read_design
from hearthkeep.workers.gate_lines import GateLine, signed_of
from hearthkeep.workers.tasks import stored_year_of
from hearthkeep.workers.writer import Writer

_SHEET = Writer(BuildSheet)
_LOAD_TEST = Writer(LoadTest)
_DRAWDOWN = Writer(DrawdownResult)
_CAPACITY = Writer(CapacityResult)


def gates_sheet(
    design: Design, moment: Moment, lines: Sequence[GateLine], readings: dict[str, dict[str, float]]
) -> bytes:
    """The gates of a design at a moment, with where each stands and what the readings being entered say."""
    year = stored_year_of(design)
    return _SHEET.dump_json(build_sheet(design, moment, year=year, entries=signed_of(lines), readings=readings))


def gate_checked(values: dict[str, Any], lines: Sequence[GateLine], entry: GateEntry) -> GateEntry:
    """Refuse what must not be signed of a stored design, or give it back with the mark of its gate."""
    design = read_design(values)
    return check_gate(design, signed_of(lines), entry, stored_year_of(design))


def load_tested(design: Design, moment: Moment, steps: Sequence[LoadStep]) -> bytes:
    """A load test worked out."""
    year = stored_year_of(design)
    return _LOAD_TEST.dump_json(load_test(expected_of(design, moment, year), steps, year))


def drawn_down(design: Design, test: Drawdown) -> bytes:
    """A drawdown test worked out."""
    return _DRAWDOWN.dump_json(drawdown(design, test, stored_year_of(design)))


def capacity_tested(design: Design, test: CapacityRun) -> bytes:
    """A capacity test worked out."""
    return _CAPACITY.dump_json(capacity_test(design, test, stored_year_of(design)))
