"""Charging: the sun on the panels and what reaches the bank."""

from hearthkeep.core.charging.controller import SunPower, array_vmp_v, controller_power, reaches_bank
from hearthkeep.core.charging.sun import (
    SKY_FACTOR,
    ClearSky,
    Moments,
    clear_plane_of_array,
    clear_sky,
    plane_of_array,
    sun_is_up,
)

__all__ = [
    "SKY_FACTOR",
    "ClearSky",
    "Moments",
    "SunPower",
    "array_vmp_v",
    "clear_plane_of_array",
    "clear_sky",
    "controller_power",
    "plane_of_array",
    "reaches_bank",
    "sun_is_up",
]
