"""The state of the outage between two moments, and what the compiled helpers hand to each other: plain numbers only."""

from __future__ import annotations

from typing import NamedTuple


class Genset(NamedTuple):
    """The generator as it stands: whether it runs and for how long already, the fuel left in all and in its tank, and fetched."""

    runs: bool
    run_h: float
    fuel_l: float
    tank_l: float
    #: Fetched since the outage began.
    fetched_l: float


class State(NamedTuple):
    """All that the next moment depends on, besides the inputs of its step."""

    stored_wh: float
    #: Which tiers are out, whether the inverter is, and whether a coupled array's parts are: a bit each.
    out: int
    genset: Genset


class Inputs(NamedTuple):
    """The inputs of a step, as in Steps; `strongest_w` is that of all sources, the sun counted as one."""

    row: int
    sun_w: float
    other_w: float
    strongest_w: float
    coupled_w: float
    quiet: bool
    attended: bool


class Flow(NamedTuple):
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
    #: Of a coupled array: straight to the loads, and what the inverter may pass into the bank, both at its terminals.
    coupled_w: float
    surplus_w: float


class Reach(NamedTuple):
    """How far a flow reaches: how long, the stored energy after it, what flows into the bank, and what is lost there."""

    span_h: float
    after_wh: float
    into_w: float
    loss_wh: float
    #: The charge follows the falling acceptance.
    curved: bool


class Stretch(NamedTuple):
    """A stretch in which nothing changes, and what changed as it began."""

    flow: Flow
    reach: Reach
    #: What the generator did: -1 started, 0 nothing, else why it stopped.
    turned: int
    #: What came back, a bit each; what went out, in order: a digit of eight each, the first one lowest, its bit's number + 1.
    came_back: int
    went_out: int
    #: Row of the table of draws with Spare, where it runs on what is left over; else the flow's.
    served: int
    runs: bool
    charger_w: float
    #: Neither used nor stored, the clipped sun left out [W].
    unused_w: float
    #: Of a coupled array: straight to the loads, and into the inverter for the bank [W].
    coupled_w: float
    coupled_in_w: float
