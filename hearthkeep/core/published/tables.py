"""Read the published tables that ship with the package."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources
from typing import Any, NamedTuple


class TemperatureRow(NamedTuple):
    """One row of the cell size correction table."""

    temp_c: float
    size_factor: float


@cache
def ieee_485_rows() -> tuple[TemperatureRow, ...]:
    """Cell size correction factors for temperature, coldest first.

    Source: IEEE Std 485, Table 1 (values from memory). Fahrenheit is the table's key, so °C is computed from it.
    """
    return tuple(TemperatureRow((row["f"] - 32) / 1.8, row["factor"]) for row in _table("ieee_485_temperature")["rows"])


class CodeLetterRow(NamedTuple):
    """Locked-rotor apparent power of one code letter [kVA/hp]; the last letter has no upper end."""

    letter: str
    low_kva_per_hp: float
    high_kva_per_hp: float | None


@cache
def code_letter_rows() -> dict[str, CodeLetterRow]:
    """Locked-rotor kVA per horsepower by code letter.

    Source: NEC Table 430.7(B), 2023 (values from memory).
    """
    rows = _table("nec_430_motors")["rows"]
    return {row["letter"]: CodeLetterRow(row["letter"], row["lo"], row["hi"]) for row in rows}


def _table(name: str) -> dict[str, Any]:
    text = resources.files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    table: dict[str, Any] = json.loads(text)
    return table
