"""Transfer's helpers: arrangements side by side, circuits in a line or a sheet, leg balance. Nothing is stored."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.sheets import TableIn, table_file, workbook_in
from hearthkeep.core.design import (
    LONGEST_NAME,
    MAX_LOADS,
    MOST_SLOTS,
    Circuit,
    Design,
    Practice,
    Service,
    legs_of_service,
)
from hearthkeep.core.transfer import Balance, CircuitEntry, Hangable, PanelNow, read_circuit_line
from hearthkeep.core.whatif import Advice, PriceInHours
from hearthkeep.exchange import PanelPreview
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/transfer", tags=["transfer"])


class HangableIn(BaseModel):
    """A load of the audit that may hang on a circuit."""

    id: str = Field(max_length=40)
    name: str = Field(max_length=LONGEST_NAME)
    placed: bool = False


class CircuitLine(BaseModel):
    """A circuit typed in one line, and the panel it is for."""

    line: str = Field(max_length=400)
    practice: Practice
    service: Service
    slots: int = Field(ge=2, le=MOST_SLOTS)
    circuits: list[Circuit] = Field(default=[], max_length=MOST_SLOTS)
    loads: list[HangableIn] = Field(default=[], max_length=MAX_LOADS)


class ScheduleIn(TableIn):
    """A panel schedule, and the design whose panel it is compared with."""

    design: Design


class CircuitQuestion(BaseModel):
    """Which circuit of the design."""

    design: Design
    circuit_id: str = Field(max_length=40)


@router.post("/read-line")
def read_line(entry: CircuitLine) -> CircuitEntry:
    """What is understood of a circuit in one line, and what is not."""
    panel = PanelNow(
        legs=legs_of_service(entry.service),
        metric=entry.practice is Practice.METRIC_230,
        slots=entry.slots,
        circuits=tuple(entry.circuits),
        loads=tuple(Hangable(id=load.id, name=load.name, placed=load.placed) for load in entry.loads),
    )
    return read_circuit_line(entry.line, panel)


@router.post("/preview-schedule")
async def preview_schedule(schedule: ScheduleIn, workers: Helpers) -> PanelPreview:
    """What taking a panel schedule would change; nothing is stored."""
    return await workers.read(tasks.schedule_of, schedule.text, workbook_in(schedule), schedule.design)


@router.post("/advice", response_model=list[Advice], openapi_extra=DESIGN_BODY)
async def advice(document: DocumentBytes, workers: Helpers) -> Response:
    """Every arrangement for this design, the one that suits best first, each with its hours carried and its power path."""
    return Response(await workers.run(tasks.advice, document), media_type=JSON)


@router.post("/balance", response_model=Balance, openapi_extra=DESIGN_BODY)
async def balance(document: DocumentBytes, workers: Helpers) -> Response:
    """The assignment of the backed-up circuits to the legs that leaves the smallest difference."""
    return Response(await workers.run(tasks.balanced, document), media_type=JSON)


@router.post("/circuit-price", response_model=PriceInHours)
async def price(question: CircuitQuestion, workers: Helpers) -> Response:
    """Hours gained when a circuit is backed up, or, where it is, kept on the grid; the design stays as it is."""
    found = await workers.run(tasks.circuit_priced, question.design, question.circuit_id)
    return Response(found, media_type=JSON)


@router.post("/export-csv", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_csv(document: DocumentBytes, workers: Helpers) -> Response:
    """The panel schedule, before and after, as CSV."""
    return table_file(await workers.run(tasks.schedule_as_csv, document), "panel", "csv")


@router.post("/export-xlsx", openapi_extra=DESIGN_BODY, response_class=Response)
async def export_xlsx(document: DocumentBytes, workers: Helpers) -> Response:
    """The panel schedule, before and after, as a workbook."""
    return table_file(await workers.run(tasks.schedule_as_xlsx, document), "panel", "xlsx")
