"""A storm lived hour by hour: the house as it is, the forecast as it was, and somebody who does what is said, or nothing."""

from __future__ import annotations

from dataclasses import dataclass, replace

from hearthkeep.core.design import Design, Tier
from hearthkeep.core.foresight.acts import ActKind
from hearthkeep.core.foresight.advice import advise
from hearthkeep.core.foresight.course import Choices, GeneratorWish, Stretch, course_of
from hearthkeep.core.foresight.forecast import doing, drawn, foretold, skies_of, steps_under
from hearthkeep.core.foresight.outlook import Outlook, Way, poor_of
from hearthkeep.core.outage import prepare

#: How often the advice is looked at [h].
EVERY_H = 3.0


@dataclass
class Storm:
    """What came of it, hours from the start."""

    life_h: float
    keep_h: float
    told: list[str]


def nothing_of(design: Design) -> Choices:
    """Nobody does anything: a generator that is started by hand stays off, nothing is dropped."""
    generator = design.charging.generator
    by_hand = generator is not None and generator.by_hand
    return Choices(by_levels=False, generator=GeneratorWish.OFF if by_hand else GeneratorWish.BY_RULE)


def lived(entered: Design, truth: Design, *, follows: bool) -> Storm:
    """Live through the storm as it comes; what is foretold is what was entered, and today as it is."""
    prepared = prepare(entered)
    course = course_of(prepared)
    skies, days = skies_of(course), int(prepared.scene.clock.day[-1]) + 1
    real = foretold(truth.outage.days, days)
    doings = doing(days, False)
    way = Way(stretches=(Stretch(0.0, nothing_of(entered)),), doings=doings)
    state, at_h, end_h = course.first(), 0.0, course.end_h
    kept = {load.id for load in course.design.loads if load.tier in (Tier.LIFE, Tier.KEEP)}
    storm = Storm(life_h=end_h, keep_h=end_h, told=[])
    while at_h < end_h - 1e-9:
        to_h = min(at_h + EVERY_H, end_h)
        if follows:
            today = int((entered.outage.start.hour + entered.outage.start.minute / 60 + at_h) // 24)
            known = foretold((*truth.outage.days[: today + 1], *entered.outage.days[today + 1 :]), days)
            weathers = drawn(entered.outage.days, days, today, 16)
            outlook = Outlook(
                skies=skies,
                state=state,
                at_h=at_h,
                end_h=end_h,
                nothing=way,
                weathers=(known, poor_of(weathers, today, days - 1)),
            )
            for step in advise(outlook).steps:
                act = step.act
                if act.at_h >= to_h - 1e-9:
                    continue
                storm.told.append(f"{at_h:g} {act.kind.value}")
                if act.kind is ActKind.GENERATOR:
                    way = way.between(act.at_h, act.at_h + act.for_h, GeneratorWish.ON)
                elif act.kind is ActKind.BRING_BACK:
                    way = way.bringing_back(act.at_h, act.loads)
                elif act.loads:
                    way = way.leaving_off(act.at_h, act.loads)
                else:
                    way = replace(way, doings=act.way.doings)
        real_course = course.under(steps_under(skies, [real], way.doings)[0])
        for from_h, outcome, after in real_course.along(state, way.stretches, at_h, to_h):
            state = after
            if outcome.dark_h >= 0:
                storm.keep_h = min(storm.keep_h, from_h + outcome.dark_h)
            if outcome.life_dark_h >= 0:
                storm.life_h = min(storm.life_h, from_h + outcome.life_dark_h)
            if way.at(from_h).off & kept:
                storm.keep_h = min(storm.keep_h, from_h)
        at_h = to_h
    return storm
