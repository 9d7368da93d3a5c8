"""How far the bank is drawn on or charged before a level is met: solved for, so that the answer does not depend on the step."""

from __future__ import annotations

from hearthkeep.core.bank.acceptance import along_limit_h, along_limit_wh, falls_to_wh
from hearthkeep.core.compiled import inner, inner_seldom
from hearthkeep.core.outage.kernel.state import Reach
from hearthkeep.core.outage.kernel.values import BANK_TIERS, COUPLED, INVERTER, LIFE


@inner
def drawn(stored_wh, span_h, net_w, out, may_start, plant):  # type: ignore[no-untyped-def]
    """Draw on the bank for a span, or until the next level at which something leaves or the generator starts."""
    tiny_wh = plant.acceptance.tiny_wh
    factor = 1.0
    if plant.peukert_exponent > 1.0 and -net_w > plant.rated_power_w:
        factor = (-net_w / plant.rated_power_w) ** (plant.peukert_exponent - 1.0)
    drain_w = -net_w * factor / plant.discharge_efficiency
    meets_wh = -1.0
    for tier in range(BANK_TIERS):
        if meets_wh < plant.drop_wh[tier] < stored_wh - tiny_wh:
            meets_wh = plant.drop_wh[tier]
    if may_start and meets_wh < plant.generator.start_wh < stored_wh - tiny_wh:
        meets_wh = plant.generator.start_wh
    if out & (1 << COUPLED) and meets_wh < plant.coupled.back_wh < stored_wh - tiny_wh:
        meets_wh = plant.coupled.back_wh
    after_wh = stored_wh - drain_w * span_h
    if meets_wh >= 0.0 and (stored_wh - meets_wh) / drain_w < span_h:
        span_h = (stored_wh - meets_wh) / drain_w
        after_wh = meets_wh
    return Reach(span_h, after_wh, 0.0, (drain_w + net_w) * span_h, False)


@inner
def next_level_wh(stored_wh, flow, out, runs, spare_wh, curved, plant):  # type: ignore[no-untyped-def]
    """The next level met while the bank fills: knee or full, a return, a stop, or where the falling acceptance meets a source."""
    acceptance = plant.acceptance
    tiny_wh, knee_wh = acceptance.tiny_wh, acceptance.knee_wh
    meets_wh = knee_wh if stored_wh < knee_wh - tiny_wh else acceptance.capacity_wh
    if flow.carried < BANK_TIERS and stored_wh < plant.return_wh[flow.carried] - tiny_wh:
        meets_wh = min(meets_wh, plant.return_wh[flow.carried])
    if out & (1 << INVERTER) and stored_wh < plant.return_wh[LIFE] - tiny_wh:
        meets_wh = min(meets_wh, plant.return_wh[LIFE])
    if runs and stored_wh < plant.generator.stop_wh - tiny_wh:
        meets_wh = min(meets_wh, plant.generator.stop_wh)
    if stored_wh + tiny_wh < spare_wh < meets_wh:
        meets_wh = spare_wh
    if acceptance.tapers and acceptance.b_per_h > 0.0:
        if not curved:
            crossing_wh = falls_to_wh(flow.net_w, acceptance)
            if crossing_wh > knee_wh and stored_wh + tiny_wh < crossing_wh < meets_wh:
                meets_wh = crossing_wh
        if runs and flow.net_sun_w > 0.0:
            # Beyond it the charger has nothing left to give.
            crossing_wh = falls_to_wh(flow.net_sun_w, acceptance)
            if crossing_wh > knee_wh and stored_wh + tiny_wh < crossing_wh < meets_wh:
                meets_wh = crossing_wh
    return meets_wh


@inner
def charged(stored_wh, span_h, flow, limit_w, out, runs, spare_wh, plant):  # type: ignore[no-untyped-def]
    """Charge the bank for a span, or until the next level."""
    acceptance = plant.acceptance
    efficiency = acceptance.efficiency
    into_w = min(flow.net_w, limit_w)
    if into_w <= 0.0:
        return Reach(span_h, stored_wh, 0.0, 0.0, False)
    # Where the falling limit has just come down to the source, it is the limit that rules from here on.
    rules = flow.net_w >= limit_w - 2.0 * acceptance.b_per_h * acceptance.tiny_wh
    curved = acceptance.tapers and stored_wh >= acceptance.knee_wh - acceptance.tiny_wh and rules
    meets_wh = next_level_wh(stored_wh, flow, out, runs, spare_wh, curved, plant)
    after_wh = meets_wh
    if curved:
        needed_h = along_limit_h(stored_wh, meets_wh, acceptance)
        if needed_h < span_h:
            span_h = needed_h
        else:
            after_wh = along_limit_wh(stored_wh, span_h, acceptance)
        into_w = (after_wh - stored_wh) / (efficiency * span_h) if span_h > 0.0 else 0.0
    else:
        gain_w = into_w * efficiency
        if (meets_wh - stored_wh) / gain_w < span_h:
            span_h = (meets_wh - stored_wh) / gain_w
        else:
            after_wh = stored_wh + gain_w * span_h
    return Reach(span_h, after_wh, into_w, into_w * (1.0 - efficiency) * span_h, curved)


@inner
def reached(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, plant):  # type: ignore[no-untyped-def]
    """How far the bank is drawn on or charged before something changes, a span at most."""
    if flow.net_w < 0.0:
        return drawn(stored_wh, span_h, flow.net_w, out, may_start, plant)
    return charged(stored_wh, span_h, flow, limit_w, out, runs, spare_wh, plant)


@inner_seldom
def reached_anew(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, plant):  # type: ignore[no-untyped-def]
    """The same once more, where the first answer does not hold: seldom, so that the loop carries one copy only."""
    return reached(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, plant)
