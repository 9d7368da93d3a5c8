"""Where things stand: the outage that is on made ready, and the house's state in it now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import charged_frac
from hearthkeep.core.design import LONGEST_OUTAGE_H, Design
from hearthkeep.core.foresight import (
    SOON_H,
    Choices,
    Course,
    Doings,
    GeneratorWish,
    Skies,
    Stretch,
    Way,
    choices_at,
    course_of,
    doing,
    skies_of,
)
from hearthkeep.core.logbook import HOUR_S, Log, Quantity, Trace, Written
from hearthkeep.core.outage import PreparedOutage, State, prepare
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.watch.live import AHEAD_H, Live, Phase, live_design, live_of, starting_at
from hearthkeep.core.watch.now import (
    FRESH_H,
    Fact,
    GroupUse,
    believed,
    facts_of,
    reckoned,
    use_factors,
    use_from_day_to_day,
    use_spreads,
    uses_of,
)

Floats = NDArray[np.float64]

#: A charge read so long before the outage began still says where it began [h].
EARLIER_H = 6.0
#: Each counts from there [s].
EPOCH = datetime(1970, 1, 1)


@dataclass(frozen=True, kw_only=True)
class Stand:
    """The outage prepared, and the house in it now. Without an outage it is as if one began now."""

    live: Live
    #: The outage of the log began then, also where it is over and the hours are counted from now.
    began: datetime
    now: datetime
    skies: Skies
    state: State
    #: Now, from the start of the outage [h]; nothing where it has still to begin.
    at_h: float
    #: What holds now if the plan is followed from here on, and what happens if nobody does anything.
    by_plan: Choices
    nothing: Way
    #: What was decided of the generator, as it holds now.
    generator: GeneratorWish
    uses: tuple[GroupUse, ...]
    #: How far each load's use may be from what is reckoned with, one standard deviation as a part of it, (loads,), and how much the
    #: house's use differs from day to day by the log; none where that does not say.
    use_spread_frac: Floats
    use_from_day_to_day_frac: float | None
    #: Charges that were read and are not believed.
    doubted: tuple[Fact, ...]
    #: A charge was read since it began, or just before.
    charge_is_read: bool

    @property
    def course(self) -> Course:
        """The outage with the use of the last hours."""
        return self.skies.course

    @property
    def prepared(self) -> PreparedOutage:
        """The outage prepared."""
        return self.skies.course.prepared

    @property
    def days(self) -> int:
        """Calendar days of the outage as far as is looked."""
        return int(self.prepared.scene.clock.day[-1]) + 1

    @property
    def start(self) -> datetime:
        """Where its hours count from, local standard time."""
        return self.prepared.design.outage.start

    def moment(self, at_h: float) -> datetime:
        """The moment so many hours from the start, to the minute."""
        moment = self.start + timedelta(hours=at_h)
        return (moment + timedelta(seconds=30)).replace(second=0, microsecond=0)


def stand_of(
    design: Design,
    written: Sequence[Written],
    log: Log,
    now: datetime,
    year: WeatherYear | None = None,
    use_by_hour: Trace | None = None,
) -> Stand:
    """Make the outage of the log ready, and reckon where the house stands in it now (local standard time).

    :param use_by_hour: what the inverter gave in each hour that was read of late, at its beginning [W].
    """
    # To the next full second, so that what was written just now counts.
    now = (now + timedelta(seconds=1, microseconds=-1)).replace(microsecond=0)
    live = live_of(design, written, now)
    # Of an outage longer than the document knows only the last weeks are gone along.
    longest = timedelta(hours=LONGEST_OUTAGE_H - AHEAD_H)
    start = (
        max(live.begun, now - longest)
        if live.phase is Phase.ON
        else max(live.begun, now)
        if live.phase is Phase.BEFORE
        else now
    )
    began, live = live.begun, replace(live, begun=start)
    entered = live_design(design, live, now, year)
    start_s, at_h = (start - EPOCH).total_seconds(), max((now - start).total_seconds() / HOUR_S, 0.0)
    read = _charge_before(log, (min(start, now) - EPOCH).total_seconds())
    if live.phase is Phase.BEFORE and read is not None:
        read = _filled(prepare(entered, year), read, (start - now).total_seconds() / HOUR_S)
    prepared = prepare(entered if read is None else starting_at(entered, read), year)
    course = course_of(prepared)
    stretches = _stretches(live)
    generator_is_read = log.find(Quantity.GENERATOR_W) is not None
    fuel = [((moment - start).total_seconds() / HOUR_S, litres) for moment, litres in live.stocks_l]
    facts = facts_of(log, start_s, fuel, generator_is_read) if live.phase is Phase.ON else [
        Fact(at_h=0.0, fuel_l=litres) for _, litres in fuel[-1:]
    ]  # fmt: skip
    facts += [
        Fact(at_h=(moment - start).total_seconds() / HOUR_S, charge_frac=frac, is_told=True)
        for moment, frac in live.charges_frac
        if live.phase is Phase.ON
    ]
    rating = prepared.rating
    per_h = max(rating.charge_limit_w, rating.discharge_limit_w) / rating.capacity_wh
    facts, doubted = believed([*facts, *_fetched(live, prepared)], per_h)
    state = reckoned(course, stretches, facts, at_h)
    choices = choices_at(stretches, at_h)
    uses = uses_of(course, log, start_s, at_h, stretches) if live.phase is Phase.ON else ()
    course = course.using(use_factors(course.design, uses))
    from_day_to_day = None if use_by_hour is None else use_from_day_to_day(use_by_hour)
    skies = skies_of(course)
    days = int(prepared.scene.clock.day[-1]) + 1
    return Stand(
        live=live,
        began=began,
        now=now,
        skies=skies,
        state=state,
        at_h=at_h,
        by_plan=replace(choices, generator=GeneratorWish.BY_RULE),
        generator=choices.generator,
        nothing=_nothing(entered, stretches, at_h, _done(live, days, start)),
        uses=uses,
        use_spread_frac=use_spreads(course.design, uses, from_day_to_day),
        use_from_day_to_day_frac=from_day_to_day,
        doubted=doubted,
        charge_is_read=read is not None or any(fact.charge_frac is not None and fact.at_h >= 0 for fact in facts),
    )


def _charge_before(log: Log, moment_s: float) -> float | None:
    """The charge read last before a moment, or soon after it [part of full]."""
    trace = log.find(Quantity.CHARGE)
    if trace is None or not trace.at_s.size:
        return None
    own = (trace.at_s >= moment_s - EARLIER_H * HOUR_S) & (trace.at_s <= moment_s + FRESH_H * HOUR_S)
    return float(trace.values[own][-1]) / 100.0 if own.any() else None


def _filled(prepared: PreparedOutage, from_frac: float, hours_h: float) -> float:
    """The charge that the grid's charger reaches until the outage is expected."""
    charger_w = prepared.design.charging.grid_charger.output_w
    return charged_frac(prepared.rating, charger_w=charger_w, from_frac=from_frac, hours_h=hours_h)


def _stretches(live: Live) -> tuple[Stretch, ...]:
    """What people decided, from the beginning on; where nobody decided anything the plan holds."""
    way = Way(stretches=(Stretch(0.0, Choices()),), doings=doing(1, True))
    for moment, decision in live.decisions:
        if not decision.is_done:
            continue
        at_h = max((moment - live.begun).total_seconds() / HOUR_S, 0.0)
        way = way.leaving_off(at_h, frozenset(decision.off)).bringing_back(at_h, frozenset(decision.on))
        if decision.generator == "on":
            until_h = float("inf") if decision.until is None else (decision.until - live.begun).total_seconds() / HOUR_S
            way = way.between(at_h, max(until_h, at_h + SOON_H), GeneratorWish.ON)
        elif decision.generator == "off":
            way = way.between(at_h, float("inf"), GeneratorWish.BY_RULE)
    return way.stretches


def _nothing(design: Design, stretches: Sequence[Stretch], at_h: float, doings: Doings) -> Way:
    """What goes on if nobody does anything: what is off stays off, a run of the generator ends as it was to end."""
    generator = design.charging.generator
    still = GeneratorWish.OFF if generator is not None and generator.by_hand else GeneratorWish.BY_RULE
    ahead = [Stretch(at_h, choices_at(stretches, at_h)), *(each for each in stretches if each.from_h > at_h)]
    return Way(
        stretches=tuple(
            Stretch(
                each.from_h,
                replace(
                    each.choices,
                    by_levels=False,
                    generator=GeneratorWish.ON if each.choices.generator is GeneratorWish.ON else still,
                ),
            )
            for each in ahead
        ),
        doings=doings,
    )


def _done(live: Live, days: int, start: datetime) -> Doings:
    """What was done on the days so far; of those to come nothing is taken for granted."""
    done = doing(days, False)
    for day in live.swept:
        number = (day - start.date()).days
        if 0 <= number < days:
            done = done.sweeping(number)
    return done


def _fetched(live: Live, prepared: PreparedOutage) -> list[Fact]:
    """Fuel that was fetched fills the stock."""
    stock_l = prepared.plant.generator.stock_l
    return [
        Fact(at_h=(moment - live.begun).total_seconds() / HOUR_S, fuel_l=stock_l)
        for moment, decision in live.decisions
        if decision.is_done and decision.key == "fetch_fuel" and stock_l > 0
    ]


def factors_seen(uses: Sequence[GroupUse]) -> float:
    """How many times its plan the house took of late, all that was read together."""
    plan_w = sum(use.plan_w for use in uses if use.loads)
    return float(np.clip(sum(use.read_w for use in uses if use.loads) / plan_w, 0.0, 99.0)) if plan_w > 0 else 1.0
