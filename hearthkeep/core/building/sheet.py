"""Everything the Build page shows of a design at a moment: gates with their windows, and what readings say."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from hearthkeep.core.building.gate import Gate, Moment
from hearthkeep.core.building.gates import gates_of
from hearthkeep.core.building.judge import Judgement, judge
from hearthkeep.core.building.progress import (
    GateEntry,
    GateProgress,
    GateValue,
    Key,
    Signed,
    check_signing,
    mark_of,
    progress_of,
)
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Design
from hearthkeep.core.sources import WeatherYear

#: Readings of several gates at once.
ReadingsByGate = dict[Key, Annotated[dict[Key, GateValue], Field(max_length=600)]]


@dataclass(frozen=True, kw_only=True, slots=True)
class GateSheet:
    """One gate as the page shows it."""

    gate: Gate
    #: Mark of what it asks, to be kept with its signature.
    mark: str
    progress: GateProgress
    judged: Judgement
    #: A gate that keeps a deadly reading away is never left out.
    may_be_skipped: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class BuildSheet:
    """The gates of a design in order, each with where it stands."""

    gates: tuple[GateSheet, ...]
    passed: int
    skipped: int
    #: Signed for a design that has changed since.
    changed: int


def expected_of(design: Design, moment: Moment, year: WeatherYear | None) -> Expected:
    """What a meter shows of a design as entered at a moment; `year` is its stored weather year."""
    return Expected(design, moment, None if year is None else float(year.air_c.min()))


def build_sheet(
    design: Design,
    moment: Moment,
    *,
    year: WeatherYear | None = None,
    entries: Sequence[Signed] = (),
    readings: Mapping[str, Mapping[str, float]] | None = None,
) -> BuildSheet:
    """The gates at a moment; `readings` are those being entered, by gate and by what it asks.

    A gate that was signed is judged by the moment in which its readings were taken.
    """
    now = expected_of(design, moment, year)
    signed_keys = {each.entry.gate for each in entries}
    gates = gates_of(now, signed_keys)
    entered = readings or {}
    stands = progress_of(gates, entries)
    found = []
    for gate, stand in zip(gates, stands, strict=True):
        own = entered.get(gate.key)
        if own is None:
            shown, judged = _as_signed(design, gate, stand, now, year, signed_keys)
        else:
            shown, judged = gate, judge(now, gate, own)
        found.append(
            GateSheet(gate=shown, mark=mark_of(gate), progress=stand, judged=judged, may_be_skipped=gate.may_be_skipped)
        )
    count = [each.stand.value for each in stands]
    return BuildSheet(
        gates=tuple(found),
        passed=count.count("passed"),
        skipped=count.count("skipped"),
        changed=count.count("changed"),
    )


def _as_signed(
    design: Design, gate: Gate, stand: GateProgress, now: Expected, year: WeatherYear | None, signed_keys: set[str]
) -> tuple[Gate, Judgement]:
    """A gate as it is, or as its windows were in the moment in which its kept readings were taken."""
    entry = stand.signed.entry if stand.signed else None
    if entry is None or entry.moment is None or not gate.asks:
        return gate, judge(now, gate, entry.readings if entry else {})
    then = expected_of(design, entry.moment, year)
    at_moment = next(each for each in gates_of(then, signed_keys) if each.key == gate.key)
    return at_moment, judge(then, at_moment, entry.readings)


def check_gate(design: Design, entries: Sequence[Signed], entry: GateEntry, year: WeatherYear | None) -> GateEntry:
    """Refuse what must not be signed of a design; else the entry with the mark of its gate. Raises InputError."""
    moment = entry.moment or Moment(at=design.outage.start)
    expected = expected_of(design, moment, year)
    gates = gates_of(expected, {each.entry.gate for each in entries})
    gate = next((each for each in gates if each.key == entry.gate), None)
    check_signing(gates, entries, entry, None if gate is None else judge(expected, gate, entry.readings))
    return entry if gate is None else entry.model_copy(update={"mark": mark_of(gate)})
