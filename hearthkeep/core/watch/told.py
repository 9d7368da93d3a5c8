"""Instructions in words: what, when, what it gains, why, and what happens if nothing is done."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from hearthkeep.core.design import SnowHabit, Supply, Tier
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.foresight import (
    SAME_H,
    Act,
    ActKind,
    Advice,
    Outlook,
    Worth,
    steps_between,
)
from hearthkeep.core.watch.stand import Stand
from hearthkeep.core.words import hours, listed

#: Column of Spare among the tiers served.
SPARE = 3
#: So soon counts as now [h].
NOW_H = 0.3
#: Loads called by name, the others counted.
MOST_NAMES = 4
#: Sun to spare is worth a word from here on [Wh], and counts as such from so much on [W].
LEAST_SPARE_WH, LEAST_SPARE_W = 200.0, 40.0
BASIS = "The outage's model run forward from now, under the weather foretold and a poor one: see how it computes."
#: Usual cautions. Common practice, no source.
CAUTIONS = {
    ActKind.GENERATOR: "Outdoors only, well away from doors, windows and vents, its exhaust pointing away: carbon monoxide kills. "
    "Let it cool before refuelling.",
    ActKind.SWEEP: "From the ground with a soft brush; never onto an icy roof or ladder.",
    ActKind.FETCH_FUEL: "In approved cans, outdoors, never inside the house; and only while the roads are safe.",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Instruction:
    """One thing to do; moments are local standard time."""

    #: As a decision about it is written into the log.
    key: str
    title: str
    at: datetime
    is_now: bool
    #: Until then, for a run.
    until: datetime | None
    #: Loads by id that it leaves off, or brings back.
    off: tuple[str, ...]
    on: tuple[str, ...]
    #: It starts the generator.
    starts_generator: bool
    #: Gained until Life, and until Life or Keep, is not served [h].
    gains_life_h: float
    gains_keep_h: float
    why: str
    otherwise: str
    caution: str
    figure: Figure | None


def instructions_of(stand: Stand, outlook: Outlook, advice: Advice) -> tuple[Instruction, ...]:
    """Every step in words, the first due first; where nothing has to be done, what the sun leaves over."""
    told = tuple(_told(stand, outlook, advice, number) for number in range(len(advice.steps)))
    if told:
        return told
    spare = None if _was_answered(stand, "use_sun") else _spare_sun(stand)
    return () if spare is None else (spare,)


def _was_answered(stand: Stand, key: str) -> bool:
    """Whether somebody did it, or would not, today."""
    return any(each.key == key and moment.date() == stand.now.date() for moment, each in stand.live.decisions)


def _told(stand: Stand, outlook: Outlook, advice: Advice, number: int) -> Instruction:
    step = advice.steps[number]
    act, (life_h, keep_h) = step.act, step.gains_h
    is_now = act.at_h <= outlook.at_h + NOW_H
    gives_back = act.kind is ActKind.BRING_BACK
    return Instruction(
        key=act.kind.value,
        title=_title(stand, act, is_now),
        at=stand.moment(act.at_h),
        is_now=is_now,
        until=None if act.for_h is None else stand.moment(act.at_h + act.for_h),
        off=() if gives_back else tuple(sorted(act.loads)),
        on=tuple(sorted(act.loads)) if gives_back else (),
        starts_generator=act.kind is ActKind.GENERATOR,
        gains_life_h=life_h,
        gains_keep_h=keep_h,
        why=_why(stand, outlook, advice, act, life_h, keep_h),
        otherwise=_otherwise(stand, advice.nothing[0]),
        caution=CAUTIONS.get(act.kind, ""),
        figure=_figure(act, step.without),
    )


def when(stand: Stand, at_h: float) -> str:
    """A moment for a sentence: the hour today, else the day of the week with it."""
    moment = stand.moment(at_h)
    clock = f"{moment:%H:%M}"
    return clock if moment.date() == stand.now.date() else f"{moment:%A} {clock}"


def _title(stand: Stand, act: Act, is_now: bool) -> str:
    at = "now" if is_now else f"at {when(stand, act.at_h)}"
    names = _names(stand, act.loads)
    if act.kind is ActKind.GENERATOR:
        return f"Start the generator {at} and let it run {hours(act.for_h or 0.0)}"
    if act.kind is ActKind.SWEEP:
        arrays = [array.name for array in stand.course.design.charging.arrays if array.snow is SnowHabit.SWEPT]
        return f"Clear the snow off {listed(arrays)} {at}"
    if act.kind is ActKind.LEAVE_OFF:
        return f"Turn off {names}"
    if act.kind is ActKind.KEEP_FOR_LIFE:
        return f"{'Now' if is_now else f'From {when(stand, act.at_h)} on'} turn off everything but Life: {names}"
    if act.kind is ActKind.FETCH_FUEL:
        return f"Fetch fuel by {when(stand, act.at_h)}"
    return f"You can turn on again: {names}"


def _names(stand: Stand, loads: frozenset[str]) -> str:
    found = [load.name for load in stand.course.design.loads if load.id in loads]
    rest = len(found) - MOST_NAMES
    return listed([*found[:MOST_NAMES], f"{rest} more"]) if rest > 0 else listed(found)


def _why(stand: Stand, outlook: Outlook, advice: Advice, act: Act, life_h: float, keep_h: float) -> str:
    if act.kind is ActKind.BRING_BACK:
        if all(each.is_carried for each in act.worths):
            return "Life and Keep are carried to the end with it as well, under poor weather too."
        return "The bank is back above Keep's level, and Life is carried to the end with it."
    worth = act.worths[0]
    if all(each.is_carried for each in act.worths):
        return f"Life and Keep are then carried to {when(stand, outlook.end_h)}, under poor weather too."
    if act.kind is ActKind.KEEP_FOR_LIFE:
        return f"Keep ends there, and what is left carries Life {hours(life_h)} longer."
    if keep_h > SAME_H:
        return f"It carries Life and Keep {hours(keep_h)} longer, to {when(stand, worth.keep_h)}."
    return f"It carries Life {hours(life_h)} longer, to {when(stand, worth.life_h)}."


def _otherwise(stand: Stand, nothing: Worth) -> str:
    if nothing.is_carried:
        return "If nothing is done, Life and Keep are carried all the same by the forecast; poor weather is another matter."

    def dark(dark_h: float) -> str:
        return "now" if dark_h <= stand.at_h + SAME_H else f"at {when(stand, dark_h)}"

    # What is told beside it drops each tier at its level: there Keep ends earlier, and Life later.
    nobody = "If nothing is done and nothing turned off,"
    if nothing.life_h >= nothing.end_h - SAME_H:
        return f"{nobody} Keep goes dark {dark(nothing.keep_h)}; Life is carried."
    if nothing.life_h - nothing.keep_h <= SAME_H:
        return f"{nobody} Life and Keep go dark together {dark(nothing.keep_h)}."
    return f"{nobody} Keep goes dark {dark(nothing.keep_h)}, and Life {dark(nothing.life_h)}."


def _figure(act: Act, without: tuple[Worth, ...]) -> Figure:
    names = ("by the forecast", "under poor weather")
    terms = [
        Term(name=f"{which} {name}, {how}", value=value, unit="h")
        for name, worth, other in zip(names, act.worths, without, strict=True)
        for which, how, value in (
            ("Keep", "with it", worth.keep_h),
            ("Keep", "without it", other.keep_h),
            ("Life", "with it", worth.life_h),
            ("Life", "without it", other.life_h),
        )
    ]
    gained = float(np.mean([worth.keep_h - other.keep_h for worth, other in zip(act.worths, without, strict=True)]))
    return Figure(
        label="Hours gained",
        value=gained,
        unit="h",
        formula="hours from the start of the outage until not served, with it less without it, mean of both weathers",
        terms=tuple(terms),
        basis=BASIS,
    )


def _spare_sun(stand: Stand) -> Instruction | None:
    """Sun that bank and house leave over on the next day that has some, and what may run on it."""
    course, prepared = stand.course, stand.prepared
    spare = [load for load in course.design.loads if load.tier is Tier.SPARE and load.supply is not Supply.PANEL]
    if not spare or not course.design.charging.arrays:
        return None
    run = course.run(stand.state, stand.at_h, course.end_h, stand.by_plan)
    steps = steps_between(course.steps, course.edges_h, stand.at_h, course.end_h)
    edges_h = stand.at_h + np.concatenate(([0.0], np.cumsum(steps.length_h)))
    over_w = run.served_w[:, SPARE] + run.spilled_w
    day = np.floor((edges_h[:-1] + course.into_day_h) / 24.0)
    for number in np.unique(day)[:2]:
        own = (day == number) & (over_w > LEAST_SPARE_W)
        energy_wh = float((over_w * steps.length_h)[own].sum())
        if energy_wh < LEAST_SPARE_WH:
            continue
        first, last = np.flatnonzero(own)[[0, -1]]
        from_h, to_h = float(edges_h[first]), float(edges_h[last + 1])
        names = listed([load.name for load in spare[:MOST_NAMES]])
        return Instruction(
            key="use_sun",
            title=f"Run {names} in the sun, between {when(stand, from_h)} and {stand.moment(to_h):%H:%M}",
            at=stand.moment(from_h),
            is_now=from_h <= stand.at_h + NOW_H,
            until=stand.moment(to_h),
            off=(),
            on=(),
            starts_generator=False,
            gains_life_h=0.0,
            gains_keep_h=0.0,
            why=f"The bank will be full: {energy_wh / 1000:.1f} kWh of sun are left over by the forecast.",
            otherwise="If nothing is done, that sun is lost; no hours are.",
            caution="",
            figure=Figure(
                label="Sun left over", value=energy_wh, unit="Wh",
                formula="sun beyond what bank and house take, and what Spare takes of it, summed over these hours",
                terms=(Term(name="mean power left over", value=energy_wh / (to_h - from_h), unit="W"),
                       Term(name="capacity of the bank", value=prepared.rating.capacity_wh, unit="Wh")), basis=BASIS,
            ),
        )  # fmt: skip
    return None
