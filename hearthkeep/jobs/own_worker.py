"""The server's own worker: a process that is begun when there is long work, and ends on its own when there is none."""

from __future__ import annotations

import contextlib
import os
import subprocess
import sys
import threading
from pathlib import Path

from sqlalchemy import URL

#: The environment variable that names a database; it holds a password, and so stands on no command line.
DATABASE_VARIABLE = "HEARTH_DATABASE"
#: It ends after so long without work [s].
IDLE_S = 120.0
#: How long it has for leaving its parts to others [s].
STOP_S = 8.0
ROOT = Path(__file__).resolve().parents[2]


class OwnWorker:
    """Begun by `wake`; methods may be called from any thread."""

    def __init__(self, url: URL, count: int, *, idle_s: float = IDLE_S, log: Path | None = None) -> None:
        self._url = url
        self._count = count
        #: Where it writes what went wrong.
        self._log = log
        self._idle_s = idle_s
        self._process: subprocess.Popen[bytes] | None = None
        self._lock = threading.Lock()
        self._ended = False

    def wake(self) -> None:
        """See to it that a worker is there."""
        with self._lock:
            if self._ended or (self._process is not None and self._process.poll() is None):
                return
            arguments = ["--count", str(self._count), "--idle-s", str(self._idle_s), "--of", str(os.getpid())]
            if self._log is not None:
                arguments += ["--log", str(self._log)]
            self._process = subprocess.Popen(
                [sys.executable, "-m", "hearthkeep.jobs", *arguments],
                cwd=ROOT,
                env={**os.environ, DATABASE_VARIABLE: self._url.render_as_string(hide_password=False)},
                # Ctrl-C is sent to all processes of a terminal; the server ends this one itself.
                start_new_session=True,
            )

    def look(self) -> None:
        """Replace one that has died; one that ended for want of work is left."""
        with self._lock:
            died = self._process is not None and self._process.poll() not in (None, 0)
        if died:
            self.wake()

    def stop(self) -> None:
        """End it; what it was at is left to others or to the next start."""
        with self._lock:
            self._ended = True
            process = self._process
        if process is None or process.poll() is not None:
            return
        process.terminate()
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(STOP_S)
        if process.poll() is None:
            process.kill()
            process.wait()

    @property
    def pid(self) -> int | None:
        """Its number; none while it is not there."""
        return None if self._process is None or self._process.poll() is not None else self._process.pid
