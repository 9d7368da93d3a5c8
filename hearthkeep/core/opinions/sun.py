"""Peak sun hours of the site's year, as a sizing worksheet asks for them: on the plane, without shade, snow or losses."""

from __future__ import annotations

import numpy as np

from hearthkeep.core.design import Design
from hearthkeep.core.sources import DAYS_IN_MONTH, WeatherYear, latitude_plane, year_for, year_plane_of_array


def sun_hours_by_month(design: Design, given: WeatherYear | None = None) -> tuple[float, ...]:
    """
    Mean sun a day on the arrays that charge the bank, weighted by their watts; tilted by the latitude where there is none.

    :returns: January first [kWh/m2 a day, which is hours at 1 kW/m2], (12,).
    """
    year = year_for(design.site, given)
    planes = [
        (array.stc_w, array.tilt_deg, array.azimuth_deg)
        for controller in design.charging.controllers
        if controller.charges
        for array in controller.arrays
        if array.stc_w > 0
    ] or [(1.0, *latitude_plane(design.site.latitude_deg))]
    total_w = sum(watts for watts, _, _ in planes)
    on_plane = sum(
        (watts / total_w * year_plane_of_array(year, year.moments, tilt, azimuth) for watts, tilt, azimuth in planes),
        np.zeros(year.ghi_w_m2.shape[0]),
    )
    month_of_hour = np.repeat(np.arange(12), np.array(DAYS_IN_MONTH) * 24)
    sums_wh = np.bincount(month_of_hour, weights=on_plane, minlength=12)
    return tuple((sums_wh / np.array(DAYS_IN_MONTH) / 1000.0).tolist())
