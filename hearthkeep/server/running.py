"""Which process serves a data folder: one at a time, known by number and start time, and stopped from outside."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import signal
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import psutil

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.store import Cluster
from hearthkeep.store.folder import write_whole

STOP_TIMEOUT_S = 60


class ServeError(HearthKeepError):
    """The application cannot be started or stopped here and now."""

    code, title = "SERVE", "The application cannot be started"
    fix = "Do what is said above, then start again."


@dataclass(frozen=True, kw_only=True, slots=True)
class Running:
    """What the state file says of a living application."""

    pid: int
    #: Empty while it is starting.
    address: str


def note_running(home: Path, address: str = "") -> None:
    """Write down that this process serves the folder."""
    values = {"pid": os.getpid(), "started": psutil.Process().create_time(), "address": address}
    write_whole(home / "running.json", json.dumps(values))


def forget_running(home: Path) -> None:
    """Take the note back."""
    (home / "running.json").unlink(missing_ok=True)


def running(home: Path) -> Running | None:
    """The application running on this data folder; a number that now belongs to another process is not it."""
    try:
        values = json.loads((home / "running.json").read_text())
        process = psutil.Process(int(values["pid"]))
        if process.status() == psutil.STATUS_ZOMBIE:
            return None
        started = values.get("started")
        same = "hearthkeep" in " ".join(process.cmdline()) if started is None else process.create_time() == started
        return Running(pid=process.pid, address=str(values["address"])) if same else None
    except (OSError, ValueError, KeyError, TypeError, AttributeError, psutil.Error):
        return None


def stop(home: Path) -> bool:
    """Stop the application and its database; whether anything ran. Another's stop at the same time does no harm."""
    if not home.exists():
        return False
    found = running(home)
    if found is not None:
        with contextlib.suppress(ProcessLookupError):
            os.kill(found.pid, signal.SIGTERM)
    give_up = time.monotonic() + STOP_TIMEOUT_S
    while True:
        with _try_lock(home) as held:
            if held:
                # A killed web server leaves its database running.
                cluster = Cluster(home)
                ran = cluster.is_running()
                cluster.stop()
                return found is not None or ran
        now = running(home)
        if now is not None and (found is None or now.pid != found.pid):
            # Stopped, and started again by someone else meanwhile.
            if found is not None:
                return True
            return stop(home)
        if time.monotonic() > give_up:
            who = f"Process {found.pid}" if found else "Another command"
            raise ServeError(f"{who} still works in {home} after {STOP_TIMEOUT_S} s. Try again in a minute.")
        time.sleep(0.05)


@contextlib.contextmanager
def only_one(home: Path) -> Iterator[None]:
    """Hold the data folder's lock; the system lets it go even after a kill."""
    home.mkdir(parents=True, exist_ok=True)
    with _try_lock(home) as held:
        if not held:
            found = running(home)
            if found is None:
                raise ServeError(f"Another command is working in {home}. Wait until it is done, then try again.")
            where = f" at {found.address}" if found.address else ", or just starting"
            raise ServeError(f"Hearth Keep is already running{where}. Stop it with: ./hearth stop")
        yield


@contextlib.contextmanager
def _try_lock(home: Path) -> Iterator[bool]:
    with (home / "lock").open("a") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            yield False
            return
        yield True
