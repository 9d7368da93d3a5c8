"""The repository of designs: whole documents saved as revisions, nothing ever overwritten."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Literal

from sqlalchemy import Engine, Text, cast, insert, literal, select
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from hearthkeep.core.design import SCHEMA_VERSION, Design, read_design
from hearthkeep.core.errors import InputError
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
    #: Of an alternative: the design it belongs to, and what it is called beside the others.
    root_id: uuid.UUID | None
    label: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Saved:
    """What a save came to; the document is the one that was sent."""

    id: uuid.UUID
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Checked:
    """A document that was read and found good, as the JSON text of the current version."""

    text: str
    name: str

    @classmethod
    def of(cls, document: Design) -> Checked:
        """Of a document as it stands in memory."""
        return cls(text=document.model_dump_json(), name=document.name)


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

    def create(self, document: Design | Checked) -> StoredDesign:
        """Store a new design as its revision 1."""
        checked = _checked(document)
        with self._session() as session:
            design = DesignRow(id=uuid.uuid4(), head=1, name=checked.name)
            session.add(design)
            session.flush()
            _put(session, design, checked.text, {})
            return _stored(design, revision_of(session, design, 1))

    def get(self, design_id: uuid.UUID) -> StoredDesign:
        """The newest revision of a design, deleted or not."""
        with self._session() as session:
            design = of_id(session, design_id)
            return _stored(design, revision_of(session, design, design.head))

    def values(self, design_id: uuid.UUID, number: int | None = None) -> dict[str, Any]:
        """A revision, the newest where none is named, as plain values, whether or not this version can read them."""
        with self._session() as session:
            design = of_id(session, design_id)
            return dict(revision_of(session, design, number or design.head).document)

    def revision(self, design_id: uuid.UUID, number: int) -> Design:
        """The document of one revision."""
        with self._session() as session:
            return read_design(revision_of(session, of_id(session, design_id), number).document)

    def history(self, design_id: uuid.UUID) -> tuple[RevisionInfo, ...]:
        """All revisions, newest first."""
        query = (
            select(RevisionRow.number, RevisionRow.saved_at)
            .where(RevisionRow.design_id == design_id)
            .order_by(RevisionRow.number.desc())
        )
        with self._session() as session:
            of_id(session, design_id)
            return tuple(RevisionInfo(number=number, saved_at=saved_at) for number, saved_at in session.execute(query))

    def save(
        self,
        design_id: uuid.UUID,
        document: Design | Checked,
        *,
        expected_revision: int,
        key: uuid.UUID | None = None,
    ) -> Saved:
        """Save a new revision on top of the expected one; the same document again adds nothing.

        A save whose answer was lost may be sent again under its key: it is the same save, whatever was saved since.
        """
        checked = _checked(document)
        with self._session() as session:
            design = of_id(session, design_id, lock=True)
            found = _under_key(session, design, key) or _unchanged(session, design, expected_revision, checked)
            if found is None:
                steps = {"undo_to": design.head, "save_key": key}
                design.head, design.name = design.head + 1, checked.name
                session.flush()
                found = _put(session, design, checked.text, steps)
            return found

    def undo(self, design_id: uuid.UUID, *, expected_revision: int, key: uuid.UUID | None = None) -> StoredDesign:
        """Bring back the state before the newest one, as a new revision; sent again under its key it is the same step."""
        with self._session() as session:
            design = of_id(session, design_id, lock=True)
            done = _under_key(session, design, key)
            if done is not None:
                return _stored(design, revision_of(session, design, done.revision))
            head, target = _step(
                session, design, expected_revision, "undo_to", "There is no earlier state to go back to."
            )
            return _add(session, design, target, undo_to=target.undo_to, redo_to=head.number, save_key=key)

    def redo(self, design_id: uuid.UUID, *, expected_revision: int, key: uuid.UUID | None = None) -> StoredDesign:
        """Bring back the state that was undone last, as a new revision; sent again under its key it is the same step."""
        with self._session() as session:
            design = of_id(session, design_id, lock=True)
            done = _under_key(session, design, key)
            if done is not None:
                return _stored(design, revision_of(session, design, done.revision))
            head, target = _step(
                session, design, expected_revision, "redo_to", "There is no undone state to go forward to."
            )
            return _add(session, design, target, undo_to=head.number, redo_to=target.redo_to, save_key=key)

    def delete(self, design_id: uuid.UUID) -> None:
        """Mark a design deleted; restore undoes it."""
        with self._session() as session:
            design = of_id(session, design_id, lock=True)
            if design.deleted_at is None:
                design.deleted_at = datetime.now(UTC)

    def restore(self, design_id: uuid.UUID) -> Saved:
        """Take a deleted design back into use, whether or not this version can read it."""
        with self._session() as session:
            design = of_id(session, design_id, lock=True)
            design.deleted_at = None
            return newest(session, design)

    def copy(self, design_id: uuid.UUID, name: str) -> Saved:
        """A new design with the newest revision of another under a new name, whether or not this version can read it."""
        with self._session() as session:
            design = of_id(session, design_id)
            values = {**revision_of(session, design, design.head).document, "name": name}
            made = DesignRow(id=uuid.uuid4(), head=1, name=name)
            session.add(made)
            session.flush()
            session.add(RevisionRow(design_id=made.id, number=1, document=values))
            session.flush()
            return newest(session, made)

    def _session(self) -> AbstractContextManager[Session]:
        return transaction(self._engine)


def of_id(session: Session, design_id: uuid.UUID, *, lock: bool = False) -> DesignRow:
    """The row of a design. Raises NotFoundError where there is none."""
    design = session.get(DesignRow, design_id, with_for_update=lock)
    if design is None:
        raise NotFoundError(f"There is no design {design_id}.")
    return design


def revision_of(session: Session, design: DesignRow, number: int) -> RevisionRow:
    """One revision. Raises NotFoundError where there is none."""
    revision = session.get(RevisionRow, (design.id, number))
    if revision is None:
        raise NotFoundError(f"{design.name} has no revision {number}; its newest is {design.head}.")
    return revision


def _checked(document: Design | Checked) -> Checked:
    return document if isinstance(document, Checked) else Checked.of(document)


def refuse_stale(design: DesignRow, expected: int) -> None:
    """Make sure that a change was made on the newest revision of a design in use."""
    if design.deleted_at is not None:
        raise DeletedError(f"{design.name} is deleted. Restore it before changing it.")
    if design.head != expected:
        raise StaleRevisionError(expected_revision=expected, newest_revision=design.head)


def _step(
    session: Session, design: DesignRow, expected: int, way: Literal["undo_to", "redo_to"], none_there: str
) -> tuple[RevisionRow, RevisionRow]:
    """The newest revision, and the one that a step back or forward leads to."""
    refuse_stale(design, expected)
    head = revision_of(session, design, design.head)
    number = head.undo_to if way == "undo_to" else head.redo_to
    if number is None:
        raise NothingToUndoError(none_there)
    return head, revision_of(session, design, number)


#: What is read of a revision without its document.
_WITHOUT_DOCUMENT = (RevisionRow.number, RevisionRow.saved_at, RevisionRow.undo_to, RevisionRow.redo_to)


def _saved(design: DesignRow, row: Sequence[Any]) -> Saved:
    number, saved_at, undo_to, redo_to = row
    return Saved(
        id=design.id,
        revision=number,
        saved_at=saved_at,
        can_undo=undo_to is not None,
        can_redo=redo_to is not None,
    )


def newest(session: Session, design: DesignRow) -> Saved:
    """The newest revision, without its document."""
    query = select(*_WITHOUT_DOCUMENT).where(RevisionRow.design_id == design.id, RevisionRow.number == design.head)
    return _saved(design, session.execute(query).one())


def _under_key(session: Session, design: DesignRow, key: uuid.UUID | None) -> Saved | None:
    """The revision that was saved under a key."""
    if key is None:
        return None
    query = select(*_WITHOUT_DOCUMENT).where(RevisionRow.design_id == design.id, RevisionRow.save_key == key)
    row = session.execute(query).one_or_none()
    return None if row is None else _saved(design, row)


def _unchanged(session: Session, design: DesignRow, expected: int, checked: Checked) -> Saved | None:
    """The newest revision, if it holds this very document; compared in the database, so that it need not come out."""
    refuse_stale(design, expected)
    same = RevisionRow.document == cast(literal(checked.text, Text), JSONB)
    current = RevisionRow.document["schema_version"].astext == str(SCHEMA_VERSION)
    row = session.execute(
        select(same, current, *_WITHOUT_DOCUMENT).where(
            RevisionRow.design_id == design.id, RevisionRow.number == design.head
        )
    ).one()
    is_same, is_current, *rest = row
    if not is_same and not is_current:
        # Of an earlier version: the same document where it comes to the same.
        is_same = _same_as_older(revision_of(session, design, design.head), checked)
    return _saved(design, rest) if is_same else None


def _same_as_older(head: RevisionRow, checked: Checked) -> bool:
    try:
        return read_design(head.document) == read_design(checked.text)
    except InputError:
        return False


def put_first(session: Session, design: DesignRow, checked: Checked) -> Saved:
    """Write a new design's first revision."""
    return _put(session, design, checked.text, {})


def _put(session: Session, design: DesignRow, text: str, values: dict[str, Any]) -> Saved:
    """Write the design's newest revision from JSON text, which the database reads itself."""
    statement = insert(RevisionRow).values(
        design_id=design.id, number=design.head, document=cast(literal(text, Text), JSONB), **values
    )
    return _saved(design, session.execute(statement.returning(*_WITHOUT_DOCUMENT)).one())


def _add(
    session: Session,
    design: DesignRow,
    target: RevisionRow,
    *,
    undo_to: int | None,
    redo_to: int | None,
    save_key: uuid.UUID | None,
) -> StoredDesign:
    """Bring an earlier state back as the newest revision."""
    design.head += 1
    design.name = str(target.document["name"])
    revision = RevisionRow(
        design_id=design.id,
        number=design.head,
        document=target.document,
        undo_to=undo_to,
        redo_to=redo_to,
        save_key=save_key,
    )
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
        root_id=design.root_id,
        label=design.label,
    )
