"""What the house draws from the bank hour by hour on a day without sun, while so many tiers are carried."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.inverter import HouseWatts, lost_in_runs_w, marginal_efficiency

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class Drawn:
    """Powers by hour of the day [W], (24,); by hour and tier where said."""

    #: AC loads less what search mode leaves dead, (24, tiers).
    ac_w: Floats
    #: Lost in the wiring, and all that is taken at the bank's terminals.
    wiring_w: Floats
    at_bus_w: Floats
    #: As stored energy: over the discharge efficiency, and by Peukert's law at each hour's current.
    stored_w: Floats


def drawn_by_hour(design: Design, rating: BankRating, house: HouseWatts, count: int) -> Drawn:
    """Loads of the first `count` tiers, the inverter standing ready, conversion and cable."""
    ac_w = (house.ac_w - house.dead_w[:, count - 1])[:, :count]
    direct_w = (house.dc_w + house.converter_w)[:, :count].sum(axis=1)
    input_w = ac_w.sum(axis=1) / marginal_efficiency(design.inverter) + house.standing_w[:, count - 1]
    used_w, cables = input_w + direct_w, house.limits.cables
    at_bus_w = used_w * (1 + cables.flat_frac) + lost_in_runs_w(direct_w, input_w, cables)
    stored_w = at_bus_w * rating.rate_factor(at_bus_w) / rating.discharge_efficiency_frac
    return Drawn(ac_w=ac_w, wiring_w=at_bus_w - used_w, at_bus_w=at_bus_w, stored_w=stored_w)
