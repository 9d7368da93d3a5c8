"""Readings against their windows, and what may lie behind those outside."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from hearthkeep.core.building.forbidden import Forbidden, forbidden_of
from hearthkeep.core.building.gate import Gate
from hearthkeep.core.building.meaning import Meaning, meanings_of
from hearthkeep.core.building.suspect import LikelyCause, likely_causes
from hearthkeep.core.building.suspects import suspects_of
from hearthkeep.core.building.windows import Expected


@dataclass(frozen=True, kw_only=True, slots=True)
class Judgement:
    """What a gate's readings say."""

    #: Keys of readings inside and outside their windows, and of those that are still asked for.
    inside: tuple[str, ...]
    outside: tuple[str, ...]
    open: tuple[str, ...]
    #: Readings that may not be signed away.
    forbidden: tuple[Forbidden, ...]
    #: Behind the readings outside, the likeliest first.
    causes: tuple[LikelyCause, ...]
    #: What readings inside mean for what comes next.
    meanings: tuple[Meaning, ...]

    @property
    def is_complete(self) -> bool:
        """Whether nothing more has to be read."""
        return not self.open


def judge(expected: Expected, gate: Gate, readings: Mapping[str, float]) -> Judgement:
    """Judge a gate's readings, given by the keys of what it asks."""
    inside, outside, still_open = [], [], []
    forbidden = forbidden_of(gate, readings)
    barred = {each.key for each in forbidden}
    for ask in gate.asks:
        if ask.key not in readings:
            if not ask.is_optional:
                still_open.append(ask.key)
        elif ask.window.holds(readings[ask.key]) and ask.key not in barred:
            inside.append(ask.key)
        else:
            outside.append(ask.key)
    causes = likely_causes(gate.asks, readings, suspects_of(expected, gate)) if outside else ()
    return Judgement(
        inside=tuple(inside),
        outside=tuple(outside),
        open=tuple(still_open),
        forbidden=forbidden,
        causes=causes,
        meanings=tuple(meanings_of(expected, gate, readings)),
    )
