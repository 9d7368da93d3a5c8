"""What can go wrong with stored designs.

HearthKeepError
├── StoreError
│   ├── NotFoundError       NOT_FOUND        no such design, revision, unit or weather year
│   ├── StaleRevisionError  STALE_REVISION   someone saved a newer revision meanwhile
│   ├── NothingToUndoError  NO_SUCH_STEP     the history has no such step
│   ├── InUseError          IN_USE           a unit of the library stands in a design
│   ├── DeletedError        DELETED          the design is deleted and has to be restored first
│   └── DatabaseAwayError   DATABASE_AWAY    the database does not answer
│       └── DiskFullError   DISK_FULL        it finds no room on the disk; who waits for the database waits for room
├── ClusterError            CLUSTER          the database server cannot be set up, started or stopped
├── NewerSchemaError        NEWER_SCHEMA     the data were written by a newer release
└── BackupError             BACKUP           a backup cannot be made, read or restored
"""

from __future__ import annotations

from hearthkeep.core.errors import HearthKeepError


class StoreError(HearthKeepError):
    """Base of the store's errors."""


class NotFoundError(StoreError):
    """No such design or revision."""

    code, title = "NOT_FOUND", "Not found"
    fix = "Go back to the list of designs; what was deleted can be restored there."


class StaleRevisionError(StoreError):
    """A newer revision was saved meanwhile; nothing was written."""

    code, title = "STALE_REVISION", "A newer revision was saved"
    fix = "Keep mine or theirs in the banner; neither is lost."

    def __init__(self, *, expected_revision: int, newest_revision: int) -> None:
        self.newest_revision = newest_revision
        super().__init__(
            f"Revision {newest_revision} was saved meanwhile, from another window; this change was made on revision "
            f"{expected_revision}. Nothing was written."
        )


class NothingToUndoError(StoreError):
    """The history has no such step."""

    code, title = "NO_SUCH_STEP", "Nothing to go back or forward to"
    fix = "Open the history to see which states there are."


class DeletedError(StoreError):
    """The design is deleted; restore it before changing it."""

    code, title = "DELETED", "The design is deleted"
    fix = "Restore it on the list of designs, or bring it back from the page it is open on."


class InUseError(StoreError):
    """The unit stands in a design and cannot be taken out of the library."""

    code, title = "IN_USE", "The unit is in use"
    fix = "Choose another unit in the designs named, then take this one out."


class DatabaseAwayError(StoreError):
    """The database does not answer."""

    code, title = "DATABASE_AWAY", "The database does not answer"
    fix = "It is brought back on its own within seconds; if it stays away, stop Hearth Keep and start it again. Unsaved work is kept."


class DiskFullError(DatabaseAwayError):
    """There is no room on the disk; what was to be kept was not."""

    code, title = "DISK_FULL", "The disk is full"
    fix = "Make room on the disk that holds the data folder, then do it once more. What was kept before is safe."


class ClusterError(HearthKeepError):
    """The database server could not be set up, started or stopped."""

    code, title = "CLUSTER", "The database cannot be started"
    fix = "Do what is said above, then start again."


class NewerSchemaError(HearthKeepError):
    """The data were written by a newer release; an older one would lose what it does not know."""

    code, title = "NEWER_SCHEMA", "The data are of a newer release"
    fix = "Start the newer release, or restore a backup that this one made."


class BackupError(HearthKeepError):
    """A backup cannot be made, read or restored; nothing was changed."""

    code, title = "BACKUP", "The backup cannot be used"
    fix = "Do what is said above, then try again."
