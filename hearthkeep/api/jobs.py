"""What all long work shares on the web: how far it is, and its beginning on a design as it is saved."""

from __future__ import annotations

import contextlib
import uuid
from datetime import datetime
from typing import Annotated, Any

from fastapi import Depends, HTTPException, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.engine import engine_version
from hearthkeep.jobs import JobQueue, OwnWorker
from hearthkeep.store import DatabaseAwayError, Designs, Job, Jobs, NotFoundError
from hearthkeep.workers import BusyError

#: So many jobs of all designs together may be under way or wait.
MOST_LIVE = 24


class JobState(BaseModel):
    """Long work as it stands."""

    id: uuid.UUID
    design_id: uuid.UUID
    #: Of the design that it was asked of, and whether that or the engine has moved on since.
    revision: int
    is_stale: bool
    asked_at: datetime
    #: Answers in all and worked out so far, and what is left of them at the pace of the last seconds [s].
    total: int
    done: int
    remaining_s: float | None
    is_live: bool
    cancelled: bool
    #: Why it could not be finished; empty where it could.
    fault: str


def state_of(job: Job) -> dict[str, Any]:
    """The fields of a job that its state shows."""
    return {
        "id": job.id,
        "design_id": job.design_id,
        "revision": job.revision,
        "is_stale": job.is_stale(engine_version()),
        "asked_at": job.asked_at,
        "total": job.total,
        "done": job.done,
        "remaining_s": job.remaining_s,
        "is_live": job.is_live,
        "cancelled": job.cancelled,
        "fault": job.fault,
    }


def _jobs_of(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


def _queue_of(request: Request) -> JobQueue:
    queue: JobQueue = request.app.state.queue
    return queue


Kept = Annotated[Jobs, Depends(_jobs_of)]
Queue = Annotated[JobQueue, Depends(_queue_of)]


async def newest_of(designs: Designs, design_id: uuid.UUID) -> tuple[int, bytes]:
    """A design's newest revision and its document."""
    stored = await run_in_threadpool(designs.get, design_id)
    if stored.deleted_at is not None:
        raise HTTPException(409, "The design is deleted; restore it first.")
    return stored.revision, stored.document.model_dump_json().encode()


async def begin(
    request: Request, design_id: uuid.UUID, revision: int, *, kind: str, question: dict[str, Any], total: int
) -> Job:
    """Keep a question about a revision of a design, queue its parts, and see to it that somebody works on them."""
    jobs: Jobs = request.app.state.jobs
    queue: JobQueue = request.app.state.queue

    def ask() -> Job:
        waiting = jobs.count_live()
        if waiting >= MOST_LIVE:
            raise BusyError(f"{waiting} searches and trials are under way or wait already; {MOST_LIVE} may.")
        job_id = uuid.uuid4()
        try:
            job = jobs.ask(
                design_id,
                revision,
                engine=engine_version(),
                kind=kind,
                question=question,
                total=total,
                job_id=job_id,
            )
            queue.put(job)
        except DatabaseAwayError:
            # What is not put into the queue is not kept either, also where its row was kept and the answer to that was lost: asked
            # again it stands there once. Where that cannot be done now, the next worker that has nothing to do queues its parts.
            with contextlib.suppress(DatabaseAwayError, NotFoundError):
                jobs.delete(job_id)
            raise
        return job

    job = await run_in_threadpool(ask)
    worker: OwnWorker | None = request.app.state.own_worker
    if worker is not None:
        await run_in_threadpool(worker.wake)
    return job


def end(jobs: Jobs, queue: JobQueue, job_id: uuid.UUID) -> Job:
    """Leave a job as it stands; its parts are no longer waited behind."""
    job = jobs.cancel(job_id)
    queue.drop_dead()
    return job
