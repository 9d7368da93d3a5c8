"""Build: gates of commissioning, readings judged, cross-reading and tests. Signatures are kept with the installation."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import Helpers
from hearthkeep.api.designs import Repository
from hearthkeep.api.logbook import Logs
from hearthkeep.core.building import (
    BuildSheet,
    CapacityResult,
    CapacityRun,
    CrossReading,
    Drawdown,
    DrawdownResult,
    GateEntry,
    LoadStep,
    LoadTest,
    Moment,
    ReadingsByGate,
    Round,
    Shown,
    Unexplained,
    WattPair,
    cross_read,
    unexplained,
)
from hearthkeep.core.design import AnyMoment, Design, Name
from hearthkeep.core.logbook import MOST_INSTRUMENTS, MOST_TEST_STEPS
from hearthkeep.store import Logbook, NewEntry
from hearthkeep.workers import build_tasks
from hearthkeep.workers.gate_lines import GateLine

router = APIRouter(prefix="/api", tags=["building"])

#: Rounds of readings that are compared at once.
MOST_ROUNDS = 2_000
ShownValue = Annotated[float, Field(ge=-5_000, le=5_000, allow_inf_nan=False)]


class BuildQuestion(BaseModel):
    """A design as it stands, the moment, and the readings that are being entered."""

    design: Design
    moment: Moment
    installation_id: uuid.UUID | None = None
    readings: Annotated[ReadingsByGate, Field(max_length=60)] = {}


class SignedGate(BaseModel):
    """A gate to be signed, skipped, taken back, or its readings kept."""

    #: Made in the window, so that one sent twice is one.
    id: uuid.UUID
    entry: GateEntry


class CrossRound(BaseModel):
    """One quantity on several instruments within a minute."""

    at: AnyMoment
    values: Annotated[dict[Name, ShownValue], Field(max_length=MOST_INSTRUMENTS)]


class CrossQuestion(BaseModel):
    """Rounds of readings to be compared."""

    shown: Shown
    nominal_v: Annotated[float, Field(gt=0, le=1_000)]
    rounds: Annotated[list[CrossRound], Field(max_length=MOST_ROUNDS)]


class CrossAnswer(BaseModel):
    """What they say together; none with fewer than two instruments in the newest round."""

    found: CrossReading | None


class WattsQuestion(BaseModel):
    """Moments on monitor and inverter."""

    design: Design
    pairs: Annotated[list[WattPair], Field(max_length=MOST_ROUNDS)]


class WattsAnswer(BaseModel):
    """The watts between them, named; none without a moment."""

    found: Unexplained | None


class LoadTestQuestion(BaseModel):
    """A load test of a design."""

    design: Design
    moment: Moment
    steps: Annotated[list[LoadStep], Field(max_length=MOST_TEST_STEPS)]


class DrawdownQuestion(BaseModel):
    """A drawdown test of a design."""

    design: Design
    test: Drawdown


class CapacityQuestion(BaseModel):
    """A capacity test of a design."""

    design: Design
    test: CapacityRun


def gate_lines(logs: Logbook, installation_id: uuid.UUID | None) -> list[GateLine]:
    """Entries of gates as they are kept; of no installation none."""
    if installation_id is None:
        return []
    kept = logs.entries(installation_id, kinds=("gate",))
    return [GateLine(at=entry.at, values=entry.body) for entry in kept if not entry.is_struck]


@router.post("/building/sheet", response_model=BuildSheet)
async def sheet(question: BuildQuestion, logs: Logs, workers: Helpers) -> Response:
    """Every gate of the design with what is expected now, where it stands, and what the readings say."""
    lines = await run_in_threadpool(gate_lines, logs, question.installation_id)
    found = await workers.run(build_tasks.gates_sheet, question.design, question.moment, lines, dict(question.readings))
    return Response(found, media_type=JSON)


@router.post("/installations/{installation_id}/gates", status_code=204)
async def sign(
    designs: Repository, logs: Logs, workers: Helpers, installation_id: uuid.UUID, signed: SignedGate
) -> None:
    """Keep what is said of a gate of the design as it is saved; what must not be signed is refused with its reason."""

    def known() -> tuple[dict[str, object], list[GateLine]]:
        _, design_id = logs.find(installation_id)
        return designs.values(design_id), gate_lines(logs, installation_id)

    values, lines = await run_in_threadpool(known)
    entry = await workers.run(build_tasks.gate_checked, values, lines, signed.entry)
    now = datetime.now(UTC)
    kept = NewEntry(id=signed.id, kind="gate", at=now, told_at=now, who=entry.who, body=entry.model_dump(mode="json"))
    await run_in_threadpool(logs.add, installation_id, [kept])


@router.post("/building/cross")
def cross(question: CrossQuestion) -> CrossAnswer:
    """Do instruments agree, which one is off, does it drift."""
    rounds = [Round(at=each.at, values=dict(each.values)) for each in question.rounds]
    return CrossAnswer(found=cross_read(question.shown, rounds, nominal_v=question.nominal_v))


@router.post("/building/watts")
def watts(question: WattsQuestion) -> WattsAnswer:
    """The watts that the monitor counts and the inverter does not show, named."""
    return WattsAnswer(found=unexplained(question.pairs, question.design.inverter.together))


@router.post("/building/load-test", response_model=LoadTest)
async def load_test(question: LoadTestQuestion, workers: Helpers) -> Response:
    """A load test in steps against the model, and what it corrects."""
    found = await workers.run(build_tasks.load_tested, question.design, question.moment, question.steps)
    return Response(found, media_type=JSON)


@router.post("/building/drawdown", response_model=DrawdownResult)
async def drawn(question: DrawdownQuestion, workers: Helpers) -> Response:
    """True average draw, days left, and what it corrects."""
    return Response(await workers.run_long(build_tasks.drawn_down, question.design, question.test), media_type=JSON)


@router.post("/building/capacity", response_model=CapacityResult)
async def capacity(question: CapacityQuestion, workers: Helpers) -> Response:
    """Capacity left, and what it corrects."""
    return Response(await workers.run(build_tasks.capacity_tested, question.design, question.test), media_type=JSON)
