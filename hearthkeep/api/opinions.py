"""Opinions: rules of thumb on a design's own audit, and what the storm says of them."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.design import Design
from hearthkeep.core.opinions import KitName, KitShare, OpinionsReport
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/opinions", tags=["opinions"])


@router.post("", response_model=OpinionsReport, openapi_extra=DESIGN_BODY)
async def opinions(document: DocumentBytes, workers: Helpers) -> Response:
    """Six rules of thumb, each with its sheet, the kit it would buy and what the planned outage says of it; nothing is stored."""
    return Response(await workers.run_long(tasks.opinions, document), media_type=JSON)


@router.post("/share", response_model=KitShare, openapi_extra=DESIGN_BODY)
async def share(document: DocumentBytes, workers: Helpers, kit: KitName) -> Response:
    """Share of the weather year's outages, as long as the planned one, that a kit carries."""
    return Response(await workers.run_long(tasks.opinion_share, document, kit), media_type=JSON)


@router.post("/design", response_model=Design, openapi_extra=DESIGN_BODY)
async def kitted(document: DocumentBytes, workers: Helpers, kit: KitName) -> Response:
    """The design with a kit in it, named after it."""
    return Response(await workers.run_long(tasks.opinion_design, document, kit), media_type=JSON)
