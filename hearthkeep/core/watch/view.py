"""Everything that Watch says at a moment: where things stand, how long it lasts, and what to do next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from hearthkeep.core.design import Design, Sky
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.foresight import (
    MEMBERS,
    SAME_H,
    USE_NODES,
    ActKind,
    Floats,
    GeneratorWish,
    Outlook,
    TierLeft,
    advise,
    doing,
    drawn,
    foretold,
    futures_of,
    pieces,
    poor_of,
    run_ended,
    steps_between,
    tiers_left_h,
    time_left,
)
from hearthkeep.core.logbook import HOUR_S, Log, Quantity, Trace, Written
from hearthkeep.core.outage import out_of_fuel_h
from hearthkeep.core.practice import volume
from hearthkeep.core.sources import Moments, WeatherYear, sun_is_up
from hearthkeep.core.watch.ahead import Ahead, ahead_of
from hearthkeep.core.watch.alarms import DRAW_CLEARS, LiveAlarm, alarms_now
from hearthkeep.core.watch.devices import DeviceFault
from hearthkeep.core.watch.live import Phase, live_of
from hearthkeep.core.watch.now import FRESH_H, USE_OVER_H, GroupUse
from hearthkeep.core.watch.stand import EPOCH, Stand, factors_seen, stand_of
from hearthkeep.core.watch.tasks import WatchTask, tasks_of
from hearthkeep.core.watch.told import BASIS, Instruction, instructions_of
from hearthkeep.core.words import percent

#: For so long what was refused is not said again [h].
REFUSED_FOR_H = 6.0
#: Where nobody knows for how long it will be, at least so far is looked [h].
LEAST_AHEAD_H = 24.0
#: Before a storm and after it a list with times stands in the place of instructions.
LISTED = (Phase.BEFORE, Phase.AFTER)
#: So many standard deviations to either side hold nine of ten. Textbook.
NINE_IN_TEN = 1.645
#: Days of the forecast that are shown.
DAYS_SHOWN = 5
#: Readings that Watch looks at.
WATCHED = frozenset(
    {
        Quantity.CHARGE,
        Quantity.INVERTER_W,
        Quantity.LOAD_W,
        Quantity.SUN_W,
        Quantity.GENERATOR_W,
        Quantity.BANK_V,
        Quantity.BANK_A,
        Quantity.BANK_C,
    }
)
#: It looks at them from a day before the outage began on; without one so far back, and never farther than this [d].
DAYS_BEFORE, DAYS_QUIET, MOST_DAYS_READ = 1, 2, 31
#: How much the use differs from day to day is taken from so many days of the log.
USE_DAYS = 30


@dataclass(frozen=True, kw_only=True, slots=True)
class NowShown:
    """A quantity as it was read last, or as the model reckons it where nothing fresh was read."""

    #: Part of full, or watts.
    value: float
    #: Local standard time of the last reading; none where there is none.
    read_at: datetime | None
    #: The reading is of now; else the value is reckoned.
    is_fresh: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class ForetoldDay:
    """What is foretold of a calendar day, and whether somebody said so in the log or the plan stands in."""

    on: date
    sky: Sky
    air_temp_c: float
    is_told: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class WatchGroup:
    """What a group of loads took of late, beside its plan in the same hours."""

    #: As its readings call it; empty for what no group holds.
    name: str
    read_w: float
    plan_w: float
    #: So far above its plan that it is worth a look.
    is_above: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class LivedOutage:
    """An outage that is over, as the log can keep it."""

    #: Local standard time.
    start: datetime
    hours_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class WatchView:
    """Everything that Watch says at a moment; moments are local standard time of the site."""

    phase: Phase
    now: datetime
    #: The sun is down.
    is_dark: bool
    #: The outage began then, or is expected to; without one hours are counted as if it began now.
    begun: datetime
    ended: datetime | None
    help: datetime
    help_is_told: bool
    charge: NowShown
    #: Above the cut-off [Wh].
    usable_wh: float
    house: NowShown
    sun: NowShown
    #: Sun still to come today by the forecast, as offered to the bank [Wh].
    sun_today_wh: float
    generator_runs: bool
    generator_until: datetime | None
    #: By reckoning [L]; none without a generator.
    fuel_l: float | None
    #: By the plan it is all burnt then; none where it lasts as far as is looked ahead.
    fuel_until: datetime | None
    #: An outage that is over, as it was lived; none else.
    lived: LivedOutage | None
    groups: tuple[WatchGroup, ...]
    #: Their means are over so long, and what is refused is not said again for so long [h].
    use_over_h: float
    refused_for_h: float
    #: The plan's draw at this moment [W], and how many times its plan the house took of late.
    plan_w: float
    use_factor: float
    #: At the use of the last hours, and at the plan's [h].
    left: tuple[TierLeft, ...]
    left_by_plan_h: tuple[float, ...]
    #: How far is looked ahead [h].
    ahead_h: float
    #: In the order in which they are due.
    instructions: tuple[Instruction, ...]
    #: If nobody does anything: until Life, and until Life or Keep, is not served, from now [h]; none where they are carried.
    nothing_life_h: float | None
    nothing_keep_h: float | None
    ahead: Ahead
    tasks: tuple[WatchTask, ...]
    #: The gravest first.
    alarms: tuple[LiveAlarm, ...]
    days: tuple[ForetoldDay, ...]
    #: Loads left off by decision, by id, and what was decided of the generator.
    off: tuple[str, ...]
    generator: GeneratorWish
    charge_is_read: bool
    figure: Figure


def watch_view(
    design: Design,
    written: Sequence[Written],
    log: Log,
    now: datetime,
    year: WeatherYear | None = None,
    faults: Sequence[DeviceFault] = (),
    use_by_hour: Trace | None = None,
) -> WatchView:
    """
    Say where things stand, how long it lasts and what to do next.

    :param written: entries of the log, oldest first, at local standard time.
    :param log: readings, at local standard time.
    :param now: local standard time.
    :param faults: of the devices that are asked, as they are named.
    :param use_by_hour: what the inverter gave in each hour that was read in the last weeks, at its beginning [W].
    """
    stand = stand_of(design, written, log, now, year, use_by_hour)
    live, course, at_h = stand.live, stand.course, stand.at_h
    days = stand.prepared.entered.outage.days
    today = (max(stand.now, stand.start).date() - stand.start.date()).days
    weathers, done = drawn(days, stand.days, today, MEMBERS), doing(stand.days, True)
    futures = futures_of(stand.skies, stand.state, at_h, stand.by_plan, weathers, done, stand.use_spread_frac)
    left = time_left(futures)
    planned = course.using(np.ones_like(course.use_factor))
    to_help_h = (live.help - stand.start).total_seconds() / HOUR_S
    outlook = Outlook(
        skies=stand.skies,
        state=stand.state,
        at_h=at_h,
        end_h=min(max(to_help_h, at_h + LEAST_AHEAD_H), course.end_h),
        nothing=stand.nothing,
        weathers=(foretold(days, stand.days), poor_of(weathers, today, stand.days - 1)),
    )
    advice = advise(outlook, _refused(stand))
    charge = _charge(stand, log)
    nothing = advice.nothing[0]
    return WatchView(
        phase=live.phase,
        now=stand.now,
        is_dark=not bool(
            sun_is_up(design.site, Moments(start=stand.now, offsets_h=(0.0,), utc_offset_h=design.site.utc_offset_h))[0]
        ),
        begun=stand.began if live.phase is Phase.ON else stand.start,
        ended=live.ended,
        help=live.help,
        help_is_told=live.help_is_told,
        charge=charge,
        usable_wh=max(stand.state.stored_wh - stand.prepared.plant.drop_wh[0], 0.0),
        house=_shown(stand, log, Quantity.INVERTER_W, float(futures.middle.served_w[0].sum())),
        sun=_shown(stand, log, Quantity.SUN_W, _sun_now_w(stand)),
        sun_today_wh=_sun_today_wh(stand),
        generator_runs=bool(stand.state.genset.runs),
        generator_until=_until(stand),
        fuel_l=float(stand.state.genset.fuel_l) if stand.prepared.plant.generator.rated_w > 0 else None,
        fuel_until=None if (dry_h := out_of_fuel_h(futures.middle)) is None else stand.moment(at_h + dry_h),
        lived=_lived(stand),
        groups=tuple(_group(use) for use in stand.uses),
        use_over_h=USE_OVER_H,
        refused_for_h=REFUSED_FOR_H,
        plan_w=float(planned.run(stand.state, at_h, min(at_h + 0.25, course.end_h), stand.by_plan).served_w[0].sum()),
        use_factor=factors_seen(stand.uses),
        left=left,
        left_by_plan_h=tiers_left_h(planned, stand.state, at_h, stand.by_plan),
        ahead_h=course.end_h - at_h,
        instructions=() if live.phase in LISTED else instructions_of(stand, outlook, advice),
        nothing_life_h=None if nothing.life_h >= nothing.end_h - SAME_H else nothing.life_h - at_h,
        nothing_keep_h=None if nothing.is_carried else nothing.keep_h - at_h,
        ahead=ahead_of(course, futures, _nothing_wh(outlook)),
        tasks=tasks_of(stand, charge.value if charge.is_fresh else None),
        alarms=alarms_now(stand, log, left, faults),
        days=_days(stand),
        off=tuple(sorted(stand.by_plan.off)),
        generator=stand.generator,
        charge_is_read=stand.charge_is_read,
        figure=_figure(stand, left),
    )


def watched_since(design: Design, written: Sequence[Written], now: datetime) -> datetime:
    """From when on readings are looked at, local standard time."""
    live = live_of(design, written, now)
    if live.phase in (Phase.ON, Phase.AFTER):
        return max(live.begun - timedelta(days=DAYS_BEFORE), now - timedelta(days=MOST_DAYS_READ))
    return now - timedelta(days=DAYS_QUIET)


def _lived(stand: Stand) -> LivedOutage | None:
    began, ended = stand.began, stand.live.ended
    if stand.live.phase is not Phase.AFTER or ended is None or ended <= began:
        return None
    return LivedOutage(start=began, hours_h=round((ended - began).total_seconds() / HOUR_S, 2))


def _refused(stand: Stand) -> frozenset[ActKind]:
    since = stand.now - timedelta(hours=REFUSED_FOR_H)
    names = {kind.value: kind for kind in ActKind}
    return frozenset(
        names[decision.key]
        for moment, decision in stand.live.decisions
        if not decision.is_done and decision.key in names and moment >= since
    )


def _charge(stand: Stand, log: Log) -> NowShown:
    reckoned_frac = float(stand.state.stored_wh / stand.prepared.plant.acceptance.capacity_wh)
    shown = _shown(stand, log, Quantity.CHARGE, 100.0 * reckoned_frac)
    is_doubted = bool(stand.doubted) and stand.at_h - stand.doubted[-1].at_h <= FRESH_H
    # What is not believed is not shown as what is.
    is_fresh = shown.is_fresh and not is_doubted
    return NowShown(value=shown.value / 100.0 if is_fresh else reckoned_frac, read_at=shown.read_at, is_fresh=is_fresh)


def _shown(stand: Stand, log: Log, quantity: Quantity, reckoned: float) -> NowShown:
    trace = log.find(quantity)
    now_s = (stand.now - EPOCH).total_seconds()
    last = -1 if trace is None else int(np.searchsorted(trace.at_s, now_s + 1.0, side="right")) - 1
    if trace is None or last < 0:
        return NowShown(value=reckoned, read_at=None, is_fresh=False)
    read_at = (EPOCH + timedelta(seconds=float(trace.at_s[last]))).replace(microsecond=0)
    is_fresh = now_s - float(trace.at_s[last]) <= FRESH_H * HOUR_S
    return NowShown(value=float(trace.values[last]) if is_fresh else reckoned, read_at=read_at, is_fresh=is_fresh)


def _sun_now_w(stand: Stand) -> float:
    steps = stand.course.steps
    step = min(int(np.searchsorted(stand.course.edges_h, stand.at_h, side="right")) - 1, steps.sun_w.shape[0] - 1)
    return float(steps.sun_w[step] + steps.coupled_w[step])


def _sun_today_wh(stand: Stand) -> float:
    """Sun until midnight; before a storm that of its first day."""
    midnight_h = stand.at_h + 24.0 - ((stand.moment(stand.at_h).hour + stand.moment(stand.at_h).minute / 60) % 24.0)
    steps = steps_between(stand.course.steps, stand.course.edges_h, stand.at_h, min(midnight_h, stand.course.end_h))
    return float((steps.sun_w + steps.coupled_w) @ steps.length_h)


def _until(stand: Stand) -> datetime | None:
    """The moment until which a run of the generator was decided, where it lies ahead."""
    runs = [each.until for _, each in stand.live.decisions if each.is_done and each.generator == "on"]
    last = runs[-1] if runs else None
    return last if last is not None and last > stand.now and stand.state.genset.runs else None


def _group(use: GroupUse) -> WatchGroup:
    return WatchGroup(
        name=use.part, read_w=use.read_w, plan_w=use.plan_w, is_above=use.read_w >= DRAW_CLEARS * max(use.plan_w, 1.0)
    )


def _nothing_wh(outlook: Outlook) -> Floats:
    """Charge at the edges of the steps from now where nobody does anything [Wh]."""
    course, state = outlook.under(outlook.nothing.doings)[0], outlook.state
    at_h, stored_wh = [outlook.at_h], [state.stored_wh]
    for from_h, to_h, choices in pieces(outlook.nothing.stretches, outlook.at_h, course.end_h):
        state = run_ended(state, outlook.nothing.stretches, from_h)
        run = course.run(state, from_h, to_h, choices)
        lengths_h = steps_between(course.steps, course.edges_h, from_h, to_h).length_h
        at_h += (from_h + np.cumsum(lengths_h)).tolist()
        stored_wh += run.stored_wh[1:].tolist()
        state = run.last
    steps = steps_between(course.steps, course.edges_h, outlook.at_h, course.end_h)
    edges_h = outlook.at_h + np.concatenate(([0.0], np.cumsum(steps.length_h)))
    found: Floats = np.interp(edges_h, at_h, stored_wh)
    return found


def _days(stand: Stand) -> tuple[ForetoldDay, ...]:
    days = stand.prepared.entered.outage.days
    first = (max(stand.now, stand.start).date() - stand.start.date()).days
    found = []
    for number in range(first, min(first + DAYS_SHOWN, stand.days)):
        day, on = days[min(number, len(days) - 1)], stand.start.date() + timedelta(days=number)
        found.append(ForetoldDay(on=on, sky=day.sky, air_temp_c=day.air_temp_c, is_told=on in stand.live.foretold))
    return tuple(found)


def _figure(stand: Stand, left: tuple[TierLeft, ...]) -> Figure:
    rating, keep = stand.prepared.rating, left[1]
    terms = [
        Term(name="charge now", value=100.0 * stand.state.stored_wh / rating.capacity_wh, unit="%"),
        Term(name="capacity of the bank", value=rating.capacity_wh, unit="Wh"),
        Term(name="use of the last hours, times the plan's", value=factors_seen(stand.uses), unit=""),
        Term(name="sun still to come today", value=_sun_today_wh(stand), unit="Wh"),
        Term(name="lowest of nine futures in ten", value=keep.low_h, unit="h"),
        Term(name="highest of nine futures in ten", value=keep.high_h, unit="h"),
    ]
    if stand.prepared.plant.generator.rated_w > 0:
        value, unit = volume(stand.prepared.design, float(stand.state.genset.fuel_l))
        terms.append(Term(name="fuel on hand", value=value, unit=unit))
    return Figure(
        label="Keep lasts",
        value=keep.hours,
        unit="h",
        formula="hours from now until Life or Keep first asks and is not served, tiers dropped and the generator run as planned",
        terms=tuple(terms),
        basis=f"{BASIS} {_band_covers(stand)}",
    )


def _band_covers(stand: Stand) -> str:
    """What the band stands for, in words."""
    spread = float(np.max(stand.use_spread_frac, initial=0.0))
    nine_in_ten, reach = percent(NINE_IN_TEN * spread), percent(max(USE_NODES) * spread)
    if stand.use_from_day_to_day_frac is not None and stand.use_from_day_to_day_frac >= spread:
        why = f"days of this house differ by {percent(stand.use_from_day_to_day_frac)} in its log"
    elif stand.uses:
        why = "what was read in the last hours, and a usual doubt"
    else:
        why = "nothing is read of the use, the plan's stands in"
    return (
        f"The band: {MEMBERS} weathers that may come instead, each with the use as it is, {reach} less and {reach} more. It covers a "
        f"house that takes up to {nine_in_ten} more or less than is reckoned with ({why})."
    )
