"""What can go wrong with stored designs.

HearthKeepError
└── StoreError
    ├── NotFoundError          no such design or revision
    ├── StaleRevisionError     someone saved a newer revision meanwhile
    ├── NothingToUndoError     the history has no such step
    ├── InUseError             a unit of the library stands in a design
    ├── DeletedError           the design is deleted and has to be restored first
    └── DatabaseAwayError      the database does not answer
"""

from __future__ import annotations

from hearthkeep.core.errors import HearthKeepError


class StoreError(HearthKeepError):
    """Base of the store's errors."""


class NotFoundError(StoreError):
    """No such design or revision."""


class StaleRevisionError(StoreError):
    """A newer revision was saved meanwhile; nothing was written."""

    def __init__(self, *, expected_revision: int, newest_revision: int) -> None:
        self.newest_revision = newest_revision
        super().__init__(
            f"Revision {newest_revision} was saved meanwhile, from another window; this change was made on revision "
            f"{expected_revision}. Nothing was written."
        )


class NothingToUndoError(StoreError):
    """The history has no such step."""


class DeletedError(StoreError):
    """The design is deleted; restore it before changing it."""


class InUseError(StoreError):
    """The unit stands in a design and cannot be taken out of the library."""


class DatabaseAwayError(StoreError):
    """The database does not answer."""
