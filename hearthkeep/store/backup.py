"""Backups: one file that holds everything, checked by counts and digests, and restored whole or not at all.

A backup is a zip archive: ``manifest.json``, and for each table of each database one member in PostgreSQL's text format of
COPY (a line a row, cells parted by tabs). It holds data only, no commands. The tables of one database are read in one
snapshot, so that a backup made under a running application is of one moment.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated, Literal

import psycopg
from psycopg import sql
from pydantic import BaseModel, ConfigDict, Field, ValidationError
from sqlalchemy import URL, MetaData

import hearthkeep
from hearthkeep.store.database import direct, engine_for, ensure_database, refuse_newer, schema_of
from hearthkeep.store.errors import BackupError

MANIFEST = "manifest.json"
#: More than any manifest needs [bytes].
_MAX_MANIFEST_BYTES = 4_000_000
_CHUNK = 1 << 20
#: How values are written does not depend on where the server runs.
_STEADY = "set time zone 'UTC'; set datestyle to 'ISO, YMD'; set bytea_output to 'hex'; set extra_float_digits to 1"

#: Tables that are backed up and mean nothing to a person.
_UNTOLD = ("summaries", "job_answers")
#: Those that are told only where there is something in them.
_TOLD_IF_ANY = ("jobs", "installations", "log_entries", "log_imports", "series", "readings", "watch_sources")

_Identifier = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,62}$")]
_Count = Annotated[int, Field(ge=0, le=10**12)]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True)


class TablePart(_Part):
    """One table: its columns in their order, its rows and their digest."""

    name: _Identifier
    columns: Annotated[list[_Identifier], Field(min_length=1, max_length=200)]
    rows: _Count
    bytes: _Count
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class DatabasePart(_Part):
    """One database at one moment."""

    name: _Identifier
    schema_revision: Annotated[str, Field(pattern=r"^[0-9]{4}$")]
    tables: Annotated[list[TablePart], Field(max_length=200)]


class Manifest(_Part):
    """What a backup holds."""

    format: Literal["hearth-keep-backup"] = "hearth-keep-backup"
    version: Literal[1] = 1
    made_at: str
    application: str
    databases: Annotated[list[DatabasePart], Field(max_length=20)]

    def counts(self) -> str:
        """What it holds, in words."""
        rows = {
            table.name: table.rows + sum(other.rows for other in rest)
            for table, *rest in _grouped([table for part in self.databases for table in part.tables])
        }
        return ", ".join(
            f"{rows[name]:,} {(name if rows[name] != 1 else _one_of(name)).replace('_', ' ')}"
            for name in sorted(rows)
            if name not in _UNTOLD and (rows[name] or name not in _TOLD_IF_ANY)
        )


def _one_of(name: str) -> str:
    if name == "series":
        return name
    return f"{name.removesuffix('ies')}y" if name.endswith("ies") else name.removesuffix("s")


def _grouped(tables: list[TablePart]) -> Iterator[list[TablePart]]:
    for name in sorted({table.name for table in tables}):
        yield [table for table in tables if table.name == name]


UrlOf = Callable[[str], URL]


# --- out


def write_backup(url_of: UrlOf, file: Path) -> Manifest:
    """Write everything to a file that does not exist yet; it appears under its name only once it is whole."""
    if file.exists():
        raise BackupError(f"{file} is there already. Choose another name; nothing is written over.")
    half = file.with_name(f".{file.name}.{os.getpid()}.half")
    try:
        with zipfile.ZipFile(half, "x", zipfile.ZIP_DEFLATED, compresslevel=3) as archive:
            manifest = Manifest(
                made_at=datetime.now(UTC).isoformat(timespec="seconds"),
                application=hearthkeep.__version__,
                databases=[_write_database(url_of(name), archive) for name in _databases(url_of)],
            )
            archive.writestr(MANIFEST, manifest.model_dump_json(indent=1))
        with half.open("rb") as written:
            os.fsync(written.fileno())
        _name(half, file)
    except FileExistsError as error:
        raise BackupError(f"{file} is there already. Choose another name; nothing is written over.") from error
    except OSError as error:
        raise BackupError(f"{file} could not be written: {error.strerror}") from error
    except psycopg.Error as error:
        raise BackupError(f"The database could not be read: {str(error).splitlines()[0]}") from error
    finally:
        half.unlink(missing_ok=True)
    return manifest


def _name(half: Path, file: Path) -> None:
    """Give the whole file its name. A hard link never replaces what was made there meanwhile; some disks have none."""
    try:
        os.link(half, file)
    except FileExistsError:
        raise
    except OSError:
        if file.exists():
            raise FileExistsError from None
        half.rename(file)


def _databases(url_of: UrlOf) -> list[str]:
    with _connected(url_of("postgres")) as connection:
        rows = connection.execute(
            "select datname from pg_database where not datistemplate and datname <> 'postgres' order by datname"
        )
        return [str(name) for (name,) in rows]


def _write_database(url: URL, archive: zipfile.ZipFile) -> DatabasePart:
    name = str(url.database)
    order, revision = _tables_in_order(url)
    if revision is None:
        return DatabasePart(name=name, schema_revision="0000", tables=[])
    with _connected(url) as connection:
        connection.execute("begin isolation level repeatable read read only")
        tables = []
        for table in order:
            with archive.open(_member(name, table), "w", force_zip64=True) as out:
                tables.append(_read_out(connection, table, _columns(connection, table), out.write))
        return DatabasePart(name=name, schema_revision=revision, tables=tables)


def _read_out(
    connection: psycopg.Connection, table: str, columns: list[str], write: Callable[[bytes], object]
) -> TablePart:
    """Copy a table out in the order of its key."""
    digest, rows, size = hashlib.sha256(), 0, 0
    keys = [
        name
        for (name,) in connection.execute(
            "select a.attname from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey) "
            "where i.indrelid = %s::regclass and i.indisprimary order by array_position(i.indkey::int[], a.attnum::int)",
            (table,),
        )
    ]
    query = sql.SQL("copy (select {columns} from {table} order by {keys}) to stdout").format(
        columns=_names(columns), table=sql.Identifier(table), keys=_names(keys or columns)
    )
    with connection.cursor().copy(query) as copy:
        for block in copy:
            held = bytes(block)
            write(held)
            digest.update(held)
            # In this format a line break inside a value is written as an escape.
            rows += held.count(b"\n")
            size += len(held)
    return TablePart(name=table, columns=columns, rows=rows, bytes=size, sha256=digest.hexdigest())


# --- in


@dataclass(frozen=True, slots=True)
class Backup:
    """A backup that was read through and found whole."""

    file: Path
    manifest: Manifest


def read_backup(file: Path) -> Backup:
    """Read a backup through; raises BackupError where a byte is missing or changed."""
    try:
        with zipfile.ZipFile(file) as archive:
            manifest = _manifest(archive)
            _check_members(archive, manifest)
    except BackupError:
        raise
    except FileNotFoundError as error:
        raise BackupError(f"There is no file {file}.") from error
    except ValidationError as error:
        raise BackupError(f"{file} is damaged or is not a backup: {MANIFEST}: {error.errors()[0]['msg']}") from error
    except Exception as error:
        # Whatever the archive's reader stumbles over is the file's fault.
        raise BackupError(f"{file} is damaged or is not a backup: {error or type(error).__name__}") from error
    for part in manifest.databases:
        refuse_newer(None if part.schema_revision == "0000" else part.schema_revision, f"The data in {file.name}")
    return Backup(file, manifest)


def _manifest(archive: zipfile.ZipFile) -> Manifest:
    with archive.open(MANIFEST) as member:
        text = member.read(_MAX_MANIFEST_BYTES + 1)
    if len(text) > _MAX_MANIFEST_BYTES:
        raise BackupError(f"The backup's {MANIFEST} holds more than {_MAX_MANIFEST_BYTES:,} bytes.")
    return Manifest.model_validate_json(text)


def _check_members(archive: zipfile.ZipFile, manifest: Manifest) -> None:
    expected = {MANIFEST} | {_member(part.name, table.name) for part in manifest.databases for table in part.tables}
    found = archive.namelist()
    if len(found) != len(set(found)) or set(found) != expected:
        raise BackupError(f"The backup does not hold what its {MANIFEST} says; it is damaged.")
    for part in manifest.databases:
        for table in part.tables:
            digest, rows, size = hashlib.sha256(), 0, 0
            for block in _blocks(archive, part.name, table):
                digest.update(block)
                rows += block.count(b"\n")
                size += len(block)
            if (digest.hexdigest(), rows, size) != (table.sha256, table.rows, table.bytes):
                raise BackupError(
                    f"The backup is damaged: {part.name}/{table.name} holds {rows:,} rows of {table.rows:,} as they were "
                    f"written."
                )


def _blocks(archive: zipfile.ZipFile, database: str, table: TablePart) -> Iterator[bytes]:
    """A table's bytes; no more than the manifest says, whatever the archive unpacks to."""
    left = table.bytes + 1
    with archive.open(_member(database, table.name)) as member:
        while left > 0 and (block := member.read(min(_CHUNK, left))):
            left -= len(block)
            yield block


def load_backup(backup: Backup, url_of: UrlOf) -> None:
    """Make the backup's databases on a server that has none of them, verify them, and bring them up to date."""
    try:
        with zipfile.ZipFile(backup.file) as archive:
            for part in backup.manifest.databases:
                _load_database(archive, part, url_of(part.name))
    except psycopg.Error as error:
        raise BackupError(f"The backup could not be restored: {str(error).splitlines()[0]}") from error


def _load_database(archive: zipfile.ZipFile, part: DatabasePart, url: URL) -> None:
    if part.schema_revision == "0000":
        ensure_database(url)
        return
    ensure_database(url, revision=part.schema_revision)
    order, _ = _tables_in_order(url)
    held = {table.name: table for table in part.tables}
    if set(order) != held.keys():
        raise BackupError(f"The backup is damaged: {part.name} lacks tables of its schema {part.schema_revision}.")
    with _connected(url) as connection:
        for name in order:
            table = held[name]
            if set(table.columns) != set(_columns(connection, name)):
                raise BackupError(f"The backup is damaged: {part.name}/{name} lacks columns of its schema.")
            query = sql.SQL("copy {} ({}) from stdin").format(sql.Identifier(name), _names(table.columns))
            with connection.cursor().copy(query) as copy:
                for block in _blocks(archive, part.name, table):
                    copy.write(block)
        for table in part.tables:
            found = _read_out(connection, table.name, table.columns, lambda _: None)
            if found != table:
                raise BackupError(
                    f"{part.name}/{table.name} came out with {found.rows:,} rows of {table.rows:,}, or changed; nothing "
                    f"was restored."
                )
    ensure_database(url)


# --- shared


def _tables_in_order(url: URL) -> tuple[list[str], str | None]:
    """Tables so that each comes after those it refers to, and the schema's revision."""
    engine = engine_for(url)
    try:
        with engine.connect() as connection:
            known = MetaData()
            known.reflect(connection)
            names = [table.name for table in known.sorted_tables if table.name != "alembic_version"]
            return names, schema_of(connection)
    finally:
        engine.dispose()


def _columns(connection: psycopg.Connection, table: str) -> list[str]:
    rows = connection.execute(
        "select column_name from information_schema.columns where table_schema = 'public' and table_name = %s "
        "order by ordinal_position",
        (table,),
    )
    return [str(name) for (name,) in rows]


def _names(names: list[str]) -> sql.Composed:
    return sql.SQL(", ").join(map(sql.Identifier, names))


def _member(database: str, table: str) -> str:
    return f"{database}/{table}.tsv"


@contextlib.contextmanager
def _connected(url: URL) -> Iterator[psycopg.Connection]:
    with direct(url) as connection:
        connection.execute(_STEADY)
        connection.commit()
        yield connection
