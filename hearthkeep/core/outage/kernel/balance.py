"""Sources against draws at one moment: what a coupled array gives, what the charger adds, what is left for the bank."""

from __future__ import annotations

import math

from hearthkeep.core.compiled import inner, inner_seldom
from hearthkeep.core.inverter.draws import BUS_PER_AC, DIRECT, FORMS, HOUSE, HOUSE_AC
from hearthkeep.core.outage.kernel.state import Flow
from hearthkeep.core.outage.kernel.values import COUPLED


@inner
def coupled_of(house_w, leads, is_cut, at, plant):  # type: ignore[no-untyped-def]
    """Of a coupled array: straight to the loads, what the inverter may pass into the bank, and what is kept back [W].

    It gives only while the inverter leads it. With its parts switched off it gives no more of them than the loads take.
    """
    offered_w, unit = at.coupled_w, plant.coupled
    if offered_w <= 0.0 or not leads:
        return 0.0, 0.0, max(offered_w, 0.0)
    given_w = offered_w
    if is_cut:
        part_w = offered_w / unit.blocks
        given_w = min(math.floor(house_w / part_w + 1e-9), unit.blocks) * part_w
    straight_w = min(given_w, house_w)
    surplus_w = 0.0 if is_cut else min(given_w - straight_w, unit.charger_w)
    return straight_w, surplus_w, offered_w - straight_w - surplus_w


@inner
def balance(table, cell, mode, carried, out, runs, at, plant):  # type: ignore[no-untyped-def]
    """Sources against draws: house watts on the generator, and watts at the direct-current bus."""
    generator = plant.generator
    house_w, direct_w = table[cell, HOUSE], table[cell, DIRECT]
    is_cut = out & (1 << COUPLED) != 0
    straight_w, surplus_w, kept_w = coupled_of(table[cell, HOUSE_AC], table[cell, FORMS] > 0.0, is_cut, at, plant)
    gives_w = surplus_w * plant.coupled.efficiency
    both_w = at.sun_w + at.other_w
    source_w = at.strongest_w if plant.one_source else both_w
    charger_w = 0.0
    if runs:
        charger_w = min(generator.charger_w, max(generator.rated_w - house_w, 0.0) * generator.charger_efficiency)
    if plant.one_source:
        # The strongest of the three charges, the others wait.
        if charger_w > max(source_w, gives_w):
            source_w, gives_w = 0.0, 0.0
        elif gives_w > source_w:
            source_w, charger_w = 0.0, 0.0
        else:
            gives_w, charger_w = 0.0, 0.0
        if gives_w == 0.0:
            kept_w += surplus_w
            surplus_w = 0.0
    net_sun_w = source_w + gives_w + straight_w * table[cell, BUS_PER_AC] - direct_w
    return Flow(
        cell,
        mode,
        carried,
        house_w,
        charger_w,
        net_sun_w,
        net_sun_w + charger_w,
        both_w - source_w + kept_w,
        straight_w,
        surplus_w,
    )


@inner
def gives_too_much(flow, stored_wh, limit_w, runs, plant):  # type: ignore[no-untyped-def]
    """Whether a coupled array that cannot give way gives more than loads and bank take."""
    if plant.coupled.blocks == 0 or flow.surplus_w <= 0.0:
        return False
    acceptance = plant.acceptance
    # What the charger of a generator gives holds back by itself. Just where the falling limit meets it, it is too much.
    near_w = 0.0
    if acceptance.tapers and stored_wh >= acceptance.knee_wh - acceptance.tiny_wh:
        near_w = 2.0 * acceptance.b_per_h * acceptance.tiny_wh
    return (flow.net_sun_w if runs else flow.net_w) > limit_w - near_w + 1e-9


@inner_seldom
def balance_anew(table, cell, mode, carried, out, runs, at, plant):  # type: ignore[no-untyped-def]
    """The same once more after a change: seldom, so that the loop carries one copy only."""
    return balance(table, cell, mode, carried, out, runs, at, plant)
