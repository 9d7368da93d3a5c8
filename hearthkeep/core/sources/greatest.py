"""The most that all arrays together give under a clear sky: what the bank has to take, since arrays that face apart never peak at once."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Controller, Site
from hearthkeep.core.sources.controller import controller_power
from hearthkeep.core.sources.planes import Along, array_poa
from hearthkeep.core.sources.sun import Moments

Floats = NDArray[np.float64]

#: The days looked at: the 21st of each month, in quarter hours.
_DAY, _MONTHS, _POINTS = 21, 12, 96
QUARTER_H = 0.25
#: A year without 29 February; the sun of any year is the same within a part in a hundred.
_YEAR = 2026
#: Cells on a bright cold day stand near the temperature of their data sheet; colder ones are left out [°C].
_CELL_C = 25.0


@lru_cache(maxsize=32)
def clear_days(site: Site) -> Along:
    """Clear days of a whole year at a site, without snow, people at home."""
    start = datetime(_YEAR, 1, 1)
    days = np.array([(datetime(_YEAR, month + 1, _DAY) - start).days for month in range(_MONTHS)])
    into_day_h = (np.arange(_POINTS) + 0.5) * 24.0 / _POINTS
    count = _MONTHS * _POINTS
    offsets_h = (24.0 * days[:, None] + into_day_h[None, :]).ravel()
    return Along(
        site=site,
        moments=Moments(start=start, offsets_h=tuple(offsets_h.tolist()), utc_offset_h=site.utc_offset_h),
        hour=np.tile(np.floor(into_day_h).astype(np.int64), _MONTHS),
        air_c=np.full(count, _CELL_C),
        covered=np.zeros(count, dtype=bool),
        attended=np.ones(count, dtype=bool),
        part=np.ones(count),
    )


def midsummer(site: Site) -> slice:
    """The clear day of midsummer among those of clear_days."""
    month = 5 if site.latitude_deg >= 0 else 11
    return slice(month * _POINTS, (month + 1) * _POINTS)


@lru_cache(maxsize=64)
def greatest_sun_w(site: Site, controllers: tuple[Controller, ...], volts: BankVolts) -> float:
    """Greatest power of all controllers together under a clear sky, their limits kept [W].

    Cells at 25 °C: on a cold day they give up to a tenth more, on a hot one less. A cloud's bright edge is left out.
    """
    charging = [controller for controller in controllers if controller.charges]
    if not charging:
        return 0.0
    along = clear_days(site)
    together = np.zeros(along.hour.shape[0])
    for controller in charging:
        cool = tuple(array.model_copy(update={"power_temp_coeff_per_c": 0.0}) for array in controller.arrays)
        poa = tuple(array_poa(array, along) for array in controller.arrays)
        part = controller.model_copy(update={"arrays": cool})
        together = together + controller_power(part, poa_by_array=poa, air_c=along.air_c, volts=volts).passed_w
    return float(together.max())
