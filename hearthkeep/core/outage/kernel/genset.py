"""The generator inside the loop: when it starts and stops, what its charger gives, what it burns, how long its fuel lasts."""

from __future__ import annotations

from hearthkeep.core.bank.acceptance import along_limit_in_wh
from hearthkeep.core.compiled import inner
from hearthkeep.core.outage.kernel.state import Genset, State
from hearthkeep.core.outage.kernel.values import STOP_EMPTY, STOP_FULL, STOP_QUIET, STOP_TANK, TINY_L

#: A minimum run counts as over within this [h].
SOON_H = 1e-9
#: Halvings of the interval that holds the end of the fuel.
HALVINGS = 60


@inner
def turned(genset, at, stored_wh, is_calm, plant):  # type: ignore[no-untyped-def]
    """The generator after its rules, the fuel at hand [L], and what it did: -1 started, 0 nothing, else why it stopped.

    Quiet hours and an empty tank end a run at once, a full bank after the minimum run.
    """
    generator, tiny_wh = plant.generator, plant.acceptance.tiny_wh
    if generator.rated_w <= 0.0:
        return genset, 0.0, 0
    tank_l = min(generator.tank_l, genset.fuel_l) if at.attended else genset.tank_l
    at_hand_l = genset.fuel_l if at.attended else tank_l
    did = 0
    runs, run_h = genset.runs, genset.run_h
    if runs:
        if at.quiet:
            did = STOP_QUIET
        elif at_hand_l <= TINY_L:
            did = STOP_EMPTY if genset.fuel_l <= TINY_L else STOP_TANK
        elif stored_wh >= generator.stop_wh - tiny_wh and run_h >= generator.min_run_h - SOON_H:
            did = STOP_FULL
        runs = did == 0
    elif is_calm and not at.quiet and at_hand_l > TINY_L and stored_wh <= generator.start_wh + tiny_wh:
        runs, run_h, did = True, 0.0, -1
    return Genset(runs, run_h, genset.fuel_l, tank_l, genset.fetched_l), at_hand_l, did


@inner
def longest_h(left_h, genset, plant):  # type: ignore[no-untyped-def]
    """The rest of the step, or until its minimum run is over, whichever comes first [h]."""
    if genset.runs and genset.run_h < plant.generator.min_run_h - SOON_H:
        return min(left_h, plant.generator.min_run_h - genset.run_h)
    return left_h


@inner
def charger_gives_w(flow, into_w):  # type: ignore[no-untyped-def]
    """What its charger gives: all it may towards a draw, else what the bank takes beyond the sun [W]."""
    return flow.charger_w if flow.net_w < 0.0 else max(into_w - flow.net_sun_w, 0.0)


@inner
def burnt_l(span_h, house_w, charger_wh, generator):  # type: ignore[no-untyped-def]
    """Fuel burnt in a span in which the charger gives so much [L]."""
    given_kwh = (house_w * span_h + charger_wh / generator.charger_efficiency) / 1000.0
    return generator.idle_l_per_h * span_h + generator.l_per_kwh * given_kwh


@inner
def fuel_lasts_h(at_hand_l, needed_l, reach, stored_wh, flow, plant):  # type: ignore[no-untyped-def]
    """How long the fuel lasts in a stretch that would need more than there is, by what is really burnt [h]."""
    if not reach.curved:
        return reach.span_h * at_hand_l / needed_l
    # Along the falling acceptance it burns less and less: halve the interval that holds the end.
    low_h, high_h = 0.0, reach.span_h
    for _ in range(HALVINGS):
        middle_h = 0.5 * (low_h + high_h)
        into_wh = along_limit_in_wh(stored_wh, middle_h, plant.acceptance)
        charger_wh = max(into_wh - flow.net_sun_w * middle_h, 0.0)
        if burnt_l(middle_h, flow.house_w, charger_wh, plant.generator) > at_hand_l:
            high_h = middle_h
        else:
            low_h = middle_h
    return 0.5 * (low_h + high_h)


@inner
def run_on(genset, span_h, used_l):  # type: ignore[no-untyped-def]
    """The generator after a span in which it ran."""
    left_l, in_tank_l = max(genset.fuel_l - used_l, 0.0), max(genset.tank_l - used_l, 0.0)
    return Genset(True, genset.run_h + span_h, left_l, in_tank_l, genset.fetched_l)


@inner
def refuelled(state, plant):  # type: ignore[no-untyped-def]
    """The state with its stock full again; the tank is filled from it while somebody is there."""
    genset, stock_l = state.genset, plant.generator.stock_l
    fetched_l = genset.fetched_l + (stock_l - genset.fuel_l)
    return State(state.stored_wh, state.out, Genset(genset.runs, genset.run_h, stock_l, genset.tank_l, fetched_l))


@inner
def burnt_so_far_l(genset, plant):  # type: ignore[no-untyped-def]
    """Fuel burnt since the outage began [L]."""
    return plant.generator.stock_l + genset.fetched_l - genset.fuel_l
