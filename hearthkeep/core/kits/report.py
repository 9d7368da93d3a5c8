"""Kits side by side: which meet the target, which no other beats, and what the cheapest of them is."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from hearthkeep.core.kits.answer import KitAnswer
from hearthkeep.core.kits.ranges import KitTarget

#: Shares that differ by less are the same.
_SAME_FRAC = 1e-12


@dataclass(frozen=True, kw_only=True, slots=True)
class RatedKit:
    """A kit among the others."""

    kit: KitAnswer
    meets_target: bool
    #: It carries something, and no other kit that is not stopped carries as much for less, or more for as much.
    is_on_front: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class KitReport:
    """The kits worked out so far, the cheapest first."""

    target: KitTarget
    kits: tuple[RatedKit, ...]
    #: How many meet the target, and how many of all the checks stop or cannot be worked out.
    meeting: int
    stopped: int
    faulty: int
    #: The cheapest that meets the target and passes the checks, by its number; none where none does.
    cheapest: int | None


def report_of(answers: Iterable[KitAnswer], target: KitTarget) -> KitReport:
    """Rate the kits against the target and each other."""
    ordered = sorted(answers, key=lambda kit: (kit.price, -kit.share_frac, kit.number))
    front = _front([kit for kit in ordered if _passes(kit)])
    rated = tuple(
        RatedKit(
            kit=kit,
            meets_target=not kit.fault and kit.share_frac >= target.share_frac - _SAME_FRAC,
            is_on_front=kit.number in front,
        )
        for kit in ordered
    )
    met = [entry.kit for entry in rated if entry.meets_target and _passes(entry.kit)]
    return KitReport(
        target=target,
        kits=rated,
        meeting=len(met),
        stopped=sum(bool(kit.stops) for kit in ordered),
        faulty=sum(bool(kit.fault) for kit in ordered),
        cheapest=met[0].number if met else None,
    )


def _passes(kit: KitAnswer) -> bool:
    return not kit.stops and not kit.fault


def _front(ordered: Sequence[KitAnswer]) -> frozenset[int]:
    """Numbers of the kits that carry something and more than every cheaper one, of kits by price; of those alike the first."""
    best, found = 0.0, []
    for kit in ordered:
        if kit.share_frac > best + _SAME_FRAC:
            best = kit.share_frac
            found.append(kit.number)
    return frozenset(found)
