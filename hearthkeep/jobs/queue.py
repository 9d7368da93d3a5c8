"""The queue: Procrastinate's tables in a schema of their own beside the application's.

The queue holds nothing that cannot be made again: what is asked and what is found stands in the application's own tables, and
parts without answers are queued anew at the next start. Backups therefore leave it out, and a new release of the library
makes its schema anew.
"""

from __future__ import annotations

import contextlib
import uuid
from collections.abc import Iterator
from typing import cast

import procrastinate
import psycopg
from procrastinate import App, PsycopgConnector, RetryStrategy, SyncPsycopgConnector
from procrastinate.exceptions import ConnectorException
from procrastinate.schema import SchemaManager
from procrastinate.types import JSONValue
from psycopg.conninfo import make_conninfo
from sqlalchemy import URL

from hearthkeep.engine import engine_version
from hearthkeep.store import ClusterError, DatabaseAwayError, Job, Jobs, direct

SCHEMA = "queue"
#: The one task: answer some of a job's numbers.
TASK = "answer_part"
#: Numbers of a part of a kit search: at a tenth of a second each, a part takes one or two seconds. Those of other kinds take
#: that long each.
PART = 16
#: A worker that has not been heard of for this long is dead, and its parts are given to others [s].
SILENT_S, HEARTBEAT_S = 6.0, 1.5
#: How long the database may take to let somebody in [s].
CONNECT_WITHIN_S = 5
#: Whoever makes the schema holds this lock; any number that nobody else uses.
_LOCK = 4_415_701


class PartLeftError(Exception):
    """A worker that is asked to stop leaves its part to others."""


#: A part that was left, or whose worker died, is queued again.
RETRY = RetryStrategy(max_attempts=10_000, retry_exceptions={PartLeftError})


def queue_name() -> str:
    """Workers take only parts of their own version of the engine: answers of two are never mixed."""
    return f"jobs {engine_version()}"


def connection_of(url: URL) -> str:
    """The database's address as its driver takes it, looking at the queue's schema alone."""
    return make_conninfo(
        host=url.host,
        port=url.port,
        user=url.username,
        password=None if url.password is None else str(url.password),
        dbname=url.database,
        options=f"-c search_path={SCHEMA}",
    )


def ensure_queue(url: URL) -> None:
    """Make the queue's schema where it is missing, or of another release of the library."""
    with direct(url) as connection:
        connection.execute("select pg_advisory_xact_lock(%s)", (_LOCK,))
        row = connection.execute(
            "select obj_description(oid, 'pg_namespace') from pg_namespace where nspname = %s", (SCHEMA,)
        ).fetchone()
        if row is not None and row[0] == procrastinate.__version__:
            return
        for statement in (
            f"drop schema if exists {SCHEMA} cascade",
            f"create schema {SCHEMA}",
            f"set local search_path = {SCHEMA}",
            SchemaManager.get_schema(),
            f"comment on schema {SCHEMA} is '{procrastinate.__version__}'",
        ):
            connection.execute(statement.encode())


def refuse_without_queue(url: URL) -> None:
    """Raise ClusterError where a database does not answer, or no application was ever started on it."""
    try:
        with direct(url) as connection:
            found = connection.execute("select 1 from pg_namespace where nspname = %s", (SCHEMA,)).fetchone()
    except psycopg.OperationalError as error:
        why = str(error).splitlines()[0]
        raise ClusterError(f"The database {url.database} at {url.host} does not answer: {why}") from error
    if found is None:
        raise ClusterError(
            f"The database {url.database} at {url.host} has no queue yet: start Hearth Keep on it first. With the demo data a "
            f"worker takes --demo."
        )


def app_on(connector: PsycopgConnector | SyncPsycopgConnector) -> App:
    """The library's application; the task itself is added by the workers."""
    return App(connector=connector)


class JobQueue:
    """Puts the parts of jobs into the queue."""

    def __init__(self, url: URL, jobs: Jobs) -> None:
        self._url = url
        self._jobs = jobs

    def put(self, job: Job) -> None:
        """Queue every part of a job that lacks answers. A part queued twice is done once: the second finds nothing missing."""
        missing = self._jobs.missing(job.id, 0, job.total)
        part = PART if job.kind == "kits" else 1
        wanted: list[dict[str, str | int]] = [
            {"job_id": str(job.id), "first": first, "count": min(part, job.total - first)}
            for first in sorted({number - number % part for number in missing})
        ]
        if not wanted:
            return
        try:
            with app_on(SyncPsycopgConnector(conninfo=connection_of(self._url), min_size=1, max_size=1)).open() as app:
                app.configure_task(name=TASK, queue=queue_name(), allow_unknown=True).batch_defer(
                    *cast("list[dict[str, JSONValue]]", wanted)
                )
        except (ConnectorException, psycopg.Error) as error:
            raise DatabaseAwayError("The database does not answer. Nothing was lost; try again.") from error

    def drop_dead(self) -> int:
        """Take out of the queue every part whose job has ended or is gone; how many there were."""
        with self._connected() as connection:
            return connection.execute(
                "delete from procrastinate_jobs as part where part.status = 'todo' and not exists ("
                " select 1 from public.jobs as job where job.id::text = part.args->>'job_id' and job.ended_at is null)"
            ).rowcount

    def is_waiting(self, job_id: uuid.UUID) -> bool:
        """Whether a part of a job waits in the queue."""
        with self._connected() as connection:
            found = connection.execute(
                "select 1 from procrastinate_jobs where status = 'todo' and args->>'job_id' = %s limit 1",
                (str(job_id),),
            )
            return found.fetchone() is not None

    @contextlib.contextmanager
    def _connected(self) -> Iterator[psycopg.Connection]:
        try:
            with psycopg.connect(connection_of(self._url), connect_timeout=CONNECT_WITHIN_S) as connection:
                yield connection
        except psycopg.Error as error:
            raise DatabaseAwayError("The database does not answer. Nothing was lost; try again.") from error

    def resume(self) -> bool:
        """Queue what earlier runs left, whether or not another worker is at it; whether there is anything to do."""
        engine = engine_version()
        for job in self._jobs.live():
            self._jobs.take_over(job.id, engine)
            self.put(job)
        return bool(self._jobs.live())
