"""The processes that assess: as many as there are cores, begun warm, replaced when one dies or will not end."""

from __future__ import annotations

import asyncio
import contextlib
import multiprocessing
import multiprocessing.forkserver
import os
import signal
import threading
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing.context import ForkServerContext
from typing import ParamSpec, TypeVar

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

P = ParamSpec("P")
T = TypeVar("T")


class WorkLostError(HearthKeepError):
    """A calculation ended without an answer, twice."""

    code, title = "WORK_LOST", "The calculation was ended"
    fix = "Nothing was lost. Undo the last change and try again; if it comes again, save the design as a file and report it."


class Workers:
    """A pool of processes. Its methods are called from the event loop."""

    def __init__(self, url: URL, count: int | None = None, *, niceness: int = 0) -> None:
        self._url = url
        #: By how much they give way to other processes.
        self._niceness = niceness
        self._count = count or min(os.cpu_count() or 1, MOST)
        self._context = warm_context()
        self._files = asyncio.Semaphore(FILES_AT_ONCE)
        self._pool = self._new_pool()
        self._ready: Future[None] | None = None

    def begin(self) -> None:
        """Begin the processes beside whatever else goes on: they wait until what they are forked from has loaded everything."""
        if self._ready is None or (self._ready.done() and self._ready.exception() is not None):
            ready: Future[None] = Future()
            self._ready = ready
            threading.Thread(target=_follow, args=(ready, self._pool), daemon=True).start()

    @property
    def is_ready(self) -> bool:
        """Whether a task begins at once; the first start on a machine compiles the model, which takes half a minute."""
        return self._ready is not None and self._ready.done() and self._ready.exception() is None

    async def run(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The task's result from one of the processes; what it raises is raised here."""
        if not self.is_ready:
            # Not counted in the time a task has, and nothing else is held up by it.
            self.begin()
            assert self._ready is not None
            with contextlib.suppress(BrokenProcessPool, OSError, EOFError):
                await asyncio.shield(asyncio.wrap_future(self._ready))
        for _ in range(2):
            pool = self._pool
            try:
                working = asyncio.wrap_future(pool.submit(task, *args, **kwargs))
                return await asyncio.wait_for(working, LONGEST_S)
            except BrokenProcessPool:
                # One of the processes died, of this task or of another's: once more, in new ones.
                self._replace(pool)
            except TimeoutError:
                self._replace(pool)
                break
        raise WorkLostError("The calculation ended without a result.")

    async def read(self, task: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The result of a task that reads a foreign file, in a process of its own with limits of memory and time."""
        async with self._files:
            return await asyncio.to_thread(limits.run_limited, self._context, task, *args, **kwargs)

    def close(self) -> None:
        """End the processes, whatever they do."""
        self._end(self._pool)

    def start_anew(self) -> None:
        """End the processes with whatever they are at; the next task finds new ones."""
        self._replace(self._pool)

    # --- inside

    def _new_pool(self) -> ProcessPoolExecutor:
        return ProcessPoolExecutor(
            self._count,
            mp_context=self._context,
            initializer=_begin,
            initargs=(self._url.render_as_string(False), self._niceness),
        )

    def _replace(self, broken: ProcessPoolExecutor) -> None:
        if self._pool is broken:
            self._pool = self._new_pool()
            self._end(broken)

    @staticmethod
    def _end(pool: ProcessPoolExecutor) -> None:
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
