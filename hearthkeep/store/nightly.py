"""The nightly backup: one a day in the data folder, kept for two weeks."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.store.backup import write_backup
from hearthkeep.store.cluster import Cluster

KEPT_DAYS = 14
#: Begin no earlier in the day, unless the last one is more than a day old.
FROM_HOUR = 3
_NAME = re.compile(r"^nightly-(\d{4}-\d{2}-\d{2})\.zip$")


@dataclass(frozen=True, kw_only=True, slots=True)
class LastBackup:
    """What is known of the backups made on their own."""

    #: Folder they stand in.
    folder: str
    #: The newest file and when it was written; none before the first.
    file: str | None
    made_at: datetime | None
    #: Why the last attempt failed; empty where it did not.
    trouble: str


class Nightly:
    """The nightly backups of one data folder."""

    def __init__(self, cluster: Cluster) -> None:
        self._cluster = cluster
        self._trouble = ""

    def is_due(self, now: datetime) -> bool:
        """Whether today's is still to be made: after three at night, or at once where the last is a day old or more."""
        made = self._made()
        if not made:
            return True
        newest = max(made)
        return newest < now.date() - timedelta(days=1) or (newest < now.date() and now.hour >= FROM_HOUR)

    def make(self, now: datetime) -> Path:
        """Make today's, and remove those older than two weeks; raises BackupError or ClusterError."""
        self._trouble = ""
        try:
            file = self._cluster.folder.backups() / f"nightly-{now:%Y-%m-%d}.zip"
            write_backup(self._cluster.url, file)
        except (HearthKeepError, OSError) as error:
            self._trouble = str(error)
            raise
        for day, path in self._made().items():
            if day < now.date() - timedelta(days=KEPT_DAYS):
                path.unlink(missing_ok=True)
        return file

    def last(self) -> LastBackup:
        """The newest one."""
        made = self._made()
        newest = made[max(made)] if made else None
        return LastBackup(
            folder=str(self._cluster.folder.backups()),
            file=None if newest is None else newest.name,
            made_at=None if newest is None else datetime.fromtimestamp(newest.stat().st_mtime).astimezone(),
            trouble=self._trouble,
        )

    def _made(self) -> dict[date, Path]:
        found = {}
        for path in self._cluster.folder.backups().iterdir():
            named = _NAME.match(path.name)
            if named is not None:
                found[date.fromisoformat(named[1])] = path
        return found
