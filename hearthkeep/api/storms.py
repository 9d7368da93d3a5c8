"""Storms to start from, and how to make it last through the planned one."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.outage import UsualStorm, usual_storms
from hearthkeep.core.whatif import RationPlan
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["storms"])


@router.get("/usual-storms")
def storms(
    latitude_deg: Annotated[float, Query(ge=-66, le=66)], year: Annotated[int, Query(ge=1950, le=2100)]
) -> list[UsualStorm]:
    """Invented outages to start from, in the season and hemisphere they belong to."""
    return list(usual_storms(latitude_deg, year))


@router.post("/ration", response_model=RationPlan, openapi_extra=DESIGN_BODY)
async def make_it_last(document: DocumentBytes, workers: Helpers) -> Response:
    """Which loads to leave off in which hours, so that Life and then Keep are carried with the least given up."""
    return Response(await workers.run_long(tasks.rationed, document), media_type="application/json")
