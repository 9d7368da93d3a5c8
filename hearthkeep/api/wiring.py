"""Wiring: the runs with their one-line, board and lists; the lists and the drawing as files. Nothing is stored."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.sheets import table_file
from hearthkeep.core.wiring import WiringSheet
from hearthkeep.exchange import WiringTable
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/wiring", tags=["wiring"])


@router.post("/sheet", response_model=WiringSheet, openapi_extra=DESIGN_BODY)
async def sheet(document: DocumentBytes, workers: Helpers) -> Response:
    """Every run of a design sized and protected, with its one-line diagram, layout board, lists and checks."""
    return Response(await workers.run(tasks.wired, document), media_type=JSON)


@router.post("/export-csv/{which}", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_csv(which: WiringTable, document: DocumentBytes, workers: Helpers) -> Response:
    """One of the lists as CSV."""
    return table_file(await workers.run(tasks.wiring_as_csv, document, which.value), f"wiring-{which.value}", "csv")


@router.post("/export-xlsx", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_xlsx(document: DocumentBytes, workers: Helpers) -> Response:
    """All the lists as a workbook, each on a sheet of its own."""
    return table_file(await workers.run(tasks.wiring_as_xlsx, document), "wiring", "xlsx")


@router.post("/one-line-svg", openapi_extra=DESIGN_BODY, response_class=Response)
async def one_line(document: DocumentBytes, workers: Helpers) -> Response:
    """The one-line diagram as a drawing that prints at any size."""
    drawn = await workers.run(tasks.one_line_drawn, document)
    disposition = {"Content-Disposition": 'attachment; filename="one-line.svg"'}
    return Response(drawn, media_type="image/svg+xml", headers=disposition)
