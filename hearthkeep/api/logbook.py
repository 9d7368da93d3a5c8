"""Installations and their logs: entries come one by one or many at once, each kept once however often it is sent."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Query, Request
from pydantic import BaseModel, Field

from hearthkeep.core.design import FIRST_YEAR, LAST_YEAR, AwareMoment, Line, Name
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.logbook import happened_at, read_entry
from hearthkeep.store import Installation, KeptEntry, Logbook, NewEntry, Readings, together
from hearthkeep.workers.log_tasks import hand_series, trouble_of

router = APIRouter(prefix="/api", tags=["logbook"])

#: Entries that are taken at once; a phone that was away longer sends them in several goes.
MOST_AT_ONCE = 500
#: Longest that an entry may have waited by its stop-watch [s].
LONGEST_WAIT_S = 400 * 86_400.0


def logs_of(request: Request) -> Logbook:
    """Put on the application at its start."""
    logs: Logbook = request.app.state.logbook
    return logs


Logs = Annotated[Logbook, Depends(logs_of)]


def readings_of(request: Request) -> Readings:
    """Put on the application at its start."""
    readings: Readings = request.app.state.readings
    return readings


Kept = Annotated[Readings, Depends(readings_of)]


class InstallationName(BaseModel):
    """What an installation is called."""

    name: Name


class SentEntry(BaseModel):
    """One entry as a device sends it."""

    #: Made on the device, so that one sent twice is one.
    id: uuid.UUID
    #: By the device's clock.
    told_at: AwareMoment
    #: So long before the sending, by its stop-watch [s]; none where it was started anew since, or the moment was typed.
    age_s: Annotated[float, Field(ge=0, le=LONGEST_WAIT_S)] | None = None
    who: Line = ""
    body: dict[str, Any]
    strikes: uuid.UUID | None = None


class SentEntries(BaseModel):
    """Entries that a device has gathered, and its clock as it sends them."""

    sent_at: AwareMoment
    entries: Annotated[list[SentEntry], Field(max_length=MOST_AT_ONCE)]


class EntriesTaken(BaseModel):
    """What became of entries that were sent."""

    added: int
    #: Here already: sent before.
    known: int
    #: How far the device's clock is from this one [s].
    clock_off_s: float


@router.get("/designs/{design_id}/installations")
def installations(logs: Logs, design_id: uuid.UUID) -> list[Installation]:
    """What is built from a design, the first begun first."""
    return list(logs.installations(design_id))


@router.post("/designs/{design_id}/installations", status_code=201)
def begin(logs: Logs, design_id: uuid.UUID, named: InstallationName) -> Installation:
    """Begin the record of an installation."""
    return logs.begin(design_id, named.name)


@router.put("/installations/{installation_id}/name", status_code=204)
def rename(logs: Logs, installation_id: uuid.UUID, named: InstallationName) -> None:
    """Call it something else."""
    logs.rename(installation_id, named.name)


@router.get("/installations/{installation_id}/entries")
def entries(
    logs: Logs,
    installation_id: uuid.UUID,
    kind: Annotated[list[str] | None, Query(max_length=40)] = None,
    newest: Annotated[int, Query(ge=1, le=5_000)] = 1_000,
) -> list[KeptEntry]:
    """Entries, oldest first; of some kinds, and so many of the newest."""
    kept = logs.entries(installation_id, kinds=tuple(kind or ()), newest=newest)
    return [replace(entry, trouble=trouble_of(entry.at, entry.body)) for entry in kept]


@router.post("/installations/{installation_id}/entries")
def take(request: Request, logs: Logs, readings: Kept, installation_id: uuid.UUID, sent: SentEntries) -> EntriesTaken:
    """Keep entries; each is kept once, and at the time it happened even where the device's clock is wrong."""
    now = datetime.now(UTC)
    made = [_made(each, at, sent.sent_at, now) for at, each in enumerate(sent.entries)]
    with together(request.app.state.engine):
        new = logs.add(installation_id, made)
        for entry in made:
            if entry.id not in new:
                continue
            if entry.kind == "reading":
                readings.add(installation_id, hand_series(entry.body["values"], entry.body["part"], entry.at))
            struck = logs.entry(installation_id, entry.strikes) if entry.strikes else None
            if struck is not None and struck.kind == "reading":
                readings.remove(installation_id, hand_series(struck.body["values"], struck.body["part"], struck.at))
    return EntriesTaken(added=len(new), known=len(made) - len(new), clock_off_s=(sent.sent_at - now).total_seconds())


def _made(sent: SentEntry, at: int, sent_at: datetime, now: datetime) -> NewEntry:
    if sent.body.get("kind") == "gate":
        accepted = "must not be a gate: gates are signed one by one, so that what must come before is checked"
        raise InputError((FieldProblem(field=f"entries.{at}.body.kind", value="gate", accepted=accepted),))
    try:
        body = read_entry(sent.body)
    except InputError as error:
        raise InputError(
            tuple(
                FieldProblem(field=f"entries.{at}.body.{each.field}", value=each.value, accepted=each.accepted)
                for each in error.problems
            )
        ) from None
    happened = happened_at(sent.told_at, sent_at=sent_at, received_at=now, age_s=sent.age_s)
    if not FIRST_YEAR <= happened.year <= LAST_YEAR:
        accepted = f"must be a moment in the years {FIRST_YEAR} to {LAST_YEAR} by the clock that it is sent with"
        raise InputError((FieldProblem(field=f"entries.{at}.told_at", value=str(sent.told_at), accepted=accepted),))
    return NewEntry(
        id=sent.id,
        kind=body.kind,
        at=happened,
        told_at=sent.told_at,
        who=sent.who,
        body=body.model_dump(mode="json"),
        strikes=sent.strikes,
    )
