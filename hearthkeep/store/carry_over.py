"""From an older major version of PostgreSQL to the newest installed: by a backup and its restoration, verified."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from datetime import UTC, datetime

from hearthkeep.store.backup import load_backup, read_backup, write_backup
from hearthkeep.store.folder import DataFolder
from hearthkeep.store.postgres import Server, program


def carry_over(folder: DataFolder, old: Server, *, durable: bool, tell: Callable[[str], None]) -> None:
    """Carry the data over; the old ones are kept beside, and stay in place until the new ones are verified.

    An attempt that is interrupted is begun again; one interrupted between the last two renamings is finished by
    DataFolder.settle.
    """
    was, becomes = old.version, program("initdb").parts[-3]
    tell(f"Carrying the data over from PostgreSQL {was} to {becomes} …")
    file = folder.backups() / f"before-postgresql-{becomes}-{datetime.now(UTC):%Y%m%d-%H%M%S}.zip"
    old.start()
    try:
        write_backup(lambda name: old.url(folder.secret(), name), file)
    finally:
        old.stop()
    new = Server(folder.ready(), durable=durable)
    new.stop()
    shutil.rmtree(new.data, ignore_errors=True)
    new.make(folder.secret(), workshop=folder.workshop())
    new.start()
    try:
        load_backup(read_backup(file), lambda name: new.url(folder.secret(), name))
    finally:
        new.stop()
    kept = folder.replace_by_ready(f"postgres-{was}-kept-{datetime.now(UTC):%Y%m%d-%H%M%S}")
    tell(f"Carried over and verified. The old data are kept in {kept} and the backup in {file}; both can be removed.")
