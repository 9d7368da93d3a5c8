"""A foreign file is read in a process of its own, which may use so much memory and time and then is ended."""

from __future__ import annotations

import contextlib
import logging
import multiprocessing.connection
import os
import resource
import signal
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.context import ForkServerContext
from pathlib import Path
from typing import Any

from hearthkeep.core.errors import HearthKeepError

_log = logging.getLogger(__name__)
#: What reading one file may take beyond what the process holds before it begins [bytes], and how long [s].
MOST_BYTES = 400_000_000
LONGEST_S = 10


@dataclass(frozen=True, slots=True)
class SentFile:
    """A file that was sent, where it is kept for now; the process that reads it is given its bytes."""

    place: str


class FileTooHeavyError(HearthKeepError):
    """Reading a file took more memory or time than any honest one needs."""

    code, title = "FILE_TOO_HEAVY", "The file is too heavy to read"
    fix = "Open it in the program it comes from, save only what is needed as a new file, and open that."


class FileUnreadableError(HearthKeepError):
    """Reading a file stumbled over something that no reader foresaw: it is damaged, or made to be."""

    code, title = "FILE_UNREADABLE", "The file cannot be read"
    fix = "Save it anew in the program it comes from, and open that. If it opens well there, report it with the file."


def run_limited(context: ForkServerContext, task: Callable[..., Any], *args: Any, **kwargs: Any) -> Any:
    """Run a task in a new process within the limits; refusals are raised here, FileTooHeavyError at the limit, and FileUnreadableError
    for whatever else the file brings about."""
    here, there = context.Pipe(duplex=False)
    process = context.Process(target=_work, args=(there, LONGEST_S, MOST_BYTES, task, args, kwargs), daemon=True)
    process.start()
    there.close()
    kind: str
    value: Any
    try:
        kind, value = ("time", None) if not here.poll(LONGEST_S + 2) else here.recv()
    except EOFError:
        # Ended by the system: the limit of time, or memory that a library took without asking.
        kind, value = "ended", None
    finally:
        process.kill()
        process.join()
        code = process.exitcode
        process.close()
        here.close()
    if kind == "answer":
        return value
    if kind == "error":
        raise value
    if kind == "fault" or (kind == "ended" and code is not None and code > 0):
        said = value or f"the process that reads files ended with code {code}"
        # It may be a fault of ours all the same.
        _log.error("A file could not be read: %s", said)
        raise FileUnreadableError(
            f"It is damaged, or of another kind than it seems ({said.strip().splitlines()[-1][:200]})."
        )
    raise FileTooHeavyError(
        f"Reading it was ended: it took more than {LONGEST_S} s or {MOST_BYTES // 1_000_000} MB of memory. A file of "
        f"the size that can be used takes a fraction of that."
    )


def _work(
    there: multiprocessing.connection.Connection,
    longest_s: int,
    most_bytes: int,
    task: Callable[..., Any],
    args: tuple[Any, ...],
    kwargs: dict[str, Any],
) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    # The file's own bytes are counted with what the process holds.
    args = tuple(Path(each.place).read_bytes() if isinstance(each, SentFile) else each for each in args)
    _limit(longest_s, most_bytes)
    try:
        answer: tuple[str, Any] = "answer", task(*args, **kwargs)
    except MemoryError:
        answer = "memory", None
    except HearthKeepError as error:
        answer = "error", error
    except Exception:
        answer = "fault", traceback.format_exc()
    with contextlib.suppress(OSError, MemoryError):
        there.send(answer)


def _limit(longest_s: int, most_bytes: int) -> None:
    pages = int(Path("/proc/self/statm").read_text().split()[0])
    most = pages * os.sysconf("SC_PAGE_SIZE") + most_bytes
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CPU, (longest_s, longest_s + 1))
    # Nothing is written, and a fault leaves no image of the memory behind.
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
