"""The hour-by-hour model of the outage, compiled.

Inputs are constant inside a step. Inside each step the moments at which a level is met are solved for, so the answer does
not depend on the step length. Powers [W], energies [Wh], times [h], at the direct-current bus.

Tiers: 0 Life, 1 Keep, 2 Ease, 3 Spare. The first three live on the bank; Spare only on what would be spilled. Which of
them are out, and whether the inverter is, stands in one number, a bit each.

Tuples of plain numbers go from helper to helper; those that hold arrays would slow the loop ten times.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numba import njit

from hearthkeep.core.bank import TAPER_END_PART, TAPER_FROM_FRAC
from hearthkeep.core.inverter import Draws
from hearthkeep.core.inverter.draws import (
    ANY_SHORT,
    BLOCKED,
    CAUSE,
    CONVERSION,
    DARK_TIER,
    DIRECT,
    HOUSE,
    IDLES,
    LOAD,
    OFF,
    ON,
    SERVED,
    SHORT_FROM_W,
    WIRING,
    cell_of,
)
from hearthkeep.core.inverter.draws import GENERATOR as ON_GENERATOR
from hearthkeep.core.outage import shapes
from hearthkeep.core.outage.shapes import (
    BANK_TIERS,
    EASE,
    EVENT_KINDS,
    KEEP,
    LIFE,
    MAX_EVENTS,
    SPARE,
    Floats,
    GeneratorPlant,
    Ints,
    Plant,
    Run,
    Steps,
)

#: Changes of state followed inside one step after which nothing more returns or starts until it ends (a bank of seconds would
#: otherwise switch its house on and off without end), and after which the model gives up and leaves everything off. What still
#: can happen when nothing returns is a few dozen levels, so that the second number is never reached.
CALM_TURNS, MOST_TURNS = 100, 1000
#: Bit of the inverter beside those of the tiers.
INVERTER = BANK_TIERS
#: Powers below this count as nothing [W], and fuel below this as none [L].
TINY_W, TINY_L = 1e-9, 1e-9
#: Columns of the book of each step: loads served by tier [W], spilled [W], generator [W], dark [h].
_SERVED, _SPILLED, _GENERATOR, _DARK, _COLUMNS = 0, 4, 5, 6, 7


class _Bank(NamedTuple):
    """The plant's bank, and its acceptance near full as the line a - b x stored [W]."""

    capacity_wh: float
    drop_wh: tuple[float, float, float]
    back_wh: tuple[float, float, float]
    charge_limit_w: float
    charge_efficiency: float
    discharge_efficiency: float
    peukert_exponent: float
    rated_power_w: float
    tapers: bool
    one_source: bool
    tiny_wh: float
    knee_wh: float
    a_w: float
    b_per_h: float


class _Unit(NamedTuple):
    """The generator as it stands."""

    runs: bool
    run_h: float
    fuel_l: float
    tank_l: float


class _Now(NamedTuple):
    """The inputs of a step."""

    row: int
    sun_w: float
    other_w: float
    strongest_w: float
    quiet: bool
    attended: bool


class _Flow(NamedTuple):
    """What serving the tiers that are in takes, and what sources give."""

    #: Row of the table of draws.
    cell: int
    mode: int
    carried: int
    house_w: float
    charger_w: float
    #: Sources other than the charger, less all that is taken at the bus.
    net_sun_w: float
    net_w: float
    #: Offered by sources that have to wait.
    waits_w: float


class _Reach(NamedTuple):
    """A stretch in which nothing changes: how long, the stored energy after it, what flows into the bank, and what is lost."""

    span_h: float
    after_wh: float
    into_w: float
    loss_wh: float
    #: The stretch follows the falling acceptance.
    curved: bool


@njit(cache=True)
def _note(events: Floats, counts: Ints, cause_h: Floats, now: float, kind: int, tier: int, cause: int) -> None:
    """Count an event, by kind and behind the kinds in all, and write it down while there is room."""
    number = counts[EVENT_KINDS]
    counts[EVENT_KINDS] += 1
    if number < MAX_EVENTS:
        events[number, 0] = now
        events[number, 1] = kind
        events[number, 2] = tier
        events[number, 3] = cause
    counts[kind] += 1
    if cause > 0 and cause_h[cause] < 0.0:
        cause_h[cause] = now


@njit(cache=True)
def _turned(unit, at, stored_wh, generator, is_calm, tiny_wh):  # type: ignore[no-untyped-def]
    """The generator after its rules, the fuel at hand [L], and what it did: -1 started, 0 nothing, else why it stopped.

    Quiet hours and an empty tank end a run at once, a full bank after the minimum run.
    """
    tank_l = min(generator.tank_l, unit.fuel_l) if at.attended else unit.tank_l
    at_hand_l = unit.fuel_l if at.attended else tank_l
    did = 0
    runs, run_h = unit.runs, unit.run_h
    if runs:
        if at.quiet:
            did = shapes.STOP_QUIET
        elif at_hand_l <= TINY_L:
            did = shapes.STOP_EMPTY if unit.fuel_l <= TINY_L else shapes.STOP_TANK
        elif stored_wh >= generator.stop_wh - tiny_wh and run_h >= generator.min_run_h - 1e-9:
            did = shapes.STOP_FULL
        runs = did == 0
    elif is_calm and not at.quiet and at_hand_l > TINY_L and stored_wh <= generator.start_wh + tiny_wh:
        runs, run_h, did = True, 0.0, -1
    return _Unit(runs, run_h, unit.fuel_l, tank_l), at_hand_l, did


@njit(cache=True)
def _carried(out):  # type: ignore[no-untyped-def]
    """How many tiers are served: none below the first that is out."""
    carried = 0
    while carried < BANK_TIERS and not out & (1 << carried):
        carried += 1
    return carried


@njit(cache=True)
def _flow(table, rows, out, carried, runs, at, bank, generator):  # type: ignore[no-untyped-def]
    """Sources and draws while so many tiers are served."""
    mode = ON
    if runs and not generator.charges_only:
        mode = ON_GENERATOR
    elif out & (1 << INVERTER):
        mode = OFF
    cell = cell_of(mode, at.row, carried, rows)
    house_w = table[cell, HOUSE]
    both_w = at.sun_w + at.other_w
    source_w = at.strongest_w if bank.one_source else both_w
    charger_w = 0.0
    if runs:
        charger_w = min(generator.charger_w, max(generator.rated_w - house_w, 0.0) * generator.charger_efficiency)
        if bank.one_source:
            # The stronger of the two charges, the other one waits.
            if charger_w > source_w:
                source_w = 0.0
            else:
                charger_w = 0.0
    net_sun_w = source_w - table[cell, DIRECT]
    return _Flow(cell, mode, carried, house_w, charger_w, net_sun_w, net_sun_w + charger_w, both_w - source_w)


@njit(cache=True)
def _returned(table, rows, out, stored_wh, runs, at, bank, generator):  # type: ignore[no-untyped-def]
    """What is still out once everything has returned that may: at its level, Life and Keep at once on a running generator.

    Beside a generator at once only where it does not draw on the bank; else at its level, as without one.
    """
    if runs:
        if out & (1 << INVERTER) and generator.charges_only:
            without = out & ~(1 << INVERTER)
            if _flow(table, rows, without, _carried(out), runs, at, bank, generator).net_w >= -TINY_W:
                out = without
        for tier in range(EASE):
            if out & (1 << tier):
                if _flow(table, rows, out, tier + 1, runs, at, bank, generator).net_w < -TINY_W:
                    break
                out &= ~(1 << tier)
    for tier in range(BANK_TIERS):
        if out & (1 << tier):
            if stored_wh < bank.back_wh[tier] - bank.tiny_wh:
                break
            out &= ~(1 << tier)
    if stored_wh >= bank.back_wh[LIFE] - bank.tiny_wh:
        out &= ~(1 << INVERTER)
    return out


@njit(cache=True)
def _leaves(table, flow, stored_wh, bank):  # type: ignore[no-untyped-def]
    """What goes out because it would draw on the bank at or below its level: a tier, the inverter, or -1 for nothing.

    The lowest tier that asks; at the cut-off before all the inverter, where it only idles.
    """
    at_cut_off = stored_wh <= bank.drop_wh[LIFE] + bank.tiny_wh
    if at_cut_off and flow.mode == ON and table[flow.cell, IDLES] > 0.0:
        return INVERTER
    for tier in range(flow.carried - 1, -1, -1):
        if table[flow.cell, SERVED + tier] > 0.0 and stored_wh <= bank.drop_wh[tier] + bank.tiny_wh:
            return tier
    return -1


@njit(cache=True)
def _emptied(stored_wh, span_h, net_w, may_start, start_wh, bank):  # type: ignore[no-untyped-def]
    """Draw on the bank for a span, or until the next level at which something leaves or the generator starts."""
    factor = 1.0
    if bank.peukert_exponent > 1.0 and -net_w > bank.rated_power_w:
        factor = (-net_w / bank.rated_power_w) ** (bank.peukert_exponent - 1.0)
    drain_w = -net_w * factor / bank.discharge_efficiency
    meets_wh = -1.0
    for tier in range(BANK_TIERS):
        if meets_wh < bank.drop_wh[tier] < stored_wh - bank.tiny_wh:
            meets_wh = bank.drop_wh[tier]
    if may_start and meets_wh < start_wh < stored_wh - bank.tiny_wh:
        meets_wh = start_wh
    after_wh = stored_wh - drain_w * span_h
    if meets_wh >= 0.0 and (stored_wh - meets_wh) / drain_w < span_h:
        span_h = (stored_wh - meets_wh) / drain_w
        after_wh = meets_wh
    return _Reach(span_h, after_wh, 0.0, (drain_w + net_w) * span_h, False)


@njit(cache=True)
def _accepts(stored_wh, bank):  # type: ignore[no-untyped-def]
    """Most the bank takes at a charge [W]."""
    if stored_wh >= bank.capacity_wh - bank.tiny_wh:
        return 0.0
    if stored_wh < bank.knee_wh - bank.tiny_wh or not bank.tapers:
        return bank.charge_limit_w
    return bank.a_w - bank.b_per_h * stored_wh


@njit(cache=True)
def _next_level(stored_wh, flow, out, runs, spare_wh, stop_wh, curved, bank):  # type: ignore[no-untyped-def]
    """The next level met while the bank fills: knee or full, a return, a stop, or where the falling acceptance meets a source."""
    meets_wh = bank.knee_wh if stored_wh < bank.knee_wh - bank.tiny_wh else bank.capacity_wh
    if flow.carried < BANK_TIERS and stored_wh < bank.back_wh[flow.carried] - bank.tiny_wh:
        meets_wh = min(meets_wh, bank.back_wh[flow.carried])
    if out & (1 << INVERTER) and stored_wh < bank.back_wh[LIFE] - bank.tiny_wh:
        meets_wh = min(meets_wh, bank.back_wh[LIFE])
    if runs and stored_wh < stop_wh - bank.tiny_wh:
        meets_wh = min(meets_wh, stop_wh)
    if stored_wh + bank.tiny_wh < spare_wh < meets_wh:
        meets_wh = spare_wh
    if bank.tapers and bank.b_per_h > 0.0:
        if not curved:
            crossing_wh = (bank.a_w - flow.net_w) / bank.b_per_h
            if crossing_wh > bank.knee_wh and stored_wh + bank.tiny_wh < crossing_wh < meets_wh:
                meets_wh = crossing_wh
        if runs and flow.net_sun_w > 0.0:
            # Beyond it the charger has nothing left to give.
            crossing_wh = (bank.a_w - flow.net_sun_w) / bank.b_per_h
            if crossing_wh > bank.knee_wh and stored_wh + bank.tiny_wh < crossing_wh < meets_wh:
                meets_wh = crossing_wh
    return meets_wh


@njit(cache=True)
def _filled(stored_wh, span_h, flow, limit_w, out, runs, spare_wh, stop_wh, bank):  # type: ignore[no-untyped-def]
    """Charge the bank for a span, or until the next level."""
    into_w = min(flow.net_w, limit_w)
    if into_w <= 0.0:
        return _Reach(span_h, stored_wh, 0.0, 0.0, False)
    # Where the falling limit has just come down to the source, it is the limit that rules from here on.
    rules = flow.net_w >= limit_w - 2.0 * bank.b_per_h * bank.tiny_wh
    curved = bank.tapers and stored_wh >= bank.knee_wh - bank.tiny_wh and rules
    meets_wh = _next_level(stored_wh, flow, out, runs, spare_wh, stop_wh, curved, bank)
    after_wh = meets_wh
    if curved:
        asymptote_wh = bank.a_w / bank.b_per_h
        speed_per_h = bank.charge_efficiency * bank.b_per_h
        needed_h = -math.log((asymptote_wh - meets_wh) / (asymptote_wh - stored_wh)) / speed_per_h
        if needed_h < span_h:
            span_h = needed_h
        else:
            after_wh = asymptote_wh - (asymptote_wh - stored_wh) * math.exp(-speed_per_h * span_h)
        into_w = (after_wh - stored_wh) / (bank.charge_efficiency * span_h) if span_h > 0.0 else 0.0
    else:
        gain_w = into_w * bank.charge_efficiency
        if (meets_wh - stored_wh) / gain_w < span_h:
            span_h = (meets_wh - stored_wh) / gain_w
        else:
            after_wh = stored_wh + gain_w * span_h
    return _Reach(span_h, after_wh, into_w, into_w * (1.0 - bank.charge_efficiency) * span_h, curved)


@njit(cache=True)
def _reached(stored_wh, span_h, flow, limit_w, out, runs, may_start, spare_wh, bank, generator):  # type: ignore[no-untyped-def]
    """How far the bank is drawn on or charged before something changes, a span at most."""
    if flow.net_w < 0.0:
        return _emptied(stored_wh, span_h, flow.net_w, may_start, generator.start_wh, bank)
    return _filled(stored_wh, span_h, flow, limit_w, out, runs, spare_wh, generator.stop_wh, bank)


@njit(cache=True)
def _charger_gives(flow, into_w):  # type: ignore[no-untyped-def]
    """What the generator's charger gives: all it may towards a draw, else what the bank takes beyond the sun [W]."""
    return flow.charger_w if flow.net_w < 0.0 else max(into_w - flow.net_sun_w, 0.0)


@njit(cache=True)
def _burnt_l(span_h, house_w, charger_wh, generator):  # type: ignore[no-untyped-def]
    """Fuel burnt in a span in which the charger gives so much [L]."""
    given_kwh = (house_w * span_h + charger_wh / generator.charger_efficiency) / 1000.0
    return generator.idle_l_per_h * span_h + generator.l_per_kwh * given_kwh


@njit(cache=True)
def _fuel_lasts_h(
    at_hand_l: float,
    burnt_l: float,
    reach: _Reach,
    stored_wh: float,
    flow: _Flow,
    bank: _Bank,
    generator: GeneratorPlant,
) -> float:
    """How long the fuel lasts in a stretch that is longer than it does, by what is really burnt [h]."""
    low_h, high_h = 0.0, reach.span_h
    if reach.curved:
        # Along the falling acceptance it burns less and less: halve the interval that holds the end.
        asymptote_wh, speed_per_h = bank.a_w / bank.b_per_h, bank.charge_efficiency * bank.b_per_h
        for _ in range(60):
            middle_h = 0.5 * (low_h + high_h)
            into_wh = (asymptote_wh - stored_wh) * -math.expm1(-speed_per_h * middle_h) / bank.charge_efficiency
            charger_wh = max(into_wh - flow.net_sun_w * middle_h, 0.0)
            if _burnt_l(middle_h, flow.house_w, charger_wh, generator) > at_hand_l:
                high_h = middle_h
            else:
                low_h = middle_h
        return 0.5 * (low_h + high_h)
    return reach.span_h * at_hand_l / burnt_l


@njit(cache=True)
def run(steps: Steps, draws: Draws, plant: Plant) -> Run:
    """Carry the house through the steps."""
    table, asked_w, rows = draws.table, draws.asked_w, draws.asked_w.shape[0]
    count = steps.length_h.shape[0]
    capacity_wh = plant.capacity_wh
    slope = plant.charge_limit_w * (1.0 - TAPER_END_PART) / ((1.0 - TAPER_FROM_FRAC) * capacity_wh)
    drop, back = plant.drop_wh, plant.return_wh
    bank = _Bank(
        capacity_wh,
        (drop[0], drop[1], drop[2]),
        (back[0], back[1], back[2]),
        plant.charge_limit_w,
        plant.charge_efficiency,
        plant.discharge_efficiency,
        plant.peukert_exponent,
        plant.rated_power_w,
        plant.tapers,
        plant.one_source,
        1e-7 * capacity_wh,
        TAPER_FROM_FRAC * capacity_wh if plant.tapers else capacity_wh,
        plant.charge_limit_w + slope * TAPER_FROM_FRAC * capacity_wh,
        slope,
    )
    generator = plant.generator
    has_generator = generator.rated_w > 0.0
    unit = _Unit(False, 0.0, generator.stock_l, min(generator.tank_l, generator.stock_l))
    stored_wh = min(plant.start_wh, capacity_wh)
    was_below_full = stored_wh < capacity_wh - bank.tiny_wh
    out = 0
    overloaded = 0
    book = np.zeros((count, _COLUMNS))
    stored_by_step_wh = np.empty(count + 1)
    stored_by_step_wh[0] = stored_wh
    totals = np.zeros(shapes.TOTALS)
    unserved_wh, unserved_h = np.zeros(4), np.zeros(4)
    # Only the rows that are written are ever read.
    events, counts = np.empty((MAX_EVENTS, 4)), np.zeros(EVENT_KINDS + 1, dtype=np.int64)
    cause_h = np.zeros(shapes.EVENT_CAUSES) - 1.0
    dark_h, darkened_h, full_h, generator_h, unsettled_h = -1.0, -1.0, -1.0, 0.0, 0.0
    dark_cause = 0
    is_dark = False
    lowest_wh, lowest_h, now_h = stored_wh, 0.0, 0.0

    lengths_h, row, sun_w, other_w, strongest_w, clipped_w, quiet, attended = (
        steps.length_h,
        steps.row,
        steps.sun_w,
        steps.other_w,
        steps.strongest_w,
        steps.clipped_w,
        steps.quiet,
        steps.attended,
    )

    for step in range(count):
        # All controllers' sun counts as one source.
        most_w = max(sun_w[step], strongest_w[step])
        at = _Now(row[step], sun_w[step], other_w[step], most_w, quiet[step], attended[step])
        length_h = lengths_h[step]
        left_h = length_h
        totals[shapes.SUN] += (at.sun_w + clipped_w[step]) * left_h
        totals[shapes.OTHER] += at.other_w * left_h
        totals[shapes.CLIPPED] += clipped_w[step] * left_h
        book[step, _SPILLED] = clipped_w[step]
        turn = 0
        while left_h > 1e-12 and turn < MOST_TURNS:
            is_calm = turn < CALM_TURNS
            turn += 1
            at_hand_l = 0.0
            if has_generator:
                unit, at_hand_l, did = _turned(unit, at, stored_wh, generator, is_calm, bank.tiny_wh)
                if did != 0:
                    kind = shapes.GENERATOR_ON if did < 0 else shapes.GENERATOR_OFF
                    _note(events, counts, cause_h, now_h, kind, -1, max(did, 0))
            if out != 0 and is_calm:
                still = _returned(table, rows, out, stored_wh, unit.runs, at, bank, generator)
                for bit in range(BANK_TIERS + 1):
                    if (out & ~still) & (1 << bit):
                        kind = shapes.INVERTER_BACK if bit == INVERTER else shapes.RETURNED
                        _note(events, counts, cause_h, now_h, kind, -1 if bit == INVERTER else bit, 0)
                out = still
            flow = _flow(table, rows, out, _carried(out), unit.runs, at, bank, generator)
            while flow.net_w < -TINY_W:
                leaves = _leaves(table, flow, stored_wh, bank)
                if leaves < 0:
                    break
                out |= 1 << leaves
                kind = shapes.CUT_OFF if leaves == INVERTER else shapes.DROPPED
                _note(events, counts, cause_h, now_h, kind, -1 if leaves == INVERTER else leaves, 0)
                flow = _flow(table, rows, out, _carried(out), unit.runs, at, bank, generator)
            # Overload is noted once when it begins and once when it ends.
            blocked = int(table[flow.cell, BLOCKED])
            cause = int(table[flow.cell, CAUSE])
            if blocked != overloaded:
                if blocked > 0:
                    _note(events, counts, cause_h, now_h, shapes.OVERLOADED, blocked - 1, cause)
                else:
                    _note(events, counts, cause_h, now_h, shapes.FITS_AGAIN, overloaded - 1, 0)
                overloaded = blocked
            if darkened_h < 0.0 and unit.runs and 0 < blocked <= KEEP + 1:
                darkened_h = now_h

            # Spare, on what the bank leaves over.
            limit_w = _accepts(stored_wh, bank)
            served = flow.cell
            spare_wh = -1.0
            if flow.net_w > 0.0 and not unit.runs and flow.carried == BANK_TIERS and asked_w[at.row, SPARE] > 0.0:
                with_spare = cell_of(flow.mode, at.row, SPARE + 1, rows)
                need_w = table[with_spare, DIRECT] - table[flow.cell, DIRECT]
                if table[with_spare, BLOCKED] == 0.0:
                    if flow.net_w - min(flow.net_w, limit_w) >= need_w - TINY_W:
                        served = with_spare
                    elif bank.tapers and bank.b_per_h > 0.0 and flow.net_w > need_w:
                        # It starts where the falling acceptance leaves enough over.
                        spare_wh = (bank.a_w - (flow.net_w - need_w)) / bank.b_per_h

            # How far this state reaches.
            span_h = left_h
            if unit.runs and unit.run_h < generator.min_run_h - 1e-9:
                span_h = min(span_h, generator.min_run_h - unit.run_h)
            may_start = has_generator and not unit.runs and at_hand_l > TINY_L and not at.quiet
            reach = _reached(stored_wh, span_h, flow, limit_w, out, unit.runs, may_start, spare_wh, bank, generator)
            charger_w = 0.0
            burnt_l = 0.0
            if unit.runs:
                charger_w = _charger_gives(flow, reach.into_w)
                burnt_l = _burnt_l(reach.span_h, flow.house_w, charger_w * reach.span_h, generator)
                if burnt_l > at_hand_l:
                    span_h = _fuel_lasts_h(at_hand_l, burnt_l, reach, stored_wh, flow, bank, generator)
                    reach = _reached(
                        stored_wh, span_h, flow, limit_w, out, unit.runs, may_start, spare_wh, bank, generator
                    )
                    charger_w = _charger_gives(flow, reach.into_w)
                    burnt_l = at_hand_l
            span_h = reach.span_h

            # Books.
            direct_w = table[served, DIRECT] - table[flow.cell, DIRECT]
            unused_w = max(flow.net_w, 0.0) - reach.into_w - direct_w
            if unit.runs:
                # What its charger holds back is not spilled.
                unused_w = max(flow.net_sun_w - reach.into_w, 0.0)
                given_w = flow.house_w + charger_w / generator.charger_efficiency
                totals[shapes.GENERATOR] += given_w * span_h
                totals[shapes.CHARGE_LOSS] += (given_w - flow.house_w - charger_w) * span_h
                book[step, _GENERATOR] += given_w * span_h / length_h
                unit = _Unit(
                    True,
                    unit.run_h + span_h,
                    max(unit.fuel_l - burnt_l, 0.0),
                    max(unit.tank_l - burnt_l, 0.0),
                )
                generator_h += span_h
            unused_w += flow.waits_w
            for tier in range(4):
                book[step, _SERVED + tier] += table[served, SERVED + tier] * span_h / length_h
            if table[served, ANY_SHORT] > 0.0:
                for tier in range(4):
                    short_w = asked_w[at.row, tier] - table[served, SERVED + tier]
                    if short_w > SHORT_FROM_W:
                        unserved_wh[tier] += short_w * span_h
                        unserved_h[tier] += span_h
            dark_tier = int(table[served, DARK_TIER])
            if dark_tier >= 0:
                book[step, _DARK] += span_h
            if (dark_tier >= 0) != is_dark:
                is_dark = dark_tier >= 0
                if is_dark and dark_h < 0.0:
                    dark_h = now_h
                    dark_cause = cause if 0 < blocked <= KEEP + 1 else 0
                kind = shapes.DARK if is_dark else shapes.BACK_ON
                _note(events, counts, cause_h, now_h, kind, LIFE if dark_tier == LIFE else KEEP, 0)
            totals[shapes.SERVED] += table[served, LOAD] * span_h
            totals[shapes.INVERTER_LOSS] += table[served, CONVERSION] * span_h
            totals[shapes.WIRING_LOSS] += table[served, WIRING] * span_h
            totals[shapes.CHARGE_LOSS] += reach.loss_wh
            totals[shapes.UNUSED] += unused_w * span_h
            book[step, _SPILLED] += unused_w * span_h / length_h
            now_h += span_h
            left_h -= span_h
            stored_wh = min(max(reach.after_wh, 0.0), capacity_wh)
            if stored_wh < lowest_wh - bank.tiny_wh:
                lowest_wh, lowest_h = stored_wh, now_h
            if stored_wh >= capacity_wh - bank.tiny_wh:
                if was_below_full:
                    was_below_full = False
                    if full_h < 0.0:
                        full_h = now_h
                    _note(events, counts, cause_h, now_h, shapes.FULL, -1, 0)
            elif stored_wh < 0.995 * capacity_wh:
                was_below_full = True
        if left_h > 1e-12:
            unsettled_h += left_h
            totals[shapes.UNUSED] += (at.sun_w + at.other_w) * left_h
            for tier in range(4):
                unserved_wh[tier] += asked_w[at.row, tier] * left_h
            now_h += left_h
        stored_by_step_wh[step + 1] = stored_wh
    return Run(
        stored_by_step_wh,
        book[:, :4],
        book[:, _SPILLED],
        totals,
        unserved_wh,
        unserved_h,
        dark_h,
        book[:, _DARK],
        book[:, _GENERATOR],
        generator.stock_l - unit.fuel_l,
        generator_h,
        lowest_wh,
        lowest_h,
        full_h,
        events,
        min(counts[EVENT_KINDS], MAX_EVENTS),
        counts,
        cause_h,
        dark_cause,
        darkened_h,
        unsettled_h,
    )
