"""Inverter: losses, standing draw, and which loads fit it together."""

from hearthkeep.core.inverter.cables import NO_CABLES, Cables, lost_in_runs_w
from hearthkeep.core.inverter.draws import Draws, draws_of
from hearthkeep.core.inverter.fit import Limits, Overload, limits_of
from hearthkeep.core.inverter.house import (
    HouseWatts,
    house_watts,
    house_with_all,
    house_without,
    off_hours,
)
from hearthkeep.core.inverter.losses import input_w, low_battery_current_a, marginal_efficiency

__all__ = [
    "NO_CABLES",
    "Cables",
    "Draws",
    "HouseWatts",
    "Limits",
    "Overload",
    "draws_of",
    "house_watts",
    "house_with_all",
    "house_without",
    "input_w",
    "limits_of",
    "lost_in_runs_w",
    "low_battery_current_a",
    "marginal_efficiency",
    "off_hours",
]
