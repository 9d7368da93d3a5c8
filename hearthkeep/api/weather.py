"""Weather years: stored from files once, shared between designs; and a design's arrays through its year."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.concurrency import run_in_threadpool

from hearthkeep.api.bodies import DESIGN_BODY, FILE_BODY, DocumentBytes, Helpers, Sent, Words
from hearthkeep.core.design.fields import Identifier
from hearthkeep.core.yearly import SunYear
from hearthkeep.exchange import write_weather
from hearthkeep.store import WeatherInfo, WeatherYears
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["weather"])


def years_of(request: Request) -> WeatherYears:
    """The repository, put on the application at its start."""
    repository: WeatherYears = request.app.state.weather
    return repository


Repository = Annotated[WeatherYears, Depends(years_of)]


@router.get("/weather-years")
def list_years(years: Repository) -> list[WeatherInfo]:
    """All stored years."""
    return list(years.everything())


@router.post("/weather-years", openapi_extra=FILE_BODY)
async def take_file(
    years: Repository,
    workers: Helpers,
    content: Sent,
    name: Words = "",
) -> WeatherInfo:
    """Store an EPW or TMY3 file; one whose hours are stored already keeps its key."""
    year = await workers.read(tasks.year_of, content, name)
    await run_in_threadpool(years.put, year)
    stored = await run_in_threadpool(years.everything)
    return next(info for info in stored if info.key == year.key)


@router.get("/weather-years/{key}/year.epw", response_class=Response)
def give_file(years: Repository, key: Identifier) -> Response:
    """A stored year as EPW, to go along with a design's file."""
    return Response(
        write_weather(years.get(key)),
        media_type="text/plain; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{key}.epw"'},
    )


@router.delete("/weather-years/{key}", status_code=204)
def delete_year(years: Repository, key: Identifier) -> None:
    """Take a year out; refused while a design uses it."""
    years.delete(key)


@router.post("/sun-year", response_model=SunYear, openapi_extra=DESIGN_BODY)
async def year_on_arrays(document: DocumentBytes, workers: Helpers) -> Response:
    """The design's arrays and house in its weather year, and the quick sum beside it."""
    return Response(await workers.run_long(tasks.year_on_arrays, document), media_type="application/json")
