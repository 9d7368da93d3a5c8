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


def _table(name: str) -> dict[str, Any]:
    text = resources.files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    table: dict[str, Any] = json.loads(text)
    return table
