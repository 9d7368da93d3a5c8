"""Leg balance: which leg each backed-up circuit of one pole is given, so that the two differ least."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Circuit, Design, Leg
from hearthkeep.core.transfer.fates import CircuitState, fates_of, has_positions

#: Up to so many circuits every assignment is looked at, by halves; above it the heuristic takes over.
MOST_EXACT = 24
EXACT, HEURISTIC = "exact search of every assignment", "largest first, each to the lighter leg, then exchanges of two"

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True, slots=True)
class Item:
    """What is put on a leg as one: a circuit, or two that share a neutral and stand on opposite legs."""

    #: Ids that go to leg A as the item lies one way, and to leg B; the other way round they change places.
    first: tuple[str, ...]
    second: tuple[str, ...]
    #: Watts of the first less those of the second [W].
    difference_w: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Balance:
    """An assignment to legs and how far apart it leaves them."""

    #: By circuit id.
    legs: dict[str, Leg]
    #: |A - B| of the running watts [W].
    imbalance_w: float
    #: What it is without any change [W].
    before_w: float
    method: str


def leg_loads_w(design: Design, states: tuple[CircuitState, ...]) -> dict[Leg, float]:
    """Running watts of the backed-up circuits on each leg, those of two poles half on each [W]; `states` are the design's own."""
    found = dict.fromkeys(design.site.legs, 0.0)
    for entry, state in zip(design.transfer.circuits, states, strict=True):
        if entry.backed_up:
            for leg in state.backup_legs:
                found[leg] += state.running_w / len(state.backup_legs)
    return found


def balance(design: Design, states: tuple[CircuitState, ...] | None = None) -> Balance:
    """The smallest imbalance of the backed-up circuits of one pole; circuits that share a neutral are put on opposite legs.

    Exact up to MOST_EXACT items, within the positions that each leg has; otherwise by the named heuristic. `states` are the
    design's own circuits, where they are at hand.
    """
    states = fates_of(design).circuits if states is None else states
    loads = leg_loads_w(design, states)
    before_w = abs(loads[Leg.A] - loads.get(Leg.B, loads[Leg.A]))
    if len(design.site.legs) == 1:
        return Balance(legs={}, imbalance_w=0.0, before_w=0.0, method="one line, nothing to balance")
    items = _items(design, states)
    room_a, room_b = _room(design)
    differences = np.array([item.difference_w for item in items], dtype=np.float64)
    ones = np.array([1 - len(item.second) for item in items], dtype=np.int64)
    pairs = sum(len(item.second) for item in items)
    if len(items) <= MOST_EXACT:
        forward, method = _exact(differences, ones, room_a - pairs, room_b - pairs), EXACT
    else:
        forward, method = _largest_first(differences, ones, room_a - pairs, room_b - pairs), HEURISTIC
    legs: dict[str, Leg] = {}
    for item, is_forward in zip(items, forward, strict=True):
        legs |= dict.fromkeys(item.first, Leg.A if is_forward else Leg.B)
        legs |= dict.fromkeys(item.second, Leg.B if is_forward else Leg.A)
    signs = np.where(forward, 1.0, -1.0)
    return Balance(legs=legs, imbalance_w=float(abs((differences * signs).sum())), before_w=before_w, method=method)


def _items(design: Design, states: tuple[CircuitState, ...]) -> list[Item]:
    by_id = {state.id: state for state in states}
    open_ = {entry.id: entry for entry in design.transfer.circuits if entry.backed_up and entry.poles == 1}
    items = []
    while open_:
        entry = open_.pop(next(iter(open_)))
        mate = _mate(entry, open_)
        if mate is not None:
            open_.pop(mate.id)
        items.append(
            Item(
                first=(entry.id,),
                second=() if mate is None else (mate.id,),
                difference_w=by_id[entry.id].running_w - (0.0 if mate is None else by_id[mate.id].running_w),
            )
        )
    return items


def _mate(entry: Circuit, among: dict[str, Circuit]) -> Circuit | None:
    """The circuit that shares its neutral, whichever of the two says so."""
    if entry.shares_neutral_with in among:
        return among[entry.shares_neutral_with]
    return next((other for other in among.values() if other.shares_neutral_with == entry.id), None)


def _room(design: Design) -> tuple[int, int]:
    """Circuits of one pole that each leg has room for."""
    most, doubles = (
        design.transfer.device.positions,
        sum(entry.backed_up and entry.poles == 2 for entry in design.transfer.circuits),
    )
    if most is None or not has_positions(design.transfer.arrangement):
        return 10**6, 10**6
    return (most + 1) // 2 - doubles, most // 2 - doubles


def _sums(differences: Floats, ones: Ints) -> tuple[Floats, Ints]:
    """By assignment, a bit an item: the signed sum [W], and how many single circuits lie on leg A."""
    sums, counts = np.zeros(1), np.zeros(1, dtype=np.int64)
    for difference, one in zip(differences, ones, strict=True):
        sums = np.concatenate((sums - difference, sums + difference))
        counts = np.concatenate((counts, counts + one))
    return sums, counts


def _exact(differences: Floats, ones: Ints, room_a: int, room_b: int) -> NDArray[np.bool_]:
    """The assignment with the smallest |A - B| within the room of each leg: halves met in the middle.

    Where the circuits do not fit the positions at all, as if there were room.
    """
    half, singles = len(differences) // 2, int(ones.sum())
    if singles > room_a + room_b or min(room_a, room_b) < 0:
        room_a = room_b = singles
    left, left_on_a = _sums(differences[:half], ones[:half])
    right, right_on_a = _sums(differences[half:], ones[half:])
    best = (np.inf, 0, 0)
    for count_left in np.unique(left_on_a):
        lefts = np.flatnonzero(left_on_a == count_left)
        lefts = lefts[np.argsort(left[lefts], kind="stable")]
        fits = (count_left + right_on_a <= room_a) & (singles - count_left - right_on_a <= room_b)
        rights = np.flatnonzero(fits)
        if not rights.size:
            continue
        # The nearest to what is missing lies right at it, or just before it.
        at = np.searchsorted(left[lefts], -right[rights])
        for near in (np.clip(at, 0, lefts.size - 1), np.clip(at - 1, 0, lefts.size - 1)):
            gaps = np.abs(left[lefts[near]] + right[rights])
            least = int(gaps.argmin())
            if gaps[least] < best[0] - 1e-9:
                best = (float(gaps[least]), int(lefts[near[least]]), int(rights[least]))
    bits = best[1] | best[2] << half
    return np.array([bool(bits >> at & 1) for at in range(len(differences))], dtype=bool)


def _largest_first(differences: Floats, ones: Ints, room_a: int, room_b: int) -> NDArray[np.bool_]:
    """Largest first, each to the lighter leg while it has room; then exchanges of two while they help."""
    forward = np.zeros(len(differences), dtype=bool)
    total, on_a, on_b = 0.0, 0, 0
    for at in np.argsort(-np.abs(differences), kind="stable"):
        to_a = (total <= 0) == (differences[at] >= 0)
        if ones[at] and on_a >= room_a:
            to_a = False
        elif ones[at] and on_b >= room_b:
            to_a = True
        forward[at] = to_a
        total += differences[at] if to_a else -differences[at]
        on_a, on_b = on_a + int(ones[at] and to_a), on_b + int(ones[at] and not to_a)
    while True:
        signs = np.where(forward, 1.0, -1.0)
        total = float((differences * signs).sum())
        ones_there, others = np.flatnonzero(forward & (ones == 1)), np.flatnonzero(~forward & (ones == 1))
        if not ones_there.size or not others.size:
            return forward
        after = np.abs(total - 2 * differences[ones_there][:, None] + 2 * differences[others][None, :])
        one, other = np.unravel_index(int(after.argmin()), after.shape)
        if after[one, other] >= abs(total) - 1e-9:
            return forward
        forward[ones_there[one]], forward[others[other]] = False, True
