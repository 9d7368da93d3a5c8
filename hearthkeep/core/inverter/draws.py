"""What serving so many tiers takes, worked out once for each hour and each way the house may be fed.

One flat table of numbers, since tuples that hold arrays, and tables of four dimensions, are slow inside a compiled loop.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.compiled import entry, inner
from hearthkeep.core.inverter.cables import lost_in_runs_compiled_w
from hearthkeep.core.inverter.fit import (
    AC_TIERS,
    BANK_CURRENT,
    DC_TIERS,
    DIRECT_TIERS,
    GENERATOR_TIERS,
    GENERATOR_WHY,
    WHY,
)
from hearthkeep.core.inverter.house import HouseWatts
from hearthkeep.core.loads import SPARE_INDEX
from hearthkeep.core.loads.table import AC, CONVERTER, DC

Floats = NDArray[np.float64]

#: Modes: the inverter is on; it is off, so that only direct-current loads are served; a running generator carries the AC loads.
ON, OFF, GENERATOR = 0, 1, 2
MODES = 3
#: Columns, powers in [W]: loads served; lost in inverter and converters; lost in wiring; AC loads straight from the
#: generator; all that is taken at the direct-current bus; what the inverter takes while it serves no AC load; the first tier
#: whose loads do not all fit, counted from 1, and why not, as an Overload; from SERVED on the loads served, tier by
#: tier; whether any tier asks for more; and the one of Life and Keep that goes dark, -1 for neither.
LOAD, CONVERSION, WIRING, HOUSE, DIRECT, IDLES, BLOCKED, CAUSE, SERVED = 0, 1, 2, 3, 4, 5, 6, 7, 8
ANY_SHORT, DARK_TIER = 12, 13
#: House current through the inverter [W]; whether it makes a supply that a coupled array can follow; and what each watt of house
#: current takes at the direct-current bus, the part of the wiring's loss that falls on it included.
HOUSE_AC, FORMS, BUS_PER_AC, COLUMNS = 14, 15, 16, 17
#: What is asked and left unserved counts from here on [W].
SHORT_FROM_W = 1e-9


class Draws(NamedTuple):
    """The house ready for the outage."""

    #: A row for each mode, hour and number of tiers, see cell_of; (rows, columns).
    table: Floats
    #: Loads that ask, by tier [W], (hours, 4).
    asked_w: Floats


def cell_of(mode: Any, hour: Any, number: Any, hours: Any) -> Any:
    """Row of the table for a mode, an hour and a number of tiers from none to all, of so many hours; numbers or whole arrays."""
    return (mode * hours + hour) * 5 + number


#: The same inside the compiled loops.
compiled_cell_of = inner(cell_of)


@entry
def draws_of(house: HouseWatts) -> Draws:
    """Fill the table for every hour of a house; the rows of a generator only where there is one."""
    # The house is unpacked once: a tuple that holds arrays is slow inside the loop.
    watts, fits, dead_w, standing_w, limits = house.watts, house.fits, house.dead_w, house.standing_w, house.limits
    forms = house.forms
    hours, tiers = watts.shape[0], watts.shape[1]
    has_generator = limits.generator_w > 0.0
    modes = MODES if has_generator else GENERATOR
    table, asked_w = np.zeros((modes * hours * (tiers + 1), COLUMNS)), np.empty((hours, tiers))
    for hour in range(hours):
        for tier in range(tiers):
            asked_w[hour, tier] = watts[hour, tier, AC] + watts[hour, tier, DC]
        for number in range(tiers + 1):
            if number > 0:
                on, last = compiled_cell_of(ON, hour, number, hours), number - 1
                off, generator = (
                    compiled_cell_of(OFF, hour, number, hours),
                    compiled_cell_of(GENERATOR, hour, number, hours),
                )
                _fill_on(table, on, watts, dead_w, standing_w, forms[hour, last], fits, hour, last, limits)
                _fill_direct(table, off, watts, fits, hour, last, limits.cables)
                _block(table, off, watts, hour, number, number, fits[hour, last, DIRECT_TIERS])
                table[off, CAUSE] = BANK_CURRENT
                if has_generator:
                    _fill_direct(table, generator, watts, fits, hour, last, limits.cables)
                    _fill_generator(table, generator, watts, fits, hour, last)
            for mode in range(modes):
                _count_short(table, compiled_cell_of(mode, hour, number, hours), asked_w, hour)
        off = compiled_cell_of(OFF, hour, tiers, hours)
        if watts[hour, SPARE_INDEX, AC] > 0.0 and table[off, BLOCKED] == 0.0:
            # Spare runs whole or not at all.
            table[off, BLOCKED] = tiers
    return Draws(table, asked_w)


@inner
def _fill_on(table, cell, watts, dead_w, standing_w, forms, fits, hour, last, limits):  # type: ignore[no-untyped-def]
    """Everything through inverter and converters, as far as it fits."""
    dc_tiers, ac_tiers = fits[hour, last, DC_TIERS], fits[hour, last, AC_TIERS]
    load_w = 0.0
    direct_w = 0.0
    for tier in range(dc_tiers):
        load_w += watts[hour, tier, DC]
        direct_w += watts[hour, tier, DC] + watts[hour, tier, CONVERTER]
        table[cell, SERVED + tier] = watts[hour, tier, DC]
    ac_w = 0.0
    for tier in range(ac_tiers):
        alive_w = watts[hour, tier, AC] - dead_w[hour, last, tier]
        ac_w += alive_w
        table[cell, SERVED + tier] += alive_w
    stands_w = standing_w[hour, last] if dc_tiers > 0 else 0.0
    flat_frac = limits.cables.flat_frac
    input_w = stands_w + ac_w * limits.bus_w_per_ac_w / (1.0 + flat_frac)
    taken_w = direct_w + input_w
    lost_w = lost_in_runs_compiled_w(direct_w, input_w, limits.cables)
    table[cell, LOAD] = load_w + ac_w
    table[cell, CONVERSION] = direct_w - load_w + input_w - ac_w
    table[cell, WIRING] = flat_frac * taken_w + lost_w
    table[cell, DIRECT] = (1.0 + flat_frac) * taken_w + lost_w
    table[cell, BUS_PER_AC] = limits.bus_w_per_ac_w * (1.0 + (lost_w / taken_w if taken_w > 0.0 else 0.0))
    table[cell, IDLES] = stands_w if ac_w <= 0.0 else 0.0
    table[cell, HOUSE_AC] = ac_w
    table[cell, FORMS] = 1.0 if forms and dc_tiers > 0 else 0.0
    table[cell, CAUSE] = fits[hour, last, WHY]
    _block(table, cell, watts, hour, last + 1, ac_tiers, dc_tiers)


@inner
def _fill_direct(table, cell, watts, fits, hour, last, cables):  # type: ignore[no-untyped-def]
    """Direct current alone, with the inverter off or beside a generator that carries the rest."""
    load_w = 0.0
    direct_w = 0.0
    for tier in range(fits[hour, last, DIRECT_TIERS]):
        load_w += watts[hour, tier, DC]
        direct_w += watts[hour, tier, DC] + watts[hour, tier, CONVERTER]
        table[cell, SERVED + tier] = watts[hour, tier, DC]
    table[cell, LOAD] = load_w
    table[cell, CONVERSION] = direct_w - load_w
    lost_w = lost_in_runs_compiled_w(direct_w, 0.0, cables)
    table[cell, WIRING] = cables.flat_frac * direct_w + lost_w
    table[cell, DIRECT] = (1.0 + cables.flat_frac) * direct_w + lost_w


@inner
def _fill_generator(table, cell, watts, fits, hour, last):  # type: ignore[no-untyped-def]
    """House current on the generator, beside the direct current that is there already."""
    generator_tiers = fits[hour, last, GENERATOR_TIERS]
    house_w = 0.0
    for tier in range(generator_tiers):
        house_w += watts[hour, tier, AC]
        table[cell, SERVED + tier] += watts[hour, tier, AC]
    table[cell, HOUSE] = house_w
    table[cell, LOAD] += house_w
    _block(table, cell, watts, hour, last + 1, generator_tiers, fits[hour, last, DIRECT_TIERS])
    is_house = table[cell, BLOCKED] > generator_tiers
    table[cell, CAUSE] = fits[hour, last, GENERATOR_WHY] if is_house else BANK_CURRENT


@inner
def _block(table, cell, watts, hour, number, ac_tiers, dc_tiers):  # type: ignore[no-untyped-def]
    """The first of so many tiers whose AC or DC loads ask and are not carried."""
    for tier in range(min(ac_tiers, dc_tiers), number):
        if (tier >= ac_tiers and watts[hour, tier, AC] > 0.0) or (tier >= dc_tiers and watts[hour, tier, DC] > 0.0):
            table[cell, BLOCKED] = tier + 1
            break


@inner
def _count_short(table, cell, asked_w, hour):  # type: ignore[no-untyped-def]
    """What is asked and not served, and which of Life and Keep is dark by it."""
    table[cell, DARK_TIER] = -1.0
    for tier in range(3, -1, -1):
        if asked_w[hour, tier] - table[cell, SERVED + tier] > SHORT_FROM_W:
            table[cell, ANY_SHORT] = 1.0
            if tier <= 1:
                table[cell, DARK_TIER] = tier
