"""Weather years: stored from files once, shared between designs; and a design's arrays through its year."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import TypeAdapter

from hearthkeep.api.bodies import DESIGN_BODY, DesignBody
from hearthkeep.core.design.fields import Identifier
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.yearly import SunYear, sun_year
from hearthkeep.exchange import read_weather, write_weather
from hearthkeep.store import WeatherInfo, WeatherYears

router = APIRouter(prefix="/api", tags=["weather"])
_SUN_YEAR = TypeAdapter(SunYear)
#: For the upload's openapi_extra: the file as it is.
_FILE_BODY = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


def years_of(request: Request) -> WeatherYears:
    """The repository, put on the application at its start."""
    repository: WeatherYears = request.app.state.weather
    return repository


Repository = Annotated[WeatherYears, Depends(years_of)]


def _year_of_design(document: DesignBody, years: Repository) -> WeatherYear | None:
    return years.find(document.site.weather_year)


#: The weather year that the design in the body names; none where it names none or it is not stored here.
YearOfDesign = Annotated[WeatherYear | None, Depends(_year_of_design)]


@router.get("/weather-years")
def list_years(years: Repository) -> list[WeatherInfo]:
    """All stored years."""
    return list(years.everything())


async def _body(request: Request) -> bytes:
    return await request.body()


@router.post("/weather-years", openapi_extra=_FILE_BODY)
def take_file(
    years: Repository,
    content: Annotated[bytes, Depends(_body)],
    name: Annotated[str, Query(max_length=120, pattern=r"^[^\x00]*$")] = "",
) -> WeatherInfo:
    """Store an EPW or TMY3 file; one whose hours are stored already keeps its key."""
    year = read_weather(content, name)
    years.put(year)
    return next(info for info in years.everything() if info.key == year.key)


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
def year_on_arrays(document: DesignBody, year: YearOfDesign) -> Response:
    """The design's arrays and house in its weather year, and the quick sum beside it."""
    return Response(_SUN_YEAR.dump_json(sun_year(document, year)), media_type="application/json")
