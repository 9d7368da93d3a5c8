"""One stretch of the outage: from a state to the next moment at which something changes. Nothing is recorded here."""

from __future__ import annotations

from hearthkeep.core.bank.acceptance import accepted_w
from hearthkeep.core.compiled import inner
from hearthkeep.core.inverter.draws import compiled_cell_of
from hearthkeep.core.outage.kernel.balance import balance, balance_anew, gives_too_much
from hearthkeep.core.outage.kernel.genset import burnt_l, charger_gives_w, fuel_lasts_h, longest_h, run_on, turned
from hearthkeep.core.outage.kernel.levels import reached, reached_anew
from hearthkeep.core.outage.kernel.state import Genset, State, Stretch
from hearthkeep.core.outage.kernel.tiers import (
    carried_of,
    may_leave,
    mode_of,
    out_after_returns,
    settled,
    with_last,
    with_spare,
)
from hearthkeep.core.outage.kernel.values import BANK_TIERS, COUPLED, TINY_L, Plant


def first_state(plant: Plant) -> State:
    """The state as the outage begins: everything on, the generator still."""
    generator = plant.generator
    genset = Genset(False, 0.0, generator.stock_l, min(generator.tank_l, generator.stock_l), 0.0)
    return State(min(plant.start_wh, plant.acceptance.capacity_wh), 0, genset)


#: The same for compiled callers.
begun = inner(first_state)


@inner
def advance(state, at, left_h, is_calm, table, hours, asks_spare, plant):  # type: ignore[no-untyped-def]
    """The state after the next stretch, `left_h` at most, and the stretch itself."""
    stored_wh = state.stored_wh
    genset, at_hand_l, did = turned(state.genset, at, stored_wh, is_calm, plant)
    runs = genset.runs
    still = state.out
    if state.out != 0 and is_calm:
        still = out_after_returns(table, hours, state.out, stored_wh, runs, at, plant)
    mode, carried = mode_of(still, runs, plant), carried_of(still)
    cell = compiled_cell_of(mode, at.row, carried, hours)
    flow = balance(table, cell, mode, carried, still, runs, at, plant)
    out, went_out = still, 0
    limit_w = accepted_w(stored_wh, plant.acceptance)
    if may_leave(flow, stored_wh, plant):
        flow, out, went_out = settled(table, hours, flow, still, 0, stored_wh, runs, at, plant)
    if gives_too_much(flow, stored_wh, limit_w, runs, plant):
        out |= 1 << COUPLED
        went_out = with_last(went_out, COUPLED)
        flow = balance_anew(table, flow.cell, flow.mode, flow.carried, out, runs, at, plant)
        if may_leave(flow, stored_wh, plant):
            flow, out, went_out = settled(table, hours, flow, out, went_out, stored_wh, runs, at, plant)
    served, spare_wh = flow, -1.0
    if asks_spare and flow.net_w > 0.0 and not runs and flow.carried == BANK_TIERS:
        served, spare_wh = with_spare(table, hours, flow, out, limit_w, at, plant)
    span_h = longest_h(left_h, genset, plant)
    may_start = plant.generator.rated_w > 0.0 and not runs and at_hand_l > TINY_L and not at.quiet
    reach = reached(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, plant)
    charger_w = 0.0
    if runs:
        charger_w = charger_gives_w(flow, reach.into_w)
        used_l = burnt_l(reach.span_h, flow.house_w, charger_w * reach.span_h, plant.generator)
        if used_l > at_hand_l:
            span_h = fuel_lasts_h(at_hand_l, used_l, reach, stored_wh, flow, plant)
            reach = reached_anew(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, plant)
            charger_w = charger_gives_w(flow, reach.into_w)
            used_l = at_hand_l
        genset = run_on(genset, reach.span_h, used_l)
        # What its charger holds back is not spilled.
        left_over_w = max(flow.net_sun_w - reach.into_w, 0.0)
    else:
        left_over_w = max(served.net_w, 0.0) - reach.into_w
    # A coupled array gives way before the controllers do; what it holds back is counted at its own terminals.
    held_w = min(max(left_over_w, 0.0) / plant.coupled.efficiency, served.surplus_w)
    unused_w = left_over_w - held_w * plant.coupled.efficiency + held_w
    after_wh = min(max(reach.after_wh, 0.0), plant.acceptance.capacity_wh)
    stretch = Stretch(
        flow,
        reach,
        did,
        state.out & ~still,
        went_out,
        served.cell,
        runs,
        charger_w,
        unused_w + served.waits_w,
        served.coupled_w,
        served.surplus_w - held_w,
    )
    return State(after_wh, out, genset), stretch
