"""From the audit to watts by hour of the day and tier."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Load, Supply, Tier

#: Tiers from the last dropped to the first; the position is the tier's index in every array.
TIERS: tuple[Tier, ...] = (Tier.LIFE, Tier.KEEP, Tier.EASE, Tier.SPARE)
HOURS = 24

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadRows:
    """The audit as arrays, one entry a load, so that rows can be left out cheaply."""

    #: Average power by load and hour of the day, quantity, duty and standby included [W], (n, 24).
    average_w: Floats
    #: Coincident running power by load and hour: duty ignored, standby included [W], (n, 24).
    coincident_w: Floats
    #: How much one unit's start exceeds its running power, where it may run [W], (n, 24).
    start_rise_w: Floats
    #: Whether the load is fed through the inverter, (n,).
    is_ac: Bools
    #: Tier index as written, (n,).
    tier: NDArray[np.int64]
    #: Link group number, -1 for none, (n,).
    link: NDArray[np.int64]


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadTable:
    """Watts by hour of the day and tier; every array is (24, 4)."""

    ac_w: Floats
    dc_w: Floats
    coincident_ac_w: Floats
    coincident_dc_w: Floats
    #: Worst start among the tier's AC loads, above its running power [W].
    start_rise_w: Floats
    #: Whether each tier owns an AC load at all, running or not, (4,).
    owns_ac: Bools


def rows_from(loads: tuple[Load, ...]) -> LoadRows:
    """Turn loads into arrays, in the order given."""
    count = len(loads)
    on = np.array([load.on_by_hour for load in loads], dtype=bool).reshape(count, HOURS)
    quantity = np.array([load.quantity for load in loads], dtype=float)
    running_w = np.array([load.running_w for load in loads], dtype=float)
    start_w = np.array([load.running_w if load.start_w is None else load.start_w for load in loads], dtype=float)
    duty = np.array([load.duty_frac for load in loads], dtype=float)
    standby_w = np.array([load.standby_w for load in loads], dtype=float)
    groups = {link: number for number, link in enumerate(sorted({load.link for load in loads if load.link}))}
    return LoadRows(
        average_w=np.where(on, (quantity * running_w * duty)[:, None], (quantity * standby_w)[:, None]),
        coincident_w=np.where(on, (quantity * running_w)[:, None], (quantity * standby_w)[:, None]),
        start_rise_w=np.where(on, np.maximum(start_w - running_w, 0.0)[:, None], 0.0),
        is_ac=np.array([load.supply is Supply.AC for load in loads], dtype=bool),
        tier=np.array([TIERS.index(load.tier) for load in loads], dtype=np.int64),
        link=np.array([groups[load.link] if load.link else -1 for load in loads], dtype=np.int64),
    )


def lived_tier(rows: LoadRows, kept: Bools | None = None) -> NDArray[np.int64]:
    """Tier index each load lives in: linked loads share the highest tier among them, (n,)."""
    tier = rows.tier.copy()
    for group in range(int(rows.link.max(initial=-1)) + 1):
        members = rows.link == group
        counted = members if kept is None else members & kept
        if counted.any():
            tier[members] = rows.tier[counted].min()
    return tier


def table_from(rows: LoadRows, kept: Bools | None = None) -> LoadTable:
    """Sum the rows by tier; with `kept`, only the rows marked true."""
    tier = lived_tier(rows, kept)
    member = tier[None, :] == np.arange(len(TIERS))[:, None]
    if kept is not None:
        member &= kept[None, :]
    ac, dc = member & rows.is_ac, member & ~rows.is_ac
    rise = np.zeros((HOURS, len(TIERS)))
    for index in range(len(TIERS)):
        if ac[index].any():
            rise[:, index] = rows.start_rise_w[ac[index]].max(axis=0)
    return LoadTable(
        ac_w=_by_hour(ac, rows.average_w),
        dc_w=_by_hour(dc, rows.average_w),
        coincident_ac_w=_by_hour(ac, rows.coincident_w),
        coincident_dc_w=_by_hour(dc, rows.coincident_w),
        start_rise_w=rise,
        owns_ac=ac.any(axis=1),
    )


def _by_hour(member: Bools, power_w: Floats) -> Floats:
    """Sum the members' power by hour of the day and tier, (24, 4)."""
    return np.ascontiguousarray((member.astype(float) @ power_w).T)
