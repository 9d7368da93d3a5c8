"""Library units as CSV: a column a field, its name with the unit; faulty rows are named and the rest is taken."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel, TypeAdapter, ValidationError

from hearthkeep.core.design import CyclePoint
from hearthkeep.core.errors import HearthKeepError
from hearthkeep.core.numbers import Commas, read_number
from hearthkeep.exchange.tables import CellProblem, guarded, unguarded

MAX_UNITS = 10_000
#: Written as 0.5:1600 0.8:700.
POINTS = "cycle_points"
_CHOICES = ("chemistry", "output", "build", "waveform", "name", "library_id")


class UnitSheetError(HearthKeepError):
    """A text that is not a sheet of units."""

    code, title = "SHEET", "The sheet cannot be read"
    fix = "Save the sheet as CSV with the columns that the library gives out, and try again."


@dataclass(frozen=True, kw_only=True, slots=True)
class UnitSheet:
    """What was read of a sheet."""

    units: tuple[BaseModel, ...]
    problems: tuple[CellProblem, ...]


def columns(model: type[BaseModel]) -> list[str]:
    """The columns of a kind of unit, key and name first."""
    fields = list(model.model_fields)
    return ["library_id", "name", *(field for field in fields if field not in ("library_id", "name"))]


def write_units(model: type[BaseModel], units: Sequence[BaseModel]) -> bytes:
    """CSV with a header; an empty cell is an empty field."""
    titles = columns(model)
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(titles)
    for unit in units:
        values = unit.model_dump(mode="json")
        writer.writerow([_shown(title, values[title]) for title in titles])
    return out.getvalue().encode("utf-8-sig")


def _shown(title: str, value: Any) -> str:
    if value is None:
        return ""
    if title == POINTS:
        return " ".join(f"{point['depth_frac']!r}:{point['cycles']!r}" for point in value)
    if isinstance(value, float):
        return repr(value).removesuffix(".0")
    return guarded(str(value))


def read_units(adapter: TypeAdapter[Any], model: type[BaseModel], text: str) -> UnitSheet:
    """Read units; every cell that cannot be used is named by row and column, and its row is left out."""
    try:
        # A line ends as it does anywhere, by a bare carriage return as well.
        rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=None)))
    except csv.Error as error:
        raise UnitSheetError(f"The text cannot be split into cells: {error}.") from error
    titles = [title.strip() for title in rows[0]] if rows else []
    known = columns(model)
    if "name" not in titles:
        raise UnitSheetError(f"The first row names the columns, with at least name among them: {', '.join(known)}.")
    unknown = [title for title in titles if title and title not in known]
    if unknown:
        raise UnitSheetError(f"Columns that are not known: {', '.join(unknown[:8])}. Known are {', '.join(known)}.")
    if len(rows) - 1 > MAX_UNITS:
        raise UnitSheetError(f"A sheet may hold at most {MAX_UNITS:,} units (got {len(rows) - 1:,}).")
    units: dict[str, BaseModel] = {}
    problems: list[CellProblem] = []
    for number, row in enumerate(rows[1:], start=2):
        if not any(cell.strip() for cell in row):
            continue
        values, wrong = _values(titles, row, number)
        if not wrong:
            values.setdefault("library_id", f"row-{number}")
            try:
                unit = adapter.validate_python(values)
                units[str(values["library_id"])] = unit
            except ValidationError as error:
                wrong = [_problem(number, detail) for detail in error.errors(include_url=False)]
        problems += wrong
    return UnitSheet(units=tuple(units.values()), problems=tuple(problems))


def _values(titles: Sequence[str], row: Sequence[str], number: int) -> tuple[dict[str, Any], list[CellProblem]]:
    values: dict[str, Any] = {}
    wrong: list[CellProblem] = []
    for title, cell in zip(titles, row, strict=False):
        text = cell.strip()
        if not text or not title:
            continue
        try:
            values[title] = _read(title, text)
        except ValueError as error:
            wrong.append(CellProblem(row=number, column=title, read=text[:60], expected=str(error)))
    return values, wrong


def _read(title: str, text: str) -> Any:
    if title == POINTS:
        return _points(text)
    if title in _CHOICES:
        return unguarded(text)
    number = read_number(text, Commas.UNSURE)
    return int(number) if title.startswith("max_") and number == int(number) else number


def _points(text: str) -> tuple[CyclePoint, ...]:
    try:
        pairs = [part.split(":") for part in text.split()]
        return tuple(CyclePoint(depth_frac=float(depth), cycles=float(cycles)) for depth, cycles in pairs)
    except (ValueError, ValidationError):
        raise ValueError("depths and cycles such as 0.5:1600 0.8:700") from None


def _problem(number: int, detail: Any) -> CellProblem:
    column = str(detail["loc"][0]) if detail["loc"] else "row"
    read = "nothing" if detail["type"] == "missing" else str(detail.get("input"))[:60]
    return CellProblem(row=number, column=column, read=read, expected=_expected(detail))


def _expected(detail: Any) -> str:
    message = str(detail["msg"])
    return message[0].lower() + message[1:]
