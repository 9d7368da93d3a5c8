"""A hot day: what a string loses where its working voltage falls below the volts of a bank that is charged."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Array, ControllerKind, ModuleSheet, Site
from hearthkeep.core.sources.greatest import QUARTER_H, clear_days, midsummer
from hearthkeep.core.sources.planes import array_poa

Floats = NDArray[np.float64]

STC_CELL_C = 25.0
#: Typical loss of working and of open-circuit voltage per degree where the panel's sheet names none. Common practice, no source.
TYPICAL_VMP_COEFF_PER_C, TYPICAL_VOC_COEFF_PER_C = -0.004, -0.003
#: Lost between panel and bank in cable and controller, so that the panel has to lie so much above the bank [V]. Our assumption.
DROP_V = 0.5


@dataclass(frozen=True, kw_only=True, slots=True)
class HotDay:
    """A clear midsummer day at the record high, the bank held at its charging volts from morning to evening."""

    #: What the panel has to reach [V].
    needed_v: float
    #: With working voltage to spare, and of that lost for want of it [Wh].
    full_wh: float
    lost_wh: float

    @property
    def lost_frac(self) -> float:
        """Part of the day that is lost."""
        return self.lost_wh / self.full_wh if self.full_wh > 0 else 0.0


def vmp_coeff_per_c(array: Array, module: ModuleSheet) -> float:
    """Working voltage lost per degree, a negative number [1/°C].

    With heat the working current hardly changes, so the voltage falls about as the power does, and faster than the open
    circuit: the steeper of the two coefficients counts. Common practice, no source.
    """
    of_open = TYPICAL_VMP_COEFF_PER_C if module.voc_temp_coeff_per_c is None else module.voc_temp_coeff_per_c
    return min(of_open, array.power_temp_coeff_per_c)


def current_part(volts_part: Floats, module: ModuleSheet) -> Floats:
    """Current of a panel over its short-circuit current, by its voltage over its open-circuit voltage.

    i = 1 - c1 (exp(v / c2) - 1), c2 = (Vmp/Voc - 1) / ln(1 - Imp/Isc), c1 = (1 - Imp/Isc) exp(-Vmp / (c2 Voc)): the usual curve
    through the three points of a data sheet; textbook form, from memory.
    """
    knee = min(module.imp_a / module.isc_a, 0.999)
    working = module.vmp_v / module.voc_v
    c2 = (working - 1.0) / math.log(1.0 - knee)
    c1 = (1.0 - knee) * math.exp(-working / c2)
    found: Floats = np.clip(1.0 - c1 * (np.exp(np.minimum(volts_part, 1.0) / c2) - 1.0), 0.0, 1.0)
    return found


@lru_cache(maxsize=256)
def hot_day(site: Site, array: Array, *, kind: ControllerKind, charging_v: float, air_c: float) -> HotDay:
    """Follow an array of known panels through the day; a controller that converts down to the bank cannot lift it."""
    module = array.module
    needed_v = charging_v + DROP_V
    if module is None or kind is ControllerKind.PANEL_FED:
        return HotDay(needed_v=needed_v, full_wh=0.0, lost_wh=0.0)
    poa = array_poa(array, clear_days(site))[midsummer(site)]
    cell_c = air_c + (array.noct_c - 20.0) * poa / 800.0
    voc_coeff = TYPICAL_VOC_COEFF_PER_C if module.voc_temp_coeff_per_c is None else module.voc_temp_coeff_per_c
    vmp_v = array.series * module.vmp_v * np.maximum(1.0 + vmp_coeff_per_c(array, module) * (cell_c - STC_CELL_C), 0.01)
    voc_v = np.maximum(array.series * module.voc_v * (1.0 + voc_coeff * (cell_c - STC_CELL_C)), 1.01 * vmp_v)
    sun = poa / 1000.0 * array.strings * (1.0 - array.losses_frac)
    # Between working and open-circuit voltage the hot panel runs down the same curve as on its data sheet.
    working = module.vmp_v / module.voc_v
    part = working + (1.0 - working) * np.clip((needed_v - vmp_v) / (voc_v - vmp_v), 0.0, 1.0)
    held_a = sun * module.isc_a * current_part(part, module)
    pins = kind is ControllerKind.PWM
    full_w = sun * module.imp_a * (needed_v if pins else vmp_v)
    given_w = np.where(vmp_v >= needed_v, full_w, np.minimum(held_a * needed_v, full_w))
    return HotDay(
        needed_v=needed_v,
        full_wh=float(full_w.sum() * QUARTER_H),
        lost_wh=float((full_w - given_w).sum() * QUARTER_H),
    )
