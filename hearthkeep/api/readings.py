"""Readings of an installation: logs in, plots and files out, and what they say of the plan."""

from __future__ import annotations

import csv
import io
import json
import uuid
import zipfile
from datetime import UTC, datetime, timedelta
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, TypeAdapter, ValidationError

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import FILE_BODY, Helpers, Sent
from hearthkeep.api.designs import Repository
from hearthkeep.api.logbook import Kept, Logs
from hearthkeep.core.design import AwareMoment, Design, Line, Practice, read_design
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.logbook import QUANTITIES, Calibration, OutageEntry, Quantity, QuantityInfo, Replay
from hearthkeep.core.upkeep import upkeep_of
from hearthkeep.exchange import ColumnUse, LogPreview, guarded, write_calendar
from hearthkeep.store import Added, Logbook, SeriesKept, together
from hearthkeep.workers import log_tasks
from hearthkeep.workers.log_tasks import LogLine, LogOutlook

router = APIRouter(prefix="/api", tags=["logbook"])
_USES = TypeAdapter(list[ColumnUse])
#: Points of a plot.
MOST_POINTS = 2_000


Part = Annotated[Line, Query()]


class PlotSeries(BaseModel):
    """One series over time, in as many spans as are drawn: of each its middle, and the least, mean and greatest reading."""

    quantity: Quantity
    part: str
    count: int
    at: list[datetime]
    low: list[float]
    mean: list[float]
    high: list[float]


class LogAdded(BaseModel):
    """What became of a log."""

    rows: int
    added: int
    #: Of a moment that had a reading already.
    known: int
    #: Rows with more cells than there are columns, and the first of them.
    left_out: int
    first_left_out: str
    without_time: int
    first_bad_time: str
    #: Cells that hold no number, and numbers outside their range, by column.
    not_numbers: dict[str, int]
    outside: dict[str, int]


class LogQuestion(BaseModel):
    """A design as it stands, and the installation whose log is asked."""

    design: Design
    installation_id: uuid.UUID


class ReplayQuestion(LogQuestion):
    """An outage lived through."""

    outage: OutageEntry


@router.get("/log/quantities")
def quantities() -> list[QuantityInfo]:
    """Everything that can be read."""
    return list(QUANTITIES.values())


@router.get("/installations/{installation_id}/series")
def series(logs: Logs, kept: Kept, installation_id: uuid.UUID) -> list[SeriesKept]:
    """What is read of an installation."""
    logs.find(installation_id)
    return list(kept.series(installation_id))


@router.get("/installations/{installation_id}/plot")
def plot(
    kept: Kept,
    installation_id: uuid.UUID,
    quantity: Quantity,
    part: Part = "",
    since: AwareMoment | None = None,
    until: AwareMoment | None = None,
    points: Annotated[int, Query(ge=10, le=MOST_POINTS)] = 400,
) -> PlotSeries:
    """One series over time; no reading's height is lost by its being drawn in spans."""
    at_us, values = kept.of(installation_id, quantity.value, part, since=since, until=until)
    at: list[datetime] = []
    low, mean, high = np.zeros(0), np.zeros(0), np.zeros(0)
    if at_us.size:
        width = max((at_us[-1] - at_us[0]) / points, 1.0)
        span = np.minimum(((at_us - at_us[0]) / width).astype(np.int64), points - 1)
        first = np.flatnonzero(np.append(True, np.diff(span) > 0))
        low, high = np.minimum.reduceat(values, first), np.maximum.reduceat(values, first)
        count = np.diff(np.append(first, values.size))
        mean = np.add.reduceat(values, first) / count
        middle = np.add.reduceat((at_us - at_us[0]).astype(float), first) / count + float(at_us[0])
        at = [datetime.fromtimestamp(each / 1e6, UTC) for each in middle]
    return PlotSeries(
        quantity=quantity,
        part=part,
        count=int(at_us.size),
        at=at,
        low=low.tolist(),
        mean=mean.tolist(),
        high=high.tolist(),
    )


# --- logs in


@router.post("/log-preview", openapi_extra=FILE_BODY)
async def preview(kept: Kept, workers: Helpers, content: Sent, installation_id: uuid.UUID) -> LogPreview:
    """The columns of a log with what each is taken for; a log with the same columns is remembered."""
    found = await workers.read(log_tasks.log_previewed, content, {})
    uses = await run_in_threadpool(kept.uses_of, installation_id, found.header)
    return found if uses is None else await workers.read(log_tasks.log_previewed, content, {found.header: uses})


@router.post("/log-import", openapi_extra=FILE_BODY)
async def take(
    request: Request,
    designs: Repository,
    logs: Logs,
    kept: Kept,
    workers: Helpers,
    content: Sent,
    installation_id: uuid.UUID,
    uses: Annotated[str, Query(max_length=20_000, description="A JSON list of ColumnUse")],
    name: Annotated[Line, Query()] = "",
) -> LogAdded:
    """Take a log by the uses of its columns; taken twice it is there once."""
    chosen = _uses_of(uses)
    values = await run_in_threadpool(lambda: designs.values(logs.find(installation_id)[1]))
    design = read_design(values)
    day_first = design.practice is not Practice.NORTH_AMERICAN
    taken = await workers.read(log_tasks.log_taken, content, chosen, design.site.utc_offset_h, day_first)

    def keep() -> Added:
        with together(request.app.state.engine):
            added = kept.add(installation_id, log_tasks.series_of(taken))
            uses = [use.model_dump(mode="json") for use in chosen]
            kept.note_import(installation_id, name=name, header=taken.header, uses=uses, added=added)
        return added

    added = await run_in_threadpool(keep)
    return LogAdded(
        rows=taken.rows,
        added=added.added,
        known=added.known,
        left_out=taken.left_out,
        first_left_out=taken.first_left_out,
        without_time=taken.without_time,
        first_bad_time=taken.first_bad_time,
        not_numbers=dict(taken.not_numbers),
        outside=dict(taken.outside),
    )


def _uses_of(text: str) -> list[ColumnUse]:
    try:
        return _USES.validate_json(text)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in ("uses", *first["loc"]))
        raise InputError(
            (FieldProblem(field=where, value=str(first.get("input"))[:80], accepted=first["msg"]),)
        ) from None


# --- what they say


def _lines(logs: Logbook, installation_id: uuid.UUID) -> list[LogLine]:
    return [LogLine(at=entry.at, values=entry.body) for entry in logs.entries(installation_id) if not entry.is_struck]


@router.post("/log-outlook", response_model=LogOutlook)
async def outlook(question: LogQuestion, logs: Logs, workers: Helpers) -> Response:
    """Alarms, and what upkeep is due."""
    place, lines = await run_in_threadpool(
        lambda: (logs.find(question.installation_id)[0], _lines(logs, question.installation_id))
    )
    found = await workers.run(
        log_tasks.outlook, question.design, question.installation_id, lines, place.begun_at, datetime.now(UTC)
    )
    return Response(found, media_type=JSON)


@router.post("/log-corrections", response_model=Calibration)
async def corrections(question: LogQuestion, workers: Helpers) -> Response:
    """What the readings say of the plan, each as a change of the design with its price in hours; nothing is applied."""
    found = await workers.run_long(log_tasks.corrections, question.design, question.installation_id)
    return Response(found, media_type=JSON)


@router.post("/log-replay", response_model=Replay)
async def replayed(question: ReplayQuestion, workers: Helpers) -> Response:
    """An outage lived through, beside what the model says of it."""
    found = await workers.run_long(log_tasks.replayed, question.design, question.installation_id, question.outage)
    return Response(found, media_type=JSON)


# --- out


@router.get("/installations/{installation_id}/log.zip", response_class=Response)
def export(logs: Logs, kept: Kept, installation_id: uuid.UUID) -> Response:
    """Everything of an installation: its entries as JSON, its readings as CSV."""
    place, _ = logs.find(installation_id)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        entries = [
            {
                "id": str(entry.id), "kind": entry.kind, "at": entry.at.isoformat(), "told_at": entry.told_at.isoformat(),
                "who": entry.who, "struck": entry.is_struck, "body": entry.body,
            }
            for entry in logs.entries(installation_id)
        ]  # fmt: skip
        archive.writestr("entries.json", json.dumps({"installation": place.name, "entries": entries}, indent=1))
        text = io.StringIO()
        writer = csv.writer(text)
        writer.writerow(["time", "quantity", "unit", "part", "value"])
        for each in kept.series(installation_id):
            at_us, values = kept.of(installation_id, each.quantity, each.part)
            unit, part = QUANTITIES[Quantity(each.quantity)].unit, guarded(each.part)
            stamps = np.datetime_as_string(at_us.astype("datetime64[us]"), unit="s")
            writer.writerows(
                (f"{stamp}Z", each.quantity, unit, part, f"{value:.10g}")
                for stamp, value in zip(stamps, values, strict=True)
            )
        archive.writestr("readings.csv", text.getvalue())
    disposition = {"Content-Disposition": 'attachment; filename="logbook.zip"'}
    return Response(out.getvalue(), media_type="application/zip", headers=disposition)


@router.get("/installations/{installation_id}/upkeep.ics", response_class=Response)
def calendar(designs: Repository, logs: Logs, installation_id: uuid.UUID) -> Response:
    """The upkeep calendar of an installation, each task on the day on which it is next due."""
    place, design_id = logs.find(installation_id)
    design = read_design(designs.values(design_id))
    shift = timedelta(hours=design.site.utc_offset_h)
    today = (datetime.now(UTC) + shift).date()
    due = log_tasks.due_of(
        design, _lines(logs, installation_id), (place.begun_at.astimezone(UTC) + shift).date(), today
    )
    firsts = {task.key: max(task.due_on, today) for task in due}
    content = write_calendar(
        f"{design.name}, {place.name}", upkeep_of(design), key=str(installation_id), begins=today, firsts=firsts
    )
    return Response(
        content, media_type="text/calendar", headers={"Content-Disposition": 'attachment; filename="upkeep.ics"'}
    )
