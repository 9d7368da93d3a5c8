"""What each difference alone is worth in hours: averaged over every order in which the changes could be made."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from hearthkeep.core.alternatives.differences import Difference, PartKey, differences_of, with_differences
from hearthkeep.core.design import Design
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear

#: Up to so many differences every order is counted, 2 to that many outages; beyond, the lesser ones are taken together.
MOST_DIFFERENCES = 6
_LESSER = (PartKey.SETTINGS, PartKey.WIRING, PartKey.POLICY, PartKey.TRANSFER, PartKey.OTHER_SOURCES)


@dataclass(frozen=True, kw_only=True, slots=True)
class DifferenceWorth:
    """One difference, or several taken together, and its share of the change in hours carried."""

    differences: tuple[Difference, ...]
    title: str
    #: Averaged over all orders [h]; these sum to the whole change.
    worth_h: float
    #: Made alone on the one design, and taken back alone from the other [h].
    first_h: float
    last_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Worth:
    """Two designs, hours carried by each, and what makes up the change."""

    base_h: float
    other_h: float
    parts: tuple[DifferenceWorth, ...]
    #: The other outage is another one as well, so that the hours are not of one storm.
    is_other_storm: bool


def worth_of(base: Design, other: Design, hours_h: Callable[[Design], float]) -> Worth:
    """
    Shares of the change from one design to another, each difference's gain averaged over all orders of making them.

    That is the Shapley value (L. S. Shapley, A Value for n-Person Games, 1953): the shares sum to the whole change and do
    not depend on any order.

    :param hours_h: hours that a design carries.
    """
    groups = _grouped(differences_of(base, other))
    try:
        return _shared(base, other, groups, hours_h)
    except (ArithmeticError, LookupError, ValueError):
        # Parts of the two do not go together, a load on a circuit of the other house: only the whole change is told.
        return _shared(base, other, [[difference for group in groups for difference in group]], hours_h)


def _shared(base: Design, other: Design, groups: list[list[Difference]], hours_h: Callable[[Design], float]) -> Worth:
    count = len(groups)
    keys = [[difference.key for difference in group] for group in groups]

    def lived(chosen: int) -> float:
        if chosen == (1 << count) - 1:
            return hours_h(other)
        taken = [key for index in range(count) if chosen >> index & 1 for key in keys[index]]
        return hours_h(with_differences(base, other, taken))

    found = [lived(chosen) for chosen in range(1 << count)]
    weight = [math.factorial(size) * math.factorial(count - size - 1) / math.factorial(count) for size in range(count)]
    parts = []
    for index, group in enumerate(groups):
        own = 1 << index
        gains = [
            (bin(chosen).count("1"), found[chosen | own] - found[chosen])
            for chosen in range(1 << count)
            if not chosen & own
        ]
        parts.append(
            DifferenceWorth(
                differences=tuple(group),
                title=group[0].title if len(group) == 1 else " and ".join(one.title for one in group),
                worth_h=math.fsum(weight[size] * gain for size, gain in gains),
                first_h=found[own] - found[0],
                last_h=found[-1] - found[~own & (1 << count) - 1],
            )
        )
    return Worth(
        base_h=found[0],
        other_h=found[-1],
        parts=tuple(parts),
        is_other_storm=any(difference.key == PartKey.STORM for group in groups for difference in group),
    )


def lived_hours_h(year_of: Callable[[Design], WeatherYear | None]) -> Callable[[Design], float]:
    """Hours carried by a design under its own weather year [h], as the strip has them."""

    def hours_h(design: Design) -> float:
        prepared = prepare(design, year_of(design))
        return prepared.carried_h(prepared.outcome().dark_h)

    return hours_h


def _grouped(differences: tuple[Difference, ...]) -> list[list[Difference]]:
    """Each difference alone as far as every order can be counted; then loads together, then the lesser ones, then the last."""
    groups = [[difference] for difference in differences]
    loads = [group for group in groups if group[0].key.startswith("load:")]
    if len(groups) > MOST_DIFFERENCES and len(loads) > 1:
        groups = [[one for group in loads for one in group], *(group for group in groups if group not in loads)]
    lesser = [group for group in groups if group[0].key in set(_LESSER)]
    if len(groups) > MOST_DIFFERENCES and len(lesser) > 1:
        groups = [*(group for group in groups if group not in lesser), [one for group in lesser for one in group]]
    while len(groups) > MOST_DIFFERENCES:
        groups = [*groups[:-2], [*groups[-2], *groups[-1]]]
    return groups
