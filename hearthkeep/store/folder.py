"""The data folder: it knows itself by an id, names its parts by relative paths, and survives being moved or copied.

What stands in it:

- ``cluster.json``: the folder's id, and whether the database stands here or, for root, in a place the server's account
  can enter;
- ``postgres/``: the database, with the same id in ``hearth-folder.json`` inside it;
- ``secret``: the database's password, its owner's alone;
- ``backups/``, ``logs/``; ``lock`` and ``running.json`` while the application runs.

Nothing that Hearth Keep did not make is deleted or replaced: the unexpected is named and left.
"""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import shutil
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hearthkeep.store.errors import ClusterError
from hearthkeep.store.postgres import account_can_enter

#: Where root's databases go when the data folder lies below a directory the server's account cannot enter.
SHARED_PLACE = Path("/var/lib/hearth-keep")
MARK = "hearth-folder.json"


@dataclass(frozen=True, kw_only=True, slots=True)
class Record:
    """What ``cluster.json`` says."""

    id: str
    #: Whether the database stands in SHARED_PLACE instead of in the folder.
    shared: bool
    #: Whether the database was made; from then on a missing one is a loss and not a beginning.
    made: bool


class DataFolder:
    """One data folder."""

    def __init__(self, home: Path) -> None:
        self.home = home

    # --- the database's place

    def settle(self) -> Path:
        """Where the database stands or is to be made; raises ClusterError where the folder is not as it was left."""
        self._refuse_odd_names()
        self.home.mkdir(parents=True, exist_ok=True)
        record = self.record() or self._begin()
        data = self.place(record)
        ready = data.with_name(f"ready-{record.id}")
        if not data.exists() and (_read(ready / MARK) or {}).get("id") == record.id:
            # Interrupted between the two renamings that put a prepared database in place.
            ready.rename(data)
        mark = _read(data / MARK) if data.exists() else None
        if not record.made and mark is not None and mark.get("id") == record.id:
            record = self._write(Record(id=record.id, shared=record.shared, made=True))
        if record.made:
            self._check_made(record, data, mark)
        elif data.exists():
            raise _strange(data)
        return data

    def mark_made(self) -> None:
        """The database stands in its place: from now on it must be there."""
        record = self._known()
        self._write_mark(record)
        self._write(Record(id=record.id, shared=record.shared, made=True))

    def workshop(self) -> Path:
        """Where the database is made before it is moved to its place whole; named by the id, so that it is surely ours."""
        record = self._known()
        return self.place(record).with_name(f"making-{record.id}")

    def ready(self) -> Path:
        """Where a database is prepared that is to take the place of the present one."""
        record = self._known()
        return self.place(record).with_name(f"ready-{record.id}")

    def replace_by_ready(self, kept: str) -> Path:
        """Put the prepared database in the present one's place, which is kept under another name; gives that place."""
        record = self._known()
        data = self.place(record)
        # Only a prepared database that bears the mark is complete.
        self._write_mark(record, self.ready())
        data.rename(data.with_name(kept))
        self.ready().rename(data)
        return data.with_name(kept)

    def backups(self) -> Path:
        """Folder of the backups; made if it is missing."""
        place = self.home / "backups"
        place.mkdir(mode=0o700, exist_ok=True)
        return place

    def place(self, record: Record) -> Path:
        """The database's directory."""
        return (SHARED_PLACE / record.id if record.shared else self.home) / "postgres"

    def record(self) -> Record | None:
        """What is written down, brought up from what earlier releases wrote; none in a new folder."""
        path = self.home / "cluster.json"
        try:
            values = json.loads(path.read_text())
            if isinstance(values.get("data"), str):
                return self._of_release_1(Path(values["data"]))
            return Record(id=str(values["id"]), shared=bool(values["shared"]), made=bool(values["made"]))
        except FileNotFoundError:
            return None
        except (ValueError, KeyError, TypeError, AttributeError) as error:
            raise ClusterError(
                f"{path} is damaged; it says where the database is. Put it back from a copy; where the database stands in "
                f"{self.home / 'postgres'}, it can be removed and is then written anew."
            ) from error

    def remove(self) -> None:
        """Remove the database's directory. For tests and for what was begun and not finished."""
        record = self.record()
        if record is not None:
            place = self.place(record)
            shutil.rmtree(place.parent if record.shared else place, ignore_errors=True)

    # --- the password

    def secret(self) -> str:
        """The password; empty where it is missing."""
        try:
            return (self.home / "secret").read_text().strip()
        except FileNotFoundError:
            return ""

    def new_secret(self) -> str:
        """Make a password, readable by its owner only."""
        made = secrets.token_urlsafe(32)
        write_whole(self.home / "secret", made, mode=0o600)
        return made

    # --- inside

    def _begin(self) -> Record:
        """A folder without a record: new, or one whose record was lost while its database is there and knows it."""
        here = self.home / "postgres"
        mark = _read(here / MARK) if here.exists() else None
        if mark is not None and (here / "PG_VERSION").exists():
            return self._write(Record(id=str(mark["id"]), shared=False, made=True))
        if here.exists():
            raise _strange(here)
        shared = os.geteuid() == 0 and not account_can_enter(self.home)
        return self._write(Record(id=secrets.token_hex(8), shared=shared, made=False))

    def _of_release_1(self, named: Path) -> Record:
        """Releases before ids wrote the database's absolute path."""
        if named.parent.parent == SHARED_PLACE:
            found = Record(id=named.parent.name, shared=True, made=True)
        elif (self.home / "postgres" / "PG_VERSION").exists():
            mark = _read(self.home / "postgres" / MARK) or {}
            found = Record(id=str(mark.get("id") or secrets.token_hex(8)), shared=False, made=True)
        elif named.parent == self.home and not named.exists() and not self.secret():
            # A first start that was interrupted before the database was begun.
            found = Record(id=secrets.token_hex(8), shared=False, made=False)
        else:
            raise ClusterError(
                f"{self.home / 'cluster.json'} names a database at {named}, which does not belong to this folder, and "
                f"there is none in {self.home / 'postgres'}. Bring the folder 'postgres' along from there while Hearth "
                f"Keep is stopped, or restore a backup into a new folder: ./hearth restore FILE --into FOLDER"
            )
        return self._write(found)

    def _check_made(self, record: Record, data: Path, mark: dict[str, Any] | None) -> None:
        if not (data / "PG_VERSION").exists():
            what = "is not there" if not data.exists() else "is no database (PG_VERSION is missing)"
            raise ClusterError(
                f"{data} {what}, though this data folder has been in use. Nothing was touched. Put it back from a copy, or "
                f"restore a backup into a new folder: ./hearth restore FILE --into FOLDER"
            )
        if mark is None:
            self._write_mark(record)
            return
        if mark.get("id") != record.id:
            raise ClusterError(
                f"{data} belongs to another data folder ({mark.get('home')}). Nothing was touched. Put the right one back, "
                f"or restore a backup into a new folder: ./hearth restore FILE --into FOLDER"
            )
        was = Path(str(mark.get("home")))
        if was == self.home.resolve():
            return
        if record.shared and _same_folder_still_there(was, record.id):
            raise ClusterError(
                f"{self.home} is a copy of {was}, whose database stands in {data} and belongs to it. To have a second "
                f"one, make a backup there and restore it into a new folder: ./hearth restore FILE --into FOLDER"
            )
        # The folder was moved, or copied with its database.
        self._write_mark(record)

    def _known(self) -> Record:
        record = self.record()
        assert record is not None, "settle comes first"
        return record

    def _write(self, record: Record) -> Record:
        values = {"id": record.id, "shared": record.shared, "made": record.made}
        write_whole(self.home / "cluster.json", json.dumps(values))
        return record

    def _write_mark(self, record: Record, data: Path | None = None) -> None:
        values = {"id": record.id, "home": str(self.home.resolve())}
        write_whole((data or self.place(record)) / MARK, json.dumps(values))

    def _refuse_odd_names(self) -> None:
        if any(ord(letter) < 32 for letter in str(self.home)):
            raise ClusterError(
                "The data folder's name holds a line break or another control character. Choose another."
            )


def _strange(place: Path) -> ClusterError:
    return ClusterError(
        f"{place} is there already, and Hearth Keep did not make it. Nothing was touched. Move it away, or choose another "
        f"data folder with HEARTH_HOME."
    )


def _same_folder_still_there(home: Path, folder_id: str) -> bool:
    values = _read(home / "cluster.json") or {}
    # Releases before ids named the place by a digest of the folder's path.
    first = hashlib.sha256(str(home).encode()).hexdigest()[:16]
    return values.get("id") == folder_id or ("data" in values and first == folder_id)


def _read(path: Path) -> dict[str, Any] | None:
    try:
        values = json.loads(path.read_text())
        return values if isinstance(values, dict) else None
    except (OSError, ValueError):
        return None


def write_whole(path: Path, text: str, *, mode: int = 0o644) -> None:
    """Write beside and rename, so that a reader never sees half a file."""
    try:
        handle, scratch = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
        with os.fdopen(handle, "w") as file:
            file.write(text)
            os.fchmod(file.fileno(), mode)
            file.flush()
            os.fsync(file.fileno())
        Path(scratch).replace(path)
    except OSError as error:
        raise ClusterError(f"{path} could not be written: {error.strerror}") from error
