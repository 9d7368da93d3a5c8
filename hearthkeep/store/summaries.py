"""What the list of designs shows of each: kept when it was found, so that a look at the list assesses nothing twice."""

from __future__ import annotations

import uuid
from dataclasses import asdict, dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, Engine, func, select
from sqlalchemy.dialects.postgresql import insert

from hearthkeep.store.database import transaction
from hearthkeep.store.models import DesignRow, RevisionRow, SummaryRow, WeatherRow


@dataclass(frozen=True, kw_only=True, slots=True)
class Summary:
    """What an assessment comes to in one line."""

    kind: str
    place: str
    hours_carried_h: float
    duration_h: float
    daily_wh: float
    bank_wh: float
    stops: int
    mends: int


@dataclass(frozen=True, kw_only=True, slots=True)
class DesignLine:
    """One design of the list."""

    id: uuid.UUID
    name: str
    revision: int
    saved_at: datetime
    deleted_at: datetime | None
    #: Of this revision, by this engine and with the weather year it asks for as far as it is stored; none has to be found.
    summary: Summary | None
    #: The weather year it was or has to be found with; none where the design names none or it is not stored.
    weather_year: str | None


@dataclass(frozen=True, kw_only=True, slots=True)
class LinePage:
    """Part of the list of designs."""

    lines: tuple[DesignLine, ...]
    #: How many there are on all pages.
    total: int


class Summaries:
    """Summaries in PostgreSQL, one a design."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def page(self, *, by: str, deleted: bool = False, words: str = "", first: int = 0, most: int = 100) -> LinePage:
        """Designs in use, or the deleted ones, whose names hold every word, last saved first; alternatives stand with theirs.

        `by` is the engine whose summaries still hold; `first` counts from 0.
        """
        fits: list[ColumnElement[bool]] = [
            DesignRow.deleted_at.is_not(None) if deleted else DesignRow.deleted_at.is_(None),
            DesignRow.root_id.is_(None),
        ]
        fits += [DesignRow.name.icontains(word, autoescape=True) for word in words.split()[:8]]
        head = (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.head)
        chosen = (
            select(DesignRow.id, RevisionRow.saved_at)
            .join(RevisionRow, head)
            .where(*fits)
            .order_by(RevisionRow.saved_at.desc(), DesignRow.id)
            .offset(first)
            .limit(most)
            .subquery()
        )
        # Documents are large: only those of the page are looked into.
        asked = RevisionRow.document[("site", "weather_year")].astext
        query = (
            select(DesignRow, chosen.c.saved_at, SummaryRow, WeatherRow.key)
            .join(chosen, chosen.c.id == DesignRow.id)
            .join(RevisionRow, head)
            .outerjoin(WeatherRow, WeatherRow.key == asked)
            .outerjoin(
                SummaryRow,
                (SummaryRow.design_id == DesignRow.id)
                & (SummaryRow.revision == DesignRow.head)
                & (SummaryRow.engine == by)
                & SummaryRow.weather_year.is_not_distinct_from(WeatherRow.key),
            )
            .order_by(chosen.c.saved_at.desc(), DesignRow.id)
        )
        with transaction(self._engine) as session:
            total = session.scalar(select(func.count()).select_from(DesignRow).where(*fits)) or 0
            lines = tuple(
                DesignLine(
                    id=design.id,
                    name=design.name,
                    revision=design.head,
                    saved_at=saved_at,
                    deleted_at=design.deleted_at,
                    summary=None if row is None else _summary(row),
                    weather_year=key,
                )
                for design, saved_at, row, key in session.execute(query)
            )
            return LinePage(lines=lines, total=total)

    def keep(self, line: DesignLine, summary: Summary, *, by: str) -> None:
        """Keep what an engine found of a line's revision, in the place of what was known before."""
        values = {"revision": line.revision, "engine": by, "weather_year": line.weather_year, **asdict(summary)}
        statement = insert(SummaryRow).values(design_id=line.id, **values)
        with transaction(self._engine) as session:
            session.execute(statement.on_conflict_do_update(index_elements=["design_id"], set_=values))


def _summary(row: SummaryRow) -> Summary:
    return Summary(
        kind=row.kind,
        place=row.place,
        hours_carried_h=row.hours_carried_h,
        duration_h=row.duration_h,
        daily_wh=row.daily_wh,
        bank_wh=row.bank_wh,
        stops=row.stops,
        mends=row.mends,
    )
