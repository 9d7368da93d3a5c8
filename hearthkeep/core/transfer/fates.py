"""What becomes of each circuit and each load when the grid goes: carried, kept on the grid, or dead."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from hearthkeep.core.design import ArrangementKind, Circuit, Design, Leg, Load, narrowed
from hearthkeep.core.design import Supply as LoadSupply
from hearthkeep.core.transfer.supply import CORDS, WHOLE_PANEL, Supply, generator_supply, supply_of

#: Why a circuit that is not backed up has nothing, where that is not for staying on the grid.
_LEFT_OUT = {ArrangementKind.AUTOMATIC: "shed at the change-over", ArrangementKind.OWN_PANEL: "switched off for good"}


class Fate(StrEnum):
    """What becomes of a circuit or a load."""

    CARRIED = "carried"
    #: It stays on the grid, and is dark with it.
    ON_GRID = "on_grid"
    #: It is switched over and gets nothing.
    DEAD = "dead"


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadFate:
    """One load's fate."""

    id: str
    name: str
    fate: Fate
    #: Why it is not carried; empty where it is.
    why: str
    circuit: str | None
    #: Running watts of all its pieces [W].
    running_w: float
    #: An AC load on no circuit though there is a panel: it counts as carried until it is placed.
    unplaced: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class CircuitState:
    """One circuit on both sides of the change-over."""

    id: str
    fate: Fate
    why: str
    slots: tuple[int, ...]
    #: Legs in the main panel, and on the backed-up side (both of a two-pole circuit).
    legs: tuple[Leg, ...]
    backup_legs: tuple[Leg, ...]
    #: Positions on the transfer device; empty where it has none of its own.
    positions: tuple[int, ...]
    loads: tuple[str, ...]
    #: Running watts of its loads that may fall together in some hour of the day [W].
    running_w: float
    #: The same on one line [A].
    current_a: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Fates:
    """All circuits and loads."""

    supply: Supply
    circuits: tuple[CircuitState, ...]
    loads: tuple[LoadFate, ...]

    def of(self, fate: Fate) -> tuple[LoadFate, ...]:
        """The loads with a fate."""
        return tuple(load for load in self.loads if load.fate is fate)

    @property
    def left_out(self) -> frozenset[str]:
        """Ids of the loads that are not carried."""
        return frozenset(load.id for load in self.loads if load.fate is not Fate.CARRIED)

    def circuit(self, circuit_id: str | None) -> CircuitState | None:
        """The circuit of that id; none where there is none."""
        return next((circuit for circuit in self.circuits if circuit.id == circuit_id), None)


def leg_of_slot(slot: int, legs: tuple[Leg, ...]) -> Leg:
    """Leg of a slot: two by two down the panel.

    >>> [leg_of_slot(slot, (Leg.A, Leg.B)).value for slot in (1, 2, 3, 4, 5)]
    ['A', 'A', 'B', 'B', 'A']
    """
    return legs[(slot - 1) // 2 % len(legs)]


def own_leg(circuit: Circuit, legs: tuple[Leg, ...]) -> Leg:
    """Leg of its (upper) pole in the main panel."""
    return circuit.leg or leg_of_slot(circuit.slot, legs)


def legs_of(circuit: Circuit, legs: tuple[Leg, ...], *, on_backup: bool) -> tuple[Leg, ...]:
    """Legs it stands on, in the main panel or on the backed-up side."""
    if len(legs) > 1 and circuit.poles == 2:
        return legs
    if on_backup and circuit.backup_leg is not None:
        return (circuit.backup_leg,)
    return (own_leg(circuit, legs),)


def positions_of(design: Design) -> dict[str, tuple[int, ...]]:
    """Positions of the backed-up circuits on the transfer device, by circuit id; those without room are left out.

    Odd positions are on leg A and even ones on leg B; two-pole circuits take the first pairs, then each in the order of its
    slot. On a service of one line every circuit takes one. Unlimited where the device's positions are not known.
    """
    transfer, legs = design.transfer, design.site.legs
    most = transfer.device.positions or 2 * len(transfer.circuits)
    wanted = sorted((entry for entry in transfer.circuits if entry.backed_up), key=lambda entry: entry.slot)
    if len(legs) == 1:
        return {entry.id: (number,) for number, entry in enumerate(wanted[:most], 1)}
    free = {leg: [number for number in range(1, most + 1) if leg_of_position(number) is leg] for leg in legs}
    found: dict[str, tuple[int, ...]] = {}
    for entry in sorted(wanted, key=lambda entry: -entry.poles):
        on = legs_of(entry, legs, on_backup=True)
        if all(free[leg] for leg in on):
            found[entry.id] = tuple(free[leg].pop(0) for leg in on)
    return found


def leg_of_position(number: int) -> Leg:
    """Leg of a position of a transfer device with two legs."""
    return Leg.A if number % 2 else Leg.B


def has_positions(kind: ArrangementKind | None) -> bool:
    """Whether the backed-up circuits stand in a device or panel of their own."""
    return kind is not None and kind not in CORDS and kind not in WHOLE_PANEL


def fates_of(design: Design) -> Fates:
    """What becomes of each circuit and load of a design; kept while other parts are edited."""
    return _fates(narrowed(design, "kind", "site", "loads", "inverter", "transfer"), None)


def live_on_generator(design: Design) -> Fates | None:
    """The circuits and loads that are dead on the inverter's supply and live while the generator runs; none where it changes nothing."""
    supply = generator_supply(design)
    if supply is None:
        return None
    fates = fates_of(design)
    other = _fates(narrowed(design, "kind", "site", "loads", "inverter", "transfer"), supply)
    circuits = tuple(
        there for here, there in zip(fates.circuits, other.circuits, strict=True) if _comes_alive(here.fate, there.fate)
    )
    loads = tuple(
        there for here, there in zip(fates.loads, other.loads, strict=True) if _comes_alive(here.fate, there.fate)
    )
    return Fates(supply=supply, circuits=circuits, loads=loads) if circuits or loads else None


def _comes_alive(here: Fate, there: Fate) -> bool:
    return here is Fate.DEAD and there is Fate.CARRIED


def told_with_generator(design: Design) -> Fates:
    """What becomes of each circuit and load, with a word at those that live while the generator runs."""
    fates, found = fates_of(design), live_on_generator(design)
    if found is None:
        return fates
    circuits, loads = {each.id for each in found.circuits}, {each.id for each in found.loads}
    word = "; live while the generator runs"
    return replace(
        fates,
        circuits=tuple(replace(each, why=each.why + word) if each.id in circuits else each for each in fates.circuits),
        loads=tuple(replace(each, why=each.why + word) if each.id in loads else each for each in fates.loads),
    )


@lru_cache(maxsize=64)
def _fates(design: Design, given: Supply | None) -> Fates:
    supply, kind = given or supply_of(design), design.transfer.arrangement
    positions = positions_of(design) if has_positions(kind) else {}
    by_circuit: dict[str, list[Load]] = {circuit.id: [] for circuit in design.transfer.circuits}
    roots = {load.id: design.transfer.root_of(load.circuit) for load in design.loads if load.supply.is_ac}
    for load in design.loads:
        root = roots.get(load.id)
        if root in by_circuit:
            by_circuit[root].append(load)
    circuits = tuple(
        _circuit_state(entry, kind, supply, positions, tuple(by_circuit[entry.id]), has_grid=not design.site.off_grid)
        for entry in design.transfer.circuits
    )
    states = {state.id: state for state in circuits}
    loads = tuple(_load_fate(load, kind, supply, states, roots[load.id]) for load in design.loads if load.supply.is_ac)
    return Fates(supply=supply, circuits=circuits, loads=loads)


def _circuit_state(
    entry: Circuit,
    kind: ArrangementKind | None,
    supply: Supply,
    positions: dict[str, tuple[int, ...]],
    loads: tuple[Load, ...],
    *,
    has_grid: bool,
) -> CircuitState:
    apart = has_positions(kind)
    backup_legs = legs_of(entry, supply.legs, on_backup=apart)
    fate, why = _circuit_fate(
        entry, kind, supply, backup_legs, has_room=not apart or entry.id in positions, has_grid=has_grid
    )
    running_w = max(map(sum, zip(*map(_by_hour, loads), strict=True)), default=0.0)
    volts = supply.line_v * (2 if entry.poles == 2 and supply.is_split else 1)
    return CircuitState(
        id=entry.id,
        fate=fate,
        why=why,
        slots=entry.slots(stacked=supply.is_split),
        legs=legs_of(entry, supply.legs, on_backup=False),
        backup_legs=backup_legs,
        positions=positions.get(entry.id, ()),
        loads=tuple(load.id for load in loads),
        running_w=running_w,
        current_a=running_w / volts,
    )


@lru_cache(maxsize=8192)
def _by_hour(load: Load) -> tuple[float, ...]:
    """Running watts of a load in each hour of the day, its standby outside its hours [W]; kept while other rows are edited."""
    return tuple(load.quantity * (load.running_w if is_on else load.standby_w) for is_on in load.on_by_hour)


def _circuit_fate(
    entry: Circuit,
    kind: ArrangementKind | None,
    supply: Supply,
    legs: tuple[Leg, ...],
    *,
    has_room: bool,
    has_grid: bool,
) -> tuple[Fate, str]:
    if kind is None:
        return Fate.CARRIED, ""
    if kind in CORDS:
        return Fate.ON_GRID, "cords touch no circuit of the house"
    if not entry.backed_up:
        return Fate.ON_GRID, _LEFT_OUT.get(kind, "kept on the grid" if has_grid else "switched off for good")
    if not has_room:
        return Fate.ON_GRID, "no position left for it"
    if supply.is_split and entry.poles == 2 and not supply.across:
        return Fate.DEAD, "two poles on one 120 V supply"
    if any(leg not in supply.live for leg in legs):
        return Fate.DEAD, f"leg {legs[0].value} is not energised"
    return Fate.CARRIED, ""


def _load_fate(
    load: Load, kind: ArrangementKind | None, supply: Supply, circuits: dict[str, CircuitState], root: str | None
) -> LoadFate:
    """What becomes of a load by the circuit of the main panel that feeds it in the end."""
    state = circuits.get(root or "")
    unplaced = kind is not None and kind not in CORDS and bool(circuits) and state is None
    fate, why = Fate.CARRIED, ""
    if kind in CORDS:
        if load.hard_wired:
            fate, why = Fate.ON_GRID, "wired in, no cord reaches it"
    elif kind is not None and state is not None:
        fate, why = state.fate, state.why
    if (
        kind is not None
        and fate is Fate.CARRIED
        and load.supply is LoadSupply.AC_240
        and supply.is_split
        and not supply.across
    ):
        fate, why = Fate.DEAD, "240 V from one 120 V supply"
    return LoadFate(
        id=load.id,
        name=load.name,
        fate=fate,
        why=why,
        circuit=None if state is None else state.id,
        running_w=load.quantity * load.running_w,
        unplaced=unplaced,
    )
