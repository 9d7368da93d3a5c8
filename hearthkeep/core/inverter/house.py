"""The house as the outage meets it: watts by hour and tier, and what inverter and bank let run together."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from hearthkeep.core.design import Inverter, hours_in
from hearthkeep.core.inverter.fit import Limits, fit_generator, fit_hours
from hearthkeep.core.inverter.standing import stand
from hearthkeep.core.loads import CompiledRows, LoadRows, TierSums, compiled_rows, lived, sum_tier, summed

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


class HouseWatts(NamedTuple):
    """Arrays are (hours, 4) by tier, or by the number of tiers on the bank less one."""

    ac_w: Floats
    dc_w: Floats
    #: Lost in the converters of DC loads [W].
    converter_w: Floats
    #: What the inverter takes at no load, by number of tiers [W].
    standing_w: Floats
    #: House watts left dead by search mode, by number of tiers and tier [W], (hours, 4, 4).
    dead_w: Floats
    #: By number of tiers: how many, counted from Life, have their DC loads carried.
    dc_tiers: Ints
    #: How many, counted from Life, have their AC loads carried; never more than dc_tiers.
    ac_tiers: Ints
    #: Why the next tier's loads are not, as an Overload.
    overload_cause: Ints
    #: By number of tiers: how many have their AC loads carried by the generator, and why not more.
    generator_tiers: Ints
    generator_cause: Ints
    limits: Limits


class Draws(NamedTuple):
    """What serving so many tiers takes, ready for the outage; arrays are (hours, 5) by number of tiers, 0 to 4."""

    #: Loads served [W].
    load_w: Floats
    #: Lost in the inverter and in converters [W].
    conversion_w: Floats
    wiring_w: Floats
    #: Loads served, by number of tiers and tier [W], (hours, 5, 4).
    served_w: Floats
    #: Loads that ask, by tier [W], (hours, 4).
    asked_w: Floats
    #: The first of those tiers whose loads do not all fit, counted from 1; 0 for none.
    blocked: Ints
    #: Why they do not fit, as an Overload.
    cause: Ints


@njit(cache=True)
def _assembled(
    rows: CompiledRows, lives: Ints, sums: TierSums, off: NDArray[np.bool_], limits: Limits, without: int
) -> HouseWatts:
    standing_w, dead_w = stand(rows, lives, without, off, limits)
    dc_tiers, ac_tiers, cause = fit_hours(sums, off, limits)
    generator_tiers, generator_cause = fit_generator(sums, limits)
    return HouseWatts(
        sums.ac_w,
        sums.dc_w,
        sums.converter_w,
        standing_w,
        dead_w,
        dc_tiers,
        ac_tiers,
        cause,
        generator_tiers,
        generator_cause,
        limits,
    )


@njit(cache=True)
def draws_of(house: HouseWatts) -> Draws:
    """Work out once for each hour what serving one tier, two, three or all of them takes."""
    hours, tiers = house.ac_w.shape
    per_watt, wiring = house.limits.per_watt / (1.0 + house.limits.wiring), house.limits.wiring
    load_w, conversion_w, wiring_w = (
        np.zeros((hours, tiers + 1)),
        np.zeros((hours, tiers + 1)),
        np.zeros((hours, tiers + 1)),
    )
    served_w = np.zeros((hours, tiers + 1, tiers))
    blocked = np.zeros((hours, tiers + 1), dtype=np.int64)
    cause = np.zeros((hours, tiers + 1), dtype=np.int64)
    for hour in range(hours):
        for last in range(tiers):
            dc_tiers, ac_tiers = house.dc_tiers[hour, last], house.ac_tiers[hour, last]
            ac_w = 0.0
            dc_w = 0.0
            converter_w = 0.0
            for tier in range(dc_tiers):
                dc_w += house.dc_w[hour, tier]
                converter_w += house.converter_w[hour, tier]
                served_w[hour, last + 1, tier] += house.dc_w[hour, tier]
            for tier in range(ac_tiers):
                alive_w = house.ac_w[hour, tier] - house.dead_w[hour, last, tier]
                ac_w += alive_w
                served_w[hour, last + 1, tier] += alive_w
            input_w = house.standing_w[hour, last] + ac_w * per_watt if dc_tiers > 0 else 0.0
            load_w[hour, last + 1] = ac_w + dc_w
            conversion_w[hour, last + 1] = input_w - ac_w + converter_w
            wiring_w[hour, last + 1] = wiring * (dc_w + converter_w + input_w)
            cause[hour, last + 1] = house.overload_cause[hour, last]
            for tier in range(last + 1):
                if (tier >= ac_tiers and house.ac_w[hour, tier] > 0.0) or (
                    tier >= dc_tiers and house.dc_w[hour, tier] > 0.0
                ):
                    blocked[hour, last + 1] = tier + 1
                    break
    return Draws(load_w, conversion_w, wiring_w, served_w, house.ac_w + house.dc_w, blocked, cause)


class GeneratorDraws(NamedTuple):
    """The same while the generator carries the house and the inverter rests; arrays are (hours, 5)."""

    load_w: Floats
    #: House current, straight from the generator [W].
    ac_w: Floats
    #: Direct current of DC loads, converters and cable, and of an inverter that goes on, from sun, charger or bank [W].
    dc_w: Floats
    #: Of that, lost in inverter and converters, and in cable [W].
    conversion_w: Floats
    wiring_w: Floats
    #: (hours, 5, 4).
    served_w: Floats
    blocked: Ints
    cause: Ints


@njit(cache=True)
def generator_draws_of(house: HouseWatts) -> GeneratorDraws:
    """Work out once for each hour what serving so many tiers takes while the generator runs.

    Where that feeds its charger alone, all of it is taken at the direct-current bus, as without the generator.
    """
    if house.limits.charges_only:
        draws = draws_of(house)
        return GeneratorDraws(
            draws.load_w,
            np.zeros_like(draws.load_w),
            draws.load_w + draws.conversion_w + draws.wiring_w,
            draws.conversion_w,
            draws.wiring_w,
            draws.served_w,
            draws.blocked,
            draws.cause,
        )
    hours, tiers = house.ac_w.shape
    wiring = house.limits.wiring
    load_w, ac_w, dc_w = np.zeros((hours, tiers + 1)), np.zeros((hours, tiers + 1)), np.zeros((hours, tiers + 1))
    conversion_w, wiring_w = np.zeros((hours, tiers + 1)), np.zeros((hours, tiers + 1))
    served_w = np.zeros((hours, tiers + 1, tiers))
    blocked = np.zeros((hours, tiers + 1), dtype=np.int64)
    cause = np.zeros((hours, tiers + 1), dtype=np.int64)
    for hour in range(hours):
        for last in range(tiers):
            number = last + 1
            for tier in range(house.dc_tiers[hour, last]):
                load_w[hour, number] += house.dc_w[hour, tier]
                conversion_w[hour, number] += house.converter_w[hour, tier]
                served_w[hour, number, tier] += house.dc_w[hour, tier]
            direct_w = load_w[hour, number] + conversion_w[hour, number]
            wiring_w[hour, number] = wiring * direct_w
            dc_w[hour, number] = direct_w * (1.0 + wiring)
            for tier in range(house.generator_tiers[hour, last]):
                ac_w[hour, number] += house.ac_w[hour, tier]
                load_w[hour, number] += house.ac_w[hour, tier]
                served_w[hour, number, tier] += house.ac_w[hour, tier]
            cause[hour, number] = house.generator_cause[hour, last]
            for tier in range(number):
                if (tier >= house.generator_tiers[hour, last] and house.ac_w[hour, tier] > 0.0) or (
                    tier >= house.dc_tiers[hour, last] and house.dc_w[hour, tier] > 0.0
                ):
                    blocked[hour, number] = tier + 1
                    break
    return GeneratorDraws(load_w, ac_w, dc_w, conversion_w, wiring_w, served_w, blocked, cause)


@njit(cache=True)
def house_with_all(rows: CompiledRows, off: NDArray[np.bool_], limits: Limits) -> tuple[HouseWatts, TierSums]:
    """The house with every load, and the sums it rests on, for compiled callers."""
    lives = lived(rows.tier, rows.link, -1)
    sums = summed(rows, lives, -1)
    return _assembled(rows, lives, sums, off, limits, -1), sums


@njit(cache=True)
def house_without(
    rows: CompiledRows, off: NDArray[np.bool_], limits: Limits, without: int, sums: TierSums
) -> HouseWatts:
    """The house with one load left out; `sums` holds the sums with all loads and is given back as it was.

    Only the tier of the load is added up anew, unless the load is linked, whose partners may fall to another tier.
    """
    lives = lived(rows.tier, rows.link, without)
    if rows.link[without] >= 0:
        return _assembled(rows, lives, summed(rows, lives, without), off, limits, without)
    of = rows.tier[without]
    sum_tier(rows, lives, without, of, sums)
    house = _assembled(rows, lives, copied(sums), off, limits, without)
    sum_tier(rows, lives, -1, of, sums)
    return house


@njit(cache=True)
def copied(sums: TierSums) -> TierSums:
    """Sums that no longer change with those they came from."""
    return TierSums(
        sums.ac_w.copy(),
        sums.dc_w.copy(),
        sums.converter_w.copy(),
        sums.coincident_ac_w.copy(),
        sums.coincident_dc_w.copy(),
        sums.start_rise_w.copy(),
        sums.owns_ac.copy(),
    )


def off_hours(inverter: Inverter, days: int) -> NDArray[np.bool_]:
    """Whether the inverter is switched off, hour by hour of so many days one after the other, (24 x days,)."""
    return np.tile(np.array(hours_in(inverter.off_hours), dtype=bool), days)


def house_watts(rows: LoadRows, inverter: Inverter, limits: Limits) -> HouseWatts:
    """Drop the lowest tier's AC loads until running watts, worst start and bank current all fit.

    The running watts are those that may fall together, and the whole draw is held against the bank's limit without
    counting on the sun: a passing cloud puts it all on the bank within seconds.
    """
    off = off_hours(inverter, rows.average_w.shape[1] // 24)
    house: HouseWatts = house_with_all(compiled_rows(rows), off, limits)[0]
    return house
