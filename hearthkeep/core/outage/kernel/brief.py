"""One outage without a record: four numbers kept, for loops over many houses or many starts."""

from __future__ import annotations

from numba import njit

from hearthkeep.core.inverter import Draws
from hearthkeep.core.inverter.draws import DARK_TIER
from hearthkeep.core.outage.kernel.advance import advance, first_state
from hearthkeep.core.outage.kernel.state import Inputs
from hearthkeep.core.outage.kernel.values import (
    CALM_TURNS,
    MOST_TURNS,
    SPARE,
    TINY_H,
    Outcome,
    Plant,
    Steps,
)


@njit(cache=True)
def outcome_of(steps: Steps, draws: Draws, plant: Plant) -> Outcome:
    """Carry the house through the steps and keep what came of it, the same numbers as a recorded run."""
    table, asked_w, hours = draws.table, draws.asked_w, draws.asked_w.shape[0]
    lengths_h, row, sun_w = steps.length_h, steps.row, steps.sun_w
    other_w, strongest_w, quiet, attended = steps.other_w, steps.strongest_w, steps.quiet, steps.attended
    coupled_w = steps.coupled_w
    state = first_state(plant)
    lowest_wh, dark_h, dark_for_h, now_h = state.stored_wh, -1.0, 0.0, 0.0
    for step in range(lengths_h.shape[0]):
        most_w = max(sun_w[step], strongest_w[step])
        at = Inputs(row[step], sun_w[step], other_w[step], most_w, coupled_w[step], quiet[step], attended[step])
        left_h = lengths_h[step]
        asks_spare = asked_w[at.row, SPARE] > 0.0
        turn = 0
        while left_h > TINY_H and turn < MOST_TURNS:
            state, stretch = advance(state, at, left_h, turn < CALM_TURNS, table, hours, asks_spare, plant)
            turn += 1
            if table[stretch.served, DARK_TIER] >= 0.0:
                dark_for_h += stretch.reach.span_h
                if dark_h < 0.0:
                    dark_h = now_h
            now_h += stretch.reach.span_h
            left_h -= stretch.reach.span_h
            if state.stored_wh < lowest_wh - plant.acceptance.tiny_wh:
                lowest_wh = state.stored_wh
        if left_h > TINY_H:
            now_h += left_h
    return Outcome(dark_h, dark_for_h, lowest_wh, plant.generator.stock_l - state.genset.fuel_l)
