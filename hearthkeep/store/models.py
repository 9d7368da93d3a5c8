"""Tables."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    Boolean,
    ColumnElement,
    DateTime,
    Float,
    ForeignKey,
    Integer,
    LargeBinary,
    String,
    TypeDecorator,
    Uuid,
    false,
    func,
    type_coerce,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from hearthkeep.core.design import LONGEST_NAME


class Base(DeclarativeBase):
    """Base of all tables."""


class Stamp(TypeDecorator[datetime]):
    """A moment that comes back whatever is stored: beyond the calendar of the language it stands at the calendar's end."""

    impl = DateTime(timezone=True)
    cache_ok = True

    def column_expression(self, column: ColumnElement[Any]) -> ColumnElement[Any]:
        """The column as it is selected."""
        return type_coerce(func.least(func.greatest(column, EARLIEST), LATEST), self)


#: What is stored beyond these is shown as these.
EARLIEST, LATEST = datetime(2, 1, 1, tzinfo=UTC), datetime(9998, 12, 31, tzinfo=UTC)


class DesignRow(Base):
    """One design; what it holds stands in its revisions."""

    __tablename__ = "designs"

    id: Mapped[uuid.UUID] = mapped_column(Uuid, primary_key=True)
    #: Number of the newest revision.
    head: Mapped[int] = mapped_column(Integer)
    #: Name in the newest revision, kept here for the list.
    name: Mapped[str] = mapped_column(String(LONGEST_NAME))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    #: Set while the design is deleted; deletion is undone by clearing it.
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    #: Of an alternative: the design it belongs to, the one it was made from, and what it is called beside the others.
    root_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"))
    parent_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("designs.id", ondelete="SET NULL"))
    label: Mapped[str] = mapped_column(String(60), server_default="")


class UnitRow(Base):
    """One unit of the equipment library."""

    __tablename__ = "units"

    #: battery, inverter or module.
    kind: Mapped[str] = mapped_column(String(20), primary_key=True)
    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    name: Mapped[str] = mapped_column(String(LONGEST_NAME))
    #: Name and figures in lower case, in which is sought.
    words: Mapped[str] = mapped_column(String(400))
    sheet: Mapped[dict[str, Any]] = mapped_column(JSONB)


class WeatherRow(Base):
    """One weather year, under a key made of what it holds."""

    __tablename__ = "weather_years"

    key: Mapped[str] = mapped_column(String(40), primary_key=True)
    name: Mapped[str] = mapped_column(String(LONGEST_NAME))
    latitude_deg: Mapped[float] = mapped_column(Float)
    longitude_deg: Mapped[float] = mapped_column(Float)
    elevation_m: Mapped[float] = mapped_column(Float)
    utc_offset_h: Mapped[float] = mapped_column(Float)
    #: Sun on the level over the year [kWh/m2 a day].
    level_kwh_m2_day: Mapped[float] = mapped_column(Float)
    #: The hourly series as compressed arrays of single precision.
    hours: Mapped[bytes] = mapped_column(LargeBinary)
    stored_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class RevisionRow(Base):
    """One saved state of a design. Rows are only ever added."""

    __tablename__ = "revisions"

    design_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    #: Revision whose document undo brings back, and redo; none at the ends of the history.
    undo_to: Mapped[int | None] = mapped_column(Integer)
    redo_to: Mapped[int | None] = mapped_column(Integer)
    #: Key under which a window sent this state; the same one again is the same save.
    save_key: Mapped[uuid.UUID | None] = mapped_column(Uuid)


class SummaryRow(Base):
    """What the list shows of a design, as an engine found it for one of its revisions."""

    __tablename__ = "summaries"

    design_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True)
    revision: Mapped[int] = mapped_column(Integer)
    #: Version of the engine, see hearthkeep.engine.
    engine: Mapped[str] = mapped_column(String(40))
    #: Stored weather year it was found with; none without one.
    weather_year: Mapped[str | None] = mapped_column(String(40))
    kind: Mapped[str] = mapped_column(String(20))
    place: Mapped[str] = mapped_column(String(LONGEST_NAME))
    hours_carried_h: Mapped[float] = mapped_column(Float)
    duration_h: Mapped[float] = mapped_column(Float)
    #: Loads of a usual day, and the bank's rated energy [Wh].
    daily_wh: Mapped[float] = mapped_column(Float)
    bank_wh: Mapped[float] = mapped_column(Float)
    #: Findings by severity.
    stops: Mapped[int] = mapped_column(Integer)
    mends: Mapped[int] = mapped_column(Integer)


class JobRow(Base):
    """Long work that was asked for: a question about one revision of a design, answered in numbered parts."""

    __tablename__ = "jobs"

    id: Mapped[uuid.UUID] = mapped_column(Uuid, primary_key=True)
    design_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"))
    revision: Mapped[int] = mapped_column(Integer)
    #: Version of the engine that answers, see hearthkeep.engine.
    engine: Mapped[str] = mapped_column(String(40))
    kind: Mapped[str] = mapped_column(String(20))
    question: Mapped[dict[str, Any]] = mapped_column(JSONB)
    #: How many answers there will be.
    total: Mapped[int] = mapped_column(Integer)
    asked_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    #: Set once nothing more will be done: all answered, cancelled, or failed.
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    cancelled: Mapped[bool] = mapped_column(Boolean, server_default=false())
    #: Why it could not be finished; empty where it could.
    fault: Mapped[str] = mapped_column(String(400), server_default="")


class JobAnswerRow(Base):
    """One answer of a job."""

    __tablename__ = "job_answers"

    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    answer: Mapped[dict[str, Any]] = mapped_column(JSONB)
    found_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class InstallationRow(Base):
    """One thing that is built from a design: its record goes on across revisions."""

    __tablename__ = "installations"

    id: Mapped[uuid.UUID] = mapped_column(Uuid, primary_key=True)
    #: The root of the design's tree.
    design_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(LONGEST_NAME))
    begun_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class WatchSourcesRow(Base):
    """The devices and services that are asked for an installation."""

    __tablename__ = "watch_sources"

    installation_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("installations.id", ondelete="CASCADE"), primary_key=True
    )
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class LogEntryRow(Base):
    """One entry of an installation's log: added once, never changed."""

    __tablename__ = "log_entries"

    #: Made where the entry was made, so that one sent twice is one.
    id: Mapped[uuid.UUID] = mapped_column(Uuid, primary_key=True)
    installation_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("installations.id", ondelete="CASCADE"))
    kind: Mapped[str] = mapped_column(String(20))
    #: When it happened: as told, set right where the device's clock was wrong.
    at: Mapped[datetime] = mapped_column(Stamp)
    told_at: Mapped[datetime] = mapped_column(Stamp)
    received_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    who: Mapped[str] = mapped_column(String(LONGEST_NAME), server_default="")
    body: Mapped[dict[str, Any]] = mapped_column(JSONB)
    #: The entry that this one strikes out; both stay.
    strikes: Mapped[uuid.UUID | None] = mapped_column(Uuid)


class LogImportRow(Base):
    """A log file that was taken: what its columns were taken for."""

    __tablename__ = "log_imports"

    id: Mapped[uuid.UUID] = mapped_column(Uuid, primary_key=True)
    installation_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("installations.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(LONGEST_NAME))
    #: Mark of its column names.
    header: Mapped[str] = mapped_column(String(32))
    uses: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    #: Readings that were new, and that were there already.
    added: Mapped[int] = mapped_column(Integer)
    known: Mapped[int] = mapped_column(Integer)
    taken_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class SeriesRow(Base):
    """One quantity of one instrument or group of an installation."""

    __tablename__ = "series"

    #: Short, since it stands in every reading; counted by the store, since a backup carries no counters.
    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=False)
    installation_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("installations.id", ondelete="CASCADE"))
    quantity: Mapped[str] = mapped_column(String(30))
    part: Mapped[str] = mapped_column(String(LONGEST_NAME), server_default="")


class ReadingRow(Base):
    """One reading."""

    __tablename__ = "readings"

    #: Of a series; without a foreign key, which would be looked up row by row.
    series_id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=False)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), primary_key=True)
    value: Mapped[float] = mapped_column(Float)
