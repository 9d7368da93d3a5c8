"""The audit as the rules of thumb take it: the same loads for all six, on a usual and on a dark day."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import TYPICAL, heater_w, rate
from hearthkeep.core.design import Chemistry, ControllerKind, Design, Tier
from hearthkeep.core.inverter import marginal_efficiency
from hearthkeep.core.loads import HOURS, lived_tier, rows_from, table_from
from hearthkeep.core.opinions.sun import sun_hours_by_month
from hearthkeep.core.outage import HEATER_ID, usual_day
from hearthkeep.core.sizing import counted_tiers
from hearthkeep.core.sources import WeatherYear

Floats = NDArray[np.float64]
#: What is taken of an inverter where the design has none. Our assumptions.
USUAL_EFFICIENCY_FRAC, USUAL_SURGE_RATIO, USUAL_IDLE_FRAC = 0.9, 2.0, 0.01


@dataclass(frozen=True, kw_only=True, slots=True)
class AuditedLoad:
    """One row of the audit that the rules count."""

    id: str
    name: str
    is_ac: bool
    #: Average power through a usual and a dark day [W], (24,).
    usual_w: Floats
    dark_w: Floats
    #: Running power, quantity included, and the hours of a usual day in which it is on [W, h].
    running_w: float
    hours_h: float

    @property
    def usual_wh(self) -> float:
        """Energy of a usual day [Wh]."""
        return float(self.usual_w.sum())

    @property
    def dark_wh(self) -> float:
        """Energy of a dark day [Wh]."""
        return float(self.dark_w.sum())


@dataclass(frozen=True, kw_only=True, slots=True)
class OpinionAudit:
    """What each rule is given."""

    loads: tuple[AuditedLoad, ...]
    #: Tiers counted, from Life down.
    tiers: tuple[Tier, ...]
    nominal_v: float
    chemistry: Chemistry
    #: Of the bank: the depth chosen and what cold leaves of its capacity.
    depth_frac: float
    temperature_frac: float
    #: Worst sum of AC running watts that fall together, and worst start on top of the others [W].
    peak_w: float
    start_w: float
    #: Of the inverter: efficiency at its rating, idle draw [W], and surge over rating.
    efficiency_frac: float
    idle_w: float
    surge_ratio: float
    #: The bank's heater, on the average [W].
    heater_w: float
    converts: bool
    #: Peak sun hours a day of each month, January first [h], (12,).
    sun_hours_h: tuple[float, ...]
    #: Energy of a usual day in each month [Wh], (12,).
    month_wh: tuple[float, ...]

    @property
    def usual_wh(self) -> float:
        """All loads on a usual day [Wh]."""
        return sum(load.usual_wh for load in self.loads)

    @property
    def idle_day_wh(self) -> float:
        """The inverter standing ready all day; nothing where no load needs it [Wh]."""
        return HOURS * self.idle_w if any(load.is_ac for load in self.loads) else 0.0

    @property
    def is_lead_acid(self) -> bool:
        """Whether the bank is of lead and acid."""
        return TYPICAL[self.chemistry].is_lead_acid

    @property
    def usual_depth_frac(self) -> float:
        """Depth of the common rules: half of lead-acid, four fifths of LFP. Common practice, no source."""
        return 0.5 if self.is_lead_acid else 0.8


def audit_for(design: Design, year: WeatherYear | None = None) -> OpinionAudit:
    """The audit of a completed design: the tiers that the bank's need counts, on a usual and a dark day of the outage's month."""
    loads = tuple(load for load in design.loads if load.id != HEATER_ID)
    usual = usual_day(design)
    count = counted_tiers(design.bank.need.lowest_tier)
    rows = rows_from(loads, (usual, replace(usual, is_dark=True)))
    table = table_from(rows)
    lives = lived_tier(rows)
    months = [rows_from(loads, (replace(usual, month=month),)) for month in range(1, 13)]
    running_w = table.coincident_ac_w[:, :count].sum(axis=1)
    starting_w = running_w + table.start_rise_w[:, :count].max(axis=1)
    inverter, rating = design.inverter, rate(design.bank)
    is_there = inverter.rated_w > 0
    found = []
    for index, load in enumerate(loads):
        if lives[index] >= count or not rows.coincident_w[index].any():
            continue
        on = rows.coincident_w[index, :HOURS]
        found.append(
            AuditedLoad(
                id=load.id,
                name=load.name,
                is_ac=bool(rows.is_ac[index]),
                usual_w=rows.average_w[index, :HOURS],
                dark_w=rows.average_w[index, HOURS:],
                running_w=float(on.max()),
                hours_h=float(rows.average_w[index, :HOURS].sum() / on.max()) if on.max() > 0 else 0.0,
            )
        )
    return OpinionAudit(
        loads=tuple(found),
        tiers=tuple(Tier)[:count],
        nominal_v=design.bank.nominal_v,
        chemistry=design.bank.chemistry,
        depth_frac=rating.depth_frac,
        temperature_frac=rating.temperature_frac,
        peak_w=float(running_w.max(initial=0.0)),
        start_w=float(starting_w.max(initial=0.0)),
        efficiency_frac=marginal_efficiency(inverter) if is_there else USUAL_EFFICIENCY_FRAC,
        idle_w=inverter.idle_w if is_there else USUAL_IDLE_FRAC * float(running_w.max(initial=0.0)),
        surge_ratio=inverter.surge_w / inverter.rated_w if is_there else USUAL_SURGE_RATIO,
        heater_w=heater_w(design.bank),
        converts=all(
            controller.kind is ControllerKind.MPPT for controller in design.charging.controllers if controller.charges
        ),
        sun_hours_h=sun_hours_by_month(design, year),
        month_wh=tuple(float(month.average_w[lives < count].sum()) for month in months),
    )
