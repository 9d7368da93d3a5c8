"""A worker: takes parts from the queue and answers their numbers, each in a process that can be ended at once."""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
import signal
import time
import uuid
from collections.abc import Callable
from typing import Any, ParamSpec, TypeVar

from procrastinate import App, PsycopgConnector
from procrastinate.exceptions import ConnectorException
from sqlalchemy import URL

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.engine import engine_version
from hearthkeep.jobs.queue import (
    HEARTBEAT_S,
    RETRY,
    SILENT_S,
    TASK,
    JobQueue,
    PartLeftError,
    app_on,
    connection_of,
    queue_name,
)
from hearthkeep.store import DatabaseAwayError, Jobs, engine_for
from hearthkeep.workers import Workers, long_tasks

#: A cancelled job is noticed within this, and answers are kept as often [s].
LOOK_EVERY_S = 0.4
#: Parts of dead workers are looked for so often [s].
RESCUE_EVERY_S = 2.0
#: A job that lacks answers and has had none for so long, while a worker is idle, has been lost by the queue [s].
LOST_AFTER_S = 10.0
#: Long work gives way to the answering of edits.
NICENESS = 10

_log = logging.getLogger(__name__)
P = ParamSpec("P")
T = TypeVar("T")


class Worker:
    """Answers parts of jobs on a database, so many side by side."""

    def __init__(self, url: URL, count: int, *, idle_s: float | None = None) -> None:
        self._url = url
        self._count = count
        #: Ends on its own after so long without a part [s].
        self._idle_s = idle_s
        self._engine = engine_for(url, most=count + 2)
        self._jobs = Jobs(self._engine)
        self._queue = JobQueue(url, self._jobs)
        #: Live jobs as they were seen last: how many answers, and since when so many.
        self._seen: dict[uuid.UUID, tuple[int, float]] = {}
        self._slots: asyncio.Queue[Workers] = asyncio.Queue()
        self._stopping = asyncio.Event()
        self._busy = 0
        self._last_busy = time.monotonic()

    async def run(self) -> None:
        """Work until asked to stop by a signal, or idle for long enough."""
        app = app_on(PsycopgConnector(conninfo=connection_of(self._url), min_size=1, max_size=self._count + 3))
        app.task(name=TASK, queue=queue_name(), retry=RETRY)(self._answer_part)
        slots = [Workers(self._url, 1, niceness=NICENESS) for _ in range(self._count)]
        for slot in slots:
            self._slots.put_nowait(slot)
        loop = asyncio.get_running_loop()
        for number in (signal.SIGTERM, signal.SIGINT):
            loop.add_signal_handler(number, self._stopping.set)
        try:
            async with app.open_async():
                rescuing = asyncio.create_task(self._rescue(app))
                working = asyncio.create_task(
                    app.run_worker_async(
                        queues=[queue_name()],
                        concurrency=self._count,
                        fetch_job_polling_interval=1.0,
                        delete_jobs="always",
                        install_signal_handlers=False,
                        shutdown_graceful_timeout=5.0,
                        update_heartbeat_interval=HEARTBEAT_S,
                        stalled_worker_timeout=SILENT_S,
                    )
                )
                stopping = asyncio.create_task(self._stopping.wait())
                await asyncio.wait({working, stopping}, return_when=asyncio.FIRST_COMPLETED)
                # Parts under way notice the request themselves and go back into the queue.
                self._stopping.set()
                for task in (rescuing, working, stopping):
                    task.cancel()
                    with contextlib.suppress(asyncio.CancelledError):
                        await task
        finally:
            for slot in slots:
                slot.close()
            self._engine.dispose()

    # --- inside

    async def _rescue(self, app: App) -> None:
        """Give the parts of dead workers to others; and end when there has been nothing to do for long."""
        while True:
            now = time.monotonic()
            try:
                for lost in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
                    _log.warning("A worker has died; its part %s goes to another.", lost.task_kwargs)
                    await app.job_manager.retry_job(lost)
                if not self._busy:
                    await self._queue_lost(now)
            except (DatabaseAwayError, ConnectorException) as error:
                _log.warning("The database is away; looked for again (%s).", error)
            if self._busy:
                self._last_busy = now
            elif self._idle_s is not None and now - self._last_busy > self._idle_s:
                self._stopping.set()
            await asyncio.sleep(RESCUE_EVERY_S)

    async def _queue_lost(self, now: float) -> None:
        """
        Queue again what the queue has lost: a part taken from it in the moment in which the database died belongs to a worker that
        lives and knows nothing of it. This one has nothing to do, and a job with answers missing has had none for long.
        """
        live = {job.id: job for job in await asyncio.to_thread(self._jobs.live) if job.engine == engine_version()}
        for job_id, job in live.items():
            done, since = self._seen.get(job_id, (-1, now))
            if done != job.done:
                self._seen[job_id] = (job.done, now)
            elif now - since > LOST_AFTER_S and not await asyncio.to_thread(self._queue.is_waiting, job_id):
                _log.warning("A job has stood still for %.0f s; what it lacks is queued again.", now - since)
                await asyncio.to_thread(self._queue.put, job)
                self._seen[job_id] = (job.done, now)
        self._seen = {job_id: seen for job_id, seen in self._seen.items() if job_id in live}

    async def _answer_part(self, job_id: str, first: int, count: int) -> None:
        """The one task: answer numbers of a job that have no answer yet."""
        slot = await self._slots.get()
        self._busy += 1
        try:
            await self._answer(slot, uuid.UUID(job_id), first, count)
        finally:
            self._busy -= 1
            self._slots.put_nowait(slot)

    async def _answer(self, slot: Workers, job_id: uuid.UUID, first: int, count: int) -> None:
        if not await self._is_live(job_id):
            return
        job = await self._from_store(self._jobs.get, job_id)
        document = (await self._from_store(self._jobs.document, job)).encode()
        question = json.dumps(job.question).encode()
        answer_one = ANSWERS[job.kind]
        found: dict[int, dict[str, Any]] = {}
        kept_at = time.monotonic()
        for number in await self._from_store(self._jobs.missing, job_id, first, count):
            try:
                answer = await self._unless_ended(slot, job_id, answer_one, document, question, number)
            except HearthKeepError as error:
                await self._from_store(self._jobs.fail, job_id, str(error))
                return
            except PartLeftError:
                # One that is to stop does not wait for a database that is away; what is lost is worked out again.
                with contextlib.suppress(DatabaseAwayError):
                    await asyncio.to_thread(self._jobs.put, job_id, found)
                raise
            except Exception as error:
                _log.exception("A job met a fault of ours.")
                await self._from_store(self._jobs.fail, job_id, f"A fault of Hearth Keep ({type(error).__name__}).")
                return
            if answer is None:
                return
            found[number] = json.loads(answer)
            if time.monotonic() - kept_at > LOOK_EVERY_S:
                await self._from_store(self._jobs.put, job_id, found)
                found, kept_at = {}, time.monotonic()
        await self._from_store(self._jobs.put, job_id, found)

    async def _from_store(self, ask: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """What the store answers; a database that is away is waited for, unless the worker is to stop."""
        while True:
            try:
                return await asyncio.to_thread(ask, *args, **kwargs)
            except DatabaseAwayError:
                if self._stopping.is_set():
                    raise PartLeftError from None
                await asyncio.sleep(LOOK_EVERY_S)

    async def _unless_ended(
        self, slot: Workers, job_id: uuid.UUID, task: Callable[[bytes, bytes, int], bytes], *asked: Any
    ) -> bytes | None:
        """The task's answer; none where the job is cancelled meanwhile, and PartLeftError where the worker is to stop."""
        # Reading the weather year asks the database too.
        working = asyncio.create_task(self._again_while_away(slot, task, *asked))
        while not working.done():
            await asyncio.wait({working}, timeout=LOOK_EVERY_S)
            if working.done():
                break
            if self._stopping.is_set() or not await self._is_live(job_id):
                working.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await working
                slot.start_anew()
                break
        if self._stopping.is_set():
            working.cancel()
            raise PartLeftError
        return None if working.cancelled() else working.result()

    async def _again_while_away(self, slot: Workers, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        while True:
            try:
                return await slot.run(task, *args, **kwargs)
            except DatabaseAwayError:
                await asyncio.sleep(LOOK_EVERY_S)

    async def _is_live(self, job_id: uuid.UUID) -> bool:
        return await self._from_store(self._jobs.is_live, job_id, engine_version())


#: By kind of job: the task that answers one number, from the document's bytes, the question's and the number.
ANSWERS: dict[str, Callable[[bytes, bytes, int], bytes]] = {
    "kits": long_tasks.kit_answered,
    **{trial.value: long_tasks.piece_answered for trial in long_tasks.Trial},
}
