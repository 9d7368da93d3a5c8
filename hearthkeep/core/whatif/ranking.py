"""The library's inverters ranked for a design: what each carries, and why not the next smaller."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.design import Design, LibraryInverter, Output, Service, Supply
from hearthkeep.core.outage import prepare, usual_audit
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.transfer import Fate, fates_of
from hearthkeep.core.words import headroom, percent

#: A unit is made for this bank when its voltage differs by no more than this part.
SAME_VOLTAGE_FRAC = 0.12


@dataclass(frozen=True, kw_only=True, slots=True)
class RankedInverter:
    """One inverter in the place of the design's."""

    unit: LibraryInverter
    #: Whether peak, start and headroom fit.
    fits: bool
    hours_carried_h: float
    #: Rated watts over the coincident peak, less one.
    headroom_frac: float
    #: In one line: why it does not do, or what it leaves.
    remark: str


def rank_inverters(
    design: Design, units: Sequence[LibraryInverter], year: WeatherYear | None = None
) -> tuple[RankedInverter, ...]:
    """Simulate the outage with each unit of the bank's voltage.

    Those that fit come first, then the longest carried, then the cheapest, then the one that idles least.
    """
    entered, prepared = design, prepare(design, year)
    design, rating = prepared.design, prepared.rating
    sums = usual_audit(design).sums
    found = []
    for unit in units:
        if abs(unit.system_v / rating.nominal_v - 1) > SAME_VOLTAGE_FRAC:
            continue
        try:
            inverter = unit.as_inverter(design.inverter)
        except ValidationError:
            continue
        tried = entered.model_copy(update={"inverter": inverter})
        dead = [load.name for load in fates_of(tried).of(Fate.DEAD)]
        # Other legs than now carry other loads; else only the unit is another one.
        same = fates_of(tried).left_out == fates_of(entered).left_out
        changed = prepared.with_parts({"inverter": inverter}) if same else prepare(tried, year)
        spare = unit.rated_w / sums.peak_w - 1 if sums.peak_w > 0 else 1.0
        remark = (
            _wrong_output(unit, design)
            or _remark(unit, peak_w=sums.peak_w, start_w=sums.start_surge_w, wanted=design.inverter.headroom_frac)
            or _leaves_dead(dead)
        )
        found.append(
            RankedInverter(
                unit=unit,
                fits=not remark,
                hours_carried_h=changed.carried_h(changed.outcome().dark_h),
                headroom_frac=spare,
                remark=remark or f"headroom {headroom(spare)}, {24 * unit.idle_w / 1000:.1f} kWh a day idle",
            )
        )
    found.sort(
        key=lambda row: (
            not row.fits,
            -round(row.hours_carried_h, 2),
            row.unit.price if row.unit.price is not None else float("inf"),
            row.unit.idle_w,
            row.unit.rated_w,
        )
    )
    return tuple(found)


def _wrong_output(unit: LibraryInverter, design: Design) -> str:
    """Why the unit's voltage does not suit the house; empty when it does."""
    service = design.site.service
    both = [load.name for load in design.loads if load.supply is Supply.AC_240]
    if (unit.output is Output.V230) != (service is Service.V230):
        return f"gives {unit.output.value} V, the house has {service.value} V"
    if unit.output is Output.V120 and service is Service.SPLIT_120_240 and both:
        return f"gives one leg, {both[0]} needs both"
    if unit.output is Output.SPLIT_120_240 and service is Service.V120:
        return "gives two legs, the house has one"
    return ""


def _leaves_dead(names: Sequence[str]) -> str:
    """What the change-over would leave dead with the unit's output; empty for nothing."""
    return f"leaves {names[0]}{f' and {len(names) - 1} more' if len(names) > 1 else ''} dead" if names else ""


def _remark(unit: LibraryInverter, *, peak_w: float, start_w: float, wanted: float) -> str:
    """Why the unit does not do; empty when it does."""
    if unit.rated_w < peak_w:
        return f"too small: {peak_w:,.0f} W may run together"
    if unit.surge_w < start_w:
        return f"the worst start asks for {start_w:,.0f} W, it holds {unit.surge_w:,.0f} W"
    if unit.rated_w < peak_w * (1 + wanted):
        return f"headroom {percent(unit.rated_w / peak_w - 1)}, {percent(wanted)} is wanted"
    return ""
