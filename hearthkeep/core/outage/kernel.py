"""The hour-by-hour model of the outage, compiled.

Inputs are constant inside a step. Inside each step the moments at which a level is met are solved for, so the answer
does not hang on the step length. Powers [W], energies [Wh], times [h], at the direct-current bus.

Tiers: 0 Life, 1 Keep, 2 Ease, 3 Spare. The first three live on the bank; Spare only on what would be spilled.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from hearthkeep.core.bank import TAPER_END_PART, TAPER_FROM_FRAC
from hearthkeep.core.inverter import Draws, GeneratorDraws
from hearthkeep.core.outage.shapes import (
    BACK_ON,
    BANK_TIERS,
    CHARGE_LOSS,
    CLIPPED,
    CUT_OFF,
    DARK,
    DROPPED,
    EASE,
    FITS_AGAIN,
    FULL,
    GENERATOR,
    GENERATOR_OFF,
    GENERATOR_ON,
    INVERTER_LOSS,
    KEEP,
    LIFE,
    MAX_EVENTS,
    OTHER,
    OVERLOADED,
    RETURNED,
    SERVED,
    SPARE,
    STOP_EMPTY,
    STOP_FULL,
    STOP_QUIET,
    STOP_TANK,
    SUN,
    TOTALS,
    UNUSED,
    WIRING_LOSS,
    Floats,
    GeneratorPlant,
    Plant,
    Run,
    Steps,
)

#: Changes of state lived through inside one step, and after how many of them nothing more returns or starts until it ends:
#: a bank of seconds would otherwise switch its house on and off without end.
TURNS_A_STEP, CALM_TURNS = 200, 100


@njit(cache=True)
def _note(events: Floats, count: int, now: float, kind: int, tier: int, cause: int) -> int:
    """Write an event down while there is room; return the new count."""
    if count >= MAX_EVENTS:
        return count
    events[count, 0] = now
    events[count, 1] = kind
    events[count, 2] = tier
    events[count, 3] = cause
    return count + 1


@njit(cache=True)
def _charging(generator: GeneratorPlant, house_w: float, sources_w: float, strongest_w: float, one_source: bool):  # type: ignore[no-untyped-def]
    """What the other sources and a running generator's charger may give beside a house it carries [W], (source, charger)."""
    charger_w = min(generator.charger_w, max(generator.rated_w - house_w, 0.0) * generator.charger_efficiency)
    if not one_source:
        return sources_w, charger_w
    return (0.0, charger_w) if charger_w > strongest_w else (strongest_w, 0.0)


@njit(cache=True)
def run(steps: Steps, draws: Draws, on_generator: GeneratorDraws, plant: Plant) -> Run:
    """Carry the house through the steps."""
    count = steps.length_h.shape[0]
    capacity = plant.capacity_wh
    tiny = 1e-7 * capacity
    stored = min(plant.start_wh, capacity)
    was_below_full = stored < capacity - tiny
    dropped = np.zeros(BANK_TIERS, dtype=np.bool_)
    overloaded = 0
    stored_wh = np.empty(count + 1)
    stored_wh[0] = stored
    served_w = np.zeros((count, 4))
    spilled_w = np.zeros(count)
    totals = np.zeros(TOTALS)
    generator_w = np.zeros(count)
    generator = plant.generator
    has_generator = generator.rated_w > 0.0
    runs = False
    run_h = 0.0
    generator_h = 0.0
    fuel = generator.stock_l
    tank = min(generator.tank_l, fuel)
    at_hand = fuel
    tiny_l = 1e-9
    unserved_wh = np.zeros(4)
    unserved_h = np.zeros(4)
    events = np.zeros((MAX_EVENTS, 4))
    event_count = 0
    dark_h = -1.0
    full_h = -1.0
    lowest = stored
    lowest_h = 0.0
    now = 0.0
    is_dark = False
    dark_by_step_h = np.zeros(count)
    served_now = np.zeros(4, dtype=np.bool_)
    # Lead-acid acceptance above the knee is a falling line: limit = taper_a - taper_b x stored.
    knee = TAPER_FROM_FRAC * capacity if plant.tapers else capacity
    taper_b = plant.charge_limit_w * (1.0 - TAPER_END_PART) / ((1.0 - TAPER_FROM_FRAC) * capacity)
    taper_a = plant.charge_limit_w + taper_b * TAPER_FROM_FRAC * capacity

    for step in range(count):
        row = steps.row[step]
        sun = steps.sun_w[step]
        other = steps.other_w[step]
        # All controllers' sun counts as one source.
        strongest = max(sun, steps.strongest_w[step])
        attended = steps.attended[step]
        left = steps.length_h[step]
        step_length = left
        totals[SUN] += (sun + steps.clipped_w[step]) * left
        totals[OTHER] += other * left
        totals[CLIPPED] += steps.clipped_w[step] * left
        spilled_w[step] = steps.clipped_w[step]
        for turn in range(TURNS_A_STEP):
            is_calm = turn < CALM_TURNS
            if left <= 1e-12:
                break
            # The generator: quiet hours and an empty tank end a run at once, a full bank after the minimum run.
            if has_generator:
                if attended:
                    tank = min(generator.tank_l, fuel)
                at_hand = fuel if attended else tank
                if runs:
                    stop = 0
                    if steps.quiet[step]:
                        stop = STOP_QUIET
                    elif at_hand <= tiny_l:
                        stop = STOP_EMPTY if fuel <= tiny_l else STOP_TANK
                    elif stored >= generator.stop_wh - tiny and run_h >= generator.min_run_h - 1e-9:
                        stop = STOP_FULL
                    if stop > 0:
                        runs = False
                        event_count = _note(events, event_count, now, GENERATOR_OFF, -1, stop)
                elif is_calm and not steps.quiet[step] and at_hand > tiny_l and stored <= generator.start_wh + tiny:
                    runs = True
                    run_h = 0.0
                    event_count = _note(events, event_count, now, GENERATOR_ON, -1, 0)
                if runs and is_calm:
                    for tier in range(EASE):
                        if dropped[tier]:
                            # At once, where it does not draw on the bank; else at its level, as without the generator.
                            given, most = _charging(
                                generator, on_generator.ac_w[row, tier + 1], sun + other, strongest, plant.one_source
                            )
                            if given + most < on_generator.dc_w[row, tier + 1] - 1e-9:
                                break
                            dropped[tier] = False
                            event_count = _note(events, event_count, now, RETURNED, tier, 0)
            charger_most = 0.0
            net_sun = 0.0
            # Regulated sources at the bus; with one source at a time the strongest, and what waits is spilled.
            source = strongest if plant.one_source else sun + other
            waits = sun + other - source
            # Tiers that may return, from the top.
            for tier in range(BANK_TIERS):
                if dropped[tier]:
                    if stored < plant.return_wh[tier] - tiny or not is_calm:
                        break
                    dropped[tier] = False
                    event_count = _note(events, event_count, now, RETURNED, tier, 0)
            # Who is served, dropping from the bottom whoever would draw at or below its level.
            while True:
                tiers = 0
                while tiers < BANK_TIERS and not dropped[tiers]:
                    tiers += 1
                if runs:
                    load = on_generator.load_w[row, tiers]
                    inverter_loss = on_generator.conversion_w[row, tiers]
                    wiring = on_generator.wiring_w[row, tiers]
                    house_w = on_generator.ac_w[row, tiers]
                    source, charger_most = _charging(generator, house_w, sun + other, strongest, plant.one_source)
                    waits = sun + other - source
                    net_sun = source - on_generator.dc_w[row, tiers]
                    net = net_sun + charger_most
                else:
                    load = draws.load_w[row, tiers]
                    inverter_loss = draws.conversion_w[row, tiers]
                    wiring = draws.wiring_w[row, tiers]
                    house_w = 0.0
                    net = source - (load + inverter_loss + wiring)
                if net >= -1e-9:
                    break
                victim = -1
                for tier in range(tiers - 1, -1, -1):
                    takes = on_generator.served_w[row, tiers, tier] if runs else draws.served_w[row, tiers, tier]
                    if takes > 0.0 and stored <= plant.drop_wh[tier] + tiny:
                        victim = tier
                        break
                if victim < 0:
                    if stored > plant.drop_wh[LIFE] + tiny:
                        break
                    # Nothing asks, yet the idle inverter would draw below the cut-off: it goes off.
                    victim = LIFE
                    event_count = _note(events, event_count, now, CUT_OFF, LIFE, 0)
                else:
                    event_count = _note(events, event_count, now, DROPPED, victim, 0)
                for tier in range(victim, BANK_TIERS):
                    dropped[tier] = True
            # Overload is told once when it begins and once when it ends.
            asks_blocked = on_generator.blocked[row, tiers] if runs else draws.blocked[row, tiers]
            if asks_blocked != overloaded:
                if asks_blocked > 0:
                    cause = on_generator.cause[row, tiers] if runs else draws.cause[row, tiers]
                    event_count = _note(events, event_count, now, OVERLOADED, asks_blocked - 1, cause)
                else:
                    event_count = _note(events, event_count, now, FITS_AGAIN, overloaded - 1, 0)
                overloaded = asks_blocked

            # The bank: rate of change of stored energy, and when the next level is met.
            span = left
            if runs:
                if run_h < generator.min_run_h - 1e-9:
                    span = min(span, generator.min_run_h - run_h)
                most_w = house_w + charger_most / generator.charger_efficiency
                span = min(
                    span,
                    max(at_hand / max(generator.idle_l_per_h + generator.l_per_kwh * most_w / 1000.0, 1e-12), 1e-9),
                )
            meets = -1.0
            spare_runs = False
            bank_in = 0.0
            bank_loss = 0.0
            grows_as_taper = False
            spare_load = 0.0
            spare_inverter = 0.0
            spare_wiring = 0.0
            if net < 0.0:
                factor = 1.0
                if plant.peukert_exponent > 1.0 and -net > plant.rated_power_w:
                    factor = (-net / plant.rated_power_w) ** (plant.peukert_exponent - 1.0)
                drain = -net * factor / plant.discharge_efficiency
                for tier in range(BANK_TIERS):
                    level = plant.drop_wh[tier]
                    if level < stored - tiny and level > meets:
                        meets = level
                if has_generator and not runs and at_hand > tiny_l and not steps.quiet[step]:
                    level = generator.start_wh
                    if level < stored - tiny and level > meets:
                        meets = level
                if meets >= 0.0 and (stored - meets) / drain < span:
                    span = (stored - meets) / drain
                else:
                    meets = -1.0
                after = stored - drain * span if meets < 0.0 else meets
                bank_loss = (drain + net) * span
            else:
                if stored >= capacity - tiny:
                    limit = 0.0
                elif stored < knee - tiny:
                    limit = plant.charge_limit_w
                else:
                    limit = taper_a - taper_b * stored if plant.tapers else plant.charge_limit_w
                wants_spare = draws.asked_w[row, SPARE] > 0.0
                spare_level = -1.0
                if wants_spare and not runs and tiers == BANK_TIERS and draws.blocked[row, SPARE + 1] == 0:
                    spare_load = draws.load_w[row, SPARE + 1] - load
                    spare_inverter = draws.conversion_w[row, SPARE + 1] - inverter_loss
                    spare_wiring = draws.wiring_w[row, SPARE + 1] - wiring
                    spare_need = spare_load + spare_inverter + spare_wiring
                    if net - min(net, limit) >= spare_need - 1e-9:
                        spare_runs = True
                    elif plant.tapers and taper_b > 0.0 and net > spare_need:
                        # Spare starts where the falling acceptance leaves enough over.
                        spare_level = (taper_a - (net - spare_need)) / taper_b
                bank_in = min(net, limit)
                # Where the falling limit has just come down to the source, it is the limit that rules from here on.
                rules = net >= limit - 2.0 * taper_b * tiny
                grows_as_taper = plant.tapers and stored >= knee - tiny and rules and limit > 0.0
                if bank_in > 0.0:
                    meets = capacity
                    if stored < knee - tiny:
                        meets = knee
                    if tiers < BANK_TIERS and stored < plant.return_wh[tiers] - tiny:
                        meets = min(meets, plant.return_wh[tiers])
                    if plant.tapers and taper_b > 0.0 and not grows_as_taper:
                        crossing = (taper_a - net) / taper_b
                        if stored + tiny < crossing < meets and crossing > knee:
                            meets = crossing
                    if spare_level > stored + tiny and spare_level < meets:
                        meets = spare_level
                    if runs:
                        if stored < generator.stop_wh - tiny:
                            meets = min(meets, generator.stop_wh)
                        if plant.tapers and taper_b > 0.0 and net_sun > 0.0:
                            # Where the falling acceptance meets the sun alone, the charger has nothing left to give.
                            crossing = (taper_a - net_sun) / taper_b
                            if stored + tiny < crossing < meets and crossing > knee:
                                meets = crossing
                    if grows_as_taper:
                        asymptote = taper_a / taper_b
                        speed = plant.charge_efficiency * taper_b
                        needed = -math.log((asymptote - meets) / (asymptote - stored)) / speed
                        if needed < span:
                            span = needed
                            after = meets
                        else:
                            after = asymptote - (asymptote - stored) * math.exp(-speed * span)
                            meets = -1.0
                        bank_in = (after - stored) / (plant.charge_efficiency * span) if span > 0.0 else 0.0
                    else:
                        gain = bank_in * plant.charge_efficiency
                        if (meets - stored) / gain < span:
                            span = (meets - stored) / gain
                            after = meets
                        else:
                            after = stored + gain * span
                            meets = -1.0
                else:
                    after = stored
                bank_loss = bank_in * (1.0 - plant.charge_efficiency) * span

            # Books.
            unused = net - bank_in if net > 0.0 else 0.0
            if runs:
                # The charger gives what the sun does not; what it holds back is not spilled.
                charger = charger_most if net < 0.0 else max(bank_in - net_sun, 0.0)
                unused = max(net_sun - bank_in, 0.0)
                given_w = house_w + charger / generator.charger_efficiency
                totals[GENERATOR] += given_w * span
                totals[CHARGE_LOSS] += (given_w - house_w - charger) * span
                generator_w[step] += given_w * span / step_length
                burnt = (generator.idle_l_per_h + generator.l_per_kwh * given_w / 1000.0) * span
                fuel = max(fuel - burnt, 0.0)
                tank = max(tank - burnt, 0.0)
                run_h += span
                generator_h += span
            if spare_runs:
                load += spare_load
                inverter_loss += spare_inverter
                wiring += spare_wiring
                unused -= spare_load + spare_inverter + spare_wiring
            unused += waits
            on_bank = SPARE + 1 if spare_runs else tiers
            for tier in range(4):
                asked = draws.asked_w[row, tier]
                served = on_generator.served_w[row, tiers, tier] if runs else draws.served_w[row, on_bank, tier]
                served_w[step, tier] += served * span / step_length
                served_now[tier] = asked - served <= 1e-9
                if not served_now[tier]:
                    unserved_wh[tier] += (asked - served) * span
                    unserved_h[tier] += span
            dark_now = not (served_now[LIFE] and served_now[KEEP])
            if dark_now:
                dark_by_step_h[step] += span
            if dark_now != is_dark:
                if dark_now and dark_h < 0.0:
                    dark_h = now
                kind, tier = DARK if dark_now else BACK_ON, KEEP if served_now[LIFE] else LIFE
                event_count = _note(events, event_count, now, kind, tier, 0)
                is_dark = dark_now
            totals[SERVED] += load * span
            totals[INVERTER_LOSS] += inverter_loss * span
            totals[WIRING_LOSS] += wiring * span
            totals[CHARGE_LOSS] += bank_loss
            totals[UNUSED] += unused * span
            spilled_w[step] += unused * span / step_length
            now += span
            left -= span
            stored = min(max(after, 0.0), capacity)
            if stored < lowest - tiny:
                lowest = stored
                lowest_h = now
            if stored >= capacity - tiny:
                if was_below_full:
                    was_below_full = False
                    if full_h < 0.0:
                        full_h = now
                    event_count = _note(events, event_count, now, FULL, -1, 0)
            elif stored < 0.995 * capacity:
                was_below_full = True
        stored_wh[step + 1] = stored
    return Run(
        stored_wh,
        served_w,
        spilled_w,
        totals,
        unserved_wh,
        unserved_h,
        dark_h,
        dark_by_step_h,
        generator_w,
        generator.stock_l - fuel,
        generator_h,
        lowest,
        lowest_h,
        full_h,
        events,
        event_count,
    )
