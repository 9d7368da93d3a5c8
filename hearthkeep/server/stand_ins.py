"""The stand-ins beside the server: a process that is begun with the demo, or one that the environment names."""

from __future__ import annotations

import logging
import os
import signal
import threading
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerProcess
from pathlib import Path

from hearthkeep.standins.told import StandInState
from hearthkeep.workers import warm_context

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
        self._process: ForkServerProcess | None = None
        self._is_stopped = False
        self._heard = threading.Event()

    def wait(self, seconds: float) -> str | None:
        """Wait for their word for so long, and say where they are asked."""
        self._heard.wait(seconds)
        return self.address

    @property
    def address(self) -> str | None:
        """Where they are asked; none while there are none."""
        if self._process is not None and not self._process.is_alive():
            return None
        return self._address

    def start(self) -> None:
        """Begin them, where nothing else is said; nobody waits for them."""
        if not self._is_wanted:
            return
        threading.Thread(target=self._begin, name="stand-ins", daemon=True).start()

    def _begin(self) -> None:
        """Begin their process, and wait for the one line in which they say where they listen."""
        context = warm_context()
        here, there = context.Pipe(duplex=False)
        arguments = (str(ROOT / "examples" / DEMO_HOUSE), "--since-h", str(DEMO_SINCE_H), *ARGUMENTS)
        process = context.Process(target=_serve, args=(arguments, there), daemon=True)
        # Waits until what it is forked from has loaded everything.
        process.start()
        self._process = process
        there.close()
        if self._is_stopped:
            process.kill()
        try:
            self._address = f"http://127.0.0.1:{StandInState.model_validate_json(here.recv()).http_port}"
        except (EOFError, OSError):
            _log.warning("The stand-ins did not start; another program may have their ports.")
        here.close()
        self._heard.set()

    def stop(self) -> None:
        """End them, where they were begun here."""
        self._is_stopped = True
        process = self._process
        if process is None or not process.is_alive():
            return
        process.terminate()
        process.join(STOP_S)
        if process.is_alive():
            process.kill()
            process.join()


def _serve(arguments: tuple[str, ...], there: Connection) -> None:
    """In the process: serve until told to stop, or until the process it was forked from is gone, which goes with the server."""
    # Ctrl-C is sent to all processes of a terminal; the server ends this one itself.
    os.setsid()
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
    from hearthkeep.standins.__main__ import main

    main((*arguments, "--of", str(os.getppid())), said=there.send)
