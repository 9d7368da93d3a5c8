"""Gates in proportion: a small portable system of one person's hand is passed in the half dozen that matter, each of several."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from hearthkeep.core.building.gate import Gate
from hearthkeep.core.building.live_gates import needs_precharge
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Kind
from hearthkeep.core.transfer import CORDS

#: Up to here a system counts as small: energy in the bank [Wh], its volts, power of its inverter and of its panels [W]. Our assumption:
#: low volts, no sum that asks for precharge, one hand that builds it.
SMALL_WH, SMALL_V, SMALL_INVERTER_W, SMALL_SUN_W = 1_500.0, 30.0, 800.0, 400.0


@dataclass(frozen=True, kw_only=True, slots=True)
class _Joined:
    """Gates that are passed as one."""

    key: str
    title: str
    parts: tuple[str, ...]


_JOINED = (
    _Joined(
        key="built",
        title="Put together with everything open, then the bank's volts",
        parts=("dead", "mount", "devices", "grounds", "air", "blocks", "polarity"),
    ),
    _Joined(
        key="controllers",
        title="Controllers on the bank with their set points, the sun still off",
        parts=("controllers", "settings"),
    ),
    _Joined(
        key="inverter",
        title="Inverter on with a test load, then its outlets",
        parts=("inverter", "transfer"),
    ),
    _Joined(key="sun", title="The sun, last, and the first full charge", parts=("sun", "first_full")),
    _Joined(
        key="handover",
        title="Instruments and load test, labels, photographs, handed over",
        parts=("instruments", "load_test", "labels", "photos", "handover"),
    ),
)
#: Keys that only the long form has: whoever began with it goes on with it.
_LONG_ONLY = frozenset(part for joined in _JOINED for part in joined.parts) - {joined.key for joined in _JOINED}


def is_small(expected: Expected) -> bool:
    """Whether a system is so small that its gates are joined."""
    design = expected.design
    return (
        design.kind is Kind.PORTABLE
        and design.transfer.arrangement in (None, *CORDS)
        and design.bank.rated_wh <= SMALL_WH
        and design.bank.nominal_v <= SMALL_V
        and design.inverter.together.rated_w <= SMALL_INVERTER_W
        and sum(array.stc_w for each in design.charging.controllers for array in each.arrays) <= SMALL_SUN_W
        and design.charging.grid_tied is None
        and design.charging.generator is None
        and not needs_precharge(expected)
    )


def in_proportion(expected: Expected, gates: Sequence[Gate], signed: Iterable[str] = ()) -> tuple[Gate, ...]:
    """The gates, joined where the system is small; `signed` are the keys of gates with entries already."""
    if not is_small(expected) or _LONG_ONLY & set(signed):
        return tuple(gates)
    of = {part: joined for joined in _JOINED for part in joined.parts}
    there = {gate.key: gate for gate in gates}
    found: list[Gate] = []
    done: set[str] = set()
    for gate in gates:
        joined = of.get(gate.key)
        if joined is None:
            found.append(replace(gate, needs=_needs(gate.needs, of, done)))
            done.add(gate.key)
        elif joined.key not in done:
            found.append(_as_one(joined, [there[part] for part in joined.parts if part in there], of, done))
            done.add(joined.key)
    return tuple(found)


def _as_one(joined: _Joined, parts: Sequence[Gate], of: dict[str, _Joined], done: set[str]) -> Gate:
    return Gate(
        key=joined.key,
        title=joined.title if len(parts) > 1 else parts[0].title,
        why=parts[0].why,
        precautions=tuple(dict.fromkeys(each for part in parts for each in part.precautions)),
        do=tuple(step for part in parts for step in part.do),
        asks=tuple(ask for part in parts for ask in part.asks),
        needs=_needs((need for part in parts for need in part.needs), of, done),
        skipping=" ".join(part.skipping for part in parts),
        now=" ".join(part.now for part in parts if part.now),
        legs=tuple(pair for part in parts for pair in part.legs),
        is_deadly=any(part.is_deadly for part in parts),
        parts=tuple(part.key for part in parts),
    )


def _needs(needs: Iterable[str], of: dict[str, _Joined], done: set[str]) -> tuple[str, ...]:
    """What comes before, by the keys of the gates that are left; what is joined with it is done in it."""
    keys = dict.fromkeys(of[need].key if need in of else need for need in needs)
    return tuple(key for key in keys if key in done)
