"""Loads from sheets and into them."""

from __future__ import annotations

import base64

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.core.design import MAX_LOADS, Load, Practice
from hearthkeep.exchange import SheetError, SheetPreview
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/loads", tags=["sheets"])


class TableIn(BaseModel):
    """A sheet as text, or as a workbook in base 64."""

    text: str | None = Field(default=None, max_length=900_000)
    workbook_base64: str | None = Field(default=None, max_length=900_000)


def workbook_in(sheet: TableIn) -> bytes | None:
    """The workbook's bytes; none where the sheet is text."""
    try:
        return None if sheet.workbook_base64 is None else base64.b64decode(sheet.workbook_base64, validate=True)
    except ValueError as error:
        raise SheetError("The workbook did not arrive whole; open it again.") from error


class SheetIn(TableIn):
    """A sheet of loads, and the loads it is compared with."""

    loads: list[Load] = Field(default=[], max_length=MAX_LOADS)
    #: What a comma before three digits means depends on it, where the sheet does not show it.
    practice: Practice = Practice.NORTH_AMERICAN


@router.post("/preview-sheet")
async def preview_sheet(sheet: SheetIn, workers: Helpers) -> SheetPreview:
    """What taking a sheet would change; nothing is stored."""
    return await workers.read(tasks.preview_of, sheet.text, workbook_in(sheet), sheet.loads, sheet.practice)


@router.post("/export-csv", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_csv(document: DocumentBytes, workers: Helpers) -> Response:
    """The ledger as CSV."""
    return table_file(await workers.run(tasks.ledger_as_csv, document), "loads", "csv")


@router.post("/export-xlsx", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_xlsx(document: DocumentBytes, workers: Helpers) -> Response:
    """The ledger as a workbook."""
    return table_file(await workers.run(tasks.ledger_as_xlsx, document), "loads", "xlsx")


_MEDIA_TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "ics": "text/calendar; charset=utf-8",
    "zip": "application/zip",
}


def table_file(content: bytes, name: str, kind: str) -> Response:
    """A table, or what else is made of a design, as a file to be saved."""
    disposition = f'attachment; filename="{name}.{kind}"'
    return Response(content, media_type=_MEDIA_TYPES[kind], headers={"Content-Disposition": disposition})
