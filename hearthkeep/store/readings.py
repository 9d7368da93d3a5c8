"""Readings by the hundred thousand: copied in and out in PostgreSQL's binary form, each moment of a series once."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
import psycopg
from numpy.typing import NDArray
from sqlalchemy import Engine, func, select, text
from sqlalchemy.orm import Session

from hearthkeep.store.database import in_our_words, transaction
from hearthkeep.store.errors import NotFoundError
from hearthkeep.store.models import InstallationRow, LogImportRow, SeriesRow

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]

#: PostgreSQL counts moments from 2000-01-01 [µs after 1970].
_EPOCH_US = 946_684_800_000_000
_MOMENT_0 = datetime(1970, 1, 1, tzinfo=UTC)
_HEAD = b"PGCOPY\n\xff\r\n\0" + bytes(8)
_TAIL = b"\xff\xff"
_ROW_IN = np.dtype(
    [("n", ">i2"), ("l1", ">i4"), ("series", ">i4"), ("l2", ">i4"), ("at", ">i8"), ("l3", ">i4"), ("value", ">f8")]
)
_ROW_OUT = np.dtype([("n", ">i2"), ("l1", ">i4"), ("at", ">i8"), ("l2", ">i4"), ("value", ">f8")])


@dataclass(frozen=True, kw_only=True, slots=True)
class NewSeries:
    """Readings of one quantity of one part: UTC microseconds since 1970 and values, (n,) each."""

    quantity: str
    part: str
    at_us: Ints
    values: Floats


@dataclass(frozen=True, kw_only=True, slots=True)
class SeriesKept:
    """One series as it is kept."""

    quantity: str
    part: str
    count: int
    first_at: datetime
    last_at: datetime


@dataclass(frozen=True, kw_only=True, slots=True)
class Added:
    """What became of readings."""

    added: int
    #: Of a moment that had a reading already, which stays.
    known: int


def _copied(cursor: psycopg.Cursor[Any], table: str, rows: NDArray[np.void]) -> None:
    with cursor.copy(f"copy {table} from stdin (format binary)") as copy:
        copy.write(_HEAD)
        copy.write(rows.tobytes())
        copy.write(_TAIL)


class Readings:
    """Readings in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def add(self, installation_id: uuid.UUID, series: Sequence[NewSeries]) -> Added:
        """Keep readings; a moment of a series that has one already keeps it."""
        ids = self._series_ids(installation_id, [(each.quantity, each.part) for each in series])
        total = sum(each.at_us.size for each in series)
        if not total:
            return Added(added=0, known=0)
        rows = np.empty(total, dtype=_ROW_IN)
        rows["n"], rows["l1"], rows["l2"], rows["l3"] = 3, 4, 8, 8
        rows["series"] = np.concatenate([np.full(each.at_us.size, ids[each.quantity, each.part]) for each in series])
        rows["at"] = np.concatenate([each.at_us for each in series]) - _EPOCH_US
        rows["value"] = np.concatenate([each.values for each in series])
        with self._cursor() as cursor:
            if not self._has_any(cursor, [(ids[each.quantity, each.part], each.at_us) for each in series]):
                # Where nothing is yet nothing can be there twice: the shortest way.
                _copied(cursor, "readings (series_id, at, value)", rows)
                return Added(added=total, known=0)
            # Another of the same transaction may have left its own.
            cursor.execute("drop table if exists taken")
            cursor.execute("create temp table taken (series_id int, at timestamptz, value float8) on commit drop")
            _copied(cursor, "taken", rows)
            cursor.execute(
                "insert into readings (series_id, at, value) select series_id, at, value from taken order by series_id, at "
                "on conflict do nothing"
            )
            added = cursor.rowcount
        return Added(added=added, known=total - added)

    @staticmethod
    def _has_any(cursor: psycopg.Cursor[Any], wanted: Sequence[tuple[int, Ints]]) -> bool:
        """Whether one of the series has a reading between the first and the last moment; nobody adds to them meanwhile."""
        for series_id, at_us in wanted:
            if not at_us.size:
                continue
            cursor.execute("select 1 from series where id = %s for update", (series_id,))
            ends = [_MOMENT_0 + timedelta(microseconds=int(each)) for each in (at_us.min(), at_us.max())]
            cursor.execute(
                "select 1 from readings where series_id = %s and at between %s and %s limit 1", (series_id, *ends)
            )
            if cursor.fetchone() is not None:
                return True
        return False

    def remove(self, installation_id: uuid.UUID, series: Sequence[NewSeries]) -> None:
        """Take single readings away, of entries that were struck out."""
        with self._cursor() as cursor:
            for each in series:
                moments = [_MOMENT_0 + timedelta(microseconds=int(at)) for at in each.at_us]
                cursor.execute(
                    "delete from readings where at = any(%s) and series_id = (select id from series where installation_id = %s and "
                    "quantity = %s and part = %s)",
                    (moments, installation_id, each.quantity, each.part),
                )

    def series(self, installation_id: uuid.UUID) -> tuple[SeriesKept, ...]:
        """What there is, by quantity and part."""
        # The key's index answers all three of each series.
        query = (
            "select s.quantity, s.part, r.count, r.first, r.last from series s cross join lateral "
            "(select count(*) as count, greatest(min(at), '0002-01-01') as first, least(max(at), '9998-12-31') as last from readings where series_id = s.id) r "
            "where s.installation_id = %s and r.count > 0 order by s.id"
        )
        with self._cursor() as cursor:
            cursor.execute(query, (installation_id,))
            return tuple(
                SeriesKept(quantity=quantity, part=part, count=count, first_at=first, last_at=last)
                for quantity, part, count, first, last in cursor.fetchall()
            )

    def of(
        self,
        installation_id: uuid.UUID,
        quantity: str,
        part: str,
        *,
        since: datetime | None = None,
        until: datetime | None = None,
    ) -> tuple[Ints, Floats]:
        """Moments [UTC µs since 1970] and values of one series, oldest first, (n,) each; empty where there is none."""
        bounds = [since or datetime(1990, 1, 1, tzinfo=UTC), until or datetime(2101, 1, 1, tzinfo=UTC)]
        with self._cursor() as cursor:
            cursor.execute(
                "select id from series where installation_id = %s and quantity = %s and part = %s",
                (installation_id, quantity, part),
            )
            found = cursor.fetchone()
            if found is None:
                return np.zeros(0, dtype=np.int64), np.zeros(0)
            # A copy takes no parameters; these are a number and moments of our own.
            limits = [f"'{each.astimezone(UTC).isoformat()}'::timestamptz" for each in bounds]
            query = (
                f"copy (select at, value from readings where series_id = {int(found[0])} and at >= {limits[0]} and at <= {limits[1]} "
                "order by at) to stdout (format binary)"
            )
            with cursor.copy(query) as copy:
                content = b"".join(bytes(block) for block in copy)
        rows = np.frombuffer(
            content, dtype=_ROW_OUT, offset=len(_HEAD), count=(len(content) - len(_HEAD) - 2) // _ROW_OUT.itemsize
        )
        return rows["at"].astype(np.int64) + _EPOCH_US, rows["value"].astype(np.float64)

    def hour_means(
        self, installation_id: uuid.UUID, quantity: str, part: str, *, since: datetime, shift_s: float
    ) -> tuple[Floats, Floats]:
        """Means of the hours that were read, oldest first: their beginnings [s since 1970 in a time that is shifted so], and the means.

        :param shift_s: seconds that the time is ahead of universal time; its hours are the ones that count.
        """
        query = """
            select floor((extract(epoch from at) + %(shift)s) / 3600) * 3600 as hour, avg(value)
            from readings join series on series.id = series_id
            where installation_id = %(installation)s and quantity = %(quantity)s and part = %(part)s and at >= %(since)s
            group by hour order by hour
        """
        values = {"shift": shift_s, "installation": installation_id, "quantity": quantity, "part": part, "since": since}
        with self._cursor() as cursor:
            rows = cursor.execute(query, values).fetchall()
        return np.array([float(at) for at, _ in rows]), np.array([float(mean) for _, mean in rows])

    def note_import(
        self, installation_id: uuid.UUID, *, name: str, header: str, uses: list[dict[str, Any]], added: Added
    ) -> None:
        """Remember a log that was taken, and what its columns were taken for."""
        with transaction(self._engine) as session:
            session.add(
                LogImportRow(
                    id=uuid.uuid4(),
                    installation_id=installation_id,
                    name=name,
                    header=header,
                    uses=uses,
                    added=added.added,
                    known=added.known,
                )
            )

    def uses_of(self, installation_id: uuid.UUID, header: str) -> list[dict[str, Any]] | None:
        """What the columns of a header were taken for the last time; none where it is new."""
        query = (
            select(LogImportRow.uses)
            .where(LogImportRow.installation_id == installation_id, LogImportRow.header == header)
            .order_by(LogImportRow.taken_at.desc())
            .limit(1)
        )
        with transaction(self._engine) as session:
            return session.scalar(query)

    def _series_ids(self, installation_id: uuid.UUID, wanted: Sequence[tuple[str, str]]) -> dict[tuple[str, str], int]:
        with transaction(self._engine) as session:
            if session.get(InstallationRow, installation_id) is None:
                raise NotFoundError(f"There is no installation {installation_id}.")
            known = self._known_ids(session, installation_id)
            missing = [key for key in dict.fromkeys(wanted) if key not in known]
            if missing:
                # One at a time: whoever else counts waits, and then finds these.
                session.execute(text("lock table series in share row exclusive mode"))
                known = self._known_ids(session, installation_id)
                last = session.scalar(select(func.max(SeriesRow.id))) or 0
                for quantity, part in missing:
                    if (quantity, part) not in known:
                        last += 1
                        session.add(SeriesRow(id=last, installation_id=installation_id, quantity=quantity, part=part))
                session.flush()
                known = self._known_ids(session, installation_id)
            return known

    @staticmethod
    def _known_ids(session: Session, installation_id: uuid.UUID) -> dict[tuple[str, str], int]:
        rows = session.execute(
            select(SeriesRow.quantity, SeriesRow.part, SeriesRow.id).where(SeriesRow.installation_id == installation_id)
        )
        return {(quantity, part): number for quantity, part, number in rows}

    @contextmanager
    def _cursor(self) -> Iterator[psycopg.Cursor[Any]]:
        """The driver's own cursor in a transaction, for what is copied."""
        with transaction(self._engine) as session:
            session.flush()
            driver = session.connection().connection.driver_connection
            assert isinstance(driver, psycopg.Connection)
            try:
                with driver.cursor() as cursor:
                    yield cursor
            except psycopg.OperationalError as error:
                raise in_our_words(error) from error
