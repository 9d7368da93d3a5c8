"""Thirty days of made-up readings of a house whose true values are known: written from Ohm's law and bookkeeping alone, with noise and
gaps, and nothing of the model under test but the design's plain numbers.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hearthkeep.core.logbook.log import Log, Trace
from hearthkeep.core.logbook.quantities import Quantity

STEP_S = 300.0
#: Midnight of 2026-03-01 at the site.
START_S = 20_513 * 86_400.0


@dataclass(frozen=True)
class Truth:
    """What the readings come from."""

    capacity_wh: float = 8_600.0
    charge_eff: float = 0.93
    discharge_eff: float = 0.98
    idle_w: float = 61.0
    each_w: float = 1.085
    yield_frac: float = 0.74
    #: Mean house watts by group.
    keep_w: float = 95.0
    ease_w: float = 60.0
    #: How much a day's use is like that of the day before, and what is used on each seventh and its eve beside other days.
    likeness: float = 0.0
    at_weekends: float = 1.0


def factors_of_days(dice, truth, days):
    """What each day uses beside the mean day."""
    fresh = dice.normal(0.0, 0.08, days)
    found = fresh.copy()
    for at in range(1, days):
        found[at] = truth.likeness * found[at - 1] + np.sqrt(1 - truth.likeness**2) * fresh[at]
    week = np.where(np.arange(days) % 7 >= 5, truth.at_weekends, 1.0)
    return (1.0 + found) * week / (1.0 + (truth.at_weekends - 1.0) * 2.0 / 7.0)


def made_log(seed: int, truth: Truth, *, stc_w: float, days: int = 30, gaps: bool = True, limit_w: float = 1e9) -> Log:
    """Readings every five minutes; amps into the bank count as plus."""
    dice = np.random.default_rng(seed)
    count = int(days * 86_400 / STEP_S)
    at_s = START_S + STEP_S * np.arange(count)
    hour = (at_s / 3_600.0) % 24.0
    day = ((at_s - START_S) / 86_400.0).astype(int)
    # Loads: a shape of the day, a factor of each day, and flicker.
    shape = 1.0 + 0.5 * np.sin((hour - 15.0) / 24.0 * 2 * np.pi) + 0.3 * (np.abs(hour - 19.0) < 2.0)
    shape /= shape[:288].mean()
    groups = {}
    for name, mean_w in (("keep", truth.keep_w), ("ease", truth.ease_w)):
        each_day = factors_of_days(dice, truth, days)[day]
        groups[name] = np.maximum(mean_w * shape * each_day * dice.normal(1.0, 0.15, count), 0.0)
    out_w = groups["keep"] + groups["ease"]
    # Sun on the plane: a bell, a cloud factor of each day and of each step.
    bell = np.maximum(np.sin((hour - 6.0) / 12.0 * np.pi), 0.0) * (np.abs(hour - 12.0) < 6.0)
    sky = np.clip(dice.beta(2.0, 1.2, days), 0.1, 1.0)[day] * np.clip(dice.normal(1.0, 0.08, count), 0.3, 1.2)
    sun_w_m2 = 900.0 * bell * sky
    air_c = 8.0 + 4.0 * np.sin((hour - 9.0) / 24.0 * 2 * np.pi)
    cell_c = air_c + (45.0 - 20.0) * sun_w_m2 / 800.0
    full_sun_w = np.minimum(
        stc_w * sun_w_m2 / 1000.0 * (1 - 0.0035 * (cell_c - 25.0)) * truth.yield_frac * 0.97, limit_w
    )
    # The books of the bank, step by step; a full one holds the sun back.
    stored, soc, bank_w, sun_w = 0.6 * truth.capacity_wh, np.empty(count), np.empty(count), np.empty(count)
    taken_w = truth.idle_w + truth.each_w * out_w
    hours = STEP_S / 3_600.0
    for step in range(count):
        soc[step] = stored / truth.capacity_wh
        given = full_sun_w[step] if soc[step] < 0.96 else min(full_sun_w[step], taken_w[step])
        # Kept from running dry by a sun that is a little stronger on such days.
        if soc[step] < 0.15:
            given = max(given, taken_w[step] * 1.5)
        sun_w[step] = given
        net = given - taken_w[step]
        bank_w[step] = net
        stored += hours * (net * truth.charge_eff if net > 0 else net / truth.discharge_eff)
    volts = 51.0 + 2.0 * soc + bank_w / 4_000.0
    keep = np.ones(count, dtype=bool)
    if gaps:
        for _ in range(6):
            first = dice.integers(0, count - 40)
            keep[first : first + dice.integers(3, 40)] = False
    flat = {
        (Quantity.BANK_V, ""): volts * dice.normal(1.0, 0.0005, count),
        (Quantity.BANK_A, ""): bank_w / volts + dice.normal(0.0, 0.04, count),
        (Quantity.CHARGE, ""): 100.0 * np.clip(soc + dice.normal(0.0, 0.002, count), 0.0, 1.0),
        (Quantity.INVERTER_W, ""): out_w * dice.normal(1.0, 0.004, count),
        (Quantity.LOAD_W, "keep"): groups["keep"] * dice.normal(1.0, 0.01, count),
        (Quantity.LOAD_W, "ease"): groups["ease"] * dice.normal(1.0, 0.01, count),
        (Quantity.SUN_W, ""): sun_w * dice.normal(1.0, 0.01, count),
        (Quantity.SUN_W_M2, ""): np.maximum(sun_w_m2 * dice.normal(1.0, 0.01, count), 0.0),
        (Quantity.AIR_C, ""): air_c,
    }
    return Log(traces={key: Trace(at_s=at_s[keep], values=values[keep]) for key, values in flat.items()})


def csv_of(log, *, names=None, every=1):
    """A log as a file, one row a moment, in UTC."""
    keys = list(log.traces)
    heads = [(names or {}).get(key, f"{key[0].value} {key[1]}".strip()) for key in keys]
    at_s = log.traces[keys[0]].at_s[::every]
    stamps = np.datetime_as_string((at_s * 1e6).astype("datetime64[us]"), unit="s")
    columns = [log.traces[key].values[::every] for key in keys]
    lines = [",".join(["time", *heads])]
    lines += [
        ",".join([f"{stamp}Z", *(f"{value:.6g}" for value in row)])
        for stamp, row in zip(stamps, zip(*columns, strict=True), strict=True)
    ]
    return "\n".join(lines).encode()
