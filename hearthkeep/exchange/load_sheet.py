"""Loads in a sheet: foreign headers and numbers understood, every cell that is not named by row and column."""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.design import Load, Tier
from hearthkeep.core.design.fields import LONGEST_ID
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.loads import with_readings
from hearthkeep.core.loads.known_text import known_text, number, start_text
from hearthkeep.core.numbers import MOST_CHARACTERS, Commas
from hearthkeep.exchange.load_cells import MAY_BE_EMPTY, READERS, SUPPLY_WORDS, CellError, RowValues, percent_of
from hearthkeep.exchange.tables import Cell, CellProblem, RowFate, unguarded

#: The columns as they are written, with the field each holds.
COLUMNS: tuple[tuple[str, str], ...] = (
    ("Load", "name"),
    ("Tier", "tier"),
    ("Qty", "quantity"),
    ("Runs W", "running_w"),
    ("Starts W", "start_w"),
    ("Duty %", "duty_frac"),
    ("Hours", "hours"),
    ("Supply", "supply"),
    ("Standby W", "standby_w"),
    ("Link", "link"),
    ("Known by", "known"),
    ("Start known by", "start_known"),
    ("Any h", "flexible_h"),
    ("Converter %", "converter_efficiency_frac"),
    ("When away", "stops_when_away"),
    ("Dark day", "dark_day"),
    ("Instead", "substitute_name"),
    ("Instead W", "substitute_w"),
    ("Months %", "month_factors"),
    ("Circuit", "circuit"),
    ("Wired in", "hard_wired"),
    ("Rides s", "rides_s"),
    ("Id", "id"),
)
_TITLES = {field: title for title, field in COLUMNS}
#: Other people's headers, in lower case without marks.
_SYNONYMS: dict[str, tuple[str, ...]] = {
    "name": ("load", "name", "device", "item", "appliance", "description", "equipment"),
    "tier": ("tier", "priority", "class"),
    "quantity": ("qty", "quantity", "count", "number", "no", "pieces", "units"),
    "running_w": ("runs w", "watts", "watt", "w", "running w", "running watts", "power", "power w", "runs", "load w"),
    "start_w": ("starts w", "start w", "starting w", "surge w", "starting watts", "surge", "starts", "start"),
    "duty_frac": ("duty %", "duty", "duty cycle", "duty cycle %"),
    "hours": ("hours", "hours of the day", "when", "h", "hours day", "h day", "hours per day"),
    "supply": ("supply", "ac dc", "fed by"),
    "standby_w": ("standby w", "standby", "idle w", "phantom w", "parasitic w"),
    "link": ("link", "linked", "linked as", "group"),
    "known": ("known by", "source", "quality", "how known"),
    "start_known": ("start known by", "start source"),
    "flexible_h": ("any h", "flexible h", "any hours"),
    "converter_efficiency_frac": ("converter %", "converter efficiency", "converter efficiency %"),
    "stops_when_away": ("when away", "away"),
    "dark_day": ("dark day", "on dark days"),
    "substitute_name": ("instead", "substitute"),
    "substitute_w": ("instead w", "substitute w"),
    "month_factors": ("months %", "months", "season"),
    "circuit": ("circuit",),
    "hard_wired": ("wired in", "hard wired", "hardwired"),
    "rides_s": ("rides s", "rides through s"),
    "id": ("id", "key"),
}
#: Watts called by the name of a rate of watts.
_PER_HOUR = re.compile(r"^(k?)w(att)?s?\s*(/|per)\s*h(our|r)?s?$")
_IGNORED = ("wh day", "wh", "wh per day", "kwh", "kwh day", "without it", "daily wh", "total wh")


@dataclass(frozen=True, kw_only=True, slots=True)
class SheetRow:
    """One row of the sheet and what would become of it."""

    row: int
    fate: RowFate
    name: str
    load: Load | None
    #: For a changed row: the fields that differ, as "field: old, now new".
    changes: tuple[str, ...]
    problems: tuple[CellProblem, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class SheetPreview:
    """A sheet before it is taken."""

    rows: tuple[SheetRow, ...]
    #: What was understood differently from how it was written.
    notes: tuple[str, ...]


def sheet_rows(loads: Sequence[Load]) -> list[list[Cell]]:
    """Loads as rows with a header, in the form that is read back to the identical loads."""
    rows: list[list[Cell]] = [[title for title, _ in COLUMNS]]
    for load in loads:
        rows.append(
            [
                load.name,
                load.tier.value.title(),
                load.quantity,
                load.running_w,
                "" if load.start_w is None else load.start_w,
                percent_of(load.duty_frac),
                ", ".join(f"{start}-{end}" for start, end in load.hours) or "never",
                SUPPLY_WORDS[load.supply],
                load.standby_w,
                load.link or "",
                known_text(load.known),
                start_text(load.start_known),
                "" if load.flexible_h is None else load.flexible_h,
                "" if load.converter_efficiency_frac is None else percent_of(load.converter_efficiency_frac),
                "stops" if load.stops_when_away else "runs",
                load.dark_day.value.title(),
                load.substitute_name or "",
                load.substitute_w,
                "" if load.month_factors is None else " ".join(number(percent_of(part)) for part in load.month_factors),
                load.circuit or "",
                "yes" if load.hard_wired else "no",
                "" if load.rides_s is None else load.rides_s,
                load.id,
            ]
        )
    return rows


def read_sheet(rows: Sequence[Sequence[Cell]], existing: Sequence[Load], commas: Commas = Commas.GROUP) -> SheetPreview:
    """Understand a sheet and compare it with the loads there are.

    `commas` says what a comma before three digits means where the sheet itself does not show it.
    """
    notes: list[str] = []
    fields, first = _fields(rows, notes)
    commas = _commas_in(rows, commas)
    if commas is Commas.DECIMAL:
        notes.append("Commas in numbers are read as decimal commas.")
    by_id = {load.id: load for load in existing}
    by_name = {load.name.casefold(): load for load in existing}
    taken: set[str] = set()
    result = []
    for index in range(first, len(rows)):
        reading = _RowReading(number=index + 1, commas=commas, notes=notes)
        for column, cell in enumerate(rows[index]):
            if column < len(fields) and fields[column] is not None:
                reading.take(str(fields[column]), _title(rows, column, first), cell)
        result.append(reading.finished(by_id, by_name, taken))
    if not result:
        notes.append("There are no rows below the header.")
    return SheetPreview(rows=tuple(result), notes=tuple(dict.fromkeys(notes)))


def _fields(rows: Sequence[Sequence[Cell]], notes: list[str]) -> tuple[list[str | None], int]:
    """The field of each column, and the index of the first row of data."""
    header = [_plain(cell) for cell in rows[0]] if rows else []
    found: list[str | None] = []
    factor_noted = False
    for title in header:
        field = next((name for name, words in _SYNONYMS.items() if title in words), None)
        if field is None and _PER_HOUR.match(title.replace("kw", "w")):
            field, factor_noted = "running_w", True
        found.append(None if field in found else field)
    if "name" in found or sum(field is not None for field in found) >= 2:
        if factor_noted:
            notes.append("A column headed watts per hour is read as watts: an energy is never per hour.")
        unknown = [
            str(rows[0][column])
            for column, field in enumerate(found)
            if field is None and header[column] and header[column] not in _IGNORED
        ]
        if unknown:
            notes.append(f"Columns not used: {', '.join(unknown)}.")
        return found, 1
    notes.append("No header was found; the columns are taken as Load, Runs W, Qty, Hours, Tier.")
    return ["name", "running_w", "quantity", "hours", "tier"], 0


def _plain(cell: Cell) -> str:
    """A header without marks: 'Runs, W' and 'runs (W)' are the same; a rate keeps its stroke."""
    text = str(cell).casefold().strip().lstrip("\ufeff")
    if _PER_HOUR.match(text):
        return text
    return re.sub(r"\s+", " ", re.sub(r"[^a-z0-9%]+", " ", text)).strip()


def _title(rows: Sequence[Sequence[Cell]], column: int, first: int) -> str:
    return str(rows[0][column]) if first == 1 else f"column {column + 1}"


#: Cells that can only be decimal commas, and cells in which commas can only group.
_DECIMAL_CELL = re.compile(r"^\d+,(?:\d{1,2}|\d{4,})$", re.ASCII)
_GROUPED_CELL = re.compile(r"^\d{1,3}(?:,\d{3}){2,}$|^\d{1,3}(?:,\d{3})+\.\d+$", re.ASCII)


def _commas_in(rows: Sequence[Sequence[Cell]], usual: Commas) -> Commas:
    """What a comma means by the cells that leave no doubt; unsure where they differ, as usual where there are none."""
    texts = [cell for row in rows for cell in row if isinstance(cell, str) and len(cell) <= MOST_CHARACTERS]
    decimal = any(_DECIMAL_CELL.match(text) for text in texts)
    grouped = any(_GROUPED_CELL.match(text) for text in texts)
    if decimal and grouped:
        return Commas.UNSURE
    return Commas.DECIMAL if decimal else Commas.GROUP if grouped else usual


class _RowReading(RowValues):
    """One row while its cells are read."""

    def __init__(self, *, number: int, commas: Commas, notes: list[str]) -> None:
        super().__init__(commas=commas, notes=notes)
        self.number = number
        self.titles: dict[str, str] = {}
        self.problems: list[CellProblem] = []

    def take(self, field: str, title: str, cell: Cell) -> None:
        self.titles[field] = title
        # A leading apostrophe says that what follows is text, even if it looks like a formula.
        is_literal = isinstance(cell, str) and cell.startswith("'")
        cell = unguarded(cell) if isinstance(cell, str) else cell
        if cell == "":
            if field in MAY_BE_EMPTY:
                self.values[field] = None
            return
        try:
            if isinstance(cell, str) and cell.startswith("=") and not is_literal:
                raise CellError("a value; a formula is not followed")
            self.values[field] = READERS[field](self, cell)
        except CellError as error:
            self.wrong(title, cell, str(error))

    def wrong(self, column: str, read: Cell, expected: str) -> None:
        shown = str(read)
        self.problems.append(
            CellProblem(
                row=self.number, column=column, read=shown if len(shown) <= 60 else f"{shown[:57]}…", expected=expected
            )
        )

    def finished(self, by_id: dict[str, Load], by_name: dict[str, Load], taken: set[str]) -> SheetRow:
        """Validate, and mark what is new, changed, or the same."""
        name = str(self.values.get("name", ""))
        known = by_id.get(str(self.values.get("id", ""))) or by_name.get(name.casefold())
        key = known.id if known else str(self.values.get("id") or _id_from(name))
        if key in taken or (known is None and key in by_id):
            key, known = _free_id(key, taken | by_id.keys()), None
        load = None
        for field, expected in (("name", "a name"), ("running_w", "watts")):
            if (
                (known is None or field == "name")
                and field not in self.values
                and not (field == "running_w" and self.values.get("known") is not None)
                and not any(self.titles.get(field) == problem.column for problem in self.problems)
            ):
                self.wrong(self.titles.get(field, _TITLES[field]), "", expected)
        if not self.problems:
            try:
                before = {"tier": Tier.KEEP, "running_w": 0.0} if known is None else known.model_dump()
                load = Load.model_validate({**before, **self.values, "id": key})
                if "running_w" not in self.values and load.known is not None:
                    load = with_readings(load)
            except ValidationError as error:
                for problem in field_problems(error, root=("loads", 0)):
                    self.wrong(
                        self.titles.get(problem.field.split(".")[0], problem.field), problem.value, problem.accepted
                    )
        if load is None:
            return SheetRow(
                row=self.number, fate=RowFate.FAULTY, name=name, load=None, changes=(), problems=tuple(self.problems)
            )
        taken.add(key)
        changes = () if known is None else _differences(known, load)
        fate = RowFate.NEW if known is None else RowFate.CHANGED if changes else RowFate.SAME
        return SheetRow(row=self.number, fate=fate, name=load.name, load=load, changes=changes, problems=())


def _differences(old: Load, new: Load) -> tuple[str, ...]:
    titles, before, after = sheet_rows([old, new])
    return tuple(
        f"{title}: {_shown(was)}, now {_shown(now)}"
        for title, was, now in zip(titles, before, after, strict=True)
        if was != now
    )


def _shown(cell: Cell) -> str:
    return f"{cell:g}" if isinstance(cell, float) else cell or "none"


def _free_id(wanted: str, used: set[str]) -> str:
    """An id like the one wanted that is not used yet, with a number behind it.

    >>> _free_id("pump", {"pump", "pump-2"}), len(_free_id("p" * 40, {"p" * 40}))
    ('pump-3', 40)
    """
    ends = (f"-{number}" for number in itertools.count(2))
    return next(key for end in ends if (key := wanted[: LONGEST_ID - len(end)] + end) not in used)


def _id_from(name: str) -> str:
    stem = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:30]
    return stem or "load"
