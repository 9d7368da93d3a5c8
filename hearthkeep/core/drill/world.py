"""The storm as it really comes, and as it was foretold: what a drill is lived in."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta

from hearthkeep.core.design import Design, Load, OutageDay, SkySource, Supply, Tier
from hearthkeep.core.drill.scenario import Scenario, Surprise, SurpriseKind
from hearthkeep.core.foresight import (
    Choices,
    Course,
    GeneratorWish,
    Skies,
    Weather,
    course_of,
    foretold,
    skies_of,
)
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear, day_of_year, skies_of_year, year_for

#: What a guest plugs in.
GUEST_ID = "drill-guest"
GUEST_NAME = "Guest's heater"


@dataclass(frozen=True, kw_only=True)
class World:
    """A design's storm with its surprises, ready to be lived."""

    scenario: Scenario
    #: The house with what a guest brings, under the skies as they come.
    skies: Skies
    #: The days as they come, and as they were foretold.
    real_days: tuple[OutageDay, ...]
    told_days: tuple[OutageDay, ...]
    #: What holds from the beginning if nobody does anything.
    still: Choices

    @property
    def course(self) -> Course:
        """The outage as it comes."""
        return self.skies.course

    @property
    def days(self) -> int:
        """Calendar days of it."""
        return int(self.course.prepared.scene.clock.day[-1]) + 1

    @property
    def real(self) -> Weather:
        """The weather as it comes."""
        return foretold(self.real_days, self.days)

    def surprise(self, kind: SurpriseKind) -> Surprise | None:
        """The surprise of a kind, where there is one."""
        return next((each for each in self.scenario.surprises if each.kind is kind), None)

    def will_start(self, at_h: float) -> bool:
        """Whether the generator starts at a moment."""
        broken = self.surprise(SurpriseKind.GENERATOR_FAILS)
        return broken is None or not broken.from_h <= at_h < broken.to_h

    def gauge_off_points(self, at_h: float) -> float:
        """How much too much the gauge of the bank reads at a moment, in points."""
        off = self.surprise(SurpriseKind.GAUGE)
        return off.amount if off is not None and at_h >= off.from_h else 0.0


def world_of(entered: Design, scenario: Scenario, year: WeatherYear | None = None) -> World:
    """Put a scenario's surprises into a design's own outage."""
    told = _told_days(entered, scenario, year)
    real = list(told)
    back: list[tuple[int, int]] = []
    loads = entered.loads
    for each in scenario.surprises:
        if each.sky is not None and each.day < len(real):
            real[each.day] = real[each.day].model_copy(update={"sky": each.sky})
        if each.kind is SurpriseKind.FLICKER and each.from_h < each.to_h <= scenario.duration_h:
            back.append((each.from_h, each.to_h))
        if each.kind is SurpriseKind.GUEST:
            loads = (*loads, _guest(each))
    outage = entered.outage.model_copy(
        update={
            "duration_h": float(scenario.duration_h),
            "days": tuple(real),
            "sky_from": SkySource.BY_HAND,
            "grid_back": tuple(back),
        }
    )
    prepared = prepare(entered.model_copy(update={"outage": outage, "loads": loads}), year)
    generator = entered.charging.generator
    by_hand = generator is not None and generator.by_hand
    still = Choices(by_levels=False, generator=GeneratorWish.OFF if by_hand else GeneratorWish.BY_RULE)
    if any(load.id == GUEST_ID for load in loads):
        still = replace(still, off=frozenset({GUEST_ID}))
    return World(
        scenario=scenario,
        skies=skies_of(course_of(prepared)),
        real_days=tuple(real),
        told_days=told,
        still=still,
    )


def _told_days(design: Design, scenario: Scenario, year: WeatherYear | None) -> tuple[OutageDay, ...]:
    """A day for each of the drill's, as the plan has them."""
    planned, start = design.outage.days, design.outage.start
    count = (start + timedelta(hours=scenario.duration_h)).toordinal() - start.toordinal() + 1
    days = [planned[min(number, len(planned) - 1)] for number in range(count)]
    if design.outage.sky_from is SkySource.YEAR:
        skies = skies_of_year(year_for(design.site, year))
        dates = [start + timedelta(days=number) for number in range(count)]
        days = [
            day.model_copy(update={"sky": skies[day_of_year(on.month, on.day)]})
            for day, on in zip(days, dates, strict=True)
        ]
    return tuple(days)


def _guest(surprise: Surprise) -> Load:
    return Load(id=GUEST_ID, name=GUEST_NAME, tier=Tier.EASE, running_w=surprise.amount, supply=Supply.AC)
