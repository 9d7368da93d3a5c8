"""A design in open formats: bundle, workbook, calendar, hours; and a bundle back in."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Any

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel

from hearthkeep.api.alternatives import Kept, SavedTree, saved_tree
from hearthkeep.api.bodies import FILE_BODY, Helpers, Sent
from hearthkeep.api.designs import Repository, file_stem
from hearthkeep.api.library import Repository as Shelf
from hearthkeep.api.sheets import table_file
from hearthkeep.api.weather import Repository as Years
from hearthkeep.core.design import read_design
from hearthkeep.engine import engine_version
from hearthkeep.exchange import library_ids
from hearthkeep.store import UnitKind, together
from hearthkeep.workers import format_tasks

router = APIRouter(prefix="/api", tags=["formats"])


def _file(content: bytes, values: dict[str, Any], what: str, kind: str) -> Response:
    return table_file(content, f"{file_stem(values)}-{what}", kind)


@router.get("/designs/{design_id}/bundle.zip", response_class=Response)
async def give_bundle(
    designs: Repository, kept: Kept, library: Shelf, workers: Helpers, design_id: uuid.UUID
) -> Response:
    """The design as it is saved with all it needs to come to the same figures on another machine."""

    def gathered() -> tuple[SavedTree, tuple[Any, ...]]:
        tree = saved_tree(kept, designs, design_id)
        wanted = library_ids([read_design(one) for one in (tree.values, *(other for _, other in tree.others))])
        units = tuple(
            [unit for unit in library.everything(kind) if unit.library_id in keys]
            for kind, keys in zip((UnitKind.BATTERY, UnitKind.INVERTER, UnitKind.MODULE), wanted, strict=True)
        )
        return tree, units

    tree, units = await run_in_threadpool(gathered)
    made = await workers.run(format_tasks.bundled, tree.values, tree.revision, tree.others, units)
    return _file(made, tree.values, "bundle", "zip")


class BundleTaken(BaseModel):
    """What came of a bundle."""

    id: uuid.UUID
    name: str
    alternatives: int
    #: Weather years and library units that were not here yet.
    new_years: int
    new_units: int
    #: Whether it comes to the figures it had where it comes from, to the last bit; and what to know where it does not.
    same_figures: bool
    note: str


@router.post("/bundles", status_code=201, openapi_extra=FILE_BODY)
async def take_bundle(
    request: Request,
    designs: Repository,
    kept: Kept,
    library: Shelf,
    years: Years,
    workers: Helpers,
    content: Sent,
) -> BundleTaken:
    """Open a bundle: its weather and units where they are not here yet, its design as a new one, its alternatives."""
    read = await workers.read(format_tasks.bundle_of, content)

    def stored() -> tuple[uuid.UUID, int, int]:
        with together(request.app.state.engine):
            return opened()

    def opened() -> tuple[uuid.UUID, int, int]:
        here = {info.key for info in years.everything()}
        new_years = [year for year in read.years if year.key not in here]
        for year in new_years:
            years.put(year)
        new_units = 0
        for kind, units in (
            (UnitKind.BATTERY, read.batteries), (UnitKind.INVERTER, read.inverters), (UnitKind.MODULE, read.modules),
        ):  # fmt: skip
            # A unit of the same key that is here already is the user's own.
            own = {unit.library_id for unit in library.everything(kind)}
            new_units += library.put(kind, [unit for unit in units if unit.library_id not in own])
        made = designs.create(read.design).id
        for label, other in read.alternatives:
            kept.keep(made, label, other)
        return made, len(new_years), new_units

    made, new_years, new_units = await run_in_threadpool(stored)
    same = await workers.run(format_tasks.comes_to, read.design.text, read.results)
    note = ""
    if not same:
        note = "It comes to other figures here: "
        if read.engine == engine_version():
            note += "its results are not those of its design."
        else:
            note += f"it was made by version {read.engine}, this is {engine_version()}."
    return BundleTaken(
        id=made,
        name=read_design(read.design.text.encode()).name,
        alternatives=len(read.alternatives),
        new_years=new_years,
        new_units=new_units,
        same_figures=same,
        note=note,
    )


@router.get("/designs/{design_id}/workbook.xlsx", response_class=Response)
async def give_workbook(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """Audit, sizing sheet and wiring sums with formulas that a spreadsheet works out anew."""
    values = await run_in_threadpool(designs.values, design_id)
    return _file(await workers.run_long(format_tasks.workbook_of, values), values, "workbook", "xlsx")


@router.get("/designs/{design_id}/upkeep.ics", response_class=Response)
async def give_calendar(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """Upkeep and tests as a calendar, from today on."""
    values = await run_in_threadpool(designs.values, design_id)
    made = await workers.run(format_tasks.calendar_of, values, str(design_id), date.today())
    return _file(made, values, "upkeep", "ics")


@router.get("/designs/{design_id}/outage.csv", response_class=Response)
async def give_outage(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """The planned outage step by step."""
    values = await run_in_threadpool(designs.values, design_id)
    return _file(await workers.run(format_tasks.outage_as_csv, values), values, "outage", "csv")


@router.get("/designs/{design_id}/year.csv", response_class=Response)
async def give_year(designs: Repository, workers: Helpers, design_id: uuid.UUID) -> Response:
    """The year hour by hour on the design's arrays."""
    values = await run_in_threadpool(designs.values, design_id)
    return _file(await workers.run_long(format_tasks.year_as_csv, values), values, "year", "csv")
