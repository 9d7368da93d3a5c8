"""Outages without a record: a few numbers kept of each, for loops over many houses or many starts."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from hearthkeep.core.compiled import entry, inner, loop
from hearthkeep.core.inverter import Draws
from hearthkeep.core.inverter.draws import DARK_TIER
from hearthkeep.core.outage.kernel.advance import advance, begun
from hearthkeep.core.outage.kernel.genset import burnt_so_far_l, refuelled
from hearthkeep.core.outage.kernel.state import Inputs, State
from hearthkeep.core.outage.kernel.values import (
    CALM_TURNS,
    LIFE,
    MOST_TURNS,
    NO_COUPLED,
    NO_GENERATOR,
    OUTCOME_NUMBERS,
    SPARE,
    TINY_H,
    Floats,
    Outcome,
    Plant,
    Starts,
    Steps,
    Timeline,
)


class Brief(NamedTuple):
    """What is kept of an outage while it goes on, as in Outcome; plain numbers only."""

    now_h: float
    dark_h: float
    life_dark_h: float
    dark_for_h: float
    lowest_wh: float


@inner
def through_step(state, kept, at, length_h, asked_w, table, hours, plant):  # type: ignore[no-untyped-def]
    """The state after a step, and what is kept."""
    now_h, dark_h, life_dark_h = kept.now_h, kept.dark_h, kept.life_dark_h
    dark_for_h, lowest_wh = kept.dark_for_h, kept.lowest_wh
    left_h = length_h
    asks_spare = asked_w[at.row, SPARE] > 0.0
    turn = 0
    while left_h > TINY_H and turn < MOST_TURNS:
        state, stretch = advance(state, at, left_h, turn < CALM_TURNS, table, hours, asks_spare, plant)
        turn += 1
        dark_tier = table[stretch.served, DARK_TIER]
        if dark_tier >= 0.0:
            dark_for_h += stretch.reach.span_h
            if dark_h < 0.0:
                dark_h = now_h
            if dark_tier == LIFE and life_dark_h < 0.0:
                life_dark_h = now_h
        now_h += stretch.reach.span_h
        left_h -= stretch.reach.span_h
        if state.stored_wh < lowest_wh - plant.acceptance.tiny_wh:
            lowest_wh = state.stored_wh
    if left_h > TINY_H:
        now_h += left_h
    return state, Brief(now_h, dark_h, life_dark_h, dark_for_h, lowest_wh)


@inner
def ended(state, kept, plant):  # type: ignore[no-untyped-def]
    """What came of an outage."""
    fuel_l = burnt_so_far_l(state.genset, plant)
    return Outcome(kept.dark_h, kept.dark_for_h, kept.lowest_wh, fuel_l, kept.life_dark_h)


@loop
def outcome_from(state: State, steps: Steps, draws: Draws, plant: Plant) -> tuple[Outcome, State]:
    """Carry the house on from a state, and the state then; hours count from there, fuel from the beginning of the outage."""
    table, asked_w, hours = draws.table, draws.asked_w, draws.asked_w.shape[0]
    lengths_h, row, sun_w = steps.length_h, steps.row, steps.sun_w
    other_w, strongest_w, quiet, attended = steps.other_w, steps.strongest_w, steps.quiet, steps.attended
    coupled_w, refuels = steps.coupled_w, steps.refuels
    kept = Brief(0.0, -1.0, -1.0, 0.0, state.stored_wh)
    for step in range(lengths_h.shape[0]):
        most_w = max(sun_w[step], strongest_w[step])
        at = Inputs(row[step], sun_w[step], other_w[step], most_w, coupled_w[step], quiet[step], attended[step])
        if refuels[step]:
            state = refuelled(state, plant)
        state, kept = through_step(state, kept, at, lengths_h[step], asked_w, table, hours, plant)
    return ended(state, kept, plant), state


@entry
def outcome_of(steps: Steps, draws: Draws, plant: Plant) -> Outcome:
    """Carry the house through the steps and keep what came of it, the same numbers as a recorded run."""
    outcome: Outcome = outcome_from(begun(plant), steps, draws, plant)[0]
    return outcome


def outcomes_of(timeline: Timeline, starts: Starts, draws: Draws, plant: Plant) -> Floats:
    """
    Carry the same house through an outage from each of the starts.

    Several threads may do so at once, each with starts of its own.

    :returns: a row for each start, in the order of Outcome, (starts, 5).
    """
    found = np.empty((starts.first.shape[0], OUTCOME_NUMBERS))
    on_panels = plant.generator.rated_w <= 0 and not (
        timeline.coupled_w.any() or timeline.other_w.any() or starts.on_grid.any()
    )
    _fill(timeline, starts, draws, plant, on_panels, found)
    return found


@loop
def _fill(timeline, starts, draws, plant, on_panels, found):  # type: ignore[no-untyped-def]
    """Fill in what came of each start."""
    if on_panels:
        # Panels alone: the same loop, of which the compiler leaves out what cannot happen.
        _from_each(timeline, starts, draws, on_panels_alone(plant), True, found)
    else:
        _from_each(timeline, starts, draws, plant, False, found)


@inner
def _from_each(timeline, starts, draws, plant, on_panels, found):  # type: ignore[no-untyped-def]
    """The loop of outcomes_of; `on_panels` where no other source ever gives anything."""
    table, asked_w, hours = draws.table, draws.asked_w, draws.asked_w.shape[0]
    hour, quiet, fetches, steps_a_day = timeline.hour, timeline.quiet, timeline.fetches, timeline.steps_a_day
    sun_w, other_w, strongest_w = timeline.sun_w, timeline.other_w, timeline.strongest_w
    coupled_w, first, clock = timeline.coupled_w, starts.first, starts.clock
    lengths_h, day_row, away = starts.length_h, starts.day_row, starts.away
    whose, fuel = starts.who, starts.fuel
    on_grid, grid_w, grid_rows, by_hand = starts.on_grid, starts.grid_w, starts.grid_rows, starts.by_hand
    for one in range(first.shape[0]):
        begin, lengths = first[one], clock[one]
        day, day_ends = 0, (begin // steps_a_day + 1) * steps_a_day
        state = begun(plant)
        kept = Brief(0.0, -1.0, -1.0, 0.0, state.stored_wh)
        for step in range(lengths_h.shape[1]):
            now = begin + step
            if now == day_ends:
                day += 1
                day_ends += steps_a_day
            who = whose[day]
            row, sun_now_w = day_row[one, day] + hour[now], sun_w[who, now]
            if on_panels:
                at = Inputs(row, sun_now_w, 0.0, sun_now_w, 0.0, False, True)
            else:
                other_now_w, strongest_now_w = other_w[who, now], strongest_w[who, now]
                coupled_now_w, attended = coupled_w[who, now], not away[day]
                is_quiet = quiet[now] or (by_hand and not attended)
                if on_grid[lengths, step]:
                    row += grid_rows
                    other_now_w += grid_w
                    strongest_now_w = max(strongest_now_w, grid_w)
                    coupled_now_w, is_quiet = 0.0, True
                if fetches[now] and fuel[day] and attended:
                    state = refuelled(state, plant)
                most_w = max(sun_now_w, strongest_now_w)
                at = Inputs(row, sun_now_w, other_now_w, most_w, coupled_now_w, is_quiet, attended)
            state, kept = through_step(state, kept, at, lengths_h[lengths, step], asked_w, table, hours, plant)
        outcome = ended(state, kept, plant)
        for number in range(OUTCOME_NUMBERS):
            found[one, number] = outcome[number]


@inner
def on_panels_alone(plant):  # type: ignore[no-untyped-def]
    """The plant without generator and coupled array, as plain zeros for the compiler."""
    return Plant(
        plant.acceptance,
        plant.start_wh,
        plant.drop_wh,
        plant.return_wh,
        plant.discharge_efficiency,
        plant.peukert_exponent,
        plant.rated_power_w,
        False,
        NO_GENERATOR,
        NO_COUPLED,
    )
