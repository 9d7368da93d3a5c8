"""What the outage model takes and gives back: its steps, its plant, its run, and the numbers that name events and totals.

Tuples that hold arrays are unpacked before the loop and never cross a call inside it, which would make it ten times slower;
tuples of plain numbers cost nothing.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import Acceptance
from hearthkeep.core.outage.kernel.state import State

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

LIFE, KEEP, EASE, SPARE = 0, 1, 2, 3
BANK_TIERS = 3

#: Event kinds; the second column of an event is the tier, the third the cause of an overload.
DROPPED, RETURNED, OVERLOADED, FITS_AGAIN, CUT_OFF, FULL, DARK, BACK_ON = 0, 1, 2, 3, 4, 5, 6, 7
GENERATOR_ON, GENERATOR_OFF, INVERTER_BACK, ARRAY_CUT, ARRAY_BACK, FUEL_FETCHED = 8, 9, 10, 11, 12, 13
#: Why the generator stopped, in the third column of its event: charged, quiet hours, out of fuel, its tank empty and
#: nobody there to fill it.
STOP_FULL, STOP_QUIET, STOP_EMPTY, STOP_TANK = 10, 11, 12, 13
#: Kinds of event and causes, for the counts that stay true where the list of events is full.
EVENT_KINDS, EVENT_CAUSES = 14, 14
#: Events kept one by one; those beyond are counted only.
MAX_EVENTS = 2000

#: Rows of the energy totals.
SUN, CLIPPED, SERVED, INVERTER_LOSS, CHARGE_LOSS, WIRING_LOSS, UNUSED, GENERATOR, OTHER = 0, 1, 2, 3, 4, 5, 6, 7, 8
#: Of a coupled array, beside those: what its loads took from it straight, and what went into the inverter for the bank.
COUPLED_SERVED, COUPLED_STORED = 9, 10
TOTALS = 11

#: Powers below this count as nothing [W], fuel below this as none [L], and what is left of a step below this as over [h].
TINY_W, TINY_L, TINY_H = 1e-9, 1e-9, 1e-12
#: Changes of state followed inside one step after which nothing more returns or starts until it ends (a bank of seconds would
#: otherwise switch its house on and off without end), and after which the model gives up and leaves everything off. What still
#: can happen when nothing returns is a few dozen levels, so that the second number is never reached.
CALM_TURNS, MOST_TURNS = 100, 1000
#: Bit of the inverter beside those of the tiers, in the number that says who is out.
INVERTER = BANK_TIERS
#: Bit of a coupled array whose parts are switched off.
COUPLED = BANK_TIERS + 1


class Steps(NamedTuple):
    """What changes from step to step, (n,)."""

    length_h: Floats
    #: Row of the house's arrays: hour of the day, of that kind of day.
    row: Ints
    #: Sun the controllers let through [W].
    sun_w: Floats
    #: Sun beyond the controllers' limits [W].
    clipped_w: Floats
    #: All other sources but the generator together, at the direct-current bus [W].
    other_w: Floats
    #: The strongest of them alone, which counts where only one source may charge [W].
    strongest_w: Floats
    #: What a coupled array offers at its own alternating-current terminals, where the inverter leads it [W].
    coupled_w: Floats
    #: Whether the generator has to stay off.
    quiet: NDArray[np.bool_]
    #: Whether somebody is there to fill the generator's tank from the stock.
    attended: NDArray[np.bool_]
    #: Whether the stock is full again as the step begins.
    refuels: NDArray[np.bool_]


class GeneratorPlant(NamedTuple):
    """The generator, its charger and its fuel; a rating of 0 W means that there is none."""

    rated_w: float
    start_wh: float
    stop_wh: float
    min_run_h: float
    charger_w: float
    charger_efficiency: float
    stock_l: float
    #: What it holds when full; alone it runs no longer than that.
    tank_l: float
    idle_l_per_h: float
    l_per_kwh: float
    #: It feeds its charger alone; the house stays on the inverter.
    charges_only: bool


#: No generator.
NO_GENERATOR = GeneratorPlant(0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, False)


class CoupledPlant(NamedTuple):
    """A grid-tied array on the inverter's own alternating-current side."""

    #: Parts that are switched off one by one; 0 where it gives way little by little.
    blocks: int
    #: Switched off, it comes back at or below this [Wh].
    back_wh: float
    #: Most that the inverter passes from it into the bank, at its alternating-current side [W], and how much of that arrives.
    charger_w: float
    efficiency: float
    #: For each watt of house current not taken from the bank, by a flat loss in the wiring: watts saved at the direct-current
    #: bus, of which lost in the inverter and in wiring. What the runs lose stands in the house's own table.
    bus_w_per_ac_w: float
    conversion_per_ac_w: float
    wiring_per_ac_w: float


#: No coupled array.
NO_COUPLED = CoupledPlant(0, 0.0, 0.0, 1.0, 1.0, 0.0, 0.0)


class Plant(NamedTuple):
    """Bank, inverter and generator: plain numbers only, so that it may be handed on inside the loop."""

    acceptance: Acceptance
    start_wh: float
    #: Drop levels of Life, Keep and Ease, and the levels at which they return [Wh]. The inverter goes off and comes back at
    #: those of Life.
    drop_wh: tuple[float, float, float]
    return_wh: tuple[float, float, float]
    discharge_efficiency: float
    peukert_exponent: float
    #: Power at the rated current; above it Peukert's law applies [W].
    rated_power_w: float
    #: Only the strongest source charges, the others wait and are spilled.
    one_source: bool
    generator: GeneratorPlant
    coupled: CoupledPlant


class Run(NamedTuple):
    """What one recorded run gives back."""

    #: Stored energy at each step edge [Wh], (n + 1,).
    stored_wh: Floats
    #: Power of the loads served, by step and tier [W], (n, 4).
    served_w: Floats
    #: Sun and other sources not used, clipped included, by step [W], (n,).
    spilled_w: Floats
    totals_wh: Floats
    #: By tier: energy asked and not served [Wh], and for how long [h], (4,).
    unserved_wh: Floats
    unserved_h: Floats
    #: Life or Keep first asked and was not served [h]; -1 for never.
    dark_h: float
    #: For how long Life or Keep asked and was not served, by step [h], (n,).
    dark_by_step_h: Floats
    #: The same of Life alone [h], (n,).
    life_dark_by_step_h: Floats
    #: Power the generator gives at its terminals [W], for how long it ran [h] and what it burnt [L], by step, (n,).
    generator_w: Floats
    generator_by_step_h: Floats
    fuel_by_step_l: Floats
    #: In all: fuel it burnt [L], and for how long it ran [h].
    fuel_l: float
    generator_h: float
    #: Lowest stored energy [Wh] and when [h].
    lowest_wh: float
    lowest_h: float
    #: The bank first reached full, having been below it [h]; -1 for never.
    full_h: float
    #: Time [h], kind, tier, cause; the first `event_count` rows count, at most MAX_EVENTS of all that happened.
    events: Floats
    event_count: int
    #: How often each kind of event happened, behind the kinds all of them, and when each cause came first [h], -1 for never.
    kind_counts: Ints
    cause_h: Floats
    #: Why the house was dark at its first dark moment: an Overload, 0 where the charge ended.
    dark_cause: int
    #: Life or Keep first stood back from a running generator that could not carry it [h]; -1 for never.
    darkened_h: float
    #: Time for which no steady state was found and everything was left off [h]; always 0 unless the model fails.
    unsettled_h: float
    #: As it stands at the end.
    last: State

    @property
    def unused_wh(self) -> float:
        """Sun and other sources not used, clipped included, over the whole run [Wh]."""
        return float(self.totals_wh[CLIPPED] + self.totals_wh[UNUSED])


class Outcome(NamedTuple):
    """The five numbers kept of an outage that is not recorded."""

    #: Life or Keep first asked and was not served [h]; -1 for never.
    dark_h: float
    #: For how long Life or Keep asked and was not served, all together [h].
    dark_for_h: float
    lowest_wh: float
    fuel_l: float
    #: Life alone first asked and was not served [h]; -1 for never.
    life_dark_h: float


#: How many numbers that is.
OUTCOME_NUMBERS = 5


class Timeline(NamedTuple):
    """A year on the clock, in which outages may begin at any full hour: what changes from step to step, (n,) or (3, n).

    What depends on somebody being there stands three times: on days at home, on days away, and at home without a car.
    """

    steps_a_day: int
    #: Hour of the day, whether the generator has to stay off, and whether fuel that can be had is there from here on, (n,).
    hour: Ints
    quiet: NDArray[np.bool_]
    fetches: NDArray[np.bool_]
    #: As in Steps, (3, n).
    sun_w: Floats
    other_w: Floats
    strongest_w: Floats
    coupled_w: Floats


class Starts(NamedTuple):
    """Outages of one length that begin along a timeline, each on a full hour."""

    #: First step of each, and which of the rows of lengths is its own, (starts,).
    first: Ints
    clock: Ints
    #: Length of each step, by hour of the day at which an outage begins [h], (24, steps).
    length_h: Floats
    #: First row of the house's arrays on each calendar day of each outage, (starts, days).
    day_row: Ints
    #: Of each calendar day of an outage: which of the three rows of sources holds, whether nobody is at home, and whether
    #: fuel is fetched, (days,).
    who: Ints
    away: NDArray[np.bool_]
    fuel: NDArray[np.bool_]
    #: Whether the grid is back in each step, as the lengths are given, (24, steps); what its charger then gives at the
    #: direct-current bus [W]; and how many rows behind its own the house's row on the grid stands.
    on_grid: NDArray[np.bool_]
    grid_w: float
    grid_rows: int
    #: The generator stays off with nobody at home.
    by_hand: bool
