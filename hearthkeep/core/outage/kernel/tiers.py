"""Who is served: sources against draws, what returns, and what goes out because it would draw on a bank too low for it.

Tiers: 0 Life, 1 Keep, 2 Ease, 3 Spare. The first three live on the bank; Spare only on what would be spilled. Which of
them are out, and whether the inverter is, stands in one number, a bit each.
"""

from __future__ import annotations

from numba import njit

from hearthkeep.core.bank.acceptance import falls_to_wh
from hearthkeep.core.inverter.draws import BLOCKED, DIRECT, GENERATOR, HOUSE, IDLES, OFF, ON, SERVED, cell_of
from hearthkeep.core.outage.kernel.state import Flow
from hearthkeep.core.outage.kernel.values import BANK_TIERS, EASE, INVERTER, LIFE, SPARE, TINY_W


@njit(cache=True, inline="always")
def carried_of(out):  # type: ignore[no-untyped-def]
    """How many tiers are served: none below the first that is out."""
    carried = 0
    while carried < BANK_TIERS and not out & (1 << carried):
        carried += 1
    return carried


@njit(cache=True, inline="always")
def mode_of(out, runs, plant):  # type: ignore[no-untyped-def]
    """How the house is fed: by the inverter, by the generator, or by direct current alone."""
    if runs and not plant.generator.charges_only:
        return GENERATOR
    return OFF if out & (1 << INVERTER) else ON


@njit(cache=True, inline="always")
def balance(cell, mode, carried, house_w, direct_w, runs, at, plant):  # type: ignore[no-untyped-def]
    """Sources against draws: house watts on the generator, and watts at the direct-current bus."""
    generator = plant.generator
    both_w = at.sun_w + at.other_w
    source_w = at.strongest_w if plant.one_source else both_w
    charger_w = 0.0
    if runs:
        charger_w = min(generator.charger_w, max(generator.rated_w - house_w, 0.0) * generator.charger_efficiency)
        if plant.one_source:
            # The stronger of the two charges, the other one waits.
            if charger_w > source_w:
                source_w = 0.0
            else:
                charger_w = 0.0
    net_sun_w = source_w - direct_w
    return Flow(cell, mode, carried, house_w, charger_w, net_sun_w, net_sun_w + charger_w, both_w - source_w)


@njit(cache=True)
def flow_of(table, hours, out, carried, runs, at, plant):  # type: ignore[no-untyped-def]
    """Sources and draws while so many tiers are served."""
    mode = mode_of(out, runs, plant)
    cell = cell_of(mode, at.row, carried, hours)
    return balance(cell, mode, carried, table[cell, HOUSE], table[cell, DIRECT], runs, at, plant)


@njit(cache=True)
def out_after_returns(table, hours, out, stored_wh, runs, at, plant):  # type: ignore[no-untyped-def]
    """What is still out once everything has returned that may: at its level, Life and Keep at once on a running generator.

    Beside a generator at once only where it does not draw on the bank; else at its level, as without one.
    """
    tiny_wh = plant.acceptance.tiny_wh
    if runs:
        if out & (1 << INVERTER) and plant.generator.charges_only:
            without = out & ~(1 << INVERTER)
            if flow_of(table, hours, without, carried_of(out), runs, at, plant).net_w >= -TINY_W:
                out = without
        for tier in range(EASE):
            if out & (1 << tier):
                if flow_of(table, hours, out, tier + 1, runs, at, plant).net_w < -TINY_W:
                    break
                out &= ~(1 << tier)
    for tier in range(BANK_TIERS):
        if out & (1 << tier):
            if stored_wh < plant.return_wh[tier] - tiny_wh:
                break
            out &= ~(1 << tier)
    if stored_wh >= plant.return_wh[LIFE] - tiny_wh:
        out &= ~(1 << INVERTER)
    return out


@njit(cache=True, inline="always")
def may_leave(flow, stored_wh, plant):  # type: ignore[no-untyped-def]
    """Whether the bank is drawn on and as low as the highest level of the tiers that are in."""
    lowest = max(flow.carried - 1, LIFE)
    return flow.net_w < -TINY_W and stored_wh <= plant.drop_wh[lowest] + plant.acceptance.tiny_wh


@njit(cache=True)
def next_out(table, flow, stored_wh, plant):  # type: ignore[no-untyped-def]
    """What goes out because it would draw on the bank at or below its level: a tier, the inverter, or -1 for nothing.

    The lowest tier that asks; at the cut-off before all the inverter, where it only idles.
    """
    tiny_wh = plant.acceptance.tiny_wh
    at_cut_off = stored_wh <= plant.drop_wh[LIFE] + tiny_wh
    if at_cut_off and flow.mode == ON and table[flow.cell, IDLES] > 0.0:
        return INVERTER
    for tier in range(flow.carried - 1, -1, -1):
        if table[flow.cell, SERVED + tier] > 0.0 and stored_wh <= plant.drop_wh[tier] + tiny_wh:
            return tier
    return -1


@njit(cache=True)
def settled(table, hours, flow, out, stored_wh, runs, at, plant):  # type: ignore[no-untyped-def]
    """The flow once nothing more goes out, who is out then, and what went out, coded as in Stretch."""
    went_out, place = 0, 1
    while flow.net_w < -TINY_W:
        leaves = next_out(table, flow, stored_wh, plant)
        if leaves < 0:
            break
        out |= 1 << leaves
        went_out += place * (leaves + 1)
        place *= 8
        flow = flow_of(table, hours, out, carried_of(out), runs, at, plant)
    return flow, out, went_out


@njit(cache=True)
def with_spare(table, hours, flow, limit_w, at, plant):  # type: ignore[no-untyped-def]
    """Row of the table with Spare where it runs on what the bank leaves over, and the level at which it may begin [Wh].

    The level is -1 where it does not depend on the charge.
    """
    acceptance = plant.acceptance
    cell = cell_of(flow.mode, at.row, SPARE + 1, hours)
    need_w = table[cell, DIRECT] - table[flow.cell, DIRECT]
    if table[cell, BLOCKED] == 0.0:
        if flow.net_w - min(flow.net_w, limit_w) >= need_w - TINY_W:
            return cell, -1.0
        if acceptance.tapers and acceptance.b_per_h > 0.0 and flow.net_w > need_w:
            # It starts where the falling acceptance leaves enough over.
            return flow.cell, falls_to_wh(flow.net_w - need_w, acceptance)
    return flow.cell, -1.0
