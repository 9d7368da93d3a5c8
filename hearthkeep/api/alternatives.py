"""Alternatives of a design: kept, renamed, promoted, laid side by side."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, StringConstraints

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.designs import Expected, Repository
from hearthkeep.core.alternatives import PartKey, VariantColumn, VariantYear, Worth
from hearthkeep.core.design import Design
from hearthkeep.store import LONGEST_LABEL, Alternatives, Designs, Saved, Variant
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/designs/{design_id}", tags=["alternatives"])

Label = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_LABEL, pattern=r"^[^\x00-\x1f\x7f]+$"),
]


class AlternativeName(BaseModel):
    """What an alternative is called beside the others."""

    label: Label


def alternatives_of(request: Request) -> Alternatives:
    """The repository, put on the application at its start."""
    repository: Alternatives = request.app.state.alternatives
    return repository


Kept = Annotated[Alternatives, Depends(alternatives_of)]


@dataclass(frozen=True, kw_only=True, slots=True)
class SavedTree:
    """A design as it is saved, and the others of its tree that are not removed, by what they are called beside it."""

    revision: int
    values: dict[str, Any]
    others: tuple[tuple[str, dict[str, Any]], ...]


def saved_tree(kept: Alternatives, designs: Designs, design_id: uuid.UUID) -> SavedTree:
    """What papers and bundles are made of; the one asked for may be any of its tree."""
    variants = kept.tree(design_id)
    revision = next(variant.revision for variant in variants if variant.id == design_id)
    others = [variant for variant in variants if variant.id != design_id and variant.deleted_at is None]
    return SavedTree(
        revision=revision,
        values=designs.values(design_id, revision),
        others=tuple((other.label or "The design itself", designs.values(other.id)) for other in others),
    )


@router.get("/alternatives")
def tree(kept: Kept, design_id: uuid.UUID) -> list[Variant]:
    """The design itself first, then its alternatives as they were made, removed ones among them; asked of any of them."""
    return list(kept.tree(design_id))


@router.post("/alternatives", status_code=201)
def keep_as_it_stands(kept: Kept, design_id: uuid.UUID, name: AlternativeName) -> Saved:
    """Keep the design as it is saved as an alternative of it."""
    return kept.keep(design_id, name.label)


@router.post("/alternatives/of-document", status_code=201, openapi_extra=DESIGN_BODY)
async def keep_document(
    kept: Kept, design_id: uuid.UUID, document: DocumentBytes, workers: Helpers, label: Label
) -> Saved:
    """Keep a document as an alternative of the design."""
    checked = await workers.run(tasks.check_document, document)
    return await run_in_threadpool(kept.keep, design_id, label, checked)


@router.put("/label", status_code=204)
def rename(kept: Kept, design_id: uuid.UUID, name: AlternativeName) -> None:
    """Call an alternative something else."""
    kept.rename(design_id, name.label)


@router.post("/promote")
def promote(kept: Kept, design_id: uuid.UUID, expected_revision: Expected, name: AlternativeName) -> Saved:
    """Make an alternative the design; what the design was is kept as an alternative under the name given."""
    return kept.promote(design_id, expected_revision=expected_revision, label=name.label)


# --- side by side, as they are saved


@router.get("/column", response_model=VariantColumn)
async def column(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """What one of them comes to: hours, price, mass, floor, life, fuel, open checks, its strip, and its parts in words."""
    values = await run_in_threadpool(designs.values, design_id)
    return Response(await workers.run(tasks.alternative_column, values), media_type=JSON)


@router.get("/variant-year", response_model=VariantYear)
async def year(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """One of them in the weather year: shares carried, and the worst start."""
    values = await run_in_threadpool(designs.values, design_id)
    return Response(await workers.run_long(tasks.alternative_year, values), media_type=JSON)


@router.get("/worth", response_model=Worth)
async def worth(
    designs: Repository,
    workers: Helpers,
    design_id: uuid.UUID,
    base: Annotated[uuid.UUID, Query(description="The one that the differences are counted from")],
) -> Response:
    """What each difference from another one is worth in hours; the shares sum to the whole change."""
    other, known = await run_in_threadpool(lambda: (designs.values(design_id), designs.values(base)))
    return Response(await workers.run_long(tasks.alternative_worth, known, other), media_type=JSON)


@router.get("/swapped", response_model=Design)
async def swapped(
    designs: Repository, workers: Helpers, design_id: uuid.UUID, source: uuid.UUID, part: PartKey
) -> Response:
    """The design with one part of another, for the window to take; nothing is stored."""
    values, theirs = await run_in_threadpool(lambda: (designs.values(design_id), designs.values(source)))
    return Response(await workers.run(tasks.swapped, values, theirs, part), media_type=JSON)
