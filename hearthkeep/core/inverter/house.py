"""The house as the outage meets it: watts by hour and tier, and what inverter and bank let run together."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.compiled import entry, inner_counted
from hearthkeep.core.design import Inverter, hours_in
from hearthkeep.core.inverter.fit import Limits, fit_hours
from hearthkeep.core.inverter.standing import stand
from hearthkeep.core.loads import HOURS, CompiledRows, LoadRows, TierSums, compiled_rows, lived, sum_tier, summed
from hearthkeep.core.loads.table import AC, CONVERTER, DC

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


class HouseWatts(NamedTuple):
    """The house by hour and tier, or by the number of tiers on the bank less one."""

    #: Sums by hour and tier, columns as in TierSums [W], (hours, 4, columns).
    watts: Floats
    #: What the inverter takes at no load, by number of tiers [W], (hours, 4).
    standing_w: Floats
    #: House watts left dead by search mode, by number of tiers and tier [W], (hours, 4, 4).
    dead_w: Floats
    #: What fits together, by number of tiers, columns as in fit_hours, (hours, 4, columns).
    fits: Ints
    limits: Limits
    #: Whether the inverter stands ready and makes a supply, by number of tiers, (hours, 4).
    forms: NDArray[np.bool_]

    @property
    def ac_w(self) -> Floats:
        """AC loads on the average [W], (hours, 4)."""
        return self.watts[:, :, AC]

    @property
    def dc_w(self) -> Floats:
        """DC loads on the average [W], (hours, 4)."""
        return self.watts[:, :, DC]

    @property
    def converter_w(self) -> Floats:
        """Lost in the converters of DC loads [W], (hours, 4)."""
        return self.watts[:, :, CONVERTER]


@inner_counted
def _assembled(
    rows: CompiledRows, lives: Ints, sums: TierSums, off: NDArray[np.bool_], limits: Limits, without: int
) -> HouseWatts:
    standing_w, dead_w, forms = stand(rows, lives, without, off, limits)
    return HouseWatts(sums.watts, standing_w, dead_w, fit_hours(sums, off, limits), limits, forms)


@entry
def house_with_all(rows: CompiledRows, off: NDArray[np.bool_], limits: Limits) -> tuple[HouseWatts, TierSums]:
    """The house with every load, and the sums it rests on, for compiled callers."""
    # The index of no load. Not a written -1: the compiler would make each function twice, once for that number alone.
    none = rows.tier.shape[0]
    lives = lived(rows.tier, rows.link, none)
    sums = summed(rows, lives, none)
    return _assembled(rows, lives, sums, off, limits, none), sums


@inner_counted
def house_without(
    rows: CompiledRows, off: NDArray[np.bool_], limits: Limits, without: int, sums: TierSums
) -> HouseWatts:
    """The house with one load left out; `sums` holds the sums with all loads.

    Only the tier of the load is added up anew, unless the load is linked, whose partners may fall to another tier.
    """
    lives = lived(rows.tier, rows.link, without)
    if rows.link[without] >= 0:
        return _assembled(rows, lives, summed(rows, lives, without), off, limits, without)
    others = TierSums(sums.watts.copy(), sums.owns_ac.copy())
    sum_tier(rows, lives, without, rows.tier[without], others)
    return _assembled(rows, lives, others, off, limits, without)


def off_hours(inverter: Inverter, rows: LoadRows) -> NDArray[np.bool_]:
    """Whether the inverter makes nothing, by hour of the rows: switched off, or the grid carries the house, (hours,)."""
    off = _off_hours(inverter.off_hours, rows.on_grid.shape[0] // HOURS)
    return off | rows.on_grid if rows.on_grid.any() else off


@lru_cache(maxsize=256)
def _off_hours(spans: tuple[tuple[int, int], ...], days: int) -> NDArray[np.bool_]:
    """Kept between calls, since every price asks anew; not to be written to."""
    return np.tile(np.array(hours_in(spans), dtype=bool), days)


def house_watts(rows: LoadRows, inverter: Inverter, limits: Limits) -> HouseWatts:
    """Drop the lowest tier's AC loads until running watts, worst start and bank current all fit.

    The running watts are those that may fall together, and the whole draw is held against the bank's limit without
    counting on the sun: a passing cloud puts it all on the bank within seconds.
    """
    off = off_hours(inverter, rows)
    house: HouseWatts = house_with_all(compiled_rows(rows), off, limits)[0]
    return house
