"""Loads in a sheet: foreign headers and numbers understood, every cell that is not named by row and column."""

from __future__ import annotations

import difflib
import math
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from pydantic import ValidationError

from hearthkeep.core.design import DarkDay, Load, Supply, Tier, merge_spans
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.loads import with_readings
from hearthkeep.core.loads.known_text import known_from, known_text, number, start_from, start_text
from hearthkeep.exchange.tables import Cell

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
    ("Id", "id"),
)
#: How a load is fed, as it stands in a cell.
SUPPLY_WORDS = {
    Supply.AC: "AC",
    Supply.AC_240: "AC 240 V",
    Supply.DC: "DC",
    Supply.DC_CONVERTED: "DC converter",
}
#: An empty cell of these empties the field; an empty cell of any other leaves it as it is.
_MAY_BE_EMPTY = (
    "start_w",
    "link",
    "known",
    "start_known",
    "flexible_h",
    "converter_efficiency_frac",
    "substitute_name",
    "month_factors",
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
    "id": ("id", "key"),
}
#: Watts called by the name of a rate of watts.
_PER_HOUR = re.compile(r"^(k?)w(att)?s?\s*(/|per)\s*h(our|r)?s?$")
_IGNORED = ("wh day", "wh", "wh per day", "kwh", "kwh day", "without it", "daily wh", "total wh")
_SPANS = re.compile(r"^\d{1,2}-\d{1,2}(\s*,\s*\d{1,2}-\d{1,2})*$")


class RowFate(StrEnum):
    """What taking a row would do."""

    NEW = "new"
    CHANGED = "changed"
    SAME = "same"
    FAULTY = "faulty"


@dataclass(frozen=True, kw_only=True, slots=True)
class CellProblem:
    """One cell that cannot be used."""

    #: Row of the file, counted from 1, header included.
    row: int
    column: str
    read: str
    expected: str


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
                _percent(load.duty_frac),
                ", ".join(f"{start}-{end}" for start, end in load.hours) or "never",
                SUPPLY_WORDS[load.supply],
                load.standby_w,
                load.link or "",
                known_text(load.known),
                start_text(load.start_known),
                "" if load.flexible_h is None else load.flexible_h,
                "" if load.converter_efficiency_frac is None else _percent(load.converter_efficiency_frac),
                "stops" if load.stops_when_away else "runs",
                load.dark_day.value.title(),
                load.substitute_name or "",
                load.substitute_w,
                "" if load.month_factors is None else " ".join(number(_percent(part)) for part in load.month_factors),
                load.id,
            ]
        )
    return rows


def read_sheet(rows: Sequence[Sequence[Cell]], existing: Sequence[Load]) -> SheetPreview:
    """Understand a sheet and compare it with the loads there are."""
    notes: list[str] = []
    fields, first = _fields(rows, notes)
    comma = _has_decimal_commas(rows)
    if comma:
        notes.append("Commas in numbers are read as decimal commas.")
    by_id = {load.id: load for load in existing}
    by_name = {load.name.casefold(): load for load in existing}
    taken: set[str] = set()
    result = []
    for index in range(first, len(rows)):
        reading = _RowReading(number=index + 1, comma=comma, notes=notes)
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


def _has_decimal_commas(rows: Sequence[Sequence[Cell]]) -> bool:
    return any(isinstance(cell, str) and re.match(r"^\d+,(\d{1,2}|\d{4,})$", cell) for row in rows for cell in row)


class _CellError(ValueError):
    """What was expected of a cell."""


class _RowReading:
    """One row while its cells are read."""

    def __init__(self, *, number: int, comma: bool, notes: list[str]) -> None:
        self.number, self.comma, self.notes = number, comma, notes
        self.values: dict[str, Any] = {}
        self.titles: dict[str, str] = {}
        self.problems: list[CellProblem] = []

    def take(self, field: str, title: str, cell: Cell) -> None:
        self.titles[field] = title
        # A leading apostrophe says that what follows is text, even if it looks like a formula.
        is_literal = isinstance(cell, str) and cell.startswith("'")
        cell = cell[1:] if isinstance(cell, str) and is_literal else cell
        if cell == "":
            if field in _MAY_BE_EMPTY:
                self.values[field] = None
            return
        try:
            if isinstance(cell, str) and cell.startswith("=") and not is_literal:
                raise _CellError("a value; a formula is not followed")
            self.values[field] = _READERS[field](self, cell)
        except _CellError as error:
            self.wrong(title, cell, str(error))

    def wrong(self, column: str, read: Cell, expected: str) -> None:
        shown = str(read)
        self.problems.append(
            CellProblem(
                row=self.number, column=column, read=shown if len(shown) <= 60 else f"{shown[:57]}…", expected=expected
            )
        )

    def number_from(self, cell: Cell) -> float:
        if isinstance(cell, float | int):
            return float(cell)
        text = (
            re.sub(r"\s*(w|watts?|%|h)$", "", cell.strip(), flags=re.IGNORECASE).replace("\u00a0", "").replace(" ", "")
        )
        if "," in text and "." in text:
            decimal = max(text.rfind(","), text.rfind("."))
            text = re.sub(r"[.,]", "", text[:decimal]) + "." + text[decimal + 1 :]
        elif self.comma:
            text = text.replace(",", ".")
        else:
            text = re.sub(r",(?=\d{3}\b)", "", text)
        try:
            number = float(text)
        except ValueError:
            raise _CellError("a number") from None
        if not math.isfinite(number):
            raise _CellError("a number")
        return number

    def finished(self, by_id: dict[str, Load], by_name: dict[str, Load], taken: set[str]) -> SheetRow:
        """Validate, and tell new from changed from same."""
        name = str(self.values.get("name", ""))
        known = by_id.get(str(self.values.get("id", ""))) or by_name.get(name.casefold())
        key = known.id if known else str(self.values.get("id") or _id_from(name))
        while key in taken or (known is None and key in by_id):
            key, known = f"{key[:34]}-{len(taken) + 1}", None
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


def _id_from(name: str) -> str:
    stem = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:30]
    return stem or "load"


def _read_tier(reading: _RowReading, cell: Cell) -> Tier:
    word = str(cell).strip().casefold()
    names = [tier.value for tier in Tier]
    if word in names:
        return Tier(word)
    near = difflib.get_close_matches(word, names, n=1, cutoff=0.5)
    hint = f"; did you mean {near[0].title()}?" if near else ""
    raise _CellError(f"Life, Keep, Ease or Spare{hint}")


def _read_supply(reading: _RowReading, cell: Cell) -> Supply:
    word = re.sub(r"[\s,]+", " ", str(cell)).strip().casefold()
    for supply, words in SUPPLY_WORDS.items():
        if word in (words.casefold(), supply.value):
            return supply
    raise _CellError(", ".join(SUPPLY_WORDS.values()))


def _read_reading(reader: Callable[[str], Any], cell: Cell) -> Any:
    try:
        return reader(str(cell))
    except ValueError as error:
        raise _CellError(str(error)) from None


def _read_away(reading: _RowReading, cell: Cell) -> bool:
    word = str(cell).strip().casefold()
    if word not in ("stops", "runs"):
        raise _CellError("stops or runs")
    return word == "stops"


def _read_dark_day(reading: _RowReading, cell: Cell) -> DarkDay:
    try:
        return DarkDay(str(cell).strip().casefold())
    except ValueError:
        raise _CellError("Keep, Drop or Substitute") from None


def _read_months(reading: _RowReading, cell: Cell) -> tuple[float, ...]:
    parts = str(cell).split()
    if len(parts) != 12:
        raise _CellError("twelve percentages, January first, with spaces between")
    return tuple(_part(reading.number_from(part)) for part in parts)


def _read_fraction(reading: _RowReading, cell: Cell) -> float:
    return _part(reading.number_from(cell))


def _part(percent: float) -> float:
    # Nine digits are kept of a part; what lies beyond is the noise of the division.
    return round(percent / 100, 12)


def _percent(fraction: float) -> float:
    return round(fraction * 100, 10)


def _read_hours(reading: _RowReading, cell: Cell) -> tuple[tuple[int, int], ...]:
    text = str(cell).strip().casefold().replace("–", "-")
    if text in ("never", "none"):
        return ()
    if text in ("all day", "always", "24/7"):
        return ((0, 24),)
    if _SPANS.match(text):
        spans = []
        for part in text.split(","):
            start, end = (int(hour) for hour in part.split("-"))
            if start == end or start > 24 or end > 24:
                raise _CellError("hours of 0 to 24 such as 7-8, 17-18")
            spans += [(start, end)] if start < end else [span for span in ((start, 24), (0, end)) if span[0] < span[1]]
        return merge_spans(tuple(spans))
    try:
        hours = reading.number_from(cell)
    except _CellError:
        raise _CellError("hours of 0 to 24 such as 7-8, 17-18, or a number of hours a day") from None
    if not 0 <= hours <= 24:
        raise _CellError("0 to 24 hours a day")
    # Which hours is not said, so the energy is spread over the day as a duty.
    reading.values["duty_frac"] = float(reading.values.get("duty_frac", 1.0)) * hours / 24
    reading.notes.append(
        "A number of hours a day is spread over the day as a duty, since the sheet does not say which hours."
    )
    return ((0, 24),)


def _read_duty(reading: _RowReading, cell: Cell) -> float:
    return _part(reading.number_from(cell)) * float(reading.values.get("duty_frac", 1.0))


def _read_count(reading: _RowReading, cell: Cell) -> int:
    number = reading.number_from(cell)
    if number != int(number):
        raise _CellError("a whole number")
    return int(number)


def _read_text(reading: _RowReading, cell: Cell) -> str:
    return f"{cell:g}" if isinstance(cell, float) else cell


_READERS: dict[str, Callable[[_RowReading, Cell], Any]] = {
    "name": _read_text,
    "tier": _read_tier,
    "quantity": _read_count,
    "running_w": _RowReading.number_from,
    "start_w": _RowReading.number_from,
    "duty_frac": _read_duty,
    "hours": _read_hours,
    "supply": _read_supply,
    "standby_w": _RowReading.number_from,
    "link": _read_text,
    "known": lambda reading, cell: _read_reading(known_from, cell),
    "start_known": lambda reading, cell: _read_reading(start_from, cell),
    "flexible_h": _read_count,
    "converter_efficiency_frac": _read_fraction,
    "stops_when_away": _read_away,
    "dark_day": _read_dark_day,
    "substitute_name": _read_text,
    "substitute_w": _RowReading.number_from,
    "month_factors": _read_months,
    "id": _read_text,
}
