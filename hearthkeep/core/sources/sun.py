"""Clear-sky sun on a tilted plane, by pvlib, from the site's position.

Clear sky: Ineichen and Perez with pvlib's monthly Linke turbidity. Diffuse on the plane: Perez 1990. Sun position: the
Solar Position Algorithm, NREL/TP-560-34302. The parts that do not depend on the plane are cached between calls, since an
edit of a load or a battery leaves the sun where it was.
"""

from __future__ import annotations

import warnings
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache, wraps
from typing import TYPE_CHECKING, ParamSpec, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Site, Sky

# pvlib and pandas take a second or two to load, and are first needed when a sun is first worked out: loaded there, the
# application answers while they load beside it.
if TYPE_CHECKING:
    import pandas as pd

Floats = NDArray[np.float64]

#: Part of the clear-sky figure that each sky lets through. Common practice, no source; overcast about a quarter.
SKY_FACTOR: dict[Sky, float] = {Sky.CLEAR: 1.0, Sky.BROKEN: 0.6, Sky.OVERCAST: 0.25, Sky.COVERED: 0.0}

# pvlib uses a spelling that the newest pandas announces the end of; nothing for a reader to act on.
warnings.filterwarnings("ignore", message="DatetimeIndex.dayofyear")

#: Beyond this the relative air mass formula has no meaning and the sun is down or about to be [°].
_ZENITH_LIMIT_DEG = 90.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Moments:
    """The middles of the steps; hashable, so that the sun can be cached between calls."""

    #: Local standard time of the start.
    start: datetime
    #: Offsets of the moments from the start [h].
    offsets_h: tuple[float, ...]
    utc_offset_h: float

    def index(self) -> pd.DatetimeIndex:
        """The moments as UTC time stamps."""
        import pandas as pd

        start_utc = self.start - timedelta(hours=self.utc_offset_h)
        # Rounded, so that a moment is the same one from whichever start it is counted.
        after_ms = np.round(np.asarray(self.offsets_h) * 3_600_000.0).astype("timedelta64[ms]")
        return pd.DatetimeIndex(np.datetime64(start_utc, "ms") + after_ms, tz="UTC")


@dataclass(frozen=True, kw_only=True, slots=True)
class ClearSky:
    """Sun position and clear-sky irradiance at each moment."""

    zenith_deg: Floats
    azimuth_deg: Floats
    ghi_w_m2: Floats
    dni_w_m2: Floats
    dhi_w_m2: Floats
    extra_w_m2: Floats
    airmass: Floats


#: Moments from which a sequence counts as a long one, a year's steps for instance, of which fewer are kept.
_LONG = 5000
_P = ParamSpec("_P")
_T = TypeVar("_T")


def kept(most: int, most_long: int) -> Callable[[Callable[_P, _T]], Callable[_P, _T]]:
    """Keep what a function of moments gave: so many results of short sequences, and so many of long ones."""

    def keeping(function: Callable[_P, _T]) -> Callable[_P, _T]:
        short, long = lru_cache(maxsize=most)(function), lru_cache(maxsize=most_long)(function)

        @wraps(function)
        def found(*args: _P.args, **kwargs: _P.kwargs) -> _T:
            moments = next(value for value in (*args, *kwargs.values()) if isinstance(value, Moments))
            # The kept ones' own types know no parameters.
            chosen = cast("Callable[_P, _T]", long if len(moments.offsets_h) >= _LONG else short)
            return chosen(*args, **kwargs)

        def clear() -> None:
            short.cache_clear()
            long.cache_clear()

        vars(found)["cache_clear"] = clear
        return found

    return keeping


@kept(64, 4)
def clear_sky(latitude_deg: float, longitude_deg: float, elevation_m: float, moments: Moments) -> ClearSky:
    """Sun position and clear-sky irradiance at the site [W/m2]."""
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    times = moments.index()
    sun = solarposition.get_solarposition(times, latitude_deg, longitude_deg, altitude=elevation_m)
    zenith = sun["apparent_zenith"].to_numpy()
    turbidity = clearsky.lookup_linke_turbidity(times, latitude_deg, longitude_deg).to_numpy()
    relative = atmosphere.get_relative_airmass(np.minimum(zenith, _ZENITH_LIMIT_DEG))
    absolute = atmosphere.get_absolute_airmass(relative, atmosphere.alt2pres(elevation_m))
    extra = irradiance.get_extra_radiation(times).to_numpy()
    # Below the horizon the formula divides by zero; those moments are set to nothing below.
    with np.errstate(divide="ignore", invalid="ignore"):
        sky = clearsky.ineichen(zenith, absolute, turbidity, altitude=elevation_m, dni_extra=extra)
    return ClearSky(
        zenith_deg=zenith,
        azimuth_deg=sun["azimuth"].to_numpy(),
        ghi_w_m2=np.nan_to_num(sky["ghi"]),
        dni_w_m2=np.nan_to_num(sky["dni"]),
        dhi_w_m2=np.nan_to_num(sky["dhi"]),
        extra_w_m2=extra,
        airmass=relative,
    )


def plane_of_array(sky: ClearSky, *, tilt_deg: float, azimuth_deg: float) -> Floats:
    """Irradiance on the plane, beam, sky and ground together (albedo 0.25) [W/m2]."""
    from pvlib import irradiance

    total = irradiance.get_total_irradiance(
        tilt_deg,
        azimuth_deg,
        sky.zenith_deg,
        sky.azimuth_deg,
        sky.dni_w_m2,
        sky.ghi_w_m2,
        sky.dhi_w_m2,
        dni_extra=sky.extra_w_m2,
        airmass=sky.airmass,
        model="perez",
    )["poa_global"]
    up = sky.zenith_deg < _ZENITH_LIMIT_DEG
    return np.where(up, np.maximum(np.nan_to_num(np.asarray(total)), 0.0), 0.0)


@kept(128, 8)
def clear_plane_of_array(site: Site, moments: Moments, tilt_deg: float, azimuth_deg: float) -> Floats:
    """Clear-sky irradiance on a plane at the site, read-only [W/m2]."""
    sky = clear_sky(site.latitude_deg, site.longitude_deg, site.elevation_m, moments)
    plane = plane_of_array(sky, tilt_deg=tilt_deg, azimuth_deg=azimuth_deg)
    plane.setflags(write=False)
    return plane


def sun_is_up(site: Site, moments: Moments) -> NDArray[np.bool_]:
    """Whether the sun stands above the horizon at each moment."""
    sky = clear_sky(site.latitude_deg, site.longitude_deg, site.elevation_m, moments)
    return np.asarray(sky.zenith_deg < _ZENITH_LIMIT_DEG)
