"""Papers printed in a process each, so that edits are answered meanwhile, and so that one can be ended at once."""

from __future__ import annotations

import asyncio
import contextlib
import gc
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import traceback
import uuid
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

from sqlalchemy import URL

from hearthkeep.core.design import Design, read_design
from hearthkeep.core.errors import HearthKeepError
from hearthkeep.papers import Audience, BuiltRecord, Considered, gather, page_sizes, print_paper
from hearthkeep.workers.gate_lines import GateLine, signed_of
from hearthkeep.workers.pool import end_with_server, warm_context

#: Papers printed side by side, as many as there are cores and memory is wanted for; and runs kept for those who look at them.
AT_ONCE, MOST_KEPT = min(os.cpu_count() or 1, 6), 36
#: No paper of a design that the format admits takes nearly as long [s].
LONGEST_S = 180.0
#: Installs what printing needs and is missing.
FETCH = (sys.executable, str(Path(__file__).resolve().parents[2] / "scripts" / "bootstrap.py"), "fetch", "printing")
#: Printing gives way to the answering of edits.
NICENESS = 5


class PrintState(StrEnum):
    """How far a run is."""

    WAITING = "waiting"
    #: The first time fonts and the library that lays out pages are looked for, and installed where they are missing.
    FETCHING = "fetching"
    PRINTING = "printing"
    DONE = "done"
    CANCELLED = "cancelled"
    FAILED = "failed"


@dataclass(frozen=True, kw_only=True)
class PaperOrder:
    """One paper to be printed: of which stored design, for whom, on which day."""

    design_id: uuid.UUID
    revision: int
    values: dict[str, Any]
    #: Alternatives by label, as stored values.
    others: tuple[tuple[str, dict[str, Any]], ...]
    audience: Audience
    printed_on: date
    #: The installation that is certified: its name and its gates' entries; none for other papers and blank certificates.
    built: tuple[str, tuple[GateLine, ...]] | None = None


@dataclass(eq=False)
class PrintRun:
    """One paper on its way."""

    id: uuid.UUID
    order: PaperOrder
    state: PrintState = PrintState.WAITING
    #: Pages laid out so far.
    laid_out: int = 0
    pdf: bytes = b""
    #: Width and height of each page [pt]; empty until it is done.
    sizes: tuple[tuple[float, float], ...] = ()
    #: Why it failed; empty unless it did.
    fault: str = ""
    process: BaseProcess | None = field(default=None, repr=False)
    #: For its temporary files; empty before it begins.
    folder: str = ""

    @property
    def is_live(self) -> bool:
        """Whether it may still come to something."""
        return self.state in (PrintState.WAITING, PrintState.FETCHING, PrintState.PRINTING)


class Press:
    """Prints papers; its methods are called from the event loop."""

    def __init__(self, url: URL) -> None:
        self._url = url.render_as_string(False)
        self._context = warm_context()
        self._places = asyncio.Semaphore(AT_ONCE)
        self._runs: OrderedDict[uuid.UUID, PrintRun] = OrderedDict()
        self._tasks: set[asyncio.Task[None]] = set()
        self._fetching: asyncio.Task[None] | None = None

    def begin(self, order: PaperOrder) -> PrintRun:
        """Begin a paper; one of the same revision, day and audience that is there already is given instead."""
        for run in self._runs.values():
            if run.order == order and (run.is_live or run.state is PrintState.DONE):
                return run
        run = PrintRun(id=uuid.uuid4(), order=order)
        self._runs[run.id] = run
        while len(self._runs) > MOST_KEPT:
            self.cancel(next(iter(self._runs)))
            self._runs.popitem(last=False)
        task = asyncio.create_task(self._print(run))
        self._tasks.add(task)
        task.add_done_callback(self._tasks.discard)
        return run

    def find(self, run_id: uuid.UUID) -> PrintRun | None:
        """A run; none where it is kept no more."""
        return self._runs.get(run_id)

    def cancel(self, run_id: uuid.UUID) -> None:
        """End a run that is not done; nothing where there is none."""
        run = self._runs.get(run_id)
        if run is not None and run.is_live:
            run.state = PrintState.CANCELLED
            _end(run)

    def close(self) -> None:
        """End everything under way."""
        for run in self._runs.values():
            self.cancel(run.id)

    # --- inside

    async def _fetch_once(self) -> None:
        """Fetch what printing needs of the operating system, where it is missing; what cannot be had is said when it is missed."""
        if self._fetching is None:
            self._fetching = asyncio.create_task(asyncio.to_thread(_fetch))
        await asyncio.shield(self._fetching)

    async def _print(self, run: PrintRun) -> None:
        async with self._places:
            if not run.is_live:
                return
            run.state = PrintState.FETCHING
            await self._fetch_once()
            if not run.is_live:
                return
            here, there = self._context.Pipe(duplex=False)
            # What the libraries lay down on the way goes with it, though it be ended in the midst of it.
            run.folder = tempfile.mkdtemp(prefix="hearth paper ")
            process = self._context.Process(target=_work, args=(there, self._url, run.order, run.folder), daemon=True)
            run.state, run.process = PrintState.PRINTING, process
            await asyncio.to_thread(process.start)
            there.close()
            try:
                if not run.is_live:
                    # Cancelled in the moment in which it began.
                    return
                await asyncio.wait_for(asyncio.to_thread(_follow, here, run), LONGEST_S)
            except TimeoutError:
                run.fault = f"It took more than {LONGEST_S:.0f} s and was ended."
            finally:
                _end(run)
                here.close()
            if run.state is PrintState.PRINTING:
                run.state = PrintState.DONE if run.pdf else PrintState.FAILED
                run.fault = run.fault or ("" if run.pdf else "It was ended by the system; try again.")


def _follow(here: Connection, run: PrintRun) -> None:
    """Take what the process tells until it has no more to say."""
    with contextlib.suppress(EOFError, OSError):
        while True:
            kind, value = here.recv()
            if kind == "page":
                run.laid_out = max(run.laid_out, value)
            elif kind == "fault":
                run.fault = value
            else:
                run.sizes, run.pdf = tuple(page_sizes(value)), value


def _fetch() -> None:
    subprocess.run(FETCH, stdin=subprocess.DEVNULL, capture_output=True, check=False)


def _end(run: PrintRun) -> None:
    process = run.process
    if process is not None and process.pid is not None:
        process.kill()
        process.join()
    if run.folder:
        shutil.rmtree(run.folder, ignore_errors=True)


def _work(there: Connection, url: str, order: PaperOrder, folder: str) -> None:
    """What the process does; temporary files are laid down in the folder."""
    os.environ["TMPDIR"] = tempfile.tempdir = folder
    os.nice(NICENESS)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=end_with_server, daemon=True).start()
    # It ends soon; looking for what is no longer used would only cost time.
    gc.disable()
    from hearthkeep.workers import tasks

    try:
        tasks.begin(url)
        there.send(("paper", printed(order, tasks.stored_year_of, lambda page: there.send(("page", page)))))
    except HearthKeepError as error:
        there.send(("fault", f"{error} {error.fix}"))
    except Exception as error:
        traceback.print_exc()
        there.send(("fault", f"A fault of Hearth Keep ({type(error).__name__})."))


def printed(order: PaperOrder, year_of: Callable[[Design], Any], tell: Callable[[int], None]) -> bytes:
    """An order's paper as PDF; `year_of` finds a design's weather year, `tell` hears how many pages are laid out."""
    design = read_design(order.values)
    others = [(label, read_design(values)) for label, values in order.others]
    source = gather(
        design,
        year_of(design),
        printed_on=order.printed_on,
        revision=order.revision,
        considered=[Considered(label=label, design=other, year=year_of(other)) for label, other in others],
        built=None if order.built is None else BuiltRecord(name=order.built[0], gates=signed_of(order.built[1])),
    )
    return print_paper(source, order.audience, tell=tell).pdf
