"""Trials: a design against an outage from every hour of its weather year, and against those of the past."""

from __future__ import annotations

from datetime import datetime

from fastapi import APIRouter, Response

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.sheets import TableIn, workbook_in
from hearthkeep.core.prove import Proof
from hearthkeep.core.trials import Failures, OneMoreOfEach, Reach, Reliability
from hearthkeep.exchange import OutagePreview
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


@router.post("/outage-record/preview")
async def preview_record(sheet: TableIn, workers: Helpers) -> OutagePreview:
    """Past outages in a sheet: start, and end or length; nothing is stored."""
    return await workers.read(tasks.outages_of, sheet.text, workbook_in(sheet), datetime.now())


@router.post("/trials/record", response_model=Reliability, openapi_extra=DESIGN_BODY)
async def try_record(document: DocumentBytes, workers: Helpers) -> Response:
    """The record's outages, and the utility's usual ones, without this design and with it."""
    return Response(await workers.run(tasks.recorded, document), media_type="application/json")
