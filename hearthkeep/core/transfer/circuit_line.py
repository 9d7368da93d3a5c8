"""A circuit typed in one line: `14 20A 1p fridge and kitchen lights 12 AWG`. What is understood is shown, and what is not."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeVar

from hearthkeep.core.design import MOST_SLOTS, Circuit, Leg
from hearthkeep.core.errors import FieldProblem
from hearthkeep.core.transfer.circuit_words import (
    read_breaker_a,
    read_leg,
    read_poles,
    read_slots,
    read_wire,
)

Value = TypeVar("Value")


@dataclass(frozen=True, kw_only=True, slots=True)
class Hangable:
    """A load that may hang on a circuit."""

    id: str
    name: str
    #: It hangs on one already.
    placed: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelNow:
    """The panel that a line or a sheet is read for."""

    legs: tuple[Leg, ...]
    metric: bool
    slots: int
    circuits: tuple[Circuit, ...] = ()
    loads: tuple[Hangable, ...] = ()

    @property
    def stacked(self) -> bool:
        """Whether it has two columns of slots."""
        return len(self.legs) > 1

    @property
    def taken(self) -> dict[int, Circuit]:
        """The breaker in each slot that has one."""
        return {slot: circuit for circuit in self.circuits for slot in circuit.slots(stacked=self.stacked)}

    def free_slot(self, poles: int) -> int | None:
        """The first slot with room for a breaker of so many poles."""
        taken = self.taken
        for slot in range(1, self.slots + 1):
            wanted = [slot, slot + 2] if poles == 2 and self.stacked else [slot]
            if not any(entry in taken or entry > self.slots for entry in wanted):
                return slot
        return None


@dataclass(frozen=True, kw_only=True, slots=True)
class CircuitEntry:
    """What is understood of a line."""

    circuit: Circuit | None
    #: Loads whose names it holds and that hang nowhere yet.
    loads: tuple[str, ...]
    understood: tuple[str, ...]
    problems: tuple[FieldProblem, ...]


_SLOT = re.compile(r"^#?\d{1,2}(?:\s?[-,/+&]\s?\d{1,2})?\.?(?=\s|$)", re.ASCII)
_A = r"(?<![\w.])"
_Z = r"(?![\w.])"
#: Pieces of a line that say something of a circuit, in the order in which they are looked for; the rest is its name.
_PIECES: tuple[tuple[str, re.Pattern[str]], ...] = (
    (
        "wire",
        re.compile(
            rf"{_A}(?:awg\s?\d{{1,2}}|#\s?\d{{1,2}}|(?:\d{{1,2}}|[1-4]/0)\s?(?:awg|ga(?:uge)?)|1[024]/[234]"
            rf"|\d{{1,3}}(?:[.,]\d{{1,2}})?\s?(?:mm²|mm2|sq\s?mm)){_Z}",
            re.ASCII | re.IGNORECASE,
        ),
    ),
    (
        "breaker_a",
        re.compile(rf"{_A}(?:\d{{1,4}}(?:\.\d)?\s?(?:a|amps?)|[bcd]\d{{1,3}}){_Z}", re.ASCII | re.IGNORECASE),
    ),
    ("poles", re.compile(rf"{_A}(?:[12]\s?-?\s?p(?:oles?)?|(?:single|double)[\s-]pole){_Z}", re.ASCII | re.IGNORECASE)),
    ("volts", re.compile(rf"{_A}(?:240|120|230)\s?v{_Z}", re.ASCII | re.IGNORECASE)),
    ("leg", re.compile(rf"{_A}(?:leg\s?[a-c12]|l[12]){_Z}", re.ASCII | re.IGNORECASE)),
    ("backed_up", re.compile(rf"{_A}(?:backed\s?up|on backup){_Z}", re.ASCII | re.IGNORECASE)),
    ("on_grid", re.compile(rf"{_A}(?:stays on (?:the )?grid|on (?:the )?grid){_Z}", re.ASCII | re.IGNORECASE)),
    ("neutral", re.compile(rf"{_A}shares (?:the )?neutral with #?\d{{1,2}}{_Z}", re.ASCII | re.IGNORECASE)),
)
#: Looks like a quantity and was not understood.
_LEFT_OVER = re.compile(rf"{_A}\d+(?:[.,]\d+)?\s?(?:a|amps?|awg|v|w|kw|mm2?|p|poles?){_Z}", re.ASCII | re.IGNORECASE)


def read_circuit_line(line: str, panel: PanelNow) -> CircuitEntry:
    """Read a circuit from one line; slot first, all else in any order.

    >>> panel = PanelNow(legs=(Leg.A, Leg.B), metric=False, slots=24)
    >>> entry = read_circuit_line("14 20A 1p fridge and kitchen lights 12 AWG", panel)
    >>> entry.circuit.slot, entry.circuit.breaker_a, entry.circuit.wire, entry.circuit.name
    (14, 20.0, '12 AWG', 'fridge and kitchen lights')
    """
    return _Line(line, panel).read()


class _Line:
    def __init__(self, line: str, panel: PanelNow) -> None:
        self.rest = re.sub(r"\s+", " ", line).strip()
        self.panel = panel
        self.problems: list[FieldProblem] = []
        self.understood: list[str] = []

    def read(self) -> CircuitEntry:
        slots = self._slots()
        found = {name: self._piece(name, pattern) for name, pattern in _PIECES}
        breaker_a = self._of("breaker_a", found["breaker_a"], read_breaker_a)
        wire = self._of("wire", found["wire"], lambda text: read_wire(text, metric=self.panel.metric))
        leg = self._of("leg", found["leg"], lambda text: read_leg(text, self.panel.legs))
        poles = self._poles(slots, found["poles"], found["volts"])
        mate = self._mate(found["neutral"])
        for odd in _LEFT_OVER.findall(self.rest):
            self._wrong("line", odd, "was not understood; take it out or write it once")
        name = self.rest.strip(" ,;:-")
        if not name:
            self._wrong("name", "", "says what hangs on it")
        if found["breaker_a"] is None:
            self._wrong("breaker_a", "", "is missing: a breaker in amps, for example 20A")
        slot = self._slot(slots, poles)
        circuit = None
        if not self.problems and slot is not None and breaker_a is not None:
            circuit = Circuit(
                id=f"s{slot}",
                slot=slot,
                name=name[:120],
                breaker_a=breaker_a,
                poles=poles,
                wire=wire,
                leg=leg if poles == 1 else None,
                backed_up=found["backed_up"] is not None,
                shares_neutral_with=mate,
            )
            self._tell(circuit)
        loads = hanging_on(name, self.panel.loads)
        if circuit is not None and loads:
            names = {load.id: load.name for load in self.panel.loads}
            self.understood.append("takes " + ", ".join(names[key] for key in loads))
        return CircuitEntry(
            circuit=circuit,
            loads=loads if circuit else (),
            understood=tuple(self.understood),
            problems=tuple(self.problems),
        )

    def _wrong(self, field: str, value: str, accepted: str) -> None:
        self.problems.append(FieldProblem(field=field, value=value, accepted=accepted))

    def _slots(self) -> tuple[int, ...]:
        found = _SLOT.match(self.rest)
        if found is None:
            return ()
        try:
            slots = read_slots(found[0])
        except ValueError as error:
            self._wrong("slot", found[0], f"must be {error}")
            return ()
        self.rest = self.rest[found.end() :].strip()
        return slots

    def _piece(self, name: str, pattern: re.Pattern[str]) -> str | None:
        found = pattern.search(self.rest)
        if found is None:
            return None
        self.rest = f"{self.rest[: found.start()]} {self.rest[found.end() :]}"
        self.rest = re.sub(r"\s+", " ", self.rest).strip()
        return found[0]

    def _of(self, field: str, text: str | None, reader: Callable[[str], Value]) -> Value | None:
        if text is None:
            return None
        try:
            return reader(text)
        except ValueError as error:
            self._wrong(field, text, f"must be {error}")
            return None

    def _poles(self, slots: tuple[int, ...], text: str | None, volts: str | None) -> int:
        said = self._of("poles", re.sub(r"[\s-]+", " ", text) if text else None, read_poles)
        if len(slots) == 2 and said == 1:
            self._wrong("poles", text or "", "must be 2: two slots are named")
        if volts is not None and volts[:3] == "240" and self.panel.stacked:
            if said == 1:
                self._wrong("poles", text or "", "must be 2 for 240 V")
            return 2
        return 2 if len(slots) == 2 else said or 1

    def _slot(self, slots: tuple[int, ...], poles: int) -> int | None:
        if not slots:
            free = self.panel.free_slot(poles)
            if free is None:
                self._wrong("slot", "", f"is missing, and no slot of {self.panel.slots} is free")
            return free
        if len(slots) == 2 and not self.panel.stacked:
            self._wrong("slot", f"{slots[0]},{slots[1]}", "must be one number: the panel has one column")
        elif len(slots) == 2 and slots[1] - slots[0] != 2:
            self._wrong("slot", f"{slots[0]},{slots[1]}", "of two poles must lie 2 apart, for example 14,16")
        wanted = (slots[0], slots[0] + 2) if poles == 2 and self.panel.stacked else (slots[0],)
        for slot in wanted:
            if slot > min(self.panel.slots, MOST_SLOTS):
                self._wrong("slot", str(slot), f"must be a slot of the panel, 1 to {self.panel.slots}")
            elif slot in self.panel.taken:
                self._wrong("slot", str(slot), f"must be free: {self.panel.taken[slot].name[:40]} stands there")
        return slots[0]

    def _mate(self, text: str | None) -> str | None:
        if text is None:
            return None
        slot = int(re.sub(r"\D", "", text))
        mate = self.panel.taken.get(slot)
        if mate is None:
            self._wrong("neutral", text, f"must name a slot with a circuit (slot {slot} is empty)")
        return mate.id if mate else None

    def _tell(self, circuit: Circuit) -> None:
        places = " and ".join(str(slot) for slot in circuit.slots(stacked=self.panel.stacked))
        self.understood += [
            f"slot {places}",
            f"{circuit.breaker_a:g} A",
            "two poles" if circuit.poles == 2 else "one pole",
            *([circuit.wire] if circuit.wire else []),
            *([f"leg {circuit.leg.value}"] if circuit.leg else []),
            *(["backed up"] if circuit.backed_up else []),
            *(["shares a neutral"] if circuit.shares_neutral_with else []),
            circuit.name,
        ]


#: Words that tell no load from another.
_COMMON = {"and", "the", "with", "for", "off", "room", "new", "old"}


def _words(text: str) -> set[str]:
    """Words of a name, without plural endings."""
    found = re.findall(r"[^\W\d_]{3,}", text.casefold())
    return {word.rstrip("s") if len(word) > 3 else word for word in found} - _COMMON


def hanging_on(name: str, loads: Sequence[Hangable]) -> tuple[str, ...]:
    """Ids of the loads, hanging nowhere yet, whose own name (before any comma) a circuit's name holds.

    >>> hanging_on("fridge and kitchen lights", [Hangable(id="f", name="Fridge, garage"), Hangable(id="m", name="Microwave")])
    ('f',)
    """
    there = _words(name)
    found = []
    for load in loads:
        words = _words(re.split(r"[,(]", load.name)[0])
        if not load.placed and words and words <= there:
            found.append(load.id)
    return tuple(found)
