"""Charging: the sun on the panels and what reaches the bank."""

from hearthkeep.core.charging.controller import SunPower, array_vmp_v, controller_power, reaches_bank
from hearthkeep.core.charging.generator import (
    GeneratorRating,
    derate_frac,
    fuel_l_per_h,
    fuel_line,
    rate_generator,
)
from hearthkeep.core.charging.strings import StringReport, cold_voc_factor, string_report, string_reports, table_factor
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
    "GeneratorRating",
    "Moments",
    "StringReport",
    "SunPower",
    "array_vmp_v",
    "clear_plane_of_array",
    "clear_sky",
    "cold_voc_factor",
    "controller_power",
    "derate_frac",
    "fuel_l_per_h",
    "fuel_line",
    "plane_of_array",
    "rate_generator",
    "reaches_bank",
    "string_report",
    "string_reports",
    "sun_is_up",
    "table_factor",
]
