"""Papers: printed from a design as it is saved, looked at page by page, taken as PDF."""

from __future__ import annotations

import io
import uuid
import zipfile
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.api.alternatives import Kept, saved_tree
from hearthkeep.api.building import gate_lines
from hearthkeep.api.designs import Repository
from hearthkeep.api.logbook import Logs
from hearthkeep.papers import AUDIENCES, Audience, joined, page_image
from hearthkeep.workers import PaperOrder, Press, PrintRun, PrintState

router = APIRouter(prefix="/api", tags=["papers"])

#: Widths in which a page is drawn [px].
NARROWEST_PX, WIDEST_PX = 200, 2400
PDF = "application/pdf"


def press_of(request: Request) -> Press:
    """Put on the application at its start."""
    press: Press = request.app.state.press
    return press


Pressing = Annotated[Press, Depends(press_of)]


class PaperKind(BaseModel):
    """One paper that can be printed."""

    audience: Audience
    title: str
    meaning: str


class PageSize(BaseModel):
    """One page of a paper [pt]."""

    width_pt: float
    height_pt: float


class PaperRun(BaseModel):
    """One paper as far as it is printed."""

    id: uuid.UUID
    audience: Audience
    revision: int
    state: PrintState
    #: Pages laid out so far; they may become fewer where type is made smaller to fit one sheet.
    laid_out: int
    #: Empty until it is done.
    pages: list[PageSize]
    #: Why it could not be printed; empty where it could.
    fault: str


def _told(run: PrintRun) -> PaperRun:
    # Its pages are there before its process has ended; they are to be had once it has.
    sizes = run.sizes if run.state is PrintState.DONE else ()
    return PaperRun(
        id=run.id,
        audience=run.order.audience,
        revision=run.order.revision,
        state=run.state,
        laid_out=run.laid_out,
        pages=[PageSize(width_pt=width, height_pt=height) for width, height in sizes],
        fault=run.fault,
    )


@router.get("/papers/kinds")
def kinds() -> list[PaperKind]:
    """Every paper there is."""
    return [PaperKind(audience=info.audience, title=info.title, meaning=info.meaning) for info in AUDIENCES.values()]


@router.post("/designs/{design_id}/papers", status_code=202)
async def begin(
    designs: Repository,
    kept: Kept,
    logs: Logs,
    press: Pressing,
    design_id: uuid.UUID,
    audience: Audience,
    installation_id: uuid.UUID | None = None,
) -> PaperRun:
    """Begin to print one paper of the design as it is saved; its alternatives are named in it, and of a certificate the
    installation's gates."""

    def order() -> PaperOrder:
        tree = saved_tree(kept, designs, design_id)
        built = None
        if installation_id is not None and audience is Audience.RECORD:
            installation, _ = logs.find(installation_id)
            built = (installation.name, tuple(gate_lines(logs, installation_id)))
        return PaperOrder(
            design_id=design_id,
            revision=tree.revision,
            values=tree.values,
            others=tree.others,
            audience=audience,
            printed_on=date.today(),
            built=built,
        )

    return _told(press.begin(await run_in_threadpool(order)))


def _run_of(press: Press, run_id: uuid.UUID) -> PrintRun:
    run = press.find(run_id)
    if run is None:
        raise HTTPException(404, "This paper is kept no more; print it again.")
    return run


def _done(press: Press, run_id: uuid.UUID) -> PrintRun:
    run = _run_of(press, run_id)
    if run.state is not PrintState.DONE:
        raise HTTPException(409, "This paper is not printed yet.")
    return run


@router.get("/papers/{run_id}")
def state(press: Pressing, run_id: uuid.UUID) -> PaperRun:
    """How far a paper is."""
    return _told(_run_of(press, run_id))


@router.delete("/papers/{run_id}", status_code=204)
async def cancel(press: Pressing, run_id: uuid.UUID) -> None:
    """End a paper that is being printed."""
    press.cancel(run_id)


@router.get("/papers/{run_id}/pages/{number}.png", response_class=Response)
async def page(
    press: Pressing,
    run_id: uuid.UUID,
    number: int,
    width_px: Annotated[int, Query(ge=NARROWEST_PX, le=WIDEST_PX)] = 640,
) -> Response:
    """One page as a picture."""
    run = _done(press, run_id)
    if not 1 <= number <= len(run.sizes):
        raise HTTPException(404, f"The paper has pages 1 to {len(run.sizes)} (got {number}).")
    # A page of a run never changes.
    kept = {"Cache-Control": "private, max-age=86400, immutable"}
    return Response(
        await run_in_threadpool(page_image, run.pdf, number, width_px), media_type="image/png", headers=kept
    )


Runs = Annotated[list[uuid.UUID], Query(alias="run", min_length=1, max_length=len(Audience))]


@router.get("/papers-as-pdf", response_class=Response)
async def as_one(press: Pressing, runs: Runs) -> Response:
    """Papers as one PDF, in the order in which they are named."""
    pdfs = [_done(press, run_id).pdf for run_id in runs]
    whole = pdfs[0] if len(pdfs) == 1 else await run_in_threadpool(joined, pdfs)
    return Response(whole, media_type=PDF, headers={"Content-Disposition": 'attachment; filename="papers.pdf"'})


@router.get("/papers-as-zip", response_class=Response)
async def as_files(press: Pressing, runs: Runs) -> Response:
    """Papers as a PDF each, in one archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for run in (_done(press, run_id) for run_id in runs):
            archive.writestr(f"{run.order.audience.value}.pdf", run.pdf)
    disposition = {"Content-Disposition": 'attachment; filename="papers.zip"'}
    return Response(out.getvalue(), media_type="application/zip", headers=disposition)
