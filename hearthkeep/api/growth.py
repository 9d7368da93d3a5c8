"""Stages ahead: the design as it is meant to grow."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.growth import GrowthReport
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/growth", tags=["growth"])


@router.post("", response_model=GrowthReport, openapi_extra=DESIGN_BODY)
async def growth(document: DocumentBytes, workers: Helpers) -> Response:
    """Hours, price and checks now and at each stage, what has to be large from the start, and what will not mix; nothing is stored."""
    return Response(await workers.run_long(tasks.stages_ahead, document), media_type=JSON)
