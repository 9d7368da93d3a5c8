"""Alternatives of a design: a tree of named variants with a common root, each with its own revisions. Nothing is overwritten."""

from __future__ import annotations

import uuid
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.store.database import transaction
from hearthkeep.store.designs import Checked, Saved, newest, of_id, put_first, refuse_stale, revision_of
from hearthkeep.store.models import DesignRow, RevisionRow

#: Alternatives that a design may have, removed ones left out.
MOST_ALTERNATIVES = 60
LONGEST_LABEL = 60


@dataclass(frozen=True, kw_only=True, slots=True)
class Variant:
    """One design of a tree: the root itself, or one of its alternatives."""

    id: uuid.UUID
    #: None for the root.
    parent_id: uuid.UUID | None
    #: What it is called beside the others; empty for the root.
    label: str
    name: str
    revision: int
    saved_at: datetime
    #: When it was removed; none while it is not.
    deleted_at: datetime | None


class Alternatives:
    """Trees of designs in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def tree(self, design_id: uuid.UUID) -> tuple[Variant, ...]:
        """The root of a design's tree, then its alternatives as they were made, removed ones among them."""
        with self._session() as session:
            root_id = _root_id(of_id(session, design_id))
            head = (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.head)
            query = (
                select(DesignRow, RevisionRow.saved_at)
                .join(RevisionRow, head)
                .where((DesignRow.id == root_id) | (DesignRow.root_id == root_id))
                .order_by(DesignRow.root_id.is_not(None), DesignRow.created_at, DesignRow.id)
            )
            return tuple(
                Variant(
                    id=row.id,
                    parent_id=None if row.id == root_id else row.parent_id or root_id,
                    label=row.label,
                    name=row.name,
                    revision=row.head,
                    saved_at=saved_at,
                    deleted_at=row.deleted_at,
                )
                for row, saved_at in session.execute(query)
            )

    def keep(self, parent_id: uuid.UUID, label: str, document: Checked | None = None) -> Saved:
        """
        Keep an alternative of a design or of another alternative.

        :param document: none takes the parent as it stands.
        :raises InputError: there are as many as there may be.
        """
        with self._session() as session:
            parent = of_id(session, parent_id)
            root = _locked_root(session, parent)
            kept = select(func.count()).where(DesignRow.root_id == root.id, DesignRow.deleted_at.is_(None))
            number = session.scalar(kept) or 0
            if number >= MOST_ALTERNATIVES:
                accepted = f"must leave at most {MOST_ALTERNATIVES} alternatives of one design: remove some first"
                raise InputError((FieldProblem(field="alternatives", value=str(number + 1), accepted=accepted),))
            return _made(session, root, parent, label, document)

    def rename(self, design_id: uuid.UUID, label: str) -> None:
        """Call an alternative something else beside the others; the root has no such name."""
        with self._session() as session:
            row = of_id(session, design_id, lock=True)
            if row.root_id is None:
                raise _not_an_alternative(design_id)
            row.label = label

    def promote(self, design_id: uuid.UUID, *, expected_revision: int, label: str) -> Saved:
        """
        Make an alternative the design: its document becomes the root's newest revision, under the root's own name.

        What the root was is kept as an alternative first, unless it was the same.

        :param expected_revision: the root's, as it was seen.
        :param label: what the root as it was is called from now on.
        """
        with self._session() as session:
            chosen = of_id(session, design_id)
            if chosen.root_id is None:
                raise _not_an_alternative(design_id)
            root = _locked_root(session, chosen)
            refuse_stale(root, expected_revision)
            now, then = revision_of(session, root, root.head), revision_of(session, chosen, chosen.head)
            document = {**then.document, "name": now.document["name"]}
            if document == now.document:
                return newest(session, root)
            _made(session, root, root, label, None)
            root.head += 1
            session.add(RevisionRow(design_id=root.id, number=root.head, document=document, undo_to=now.number))
            session.flush()
            return newest(session, root)

    def _session(self) -> AbstractContextManager[Session]:
        return transaction(self._engine)


def _made(session: Session, root: DesignRow, parent: DesignRow, label: str, document: Checked | None) -> Saved:
    row = DesignRow(
        id=uuid.uuid4(),
        head=1,
        name=parent.name if document is None else document.name,
        root_id=root.id,
        parent_id=parent.id,
        label=label,
    )
    session.add(row)
    session.flush()
    if document is not None:
        return put_first(session, row, document)
    values: dict[str, Any] = dict(revision_of(session, parent, parent.head).document)
    session.add(RevisionRow(design_id=row.id, number=1, document=values))
    session.flush()
    return newest(session, row)


def _root_id(row: DesignRow) -> uuid.UUID:
    return row.root_id or row.id


def _locked_root(session: Session, row: DesignRow) -> DesignRow:
    """The root of a design's tree, locked, so that two changes of one tree follow each other."""
    return of_id(session, _root_id(row), lock=True)


def _not_an_alternative(design_id: uuid.UUID) -> InputError:
    accepted = "must be the id of an alternative, not of the design itself"
    return InputError((FieldProblem(field="design_id", value=str(design_id), accepted=accepted),))
