"""Kit searches: planned, asked, looked at while they go on, cancelled, kept side by side, and a kit taken as a new design."""

from __future__ import annotations

import json
import uuid
from typing import Annotated

from fastapi import APIRouter, HTTPException, Path, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.api.bodies import RANGES_BODY, Helpers, Ranges
from hearthkeep.api.designs import Repository
from hearthkeep.api.jobs import JobState, Kept, Queue, begin, end, newest_of, state_of
from hearthkeep.api.library import Repository as Units
from hearthkeep.core.kits import MOST_KITS, KitRanges, KitReport
from hearthkeep.store import Job, UnitKind
from hearthkeep.workers import long_tasks

router = APIRouter(tags=["kits"])
KIND = "kits"
KitNumber = Annotated[int, Path(ge=0, lt=MOST_KITS)]


class KitSearch(JobState):
    """One search as it stands; its answers are kits."""

    ranges: KitRanges


class KitSearchFound(BaseModel):
    """A search and its kits so far."""

    search: KitSearch
    report: KitReport


class NewKitDesign(BaseModel):
    """The design that a kit was made into."""

    id: uuid.UUID
    name: str


def _search(job: Job) -> KitSearch:
    return KitSearch(**state_of(job), ranges=KitRanges.model_validate_json(json.dumps(job.question)))


@router.post("/api/designs/{design_id}/kit-searches/plan", openapi_extra=RANGES_BODY)
async def plan_search(
    design_id: uuid.UUID, ranges: Ranges, designs: Repository, workers: Helpers
) -> long_tasks.KitsPlanned:
    """How many kits a search of the design as it is saved would have, and what is left out; nothing is stored."""
    _, document = await newest_of(designs, design_id)
    return await workers.run_long(long_tasks.kits_planned, document, ranges.model_dump_json().encode())


@router.get("/api/designs/{design_id}/kit-searches/usual")
async def usual_search(design_id: uuid.UUID, designs: Repository, library: Units, workers: Helpers) -> KitRanges:
    """The ranges a first search of the design begins with, out of the library's units."""
    _, document = await newest_of(designs, design_id)
    units = await run_in_threadpool(lambda: [library.everything(kind) for kind in UnitKind])
    return await workers.run_long(long_tasks.kits_usual, document, dict(zip(UnitKind, units, strict=True)))


@router.post("/api/designs/{design_id}/kit-searches", status_code=201, openapi_extra=RANGES_BODY)
async def ask_search(
    design_id: uuid.UUID, ranges: Ranges, designs: Repository, workers: Helpers, request: Request
) -> KitSearch:
    """Begin a search of the design as it is saved."""
    revision, document = await newest_of(designs, design_id)
    planned = await workers.run_long(long_tasks.kits_planned, document, ranges.model_dump_json().encode())
    question = ranges.model_dump(mode="json")
    return _search(await begin(request, design_id, revision, kind=KIND, question=question, total=planned.kits))


@router.get("/api/designs/{design_id}/kit-searches")
def list_searches(design_id: uuid.UUID, jobs: Kept) -> list[KitSearch]:
    """The design's searches, the last first."""
    return [_search(job) for job in jobs.of_design(design_id, KIND)]


@router.get("/api/kit-searches/{search_id}")
async def look_at_search(search_id: uuid.UUID, jobs: Kept, workers: Helpers) -> KitSearchFound:
    """A search and its kits so far."""
    job = await run_in_threadpool(jobs.get, search_id)
    answers = await run_in_threadpool(jobs.answers, search_id)
    report = await workers.run(long_tasks.kits_reported, json.dumps(job.question).encode(), list(answers))
    return KitSearchFound(search=_search(job), report=report)


@router.get("/api/kit-searches/{search_id}/progress")
def progress(search_id: uuid.UUID, jobs: Kept) -> KitSearch:
    """How far a search is."""
    return _search(jobs.get(search_id))


@router.post("/api/kit-searches/{search_id}/cancel")
def cancel(search_id: uuid.UUID, jobs: Kept, queue: Queue) -> KitSearch:
    """Leave a search as it stands; what it has found is kept."""
    return _search(end(jobs, queue, search_id))


@router.delete("/api/kit-searches/{search_id}", status_code=204)
def forget(search_id: uuid.UUID, jobs: Kept, queue: Queue) -> None:
    """Forget a search and what it found."""
    jobs.delete(search_id)
    queue.drop_dead()


@router.post("/api/kit-searches/{search_id}/kits/{number}", status_code=201)
async def make_design(
    search_id: uuid.UUID, number: KitNumber, jobs: Kept, designs: Repository, workers: Helpers
) -> NewKitDesign:
    """A new design: the one that was searched, as it was then, with one of the kits."""
    job = await run_in_threadpool(jobs.get, search_id)
    if number >= job.total:
        raise HTTPException(404, f"The search has {job.total:,} kits; there is no kit {number}.")
    document = (await run_in_threadpool(jobs.document, job)).encode()
    checked = await workers.run(long_tasks.kit_made, document, json.dumps(job.question).encode(), number)
    made = await run_in_threadpool(designs.create, checked)
    return NewKitDesign(id=made.id, name=checked.name)
