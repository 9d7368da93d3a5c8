"""A switching card as values: ways of switching, each a list of steps in order, and what holds throughout."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.words import Sentence, sentence


class WayKind(StrEnum):
    """What a way of switching is for."""

    TO_BACKUP = "to_backup"
    TO_GRID = "to_grid"
    #: From everything open to everything running.
    START = "start"
    #: Around the inverter, so that its circuits run on the grid while it is worked on.
    BYPASS = "bypass"
    #: Everything open and dead, before anybody works on it.
    SERVICE = "service"
    #: Fire, smoke, water: the few handles that matter.
    DANGER = "danger"


@dataclass(frozen=True, kw_only=True, slots=True)
class Step:
    """One step: what to do, what must be seen before the next, and what must not be done."""

    do: str
    check: str
    never: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Way:
    """One way of switching, its steps in order."""

    kind: WayKind
    title: str
    steps: tuple[Step, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Switching:
    """The switching card: every way that the design has, and what holds throughout."""

    ways: tuple[Way, ...]
    throughout: tuple[str, ...]

    def find(self, kind: WayKind) -> Way | None:
        """The way of a kind; none where the design has none."""
        return next((way for way in self.ways if way.kind is kind), None)


NOTHING = Sentence("")


def step(do: Sentence, check: Sentence = NOTHING, never: Sentence = NOTHING) -> Step:
    """A step of a way."""
    return Step(do=do, check=check, never=never)


TITLES = {
    WayKind.TO_BACKUP: sentence("From grid to backup"),
    WayKind.TO_GRID: sentence("Back to the grid"),
    WayKind.START: sentence("From everything off to running"),
    WayKind.BYPASS: sentence("Around the inverter, for service"),
    WayKind.SERVICE: sentence("Everything off, for service"),
    WayKind.DANGER: sentence("In danger: fire, smoke or water"),
}


def way(kind: WayKind, steps: tuple[Step, ...]) -> Way:
    """A way under its title."""
    return Way(kind=kind, title=TITLES[kind], steps=steps)
