"""Loads from sheets and into them."""

from __future__ import annotations

import base64
from collections.abc import Callable

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearthkeep.api.bodies import DESIGN_BODY, DesignBody
from hearthkeep.core.design import MAX_LOADS, Load, Practice
from hearthkeep.core.numbers import commas_of
from hearthkeep.exchange import (
    Cell,
    SheetError,
    SheetPreview,
    read_sheet,
    read_text,
    read_workbook,
    sheet_rows,
    write_csv,
    write_xlsx,
)

router = APIRouter(prefix="/api/loads", tags=["sheets"])


class SheetIn(BaseModel):
    """A sheet as text, or as a workbook in base 64; and the loads it is compared with."""

    text: str | None = Field(default=None, max_length=900_000)
    workbook_base64: str | None = Field(default=None, max_length=900_000)
    loads: list[Load] = Field(default=[], max_length=MAX_LOADS)
    #: What a comma before three digits means depends on it, where the sheet does not show it.
    practice: Practice = Practice.NORTH_AMERICAN


@router.post("/preview-sheet")
def preview_sheet(sheet: SheetIn) -> SheetPreview:
    """What taking a sheet would change; nothing is stored."""
    return read_sheet(_rows(sheet), sheet.loads, commas_of(sheet.practice))


def _rows(sheet: SheetIn) -> list[list[Cell]]:
    if sheet.workbook_base64 is None:
        return read_text(sheet.text or "")
    try:
        return read_workbook(base64.b64decode(sheet.workbook_base64, validate=True))
    except ValueError as error:
        raise SheetError("The workbook did not arrive whole; open it again.") from error


def _xlsx(rows: list[list[Cell]]) -> bytes:
    return write_xlsx(rows, "Loads")


FORMATS: dict[str, tuple[str, Callable[[list[list[Cell]]], bytes]]] = {
    "csv": ("text/csv; charset=utf-8", write_csv),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", _xlsx),
}


@router.post("/export-csv", openapi_extra=DESIGN_BODY, response_class=Response)
def export_csv(document: DesignBody) -> Response:
    """The ledger as CSV."""
    return _export(document.loads, "csv")


@router.post("/export-xlsx", openapi_extra=DESIGN_BODY, response_class=Response)
def export_xlsx(document: DesignBody) -> Response:
    """The ledger as a workbook."""
    return _export(document.loads, "xlsx")


def _export(loads: tuple[Load, ...], kind: str) -> Response:
    media_type, write = FORMATS[kind]
    return Response(
        write(sheet_rows(loads)),
        media_type=media_type,
        headers={"Content-Disposition": f'attachment; filename="loads.{kind}"'},
    )
