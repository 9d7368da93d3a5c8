"""Trials: a design against an outage from every hour of its weather year."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.prove import Proof
from hearthkeep.core.trials import Failures, OneMoreOfEach, Reach
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["trials"])


@router.post("/trials", response_model=Proof, openapi_extra=DESIGN_BODY)
async def try_year(document: DocumentBytes, workers: Helpers, reach: Reach = Reach.WEEK) -> Response:
    """Shares carried by month and length, the chance of lasting so long, the worst starts, and what is to be said about them; nothing is stored."""
    return Response(await workers.run(tasks.tried, document, reach), media_type="application/json")


@router.post("/trials/failures", response_model=Failures, openapi_extra=DESIGN_BODY)
async def try_failures(document: DocumentBytes, workers: Helpers) -> Response:
    """The planned outage and the year's with one thing wrong, for each that may be, the worst first."""
    return Response(await workers.run(tasks.failed, document), media_type="application/json")


@router.post("/trials/one-more", response_model=OneMoreOfEach, openapi_extra=DESIGN_BODY)
async def try_one_more(document: DocumentBytes, workers: Helpers) -> Response:
    """The planned outage and the year's with one more of each part, in hours, starts and per money."""
    return Response(await workers.run(tasks.with_one_more, document), media_type="application/json")
