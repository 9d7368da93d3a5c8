"""The power path: what is joined to what in each position, and in every combination that nothing prevents.

Nodes are joined by contacts. An interlock lets one contact of a group be closed at a time; without it each may stand as it
likes. A supply that follows another gives way to it; two that each make their own voltage must never be joined.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations

from hearthkeep.core.design import ArrangementKind, Bypass, Design, GeneratorAt, Interlock


class ContactKind(StrEnum):
    """What joins two nodes."""

    BREAKER = "breaker"
    SWITCH = "switch"
    #: Inside the inverter: closed, the inverter follows what it is joined to.
    RELAY = "relay"
    CORD = "cord"
    #: A conductor that is always there.
    FIXED = "fixed"
    #: Passes energy one way only, through the bank: no path for what stands behind it.
    CHARGER = "charger"


@dataclass(frozen=True, kw_only=True, slots=True)
class Node:
    """A place in the picture, in a field 100 wide."""

    key: str
    label: str
    x: float
    y: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Contact:
    """What joins two nodes, by their keys."""

    key: str
    start: str
    end: str
    label: str
    kind: ContactKind


@dataclass(frozen=True, kw_only=True, slots=True)
class Position:
    """One position of the arrangement: which contacts are closed, and what stands on each node."""

    name: str
    closed: tuple[str, ...]
    #: By node: grid, backup, generator, or empty for nothing.
    live: dict[str, str]


@dataclass(frozen=True, kw_only=True, slots=True)
class Hazard:
    """Two supplies that can be joined, and the contacts that do it."""

    first: str
    second: str
    closed: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class PowerPath:
    """An arrangement as nodes and contacts."""

    nodes: tuple[Node, ...]
    contacts: tuple[Contact, ...]
    positions: tuple[Position, ...]
    #: Contacts of which one at a time can be closed.
    interlocked: tuple[tuple[str, ...], ...]
    hazards: tuple[Hazard, ...]


#: Nodes that make or bring a voltage of their own, and what they are called.
SUPPLIES = {"grid": "grid", "source": "backup", "generator": "generator"}
#: Positions in which the grid is out.
IN_OUTAGE = ("backup", "generator")


class _Draft:
    """An arrangement while it is put together."""

    def __init__(self) -> None:
        self.nodes: list[Node] = []
        self.contacts: list[Contact] = []
        self.positions: list[tuple[str, tuple[str, ...]]] = []
        self.groups: list[tuple[str, ...]] = []

    def node(self, key: str, label: str, x: float, y: float) -> None:
        self.nodes.append(Node(key=key, label=label, x=x, y=y))

    def contact(self, key: str, start: str, end: str, label: str, kind: ContactKind) -> None:
        self.contacts.append(Contact(key=key, start=start, end=end, label=label, kind=kind))

    def position(self, name: str, *closed: str) -> None:
        self.positions.append((name, closed))

    def house(self) -> None:
        """Grid and main panel."""
        self.node("grid", "Grid", 12, 12)
        self.node("main", "Main panel", 50, 12)
        self.contact("main_breaker", "grid", "main", "main", ContactKind.BREAKER)


def power_path(design: Design, kind: ArrangementKind) -> PowerPath:
    """The power path of an arrangement with the devices the design names."""
    draft = _Draft()
    _BUILDERS[kind](design, draft)
    contacts = tuple(draft.contacts)
    return PowerPath(
        nodes=tuple(draft.nodes),
        contacts=contacts,
        positions=tuple(
            Position(
                name=name,
                closed=closed,
                live=_live(contacts, draft.nodes, _always(contacts) | set(closed), grid_is_up=name not in IN_OUTAGE),
            )
            for name, closed in draft.positions
        ),
        interlocked=tuple(draft.groups),
        hazards=tuple(_hazards(contacts, tuple(draft.groups))),
    )


def _cords(design: Design, draft: _Draft) -> None:
    draft.house()
    draft.node("source", "Portable unit", 50, 42)
    draft.node("backup", "Loads on cords", 88, 42)
    guarded = design.transfer.grounding.residual_current
    draft.contact("cord", "source", "backup", "30 mA protection" if guarded else "cords", ContactKind.CORD)
    draft.position("grid", "main_breaker")
    if design.transfer.device.into_outlet:
        draft.contact("outlet", "source", "main", "cord into an outlet", ContactKind.CORD)
        draft.position("backup", "outlet")
    else:
        draft.position("backup", "cord")


def _inlet(design: Design, draft: _Draft) -> None:
    draft.house()
    draft.node("source", "Portable unit", 50, 42)
    draft.node("backup", "House circuits", 88, 12)
    draft.contact("inlet", "source", "main", "inlet breaker", ContactKind.BREAKER)
    draft.contact("circuits", "main", "backup", "", ContactKind.FIXED)
    if design.transfer.device.interlock is Interlock.MECHANICAL:
        draft.groups.append(("main_breaker", "inlet"))
    draft.position("grid", "main_breaker")
    draft.position("backup", "inlet")


def _manual_switch(design: Design, draft: _Draft) -> None:
    draft.house()
    draft.node("source", "Backup supply", 50, 42)
    draft.node("backup", "Switched circuits", 88, 26)
    draft.contact("line", "main", "backup", "line", ContactKind.SWITCH)
    draft.contact("supply", "source", "backup", "backup", ContactKind.SWITCH)
    if design.transfer.device.interlock is Interlock.MECHANICAL:
        draft.groups.append(("line", "supply"))
    draft.position("grid", "main_breaker", "line")
    draft.position("backup", "supply")


def _critical_panel(design: Design, draft: _Draft) -> None:
    draft.house()
    draft.node("source", "Inverter/charger", 50, 42)
    draft.node("backup", "Critical panel", 88, 42)
    draft.contact("relay", "main", "source", "its relay", ContactKind.RELAY)
    draft.contact("out", "source", "backup", "output", ContactKind.BREAKER)
    draft.position("grid", "main_breaker", "relay", "out")
    draft.position("backup", "out")
    _bypass(design, draft)
    _generator(design, draft)


def _moved_circuits(design: Design, draft: _Draft) -> None:
    draft.house()
    draft.node("source", "All-in-one", 50, 42)
    draft.node("backup", "Moved circuits", 88, 42)
    draft.contact("charger", "main", "source", "charger input", ContactKind.CHARGER)
    draft.contact("out", "source", "backup", "output", ContactKind.BREAKER)
    draft.position("grid", "main_breaker", "charger", "out")
    draft.position("backup", "out")
    _bypass(design, draft)


def _automatic(design: Design, draft: _Draft) -> None:
    draft.node("grid", "Grid", 12, 12)
    draft.node("main", "Main panel", 52, 26)
    draft.node("source", "Backup supply", 12, 42)
    draft.node("backup", "House circuits", 88, 26)
    draft.contact("normal", "grid", "main", "normal", ContactKind.SWITCH)
    draft.contact("emergency", "source", "main", "emergency", ContactKind.SWITCH)
    draft.contact("circuits", "main", "backup", "", ContactKind.FIXED)
    if design.transfer.device.interlock is Interlock.MECHANICAL:
        draft.groups.append(("normal", "emergency"))
    draft.position("grid", "normal")
    draft.position("backup", "emergency")


def _ac_coupled(design: Design, draft: _Draft) -> None:
    _critical_panel(design, draft)
    _array(design, draft)


def _array(design: Design, draft: _Draft) -> None:
    """A grid-tied array on the backed-up side, or on the main panel."""
    unit = design.charging.grid_tied
    if unit is not None:
        on_backup = unit.on_backup_panel or design.site.off_grid
        draft.node("array", "Grid-tied array", *((88, 68) if on_backup else (50, -14)))
        draft.contact("array", "array", "backup" if on_backup else "main", "array breaker", ContactKind.FIXED)


def _own_panel(design: Design, draft: _Draft) -> None:
    draft.node("source", "Inverter", 50, 26)
    draft.node("backup", "House panel", 88, 26)
    draft.contact("out", "source", "backup", "output", ContactKind.BREAKER)
    draft.position("backup", "out")
    _array(design, draft)
    generator, device = design.charging.generator, design.transfer.device
    if generator is None or generator.charges_only:
        return
    if device.generator_at is GeneratorAt.INVERTER_INPUT:
        draft.node("generator", "Generator", 12, 26)
        draft.contact("generator", "generator", "source", "its relay", ContactKind.RELAY)
        draft.position("generator", "generator", "out")
        return
    draft.node("generator", "Generator", 50, 64)
    draft.contact("generator", "generator", "backup", "breaker", ContactKind.BREAKER)
    if device.interlock is Interlock.MECHANICAL:
        draft.groups.append(("out", "generator"))
    draft.position("generator", "generator")


_BUILDERS: dict[ArrangementKind, Callable[[Design, _Draft], None]] = {
    ArrangementKind.CORDS: _cords,
    ArrangementKind.INLET: _inlet,
    ArrangementKind.MANUAL_SWITCH: _manual_switch,
    ArrangementKind.CRITICAL_PANEL: _critical_panel,
    ArrangementKind.MOVED_CIRCUITS: _moved_circuits,
    ArrangementKind.AUTOMATIC: _automatic,
    ArrangementKind.AC_COUPLED: _ac_coupled,
    ArrangementKind.PORTABLE_METRIC: _cords,
    ArrangementKind.OWN_PANEL: _own_panel,
}


def _bypass(design: Design, draft: _Draft) -> None:
    bypass = design.transfer.device.bypass
    if bypass is Bypass.NONE:
        return
    draft.contact("bypass", "main", "backup", "bypass", ContactKind.SWITCH)
    if bypass is Bypass.INTERLOCKED:
        draft.groups.append(("out", "bypass"))
    draft.position("bypass", "main_breaker", "bypass")


def _generator(design: Design, draft: _Draft) -> None:
    generator = design.charging.generator
    if generator is None or generator.charges_only:
        return
    at_input = design.transfer.device.generator_at is GeneratorAt.INVERTER_INPUT
    draft.node("generator", "Generator", *((12, 42) if at_input else (50, 64)))
    if at_input:
        draft.contact("generator", "generator", "source", "its relay", ContactKind.RELAY)
        # The inverter's own relay takes one input at a time.
        draft.groups.append(("relay", "generator"))
        draft.position("generator", "generator", "out")
    else:
        draft.contact("generator", "generator", "backup", "breaker", ContactKind.BREAKER)


def _always(contacts: tuple[Contact, ...]) -> set[str]:
    return {contact.key for contact in contacts if contact.kind is ContactKind.FIXED}


def _joined(contacts: tuple[Contact, ...], closed: set[str], start: str) -> set[str]:
    """Nodes joined to one through closed contacts."""
    found, open_ = {start}, [start]
    while open_:
        here = open_.pop()
        for contact in contacts:
            if contact.key not in closed or contact.kind is ContactKind.CHARGER:
                continue
            for one, other in ((contact.start, contact.end), (contact.end, contact.start)):
                if one == here and other not in found:
                    found.add(other)
                    open_.append(other)
    return found


def _makes_voltage(contacts: tuple[Contact, ...], closed: set[str], node: str) -> bool:
    """Whether a supply makes its own voltage: the inverter does not while its relay joins it to another supply."""
    if node != "source":
        return True
    others = {contact.start for contact in contacts if contact.kind is ContactKind.RELAY and contact.key in closed}
    return not any(
        supply in _joined(contacts, closed, other) for other in others for supply in SUPPLIES if supply != "source"
    )


def _live(contacts: tuple[Contact, ...], nodes: list[Node], closed: set[str], *, grid_is_up: bool) -> dict[str, str]:
    """What stands on each node; the array follows whatever is there."""
    found = {node.key: "" for node in nodes}
    for node, name in SUPPLIES.items():
        if node in found and (grid_is_up or node != "grid") and _makes_voltage(contacts, closed, node):
            for reached in _joined(contacts, closed, node):
                found[reached] = found[reached] or name
    return found


def _hazards(contacts: tuple[Contact, ...], groups: tuple[tuple[str, ...], ...]) -> Iterator[Hazard]:
    """Supplies that can be joined, each pair once, with the fewest contacts that do it."""
    loose = [contact.key for contact in contacts if contact.kind not in (ContactKind.FIXED, ContactKind.CHARGER)]
    always, told = _always(contacts), set()
    there = {contact.start for contact in contacts} | {contact.end for contact in contacts}
    for count in range(len(loose) + 1):
        for picked in combinations(loose, count):
            if any(len(set(group) & set(picked)) > 1 for group in groups):
                continue
            closed = always | set(picked)
            making = [node for node in SUPPLIES if node in there and _makes_voltage(contacts, closed, node)]
            for first, second in combinations(making, 2):
                if (first, second) not in told and second in _joined(contacts, closed, first):
                    told.add((first, second))
                    yield Hazard(first=first, second=second, closed=picked)
