"""The account of a drill: hours carried against the best that was found, what each decision was worth, and what to change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from hearthkeep.core.design import Design, Tier
from hearthkeep.core.drill.play import DecisionKind, DrillDecision, Played, played, start_of
from hearthkeep.core.drill.scenario import Scenario, SurpriseKind
from hearthkeep.core.drill.stand import ease_asked_w, lived_through
from hearthkeep.core.drill.world import GUEST_ID, World, world_of
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.foresight import (
    SAME_H,
    ActKind,
    Choices,
    GeneratorWish,
    Outlook,
    Stretch,
    Way,
    Worth,
    advise,
    doing,
    steps_under,
    worth_of,
)
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.words import hours, listed

#: How often the best is looked for again along the storm [h].
EVERY_H = 3.0
#: Parts of the score: Life and Keep carried, Life carried, Ease served. Our assumption.
KEEP_POINTS, LIFE_POINTS, EASE_POINTS = 60.0, 25.0, 15.0
#: Ease given up without need is worth a word from this part of it on.
NEEDLESS_FRAC = 0.2
BASIS = "The outage's model, the storm as it really came, lived again with and without."


@dataclass(frozen=True, kw_only=True, slots=True)
class Carried:
    """One way through the storm."""

    #: Until Life, and until Life or Keep, first was not served [h].
    life_h: float
    keep_h: float
    #: For how long Life or Keep asked and was not served [h].
    dark_for_h: float
    #: Ease served, as a part of what it asks in the whole storm.
    ease_frac: float
    fuel_left_l: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DecisionWorth:
    """What one decision was worth: with it less without it, all others as they were."""

    at_h: float
    said: str
    life_h: float
    keep_h: float
    #: Points of Ease's share; minus where it was given up.
    ease_points: float
    #: What came of it, in words.
    result: str


@dataclass(frozen=True, kw_only=True, slots=True)
class BestStep:
    """One thing that the best way found does."""

    at_h: float
    said: str


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillAccount:
    """The account of a drill."""

    duration_h: float
    yours: Carried
    best: Carried
    #: By the plan's own rules, and with nobody doing anything.
    by_plan: Carried
    nothing: Carried
    #: Of a hundred.
    score_points: float
    decisions: tuple[DecisionWorth, ...]
    best_steps: tuple[BestStep, ...]
    #: What the surprises were.
    surprises: tuple[str, ...]
    #: What the papers should say differently.
    lessons: tuple[str, ...]
    figure: Figure


def drill_account(
    design: Design, scenario: Scenario, decisions: Sequence[DrillDecision], year: WeatherYear | None = None
) -> DrillAccount:
    """Account for a drill that was lived to its end."""
    world = world_of(design, scenario, year)
    ordered = tuple(sorted(decisions, key=lambda decision: decision.at_h))
    play = played(world, ordered)
    yours = _carried(world, play)
    best_play, steps = _best(world)
    best = _carried(world, best_play)
    if _rank(yours) > _rank(best):
        best, steps = yours, ()
    by_plan, nothing = _carried(world, _by_plan(world)), _carried(world, played(world, ()))
    score = _score(yours, best)
    return DrillAccount(
        duration_h=world.course.end_h,
        yours=yours,
        best=best,
        by_plan=by_plan,
        nothing=nothing,
        score_points=score,
        decisions=_worths(world, ordered, play, yours),
        best_steps=steps,
        surprises=_told(world),
        lessons=_lessons(world, ordered, play, yours, best),
        figure=Figure(
            label="Score",
            value=score,
            unit="of 100",
            formula=f"{KEEP_POINTS:.0f} × Keep ÷ best + {LIFE_POINTS:.0f} × Life ÷ best + {EASE_POINTS:.0f} × Ease ÷ best, none above 1",
            terms=(
                Term(name="Life and Keep, yours", value=yours.keep_h, unit="h"),
                Term(name="Life and Keep, best found", value=best.keep_h, unit="h"),
                Term(name="Life, yours", value=yours.life_h, unit="h"),
                Term(name="Life, best found", value=best.life_h, unit="h"),
                Term(name="Ease served, yours", value=100 * yours.ease_frac, unit="%"),
                Term(name="Ease served, best found", value=100 * best.ease_frac, unit="%"),
            ),
            basis=f"{BASIS} The weights are our assumption.",
        ),
    )


def _score(yours: Carried, best: Carried) -> float:
    def part(own: float, top: float) -> float:
        return 1.0 if top <= 0 else min(own / top, 1.0)

    return (
        KEEP_POINTS * part(yours.keep_h, best.keep_h)
        + LIFE_POINTS * part(yours.life_h, best.life_h)
        + EASE_POINTS * part(yours.ease_frac, best.ease_frac)
    )


def _rank(way: Carried) -> tuple[float, float, float]:
    """Hours before all, then the shorter dark, then Ease."""
    return round(way.life_h + way.keep_h, 2), -round(way.dark_for_h, 2), way.ease_frac


def _worth(world: World, play: Played) -> Worth:
    return worth_of(play.course, world.course.first(), 0.0, play.stretches, world.course.end_h)


def _carried(world: World, play: Played) -> Carried:
    worth = _worth(world, play)
    prepared = world.course.prepared
    lived = lived_through(world, play, world.course.end_h)
    own_w, _ = ease_asked_w(world, Choices())
    asked_wh = float(own_w[prepared.scene.row] @ prepared.scene.clock.length_h)
    return Carried(
        life_h=worth.life_h,
        keep_h=worth.keep_h,
        dark_for_h=worth.dark_for_h,
        ease_frac=min(lived.ease_wh / asked_wh, 1.0) if asked_wh > 0 else 1.0,
        fuel_left_l=float(lived.state.genset.fuel_l),
    )


def _by_plan(world: World) -> Played:
    """The plan's own rules in this storm: tiers at their levels, the generator by its rules where it starts, everything done."""
    way = start_of(world)
    stretches = tuple(
        Stretch(
            each.from_h,
            Choices(
                off=each.choices.off,
                generator=GeneratorWish.BY_RULE if world.will_start(each.from_h) else GeneratorWish.OFF,
            ),
        )
        for each in way.stretches
    )
    done = doing(world.days, True)
    course = world.course.under(steps_under(world.skies, [world.real], done)[0])
    return Played(stretches=stretches, course=course, results=(), cross_read_h=None)


def _best(world: World) -> tuple[Played, tuple[BestStep, ...]]:
    """The best way found by who knows the whole storm beforehand: looked for again every few hours, with Ease and without."""
    ease = frozenset(load.id for load in world.course.design.loads if load.tier is Tier.EASE)
    start = start_of(world)
    found = [_followed(world, start, ())]
    if ease:
        guest = world.surprise(SurpriseKind.GUEST)
        without = start.leaving_off(0.0, ease)
        if guest is not None:
            without = without.leaving_off(float(guest.from_h), ease)
        found.append(_followed(world, without, (_Step(0.0, ActKind.LEAVE_OFF, ease - {GUEST_ID}, None),)))
    play, steps = max(found, key=lambda each: _rank(_carried(world, each[0])))
    return play, _merged(world, steps)


@dataclass(frozen=True, slots=True)
class _Step:
    at_h: float
    kind: ActKind
    loads: frozenset[str]
    for_h: float | None


def _merged(world: World, steps: Sequence[_Step]) -> tuple[BestStep, ...]:
    """Steps in words; what comes on again in the moment in which it was turned off was never off."""
    found = []
    for step in steps:
        loads = step.loads
        if step.kind in (ActKind.LEAVE_OFF, ActKind.BRING_BACK):
            other = ActKind.BRING_BACK if step.kind is ActKind.LEAVE_OFF else ActKind.LEAVE_OFF
            for each in steps:
                if each.kind is other and abs(each.at_h - step.at_h) < SAME_H:
                    loads -= each.loads
            if not loads:
                continue
        found.append(BestStep(at_h=step.at_h, said=_act_said(world, step.kind, loads, step.for_h)))
    return tuple(found)


def _followed(world: World, way: Way, before: tuple[_Step, ...]) -> tuple[Played, tuple[_Step, ...]]:
    """Follow what is advised, the storm being known."""
    course, real = world.course, world.real
    state, at_h, steps = course.first(), 0.0, list(before)
    while at_h < course.end_h - 1e-9:
        to_h = min(at_h + EVERY_H, course.end_h)
        outlook = Outlook(
            skies=world.skies, state=state, at_h=at_h, end_h=course.end_h, nothing=way, weathers=(real, real),
            may_start=world.will_start,
        )  # fmt: skip
        for step in advise(outlook).steps:
            act = step.act
            if act.at_h >= to_h - 1e-9:
                continue
            if act.kind is ActKind.GENERATOR and act.for_h is not None:
                way = way.between(act.at_h, act.at_h + act.for_h, GeneratorWish.ON)
            elif act.kind is ActKind.BRING_BACK:
                way = way.bringing_back(act.at_h, act.loads - {GUEST_ID})
                if act.loads == {GUEST_ID}:
                    continue
            elif act.loads:
                way = way.leaving_off(act.at_h, act.loads)
            else:
                way = replace(way, doings=act.way.doings)
            steps.append(_Step(act.at_h, act.kind, act.loads, act.for_h))
        real_course = course.under(steps_under(world.skies, [real], way.doings)[0])
        for _, _, after in real_course.along(state, way.stretches, at_h, to_h):
            state = after
        at_h = to_h
    final = course.under(steps_under(world.skies, [real], way.doings)[0])
    return Played(stretches=way.stretches, course=final, results=(), cross_read_h=None), tuple(steps)


def _act_said(world: World, kind: ActKind, loads: frozenset[str], for_h: float | None) -> str:
    own = loads - {GUEST_ID} if kind is ActKind.BRING_BACK else loads
    names = listed([load.name for load in world.course.design.loads if load.id in own][:4])
    return {
        ActKind.GENERATOR: f"Run the generator for {hours(for_h or 0.0)}",
        ActKind.LEAVE_OFF: f"Turn off {names}",
        ActKind.KEEP_FOR_LIFE: "Turn off everything but Life",
        ActKind.BRING_BACK: f"Turn on again {names}",
        ActKind.SWEEP: "Clear the snow off the panels",
        ActKind.FETCH_FUEL: "Fetch fuel",
    }[kind]


def _said(world: World, decision: DrillDecision) -> str:
    names = listed([load.name for load in world.course.design.loads if load.id in decision.loads][:4])
    return {
        DecisionKind.LEAVE_OFF: f"Turned off {names}",
        DecisionKind.TURN_ON: f"Turned on {names}",
        DecisionKind.GENERATOR_ON: "Started the generator"
        + (f" for {hours(decision.for_h)}" if decision.for_h else ""),
        DecisionKind.GENERATOR_OFF: "Stopped the generator",
        DecisionKind.SWEEP: "Cleared the snow",
        DecisionKind.FETCH_FUEL: "Fetched fuel",
        DecisionKind.CROSS_READ: "Held another instrument to the bank",
    }[decision.kind]


def _worths(
    world: World, decisions: Sequence[DrillDecision], play: Played, yours: Carried
) -> tuple[DecisionWorth, ...]:
    found = []
    for number, decision in enumerate(decisions):
        others = played(world, [each for place, each in enumerate(decisions) if place != number])
        without = _carried(world, others)
        found.append(
            DecisionWorth(
                at_h=decision.at_h,
                said=_said(world, decision),
                life_h=yours.life_h - without.life_h,
                keep_h=yours.keep_h - without.keep_h,
                ease_points=100 * (yours.ease_frac - without.ease_frac),
                result=play.results[number],
            )
        )
    return tuple(found)


def _told(world: World) -> tuple[str, ...]:
    """The surprises in words."""
    words = []
    for each in world.scenario.surprises:
        if each.kind is SurpriseKind.GENERATOR_FAILS:
            words.append(f"The generator would not start until hour {each.to_h}.")
        elif each.kind is SurpriseKind.GUEST:
            words.append(f"A guest plugged in a heater of {each.amount:.0f} W at hour {each.from_h}.")
        elif each.kind is SurpriseKind.FLICKER:
            words.append(f"The grid was back from hour {each.from_h} to {each.to_h}.")
        elif each.kind is SurpriseKind.GAUGE:
            words.append(f"The gauge read {each.amount:.0f} points too much from hour {each.from_h} on.")
        elif each.day < len(world.real_days):
            told, real = world.told_days[each.day].sky.value, world.real_days[each.day].sky.value
            if told != real:
                words.append(f"Day {each.day + 1} was {real}, not {told} as foretold.")
    return tuple(words)


def _lessons(
    world: World, decisions: Sequence[DrillDecision], play: Played, yours: Carried, best: Carried
) -> tuple[str, ...]:
    """What the papers should say differently, from what cost hours here."""
    kinds = {decision.kind for decision in decisions}
    lost_h = best.keep_h - yours.keep_h
    found = []
    guest = world.surprise(SurpriseKind.GUEST)
    if guest is not None and not any(
        GUEST_ID in each.loads for each in decisions if each.kind is DecisionKind.LEAVE_OFF
    ):
        found.append("Family's sheet: nothing that heats is plugged in, by guests neither; put a name to who says so.")
    if world.surprise(SurpriseKind.GAUGE) is not None and DecisionKind.CROSS_READ not in kinds:
        found.append(
            "Sheet by the bank: once a day read the volts on a second instrument; the gauge was off and nobody saw it."
        )
    if world.surprise(SurpriseKind.GENERATOR_FAILS) is not None:
        tried = any(
            each.kind is DecisionKind.GENERATOR_ON and said for each, said in zip(decisions, play.results, strict=True)
        )
        found.append(
            "Drill card: what to try when the generator does not start, and from which charge on Ease goes off without waiting for it."
            if tried
            else "Upkeep: start the generator under load every month; it would not have started, and was not tried in time."
        )
    covered = [day for day in range(world.days) if world.real.covered[day]]
    swept = {world.course.day_of(each.at_h) for each in decisions if each.kind is DecisionKind.SWEEP}
    if covered and not swept.issuperset(covered) and lost_h > SAME_H and DecisionKind.SWEEP not in kinds:
        found.append("Family's sheet: who clears the panels on a morning with snow, from where, and with what.")
    if lost_h > 1.0 and DecisionKind.LEAVE_OFF not in kinds and best.ease_frac < 0.95:
        found.append(
            f"Sheet on the wall: leave Ease off from the first hour; that and what follows is worth {hours(lost_h)}."
        )
    if lost_h <= SAME_H and best.ease_frac - yours.ease_frac > NEEDLESS_FRAC:
        found.append(
            f"Sheet on the wall: what is off comes back once the bank carries it to the end; {best.ease_frac - yours.ease_frac:.0%} of "
            "Ease was given up for nothing."
        )
    if not found:
        found.append(
            "Nothing: the papers as they are would have done."
            if lost_h <= 1.0
            else "Watch: do each instruction when it is due; what was lost here was lost by waiting."
        )
    return tuple(found)
