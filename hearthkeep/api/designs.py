"""Stored designs: list, open, save, undo, delete, restore."""

from __future__ import annotations

import contextlib
import json
import logging
import re
import uuid
from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request, Response
from pydantic import BaseModel

from hearthkeep.api.bodies import DESIGN_BODY, DesignBody
from hearthkeep.api.weather import Repository as Years
from hearthkeep.core.assess import assess
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Design, Kind, read_design
from hearthkeep.core.design.fields import Name
from hearthkeep.core.errors import InputError
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.starting import starting_design
from hearthkeep.engine import engine_version
from hearthkeep.store import DesignLine, Designs, RevisionInfo, StoredDesign, Summaries, Summary, WeatherYears

router = APIRouter(prefix="/api/designs", tags=["designs"])

#: Numbers of revisions, as the database keeps them.
MOST_REVISION = 2**31 - 1
Expected = Annotated[int, Query(ge=1, le=MOST_REVISION, description="Revision the change was made on")]
Number = Annotated[int, Path(ge=1, le=MOST_REVISION)]


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


class NewDesign(BaseModel):
    """What a new design starts from."""

    kind: Kind
    name: Name


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
def list_designs(
    designs: Repository,
    summaries: Annotated[Summaries, Depends(summaries_of)],
    years: Years,
    deleted: bool = False,
) -> list[DesignSummary]:
    """Designs in use, or the deleted ones, last saved first; only what has changed since the last look is assessed."""
    engine, found = engine_version(), []
    for line in summaries.lines(by=engine, deleted=deleted):
        summary, trouble = line.summary, ""
        if summary is None:
            summary, trouble = _summary_or_trouble(designs, line, years)
            if summary is not None:
                summaries.keep(line, summary, by=engine)
        found.append(
            DesignSummary(
                id=line.id,
                name=line.name,
                revision=line.revision,
                saved_at=line.saved_at,
                deleted_at=line.deleted_at,
                figures=None if summary is None else SummaryFigures(**asdict(summary)),
                trouble=trouble,
            )
        )
    return found


def _summary_or_trouble(designs: Designs, line: DesignLine, years: WeatherYears) -> tuple[Summary | None, str]:
    """The summary of a line, or why there is none: one bad document must not hide the others."""
    try:
        document = designs.revision(line.id, line.revision)
    except InputError as error:
        return None, f"It cannot be read here: {'; '.join(str(problem) for problem in error.problems[:2])}."
    try:
        return _summarised(document, years.find(line.weather_year)), ""
    except Exception as error:
        logging.getLogger(__name__).exception("design %s cannot be assessed", line.id)
        return (
            None,
            f"It cannot be assessed ({type(error).__name__}): a figure in it is beyond what can be worked with.",
        )


def _summarised(document: Design, year: WeatherYear | None) -> Summary:
    """Assess a document for the list."""
    assessment = assess(document, year)
    severities = [finding.severity for finding in assessment.findings]
    return Summary(
        kind=document.kind.value,
        place=document.site.place,
        hours_carried_h=assessment.outage.hours_carried_h,
        duration_h=assessment.outage.duration_h,
        daily_wh=assessment.loads.daily_wh,
        bank_wh=assessment.bank.rated_wh,
        stops=severities.count(Severity.STOP),
        mends=severities.count(Severity.MEND),
    )


@router.post("", status_code=201)
def create_design(designs: Repository, new: NewDesign) -> StoredDesign:
    """A new design with nothing in it but sensible starting values."""
    return designs.create(starting_design(new.kind, new.name))


@router.post("/import", status_code=201, openapi_extra=DESIGN_BODY)
def import_design(designs: Repository, document: DesignBody) -> StoredDesign:
    """A new design from a Design document."""
    return designs.create(document)


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
    stem = re.sub(r"[^A-Za-z0-9]+", "-", str(values.get("name", ""))[:200]).strip("-").lower()[:60] or "design"
    return Response(
        json.dumps(values, indent=2, ensure_ascii=False),
        media_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="{stem}.json"'},
    )


@router.get("/{design_id}/revisions")
def history(designs: Repository, design_id: uuid.UUID) -> list[RevisionInfo]:
    """All revisions, newest first."""
    return list(designs.history(design_id))


@router.get("/{design_id}/revisions/{number}")
def open_revision(designs: Repository, design_id: uuid.UUID, number: Number) -> Design:
    """The document of one revision."""
    return designs.revision(design_id, number)


@router.put("/{design_id}", openapi_extra=DESIGN_BODY)
def save_design(
    designs: Repository, design_id: uuid.UUID, document: DesignBody, expected_revision: Expected
) -> StoredDesign:
    """Save a new revision; refused with 409 when a newer one was saved meanwhile."""
    return designs.save(design_id, document, expected_revision=expected_revision)


@router.post("/{design_id}/undo")
def undo(designs: Repository, design_id: uuid.UUID, expected_revision: Expected) -> StoredDesign:
    """Go back one state."""
    return designs.undo(design_id, expected_revision=expected_revision)


@router.post("/{design_id}/redo")
def redo(designs: Repository, design_id: uuid.UUID, expected_revision: Expected) -> StoredDesign:
    """Go forward one state."""
    return designs.redo(design_id, expected_revision=expected_revision)


@router.post("/{design_id}/duplicate", status_code=201)
def duplicate(designs: Repository, design_id: uuid.UUID, copy: CopyName) -> StoredDesign:
    """A copy of the newest revision under a new name."""
    return designs.create(designs.get(design_id).document.model_copy(update={"name": copy.name}))


@router.delete("/{design_id}", status_code=204)
def delete(designs: Repository, design_id: uuid.UUID) -> None:
    """Delete; restore brings it back with its whole history."""
    designs.delete(design_id)


@router.post("/{design_id}/restore")
def restore(designs: Repository, design_id: uuid.UUID) -> StoredDesign:
    """Bring a deleted design back."""
    return designs.restore(design_id)
