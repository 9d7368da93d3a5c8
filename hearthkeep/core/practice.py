"""Practice units at the edge: sentences and workings count as the project's practice does, everything else in SI."""

from __future__ import annotations

from hearthkeep.core.design import Design, Practice

#: What the volts of a healthy supply, the grid or an inverter, may be off either way, and where that stands.
SUPPLY_FRAC = {Practice.NORTH_AMERICAN: 0.05, Practice.METRIC_230: 0.06}
SUPPLY_BASIS = {
    Practice.NORTH_AMERICAN: "ANSI C84.1, range A: within 5 % (from memory)",
    Practice.METRIC_230: "Common practice, well within the 10 % of EN 50160 (from memory)",
}

LITRES_A_GALLON = 3.785412
METRES_A_FOOT = 0.3048
KILOMETRES_A_MILE = 1.609344
METRES_A_SECOND_OF_MPH = 0.44704


def _in_us_units(design: Design) -> bool:
    return design.practice is Practice.NORTH_AMERICAN


def degrees(design: Design, temp_c: float) -> str:
    """A temperature for a sentence."""
    return f"{round(temp_c * 1.8 + 32, 1):g} °F" if _in_us_units(design) else f"{temp_c:g} °C"


def temperature_step_text(design: Design, step_k: float) -> str:
    """A difference of temperatures for a sentence."""
    return f"{round(step_k * 1.8, 1):g} °F" if _in_us_units(design) else f"{step_k:g} °C"


def volume(design: Design, volume_l: float) -> tuple[float, str]:
    """Fuel as a number and its unit."""
    return (volume_l / LITRES_A_GALLON, "gal") if _in_us_units(design) else (volume_l, "L")


def volume_text(design: Design, volume_l: float) -> str:
    """Fuel for a sentence, to a tenth of a gallon or litre, or a hundredth below one."""
    value, unit = volume(design, volume_l)
    return f"{round(value, 1 if value >= 1 else 2):g} {unit}"


def can_of_fuel(design: Design) -> float:
    """What a usual can of fuel holds [L]: five gallons, or twenty litres. Common practice, no source."""
    return 5 * LITRES_A_GALLON if _in_us_units(design) else 20.0


def wind_speed(design: Design, speed_m_s: float) -> tuple[float, str]:
    """Wind as a number and its unit."""
    return (speed_m_s / METRES_A_SECOND_OF_MPH, "mph") if _in_us_units(design) else (speed_m_s, "m/s")


def distance_text(design: Design, distance_km: float) -> str:
    """A way across the country for a sentence."""
    return f"{distance_km / KILOMETRES_A_MILE:,.0f} miles" if _in_us_units(design) else f"{distance_km:,.0f} km"


def distance_short(design: Design, distance_m: float) -> str:
    """A few steps for a sentence: of 6 m "20 ft", or "6 m"."""
    return f"{distance_m / METRES_A_FOOT:.0f} ft" if _in_us_units(design) else f"{distance_m:g} m"


def height_text(design: Design, height_m: float) -> str:
    """A height for a sentence."""
    return f"{height_m / METRES_A_FOOT:,.0f} ft" if _in_us_units(design) else f"{height_m:,.0f} m"
