"""Watch: where things stand in an outage, how long it lasts, and what to do next. It is asked; it never switches anything."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime

from fastapi import APIRouter, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import Helpers
from hearthkeep.api.designs import Repository
from hearthkeep.api.devices import Polled
from hearthkeep.api.logbook import Logs
from hearthkeep.core.design import AwareMoment, Design
from hearthkeep.core.watch import WatchView
from hearthkeep.papers import FamilyCard
from hearthkeep.store import Logbook
from hearthkeep.workers import watch_tasks
from hearthkeep.workers.log_tasks import LogLine

router = APIRouter(prefix="/api", tags=["watch"])

#: Entries that Watch looks at.
WATCHED_KINDS = ("watch", "forecast", "decision", "event", "reading")
MOST_LINES = 5_000


class WatchQuestion(BaseModel):
    """A design as it stands, and the installation whose outage is looked at; without one only the plan speaks."""

    design: Design
    installation_id: uuid.UUID | None = None
    #: The moment that is looked at; this one where none is given.
    now: AwareMoment | None = None


@router.get("/designs/{design_id}/family-card", response_model=FamilyCard)
async def card(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """The family's card of a design as it is saved, for a telephone that keeps it."""
    stored = await run_in_threadpool(designs.get, design_id)
    return Response(await workers.run(watch_tasks.carded, stored.document, stored.revision), media_type=JSON)


@router.post("/watch", response_model=WatchView)
async def watch(question: WatchQuestion, logs: Logs, workers: Helpers, polled: Polled) -> Response:
    """Everything that Watch says at a moment."""
    lines = await run_in_threadpool(_lines, logs, question.installation_id)
    now = question.now or datetime.now(UTC)
    gathered = None if question.installation_id is None else polled(question.installation_id)
    faults = () if gathered is None else gathered.faults
    found = await workers.run(watch_tasks.watched, question.design, question.installation_id, lines, now, faults)
    return Response(found, media_type=JSON)


def _lines(logs: Logbook, installation_id: uuid.UUID | None) -> list[LogLine]:
    if installation_id is None:
        return []
    kept = logs.entries(installation_id, kinds=WATCHED_KINDS, newest=MOST_LINES)
    return [LogLine(at=entry.at, values=entry.body) for entry in kept if not entry.is_struck]
