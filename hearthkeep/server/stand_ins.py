"""The stand-ins beside the server: a process that is begun with the demo, or one that the environment names."""

from __future__ import annotations

import contextlib
import logging
import os
import subprocess
import sys
import threading
from pathlib import Path

from hearthkeep.standins.told import StandInState

#: ``off``, or where stand-ins that were started elsewhere are asked; the demo begins its own where nothing is said.
STAND_INS_VARIABLE = "HEARTH_STAND_INS"
OFF = "off"
#: The house of the demo's stand-ins, and for how long its outage has been on as they begin [h].
DEMO_HOUSE, DEMO_SINCE_H = "birchrow-16.json", 5.0
#: More for their process; where they listen stays as it is usually.
ARGUMENTS: tuple[str, ...] = ()
STOP_S = 5.0
ROOT = Path(__file__).resolve().parents[2]
_log = logging.getLogger(__name__)


class StandInsBeside:
    """Begun by `start`; where they are asked is known as soon as they listen."""

    def __init__(self) -> None:
        """Ask the environment."""
        said = os.environ.get(STAND_INS_VARIABLE, "").strip()
        self._address = said.rstrip("/") if said not in ("", OFF) else None
        self._is_wanted = said == ""
        self._process: subprocess.Popen[str] | None = None
        self._heard = threading.Event()

    def wait(self, seconds: float) -> str | None:
        """Wait for their word for so long, and say where they are asked."""
        self._heard.wait(seconds)
        return self.address

    @property
    def address(self) -> str | None:
        """Where they are asked; none while there are none."""
        if self._process is not None and self._process.poll() is not None:
            return None
        return self._address

    def start(self) -> None:
        """Begin them, where nothing else is said; nobody waits for them."""
        if not self._is_wanted:
            return
        command = [sys.executable, "-m", "hearthkeep.standins", str(ROOT / "examples" / DEMO_HOUSE)]
        self._process = subprocess.Popen(
            [*command, "--since-h", str(DEMO_SINCE_H), "--of", str(os.getpid()), *ARGUMENTS],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            text=True,
            # Ctrl-C is sent to all processes of a terminal; the server ends this one itself.
            start_new_session=True,
        )
        threading.Thread(target=self._hear, args=(self._process,), name="stand-ins", daemon=True).start()

    def _hear(self, process: subprocess.Popen[str]) -> None:
        """Wait for the one line in which they say where they listen."""
        line = process.stdout.readline() if process.stdout is not None else ""
        if not line:
            _log.warning("The stand-ins did not start; another program may have their ports.")
        else:
            self._address = f"http://127.0.0.1:{StandInState.model_validate_json(line).http_port}"
        self._heard.set()

    def stop(self) -> None:
        """End them, where they were begun here."""
        if self._process is None or self._process.poll() is not None:
            return
        self._process.terminate()
        with contextlib.suppress(subprocess.TimeoutExpired):
            self._process.wait(STOP_S)
        if self._process.poll() is None:
            self._process.kill()
            self._process.wait()
        if self._process.stdout is not None:
            self._process.stdout.close()
