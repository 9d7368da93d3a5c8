"""A panel schedule in a sheet: circuits read and written, every cell that cannot be used named by row and column."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from hearthkeep.core.design import MOST_SLOTS, Circuit, Design, Leg
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.transfer import (
    CircuitState,
    Hangable,
    PanelNow,
    fates_of,
    hanging_on,
    read_backed_up,
    read_breaker_a,
    read_circuit_line,
    read_leg,
    read_poles,
    read_slots,
    read_wire,
)
from hearthkeep.exchange.tables import Cell, CellProblem, RowFate, unguarded

#: The columns as they are written, with the field each holds.
COLUMNS = (
    ("Slot", "slot"),
    ("Name", "name"),
    ("Breaker A", "breaker_a"),
    ("Poles", "poles"),
    ("Wire", "wire"),
    ("Leg", "leg"),
    ("Backed up", "backed_up"),
    ("Why", "why"),
    ("Backup leg", "backup_leg"),
    ("Neutral with", "neutral"),
    ("Loads", "loads"),
)
#: Columns that are written besides and not read.
AFTER_COLUMNS = ("After", "Position", "Running W")
_SYNONYMS: dict[str, tuple[str, ...]] = {
    "slot": ("slot", "slots", "circuit", "circuit no", "no", "number", "ckt", "space", "position no", "breaker no"),
    "name": ("name", "description", "what", "serves", "room", "label", "area", "circuit name"),
    "breaker_a": ("breaker a", "breaker", "amps", "a", "rating", "rating a", "trip", "breaker amps", "size a", "mcb"),
    "poles": ("poles", "pole", "p"),
    "wire": ("wire", "wire size", "awg", "conductor", "cable", "mm2", "wire awg"),
    "leg": ("leg", "phase", "line"),
    "backed_up": ("backed up", "backup", "critical", "on backup", "carried"),
    "why": ("why", "reason", "note", "notes"),
    "backup_leg": ("backup leg", "new leg"),
    "neutral": ("neutral with", "shares neutral with", "neutral"),
    "loads": ("loads", "hangs on it", "devices", "load"),
}
_NO_HEADER = ("slot", "breaker_a", "name", "wire")


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelRow:
    """One row of a schedule and what would become of it."""

    row: int
    fate: RowFate
    name: str
    circuit: Circuit | None
    #: Loads that would hang on it.
    loads: tuple[str, ...]
    problems: tuple[CellProblem, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelPreview:
    """A schedule before it is taken."""

    rows: tuple[PanelRow, ...]
    notes: tuple[str, ...]


def read_schedule(rows: Sequence[Sequence[Cell]], panel: PanelNow) -> PanelPreview:
    """Understand a schedule; a row in the slot of a circuit that is there replaces it, good rows can be taken without the others."""
    notes: list[str] = []
    fields, first = _fields(rows, notes)
    reading = _Reading(panel)
    found = [
        reading.row(index + 1, fields, rows[index], rows[0] if first else None)
        for index in range(first, len(rows))
        if any(str(cell).strip() for cell in rows[index])
    ]
    if not found:
        notes.append("There are no rows of circuits in it.")
    return PanelPreview(rows=tuple(found), notes=tuple(notes))


def _fields(rows: Sequence[Sequence[Cell]], notes: list[str]) -> tuple[list[str | None], int]:
    """The field of each column, and the index of the first row of data; one column alone holds typed lines."""
    header = [_plain(cell) for cell in rows[0]] if rows else []
    found: list[str | None] = []
    for title in header:
        field = next((name for name, words in _SYNONYMS.items() if title in words), None)
        found.append(None if field in found else field)
    if sum(field is not None for field in found) >= 2 and "breaker_a" in found:
        after = [_plain(title) for title in AFTER_COLUMNS]
        unknown = [
            str(rows[0][at])
            for at, field in enumerate(found)
            if field is None and header[at] and header[at] not in after
        ]
        if unknown:
            notes.append(f"Columns not used: {', '.join(unknown)}.")
        return found, 1
    if max((len(row) for row in rows), default=0) <= 1:
        notes.append("Each row is read as a typed line.")
        return ["line"], 0
    notes.append("No header was found; the columns are taken as Slot, Breaker A, Name, Wire.")
    return list(_NO_HEADER), 0


def _plain(cell: Cell) -> str:
    return re.sub(r"\s+", " ", re.sub(r"[^a-z0-9]+", " ", str(cell).casefold().replace("²", "2"))).strip()


Wrong = Callable[[str, object, str], None]
_TITLES = {field: title for title, field in COLUMNS}
#: Fields that every circuit needs, and what is expected of each.
_NEEDED = {"slot": "a slot", "breaker_a": "a breaker in amps", "name": "what hangs on it"}


class _Reading:
    """The schedule while its rows are read."""

    def __init__(self, panel: PanelNow) -> None:
        self.panel = panel
        self.in_slot: dict[int, int] = {}
        self.on_row: dict[str, int] = {}

    def row(
        self, number: int, fields: Sequence[str | None], cells: Sequence[Cell], header: Sequence[Cell] | None
    ) -> PanelRow:
        problems: list[CellProblem] = []

        def wrong(column: str, read: object, expected: str) -> None:
            shown = str(read)
            shown = shown if len(shown) <= 60 else f"{shown[:57]}…"
            problems.append(CellProblem(row=number, column=column, read=shown, expected=expected))

        if fields == ["line"]:
            values, loads = self._from_line(cells[0], wrong)
        else:
            values, titles = self._values(fields, cells, header, wrong)
            for field, expected in _NEEDED.items():
                if field not in values and not any(problem.column == titles.get(field) for problem in problems):
                    wrong(_TITLES[field], "", expected)
            loads = () if problems else self._loads(values, wrong)
            values = values if problems else self._circuit(values, wrong)
        circuit = None if problems else self._checked(values, wrong)
        if circuit is not None:
            self._place(circuit, number, loads, wrong)
        name = str(values.get("name", "")) or str(cells[0] if cells else "")[:60]
        if circuit is None or problems:
            return PanelRow(
                row=number, fate=RowFate.FAULTY, name=name, circuit=None, loads=(), problems=tuple(problems)
            )
        before = self._before(circuit.slot)
        fate = RowFate.NEW if before is None else RowFate.SAME if before == circuit else RowFate.CHANGED
        return PanelRow(row=number, fate=fate, name=name, circuit=circuit, loads=loads, problems=())

    def _before(self, slot: object) -> Circuit | None:
        """The circuit that stands in a slot, which a row for it replaces."""
        return next((entry for entry in self.panel.circuits if entry.slot == slot), None)

    def _from_line(self, cell: Cell, wrong: Wrong) -> tuple[dict[str, Any], tuple[str, ...]]:
        entry = read_circuit_line(unguarded(str(cell)), self._others())
        for problem in entry.problems:
            wrong(problem.field, problem.value or cell, problem.accepted)
        return (entry.circuit.model_dump() if entry.circuit else {}), entry.loads

    def _values(
        self, fields: Sequence[str | None], cells: Sequence[Cell], header: Sequence[Cell] | None, wrong: Wrong
    ) -> tuple[dict[str, Any], dict[str, str]]:
        """What the cells say by field, and the title of each field's column."""
        values: dict[str, Any] = {}
        titles: dict[str, str] = {}
        for at, (field, cell) in enumerate(zip(fields, cells, strict=False)):
            if field is None or str(cell).strip() == "":
                continue
            titles[field] = str(header[at]) if header is not None else _TITLES[field]
            try:
                values[field] = self._cell(field, cell)
            except ValueError as error:
                wrong(titles[field], cell, str(error))
        return values, titles

    def _others(self) -> PanelNow:
        """The panel without the circuits that a row in their slot would replace."""
        return PanelNow(legs=self.panel.legs, metric=self.panel.metric, slots=self.panel.slots, loads=self.panel.loads)

    def _cell(self, field: str, cell: Cell) -> Any:
        text = unguarded(f"{cell:g}" if isinstance(cell, float) else str(cell)).strip()
        if field != "name":
            text = re.sub(r"^(\d{1,4})\.0$", r"\1", text)
        readers: dict[str, Callable[[str], Any]] = {
            "slot": read_slots,
            "breaker_a": read_breaker_a,
            "poles": read_poles,
            "wire": lambda text: read_wire(text, metric=self.panel.metric),
            "leg": self._leg,
            "backup_leg": self._leg,
            "backed_up": read_backed_up,
            "neutral": lambda text: read_slots(text)[0],
        }
        return readers[field](text) if field in readers else text

    def _leg(self, text: str) -> Leg | None:
        # Both legs of a two-pole breaker are no choice.
        return None if text.replace(" ", "").upper() in ("AB", "A/B", "A+B") else read_leg(text, self.panel.legs)

    def _loads(self, values: dict[str, Any], wrong: Wrong) -> tuple[str, ...]:
        if "loads" not in values:
            return hanging_on(values["name"], self.panel.loads)
        by_name = {load.name.casefold(): load.id for load in self.panel.loads} | {
            load.id.casefold(): load.id for load in self.panel.loads
        }
        found = []
        for name in map(str.strip, values.pop("loads").split(";")):
            key = by_name.get(name.casefold())
            if name and key is None:
                wrong("Loads", name, "loads of the audit, with semicolons between")
            elif key is not None:
                found.append(key)
        return tuple(found)

    def _circuit(self, values: dict[str, Any], wrong: Wrong) -> dict[str, Any]:
        slots = values.pop("slot")
        poles = values.get("poles", len(slots))
        if len(slots) == 2 and (poles == 1 or not self.panel.stacked or slots[1] - slots[0] != 2):
            wrong(
                "Slot", f"{slots[0]},{slots[1]}", "one slot, or the two of a two-pole breaker between two legs, 2 apart"
            )
        neutral = values.pop("neutral", None)
        if neutral is not None:
            mate = self.panel.taken.get(neutral)
            values["shares_neutral_with"] = (
                mate.id if mate is not None and neutral not in self.in_slot else f"s{neutral}"
            )
        return {**values, "id": f"s{slots[0]}", "slot": slots[0], "poles": poles}

    def _checked(self, values: dict[str, Any], wrong: Wrong) -> Circuit | None:
        before = self._before(values.get("slot"))
        try:
            kept = {} if before is None else before.model_dump()
            return Circuit.model_validate({**kept, **values, "id": before.id if before else values["id"]})
        except ValidationError as error:
            for problem in field_problems(error, root=("transfer", "circuits", 0)):
                wrong(_TITLES.get(problem.field, problem.field), problem.value, problem.accepted)
            return None

    def _place(self, circuit: Circuit, number: int, loads: tuple[str, ...], wrong: Wrong) -> None:
        """Each slot holds one breaker, each load hangs on one circuit."""
        if len(self.in_slot) >= MOST_SLOTS:
            wrong("Slot", circuit.slot, f"at most {MOST_SLOTS} slots in all")
        others = {slot: entry for slot, entry in self.panel.taken.items() if entry.slot != circuit.slot}
        for slot in circuit.slots(stacked=self.panel.stacked):
            if slot > self.panel.slots:
                wrong("Slot", slot, f"a slot of the panel, 1 to {self.panel.slots}")
            elif slot in self.in_slot:
                wrong("Slot", slot, f"a free slot; row {self.in_slot[slot]} has a breaker in it")
            elif slot in others and others[slot].slot not in self.in_slot:
                wrong("Slot", slot, f"a free slot; {others[slot].name[:40]} stands there")
        for key in loads:
            if key in self.on_row:
                name = next(load.name for load in self.panel.loads if load.id == key)
                wrong("Loads", name, f"a load hangs on one circuit; row {self.on_row[key]} has it")
        for slot in circuit.slots(stacked=self.panel.stacked):
            self.in_slot.setdefault(slot, number)
        for key in loads:
            self.on_row.setdefault(key, number)


def schedule_rows(design: Design) -> list[list[Cell]]:
    """The panel's circuits as rows with a header, before and after, in the form that is read back."""
    states: dict[str, CircuitState] = {state.id: state for state in fates_of(design).circuits}
    slots = {circuit.id: circuit.slot for circuit in design.transfer.circuits}
    rows: list[list[Cell]] = [[*(title for title, _ in COLUMNS), *AFTER_COLUMNS]]
    for circuit in sorted(design.transfer.circuits, key=lambda circuit: circuit.slot):
        state = states[circuit.id]
        names = [load.name for load in design.loads if design.transfer.root_of(load.circuit) == circuit.id]
        rows.append(
            [
                ",".join(str(slot) for slot in state.slots),
                circuit.name,
                circuit.breaker_a,
                str(circuit.poles),
                circuit.wire or "",
                "" if circuit.leg is None else circuit.leg.value,
                "yes" if circuit.backed_up else "no",
                circuit.why or "",
                "" if circuit.backup_leg is None else circuit.backup_leg.value,
                str(slots[circuit.shares_neutral_with]) if circuit.shares_neutral_with in slots else "",
                "; ".join(names),
                state.why or state.fate.value,
                " and ".join(str(number) for number in state.positions),
                round(state.running_w, 1),
            ]
        )
    return rows


def panel_now(design: Design) -> PanelNow:
    """The panel of a design, for reading lines and schedules."""
    return PanelNow(
        legs=design.site.legs,
        metric=design.practice.value == "metric_230",
        slots=design.transfer.main.slots,
        circuits=design.transfer.circuits,
        loads=tuple(
            Hangable(id=load.id, name=load.name, placed=load.circuit is not None)
            for load in design.loads
            if load.supply.is_ac
        ),
    )
