"""Logs in foreign files: CSV with whatever columns, each given a quantity; hundreds of thousands of rows in seconds."""

from __future__ import annotations

import csv
import hashlib
import io
import re
import warnings
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from hearthkeep.core.design import LONGEST_NAME, DesignPart, Line
from hearthkeep.core.logbook import QUANTITIES, Quantity
from hearthkeep.exchange.tables import SheetError

if TYPE_CHECKING:
    import pandas as pd

#: Largest log file, most rows and columns of one.
MAX_LOG_BYTES, MAX_LOG_ROWS, MAX_LOG_COLUMNS = 64_000_000, 1_000_000, 60
SAMPLES = 3
#: Cells beyond the columns that a row is read with, so that it can be said what is in them.
SPARE_CELLS = 8
_SKIPPED = re.compile(r"Skipping line \d+")
_TIME_NAMES = ("time", "timestamp", "date time", "datetime", "date and time", "when", "at", "moment")
_DATE_NAMES = ("date", "day")
Ints = NDArray[np.int64]
Floats = NDArray[np.float64]


class ColumnUse(DesignPart):
    """What a column is taken for."""

    column: Line
    #: It holds the moment, or its day or hour; such columns are read together in their order.
    is_time: bool = False
    #: None leaves the column out.
    quantity: Quantity | None = None
    #: Which instrument or group of loads.
    part: Line = ""
    #: What its numbers are multiplied by: −1 where drawing counts as plus, 1000 for kilowatts.
    factor: Annotated[float, Field(strict=True, ge=-1e6, le=1e6)] = 1.0


@dataclass(frozen=True, kw_only=True, slots=True)
class LogColumn:
    """One column of a log as it stands."""

    name: str
    samples: tuple[str, ...]
    use: ColumnUse


@dataclass(frozen=True, kw_only=True, slots=True)
class LogPreview:
    """A log before it is taken."""

    rows: int
    columns: tuple[LogColumn, ...]
    #: Mark of its column names, by which the uses chosen for them are remembered.
    header: str
    #: The uses are those of an earlier log with the same columns.
    is_remembered: bool
    #: Rows with more cells than there are columns, which are left out, and the first of them by number and text.
    left_out: int
    first_left_out: str


@dataclass(frozen=True, kw_only=True, slots=True)
class LogSeries:
    """One quantity of one part: UTC microseconds since 1970, ascending and each once, and values; (n,) each."""

    quantity: Quantity
    part: str
    at_us: Ints
    values: Floats


@dataclass(frozen=True, kw_only=True, slots=True)
class LogTaken:
    """What a log came to."""

    series: tuple[LogSeries, ...]
    #: Mark of its column names.
    header: str
    rows: int
    #: Rows with more cells than there are columns, which are left out, and the first of them by number and text.
    left_out: int
    first_left_out: str
    #: Rows whose moment could not be read, the first of them by number and text.
    without_time: int
    first_bad_time: str
    #: Cells that hold no number, and numbers outside the quantity's range, by column.
    not_numbers: Mapping[str, int]
    outside: Mapping[str, int]


def preview_log(content: bytes, remembered: Mapping[str, Sequence[ColumnUse]] | None = None) -> LogPreview:
    """The columns of a log with what each is taken for; `remembered` holds uses by the mark of a header."""
    table = _frame(content)
    frame = table.frame
    names = [str(name) for name in frame.columns]
    header = header_mark(names)
    known = {use.column: use for use in (remembered or {}).get(header, ())}
    columns = tuple(
        LogColumn(
            name=name,
            samples=tuple(str(value) for value in frame[name].head(SAMPLES)),
            use=known.get(name) or _guess(name),
        )
        for name in names
    )
    if not known:
        columns = _once(columns)
    return LogPreview(
        rows=len(frame),
        columns=columns,
        header=header,
        is_remembered=bool(known),
        left_out=table.left_out,
        first_left_out=table.first_left_out,
    )


def header_mark(names: Sequence[str]) -> str:
    """A mark of column names."""
    return hashlib.sha256("\x1f".join(names).encode()).hexdigest()[:32]


def take_log(content: bytes, uses: Sequence[ColumnUse], *, utc_offset_h: float, day_first: bool) -> LogTaken:
    """Read a log by the uses of its columns.

    :param utc_offset_h: of the site; moments without an offset are its local standard time.
    :param day_first: whether 03/04 is the third of April.
    :raises SheetError: it is no table, a column is missing, or no moment can be read.
    """
    table = _frame(content)
    frame = table.frame
    missing = [use.column for use in uses if use.column not in frame.columns]
    if missing:
        raise SheetError(f"The file has no column {', '.join(missing[:5])}.")
    times = [use.column for use in uses if use.is_time]
    wanted = [use for use in uses if use.quantity is not None and not use.is_time]
    if not times or not wanted:
        what = "the moment" if not times else "a quantity"
        raise SheetError(f"No column is taken for {what}: choose one.")
    at_us, good = _moments(frame, times, utc_offset_h, day_first)
    if not good.any():
        shown = " ".join(str(frame[name].iloc[0]) for name in times)
        raise SheetError(f"No moment can be read from '{shown[:60]}': expected one such as 2026-01-12 17:00.")
    bad = np.flatnonzero(~good)
    first_bad = (
        ""
        if not bad.size
        else f"row {frame.index[bad[0]] + table.first_row}: '{' '.join(str(frame[name].iloc[bad[0]]) for name in times)[:60]}'"
    )
    series, not_numbers, outside = [], {}, {}
    for use in wanted:
        values, unread = _numbers(frame[use.column])
        assert use.quantity is not None
        info = QUANTITIES[use.quantity]
        with np.errstate(invalid="ignore", over="ignore"):
            values = values * use.factor
            inside = (values >= info.low) & (values <= info.high)
        if unread:
            not_numbers[use.column] = unread
        out = int((~np.isnan(values) & ~inside).sum())
        if out:
            outside[use.column] = out
        kept = good & inside
        series.append(_sorted(use, at_us[kept], values[kept]))
    return LogTaken(
        series=_joined(series),
        header=header_mark([str(name) for name in frame.columns]),
        rows=len(frame),
        left_out=table.left_out,
        first_left_out=table.first_left_out,
        without_time=int(bad.size),
        first_bad_time=first_bad,
        not_numbers=not_numbers,
        outside=outside,
    )


@dataclass(frozen=True, slots=True)
class _Table:
    """A log as a table of texts, and the rows with more cells than there are columns, which are left out."""

    #: Its index counts the rows as they stand in the file, the ones left out among them.
    frame: pd.DataFrame
    #: Number of the first row below the names, counted from 1.
    first_row: int
    left_out: int
    first_left_out: str


def _frame(content: bytes) -> _Table:
    import pandas as pd

    if len(content) > MAX_LOG_BYTES:
        raise SheetError(f"A log may hold at most {MAX_LOG_BYTES // 1_000_000} MB (got {len(content) / 1e6:.0f} MB).")
    if b"\x00" in content[:4096]:
        raise SheetError("This is not text. Save the log as CSV and take that.")
    first = content[:100_000].decode("utf-8-sig", "replace").splitlines()
    above = next((number for number, line in enumerate(first) if line.strip()), 0)
    first = first[above:]
    if sum(bool(line.strip()) for line in first[:50]) < 2:
        raise SheetError("A log needs a row of column names and at least one row below it.")
    separator = max("\t;,|", key=first[0].count)
    names = _names(next(csv.reader(first[:1], delimiter=separator), []))
    try:
        with warnings.catch_warnings(record=True) as said:
            warnings.simplefilter("always")
            frame = pd.read_csv(
                io.BytesIO(content), sep=separator, dtype=str, keep_default_na=False, nrows=MAX_LOG_ROWS + 1, index_col=False,
                header=None, skiprows=above + 1, names=range(len(names) + SPARE_CELLS), encoding="utf-8-sig",
                encoding_errors="replace", skip_blank_lines=True, on_bad_lines="warn", engine="c",
            )  # fmt: skip
    except (pd.errors.ParserError, pd.errors.EmptyDataError, ValueError) as error:
        raise SheetError(f"The log cannot be read as a table: {str(error).splitlines()[0][:120]}.") from error
    if len(frame) > MAX_LOG_ROWS:
        raise SheetError(f"A log may hold at most {MAX_LOG_ROWS:,} rows; split it.")
    frame = frame.fillna("")
    # Rows may end in separators; what stands in a cell without a column would be taken for another's.
    beyond = frame.iloc[:, len(names) :]
    longer = (beyond != "").any(axis=1).to_numpy() if beyond.shape[1] else np.zeros(len(frame), dtype=bool)
    skipped = sum(len(_SKIPPED.findall(str(entry.message))) for entry in said)
    left_out = int(longer.sum()) + skipped
    first_left_out = ""
    if longer.any():
        row = int(np.flatnonzero(longer)[0])
        first_left_out = f"row {row + above + 2}: '{separator.join(frame.iloc[row])[:60]}'"
    frame = frame.loc[~longer, : len(names) - 1]
    if len(frame) == 0:
        raise SheetError("A log needs a row of column names and at least one row below it.")
    frame.columns = names
    return _Table(frame, above + 2, left_out, first_left_out)


def _names(cells: Sequence[str]) -> list[str]:
    """Names of columns, trimmed, each once; cells without a name at the end of the row are none. Raises SheetError for too many."""
    names = [re.sub(r"[\x00-\x1f\x7f]", " ", cell).strip()[: LONGEST_NAME - 10] for cell in cells]
    while names and not names[-1]:
        names.pop()
    if len(names) > MAX_LOG_COLUMNS:
        raise SheetError(f"A log may hold at most {MAX_LOG_COLUMNS} columns (got {len(names)}).")
    found: list[str] = []
    for name in names:
        number, unique = 1, name
        while unique in found:
            number += 1
            unique = f"{name} ({number})"
        found.append(unique)
    return found


def _words(name: str) -> str:
    """A column's name in lower-case words, its unit in brackets left out."""
    bare = re.sub(r"[\[(].*?[\])]", " ", name.lower())
    return " ".join(re.findall(r"[a-z0-9]+", bare))


def _guess(name: str) -> ColumnUse:
    words = _words(name)
    if words in _TIME_NAMES or words in _DATE_NAMES:
        return ColumnUse(column=name, is_time=True)
    unit = (re.findall(r"[\[(](.*?)[\])]", name) or [""])[-1].strip().lower()
    factor = 1000.0 if unit == "kw" or re.search(r"\bkw\b", words) else 1.0
    for info in QUANTITIES.values():
        if words in info.names or words == info.quantity.value.replace("_", " "):
            return ColumnUse(column=name, quantity=info.quantity, factor=factor)
    best = max(
        ((len(alias), info.quantity) for info in QUANTITIES.values() for alias in info.names
         if len(alias) > 3 and re.search(rf"\b{re.escape(alias)}\b", words)),
        default=None,
    )  # fmt: skip
    return ColumnUse(column=name, quantity=None if best is None else best[1], factor=factor if best else 1.0)


def _once(columns: tuple[LogColumn, ...]) -> tuple[LogColumn, ...]:
    """Of several columns taken for one quantity the later ones are told apart by their own names."""
    seen: set[Quantity] = set()
    found = []
    for column in columns:
        quantity = column.use.quantity
        if quantity is not None and quantity in seen:
            column = replace(column, use=column.use.model_copy(update={"part": column.name}))
        if quantity is not None:
            seen.add(quantity)
        found.append(column)
    return tuple(found)


def _moments(
    frame: pd.DataFrame, columns: Sequence[str], utc_offset_h: float, day_first: bool
) -> tuple[Ints, NDArray[np.bool_]]:
    """UTC microseconds since 1970, and which rows have a moment."""
    import pandas as pd

    text = frame[columns[0]].str.strip()
    for name in columns[1:]:
        text = text + " " + frame[name].str.strip()
    plain = pd.to_numeric(text, errors="coerce")
    if plain.notna().mean() > 0.5:
        # Seconds or milliseconds since 1970.
        scale = 1e3 if float(plain.median()) > 1e11 else 1e6
        stamps = (plain * scale).to_numpy()
        good = np.isfinite(stamps) & (stamps > 0) & (stamps < 4.2e15)
        return np.where(good, stamps, 0).astype(np.int64), good
    sample = text.iloc[0]
    iso = bool(re.match(r"\d{4}-", sample))
    has_offset = bool(re.search(r"(Z|[+-]\d{2}:?\d{2})$", sample))
    first = not iso and day_first
    found = _stamps(text, has_offset, first, None)
    if found.isna().mean() > 0.5:
        found = _stamps(text, has_offset, first, "mixed")
    good = found.notna().to_numpy() & (found.dt.year.between(1990, 2100)).to_numpy()
    if has_offset:
        found = found.dt.tz_localize(None)
    stamps = found.to_numpy().astype("datetime64[us]").astype(np.int64)
    shift = 0 if has_offset else round(utc_offset_h * 3_600_000_000)
    return np.where(good, stamps - shift, 0), good


def _stamps(text: pd.Series[str], has_offset: bool, day_first: bool, kind: str | None) -> pd.Series[pd.Timestamp]:
    """Moments of a column, none where there is none."""
    import pandas as pd

    with warnings.catch_warnings():
        # Said when a form is guessed row by row; rows that fit none are counted.
        warnings.simplefilter("ignore")
        try:
            return pd.Series(pd.to_datetime(text, errors="coerce", utc=has_offset, dayfirst=day_first, format=kind))
        except (ValueError, OverflowError):
            return pd.Series(pd.NaT, index=text.index, dtype="datetime64[ns]")


def _numbers(column: pd.Series[str]) -> tuple[Floats, int]:
    """Numbers of a column, nothing where there is none; and how many cells hold something else."""
    import pandas as pd

    text = column.str.strip()
    values = pd.to_numeric(text, errors="coerce")
    filled = text.str.len() > 0
    unread = filled & values.isna()
    if unread.any():
        again = text[unread].str.replace("\u2212", "-").str.replace(r"\s*[A-Za-z%°/²]+$", "", regex=True)
        commas = again.str.count(",")
        again = again.where(commas != 1, again.str.replace(",", "."))
        values = values.where(~unread, pd.to_numeric(again, errors="coerce").reindex(values.index))
    numbers = np.array(values, dtype=float)
    numbers[~np.isfinite(numbers)] = np.nan
    return numbers, int((filled.to_numpy() & np.isnan(numbers)).sum())


def _sorted(use: ColumnUse, at_us: Ints, values: Floats) -> LogSeries:
    assert use.quantity is not None
    order = np.argsort(at_us, kind="stable")
    at_us, values = at_us[order], values[order]
    # Of several readings of one moment the last counts.
    last = np.append(at_us[1:] != at_us[:-1], True) if at_us.size else np.zeros(0, dtype=bool)
    return LogSeries(quantity=use.quantity, part=use.part.strip(), at_us=at_us[last], values=values[last])


def _joined(series: Sequence[LogSeries]) -> tuple[LogSeries, ...]:
    """Columns that were taken for the same quantity of the same part are one series."""
    keys = dict.fromkeys((each.quantity, each.part) for each in series)
    found = []
    for quantity, part in keys:
        same = [each for each in series if (each.quantity, each.part) == (quantity, part)]
        at_us = np.concatenate([each.at_us for each in same])
        values = np.concatenate([each.values for each in same])
        use = ColumnUse(column="", quantity=quantity, part=part)
        found.append(_sorted(use, at_us, values))
    return tuple(found)
