"""What the inverter takes while it stands ready: idle, search mode, and hours in which it is switched off.

Search mode: below a threshold of house watts the unit only listens, drawing little, and whatever is plugged in gets
nothing. A load wakes it when it, on top of what runs all the time, reaches the threshold. Cycling loads are taken to be
independent of each other, which is our assumption.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.compiled import inner_counted
from hearthkeep.core.inverter.fit import Limits
from hearthkeep.core.loads import CompiledRows

Floats = NDArray[np.float64]

#: A load whose average is this part of its running watts counts as running all the time.
CONTINUOUS_DUTY = 0.999


@inner_counted
def stand(
    rows: CompiledRows, lives: NDArray[np.int64], without: int, off: NDArray[np.bool_], limits: Limits
) -> tuple[Floats, Floats, NDArray[np.bool_]]:
    """Power the inverter takes at no load, house watts left dead by its search mode, and whether it makes a supply.

    Takes the rows of the audit, the tier each lives in (n,), and the hours in which it is off (hours,).
    Returns the standing power (hours, 4), the dead watts (hours, 4, 4) and (hours, 4); the second index is the number of tiers
    on the bank less one, the last the tier.
    """
    average_w, coincident_w, is_ac, tier = rows.average_w, rows.coincident_w, rows.is_ac, lives
    idle_w, search_w, threshold_w = limits.idle_w, limits.search_w, limits.search_threshold_w
    loads, hours = average_w.shape
    tiers = 4
    standing_w = np.zeros((hours, tiers))
    dead_w = np.zeros((hours, tiers, tiers))
    forms = np.zeros((hours, tiers), dtype=np.bool_)
    for last in range(tiers):
        owns = False
        for one in range(loads):
            owns = owns or (one != without and is_ac[one] and tier[one] <= last)
        if not owns:
            continue
        for hour in range(hours):
            if off[hour]:
                continue
            forms[hour, last] = limits.rated_w > 0.0
            if threshold_w <= 0.0:
                standing_w[hour, last] = idle_w
                continue
            base_w = 0.0
            for one in range(loads):
                if one == without or not is_ac[one] or tier[one] > last:
                    continue
                if average_w[one, hour] >= CONTINUOUS_DUTY * coincident_w[one, hour]:
                    base_w += coincident_w[one, hour]
            asleep = 1.0
            if base_w >= threshold_w:
                asleep = 0.0
            for one in range(loads):
                if one == without or not is_ac[one] or tier[one] > last or coincident_w[one, hour] <= 0.0:
                    continue
                duty = average_w[one, hour] / coincident_w[one, hour]
                if duty < CONTINUOUS_DUTY and base_w + coincident_w[one, hour] >= threshold_w:
                    asleep *= 1.0 - duty
            standing_w[hour, last] = (1.0 - asleep) * idle_w + asleep * search_w
            if asleep <= 0.0:
                continue
            for one in range(loads):
                if one == without or not is_ac[one] or tier[one] > last:
                    continue
                duty = average_w[one, hour] / coincident_w[one, hour] if coincident_w[one, hour] > 0.0 else 0.0
                if duty >= CONTINUOUS_DUTY or base_w + coincident_w[one, hour] < threshold_w:
                    dead_w[hour, last, tier[one]] += asleep * average_w[one, hour]
    return standing_w, dead_w, forms
