"""Sums of the audit: daily energy, coincident peak, worst start, and the hourly profile."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from hearthkeep.core.design import Load, Quality, Supply
from hearthkeep.core.loads.days import DayKind, day_of
from hearthkeep.core.loads.measure import UNCERTAINTY_FRAC, quality_of
from hearthkeep.core.loads.table import TIERS, Floats, LoadRows, LoadTable, lived_tier, rows_from, table_from


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadSum:
    """One load's own figures."""

    id: str
    #: Energy a day, quantity, duty and standby included [Wh].
    daily_wh: float
    #: The part of it outside its hours [Wh].
    standby_wh: float
    #: Tier it lives in, after links.
    lived_tier: str
    quality: Quality
    #: By how much its energy may be off: energy x the uncertainty of its quality [Wh a day].
    doubt_wh: float


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadSums:
    """The audit's totals."""

    #: All loads, at the loads [Wh a day].
    daily_wh: float
    daily_ac_wh: float
    daily_dc_wh: float
    #: By tier: life, keep, ease, spare [Wh a day].
    daily_by_tier_wh: dict[str, float]
    #: Worst sum of AC running watts that may fall together [W], and its hour of the day.
    peak_w: float
    peak_hour: int
    #: Worst start: one unit starting on top of the other running watts [W], its hour, and what starts.
    start_surge_w: float
    start_surge_hour: int
    start_surge_load: str | None
    #: Worst sum of DC running watts [W].
    peak_dc_w: float
    #: Average power by tier in each hour of the day [W], 24 values each.
    profile_w: dict[str, tuple[float, ...]]
    #: Standby of all loads outside their hours [Wh a day].
    standby_wh: float
    #: By quality of the reading: measured, label, nameplate, guess [Wh a day].
    daily_by_quality_wh: dict[str, float]
    #: The row most worth measuring next: the largest doubt; none while everything is measured.
    measure_next: str | None
    rows: tuple[LoadSum, ...]


#: A day on which nothing special holds.
PLAIN_DAY = DayKind(month=1)


def daily_wh(load: Load, kind: DayKind = PLAIN_DAY) -> float:
    """Energy of one row a day: quantity x (running W x duty x hours + standby W x other hours) [Wh].

    >>> daily_wh(Load(id="a", name="lamps", tier="ease", quantity=2, running_w=6, hours=((17, 22),)))
    60.0
    """
    use_wh, standby_wh = _use_and_standby_wh(load, kind)
    return use_wh + standby_wh


@lru_cache(maxsize=8192)
def _use_and_standby_wh(load: Load, kind: DayKind) -> tuple[float, float]:
    """Energy of one row in its hours, and outside them [Wh a day]."""
    day = day_of(load, kind)
    hours_on = int(day.on.sum())
    return (
        load.quantity * day.running_w * day.duty_frac * hours_on,
        load.quantity * day.standby_w * (24 - hours_on),
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Audit:
    """The audit of one kind of day, worked out once and handed on."""

    kind: DayKind
    rows: LoadRows
    table: LoadTable
    sums: LoadSums


@lru_cache(maxsize=32)
def audit_of(loads: tuple[Load, ...], kind: DayKind, together: frozenset[str] = frozenset()) -> Audit:
    """Audit the loads on a kind of day; those of the ids `together` may start all at once. Kept while other parts are edited."""
    rows = rows_from(loads, (kind,))
    table = table_from(rows)
    return Audit(kind=kind, rows=rows, table=table, sums=sums_from(loads, rows, table, kind, together))


def sums_from(
    loads: tuple[Load, ...],
    rows: LoadRows,
    table: LoadTable,
    usual: DayKind,
    together: frozenset[str] = frozenset(),
) -> LoadSums:
    """Add the audit up for a usual day. All tiers count in the peak and the start, Spare included.

    The worst start is one unit's, or that of all loads of the ids `together` with all their units.
    """
    average_w = table.ac_w + table.dc_w
    coincident_w = table.coincident_ac_w.sum(axis=1)
    peak_hour = int(coincident_w.argmax())
    one_rise_w, all_rise_w = table.start_rise_w.max(axis=1), _rise_together(loads, rows, together)
    surge_w = coincident_w + np.maximum(one_rise_w, all_rise_w)
    surge_hour = int(surge_w.argmax())
    at_once = bool(all_rise_w[surge_hour] > one_rise_w[surge_hour])
    row_sums = _row_sums(loads, rows, usual)
    on_bank = [row for row, load in zip(row_sums, loads, strict=True) if load.supply is not Supply.PANEL]
    doubted = [row for row in on_bank if row.doubt_wh > 0 and row.quality is not Quality.MEASURED]
    return LoadSums(
        daily_wh=float(average_w.sum()),
        daily_ac_wh=float(table.ac_w.sum()),
        daily_dc_wh=float(table.dc_w.sum()),
        daily_by_tier_wh={tier.value: float(average_w[:, index].sum()) for index, tier in enumerate(TIERS)},
        peak_w=float(coincident_w[peak_hour]),
        peak_hour=peak_hour,
        start_surge_w=float(surge_w[surge_hour]),
        start_surge_hour=surge_hour,
        start_surge_load=_all_starting(loads, rows, together, surge_hour)
        if at_once
        else _worst_starter(loads, rows, surge_hour),
        peak_dc_w=float(table.coincident_dc_w.sum(axis=1).max()),
        profile_w={tier.value: tuple(average_w[:, index].tolist()) for index, tier in enumerate(TIERS)},
        standby_wh=sum(row.standby_wh for row in on_bank),
        daily_by_quality_wh={
            quality.value: sum(row.daily_wh for row in on_bank if row.quality is quality) for quality in Quality
        },
        measure_next=max(doubted, key=lambda row: row.doubt_wh).id if doubted else None,
        rows=row_sums,
    )


def _row_sums(loads: tuple[Load, ...], rows: LoadRows, usual: DayKind) -> tuple[LoadSum, ...]:
    found = []
    for load, tier in zip(loads, lived_tier(rows), strict=True):
        use_wh, standby_wh = _use_and_standby_wh(load, usual)
        energy_wh, quality = use_wh + standby_wh, quality_of(load)
        found.append(
            LoadSum(
                id=load.id,
                daily_wh=energy_wh,
                standby_wh=standby_wh,
                lived_tier=TIERS[tier].value,
                quality=quality,
                doubt_wh=energy_wh * UNCERTAINTY_FRAC[quality],
            )
        )
    return tuple(found)


def _rise_together(loads: tuple[Load, ...], rows: LoadRows, together: frozenset[str]) -> Floats:
    """How much the starts of all units of those loads exceed their running watts, hour by hour [W], (hours,)."""
    units = np.array([load.quantity if load.id in together else 0 for load in loads], dtype=np.float64)
    rise_w: Floats = units @ rows.start_rise_w if len(loads) else np.zeros(rows.start_rise_w.shape[1])
    return rise_w


def _all_starting(loads: tuple[Load, ...], rows: LoadRows, together: frozenset[str], hour: int) -> str:
    names = [load.name for at, load in enumerate(loads) if load.id in together and rows.start_rise_w[at, hour] > 0]
    return f"{' and '.join(names)} together" if len(names) < 3 else f"{len(names)} loads together"


def _worst_starter(loads: tuple[Load, ...], rows: LoadRows, hour: int) -> str | None:
    """Name of the AC load whose start rises most above its running power in that hour."""
    rises = [(rows.start_rise_w[index, hour], load.name) for index, load in enumerate(loads) if load.supply.is_ac]
    rise_w, name = max(rises, default=(0.0, ""), key=lambda rise: rise[0])
    return name if rise_w > 0 else None
