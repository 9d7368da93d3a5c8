"""Trials: a design against an outage from every hour of its weather year, and against those of the past."""

from __future__ import annotations

import json
import uuid
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, TypeAdapter

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.designs import Repository
from hearthkeep.api.jobs import JobState, Kept, Queue, begin, end, newest_of, state_of
from hearthkeep.api.sheets import TableIn, workbook_in
from hearthkeep.core.prove import Proof
from hearthkeep.core.trials import Failures, OneMoreOfEach, Reach, Reliability
from hearthkeep.engine import engine_version
from hearthkeep.exchange import OutagePreview
from hearthkeep.store import Job, Jobs
from hearthkeep.workers import Workers, long_tasks, tasks
from hearthkeep.workers.long_tasks import LongTrial, Trial

router = APIRouter(prefix="/api", tags=["trials"])
_LONG_TRIAL = TypeAdapter(LongTrial)


class TrialJob(JobState):
    """A trial of a large design as it stands; its answers are pieces of it."""

    trial: Trial
    reach: Reach


class TrialFound(BaseModel):
    """What a trial that was a job came to: one of the three, by what was asked."""

    proof: Proof | None = None
    failures: Failures | None = None
    one_more: OneMoreOfEach | None = None


#: Wait for the answer however long it takes.
Wait = Annotated[bool, Query()]
_LONG: dict[int | str, dict[str, object]] = {202: {"model": LongTrial}}
_JSON = "application/json"


async def _tried(workers: Workers, document: bytes, trial: Trial, reach: Reach, wait: bool) -> Response:
    """The answer, or 202 with how long it takes where that is too long to be waited for."""
    found = await workers.run_long(long_tasks.tried, document, trial, reach, wait)
    if isinstance(found, LongTrial):
        return Response(_LONG_TRIAL.dump_json(found), status_code=202, media_type=_JSON)
    return Response(found, media_type=_JSON)


@router.post("/trials", response_model=Proof, responses=_LONG, openapi_extra=DESIGN_BODY)
async def try_year(
    document: DocumentBytes, workers: Helpers, reach: Reach = Reach.WEEK, wait: Wait = False
) -> Response:
    """Shares carried by month and length, the chance of lasting so long, the worst starts, and what is to be said about them; nothing is stored."""
    return await _tried(workers, document, Trial.YEAR, reach, wait)


@router.post("/trials/failures", response_model=Failures, responses=_LONG, openapi_extra=DESIGN_BODY)
async def try_failures(document: DocumentBytes, workers: Helpers, wait: Wait = False) -> Response:
    """The planned outage and the year's with one thing wrong, for each that may be, the worst first."""
    return await _tried(workers, document, Trial.FAILURES, Reach.WEEK, wait)


@router.post("/trials/one-more", response_model=OneMoreOfEach, responses=_LONG, openapi_extra=DESIGN_BODY)
async def try_one_more(document: DocumentBytes, workers: Helpers, wait: Wait = False) -> Response:
    """The planned outage and the year's with one more of each part, in hours, starts and per money."""
    return await _tried(workers, document, Trial.ONE_MORE, Reach.WEEK, wait)


def _trial_job(job: Job) -> TrialJob:
    return TrialJob(**state_of(job), trial=Trial(job.kind), reach=Reach(job.question["reach"]))


@router.post("/designs/{design_id}/trial-jobs", status_code=201)
async def ask_trial(
    design_id: uuid.UUID,
    trial: Trial,
    designs: Repository,
    jobs: Kept,
    workers: Helpers,
    request: Request,
    reach: Reach = Reach.WEEK,
) -> TrialJob:
    """A trial of the design as it is saved, as a job; one that has been asked already and still holds is given back."""
    revision, document = await newest_of(designs, design_id)
    question = {"trial": trial.value, "reach": reach.value}
    for job in await run_in_threadpool(jobs.of_design, design_id, trial.value):
        holds = not (job.is_stale(engine_version()) or job.cancelled or job.fault)
        if holds and job.question == question:
            return _trial_job(job)
    total = await workers.run_long(long_tasks.pieces_of_trial, document, json.dumps(question).encode())
    return _trial_job(await begin(request, design_id, revision, kind=trial.value, question=question, total=total))


@router.get("/designs/{design_id}/trial-jobs")
def list_trials(design_id: uuid.UUID, trial: Trial, jobs: Kept) -> list[TrialJob]:
    """The design's jobs of one trial, the last first."""
    return [_trial_job(job) for job in jobs.of_design(design_id, trial.value)]


def _of_trial(jobs: Jobs, job_id: uuid.UUID) -> Job:
    job = jobs.get(job_id)
    if job.kind not in set(Trial):
        raise HTTPException(404, f"There is no trial {job_id}.")
    return job


@router.get("/trial-jobs/{job_id}")
def trial_progress(job_id: uuid.UUID, jobs: Kept) -> TrialJob:
    """How far a trial is."""
    return _trial_job(_of_trial(jobs, job_id))


@router.get("/trial-jobs/{job_id}/answer", response_model=TrialFound)
async def trial_answer(job_id: uuid.UUID, jobs: Kept, workers: Helpers) -> Response:
    """What a trial came to, once all of its pieces are there."""
    job = await run_in_threadpool(_of_trial, jobs, job_id)
    if job.done < job.total:
        raise HTTPException(409, f"The trial is not finished: {job.done:,} of {job.total:,} pieces are there.")
    document = (await run_in_threadpool(jobs.document, job)).encode()
    answers = list(await run_in_threadpool(jobs.answers, job_id))
    found = await workers.run_long(long_tasks.trial_reported, document, json.dumps(job.question).encode(), answers)
    name = {Trial.YEAR: b"proof", Trial.FAILURES: b"failures", Trial.ONE_MORE: b"one_more"}[Trial(job.kind)]
    return Response(b'{"' + name + b'":' + found + b"}", media_type=_JSON)


@router.post("/trial-jobs/{job_id}/cancel")
def cancel_trial(job_id: uuid.UUID, jobs: Kept, queue: Queue) -> TrialJob:
    """Leave a trial as it stands."""
    return _trial_job(end(jobs, queue, _of_trial(jobs, job_id).id))


@router.post("/outage-record/preview")
async def preview_record(sheet: TableIn, workers: Helpers) -> OutagePreview:
    """Past outages in a sheet: start, and end or length; nothing is stored."""
    return await workers.read(tasks.outages_of, sheet.text, workbook_in(sheet), datetime.now())


@router.post("/trials/record", response_model=Reliability, openapi_extra=DESIGN_BODY)
async def try_record(document: DocumentBytes, workers: Helpers) -> Response:
    """The record's outages, and the utility's usual ones, without this design and with it."""
    return Response(await workers.run(tasks.recorded, document), media_type="application/json")
