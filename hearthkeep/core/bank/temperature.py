"""Capacity at the temperature of the bank's place."""

from __future__ import annotations

import numpy as np

from hearthkeep.core.design import Chemistry
from hearthkeep.core.published import ieee_485_rows

#: Capacity of LFP by temperature [°C, part of rated]. Common practice, no source; makers differ by some points.
LFP_CAPACITY = ((-20.0, 0.70), (-10.0, 0.85), (0.0, 0.93), (10.0, 0.97), (25.0, 1.0))


def lead_acid_size_factor(temp_c: float) -> float:
    """Cell size correction factor at a temperature; above 1 in the cold.

    Source: IEEE Std 485, Table 1 (vented lead-acid, values from memory). Linear between rows; beyond the table's cold
    end it follows the last two rows, which is our assumption and marked by a check.
    """
    rows = ieee_485_rows()
    coldest, next_row = rows[0], rows[1]
    if temp_c < coldest.temp_c:
        slope = (next_row.size_factor - coldest.size_factor) / (next_row.temp_c - coldest.temp_c)
        return coldest.size_factor + slope * (temp_c - coldest.temp_c)
    return float(np.interp(temp_c, [row.temp_c for row in rows], [row.size_factor for row in rows]))


def capacity_factor(chemistry: Chemistry, temp_c: float) -> float:
    """Part of the rated capacity to be had at this temperature, at most 1.

    Heat adds a little capacity to lead-acid and takes much of its life, so the gain above 25 °C is not counted on.
    """
    if chemistry is Chemistry.LFP:
        temps, parts = zip(*LFP_CAPACITY, strict=True)
        return float(np.interp(temp_c, temps, parts))
    return min(1.0, 1.0 / lead_acid_size_factor(temp_c))
