"""The thread that asks the devices of every installation, for as long as the server lives."""

from __future__ import annotations

import contextlib
import logging
import threading
import uuid
from collections import deque
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
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
#: Addresses, installations and services that are asked side by side.
SIDE_BY_SIDE, ROUNDS_AT_ONCE, SERVICES_AT_ONCE = 32, 16, 8


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
        self._each = ThreadPoolExecutor(ROUNDS_AT_ONCE, thread_name_prefix="installations")
        self._services = ThreadPoolExecutor(SERVICES_AT_ONCE, thread_name_prefix="services")
        #: Rounds under way: an installation whose devices take their time holds up no other.
        self._rounds: dict[uuid.UUID, Future[None]] = {}
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
        for place in self._places.values():
            # Who waits at one of its devices need not wait on.
            place.close()
        for pool in (self._each, self._beside, self._services):
            pool.shutdown(cancel_futures=True)
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
        """Ask everybody whose round is due, and wait for them; raises what the store raises."""
        asked = self._begin()
        for each in asked:
            each.result()
        self._keep()

    def _begin(self) -> list[Future[None]]:
        """Let every round begin that is due; raises what the store raises."""
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
        begun = []
        for key, place in list(self._places.items()):
            if self._done.is_set():
                break
            if place.services_due(now):
                begun.append(self._services.submit(place.ask_services, now))
            if place.is_due(now) and not self._is_asking(key):
                self._rounds[key] = self._each.submit(self._round, place, now)
                begun.append(self._rounds[key])
        return begun

    def _is_asking(self, installation_id: uuid.UUID) -> bool:
        under_way = self._rounds.get(installation_id)
        return under_way is not None and not under_way.done()

    def _round(self, place: Place, now: datetime) -> None:
        try:
            found = place.round(now, self._beside)
        except HearthKeepError as error:
            _log.warning("Devices of an installation were not asked: %s", error)
        except Exception:
            _log.exception("A round of an installation's devices met a fault of ours.")
        else:
            if found:
                self._pending.append((place.installation_id, found))

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
                self._begin()
                self._keep()
            except Exception as error:
                # While the database is away the devices are asked on, and what they say waits.
                _log.warning("The poller stumbled; it goes on: %s", error)
                self._done.wait(LOOK_EVERY_S)

    def _read_sources(self) -> None:
        kept = {each.installation_id: each for each in self._sources.every()}
        for gone in set(self._places) - set(kept):
            if self._is_asking(gone):
                self._sources_next = None
                continue
            with self._lock:
                self._places.pop(gone).close()
            self._rounds.pop(gone, None)
        for installation_id, each in kept.items():
            try:
                sources, design = Sources.model_validate(each.document), self._design(each.design_id)
            except (HearthKeepError, ValueError) as error:
                _log.warning("The sources of an installation are left out: %s", error)
                continue
            if self._is_asking(installation_id) and self._places[installation_id].sources != sources:
                # Taken over as soon as its round is done.
                self._sources_next = None
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
