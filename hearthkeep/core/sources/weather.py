"""A weather year: sun, air, wind and snow of 8,760 hours, and the made-up one that ships with the application."""

from __future__ import annotations

import csv
import math
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property, lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Site, Sky
from hearthkeep.core.sources.sun import SKY_FACTOR, ClearSky, Moments, clear_sky, kept, plane_of_array

Floats = NDArray[np.float64]
HOURS_A_YEAR = 8760
DAYS_IN_MONTH = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
_DAYS_BEFORE = np.cumsum((0, *DAYS_IN_MONTH[:-1]))
#: Any year without a leap day; files give typical hours, not those of one year.
_YEAR = 2001
_EARTH_KM = 6371.0
MADE_UP = "made-up"
_MADE_UP_DAYS = Path(__file__).resolve().parent / "made_up_year.csv"
#: Snow that has fallen since the day before and covers the panels [cm]; what takes it off: a day whose sun on the level is
#: at least this part of a clear one, or air above this [°C]. Our assumptions.
FRESH_SNOW_CM, SUN_CLEARS_FRAC, THAW_C = 1.0, 0.5, 2.0
#: Sun of a day on the level over that of a clear one from which its sky is called clear, and from which broken.
CLEAR_FROM_FRAC, BROKEN_FROM_FRAC = 0.85, 0.45
#: Hours at which the day is coldest and warmest. Common practice, no source.
_COLDEST_H, _WARMEST_H = 6.0, 15.0


@dataclass(frozen=True, kw_only=True, eq=False)
class WeatherYear:
    """Hour means in local standard time from 1 January, midnight to one; every array (8760,). Equal when the key is."""

    key: str
    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    utc_offset_h: float
    #: On the level, straight from the sun, and from the rest of the sky [W/m2].
    ghi_w_m2: Floats
    dni_w_m2: Floats
    dhi_w_m2: Floats
    air_c: Floats
    wind_m_s: Floats
    #: On the ground; nothing where the file does not say [cm].
    snow_cm: Floats

    def __hash__(self) -> int:
        return hash(self.key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, WeatherYear) and other.key == self.key

    @cached_property
    def moments(self) -> Moments:
        """The middle of each hour."""
        offsets = tuple((np.arange(HOURS_A_YEAR) + 0.5).tolist())
        return Moments(start=datetime(_YEAR, 1, 1), offsets_h=offsets, utc_offset_h=self.utc_offset_h)


@kept(64, 4)
def hours_of_year(year: WeatherYear, moments: Moments) -> NDArray[np.int64]:
    """Index of the year's hour that holds each moment; 29 February is taken for the 28th."""
    import pandas as pd

    local = moments.index() + pd.Timedelta(hours=year.utc_offset_h)
    day = np.where((local.month == 2) & (local.day == 29), 28, local.day)
    return np.asarray((_DAYS_BEFORE[local.month - 1] + day - 1) * 24 + local.hour, dtype=np.int64)


def day_of_year(month: int, day: int) -> int:
    """Number of a date in a year without a leap day, 0 for 1 January; 29 February is taken for the 28th."""
    return int(_DAYS_BEFORE[month - 1]) + min(day, DAYS_IN_MONTH[month - 1]) - 1


@kept(32, 4)
def sky_at(year: WeatherYear, moments: Moments) -> ClearSky:
    """Sun position at moments with the irradiance of the year's hours they lie in.

    The level figure is put together again from beam and sky, so that it fits the moment's sun.
    """
    hours = hours_of_year(year, moments)
    clear = clear_sky(year.latitude_deg, year.longitude_deg, year.elevation_m, moments)
    beam, rest = year.dni_w_m2[hours], year.dhi_w_m2[hours]
    level = beam * np.maximum(np.cos(np.radians(clear.zenith_deg)), 0.0) + rest
    return ClearSky(
        zenith_deg=clear.zenith_deg,
        azimuth_deg=clear.azimuth_deg,
        ghi_w_m2=level,
        dni_w_m2=beam,
        dhi_w_m2=rest,
        extra_w_m2=clear.extra_w_m2,
        airmass=clear.airmass,
    )


@kept(256, 32)
def year_plane_of_array(year: WeatherYear, moments: Moments, tilt_deg: float, azimuth_deg: float) -> Floats:
    """Irradiance of the year's hours on a plane, read-only [W/m2], (n,)."""
    plane = plane_of_array(sky_at(year, moments), tilt_deg=tilt_deg, azimuth_deg=azimuth_deg)
    plane.setflags(write=False)
    return plane


@lru_cache(maxsize=16)
def skies_of_year(year: WeatherYear) -> tuple[Sky, ...]:
    """What the sky of each day would be called, 365 of them; covered while fresh snow lies on the panels."""
    clear = clear_sky(year.latitude_deg, year.longitude_deg, year.elevation_m, year.moments)
    level = year.ghi_w_m2.reshape(-1, 24).sum(axis=1)
    part = level / np.maximum(clear.ghi_w_m2.reshape(-1, 24).sum(axis=1), 1.0)
    warmest = year.air_c.reshape(-1, 24).max(axis=1)
    depth = year.snow_cm.reshape(-1, 24).max(axis=1)
    skies: list[Sky] = []
    lies = False
    for day in range(365):
        if depth[day] - depth[day - 1] >= FRESH_SNOW_CM:
            lies = True
        elif part[day] >= SUN_CLEARS_FRAC or warmest[day] > THAW_C:
            lies = False
        bright = Sky.CLEAR if part[day] >= CLEAR_FROM_FRAC else Sky.BROKEN
        skies.append(Sky.COVERED if lies else bright if part[day] >= BROKEN_FROM_FRAC else Sky.OVERCAST)
    return tuple(skies)


@dataclass(frozen=True, kw_only=True, slots=True)
class _MadeUpDay:
    sky: Sky
    low_c: float
    high_c: float
    wind_m_s: float
    snow_cm: float


@lru_cache(maxsize=1)
def _made_up_days() -> tuple[_MadeUpDay, ...]:
    with _MADE_UP_DAYS.open(encoding="utf-8", newline="") as file:
        return tuple(
            _MadeUpDay(
                sky=Sky(row["sky"]),
                low_c=float(row["low_c"]),
                high_c=float(row["high_c"]),
                wind_m_s=float(row["wind_m_s"]),
                snow_cm=float(row["snow_cm"]),
            )
            for row in csv.DictReader(file)
        )


@lru_cache(maxsize=8)
def made_up_year(latitude_deg: float, longitude_deg: float, elevation_m: float, utc_offset_h: float) -> WeatherYear:
    """Invented skies of an inland place with snowy winters, under the true sun of the site.

    Clear days are the clear-sky model's; the others a part of it on the level, split into beam and sky by Erbs, Klein and
    Duffie, Solar Energy 28 (1982), as pvlib has it. South of the equator the seasons are turned round.
    """
    from pvlib import irradiance

    days = _made_up_days()
    if latitude_deg < 0:
        days = days[182:] + days[:182]
    offsets = tuple((np.arange(HOURS_A_YEAR) + 0.5).tolist())
    moments = Moments(start=datetime(_YEAR, 1, 1), offsets_h=offsets, utc_offset_h=utc_offset_h)
    clear = clear_sky(latitude_deg, longitude_deg, elevation_m, moments)
    is_clear = np.repeat([day.sky is Sky.CLEAR for day in days], 24)
    part = np.repeat([SKY_FACTOR[day.sky] for day in days], 24)
    level = clear.ghi_w_m2 * part
    split = irradiance.erbs(level, clear.zenith_deg, np.repeat(np.arange(1, 366), 24))
    return WeatherYear(
        key=f"{MADE_UP}:{latitude_deg:g}:{longitude_deg:g}:{elevation_m:g}:{utc_offset_h:g}",
        name="Made-up year, snowy winters",
        latitude_deg=latitude_deg,
        longitude_deg=longitude_deg,
        elevation_m=elevation_m,
        utc_offset_h=utc_offset_h,
        ghi_w_m2=level,
        dni_w_m2=np.where(is_clear, clear.dni_w_m2, np.nan_to_num(split["dni"])),
        dhi_w_m2=np.where(is_clear, clear.dhi_w_m2, np.nan_to_num(split["dhi"])),
        air_c=_hourly_c(days),
        wind_m_s=np.repeat([day.wind_m_s for day in days], 24),
        snow_cm=np.repeat([day.snow_cm for day in days], 24),
    )


def _hourly_c(days: tuple[_MadeUpDay, ...]) -> Floats:
    """Half waves between each day's coldest and warmest hour [°C]."""
    turning_h, turning_c = [-24.0 + _WARMEST_H], [days[-1].high_c]
    for number, day in enumerate(days):
        turning_h += [24.0 * number + _COLDEST_H, 24.0 * number + _WARMEST_H]
        turning_c += [day.low_c, day.high_c]
    turning_h.append(24.0 * len(days) + _COLDEST_H)
    turning_c.append(days[0].low_c)
    middle = np.arange(HOURS_A_YEAR) + 0.5
    after = np.searchsorted(turning_h, middle)
    before_h, after_h = np.array(turning_h)[after - 1], np.array(turning_h)[after]
    before_c, after_c = np.array(turning_c)[after - 1], np.array(turning_c)[after]
    wave = (1.0 - np.cos(np.pi * (middle - before_h) / (after_h - before_h))) / 2.0
    air: Floats = before_c + (after_c - before_c) * wave
    return air


def latitude_plane(latitude_deg: float) -> tuple[float, float]:
    """Tilt and azimuth of a plane tilted by the latitude towards the equator [°].

    >>> latitude_plane(-35.0)
    (35.0, 0.0)
    """
    return abs(latitude_deg), 180.0 if latitude_deg >= 0 else 0.0


def year_for(site: Site, given: WeatherYear | None) -> WeatherYear:
    """The weather year at hand for a site: the one given, else the made-up one."""
    if given is not None:
        return given
    return made_up_year(site.latitude_deg, site.longitude_deg, site.elevation_m, site.utc_offset_h)


def distance_km(site: Site, year: WeatherYear) -> float:
    """Great-circle distance of a year's place from the site [km]."""
    here, there = math.radians(site.latitude_deg), math.radians(year.latitude_deg)
    step = math.radians(year.longitude_deg - site.longitude_deg)
    inner = math.sin((there - here) / 2) ** 2 + math.cos(here) * math.cos(there) * math.sin(step / 2) ** 2
    return 2 * _EARTH_KM * math.asin(min(1.0, math.sqrt(inner)))
