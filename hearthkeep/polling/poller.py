"""The thread that asks the devices of every installation, for as long as the server lives."""

from __future__ import annotations

import contextlib
import logging
import threading
import uuid
from collections import deque
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

from sqlalchemy import Engine

from hearthkeep.core.design import Design, read_design
from hearthkeep.core.errors import HearthKeepError
from hearthkeep.devices import Sources
from hearthkeep.polling.gathered import Gathered
from hearthkeep.polling.place import Place
from hearthkeep.store import DatabaseAwayError, Designs, NewSeries, NotFoundError, Readings, WatchSources

_log = logging.getLogger(__name__)
#: It looks whether a round is due so often [s], and what is to be asked at all so often [s].
LOOK_EVERY_S, SOURCES_EVERY_S = 1.0, 60.0
#: Addresses that are asked side by side.
SIDE_BY_SIDE = 8


class Poller:
    """Begun and stopped by the server; other methods may be called from any thread."""

    def __init__(self, engine: Engine, *, clock: Callable[[], datetime] = lambda: datetime.now(UTC)) -> None:
        """
        Be ready.

        :param clock: says the moment, UTC.
        """
        self._sources = WatchSources(engine)
        self._designs = Designs(engine)
        self._readings = Readings(engine)
        self._clock = clock
        self._places: dict[uuid.UUID, Place] = {}
        self._sources_next: datetime | None = None
        #: What is read and not yet kept; of two days at the most.
        self._pending: deque[tuple[uuid.UUID, list[NewSeries]]] = deque(maxlen=2_880)
        self._lock = threading.Lock()
        self._changed = threading.Event()
        self._done = threading.Event()
        self._beside = ThreadPoolExecutor(SIDE_BY_SIDE, thread_name_prefix="devices")
        self._thread = threading.Thread(target=self._work, name="poller", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def stop(self) -> None:
        """End, and wait for what is under way."""
        self._done.set()
        self._changed.set()
        if self._thread.is_alive() and threading.current_thread() is not self._thread:
            self._thread.join()
        self._beside.shutdown()
        for place in self._places.values():
            place.close()

    def wake(self) -> None:
        """Sources were changed: look at once."""
        self._sources_next = None
        self._changed.set()

    def gathered(self, installation_id: uuid.UUID) -> Gathered | None:
        """What is known of an installation; none before its first round, and where nothing is asked for it."""
        with self._lock:
            place = self._places.get(installation_id)
            return None if place is None else place.gathered(self._clock())

    def look(self) -> None:
        """Ask everybody whose round is due; raises what the store raises."""
        now = self._clock().replace(microsecond=0)
        if self._sources_next is None or not timedelta(0) <= self._sources_next - now <= timedelta(
            seconds=SOURCES_EVERY_S
        ):
            self._sources_next = now + timedelta(seconds=SOURCES_EVERY_S)
            try:
                self._read_sources()
            except DatabaseAwayError:
                if not self._places:
                    raise
        for place in list(self._places.values()):
            if self._done.is_set() or not place.is_due(now):
                continue
            try:
                found = place.round(now, self._beside)
            except HearthKeepError as error:
                _log.warning("Devices of an installation were not asked: %s", error)
                continue
            if found:
                self._pending.append((place.installation_id, found))
        self._keep()

    def _keep(self) -> None:
        """Keep what was read; while the database is away it waits."""
        while self._pending:
            installation_id, found = self._pending[0]
            with contextlib.suppress(NotFoundError):
                self._readings.add(installation_id, found)
            self._pending.popleft()

    def _work(self) -> None:
        while not self._done.is_set():
            self._changed.wait(LOOK_EVERY_S)
            self._changed.clear()
            if self._done.is_set():
                return
            try:
                self.look()
            except Exception as error:
                # While the database is away the devices are asked on, and what they say waits.
                _log.warning("The poller stumbled; it goes on: %s", error)
                self._done.wait(LOOK_EVERY_S)

    def _read_sources(self) -> None:
        kept = {each.installation_id: each for each in self._sources.every()}
        for gone in set(self._places) - set(kept):
            with self._lock:
                self._places.pop(gone).close()
        for installation_id, each in kept.items():
            try:
                sources, design = Sources.model_validate(each.document), self._design(each.design_id)
            except (HearthKeepError, ValueError) as error:
                _log.warning("The sources of an installation are left out: %s", error)
                continue
            with self._lock:
                place = self._places.get(installation_id)
                if place is None:
                    self._places[installation_id] = Place(installation_id, design, sources)
                else:
                    place.take(sources, design)

    def _design(self, design_id: uuid.UUID) -> Design:
        try:
            return read_design(self._designs.values(design_id))
        except NotFoundError:
            raise HearthKeepError("Its design is not there.") from None
