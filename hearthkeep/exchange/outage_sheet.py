"""Past outages from a sheet: start, and end or length; every cell that cannot be used named by row and column."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from hearthkeep.core.design import LONGEST_OUTAGE_H, RecordedOutage
from hearthkeep.exchange.tables import Cell, CellProblem, SheetError

_SYNONYMS: dict[str, tuple[str, ...]] = {
    "start": ("start", "begin", "began", "from", "off", "out", "start time", "outage start", "date"),
    "end": ("end", "until", "to", "back", "restored", "end time", "outage end"),
    "hours": ("hours", "h", "length h", "length", "duration", "duration h", "length hours"),
    "minutes": ("minutes", "min", "length min", "duration min"),
}
_MOMENT = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[ T](\d{1,2}):(\d{2})(?::\d{2})?)?$")
_A_MOMENT = "a date and time such as 2026-01-12 17:00, local standard time"


@dataclass(frozen=True, kw_only=True, slots=True)
class OutagePreview:
    """Past outages before they are taken."""

    outages: tuple[RecordedOutage, ...]
    problems: tuple[CellProblem, ...]
    #: From the first day of the first outage's year to the last day of the last one's, or to today [a].
    years: float


class _CellError(Exception):
    def __init__(self, column: str, read: str, expected: str) -> None:
        super().__init__(column)
        self.column, self.read, self.expected = column, read, expected


def read_outages(rows: Sequence[Sequence[Cell]], today: datetime) -> OutagePreview:
    """Understand a record of outages; good rows can be taken without the others."""
    rows = [row for row in rows if any(str(cell).strip() for cell in row)]
    fields, first = _fields(rows)
    found: list[tuple[int, RecordedOutage]] = []
    problems: list[CellProblem] = []
    for number, row in enumerate(rows[first:], start=first + 1):
        try:
            found.append((number, _outage(row, fields, today)))
        except _CellError as error:
            problems.append(CellProblem(row=number, column=error.column, read=error.read[:80], expected=error.expected))
    outages: list[RecordedOutage] = []
    before = 0
    for number, outage in sorted(found, key=lambda entry: entry[1].start):
        if outages and outage.start < outages[-1].end:
            expected = f"to begin after the outage of row {before} has ended"
            problems.append(
                CellProblem(row=number, column="start", read=f"{outage.start:%Y-%m-%d %H:%M}", expected=expected)
            )
            continue
        outages.append(outage)
        before = number
    return OutagePreview(
        outages=tuple(outages),
        problems=tuple(sorted(problems, key=lambda problem: problem.row)),
        years=_years(outages, today),
    )


def _years(outages: list[RecordedOutage], today: datetime) -> float:
    if not outages:
        return 1.0
    last = datetime(outages[-1].end.year + 1, 1, 1)
    days = (min(last, today) - datetime(outages[0].start.year, 1, 1)).days
    return round(max(days, 1) / 365.25, 2) or 0.01


def _fields(rows: Sequence[Sequence[Cell]]) -> tuple[dict[str, int], int]:
    """Column of each field, and the first row that holds an outage. Without a header: start, then end or hours."""
    if not rows:
        raise SheetError("There are no rows in it: each needs a start, and an end or a length.")
    header = [re.sub(r"[^a-z]+", " ", str(cell).lower()).strip() for cell in rows[0]]
    fields = {field: at for at, cell in enumerate(header) for field, names in _SYNONYMS.items() if cell in names}
    if "start" in fields:
        if not {"end", "hours", "minutes"} & set(fields):
            raise SheetError("Its header names no end and no length: a column called end, hours or minutes is needed.")
        return fields, 1
    second = str(rows[0][1]).strip() if len(rows[0]) > 1 else ""
    return {"start": 0, "end" if _MOMENT.match(second) else "hours": 1}, 0


def _outage(row: Sequence[Cell], fields: dict[str, int], today: datetime) -> RecordedOutage:
    def cell(field: str) -> str:
        at = fields.get(field)
        return "" if at is None or at >= len(row) else str(row[at]).strip()

    start = _moment("start", cell("start"))
    if start > today:
        raise _CellError("start", cell("start"), "a moment that has passed")
    if cell("end"):
        length_h, column = (_moment("end", cell("end")) - start).total_seconds() / 3600, "end"
    else:
        column = "hours" if cell("hours") or "minutes" not in fields else "minutes"
        length_h = _number(column, cell(column)) / (60 if column == "minutes" else 1)
    if not 0 < length_h <= LONGEST_OUTAGE_H:
        longest = f"a length above 0 and at most {LONGEST_OUTAGE_H:g} h"
        raise _CellError(column, cell(column), longest)
    return RecordedOutage(start=start, length_h=round(length_h, 6))


def _moment(column: str, text: str) -> datetime:
    match = _MOMENT.match(text)
    try:
        if match is None:
            raise ValueError(text)
        year, month, day, hour, minute = (int(part or 0) for part in match.groups())
        moment = datetime(year, month, day, hour, minute)
        if not 1950 <= moment.year <= 2100:
            raise ValueError(text)
    except ValueError:
        raise _CellError(column, text, _A_MOMENT) from None
    return moment


def _number(column: str, text: str) -> float:
    if not re.fullmatch(r"\d{1,9}([.,]\d{1,9})?", text):
        raise _CellError(column, text, "a number such as 6 or 6.5")
    return float(text.replace(",", "."))
