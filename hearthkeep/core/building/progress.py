"""How far an installation is: which gates are passed, skipped or open, and what has to come before each."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from hearthkeep.core.building.forbidden import forbidden_of
from hearthkeep.core.building.gate import Gate, Moment
from hearthkeep.core.building.judge import Judgement
from hearthkeep.core.design import ONE_LINE, SOME_LINE, DesignPart, Line, Note
from hearthkeep.core.errors import FieldProblem, InputError

#: Most readings of one gate that are kept.
MOST_READINGS = 600

Key = Annotated[str, StringConstraints(min_length=1, max_length=120, pattern=SOME_LINE)]
GateValue = Annotated[float, Field(strict=True, ge=-1e9, le=1e9, allow_inf_nan=False)]


class Signing(StrEnum):
    """What is said of a gate."""

    PASSED = "passed"
    #: Left out, with what that risks.
    SKIPPED = "skipped"
    #: Taken back.
    REOPENED = "reopened"
    #: Readings alone, nothing signed yet.
    READ = "read"


class GateEntry(DesignPart):
    """What somebody enters at a gate. Nothing is overwritten: the newest entry counts, the others stay."""

    kind: Literal["gate"] = "gate"
    gate: Key
    signing: Signing
    who: Line = ""
    instrument: Line = ""
    #: Who looked a second time at readings that are accepted outside their windows.
    second: Line = ""
    note: Note = ""
    #: Under which the readings were taken; none where nothing is read.
    moment: Moment | None = None
    readings: Annotated[dict[Key, GateValue], Field(default_factory=dict, max_length=MOST_READINGS)]
    #: Mark of the gate as it stood when it was signed, see `mark_of`.
    mark: Annotated[str, StringConstraints(max_length=64, pattern=ONE_LINE)] = ""


class GateStand(StrEnum):
    """Where a gate stands."""

    #: What has to come before is not done.
    WAITS = "waits"
    OPEN = "open"
    PASSED = "passed"
    SKIPPED = "skipped"
    #: Signed, but the design has changed what it asks since.
    CHANGED = "changed"


@dataclass(frozen=True, kw_only=True, slots=True)
class Signed:
    """An entry with its moment, as it is kept."""

    at: datetime
    entry: GateEntry


@dataclass(frozen=True, kw_only=True, slots=True)
class GateProgress:
    """One gate of an installation."""

    key: str
    stand: GateStand
    #: Titles of gates that still have to come before.
    waits_for: tuple[str, ...]
    #: The entry that counts; none while there is none.
    signed: Signed | None


DONE = (GateStand.PASSED, GateStand.SKIPPED)


def mark_of(gate: Gate) -> str:
    """A mark of what a gate asks, the moment's figures left out: it changes when the design changes the gate."""
    parts = [gate.key, gate.title, *gate.do, *(f"{ask.key}|{ask.label}" for ask in gate.asks), *gate.needs]
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()[:16]


def progress_of(gates: Sequence[Gate], entries: Sequence[Signed]) -> tuple[GateProgress, ...]:
    """Where each gate stands by the entries, in any order; of several for one gate the newest counts.

    Entries for gates that the design does not have are left out.
    """
    newest: dict[str, Signed] = {}
    by_key = {gate.key: gate for gate in gates}
    for kept in sorted(entries, key=lambda each: each.at):
        entry = kept.entry
        if entry.gate not in by_key:
            continue
        # Readings alone take no signature back, unless they are deadly.
        counts = entry.signing is not Signing.READ or entry.gate not in newest
        if counts or forbidden_of(by_key[entry.gate], entry.readings):
            newest[entry.gate] = kept
    titles = {gate.key: gate.title for gate in gates}
    stands: dict[str, GateStand] = {}
    found = []
    for gate in gates:
        waits = tuple(titles[need] for need in gate.needs if stands.get(need) not in DONE)
        signed = newest.get(gate.key)
        stand = _stand(gate, signed.entry if signed else None, waits=bool(waits))
        stands[gate.key] = stand
        found.append(GateProgress(key=gate.key, stand=stand, waits_for=waits, signed=signed))
    return tuple(found)


def _stand(gate: Gate, entry: GateEntry | None, *, waits: bool) -> GateStand:
    if entry is not None and entry.signing in (Signing.PASSED, Signing.SKIPPED) and not _is_void(gate, entry):
        if entry.mark and entry.mark != mark_of(gate):
            return GateStand.CHANGED
        return GateStand.PASSED if entry.signing is Signing.PASSED else GateStand.SKIPPED
    return GateStand.WAITS if waits else GateStand.OPEN


def _is_void(gate: Gate, entry: GateEntry) -> bool:
    """Whether what was signed once may not be: a deadly reading among what was read, or a gate that is never left out."""
    if entry.signing is Signing.SKIPPED and not gate.may_be_skipped:
        return True
    return bool(forbidden_of(gate, entry.readings))


def check_signing(gates: Sequence[Gate], entries: Sequence[Signed], entry: GateEntry, judged: Judgement | None) -> None:
    """Refuse what must not be signed; raises InputError that says why.

    A gate is signed only when what comes before it is, with its readings complete, and with a word and a second look on those outside. A
    deadly reading is never signed, and a gate that keeps one away never left out.
    `judged` is what its readings say; none where they could not be judged.
    """
    gate = next((each for each in gates if each.key == entry.gate), None)
    if gate is None:
        raise _refused("gate", entry.gate, f"must be a gate of this design: {', '.join(each.key for each in gates)}")
    known = {ask.key for ask in gate.asks}
    strange = sorted(set(entry.readings) - known)
    if strange:
        raise _refused("readings", ", ".join(strange[:5]), f"must be readings that this gate asks for: {', '.join(sorted(known)) or 'none'}")  # fmt: skip
    if entry.signing not in (Signing.PASSED, Signing.SKIPPED):
        return
    if not entry.who.strip():
        raise _refused("who", "nothing", "must name who signs")
    if judged is not None and judged.forbidden:
        raise _forbidden(gate, entry, judged)
    if entry.signing is Signing.SKIPPED:
        if not gate.may_be_skipped:
            raise _refused("signing", "skipped", "is not offered here: what this gate measures kills where it is wrong. Stop work until it is measured")  # fmt: skip
        if not entry.note.strip():
            raise _refused("note", "nothing", f"must say why it is left out; the risk: {gate.skipping}")
        return
    waits = next(each.waits_for for each in progress_of(gates, entries) if each.key == entry.gate)
    if waits:
        raise _refused("gate", entry.gate, f"must wait for: {', '.join(waits)}")
    if judged is None:
        return
    if judged.open:
        labels = [ask.label for ask in gate.asks if ask.key in judged.open]
        raise _refused("readings", f"{len(entry.readings)} of them", f"must hold every reading asked for; missing: {', '.join(labels[:6])}")  # fmt: skip
    if judged.outside:
        _check_second_look(entry)


def _check_second_look(entry: GateEntry) -> None:
    """A reading outside its window is accepted with a reason, by a second person, with a meter that is named."""
    if not entry.note.strip():
        raise _refused("note", "nothing", "must say why readings outside their windows are accepted")
    second, first = entry.second.strip().casefold(), entry.who.strip().casefold()
    if not second or second == first:
        raise _refused("second", entry.second.strip() or "nothing", "must name a second person who looked at the readings outside")  # fmt: skip
    if not entry.instrument.strip():
        raise _refused("instrument", "nothing", "must name the meter with which the readings outside were taken")


def _forbidden(gate: Gate, entry: GateEntry, judged: Judgement) -> InputError:
    """Every reading that may not be signed away, with what is done at once."""
    asks = {ask.key: ask for ask in gate.asks}
    return InputError(
        tuple(
            FieldProblem(
                field=f"readings.{each.key}",
                value=f"{entry.readings[each.key]:g} {asks[each.key].unit.value}",
                accepted=f"is not accepted at {asks[each.key].label}, whatever is noted. {each.why} Stop work. {each.now}",
            )
            for each in judged.forbidden
        )
    )


def _refused(field: str, value: str, accepted: str) -> InputError:
    return InputError((FieldProblem(field=field, value=value, accepted=accepted),))
