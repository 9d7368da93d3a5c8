"""The equipment library: sought as typed, filled from CSV, and ranked for a design."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers, Words
from hearthkeep.core.bank import RestState
from hearthkeep.core.design import LibraryBattery, LibraryInverter, LibraryModule
from hearthkeep.core.design.fields import Identifier
from hearthkeep.core.whatif import RankedInverter
from hearthkeep.exchange import CellProblem, write_units
from hearthkeep.store import MODELS, Library, Unit, UnitKind
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api/library", tags=["library"])
#: A batch of units larger than this is refused [characters].
MAX_TEXT = 950_000


def library_of(request: Request) -> Library:
    """The repository, put on the application at its start."""
    repository: Library = request.app.state.library
    return repository


Repository = Annotated[Library, Depends(library_of)]
Most = Annotated[int, Query(ge=1, le=200)]


class FoundBatteries(BaseModel):
    """Batteries that fit a search."""

    units: list[LibraryBattery]
    total: int


class FoundInverters(BaseModel):
    """Inverters that fit a search."""

    units: list[LibraryInverter]
    total: int


class FoundModules(BaseModel):
    """Solar panels that fit a search."""

    units: list[LibraryModule]
    total: int


class UnitText(BaseModel):
    """Units as CSV."""

    text: str = Field(max_length=MAX_TEXT)


class Taken(BaseModel):
    """What became of a sheet of units."""

    taken: int
    problems: list[CellProblem]


@router.get("/battery")
def find_batteries(library: Repository, words: Words = "", most: Most = 50) -> FoundBatteries:
    """Batteries whose name or figures hold every word."""
    found = library.find(UnitKind.BATTERY, words, most=most)
    return FoundBatteries(units=[unit for unit in found.units if isinstance(unit, LibraryBattery)], total=found.total)


@router.get("/inverter")
def find_inverters(library: Repository, words: Words = "", most: Most = 50) -> FoundInverters:
    """Inverters whose name or figures hold every word."""
    found = library.find(UnitKind.INVERTER, words, most=most)
    return FoundInverters(units=[unit for unit in found.units if isinstance(unit, LibraryInverter)], total=found.total)


@router.get("/module")
def find_modules(library: Repository, words: Words = "", most: Most = 50) -> FoundModules:
    """Solar panels whose name or figures hold every word."""
    found = library.find(UnitKind.MODULE, words, most=most)
    return FoundModules(units=[unit for unit in found.units if isinstance(unit, LibraryModule)], total=found.total)


@router.put("/battery", status_code=204)
def put_battery(library: Repository, unit: LibraryBattery) -> None:
    """Add a battery, or replace the one with its key."""
    library.put(UnitKind.BATTERY, [unit])


@router.put("/inverter", status_code=204)
def put_inverter(library: Repository, unit: LibraryInverter) -> None:
    """Add an inverter, or replace the one with its key."""
    library.put(UnitKind.INVERTER, [unit])


@router.put("/module", status_code=204)
def put_module(library: Repository, unit: LibraryModule) -> None:
    """Add a solar panel, or replace the one with its key."""
    library.put(UnitKind.MODULE, [unit])


@router.post("/{kind}/import")
async def take_csv(library: Repository, workers: Helpers, kind: UnitKind, sheet: UnitText) -> Taken:
    """Take the good rows of a CSV; the faulty ones are named."""
    read = await workers.read(tasks.units_of, kind, sheet.text)
    taken = await run_in_threadpool(library.put, kind, [unit for unit in read.units if isinstance(unit, Unit)])
    return Taken(taken=taken, problems=list(read.problems[:200]))


@router.get("/{kind}/units.csv", response_class=Response)
def give_csv(library: Repository, kind: UnitKind) -> Response:
    """All units of a kind as CSV."""
    return Response(
        write_units(MODELS[kind], library.everything(kind)),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{kind.value}-units.csv"'},
    )


@router.delete("/{kind}/{unit_id}", status_code=204)
def delete_unit(library: Repository, kind: UnitKind, unit_id: Identifier) -> None:
    """Take a unit out; refused while a design uses it."""
    library.delete(kind, unit_id)


@router.post("/rank-inverters", response_model=list[RankedInverter], openapi_extra=DESIGN_BODY)
async def rank(library: Repository, document: DocumentBytes, workers: Helpers) -> Response:
    """The library's inverters in the place of the design's, best first."""
    found = await run_in_threadpool(library.find, UnitKind.INVERTER, most=300)
    units = [unit for unit in found.units if isinstance(unit, LibraryInverter)]
    return Response(await workers.run(tasks.ranked, document, units, 40), media_type="application/json")


@router.post("/rest-state", response_model=RestState, openapi_extra=DESIGN_BODY)
async def charge_from_voltage(
    document: DocumentBytes, workers: Helpers, rest_v: Annotated[float, Query(ge=0, le=64_000)]
) -> Response:
    """State of charge of the design's bank from its rest voltage."""
    return Response(await workers.run(tasks.rest, document, rest_v), media_type="application/json")
