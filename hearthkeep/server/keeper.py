"""What goes on beside the answering of requests: database and worker are brought back when they die, and all is backed up each night."""

from __future__ import annotations

import logging
import threading
import time
from datetime import datetime

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.jobs import OwnWorker
from hearthkeep.server.given import GivenDatabase
from hearthkeep.store import Cluster, Nightly

LOOK_EVERY_S = 1.0
#: After a failed attempt to bring the database back, or a failed backup.
AGAIN_AFTER_S = 10.0
BACKUP_AGAIN_AFTER_S = 3600.0

_log = logging.getLogger(__name__)


class Keeper:
    """A thread that looks after the database of a living server."""

    def __init__(
        self, cluster: Cluster | GivenDatabase, nightly: Nightly | None, own_worker: OwnWorker | None, *, port: int
    ) -> None:
        self._cluster = cluster
        #: None where the nightly backup is switched off.
        self._nightly = nightly
        #: None where long work is left to others.
        self._own_worker = own_worker
        #: The database comes back where the application looks for it.
        self._port = port
        self._done = threading.Event()
        self._thread = threading.Thread(target=self._work, name="keeper", daemon=True)
        self._not_before = 0.0
        self._no_backup_before = 0.0

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def stop(self) -> None:
        """End, and wait for what is under way."""
        self._done.set()
        self._thread.join()

    def _work(self) -> None:
        while not self._done.wait(LOOK_EVERY_S):
            try:
                self._look()
            except Exception:
                _log.exception("The keeper stumbled; it goes on.")

    def _look(self) -> None:
        now = time.monotonic()
        if now >= self._not_before and not self._cluster.is_running():
            self._bring_back(now)
        if self._own_worker is not None:
            self._own_worker.look()
        if self._nightly is not None and now >= self._no_backup_before:
            try:
                if self._nightly.is_due(datetime.now()):
                    self._nightly.make(datetime.now())
            except (HearthKeepError, OSError) as error:
                self._no_backup_before = now + BACKUP_AGAIN_AFTER_S
                _log.warning("The nightly backup failed: %s", error)

    def _bring_back(self, now: float) -> None:
        _log.warning("The database has died; bringing it back.")
        try:
            self._cluster.ensure_running(self._port)
        except HearthKeepError as error:
            self._not_before = now + AGAIN_AFTER_S
            _log.warning(
                "The database could not be brought back: %s Tried again in %.0f s; if it stays so: ./hearth stop, then "
                "./hearth start.",
                error,
                AGAIN_AFTER_S,
            )
        else:
            _log.warning("The database is back.")
