"""The repository of designs: whole documents saved as revisions, nothing ever overwritten."""

from __future__ import annotations

import uuid
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from hearthkeep.core.design import Design, read_design
from hearthkeep.store.database import transaction
from hearthkeep.store.errors import (
    DeletedError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
)
from hearthkeep.store.models import DesignRow, RevisionRow


@dataclass(frozen=True, kw_only=True, slots=True)
class StoredDesign:
    """A design as it stands in its newest revision."""

    id: uuid.UUID
    revision: int
    saved_at: datetime
    document: Design
    can_undo: bool
    can_redo: bool
    #: When it was deleted; none while it is not.
    deleted_at: datetime | None


@dataclass(frozen=True, kw_only=True, slots=True)
class RevisionInfo:
    """One entry of a design's history."""

    number: int
    saved_at: datetime


class Designs:
    """Designs in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def is_empty(self) -> bool:
        """Whether no design was ever made here."""
        with self._session() as session:
            return session.execute(select(DesignRow.id).limit(1)).first() is None

    def create(self, document: Design) -> StoredDesign:
        """Store a new design as its revision 1."""
        with self._session() as session:
            design = DesignRow(id=uuid.uuid4(), head=1, name=document.name)
            session.add(design)
            session.flush()
            revision = RevisionRow(design_id=design.id, number=1, document=document.model_dump(mode="json"))
            session.add(revision)
            session.flush()
            return _stored(design, revision)

    def get(self, design_id: uuid.UUID) -> StoredDesign:
        """The newest revision of a design, deleted or not."""
        with self._session() as session:
            design = _design(session, design_id)
            return _stored(design, _revision(session, design, design.head))

    def values(self, design_id: uuid.UUID) -> dict[str, Any]:
        """The newest revision as plain values, whether or not this version can read them."""
        with self._session() as session:
            design = _design(session, design_id)
            return dict(_revision(session, design, design.head).document)

    def revision(self, design_id: uuid.UUID, number: int) -> Design:
        """The document of one revision."""
        with self._session() as session:
            return read_design(_revision(session, _design(session, design_id), number).document)

    def history(self, design_id: uuid.UUID) -> tuple[RevisionInfo, ...]:
        """All revisions, newest first."""
        query = (
            select(RevisionRow.number, RevisionRow.saved_at)
            .where(RevisionRow.design_id == design_id)
            .order_by(RevisionRow.number.desc())
        )
        with self._session() as session:
            _design(session, design_id)
            return tuple(RevisionInfo(number=number, saved_at=saved_at) for number, saved_at in session.execute(query))

    def save(self, design_id: uuid.UUID, document: Design, *, expected_revision: int) -> StoredDesign:
        """Save a new revision on top of the expected one; the same document again adds nothing."""
        with self._session() as session:
            design, head = _head_for_change(session, design_id, expected_revision)
            values = document.model_dump(mode="json")
            if read_design(head.document) == document:
                return _stored(design, head)
            return _add(session, design, values, undo_to=head.number, redo_to=None)

    def undo(self, design_id: uuid.UUID, *, expected_revision: int) -> StoredDesign:
        """Bring back the state before the newest one, as a new revision."""
        with self._session() as session:
            design, head = _head_for_change(session, design_id, expected_revision)
            if head.undo_to is None:
                raise NothingToUndoError("There is no earlier state to go back to.")
            target = _revision(session, design, head.undo_to)
            return _add(session, design, target.document, undo_to=target.undo_to, redo_to=head.number)

    def redo(self, design_id: uuid.UUID, *, expected_revision: int) -> StoredDesign:
        """Bring back the state that was undone last, as a new revision."""
        with self._session() as session:
            design, head = _head_for_change(session, design_id, expected_revision)
            if head.redo_to is None:
                raise NothingToUndoError("There is no undone state to go forward to.")
            target = _revision(session, design, head.redo_to)
            return _add(session, design, target.document, undo_to=head.number, redo_to=target.redo_to)

    def delete(self, design_id: uuid.UUID) -> None:
        """Mark a design deleted; restore undoes it."""
        with self._session() as session:
            design = _design(session, design_id, lock=True)
            if design.deleted_at is None:
                design.deleted_at = datetime.now(UTC)

    def restore(self, design_id: uuid.UUID) -> StoredDesign:
        """Take a deleted design back into use."""
        with self._session() as session:
            design = _design(session, design_id, lock=True)
            design.deleted_at = None
            return _stored(design, _revision(session, design, design.head))

    def _session(self) -> AbstractContextManager[Session]:
        return transaction(self._engine)


def _design(session: Session, design_id: uuid.UUID, *, lock: bool = False) -> DesignRow:
    design = session.get(DesignRow, design_id, with_for_update=lock)
    if design is None:
        raise NotFoundError(f"There is no design {design_id}.")
    return design


def _revision(session: Session, design: DesignRow, number: int) -> RevisionRow:
    revision = session.get(RevisionRow, (design.id, number))
    if revision is None:
        raise NotFoundError(f"{design.name} has no revision {number}; its newest is {design.head}.")
    return revision


def _head_for_change(session: Session, design_id: uuid.UUID, expected: int) -> tuple[DesignRow, RevisionRow]:
    """Lock the design and make sure that the change was made on its newest revision."""
    design = _design(session, design_id, lock=True)
    if design.deleted_at is not None:
        raise DeletedError(f"{design.name} is deleted. Restore it before changing it.")
    if design.head != expected:
        raise StaleRevisionError(expected_revision=expected, newest_revision=design.head)
    return design, _revision(session, design, design.head)


def _add(
    session: Session, design: DesignRow, values: dict[str, object], *, undo_to: int | None, redo_to: int | None
) -> StoredDesign:
    design.head += 1
    design.name = str(values["name"])
    revision = RevisionRow(design_id=design.id, number=design.head, document=values, undo_to=undo_to, redo_to=redo_to)
    session.add(revision)
    session.flush()
    return _stored(design, revision)


def _stored(design: DesignRow, revision: RevisionRow) -> StoredDesign:
    return StoredDesign(
        id=design.id,
        revision=revision.number,
        saved_at=revision.saved_at,
        document=read_design(revision.document),
        can_undo=revision.undo_to is not None,
        can_redo=revision.redo_to is not None,
        deleted_at=design.deleted_at,
    )
