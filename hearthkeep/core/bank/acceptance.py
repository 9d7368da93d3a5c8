"""The charge a bank accepts: up to its limit, and for lead-acid less and less from a knee to full.

Above the knee the limit is a line in the charge, a - b x stored [W], so that a charge held to it runs along an exponential.
Compiled, because the outage model asks for it in its loop.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from hearthkeep.core.compiled import inner_shared

#: Lead-acid's acceptance near full: above this part of full the limit falls in a line, down to this part of itself when
#: full. Common practice, no source.
TAPER_FROM_FRAC, TAPER_END_PART = 0.8, 0.05
#: A level counts as reached within this part of full.
TINY_FRAC = 1e-7


class Acceptance(NamedTuple):
    """What the bank accepts at a charge."""

    capacity_wh: float
    #: Below the knee [W].
    limit_w: float
    #: Of what flows in, the part that is stored.
    efficiency: float
    tapers: bool
    #: Where the limit begins to fall; full where it never does [Wh].
    knee_wh: float
    #: The falling limit, a - b x stored [W], [1/h].
    a_w: float
    b_per_h: float
    #: Levels nearer than this count as one [Wh].
    tiny_wh: float


def acceptance_of(*, capacity_wh: float, limit_w: float, efficiency: float, tapers: bool) -> Acceptance:
    """The acceptance of a bank of so much capacity [Wh] and charge limit [W]."""
    slope = limit_w * (1.0 - TAPER_END_PART) / ((1.0 - TAPER_FROM_FRAC) * capacity_wh)
    return Acceptance(
        capacity_wh=capacity_wh,
        limit_w=limit_w,
        efficiency=efficiency,
        tapers=tapers,
        knee_wh=TAPER_FROM_FRAC * capacity_wh if tapers else capacity_wh,
        a_w=limit_w + slope * TAPER_FROM_FRAC * capacity_wh,
        b_per_h=slope,
        tiny_wh=TINY_FRAC * capacity_wh,
    )


@inner_shared
def accepted_w(stored_wh, acceptance):  # type: ignore[no-untyped-def]
    """Most the bank takes at a charge [W]."""
    if stored_wh >= acceptance.capacity_wh - acceptance.tiny_wh:
        return 0.0
    if stored_wh < acceptance.knee_wh - acceptance.tiny_wh or not acceptance.tapers:
        return acceptance.limit_w
    return acceptance.a_w - acceptance.b_per_h * stored_wh


@inner_shared
def falls_to_wh(power_w, acceptance):  # type: ignore[no-untyped-def]
    """Where the falling limit comes down to a power [Wh]."""
    return (acceptance.a_w - power_w) / acceptance.b_per_h


@inner_shared
def along_limit_wh(stored_wh, span_h, acceptance):  # type: ignore[no-untyped-def]
    """Stored energy after a charge along the falling limit [Wh]."""
    asymptote_wh = acceptance.a_w / acceptance.b_per_h
    speed_per_h = acceptance.efficiency * acceptance.b_per_h
    return asymptote_wh - (asymptote_wh - stored_wh) * math.exp(-speed_per_h * span_h)


@inner_shared
def along_limit_in_wh(stored_wh, span_h, acceptance):  # type: ignore[no-untyped-def]
    """What has flowed in along the falling limit, losses included [Wh]."""
    asymptote_wh = acceptance.a_w / acceptance.b_per_h
    speed_per_h = acceptance.efficiency * acceptance.b_per_h
    return (asymptote_wh - stored_wh) * -math.expm1(-speed_per_h * span_h) / acceptance.efficiency


@inner_shared
def along_limit_h(stored_wh, to_wh, acceptance):  # type: ignore[no-untyped-def]
    """How long a charge along the falling limit takes to a level [h]."""
    asymptote_wh = acceptance.a_w / acceptance.b_per_h
    speed_per_h = acceptance.efficiency * acceptance.b_per_h
    return -math.log((asymptote_wh - to_wh) / (asymptote_wh - stored_wh)) / speed_per_h
