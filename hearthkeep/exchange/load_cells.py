"""The cells of a load sheet: what each column accepts, in the words and numbers of other people's sheets."""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable
from typing import Any

from hearthkeep.core.design import DarkDay, Supply, Tier, merge_spans
from hearthkeep.core.loads.known_text import known_from, start_from
from hearthkeep.core.numbers import Commas, NumberError, read_number
from hearthkeep.exchange.tables import Cell

#: How a load is fed, as it stands in a cell.
SUPPLY_WORDS = {
    Supply.AC: "AC",
    Supply.AC_240: "AC 240 V",
    Supply.DC: "DC",
    Supply.DC_CONVERTED: "DC converter",
    Supply.PANEL: "panel",
}
#: An empty cell of these empties the field; an empty cell of any other leaves it as it is.
MAY_BE_EMPTY = (
    "start_w",
    "link",
    "known",
    "start_known",
    "flexible_h",
    "converter_efficiency_frac",
    "substitute_name",
    "month_factors",
    "circuit",
    "rides_s",
)
_SPANS = re.compile(r"^\d{1,2}-\d{1,2}(\s*,\s*\d{1,2}-\d{1,2})*$")


class CellError(ValueError):
    """What was expected of a cell."""


#: Units that may stand behind a number in a cell.
_CELL_UNITS = ("watts", "watt", "w", "%", "h", "s")


class RowValues:
    """What has been read of a row, for cells whose meaning depends on others."""

    def __init__(self, *, commas: Commas, notes: list[str]) -> None:
        #: What a comma before three digits means in this sheet.
        self.commas = commas
        self.notes = notes
        self.values: dict[str, Any] = {}

    def number_from(self, cell: Cell) -> float:
        if isinstance(cell, float | int):
            return float(cell)
        text = cell.strip()
        for unit in _CELL_UNITS:
            if text.lower().endswith(unit):
                text = text[: -len(unit)].rstrip()
                break
        try:
            return read_number(text, self.commas)
        except NumberError as error:
            raise CellError(str(error)) from None


def _read_tier(reading: RowValues, cell: Cell) -> Tier:
    word = str(cell).strip().casefold()
    names = [tier.value for tier in Tier]
    if word in names:
        return Tier(word)
    near = difflib.get_close_matches(word, names, n=1, cutoff=0.5)
    hint = f"; did you mean {near[0].title()}?" if near else ""
    raise CellError(f"Life, Keep, Ease or Spare{hint}")


def _read_supply(reading: RowValues, cell: Cell) -> Supply:
    word = re.sub(r"[\s,]+", " ", str(cell)).strip().casefold()
    for supply, words in SUPPLY_WORDS.items():
        if word in (words.casefold(), supply.value):
            return supply
    raise CellError(", ".join(SUPPLY_WORDS.values()))


def _read_reading(reader: Callable[[str, Commas], Any], reading: RowValues, cell: Cell) -> Any:
    try:
        return reader(str(cell), reading.commas)
    except ValueError as error:
        raise CellError(str(error)) from None


def _read_away(reading: RowValues, cell: Cell) -> bool:
    word = str(cell).strip().casefold()
    if word not in ("stops", "runs"):
        raise CellError("stops or runs")
    return word == "stops"


def _read_wired(reading: RowValues, cell: Cell) -> bool:
    word = str(cell).strip().casefold()
    if word not in ("yes", "no"):
        raise CellError("yes or no")
    return word == "yes"


def _read_dark_day(reading: RowValues, cell: Cell) -> DarkDay:
    try:
        return DarkDay(str(cell).strip().casefold())
    except ValueError:
        raise CellError("Keep, Drop or Substitute") from None


def _read_months(reading: RowValues, cell: Cell) -> tuple[float, ...]:
    parts = str(cell).split()
    if len(parts) != 12:
        raise CellError("twelve percentages, January first, with spaces between")
    return tuple(_part(reading.number_from(part)) for part in parts)


def _read_fraction(reading: RowValues, cell: Cell) -> float:
    return _part(reading.number_from(cell))


def _part(percent: float) -> float:
    # Nine digits are kept of a part; what lies beyond is the noise of the division.
    return round(percent / 100, 12)


def percent_of(fraction: float) -> float:
    return round(fraction * 100, 10)


def _read_hours(reading: RowValues, cell: Cell) -> tuple[tuple[int, int], ...]:
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
                raise CellError("hours of 0 to 24 such as 7-8, 17-18")
            spans += [(start, end)] if start < end else [span for span in ((start, 24), (0, end)) if span[0] < span[1]]
        return merge_spans(tuple(spans))
    try:
        hours = reading.number_from(cell)
    except CellError as error:
        if str(error) != "a number":
            raise
        raise CellError("hours of 0 to 24 such as 7-8, 17-18, or a number of hours a day") from None
    if not 0 <= hours <= 24:
        raise CellError("0 to 24 hours a day")
    # Which hours is not said, so the energy is spread over the day as a duty.
    reading.values["duty_frac"] = float(reading.values.get("duty_frac", 1.0)) * hours / 24
    reading.notes.append(
        "A number of hours a day is spread over the day as a duty, since the sheet does not say which hours."
    )
    return ((0, 24),)


def _read_duty(reading: RowValues, cell: Cell) -> float:
    return _part(reading.number_from(cell)) * float(reading.values.get("duty_frac", 1.0))


def _read_count(reading: RowValues, cell: Cell) -> int:
    number = reading.number_from(cell)
    if number != int(number):
        raise CellError("a whole number")
    return int(number)


def _read_text(reading: RowValues, cell: Cell) -> str:
    return f"{cell:g}" if isinstance(cell, float) else cell


READERS: dict[str, Callable[[RowValues, Cell], Any]] = {
    "name": _read_text,
    "tier": _read_tier,
    "quantity": _read_count,
    "running_w": RowValues.number_from,
    "start_w": RowValues.number_from,
    "duty_frac": _read_duty,
    "hours": _read_hours,
    "supply": _read_supply,
    "standby_w": RowValues.number_from,
    "link": _read_text,
    "known": lambda reading, cell: _read_reading(known_from, reading, cell),
    "start_known": lambda reading, cell: _read_reading(start_from, reading, cell),
    "flexible_h": _read_count,
    "converter_efficiency_frac": _read_fraction,
    "stops_when_away": _read_away,
    "dark_day": _read_dark_day,
    "substitute_name": _read_text,
    "substitute_w": RowValues.number_from,
    "month_factors": _read_months,
    "circuit": _read_text,
    "hard_wired": _read_wired,
    "rides_s": RowValues.number_from,
    "id": _read_text,
}
