"""Weather files for tests: the made-up year written as EPW and as TMY3, line by line, so that they can be spoilt."""

from __future__ import annotations

from datetime import date, timedelta

from hearthkeep.core.sources import WeatherYear, made_up_year

YEAR = made_up_year(44.0, -75.0, 120.0, -5.0)
_EPW_HEADER = (
    "DESIGN CONDITIONS,0",
    "TYPICAL/EXTREME PERIODS,0",
    "GROUND TEMPERATURES,0",
    "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0",
    "COMMENTS 1,made up",
    "COMMENTS 2,",
    "DATA PERIODS,1,1,Data,Sunday, 1/ 1,12/31",
)
_TMY3_TITLES = (
    "Date (MM/DD/YYYY),Time (HH:MM),GHI (W/m^2),DNI (W/m^2),DHI (W/m^2),Dry-bulb (C),Wspd (m/s)"
)  # fmt: skip


def _stamps() -> list[tuple[date, int]]:
    return [(date(2001, 1, 1) + timedelta(days=hour // 24), hour % 24 + 1) for hour in range(8760)]


def epw_lines(year: WeatherYear = YEAR) -> list[str]:
    """An EPW file, header and 8,760 rows of 35 fields."""
    place = f"LOCATION,Made Up,XX,NOW,made up,000000,{year.latitude_deg},{year.longitude_deg},{year.utc_offset_h},{year.elevation_m}"
    rows = []
    for hour, (day, ending) in enumerate(_stamps()):
        fields = ["0"] * 35
        fields[:6] = ["2001", str(day.month), str(day.day), str(ending), "60", "?9"]
        fields[6] = f"{year.air_c[hour]:.2f}"
        fields[13:16] = [f"{series[hour]:.2f}" for series in (year.ghi_w_m2, year.dni_w_m2, year.dhi_w_m2)]
        fields[21], fields[30] = f"{year.wind_m_s[hour]:.1f}", f"{year.snow_cm[hour]:.1f}"
        rows.append(",".join(fields))
    return [place, *_EPW_HEADER, *rows]


def tmy3_lines(year: WeatherYear = YEAR) -> list[str]:
    """A TMY3 file with the columns that are read."""
    place = f'999999,"MADE UP",XX,{year.utc_offset_h},{year.latitude_deg},{year.longitude_deg},{year.elevation_m}'
    rows = [
        f"{day.month:02d}/{day.day:02d}/2001,{ending:02d}:00,{year.ghi_w_m2[hour]:.2f},{year.dni_w_m2[hour]:.2f},"
        f"{year.dhi_w_m2[hour]:.2f},{year.air_c[hour]:.2f},{year.wind_m_s[hour]:.1f}"
        for hour, (day, ending) in enumerate(_stamps())
    ]
    return [place, _TMY3_TITLES, *rows]


def joined(lines: list[str]) -> bytes:
    """A file's lines as its bytes."""
    return ("\n".join(lines) + "\n").encode()
