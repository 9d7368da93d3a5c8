"""The repository of weather years: each stored once, shared between designs, never deleted while one uses it."""

from __future__ import annotations

import io
from dataclasses import dataclass, fields
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from sqlalchemy import Engine, delete, select
from sqlalchemy.dialects.postgresql import insert

from hearthkeep.store.database import transaction
from hearthkeep.store.errors import InUseError, NotFoundError
from hearthkeep.store.models import DesignRow, RevisionRow, WeatherRow

if TYPE_CHECKING:
    from hearthkeep.core.sources import WeatherYear

#: Series of a year in the order in which they are kept.
SERIES = ("ghi_w_m2", "dni_w_m2", "dhi_w_m2", "air_c", "wind_m_s", "snow_cm")
#: Years kept at hand, so that an edit does not read them anew.
_AT_HAND = 8


@dataclass(frozen=True, kw_only=True, slots=True)
class WeatherInfo:
    """One stored year, without its hours."""

    key: str
    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    utc_offset_h: float
    #: Sun on the level over the year [kWh/m2 a day].
    level_kwh_m2_day: float


class WeatherYears:
    """Weather years in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        # A year never changes under its key.
        self._read = lru_cache(maxsize=_AT_HAND)(self._fetch)

    def put(self, year: WeatherYear) -> None:
        """Store a year; one that is there already stays as it is."""
        held = io.BytesIO()
        np.savez_compressed(held, *(getattr(year, name).astype(np.float32) for name in SERIES))
        values = {
            "key": year.key,
            "name": year.name,
            "latitude_deg": year.latitude_deg,
            "longitude_deg": year.longitude_deg,
            "elevation_m": year.elevation_m,
            "utc_offset_h": year.utc_offset_h,
            "level_kwh_m2_day": float(year.ghi_w_m2.sum() / 365_000),
            "hours": held.getvalue(),
        }
        with transaction(self._engine) as session:
            session.execute(insert(WeatherRow).values(values).on_conflict_do_nothing())

    def get(self, key: str) -> WeatherYear:
        """A stored year; raises NotFoundError."""
        return self._read(key)

    def find(self, key: str | None) -> WeatherYear | None:
        """A stored year, or none where none is named or stored under that key."""
        # Another process may have taken it out since it was read here.
        if key is None or not self._is_stored(key):
            return None
        try:
            return self.get(key)
        except NotFoundError:
            return None

    def _is_stored(self, key: str) -> bool:
        with transaction(self._engine) as session:
            return session.scalar(select(WeatherRow.key).where(WeatherRow.key == key)) is not None

    def _fetch(self, key: str) -> WeatherYear:
        with transaction(self._engine) as session:
            row = session.get(WeatherRow, key)
            if row is None:
                raise NotFoundError(f"There is no weather year {key}.")
            return _year_of(row)

    def everything(self) -> tuple[WeatherInfo, ...]:
        """All years by name, without their hours."""
        columns = [getattr(WeatherRow, field.name) for field in fields(WeatherInfo)]
        with transaction(self._engine) as session:
            rows = session.execute(select(*columns).order_by(WeatherRow.name, WeatherRow.key)).mappings().all()
        return tuple(WeatherInfo(**row) for row in rows)

    def delete(self, key: str) -> None:
        """Take a year out; refused with the designs that use it."""
        with transaction(self._engine) as session:
            used = session.scalars(
                select(DesignRow.name)
                .join(RevisionRow, (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.head))
                .where(RevisionRow.document["site", "weather_year"].astext == key)
                .order_by(DesignRow.name)
            ).all()
            if used:
                more = " and more" if len(used) > 5 else ""
                raise InUseError(f"The weather year is used in {', '.join(used[:5])}{more}.")
            gone = session.execute(delete(WeatherRow).where(WeatherRow.key == key))
            if gone.rowcount == 0:  # type: ignore[attr-defined]
                raise NotFoundError(f"There is no weather year {key}.")
        self._read.cache_clear()


def _year_of(row: WeatherRow) -> WeatherYear:
    # Loaded here, because it brings the compiler along, which a command such as stop has no use for.
    from hearthkeep.core.sources import WeatherYear

    with np.load(io.BytesIO(row.hours), allow_pickle=False) as held:
        series = {name: held[f"arr_{index}"].astype(np.float64) for index, name in enumerate(SERIES)}
    return WeatherYear(
        key=row.key,
        name=row.name,
        latitude_deg=row.latitude_deg,
        longitude_deg=row.longitude_deg,
        elevation_m=row.elevation_m,
        utc_offset_h=row.utc_offset_h,
        **series,
    )
