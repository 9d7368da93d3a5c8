"""The daily curve: what each array gives through a clear day, all of them together, and all on one plane instead."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Array, Controller, Design, Site, Sky
from hearthkeep.core.sources import SKY_FACTOR, Along, Moments, array_poa, controller_power

Floats = NDArray[np.float64]
#: Moments of the curve a day.
POINTS = 96


@dataclass(frozen=True, kw_only=True, slots=True)
class ArrayCurve:
    """One array through the day."""

    array_id: str
    name: str
    power_w: tuple[float, ...]
    energy_wh: float
    #: Part of its energy that shade takes on that day.
    shade_loss_frac: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DayCurve:
    """A clear day on the date the outage begins, at the direct-current bus; every series has 96 points, mid-quarter-hour."""

    date: str
    hour_h: tuple[float, ...]
    arrays: tuple[ArrayCurve, ...]
    #: Within the controllers' limits, under a clear sky and an overcast one [W].
    together_w: tuple[float, ...]
    overcast_w: tuple[float, ...]
    #: All panels on the plane of the largest array, within the same limits [W].
    one_way_w: tuple[float, ...]
    together_wh: float
    overcast_wh: float
    one_way_wh: float
    #: Hours in which the sun alone carries the house's average draw, as it stands and with all panels one way [h].
    carries_h: float
    one_way_carries_h: float
    mean_draw_w: float


def day_curve(design: Design, *, volts: BankVolts, mean_draw_w: float) -> DayCurve:
    """Work out the day of the outage's start under a clear sky, without snow; panels that are moved are moved."""
    start = design.outage.start
    curve, together, one_way = _curve(
        design.site,
        design.charging.controllers,
        datetime(start.year, start.month, start.day),
        design.outage.days[0].air_temp_c,
        volts,
    )
    return replace(
        curve,
        mean_draw_w=mean_draw_w,
        carries_h=_carried_h(together, mean_draw_w),
        one_way_carries_h=_carried_h(one_way, mean_draw_w),
    )


def _carried_h(power_w: Floats, mean_draw_w: float) -> float:
    """Hours of the day in which a power covers the average draw."""
    return float((power_w >= mean_draw_w).sum() * 24.0 / POINTS) if mean_draw_w > 0 else 0.0


@lru_cache(maxsize=32)
def _curve(
    site: Site, controllers: tuple[Controller, ...], midnight: datetime, air_c: float, volts: BankVolts
) -> tuple[DayCurve, Floats, Floats]:
    """The curve itself without a house, kept while an edit leaves the sun as it was; and its power as it stands and one way."""
    hours = (np.arange(POINTS) + 0.5) * 24.0 / POINTS
    along = Along(
        site=site,
        moments=Moments(start=midnight, offsets_h=tuple(hours.tolist()), utc_offset_h=site.utc_offset_h),
        hour=np.floor(hours).astype(np.int64),
        air_c=np.full(POINTS, air_c),
        covered=np.zeros(POINTS, dtype=bool),
        attended=np.ones(POINTS, dtype=bool),
        part=np.ones(POINTS),
    )
    width_h = 24.0 / POINTS
    charging = [controller for controller in controllers if controller.charges]
    everything = [array for controller in controllers for array in controller.arrays]
    largest = max(everything, key=lambda array: array.stc_w, default=None)
    curves: list[ArrayCurve] = []
    together, overcast, one_way = np.zeros(POINTS), np.zeros(POINTS), np.zeros(POINTS)
    dim = SKY_FACTOR[Sky.OVERCAST]
    for controller in charging:
        planes = tuple(array_poa(array, along) for array in controller.arrays)
        together = together + _passed_w(controller, planes, along, volts)
        overcast = overcast + _passed_w(controller, tuple(plane * dim for plane in planes), along, volts)
        if largest is not None:
            turned = tuple(array_poa(_turned(array, largest), along) for array in controller.arrays)
            one_way = one_way + _passed_w(controller, turned, along, volts)
        curves += [_array_curve(controller, array, along, volts) for array in controller.arrays]
    curve = DayCurve(
        date=midnight.date().isoformat(),
        hour_h=tuple(hours.tolist()),
        arrays=tuple(curves),
        together_w=_series(together),
        overcast_w=_series(overcast),
        one_way_w=_series(one_way),
        together_wh=float(together.sum() * width_h),
        overcast_wh=float(overcast.sum() * width_h),
        one_way_wh=float(one_way.sum() * width_h),
        carries_h=0.0,
        one_way_carries_h=0.0,
        mean_draw_w=0.0,
    )
    return curve, together, one_way


def _passed_w(controller: Controller, planes: tuple[Floats, ...], along: Along, volts: BankVolts) -> Floats:
    """What a controller lets through of the sun on its arrays' planes [W]."""
    return controller_power(controller, poa_by_array=planes, air_c=along.air_c, volts=volts).passed_w


def _turned(array: Array, like: Array) -> Array:
    """An array on the plane of another."""
    return array.model_copy(update={"tilt_deg": like.tilt_deg, "azimuth_deg": like.azimuth_deg, "stands": ()})


def _array_curve(controller: Controller, array: Array, along: Along, volts: BankVolts) -> ArrayCurve:
    """One array alone on its controller, as it stands and without its shade."""
    alone = controller.model_copy(update={"arrays": (array,)})
    power_w = _passed_w(alone, (array_poa(array, along),), along, volts)
    bare_w = _passed_w(alone, (array_poa(array.model_copy(update={"shade_frac": ()}), along),), along, volts)
    return ArrayCurve(
        array_id=array.id,
        name=array.name,
        power_w=_series(power_w),
        energy_wh=float(power_w.sum() * (24.0 / POINTS)),
        shade_loss_frac=float(1 - power_w.sum() / bare_w.sum()) if bare_w.sum() > 0 else 0.0,
    )


def _series(power_w: Floats) -> tuple[float, ...]:
    return tuple((np.round(power_w, 1) + 0.0).tolist())
