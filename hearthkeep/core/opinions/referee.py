"""The storm as referee: what the kit of each method would carry, which would have misled, and by which of its lines."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank import TYPICAL, cycles_at, rate
from hearthkeep.core.design import MOST_STRINGS, Bank, Design
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.bought import design_with, resized, with_strings
from hearthkeep.core.opinions.sheet import Answer, Right
from hearthkeep.core.outage import PreparedOutage, prepare, with_other_watts
from hearthkeep.core.sizing import counted_tiers, need_sheet
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.whatif import with_panels

#: Panel watts with which the sky is measured where the design has no array [W].
_MEASURING_W = 1000.0
#: An array is searched for up to so many times the one that is there, to this part of it.
_MOST_ARRAY, _COARSE_STEP, _ARRAY_STEP = 16.0, 1 / 4, 1 / 64
#: Hours that count as the whole outage.
_WHOLE_H = 1e-6


@dataclass(frozen=True, kw_only=True, slots=True)
class Referee:
    """What the model says of the design's outage."""

    right: Right
    duration_h: float
    #: Least strings with which the design, its inverter large enough, carries Life and Keep to the end; none where no bank does.
    strings: int | None


def refereed(design: Design, audit: OpinionAudit, year: WeatherYear | None = None) -> Referee:
    """What the model has in the place of the methods' lines."""
    inverter_w = max(audit.peak_w, audit.start_w / audit.surge_ratio)
    fitting = with_inverter(design, inverter_w)
    prepared = prepare(fitting, year)
    strings = least_strings(prepared)
    count = counted_tiers(design.bank.need.lowest_tier)
    scene, duration_h = prepared.scene, prepared.duration_h
    asked_wh = float((prepared.draws.asked_w[scene.row, :count].sum(axis=1) * scene.clock.length_h).sum())
    loads_wh = 24.0 * asked_wh / duration_h
    losses = _losses(prepared)
    rating = rate(design.bank)
    usable_frac = rating.usable_wh / rating.rated_wh
    string_wh = design.bank.nominal_v * design.bank.unit_ah
    bridged_wh = strings * string_wh * usable_frac if strings is not None else math.inf
    days = duration_h / 24.0
    if loads_wh > 0:
        days = min(days, bridged_wh / (loads_wh * losses))
    return Referee(
        right=Right(
            loads_wh=loads_wh,
            days=days,
            losses=losses,
            usable_frac=usable_frac,
            sun_hours_h=_sun_hours_h(design, prepared, year),
            inverter_w=inverter_w,
        ),
        duration_h=duration_h,
        strings=strings,
    )


def with_inverter(design: Design, asked_w: float) -> Design:
    """The design with an inverter of at least so many watts."""
    now = design.inverter
    size_w = next_size(asked_w, SIZES_W)
    if asked_w <= 0 or now.rated_w * now.units >= asked_w:
        return design
    if now.rated_w == 0:
        return design_with(
            Answer(bank_wh=design.bank.rated_wh, array_w=0.0, controller_a=0.0, inverter_w=asked_w), design
        )
    return design.model_copy(update={"inverter": resized(now, size_w)})


def least_strings(prepared: PreparedOutage) -> int | None:
    """The fewest strings of the bank that carry Life and Keep to the end of the outage, all else as it is; none where none do."""
    bank = prepared.design.bank

    def carries(strings: int) -> bool:
        tried = prepared.with_parts({"bank": bank.model_copy(update={"parallel": strings})})
        return bool(tried.outcome().dark_h < 0)

    # One after the other: the draws of a bigger bank's own losses and drop levels can undo what one string fewer carries.
    return next((strings for strings in range(1, MOST_STRINGS + 1) if carries(strings)), None)


def least_array_w(prepared: PreparedOutage, has_w: float) -> float | None:
    """The fewest watts of the arrays that charge the bank with which the outage is carried; none where no array does [W]."""

    def carries(factor: float) -> bool:
        ids = {
            array.id
            for controller in prepared.design.charging.controllers
            if controller.charges
            for array in controller.arrays
        }
        design = with_panels(prepared.design, ids, factor)
        tried = prepared.with_scene(with_other_watts(prepared.scene, design, prepared.rating))
        return is_whole(tried.carried_h(tried.outcome().dark_h), prepared.duration_h)

    if carries(0.0):
        return 0.0
    if has_w <= 0:
        return None
    # Up the coarse ladder to the first that carries, then up the fine one below it: more sun may start a load that waits for it.
    found = next((factor for factor in _steps(_COARSE_STEP, _MOST_ARRAY, _COARSE_STEP) if carries(factor)), None)
    if found is None:
        return None
    below = found - _COARSE_STEP
    return has_w * next(
        factor for factor in _steps(below + _ARRAY_STEP, found, _ARRAY_STEP) if factor >= found or carries(factor)
    )


def _steps(from_: float, to: float, step: float) -> Iterator[float]:
    """Multiples of a step, both ends among them; steps and ends are powers of two, so that nothing is rounded."""
    return (from_ + number * step for number in range(round((to - from_) / step) + 1))


def _losses(prepared: PreparedOutage) -> float:
    """What is taken from the cells over what the loads ask, by the Bank page's own sheet."""
    sheet = need_sheet(prepared.design, prepared.rating, prepared.limits.cables)
    lines = {line.key: line.value for line in sheet.lines}
    asked_wh = lines["loads"] * lines["autonomy"] / 24.0 * (1.0 + lines["growth"])
    return lines["stored"] / asked_wh if asked_wh > 0 else 1.0


def _sun_hours_h(design: Design, prepared: PreparedOutage, year: WeatherYear | None) -> float:
    """Energy at the direct-current bus for each watt of panel and day of the outage [h]."""
    stc_w = panels_w(design)
    if stc_w <= 0:
        design = design_with(
            Answer(bank_wh=design.bank.rated_wh, array_w=_MEASURING_W, controller_a=1000.0, inverter_w=0.0), design
        )
        prepared, stc_w = prepare(design, year), panels_w(design)
    offered_wh = float((prepared.scene.sun.offered_w * prepared.scene.clock.length_h).sum())
    # A sky that gives nothing at all would ask for an endless array.
    return max(24.0 * offered_wh / prepared.duration_h / stc_w, 0.01)


def panels_w(design: Design) -> float:
    """Panels that charge the bank [W]."""
    return sum(
        array.stc_w for controller in design.charging.controllers if controller.charges for array in controller.arrays
    )


def is_whole(hours_h: float, duration_h: float) -> bool:
    """Whether so many hours are the whole outage."""
    return hours_h >= duration_h - _WHOLE_H


def life_figure(bank: Bank, like: Bank) -> Figure:
    """
    Years until 80 % of capacity, where the bank gives each year what the design's own is meant to give.

    That is the cycles a year of the Bank page at its depth. A larger bank is drawn down less deep each time, a smaller one to
    its depth more often; life by the calendar caps it.
    """
    typical, sheet, need = TYPICAL[bank.chemistry], bank.unit, like.need
    points = sheet.cycle_points if sheet and sheet.cycle_points else typical.cycle_points
    calendar = float(sheet.calendar_years if sheet and sheet.calendar_years else typical.calendar_years)
    own, meant = rate(bank), rate(like)
    yearly_wh = need.cycles_per_year * meant.usable_wh
    depth = float(np.clip(meant.usable_wh / own.capacity_wh, 0.01, own.depth_frac))
    cycles = cycles_at(points, depth)
    cycles_a_year = yearly_wh / (depth * own.capacity_wh)
    return Figure(
        label="Life of the bank",
        value=min(cycles / cycles_a_year, calendar) if cycles_a_year > 0 else calendar,
        unit="years",
        formula="the lesser of cycles at this depth ÷ cycles a year and life by the calendar",
        terms=(
            Term(name="asked of it a year", value=yearly_wh / 1000, unit="kWh"),
            Term(name="depth each time", value=100 * depth, unit="%"),
            Term(name="cycles at that depth", value=cycles, unit=""),
            Term(name="cycles a year", value=cycles_a_year, unit=""),
            Term(name="by the calendar", value=calendar, unit="years"),
        ),
        basis="Cycle points of the data sheet, or the chemistry's typical ones, straight on log-log paper; common practice",
    )


def model_kit(design: Design, referee: Referee) -> Design | None:
    """The design with the least bank and the next inverter that carry its outage; none where no bank does."""
    if referee.strings is None:
        return None
    asked_w = referee.right.inverter_w
    now = design.inverter
    if asked_w > 0 and now.rated_w > 0:
        design = design.model_copy(update={"inverter": resized(now, next_size(asked_w, SIZES_W))})
    else:
        design = with_inverter(design, asked_w)
    return with_strings(design, referee.strings)
