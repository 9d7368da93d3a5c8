"""One outage with its record: events, energy totals, and the series that the strip draws."""

from __future__ import annotations

import numpy as np

from hearthkeep.core.compiled import inner, loop
from hearthkeep.core.inverter import Draws
from hearthkeep.core.inverter.draws import BLOCKED, BUS_PER_AC, CAUSE, CONVERSION, DARK_TIER, LOAD, WIRING
from hearthkeep.core.inverter.draws import SERVED as BY_TIER
from hearthkeep.core.outage.kernel.advance import advance, first_state
from hearthkeep.core.outage.kernel.genset import burnt_so_far_l, refuelled
from hearthkeep.core.outage.kernel.notes import no_notes, note, note_service, note_switching
from hearthkeep.core.outage.kernel.state import Inputs, State
from hearthkeep.core.outage.kernel.tally import (
    Service,
    Tiers,
    first_tally,
    left_off,
    step_begun,
    stretch_added,
)
from hearthkeep.core.outage.kernel.values import (
    CALM_TURNS,
    EVENT_KINDS,
    FUEL_FETCHED,
    FULL,
    MAX_EVENTS,
    MOST_TURNS,
    TINY_H,
    TOTALS,
    Plant,
    Run,
    Steps,
)

#: Columns of the books: loads served by tier [W], spilled [W], generator [W], dark [h], Life unserved [h], the generator running
#: [h], fuel burnt [L].
_TIERS, _SPILLED, _GENERATOR, _DARK, _LIFE_DARK, _RAN, _BURNT, _COLUMNS = 4, 4, 5, 6, 7, 8, 9, 10


@inner
def _service(table, stretch, coupled):  # type: ignore[no-untyped-def]
    """What the table says of a stretch: of the loads served, Spare among them, and of what does not fit.

    Loads on a coupled array lose nothing in inverter and wiring; what it charges loses its part there.
    """
    cell, served = stretch.flow.cell, stretch.served
    charging_w = stretch.coupled_in_w * (1.0 - coupled.efficiency)
    wiring_per_ac_w = coupled.wiring_per_ac_w + (table[served, BUS_PER_AC] - coupled.bus_w_per_ac_w)
    return Service(
        table[served, LOAD],
        table[served, CONVERSION] - stretch.coupled_w * coupled.conversion_per_ac_w + charging_w,
        table[served, WIRING] - stretch.coupled_w * wiring_per_ac_w,
        Tiers(
            table[served, BY_TIER],
            table[served, BY_TIER + 1],
            table[served, BY_TIER + 2],
            table[served, BY_TIER + 3],
        ),
        int(table[cell, BLOCKED]),
        int(table[cell, CAUSE]),
        int(table[served, DARK_TIER]),
    )


@inner
def _switches(stretch):  # type: ignore[no-untyped-def]
    return stretch.turned != 0 or stretch.came_back != 0 or stretch.went_out != 0


@inner
def _serves_otherwise(service, before):  # type: ignore[no-untyped-def]
    return service.blocked != before.overloaded or (service.dark_tier >= 0) != before.is_dark


def run(steps: Steps, draws: Draws, plant: Plant) -> Run:
    """Carry the house through the steps."""
    return run_from(first_state(plant), steps, draws, plant)


def run_from(state: State, steps: Steps, draws: Draws, plant: Plant) -> Run:
    """Carry the house on from a state; hours count from there, fuel is what is burnt from there on."""
    count = steps.length_h.shape[0]
    books, stored_wh, notes = np.empty((count, _COLUMNS)), np.empty(count + 1), no_notes()
    sums = np.empty(TOTALS + 2 * _TIERS)
    marks, generator_h, unsettled_h, fuel_l, last = _written_down(
        state, steps, draws, plant, books, stored_wh, sums, notes
    )
    return Run(
        stored_wh,
        books[:, :_TIERS],
        books[:, _SPILLED],
        sums[:TOTALS],
        sums[TOTALS : TOTALS + _TIERS],
        sums[TOTALS + _TIERS :],
        marks.dark_h,
        books[:, _DARK],
        books[:, _LIFE_DARK],
        books[:, _GENERATOR],
        books[:, _RAN],
        books[:, _BURNT],
        fuel_l,
        generator_h,
        marks.lowest_wh,
        marks.lowest_h,
        marks.full_h,
        notes.events,
        min(int(notes.counts[EVENT_KINDS]), MAX_EVENTS),
        notes.counts,
        notes.cause_h,
        marks.dark_cause,
        marks.darkened_h,
        unsettled_h,
        last,
    )


@loop
def _written_down(state, steps, draws, plant, books, stored_wh, sums, notes):  # type: ignore[no-untyped-def]
    """Fill in books, charge, sums and notes.

    Returns the marks, how long the generator ran and how long nothing was settled [h], the fuel burnt [L], and the last state.
    """
    table, asked_w, hours = draws.table, draws.asked_w, draws.asked_w.shape[0]
    lengths_h, row, sun_w, clipped_w = steps.length_h, steps.row, steps.sun_w, steps.clipped_w
    other_w, strongest_w, quiet, attended = steps.other_w, steps.strongest_w, steps.quiet, steps.attended
    coupled_w, refuels = steps.coupled_w, steps.refuels
    tally, before_l = first_tally(state, plant.acceptance), burnt_so_far_l(state.genset, plant)
    stored_wh[0] = state.stored_wh
    for step in range(lengths_h.shape[0]):
        # All controllers' sun counts as one source.
        most_w = max(sun_w[step], strongest_w[step])
        at = Inputs(row[step], sun_w[step], other_w[step], most_w, coupled_w[step], quiet[step], attended[step])
        asked = Tiers(asked_w[at.row, 0], asked_w[at.row, 1], asked_w[at.row, 2], asked_w[at.row, 3])
        length_h = left_h = lengths_h[step]
        tally = step_begun(tally, at, clipped_w[step], length_h)
        if refuels[step] and state.genset.fuel_l < plant.generator.stock_l:
            state = refuelled(state, plant)
            note(notes, tally.now_h, FUEL_FETCHED, -1, 0)
        began, burnt_l = tally, burnt_so_far_l(state.genset, plant)
        turn = 0
        while left_h > TINY_H and turn < MOST_TURNS:
            state, stretch = advance(state, at, left_h, turn < CALM_TURNS, table, hours, asked.spare > 0.0, plant)
            service, before = _service(table, stretch, plant.coupled), tally
            if _switches(stretch):
                note_switching(notes, before.now_h, stretch.turned, stretch.came_back, stretch.went_out)
            if _serves_otherwise(service, before.marks):
                note_service(notes, before.now_h, service, before.marks)
            tally = stretch_added(tally, stretch, service, asked, state.stored_wh, length_h, plant)
            if before.marks.was_below_full and not tally.marks.was_below_full:
                note(notes, tally.now_h, FULL, -1, 0)
            left_h -= stretch.reach.span_h
            turn += 1
        if left_h > TINY_H:
            tally = left_off(tally, at, asked, left_h)
        books[step, 0], books[step, 1] = tally.book.served.life, tally.book.served.keep
        books[step, 2], books[step, 3] = tally.book.served.ease, tally.book.served.spare
        books[step, _SPILLED] = tally.book.spilled_w
        books[step, _GENERATOR] = tally.book.generator_w
        books[step, _DARK] = tally.book.dark_h
        books[step, _LIFE_DARK] = tally.unserved.time_h.life - began.unserved.time_h.life
        books[step, _RAN] = tally.generator_h - began.generator_h
        books[step, _BURNT] = burnt_so_far_l(state.genset, plant) - burnt_l
        stored_wh[step + 1] = state.stored_wh
    for number in range(TOTALS):
        sums[number] = tally.totals[number]
    for tier in range(_TIERS):
        sums[TOTALS + tier] = tally.unserved.energy_wh[tier]
        sums[TOTALS + _TIERS + tier] = tally.unserved.time_h[tier]
    fuel_l = burnt_so_far_l(state.genset, plant) - before_l
    return tally.marks, tally.generator_h, tally.unsettled_h, fuel_l, state
