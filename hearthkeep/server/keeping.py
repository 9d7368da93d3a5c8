"""Backups on command, whether or not the application runs, and their restoration into a new data folder."""

from __future__ import annotations

import contextlib
import json
import os
import shlex
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path

from hearthkeep.server.given import refuse_given
from hearthkeep.server.running import only_one, running
from hearthkeep.store import BackupError, Cluster, load_backup, read_backup, write_backup
from hearthkeep.store.folder import write_whole

Tell = Callable[[str], None]
#: Marks a folder that a restoration is being built in, so that what an interrupted one left can be removed.
RESTORING = "restoring.json"


def backup(home: Path, file: Path, tell: Tell) -> None:
    """Write everything in a data folder to one new file."""
    refuse_given("back it up")
    if not (home / "cluster.json").exists():
        raise BackupError(f"There is no data in {home}; nothing to back up.")
    with _database(home, tell) as cluster:
        write_backup(cluster.url, file)
        # Read through again: a backup is worth what can be read of it.
        manifest = read_backup(file).manifest
    tell(f"{file}: {manifest.counts()}; {file.stat().st_size:,} bytes, read through and whole.")


@contextlib.contextmanager
def _database(home: Path, tell: Tell) -> Iterator[Cluster]:
    """The database of a running application, or started for this alone."""
    cluster = Cluster(home, tell=tell)
    found = running(home)
    if found is not None and found.address:
        yield cluster
        return
    with only_one(home):
        try:
            cluster.ensure_running()
            yield cluster
        finally:
            cluster.stop()


def restore(file: Path, target: Path, tell: Tell, *, durable: bool = True) -> None:
    """Restore a backup into a data folder that does not exist yet or is empty: whole, verified, or not at all."""
    target = target.absolute()
    if target.exists() and (not target.is_dir() or any(target.iterdir())):
        raise BackupError(
            f"{target} is not empty, and a backup is never restored over what is there. Name a new folder: "
            f"./hearth restore FILE --into FOLDER"
        )
    found = read_backup(file)
    work = target.with_name(f".{target.name}.restoring")
    _clear(work)
    work.mkdir(parents=True)
    write_whole(work / RESTORING, json.dumps({"pid": os.getpid()}))
    cluster = Cluster(work, tell=tell, durable=durable)
    try:
        with only_one(work):
            cluster.ensure_running()
            load_backup(found, cluster.url)
            cluster.stop()
        # Onto an empty folder that works as onto none; onto any other it fails.
        work.rename(target)
    except BaseException:
        if work.exists():
            _clear(work)
        raise
    (target / RESTORING).unlink()
    tell(f"{target}: {found.manifest.counts()}; every table verified by its rows and digest.")
    tell(f"Start with it: HEARTH_HOME={shlex.quote(str(target))} ./hearth start")


def _clear(work: Path) -> None:
    """Remove what an interrupted restoration left; anything else of that name is named and left."""
    if not work.exists():
        return
    if not (work / RESTORING).exists():
        if not any(work.iterdir()):
            work.rmdir()
            return
        raise BackupError(f"{work} is in the way, and no restoration made it. Move it away, then try again.")
    with only_one(work):
        Cluster(work).destroy()
    shutil.rmtree(work)
