"""Who is served: sources against draws, what returns, and what goes out because it would draw on a bank too low for it.

Tiers: 0 Life, 1 Keep, 2 Ease, 3 Spare. The first three live on the bank; Spare only on what would be spilled. Which of
them are out, and whether the inverter is, stands in one number, a bit each.
"""

from __future__ import annotations

from hearthkeep.core.bank.acceptance import accepted_w, falls_to_wh
from hearthkeep.core.compiled import inner, inner_seldom
from hearthkeep.core.inverter.draws import BLOCKED, GENERATOR, IDLES, OFF, ON, SERVED, compiled_cell_of
from hearthkeep.core.outage.kernel.balance import balance_anew, gives_too_much
from hearthkeep.core.outage.kernel.values import BANK_TIERS, COUPLED, EASE, INVERTER, LIFE, SPARE, TINY_W


@inner
def carried_of(out):  # type: ignore[no-untyped-def]
    """How many tiers are served: none below the first that is out."""
    carried = 0
    while carried < BANK_TIERS and not out & (1 << carried):
        carried += 1
    return carried


@inner
def mode_of(out, runs, plant):  # type: ignore[no-untyped-def]
    """How the house is fed: by the inverter, by the generator, or by direct current alone."""
    if runs and not plant.generator.charges_only:
        return GENERATOR
    return OFF if out & (1 << INVERTER) else ON


@inner_seldom
def flow_of(table, hours, out, carried, runs, at, plant):  # type: ignore[no-untyped-def]
    """Sources and draws while so many tiers are served."""
    mode = mode_of(out, runs, plant)
    cell = compiled_cell_of(mode, at.row, carried, hours)
    return balance_anew(table, cell, mode, carried, out, runs, at, plant)


@inner_seldom
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
    if out & (1 << COUPLED) and stored_wh <= plant.coupled.back_wh + tiny_wh:
        # Not while it would at once be too much again.
        with_it = out & ~(1 << COUPLED)
        flow = flow_of(table, hours, with_it, carried_of(with_it), runs, at, plant)
        if not gives_too_much(flow, stored_wh, accepted_w(stored_wh, plant.acceptance), runs, plant):
            out = with_it
    return out


@inner
def may_leave(flow, stored_wh, plant):  # type: ignore[no-untyped-def]
    """Whether the bank is drawn on and as low as the highest level of the tiers that are in."""
    lowest = max(flow.carried - 1, LIFE)
    return flow.net_w < -TINY_W and stored_wh <= plant.drop_wh[lowest] + plant.acceptance.tiny_wh


@inner_seldom
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


@inner
def with_last(went_out, bit):  # type: ignore[no-untyped-def]
    """What went out, coded as in Stretch, and last of all the one of that bit."""
    place = 1
    while place <= went_out:
        place *= 8
    return went_out + place * (bit + 1)


@inner_seldom
def settled(table, hours, flow, out, went_out, stored_wh, runs, at, plant):  # type: ignore[no-untyped-def]
    """The flow once nothing more goes out, who is out then, and what went out besides, coded as in Stretch."""
    while flow.net_w < -TINY_W:
        leaves = next_out(table, flow, stored_wh, plant)
        if leaves < 0:
            break
        out |= 1 << leaves
        went_out = with_last(went_out, leaves)
        flow = flow_of(table, hours, out, carried_of(out), runs, at, plant)
    return flow, out, went_out


@inner_seldom
def with_spare(table, hours, flow, out, limit_w, at, plant):  # type: ignore[no-untyped-def]
    """The flow with Spare where it runs on what the bank leaves over, and the level at which it may begin [Wh].

    The level is -1 where it does not depend on the charge.
    """
    acceptance = plant.acceptance
    cell = compiled_cell_of(flow.mode, at.row, SPARE + 1, hours)
    if table[cell, BLOCKED] == 0.0:
        richer = balance_anew(table, cell, flow.mode, SPARE + 1, out, False, at, plant)
        need_w = flow.net_w - richer.net_w
        if flow.net_w - min(flow.net_w, limit_w) >= need_w - TINY_W:
            return richer, -1.0
        if acceptance.tapers and acceptance.b_per_h > 0.0 and flow.net_w > need_w:
            # It starts where the falling acceptance leaves enough over.
            return flow, falls_to_wh(flow.net_w - need_w, acceptance)
    return flow, -1.0
