"""Tables in foreign files: CSV, rows copied from a sheet, XLSX workbooks. In as plain cells, out as bytes."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font

from hearthkeep.core.errors import HearthKeepError

#: A cell as it stands in the file: text, or a number that needs no reading.
Cell = str | float

MAX_ROWS, MAX_COLUMNS = 1_000, 40
#: Rows of a workbook that are looked at, empty ones among them; a row may say that it is the two-thousand-millionth.
MAX_ROWS_LOOKED_AT = 20_000
#: Longest row of a text [characters]; the reader of cells gives up beyond twice this.
MAX_LINE = 60_000
#: A workbook is a zip archive; one that would unpack to more than this is refused unopened [bytes].
MAX_UNPACKED_BYTES = 30_000_000
#: Old and password-protected workbooks are compound files, which begin so.
_COMPOUND_FILE = b"\xd0\xcf\x11\xe0"


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


class SheetError(HearthKeepError):
    """A file that cannot be read as a table; the message says what to do."""

    code, title = "SHEET", "The sheet cannot be read"
    fix = "Save the sheet as CSV or XLSX, or copy its rows from the spreadsheet."


def read_text(text: str) -> list[list[Cell]]:
    """Rows of CSV, or of text copied from a sheet; the separator is found from the text."""
    if "\x00" in text:
        raise SheetError("This is not text. Save the sheet as CSV or XLSX and open that.")
    lines = [line for line in text.splitlines() if line.strip()]
    if any(len(line) > MAX_LINE for line in lines):
        raise SheetError(f"A row may hold at most {MAX_LINE:,} characters.")
    if len(lines) > MAX_ROWS:
        raise SheetError(f"A sheet may hold at most {MAX_ROWS:,} rows (got {len(lines):,}).")
    try:
        # The separator that cuts the first row into most cells; a name may hold any of the others.
        first = {mark: len(next(csv.reader(lines[:1], delimiter=mark), [])) for mark in ("\t", ";", ",")}
        separator = max(first, key=lambda mark: first[mark])
        rows = list(csv.reader(lines, delimiter=separator))
    except csv.Error as error:
        raise SheetError(f"The text cannot be split into cells: {error}.") from error
    return [[cell.strip() for cell in row[:MAX_COLUMNS]] for row in rows]


def read_workbook(content: bytes) -> list[list[Cell]]:
    """Rows of the first sheet of an XLSX workbook. A formula comes as its text, beginning with '='."""
    if content.startswith(_COMPOUND_FILE):
        raise SheetError("The workbook is protected by a password or in the old XLS format. Save it as plain XLSX.")
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            unpacked = sum(entry.file_size for entry in archive.infolist())
    except MemoryError:
        raise
    except Exception as error:
        # Not a zip archive, or one of a version or with a directory that nothing writes.
        raise SheetError("This is not an XLSX workbook.") from error
    if unpacked > MAX_UNPACKED_BYTES:
        raise SheetError(f"The workbook unpacks to {unpacked:,} bytes; at most {MAX_UNPACKED_BYTES:,} are read.")
    try:
        workbook = load_workbook(io.BytesIO(content), read_only=True, data_only=False)
        sheet = workbook.worksheets[0]
        rows: list[list[Cell]] = []
        for number, values in enumerate(sheet.iter_rows(max_col=MAX_COLUMNS, values_only=True), start=1):
            if number > MAX_ROWS_LOOKED_AT:
                raise SheetError(f"The sheet goes on beyond row {MAX_ROWS_LOOKED_AT:,}; take the empty rows out.")
            row = [_cell(value) for value in values]
            if any(cell != "" for cell in row):
                rows.append(row)
            if len(rows) > MAX_ROWS:
                raise SheetError(f"A sheet may hold at most {MAX_ROWS:,} rows.")
        workbook.close()
    except (SheetError, MemoryError):
        raise
    except Exception as error:
        # Whatever a reader of foreign bytes stumbles over is the file's fault: broken XML, deflate, references, dates.
        raise SheetError("The workbook is damaged or is not one: its first sheet cannot be read.") from error
    return rows


def _cell(value: object) -> Cell:
    if value is None:
        return ""
    if isinstance(value, bool):
        return str(value)
    if isinstance(value, int | float):
        return float(value)
    return str(value).strip()[:2_000]


def write_csv(rows: Sequence[Sequence[Cell]]) -> bytes:
    """CSV with a byte order mark, so that spreadsheets read its letters right."""
    out = io.StringIO()
    csv.writer(out).writerows([[_safe(cell) for cell in row] for row in rows])
    return out.getvalue().encode("utf-8-sig")


def write_xlsx(rows: Sequence[Sequence[Cell]], title: str) -> bytes:
    """A workbook of one sheet with a bold first row."""
    return write_workbook({title: rows})


def write_workbook(sheets: Mapping[str, Sequence[Sequence[Cell]]]) -> bytes:
    """A workbook of several sheets by their titles, each with a bold first row."""
    workbook = Workbook()
    workbook.remove(workbook.active)
    for title, rows in sheets.items():
        sheet = workbook.create_sheet(title)
        for row in rows:
            sheet.append([_safe(cell) for cell in row])
        for cell in sheet[1]:
            cell.font = Font(bold=True)
        sheet.freeze_panes = "A2"
        sheet.column_dimensions["A"].width = 32
    out = io.BytesIO()
    workbook.save(out)
    return out.getvalue()


#: What a spreadsheet takes for the beginning of a formula; an apostrophe before it says that it is text.
_RUN = "=+-@\t"
_AFTER_SEMICOLON = re.compile(rf"(;\s*)(?=[{re.escape(_RUN)}'])")
_GUARDED = re.compile(rf"(;\s*)'(?=[{re.escape(_RUN)}'])")


def guarded(text: str) -> str:
    """Text that a spreadsheet would run as a formula, kept as text by an apostrophe.

    Where the semicolon parts cells, as in many countries, what follows one begins a cell of its own.

    >>> guarded("=1+1"), guarded("lamp; =1+1"), guarded("lamp; fan")
    ("'=1+1", "lamp; '=1+1", 'lamp; fan')
    """
    inside = _AFTER_SEMICOLON.sub(r"\1'", text)
    return f"'{inside}" if text[:1] and text[0] in f"{_RUN}'" else inside


def unguarded(text: str) -> str:
    """The text as it was before `guarded`."""
    return _GUARDED.sub(r"\1", text[1:] if text.startswith("'") else text)


def _safe(cell: Cell) -> Cell:
    return guarded(cell) if isinstance(cell, str) else cell
