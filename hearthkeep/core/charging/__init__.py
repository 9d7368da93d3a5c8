"""Charging: the sun on the panels and what reaches the bank."""

from hearthkeep.core.charging.controller import SunPower, array_vmp_v, controller_power, direct_w, reaches_bank
from hearthkeep.core.charging.generator import (
    GeneratorRating,
    derate_frac,
    fuel_l_per_h,
    fuel_line,
    rate_generator,
)
from hearthkeep.core.charging.planes import Along, array_poa, hand_parts
from hearthkeep.core.charging.sources import OtherPower, mean_turbine_w, other_power, rayleigh_density, turbine_w
from hearthkeep.core.charging.stages import CELLS, CellPoints, StagePoints, cells_of, compensated_v, stage_points
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
from hearthkeep.core.charging.weather import (
    HOURS_A_YEAR,
    MADE_UP,
    WeatherYear,
    distance_km,
    hours_of_year,
    made_up_year,
    skies_of_year,
    sky_at,
    year_for,
    year_plane_of_array,
)

__all__ = [
    "CELLS",
    "HOURS_A_YEAR",
    "MADE_UP",
    "SKY_FACTOR",
    "Along",
    "CellPoints",
    "ClearSky",
    "GeneratorRating",
    "Moments",
    "OtherPower",
    "StagePoints",
    "StringReport",
    "SunPower",
    "WeatherYear",
    "array_poa",
    "array_vmp_v",
    "cells_of",
    "clear_plane_of_array",
    "clear_sky",
    "cold_voc_factor",
    "compensated_v",
    "controller_power",
    "derate_frac",
    "direct_w",
    "distance_km",
    "fuel_l_per_h",
    "fuel_line",
    "hand_parts",
    "hours_of_year",
    "made_up_year",
    "mean_turbine_w",
    "other_power",
    "plane_of_array",
    "rate_generator",
    "rayleigh_density",
    "reaches_bank",
    "skies_of_year",
    "sky_at",
    "stage_points",
    "string_report",
    "string_reports",
    "sun_is_up",
    "table_factor",
    "turbine_w",
    "year_for",
    "year_plane_of_array",
]
