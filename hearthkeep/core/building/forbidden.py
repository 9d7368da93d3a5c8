"""Readings that nobody can sign away: what they mean, and what is done at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from hearthkeep.core.building.gate import Ask, Gate, Never, NeverKind

#: Legs of one supply further apart than this say that their neutral is open [V]. Common practice, no source.
LEGS_APART_V = 15.0
#: Above this a conductor that protects counts as missing [Ω], and above this part of its nominal a supply harms what is plugged in.
#: Common practice, no source.
NO_EARTH_OHM, TOO_MUCH_FRAC = 5.0, 1.15
#: A bank above its charging volts by this factor is not the bank of the design; its parts do not bear it. Common practice, no source.
OVER_BANK_FRAC = 1.2

_WHY = {
    NeverKind.ALIVE: "What has to be dead is alive.",
    NeverKind.REVERSED: "Plus and minus are exchanged.",
    NeverKind.TOO_MANY_VOLTS: "That is more than the parts bear.",
    NeverKind.NO_EARTH: "The way home for a fault is missing.",
    NeverKind.OPEN_NEUTRAL: "The neutral is open: one leg rises while the other falls.",
    NeverKind.BACK_FED: "The supply reaches the grid's side.",
    NeverKind.DOES_NOT_TRIP: "The residual current device does not trip.",
    NeverKind.NOT_SHUT_DOWN: "The wires stay live after the shutdown.",
}
_NOW = {
    NeverKind.ALIVE: "Hands off. Open everything again and look for the source: a main device that is closed, the sun, a second supply, "
    "capacitors that are still full. Go on when it reads dead.",
    NeverKind.REVERSED: "Close nothing. Follow both conductors home from the posts, exchange them, mark them, and read again.",
    NeverKind.TOO_MANY_VOLTS: "Connect nothing to it. Count what is in series, look at the settings, and read again.",
    NeverKind.NO_EARTH: "Nothing is switched on. Find the open joint, close it, and read again end to end.",
    NeverKind.OPEN_NEUTRAL: "Everything off at once: what is plugged into the high leg burns. Tighten every neutral on the way, then read both "
    "legs again with plain lamps on.",
    NeverKind.BACK_FED: "Everything off at once, and nobody touches the service. No way from backup to grid may be left.",
    NeverKind.DOES_NOT_TRIP: "The supply stays off. Look for a missing or doubled bond and for the device's own type; replace it, and try it again.",
    NeverKind.NOT_SHUT_DOWN: "Nobody goes onto the roof. Look for a unit that stays on and for the switch's own wiring; try it again.",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Forbidden:
    """A reading that is not accepted whatever is noted beside it."""

    key: str
    why: str
    #: What is done at once.
    now: str


def never(kind: NeverKind, *, low: float | None = None, high: float | None = None) -> Never:
    """From below `low` and above `high` on a reading is not accepted, in its own unit."""
    return Never(kind=kind, low=low, high=high)


def forbidden_of(gate: Gate, readings: Mapping[str, float]) -> tuple[Forbidden, ...]:
    """Readings of a gate that may not be signed away, given by the keys of what it asks."""
    found = {}
    for ask in gate.asks:
        kind = _kind_of(ask, readings)
        if kind is not None:
            found[ask.key] = kind
    for one, other in gate.legs:
        if one not in readings or other not in readings:
            continue
        low, high = sorted((readings[one], readings[other]))
        # A leg that is dead is a breaker that is open.
        if high - low > LEGS_APART_V and low > LEGS_APART_V:
            found[one] = found[other] = NeverKind.OPEN_NEUTRAL
    return tuple(Forbidden(key=key, why=_WHY[kind], now=_NOW[kind]) for key, kind in found.items())


def _kind_of(ask: Ask, readings: Mapping[str, float]) -> NeverKind | None:
    if ask.key not in readings:
        return None
    return next((each.kind for each in ask.never if each.holds(readings[ask.key])), None)
