"""Inverter: losses, standing draw, and which loads fit it together."""

from hearthkeep.core.inverter.fit import (
    HouseWatts,
    Overload,
    compiled_rows,
    house_watts,
    house_without,
    limits_of,
    off_hours,
)
from hearthkeep.core.inverter.losses import input_w, low_battery_current_a, marginal_efficiency

__all__ = [
    "HouseWatts",
    "Overload",
    "compiled_rows",
    "house_watts",
    "house_without",
    "input_w",
    "limits_of",
    "low_battery_current_a",
    "marginal_efficiency",
    "off_hours",
]
