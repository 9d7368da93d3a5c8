"""Trials: a design against an outage from every hour of its weather year."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.prove import Proof
from hearthkeep.core.trials import Reach
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["trials"])


@router.post("/trials", response_model=Proof, openapi_extra=DESIGN_BODY)
async def try_year(document: DocumentBytes, workers: Helpers, reach: Reach = Reach.WEEK) -> Response:
    """Shares carried by month and length, the chance of lasting so long, the worst starts, and what is to be said about them; nothing is stored."""
    return Response(await workers.run(tasks.tried, document, reach), media_type="application/json")
