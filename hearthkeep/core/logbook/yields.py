"""True yield of the arrays: watts read against those that the model gives of the same sun."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Controller, Design
from hearthkeep.core.logbook.estimates import SUN_FRAC, WATTS_FRAC, mean_of
from hearthkeep.core.logbook.log import HOUR_S, Log, Trace, block_means, joint
from hearthkeep.core.logbook.quantities import Quantity
from hearthkeep.core.sources import Along, Moments, array_poa, controller_power

Floats = NDArray[np.float64]

#: Weaker sun says little of an array [W/m²].
LEAST_SUN_W_M2 = 150.0
#: From this charge on the controller may hold back [%]; and what it gives counts only below this part of its limit.
HOLDS_BACK_PERCENT, LIMIT_FRAC = 95.0, 0.95
#: Air where none was read [°C]. Our assumption.
USUAL_AIR_C = 15.0
LEAST_HOURS, LEAST_DAYS = 12, 10
#: Doubt of a yield that rests on a clear sky worked out, not on a sun that was measured.
CLEAR_SKY_DOUBT = 0.1


@dataclass(frozen=True, kw_only=True, slots=True)
class YieldFound:
    """Yield against the design's."""

    #: Of what the design's arrays give with their losses, and its half-width of doubt.
    factor: float
    doubt: float
    blocks: int
    is_measured: bool
    how: str


def yield_of(design: Design, log: Log, sun: Trace) -> YieldFound | str:
    """Yield of all controllers together; or why it cannot be told."""
    measured = log.find(Quantity.SUN_W_M2)
    return _against_measured(design, log, sun, measured) if measured is not None else _against_clear(design, log, sun)


def _against_measured(design: Design, log: Log, sun: Trace, measured: Trace) -> YieldFound | str:
    both = joint(sun, measured)
    given_w, sun_w_m2 = both.columns
    air_c = _at(log.find(Quantity.AIR_C), both.at_s, USUAL_AIR_C)
    model_w, limit_w = _model(design, [sun_w_m2] * sum(len(each.arrays) for each in _controllers(design)), air_c)
    good = (sun_w_m2 >= LEAST_SUN_W_M2) & (model_w < LIMIT_FRAC * limit_w) & _hungry(log, both.at_s)
    if not good.any():
        return "Yield of the arrays: no moment with enough sun and a hungry bank is read."
    read, expected = block_means(both.at_s[good], HOUR_S, given_w[good], model_w[good])
    if read.size < LEAST_HOURS:
        return f"Yield of the arrays: {read.size} hours with enough sun and a hungry bank; {LEAST_HOURS} say something."
    found = mean_of(read / expected)
    if found is None:
        return f"Yield of the arrays: {read.size} hours that are too much alike, each like the one before; more weeks say something."
    found = found.read_within(WATTS_FRAC + SUN_FRAC)
    return YieldFound(
        factor=found.value,
        doubt=found.doubt,
        blocks=found.blocks,
        is_measured=True,
        how="sun measured on the plane",
    )


def _against_clear(design: Design, log: Log, sun: Trace) -> YieldFound | str:
    start = (
        datetime(1970, 1, 1) + timedelta(seconds=float(np.floor(sun.at_s[0] / HOUR_S) * HOUR_S))
        if sun.at_s.size
        else datetime(2000, 1, 1)
    )
    hours, given_w = _hour_means(sun)
    if hours.size < LEAST_HOURS:
        return f"Yield of the arrays: {hours.size} hours are read; some weeks say something."
    moments = Moments(
        start=start, offsets_h=tuple((hours - hours[0] + 0.5).tolist()), utc_offset_h=design.site.utc_offset_h
    )
    of_day = (hours % 24).astype(np.int64)
    air_c = _at(log.find(Quantity.AIR_C), hours * HOUR_S, USUAL_AIR_C)
    along = Along(
        site=design.site, moments=moments, hour=of_day, air_c=air_c, covered=np.zeros(hours.size, dtype=bool),
        attended=np.ones(hours.size, dtype=bool), part=np.ones(hours.size),
    )  # fmt: skip
    planes = [array_poa(array, along) for each in _controllers(design) for array in each.arrays]
    model_w, limit_w = _model(design, planes, air_c)
    strong = (
        (model_w > 0.3 * model_w.max()) & (model_w < LIMIT_FRAC * limit_w) & _hungry(log, hours * HOUR_S)
        if model_w.size
        else np.zeros(0, dtype=bool)
    )
    day = np.floor(hours / 24)
    best = np.array(
        [
            (given_w[own] / model_w[own]).max()
            for number in np.unique(day[strong])
            if (own := strong & (day == number)).any()
        ]
    )
    if best.size < LEAST_DAYS:
        return f"Yield of the arrays: {best.size} days with a hungry bank at strong sun; {LEAST_DAYS} say something, or measure the sun on the plane."
    top = np.sort(best)[-max(best.size // 4, 2) :]
    return YieldFound(
        factor=float(np.median(top)), doubt=CLEAR_SKY_DOUBT, blocks=int(best.size), is_measured=False, how="clear sky worked out, best days"
    )  # fmt: skip


def _controllers(design: Design) -> tuple[Controller, ...]:
    return tuple(each for each in design.charging.controllers if each.charges)


def _model(design: Design, planes: list[Floats], air_c: Floats) -> tuple[Floats, float]:
    """What the design's controllers give of a sun on each of their arrays [W], (n,), and the most they pass together [W]."""
    volts = rate(design.bank).volts
    given, limit, at = np.zeros_like(air_c), 0.0, 0
    for controller in _controllers(design):
        own = tuple(planes[at : at + len(controller.arrays)])
        at += len(controller.arrays)
        free = controller.model_copy(update={"output_a": 5_000.0})
        given = given + controller_power(free, poa_by_array=own, air_c=air_c, volts=volts).passed_w
        limit += controller.output_a * volts.charging_v
    return given, limit


def _at(trace: Trace | None, at_s: Floats, usual: float) -> Floats:
    if trace is None or not trace.at_s.size:
        return np.full(at_s.size, usual)
    return np.interp(at_s, trace.at_s, trace.values)


def _hungry(log: Log, at_s: Floats) -> NDArray[np.bool_]:
    charge = log.find(Quantity.CHARGE)
    if charge is None or not charge.at_s.size:
        return np.ones(at_s.size, dtype=bool)
    return np.interp(at_s, charge.at_s, charge.values) < HOLDS_BACK_PERCENT


def _hour_means(trace: Trace) -> tuple[Floats, Floats]:
    """Hours since 1970 that are read, and the mean of each."""
    hours = np.floor(trace.at_s / HOUR_S)
    (means,) = block_means(trace.at_s, HOUR_S, trace.values)
    return np.unique(hours), means
