"""Storm: where the house stands and which outage must be survived."""

from __future__ import annotations

from datetime import datetime, timedelta
from enum import StrEnum
from typing import Annotated

from pydantic import AfterValidator, Field, field_validator

from hearthkeep.core.design.circuits import Leg
from hearthkeep.core.design.fields import Celsius, DesignPart, Identifier, Name, Note
from hearthkeep.core.design.hours import merge_spans


class Service(StrEnum):
    """The alternating-current service of the house or unit."""

    V120 = "120"
    SPLIT_120_240 = "120/240"
    V230 = "230"


def legs_of_service(service: Service) -> tuple[Leg, ...]:
    """The lines that a service brings: two of 120/240 V, else one."""
    return (Leg.A, Leg.B) if service is Service.SPLIT_120_240 else (Leg.A,)


class Sky(StrEnum):
    """The sky of one day. Covered means snow or ice lies on the panels."""

    CLEAR = "clear"
    BROKEN = "broken"
    OVERCAST = "overcast"
    COVERED = "covered"

    @property
    def is_dark(self) -> bool:
        """Whether the day counts as a dark one: overcast or covered."""
        return self in (Sky.OVERCAST, Sky.COVERED)


class SkySource(StrEnum):
    """Where the skies of the outage come from."""

    BY_HAND = "by_hand"
    #: The hours of the site's weather year on the same calendar days.
    YEAR = "year"


class Site(DesignPart):
    """Position and service. Hours everywhere in the design are local standard time."""

    place: Name
    latitude_deg: Annotated[float, Field(strict=True, ge=-66, le=66)]
    longitude_deg: Annotated[float, Field(strict=True, ge=-180, le=180)]
    elevation_m: Annotated[float, Field(strict=True, ge=-430, le=5_000)] = 0.0
    utc_offset_h: Annotated[float, Field(strict=True, ge=-12, le=14)]
    #: What the house is wired for; off the grid, what its own supply makes.
    service: Service
    #: There is no service from the grid, for good: normal life is the outage.
    off_grid: bool = False
    #: The lowest and the highest air temperature the site has known in years [°C].
    record_low_c: Celsius | None = None
    record_high_c: Celsius | None = None
    #: Key of a stored weather year, or of the made-up one that ships with the application; empty means the made-up one.
    weather_year: Identifier | None = None

    @property
    def legs(self) -> tuple[Leg, ...]:
        """The lines of the service."""
        return legs_of_service(self.service)


class OutageDay(DesignPart):
    """One calendar day of the outage."""

    sky: Sky
    #: Mean daytime air temperature, which sets the panels' [°C].
    air_temp_c: Celsius
    #: Nobody is at home on this day.
    away: bool = False
    #: Mean wind at the turbine's hub on this day; empty takes the turbine's mean [m/s].
    wind_m_s: Annotated[float, Field(strict=True, ge=0, le=40)] | None = None
    #: Fuel can be fetched on this day: with somebody at home the generator's stock is full again from noon on.
    fuel: bool = False
    #: A vehicle can be reached and driven on this day.
    car: bool = True


#: Local standard time; in the schema not a "date-time", which by RFC 3339 has an offset.
LocalMoment = Annotated[datetime, Field(json_schema_extra={"format": "local-date-time"})]


def local_moment(moment: datetime) -> datetime:
    """A moment in local standard time, to the second; refused with an offset, or in a year that no design speaks of."""
    if moment.tzinfo is not None:
        raise ValueError("must be local standard time without an offset, for example 2026-01-12T17:00:00")
    if not 1950 <= moment.year <= 2100:
        raise ValueError("must lie in the years 1950 to 2100")
    return moment.replace(microsecond=0)


#: Longest outage [h].
LONGEST_OUTAGE_H = 720
_Hour = Annotated[int, Field(strict=True, ge=0, le=LONGEST_OUTAGE_H)]


def _forward(spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
    for from_h, to_h in spans:
        if from_h >= to_h:
            raise ValueError(f"each span needs from < to within 0 to {LONGEST_OUTAGE_H} h (got [{from_h}, {to_h}])")
    return merge_spans(spans)


GridBack = Annotated[tuple[tuple[_Hour, _Hour], ...], Field(max_length=360), AfterValidator(_forward)]


class Outage(DesignPart):
    """The outage as data: when, how long, under which skies, and who is at home."""

    start: LocalMoment
    duration_h: Annotated[float, Field(strict=True, ge=0.25, le=LONGEST_OUTAGE_H)]
    warning_h: Annotated[float, Field(strict=True, ge=0, le=240)] = 0.0
    #: One entry per calendar day from the day of the start; when the outage is longer, the last entry goes on.
    days: Annotated[tuple[OutageDay, ...], Field(min_length=1, max_length=31)]
    sky_from: SkySource = SkySource.BY_HAND
    #: When the grid is back for a while: whole hours from the start as [from, to) pairs, stored sorted and merged.
    grid_back: GridBack = ()
    people: Annotated[int, Field(strict=True, ge=0, le=200)] = 1
    notes: Note = ""

    @field_validator("start")
    @classmethod
    def _start_is_local(cls, start: datetime) -> datetime:
        return local_moment(start)

    @property
    def end(self) -> datetime:
        """The moment the grid returns, or the dark spell is over, local standard time."""
        return self.start + timedelta(hours=self.duration_h)
