"""The processes that work things out: some for edits, others for what takes long; begun warm, replaced when one dies or will not end."""

from __future__ import annotations

import asyncio
import contextlib
import multiprocessing
import multiprocessing.forkserver
import os
import signal
import threading
from collections.abc import AsyncIterator, Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing.context import ForkServerContext
from typing import Any, ParamSpec, TypeVar

from sqlalchemy import URL

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.workers import limits

#: No assessment of a design that the format admits takes nearly as long [s].
LONGEST_S = 60.0
#: Files read at the same time.
FILES_AT_ONCE = 2
#: What the process loads that the others are forked from: for a server, and for a worker of long work.
EVERYTHING, LONG_WORK = "hearthkeep.workers.warm", "hearthkeep.workers.warm_core"
#: The variable that switches warming off: a server that only starts and stops need not load what it never asks.
WARMING_VARIABLE = "HEARTH_WARMING"
#: More processes than this gain nothing: the database and the server need their share.
MOST = 8
#: So many questions may wait for a process: of edits and pages, and of what takes long.
MOST_EDITS_WAITING, MOST_LONG_WAITING = 400, 12
#: By how much long work gives way to edits, and how long one question of it may take on a busy machine [s].
LONG_NICENESS, LONGEST_LONG_S = 2, 240.0
#: Pauses before a question is asked again whose process died [s]: the process that others are forked from, killed, stands there
#: for a moment longer, and refuses all who ask it meanwhile.
PAUSES_S = (0.2, 1.0)

P = ParamSpec("P")
T = TypeVar("T")


class WorkLostError(HearthKeepError):
    """A calculation ended without an answer, twice."""

    code, title = "WORK_LOST", "The calculation was ended"
    fix = "Nothing was lost. Undo the last change and try again; if it comes again, save the design as a file and report it."


class BusyError(HearthKeepError):
    """So much waits already that one more question would wait for too long."""

    code, title = "BUSY", "Too much is being worked out"
    fix = "Nothing was lost. Wait until what was asked before is answered, then ask again."


class Places:
    """So many at a time, and so many more that may wait for that; used from the event loop."""

    def __init__(self, at_once: int, most_waiting: int, what: str) -> None:
        """`what` they are, in the plural, for those who are refused."""
        self._free = asyncio.Semaphore(at_once)
        self._most_waiting, self._what = most_waiting, what
        self._waiting = 0

    @contextlib.asynccontextmanager
    async def one(self) -> AsyncIterator[None]:
        """One of the places, for as long as the context lasts; raises BusyError where too many wait already."""
        if self._waiting >= self._most_waiting:
            raise BusyError(f"{self._waiting} {self._what} wait already.")
        self._waiting += 1
        try:
            await self._free.acquire()
        finally:
            self._waiting -= 1
        try:
            yield
        finally:
            self._free.release()


class _Pool:
    """Processes alike, each at one question at a time; so many questions more may wait for one of them."""

    def __init__(
        self, url: URL, count: int, *, niceness: int, most_waiting: int, longest_s: Callable[[], float]
    ) -> None:
        self._url = url
        self._count = count
        #: By how much they give way to other processes.
        self._niceness = niceness
        self._longest_s = longest_s
        #: A question's own time begins when a process is free for it.
        self._places = Places(count, most_waiting, "questions of this kind")
        self.processes = self._new(count)

    async def run(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The task's result; raises BusyError, WorkLostError, and what the task raises."""
        async with self._places.one():
            return await self._answer(task, *args, **kwargs)

    async def _answer(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        tries, longest_s = 0, self._longest_s()
        while tries < len(PAUSES_S):
            processes = self.processes
            try:
                return await asyncio.wait_for(asyncio.wrap_future(processes.submit(task, *args, **kwargs)), longest_s)
            except TimeoutError:
                self.replace(processes)
                raise WorkLostError(f"The calculation took more than {longest_s:.0f} s and was ended.") from None
            except (BrokenProcessPool, EOFError, OSError):
                # A process died, of this task or of another's.
                self.replace(processes)
                await asyncio.sleep(PAUSES_S[tries])
                tries += 1
            except asyncio.CancelledError:
                asked = asyncio.current_task()
                if (asked is not None and asked.cancelling()) or processes is self.processes:
                    raise
                # Not begun yet when the processes were replaced for another's sake.
        # Once more with no other beside it: who then loses a process has lost it by itself.
        alone = self._new(1)
        try:
            return await asyncio.wait_for(asyncio.wrap_future(alone.submit(task, *args, **kwargs)), longest_s)
        except (BrokenProcessPool, EOFError, OSError, TimeoutError) as error:
            raise WorkLostError("The calculation ended without a result.") from error
        finally:
            _end(alone)

    def replace(self, broken: ProcessPoolExecutor) -> None:
        """New processes in the place of these, unless others stand there already."""
        if self.processes is broken:
            self.processes = self._new(self._count)
            _end(broken)

    def _new(self, count: int) -> ProcessPoolExecutor:
        return ProcessPoolExecutor(
            count,
            mp_context=warm_context(),
            initializer=_begin,
            initargs=(self._url.render_as_string(False), self._niceness),
        )


class Workers:
    """The processes for what an edit asks, and others, begun when needed, for what takes long. Called from the event loop."""

    def __init__(self, url: URL, count: int | None = None, *, niceness: int = 0) -> None:
        """`count` processes for edits, by default as many as there are cores; `niceness`: by how much they give way to others."""
        count = count or min(os.cpu_count() or 1, MOST)
        self._context = warm_context()
        self._files = asyncio.Semaphore(FILES_AT_ONCE)
        self._edits = _Pool(url, count, niceness=niceness, most_waiting=MOST_EDITS_WAITING, longest_s=lambda: LONGEST_S)
        self._long = _Pool(
            url,
            count,
            niceness=niceness + LONG_NICENESS,
            most_waiting=MOST_LONG_WAITING,
            longest_s=lambda: LONGEST_LONG_S,
        )
        self._ready: Future[None] | None = None

    def begin(self) -> None:
        """Begin the processes beside whatever else goes on: they wait until what they are forked from has loaded everything."""
        if self._ready is None or (self._ready.done() and self._ready.exception() is not None):
            ready: Future[None] = Future()
            self._ready = ready
            threading.Thread(target=_follow, args=(ready, self._edits.processes), daemon=True).start()

    @property
    def is_ready(self) -> bool:
        """Whether a task begins at once; the first start on a machine compiles the model, which takes half a minute."""
        return self._ready is not None and self._ready.done() and self._ready.exception() is None

    async def run(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The result of a task that an edit or a page waits for; what it raises is raised here."""
        await self._begun()
        return await self._edits.run(task, *args, **kwargs)

    async def run_long(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The result of a task that may take seconds; it never stands before an edit."""
        await self._begun()
        return await self._long.run(task, *args, **kwargs)

    async def read(self, task: Callable[..., T], *args: Any) -> T:
        """The result of a task that reads a foreign file, in a process of its own with limits of memory and time.

        Of a SentFile among the arguments the task is given the bytes.
        """
        async with self._files:
            found: T = await asyncio.to_thread(limits.run_limited, self._context, task, *args)
            return found

    def close(self) -> None:
        """End the processes, whatever they do."""
        for pool in (self._edits, self._long):
            _end(pool.processes)

    def start_anew(self) -> None:
        """End the processes for edits with whatever they are at; the next task finds new ones."""
        self._edits.replace(self._edits.processes)

    async def _begun(self) -> None:
        """Wait for the processes; this is not counted in the time a task has, and nothing else is held up by it."""
        if not self.is_ready:
            self.begin()
            assert self._ready is not None
            with contextlib.suppress(BrokenProcessPool, OSError, EOFError):
                await asyncio.shield(asyncio.wrap_future(self._ready))


def _end(pool: ProcessPoolExecutor) -> None:
    """End the processes of a pool at once."""
    processes = list((pool._processes or {}).values())
    pool.shutdown(wait=False, cancel_futures=True)
    for process in processes:
        with contextlib.suppress(ValueError, OSError):
            process.kill()


def _follow(ready: Future[None], pool: ProcessPoolExecutor) -> None:
    """Let a pool begin its processes, and say when they are there."""
    try:
        # Already to hand a task in waits for them.
        pool.submit(_nothing).result()
    except Exception as error:
        ready.set_exception(error)
    else:
        ready.set_result(None)


def _nothing() -> None:
    """The first task of all."""


def warm_context(preload: str = EVERYTHING) -> ForkServerContext:
    """How the processes come about: forked from one that has loaded and compiled what they need, and has no threads."""
    # A pool of threads in the linear algebra library is of no use here and does not survive a fork.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    context = multiprocessing.get_context("forkserver")
    # A worker of long work is begun because there is some.
    is_off = preload == EVERYTHING and os.environ.get(WARMING_VARIABLE) == "off"
    context.set_forkserver_preload([] if is_off else [preload])
    return context


def begin_warming(preload: str = EVERYTHING) -> None:
    """Let the process that the others are forked from load what they need, while this one goes on; it is begun once for all."""
    warm_context(preload)
    # A killed server leaves nothing behind that its operating system does not clear; nobody need be warned of it.
    os.environ.setdefault("PYTHONWARNINGS", "ignore::UserWarning:multiprocessing.resource_tracker")
    multiprocessing.forkserver.ensure_running()


def _begin(url: str, niceness: int) -> None:
    """What each process does first."""
    os.nice(niceness)
    # Ctrl-C is sent to all processes of a terminal; the server ends these itself.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    threading.Thread(target=end_with_server, daemon=True).start()
    # Loaded already, by the process this one was forked from; the server itself need not wait for it.
    from hearthkeep.workers import tasks

    tasks.begin(url)


def end_with_server() -> None:
    """A killed server must not leave its helpers behind."""
    server = multiprocessing.parent_process()
    if server is not None:
        server.join()
        os._exit(1)
