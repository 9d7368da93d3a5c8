"""What lies ahead from now, seen under the weather foretold and under a poor one: the ground on which advice is given."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from hearthkeep.core.foresight.course import SOON_H, Choices, Course, GeneratorWish, Stretch, choices_at
from hearthkeep.core.foresight.forecast import Doings, Skies, Weather, steps_under
from hearthkeep.core.foresight.worth import Worth, worth_of
from hearthkeep.core.outage import State

#: The poor weather that advice has to stand as well: of those that may come the one with so large a part below it.
POOR_PART = 0.1


@dataclass(frozen=True, kw_only=True, slots=True)
class Way:
    """One way of going on: what is decided from when on, and what is done on which day."""

    stretches: tuple[Stretch, ...]
    doings: Doings

    def between(self, from_h: float, to_h: float, generator: GeneratorWish) -> Way:
        """The same with another wish for the generator between two moments."""
        return self._changed(from_h, to_h, lambda choices: replace(choices, generator=generator))

    def leaving_off(self, from_h: float, loads: frozenset[str]) -> Way:
        """The same with more loads left off from a moment on."""
        return self._changed(from_h, float("inf"), lambda choices: replace(choices, off=choices.off | loads))

    def bringing_back(self, from_h: float, loads: frozenset[str]) -> Way:
        """The same with loads on again from a moment on."""
        return self._changed(from_h, float("inf"), lambda choices: replace(choices, off=choices.off - loads))

    def doing(self, doings: Doings) -> Way:
        """The same with other things done."""
        return replace(self, doings=doings)

    def at(self, moment_h: float) -> Choices:
        """What holds at a moment."""
        return choices_at(self.stretches, moment_h)

    def _changed(self, from_h: float, to_h: float, change: Callable[[Choices], Choices]) -> Way:
        edges = sorted({each.from_h for each in self.stretches} | {from_h} | ({to_h} if to_h < float("inf") else set()))
        made = [
            Stretch(edge, change(self.at(edge)) if from_h - SOON_H <= edge < to_h - SOON_H else self.at(edge))
            for edge in edges
        ]
        kept = [each for number, each in enumerate(made) if number == 0 or each.choices != made[number - 1].choices]
        return replace(self, stretches=tuple(kept))


#: Whether a generator starts at a moment [h].
Starts = Callable[[float], bool]


def _starts(at_h: float) -> bool:
    return True


@dataclass(frozen=True, kw_only=True)
class Outlook:
    """Now, and what may come."""

    skies: Skies
    state: State
    #: Now, and how far is looked: until help comes, or as far as is foretold [h from the start].
    at_h: float
    end_h: float
    #: What goes on if nobody does anything from now on.
    nothing: Way
    #: The weather foretold, and a poor one.
    weathers: tuple[Weather, ...]
    #: Whether the generator starts at a moment [h]; where nothing is known of it, it does.
    may_start: Starts = _starts
    courses: dict[bytes, tuple[Course, ...]] = field(default_factory=dict, compare=False, repr=False)

    @property
    def course(self) -> Course:
        """The course without weather of its own."""
        return self.skies.course

    @property
    def today(self) -> int:
        """Number of today's calendar day."""
        return self.day_of(self.at_h)

    def day_of(self, moment_h: float) -> int:
        """Number of the calendar day of a moment, 0 for that of the start."""
        return self.course.day_of(moment_h)

    def clock_h(self, moment_h: float) -> float:
        """Hour of the day of a moment [h]."""
        return self.course.clock_h(moment_h)

    def under(self, doings: Doings) -> tuple[Course, ...]:
        """The course under each weather, with what is done."""
        key = doings.swept.tobytes() + doings.fetched.tobytes()
        if key not in self.courses:
            steps = steps_under(self.skies, self.weathers, doings)
            self.courses[key] = tuple(self.course.under(each) for each in steps)
        return self.courses[key]

    def worths(self, way: Way) -> tuple[Worth, ...]:
        """What a way of going on is worth under each weather."""
        return tuple(
            worth_of(course, self.state, self.at_h, way.stretches, self.end_h) for course in self.under(way.doings)
        )


def poor_of(weathers: Sequence[Weather], today: int, last: int) -> Weather:
    """Of weathers that may come the one that leaves a tenth of them below it, by all their sun from today on."""
    sums = np.array([float((weather.part * ~weather.covered)[today : last + 1].sum()) for weather in weathers])
    return weathers[int(np.argsort(sums, kind="stable")[int(POOR_PART * len(weathers))])]
