"""A weather year as an EPW file, so that it travels beside the designs that use it."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np

from hearthkeep.core.sources import HOURS_A_YEAR, WeatherYear

_YEAR = 2001
_HEADER = (
    "DESIGN CONDITIONS,0",
    "TYPICAL/EXTREME PERIODS,0",
    "GROUND TEMPERATURES,0",
    "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0",
    "COMMENTS 1,Sun, air, wind and snow of a weather year kept in Hearth Keep; all else stands for missing",
    "COMMENTS 2,",
    "DATA PERIODS,1,1,Data,Monday, 1/ 1,12/31",
)
#: What stands for missing in each of the 35 fields, by the EPW data dictionary (from memory); the first six are the hour.
_MISSING = (
    "", "", "", "", "60", "?9", "99.9", "99.9", "999", "999999", "9999", "9999", "9999", "9999", "9999", "9999", "999999",
    "999999", "999999", "9999", "999", "999", "99", "99", "9999", "99999", "9", "999999999", "999", ".999", "999", "99",
    "999", "999", "99",
)  # fmt: skip
#: Where the quantities that a year holds stand.
_COLUMNS = {6: "air_c", 13: "ghi_w_m2", 14: "dni_w_m2", 15: "dhi_w_m2", 21: "wind_m_s", 30: "snow_cm"}


def write_weather(year: WeatherYear) -> bytes:
    """The year's 8,760 hours as EPW; read again it has the same key, name and hours."""
    name = year.name.replace(",", " ").replace('"', " ")
    place = f"LOCATION,{name},,,Hearth Keep,999999,{year.latitude_deg},{year.longitude_deg},{year.utc_offset_h},{year.elevation_m}"
    # A year is kept in single precision: as few digits as distinguish its numbers are those of the file it came from.
    columns = {at: [str(value) for value in getattr(year, field).astype(np.float32)] for at, field in _COLUMNS.items()}
    rows = []
    for hour in range(HOURS_A_YEAR):
        day = date(_YEAR, 1, 1) + timedelta(days=hour // 24)
        fields = list(_MISSING)
        fields[:4] = [str(_YEAR), str(day.month), str(day.day), str(hour % 24 + 1)]
        for at, texts in columns.items():
            fields[at] = texts[hour]
        rows.append(",".join(fields))
    return ("\n".join([place, *_HEADER, *rows]) + "\n").encode()
