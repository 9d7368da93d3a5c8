"""Sun on each array, moment by moment: its sky, how it stands at the hour, its shade, and the snow that lies on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Array, Site, Sky, SnowHabit, hours_in
from hearthkeep.core.sources.sun import SKY_FACTOR, Moments, clear_plane_of_array
from hearthkeep.core.sources.weather import WeatherYear, year_plane_of_array

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Ints = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True, slots=True)
class Along:
    """A sequence of moments with their sky and air; every array (n,)."""

    site: Site
    moments: Moments
    #: Hour of the day, local standard time.
    hour: Ints
    air_c: Floats
    #: Whether snow or ice lies on panels that hold it, and whether somebody is there to clear it.
    covered: Bools
    attended: Bools
    #: Part of the clear sky's figure that the sky lets through, snow left out; not used where a year's sky is given.
    part: Floats
    #: The weather year whose sky it is; none where the sky is set by hand.
    year: WeatherYear | None = None


def hand_parts(skies: list[Sky]) -> tuple[Floats, Bools]:
    """Part let through and whether snow lies, sky by sky; above the snow of a covered day the sky is overcast."""
    part = np.array([SKY_FACTOR[Sky.OVERCAST if sky is Sky.COVERED else sky] for sky in skies])
    return part, np.array([sky is Sky.COVERED for sky in skies])


def array_poa(array: Array, along: Along) -> Floats:
    """Irradiance that an array can use [W/m2], (n,)."""
    poa = _on_plane(along, array.tilt_deg, array.azimuth_deg)
    for stand in array.stands:
        moved = _on_plane(along, stand.tilt_deg, stand.azimuth_deg)
        poa = np.where(along.hour >= stand.from_hour, moved, poa)
    poa = poa * np.where(snow_holds(array, along), 0.0, 1.0)
    if array.shade_frac:
        poa = poa * (1.0 - np.array(array.shade_frac)[along.hour])
    if array.out_hours is not None:
        poa = poa * np.array(hours_in(array.out_hours))[along.hour]
    return poa


def snow_holds(array: Array, along: Along) -> Bools:
    """Whether snow keeps the sun off the array, (n,)."""
    if array.snow is SnowHabit.SLIDES:
        return np.zeros_like(along.covered)
    if array.snow is SnowHabit.SWEPT:
        return along.covered & ~(along.attended & (along.hour >= array.swept_hour))
    return along.covered


def _on_plane(along: Along, tilt_deg: float, azimuth_deg: float) -> Floats:
    if along.year is not None:
        return year_plane_of_array(along.year, along.moments, tilt_deg, azimuth_deg)
    return clear_plane_of_array(along.site, along.moments, tilt_deg, azimuth_deg) * along.part
