"""The audit's helpers: one-line entries, readings, prices of one load, the starter list. Nothing is stored."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field, ValidationError

from hearthkeep.api.bodies import Helpers
from hearthkeep.core.design import Design, Load, Practice, Quality, Tier
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import InputError
from hearthkeep.core.figure import Figure
from hearthkeep.core.loads import (
    LoadEntry,
    TypicalLoad,
    daily_wh,
    load_energy_figure,
    quality_of,
    read,
    read_line,
    read_of,
    read_start,
    typical_loads,
    with_readings,
)
from hearthkeep.core.numbers import commas_of
from hearthkeep.core.whatif import LoadPrices
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["loads"])


class EntryLine(BaseModel):
    """A line typed into the ledger."""

    line: str = Field(max_length=400)
    #: Tier the row falls into when the line names none.
    tier: Tier = Tier.KEEP
    #: Nominal volts of the bank, at which the amps of a direct-current load are taken.
    bank_v: float = Field(default=12.8, gt=0, le=64_000)
    #: What a comma before three digits means depends on it.
    practice: Practice = Practice.NORTH_AMERICAN


class Measured(BaseModel):
    """A load as its readings give it, with the working."""

    load: Load
    quality: Quality
    daily_wh: float
    #: Running watts or duty, the start, and the energy a day, as far as each is worked out.
    figures: list[Figure]


class PriceQuestion(BaseModel):
    """Which load of the design, and what might stand in its place."""

    design: Design
    load_id: str = Field(max_length=40)
    replacement: Load | None = None


@router.post("/loads/read-line")
def read_entry(entry: EntryLine) -> LoadEntry:
    """What is understood of a one-line entry, and what is not."""
    return read_line(entry.line, tier=entry.tier, bank_v=entry.bank_v, commas=commas_of(entry.practice))


@router.post("/loads/measure")
def measure(load: Load) -> Measured:
    """Work out the readings kept with a load; refused where they come to more than a load may have."""
    try:
        given = with_readings(load)
    except ValidationError as error:
        raise InputError(field_problems(error, root=("loads", 0))) from error
    energy_wh = daily_wh(given)
    found = [
        None if given.known is None else (read_of(given) or read(given.known)).figure,
        None if given.start_known is None else read_start(given.start_known, given.running_w).figure,
        load_energy_figure(given, energy_wh),
    ]
    return Measured(
        load=given, quality=quality_of(given), daily_wh=energy_wh, figures=[figure for figure in found if figure]
    )


@router.post("/loads/prices", response_model=LoadPrices)
async def prices(question: PriceQuestion, workers: Helpers) -> Response:
    """Hours gained by an hour less of a load, or by another in its place; the design stays as it is."""
    found = await workers.run(tasks.priced, question.design, question.load_id, question.replacement)
    return Response(found, media_type="application/json")


@router.get("/typical/loads")
def starter_list() -> list[TypicalLoad]:
    """Typical devices, each a guess until it is measured."""
    return list(typical_loads())
