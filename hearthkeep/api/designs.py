"""Stored designs: list, open, save, undo, delete, restore."""

from __future__ import annotations

import asyncio
import contextlib
import json
import re
import uuid
from dataclasses import asdict
from datetime import datetime
from typing import Annotated, Any

from fastapi import APIRouter, Depends, HTTPException, Path, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers, Words, document_of
from hearthkeep.api.held import Held
from hearthkeep.api.summarising import Found, Summarising
from hearthkeep.core.design import Design, Kind, read_design
from hearthkeep.core.design.fields import Name
from hearthkeep.core.errors import InputError
from hearthkeep.engine import engine_version
from hearthkeep.starting import Start, starting_design
from hearthkeep.store import DesignLine, Designs, RevisionInfo, Saved, StoredDesign, Summaries
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/designs", tags=["designs"])

#: Numbers of revisions, as the database keeps them.
MOST_REVISION = 2**31 - 1
Expected = Annotated[int, Query(ge=1, le=MOST_REVISION, description="Revision the change was made on")]
Number = Annotated[int, Path(ge=1, le=MOST_REVISION)]
Key = Annotated[
    uuid.UUID | None, Query(description="Made up by the sender; the same change sent again under it is done once")
]
PER_PAGE = 50
#: For summaries that are not kept yet the list waits no longer [s].
LIST_WAITS_S = 0.3
_MAY_BE_HELD: dict[str, Any] = {"requestBody": {**DESIGN_BODY["requestBody"], "required": False}}


class SummaryFigures(BaseModel):
    """What an assessment comes to in one line."""

    kind: Kind
    place: str
    hours_carried_h: float
    duration_h: float
    daily_wh: float
    bank_wh: float
    stops: int
    mends: int


class DesignSummary(BaseModel):
    """One line of the list of designs."""

    id: uuid.UUID
    name: str
    revision: int
    saved_at: datetime
    deleted_at: datetime | None
    #: None where the design cannot be read or assessed; the trouble says why then, and is empty otherwise.
    figures: SummaryFigures | None
    trouble: str
    #: The figures are still being worked out; to be asked for again.
    is_pending: bool


class DesignPage(BaseModel):
    """Part of the list of designs."""

    designs: list[DesignSummary]
    #: How many there are on all pages.
    total: int


class NewDesign(BaseModel):
    """What a new design starts from; without a name it has its pattern's."""

    start: Start
    name: Name | None = None


class CopyName(BaseModel):
    """A new name."""

    name: Name


def designs_of(request: Request) -> Designs:
    """The repository, put on the application at its start."""
    repository: Designs = request.app.state.designs
    return repository


Repository = Annotated[Designs, Depends(designs_of)]


def summaries_of(request: Request) -> Summaries:
    """The repository, put on the application at its start."""
    repository: Summaries = request.app.state.summaries
    return repository


@router.get("")
async def list_designs(
    request: Request,
    designs: Repository,
    summaries: Annotated[Summaries, Depends(summaries_of)],
    workers: Helpers,
    deleted: bool = False,
    words: Words = "",
    page: Annotated[int, Query(ge=1, le=100_000)] = 1,
    per_page: Annotated[int, Query(ge=1, le=100)] = PER_PAGE,
) -> DesignPage:
    """A page of the designs in use, or of the deleted ones, last saved first; only what has changed since the last look
    is assessed, and what takes longer than a moment is pending. Words are sought in the names."""
    engine = engine_version()
    found = await run_in_threadpool(
        summaries.page, by=engine, deleted=deleted, words=words, first=(page - 1) * per_page, most=per_page
    )

    async def find(line: DesignLine) -> Found:
        values = await run_in_threadpool(designs.values, line.id, line.revision)
        summary, trouble = await workers.run(tasks.summarise, values, line.weather_year)
        if summary is not None:
            await run_in_threadpool(summaries.keep, line, summary, by=engine)
        return summary, trouble

    summarising: Summarising = request.app.state.summarising
    missing = {line.id: summarising.of(line, find) for line in found.lines if line.summary is None}
    if missing:
        await asyncio.wait(missing.values(), timeout=LIST_WAITS_S)

    def shown(line: DesignLine) -> DesignSummary:
        search = missing.get(line.id)
        is_pending = search is not None and not search.done()
        summary, trouble = (line.summary, "") if search is None or is_pending else search.result()
        return DesignSummary(
            id=line.id,
            name=line.name,
            revision=line.revision,
            saved_at=line.saved_at,
            deleted_at=line.deleted_at,
            figures=None if summary is None else SummaryFigures(**asdict(summary)),
            trouble=trouble,
            is_pending=is_pending,
        )

    return DesignPage(designs=[shown(line) for line in found.lines], total=found.total)


@router.post("", status_code=201)
def create_design(designs: Repository, new: NewDesign) -> StoredDesign:
    """A new design from a starting point, as it is listed under /api/starting-points."""
    return designs.create(starting_design(new.start, new.name or ""))


@router.post("/import", status_code=201, openapi_extra=DESIGN_BODY)
async def import_design(designs: Repository, document: DocumentBytes, workers: Helpers) -> StoredDesign:
    """A new design from a Design document."""
    return await run_in_threadpool(designs.create, await workers.run(tasks.check_document, document))


@router.get("/{design_id}")
def open_design(designs: Repository, design_id: uuid.UUID) -> StoredDesign:
    """The newest revision."""
    return designs.get(design_id)


@router.get("/{design_id}/design.json", response_class=Response)
def give_file(designs: Repository, design_id: uuid.UUID) -> Response:
    """The newest revision as a file that opens again here and in `hearth assess`; its format is docs/design-format.md."""
    values = designs.values(design_id)
    # What this version cannot read goes out as it stands, for the version that can.
    with contextlib.suppress(InputError):
        values = read_design(values).model_dump(mode="json")
    return Response(
        json.dumps(values, indent=2, ensure_ascii=False),
        media_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="{file_stem(values)}.json"'},
    )


def file_stem(values: dict[str, Any]) -> str:
    """What a file of a design is called, out of plain letters and digits."""
    return re.sub(r"[^A-Za-z0-9]+", "-", str(values.get("name", ""))).strip("-").lower()[:60] or "design"


@router.get("/{design_id}/revisions")
def history(designs: Repository, design_id: uuid.UUID) -> list[RevisionInfo]:
    """All revisions, newest first."""
    return list(designs.history(design_id))


@router.get("/{design_id}/revisions/{number}")
def open_revision(designs: Repository, design_id: uuid.UUID, number: Number) -> Design:
    """The document of one revision."""
    return designs.revision(design_id, number)


@router.put("/{design_id}", openapi_extra=_MAY_BE_HELD)
async def save_design(
    request: Request,
    designs: Repository,
    workers: Helpers,
    design_id: uuid.UUID,
    expected_revision: Expected,
    key: Key = None,
    held: Annotated[
        str | None, Query(pattern="^[0-9a-f]{32}$", description="Key of a document just assessed; then no body is sent")
    ] = None,
) -> Saved:
    """Save a new revision; refused with 409 when a newer one was saved meanwhile, with 410 when the document is held no
    more and has to be sent."""
    if held is None:
        checked = await workers.run(tasks.check_document, await document_of(request))
    else:
        documents: Held = request.app.state.held
        found = documents.get(held)
        if found is None:
            raise HTTPException(410, "The document is held no more; send it.")
        checked = found
    return await run_in_threadpool(designs.save, design_id, checked, expected_revision=expected_revision, key=key)


@router.post("/{design_id}/undo")
def undo(designs: Repository, design_id: uuid.UUID, expected_revision: Expected, key: Key = None) -> StoredDesign:
    """Go back one state."""
    return designs.undo(design_id, expected_revision=expected_revision, key=key)


@router.post("/{design_id}/redo")
def redo(designs: Repository, design_id: uuid.UUID, expected_revision: Expected, key: Key = None) -> StoredDesign:
    """Go forward one state."""
    return designs.redo(design_id, expected_revision=expected_revision, key=key)


@router.post("/{design_id}/duplicate", status_code=201)
def duplicate(designs: Repository, design_id: uuid.UUID, copy: CopyName) -> Saved:
    """A copy of the newest revision under a new name."""
    return designs.copy(design_id, copy.name)


@router.delete("/{design_id}", status_code=204)
def delete(designs: Repository, design_id: uuid.UUID) -> None:
    """Delete; restore brings it back with its whole history."""
    designs.delete(design_id)


@router.post("/{design_id}/restore")
def restore(designs: Repository, design_id: uuid.UUID) -> Saved:
    """Bring a deleted design back."""
    return designs.restore(design_id)
