"""Installations and their logs: entries are added, each once however often it is sent, and never changed."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, aliased

from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.store.database import transaction
from hearthkeep.store.designs import of_id
from hearthkeep.store.errors import NotFoundError
from hearthkeep.store.models import InstallationRow, LogEntryRow

#: Installations of one design.
MOST_INSTALLATIONS = 60


@dataclass(frozen=True, kw_only=True, slots=True)
class Installation:
    """One thing that is built from a design."""

    id: uuid.UUID
    name: str
    begun_at: datetime
    #: Entries of its log.
    entries: int


@dataclass(frozen=True, kw_only=True, slots=True)
class NewEntry:
    """An entry to be kept."""

    id: uuid.UUID
    kind: str
    at: datetime
    told_at: datetime
    who: str
    body: dict[str, Any]
    strikes: uuid.UUID | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class KeptEntry:
    """An entry as it is kept."""

    id: uuid.UUID
    kind: str
    at: datetime
    told_at: datetime
    received_at: datetime
    who: str
    body: dict[str, Any]
    #: A later entry strikes it out.
    is_struck: bool
    #: Why it cannot be used, found by who reads it; empty where it can.
    trouble: str = ""


class Logbook:
    """Installations and log entries in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def installations(self, design_id: uuid.UUID) -> tuple[Installation, ...]:
        """What is built from a design, the first begun first; asked of the design or of any of its alternatives."""
        with self._session() as session:
            root_id = _root_id(session, design_id)
            query = (
                select(InstallationRow, func.count(LogEntryRow.id))
                .outerjoin(LogEntryRow, LogEntryRow.installation_id == InstallationRow.id)
                .where(InstallationRow.design_id == root_id)
                .group_by(InstallationRow.id)
                .order_by(InstallationRow.begun_at, InstallationRow.id)
            )
            return tuple(_installation(row, count) for row, count in session.execute(query))

    def begin(self, design_id: uuid.UUID, name: str) -> Installation:
        """Begin the record of an installation; raises InputError where there are as many as there may be."""
        with self._session() as session:
            root_id = _root_id(session, design_id)
            held = select(func.count()).where(InstallationRow.design_id == root_id)
            number = session.scalar(held) or 0
            if number >= MOST_INSTALLATIONS:
                accepted = f"must leave at most {MOST_INSTALLATIONS} installations of one design"
                raise InputError((FieldProblem(field="installations", value=str(number + 1), accepted=accepted),))
            row = InstallationRow(id=uuid.uuid4(), design_id=root_id, name=name)
            session.add(row)
            session.flush()
            return _installation(row, 0)

    def rename(self, installation_id: uuid.UUID, name: str) -> None:
        """Call an installation something else."""
        with self._session() as session:
            _row(session, installation_id).name = name

    def find(self, installation_id: uuid.UUID) -> tuple[Installation, uuid.UUID]:
        """An installation and the design that it is built from; raises NotFoundError."""
        with self._session() as session:
            row = _row(session, installation_id)
            count = session.scalar(select(func.count()).where(LogEntryRow.installation_id == installation_id)) or 0
            return _installation(row, count), row.design_id

    def add(self, installation_id: uuid.UUID, entries: Sequence[NewEntry]) -> frozenset[uuid.UUID]:
        """Keep entries; those that are there already stay as they are. Says which are new."""
        if not entries:
            return frozenset()
        with self._session() as session:
            _row(session, installation_id)
            values = [
                {
                    "id": entry.id,
                    "installation_id": installation_id,
                    "kind": entry.kind,
                    "at": entry.at,
                    "told_at": entry.told_at,
                    "who": entry.who,
                    "body": entry.body,
                    "strikes": entry.strikes,
                }
                for entry in entries
            ]
            statement = insert(LogEntryRow).values(values).on_conflict_do_nothing(index_elements=["id"])
            return frozenset(session.scalars(statement.returning(LogEntryRow.id)))

    def entry(self, installation_id: uuid.UUID, entry_id: uuid.UUID) -> KeptEntry | None:
        """One entry of an installation; none where it has no such entry."""
        with self._session() as session:
            row = session.get(LogEntryRow, entry_id)
            return None if row is None or row.installation_id != installation_id else _kept(row, False)

    def entries(
        self, installation_id: uuid.UUID, *, kinds: Collection[str] = (), newest: int | None = None
    ) -> tuple[KeptEntry, ...]:
        """Entries of an installation, oldest first; `kinds` empty takes all, `newest` so many of the last."""
        striker = aliased(LogEntryRow)
        struck = select(striker.id).where(striker.strikes == LogEntryRow.id).exists()
        query = select(LogEntryRow, struck).where(
            LogEntryRow.installation_id == installation_id, LogEntryRow.strikes.is_(None)
        )
        if kinds:
            query = query.where(LogEntryRow.kind.in_(kinds))
        query = query.order_by(LogEntryRow.at.desc(), LogEntryRow.received_at.desc(), LogEntryRow.id)
        if newest is not None:
            query = query.limit(newest)
        with self._session() as session:
            _row(session, installation_id)
            found = [_kept(row, is_struck) for row, is_struck in session.execute(query)]
        return tuple(reversed(found))

    def _session(self) -> AbstractContextManager[Session]:
        return transaction(self._engine)


def _root_id(session: Session, design_id: uuid.UUID) -> uuid.UUID:
    row = of_id(session, design_id)
    return row.root_id or row.id


def _row(session: Session, installation_id: uuid.UUID) -> InstallationRow:
    row = session.get(InstallationRow, installation_id)
    if row is None:
        raise NotFoundError(f"There is no installation {installation_id}.")
    return row


def _installation(row: InstallationRow, entries: int) -> Installation:
    return Installation(id=row.id, name=row.name, begun_at=row.begun_at, entries=entries)


def _kept(row: LogEntryRow, is_struck: bool) -> KeptEntry:
    return KeptEntry(
        id=row.id,
        kind=row.kind,
        at=row.at,
        told_at=row.told_at,
        received_at=row.received_at,
        who=row.who,
        body=row.body,
        is_struck=is_struck,
    )
