"""Reaching the database: engine, creation, schema."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from pathlib import Path

import psycopg
from psycopg import sql
from sqlalchemy import URL, Connection, Engine, create_engine
from sqlalchemy.exc import InterfaceError, OperationalError
from sqlalchemy.orm import Session

from hearthkeep.store.errors import ClusterError, DatabaseAwayError, DiskFullError, NewerSchemaError

MIGRATIONS = Path(__file__).parent / "migrations"
#: A connection attempt is given up after this long [s].
CONNECT_TIMEOUT_S = 5
AWAY = "The database does not answer. Work in open windows is kept; try again."


def engine_for(url: URL, *, most: int = 10) -> Engine:
    """An engine of at most so many connections, which notices those lost while the database was away."""
    return create_engine(
        url, pool_pre_ping=True, pool_size=most, max_overflow=0, connect_args={"connect_timeout": CONNECT_TIMEOUT_S}
    )


#: The transaction that is open here, if one is.
_open: ContextVar[tuple[Engine, Session] | None] = ContextVar("open transaction", default=None)


@contextmanager
def together(engine: Engine) -> Iterator[None]:
    """Keep everything inside as one, or nothing of it: what one request keeps, whichever parts of the store keep it."""
    with transaction(engine) as session:
        token = _open.set((engine, session))
        try:
            yield
        finally:
            _open.reset(token)


@contextmanager
def transaction(engine: Engine) -> Iterator[Session]:
    """One transaction, or the one that is open here; a database that does not answer is reported in our own words."""
    joined = _open.get()
    if joined is not None and joined[0] is engine:
        yield joined[1]
        joined[1].flush()
        return
    try:
        with Session(engine, expire_on_commit=False) as session, session.begin():
            yield session
    except (OperationalError, InterfaceError) as error:
        raise in_our_words(error) from error


def in_our_words(error: Exception) -> DatabaseAwayError:
    """What a failure of the database server comes to: a full disk, or a server that does not answer."""
    cause = getattr(error, "orig", error)
    if isinstance(cause, psycopg.errors.DiskFull) or "No space left on device" in str(cause):
        return DiskFullError("The database found no room on the disk. Nothing of this was kept.")
    return DatabaseAwayError(AWAY)


def ensure_database(url: URL, *, revision: str = "head") -> None:
    """Create the database if it is not there yet, and bring its schema up to date, or to an earlier revision."""
    try:
        with direct(url.set(database="postgres"), autocommit=True) as connection:
            known = connection.execute("select 1 from pg_database where datname = %s", (url.database,)).fetchone()
            if known is None:
                connection.execute(sql.SQL("create database {}").format(sql.Identifier(str(url.database))))
    except psycopg.OperationalError as error:
        if "password authentication failed" in str(error):
            raise ClusterError(
                "The database refuses the password in the data folder's file 'secret'. Put the right one back, or remove "
                "the file: a new one is then set at the next start."
            ) from error
        raise ClusterError(f"The database does not answer: {str(error).splitlines()[0]}") from error
    upgrade_schema(url, revision)


def direct(url: URL, *, autocommit: bool = False) -> psycopg.Connection:
    """A connection past the engine, for what is no work with tables."""
    return psycopg.connect(
        host=url.host,
        port=url.port,
        user=url.username,
        password=None if url.password is None else str(url.password),
        dbname=url.database,
        connect_timeout=CONNECT_TIMEOUT_S,
        autocommit=autocommit,
    )


def upgrade_schema(url: URL, revision: str = "head") -> None:
    """Run the migrations that are missing, up to a revision; raises NewerSchemaError for data of a newer release."""
    from alembic import command
    from alembic.config import Config

    engine = engine_for(url)
    with engine.connect() as connection:
        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS).replace("%", "%%"))
        config.attributes["connection"] = connection
        refuse_newer(schema_of(connection), f"The data in the database '{url.database}'")
        command.upgrade(config, revision)
        connection.commit()
    engine.dispose()


def schema_of(connection: Connection) -> str | None:
    """The schema's revision; none in a database without tables."""
    from alembic.runtime.migration import MigrationContext

    return MigrationContext.configure(connection).get_current_revision()


def refuse_newer(revision: str | None, what: str) -> None:
    """Raise NewerSchemaError for a revision that this release does not know."""
    known = sorted(path.name[:4] for path in (MIGRATIONS / "versions").glob("[0-9]*.py"))
    if revision is not None and revision not in known:
        raise NewerSchemaError(
            f"{what} were written by a newer Hearth Keep (schema {revision}; this one knows up to {known[-1]})."
        )
