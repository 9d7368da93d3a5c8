"""Run the application: database, schema, web server, and all of it stopped again."""

from __future__ import annotations

import contextlib
import logging
import os
import signal
import socket
import sys
import threading
from collections.abc import Callable, Iterator
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.exc import DBAPIError

from hearthkeep.jobs import JobQueue, OwnWorker, ensure_queue
from hearthkeep.polling import Poller
from hearthkeep.server.given import DEMO_DATABASE, OWN_DATABASE, GivenDatabase, given_database, workers_wanted
from hearthkeep.server.keeper import Keeper
from hearthkeep.server.logs import keep_log
from hearthkeep.server.running import ServeError, forget_running, note_running, only_one
from hearthkeep.server.stand_ins import StandInsBeside
from hearthkeep.store import (
    MODELS,
    SHEETS,
    Cluster,
    ClusterError,
    DatabaseAwayError,
    Designs,
    Jobs,
    Library,
    Nightly,
    Unit,
    engine_for,
    ensure_database,
)
from hearthkeep.workers import Press, Workers, begin_warming

ROOT = Path(__file__).resolve().parents[2]
WEB_BUILD = ROOT / "web" / "dist"
#: A request to stop that was swallowed is repeated after this [s].
INSIST_S = 10.0


def serve(home: Path, *, port: int, demo: bool, tell: Callable[[str], None]) -> None:
    """Start everything, print the address, and serve until interrupted; then stop everything."""
    with only_one(home), _listening(port) as listener:
        for number in (signal.SIGTERM, signal.SIGALRM):
            signal.signal(number, _stop_and_insist)
        given, count = given_database(), workers_wanted()
        cluster = given or Cluster(home, tell=tell)
        keeper: Keeper | None = None
        workers: Workers | None = None
        press: Press | None = None
        own_worker: OwnWorker | None = None
        poller: Poller | None = None
        starting = _Starting(cluster.ensure_running)
        stand_ins = StandInsBeside()
        served = False
        try:
            note_running(home)
            keep_log(home)
            begin_warming()
            # The database starts while the web interface, which takes seconds to load, is loaded.
            starting.start()
            import uvicorn

            from hearthkeep.api import create_app
            from hearthkeep.server.patience import PatientProtocol

            starting.result()
            engine = open_database(cluster, demo=demo)
            url = engine.url
            workers = Workers(url)
            workers.begin()
            own_worker = OwnWorker(url, count, log=home / "logs" / "worker.log") if count else None
            is_off = os.environ.get("HEARTH_NIGHTLY") == "off"
            nightly = None if is_off or isinstance(cluster, GivenDatabase) else Nightly(cluster)
            poller = Poller(engine)
            app = create_app(
                engine=engine,
                workers=workers,
                port=port,
                web=WEB_BUILD,
                nightly=nightly,
                own_worker=own_worker,
                poller=poller,
                stand_ins=lambda: stand_ins.address,
            )
            press = app.state.press
            keeper = Keeper(cluster, nightly, own_worker, port=int(url.port or 0))
            keeper.start()
            poller.start()
            if demo:
                stand_ins.start()
            if JobQueue(url, Jobs(engine)).resume() and own_worker is not None:
                own_worker.wake()
            address = f"http://127.0.0.1:{port}/"
            note_running(home, address)
            config = uvicorn.Config(
                app, http=PatientProtocol, log_config=None, access_log=False, timeout_graceful_shutdown=5
            )
            if signal.getitimer(signal.ITIMER_REAL)[0] > 0:
                # Asked to stop while something swallowed it: what insists must not break into the serving.
                sys.exit(0)
            served = True
            tell(f"Hearth Keep is at {address}" + ("  (demo data)" if demo else ""))
            tell("Ctrl-C stops it.")
            with contextlib.suppress(KeyboardInterrupt):
                uvicorn.Server(config).run(sockets=[listener])
            poller.stop()
            engine.dispose()
        finally:
            # A second request to stop must not leave the database running.
            for number in (signal.SIGTERM, signal.SIGINT, signal.SIGALRM):
                signal.signal(number, signal.SIG_IGN)
            if poller is not None:
                poller.stop()
            stand_ins.stop()
            if press is not None:
                press.close()
            if workers is not None:
                workers.close()
            if keeper is not None:
                keeper.stop()
            if own_worker is not None:
                own_worker.stop()
            # A stop, and the one that insists, break off the waiting for the database's start but not the start itself.
            starting.settle()
            cluster.stop()
            forget_running(home)
            if served:
                tell("Stopped.")


class _Starting(threading.Thread):
    """Something that is started beside, and can be waited for again after the waiting was broken off."""

    def __init__(self, begin: Callable[[], None]) -> None:
        super().__init__(daemon=True)
        self._begin = begin
        self._ended = threading.Event()
        self._error: BaseException | None = None

    def run(self) -> None:
        try:
            self._begin()
        except BaseException as error:
            self._error = error
        finally:
            self._ended.set()

    def result(self) -> None:
        """Wait until it has started; raises what kept it from it."""
        self._ended.wait()
        if self._error is not None:
            raise self._error

    def settle(self) -> None:
        """Wait until it has started or failed, if it was begun at all."""
        if self.ident is not None:
            self._ended.wait()


def _stop_and_insist(*_: object) -> None:
    """Stop; and once more later, since a library that is being loaded may swallow the first request."""
    signal.setitimer(signal.ITIMER_REAL, INSIST_S)
    sys.exit(0)


def open_database(cluster: Cluster | GivenDatabase, *, demo: bool) -> Engine:
    """The database with today's schema and what it begins with; once more where its server dies in the midst of it."""
    for is_last in (False, False, True):
        try:
            url = cluster.url(DEMO_DATABASE if demo else OWN_DATABASE)
            ensure_database(url)
            ensure_queue(url)
            engine = engine_for(url)
            _fill_library(Library(engine))
            if demo:
                _fill_demo(Designs(engine))
            return engine
        except (ClusterError, DatabaseAwayError, DBAPIError) as error:
            if is_last or cluster.is_running():
                raise
            logging.getLogger(__name__).warning("The database has died while starting; bringing it back (%s).", error)
            cluster.ensure_running()
    raise AssertionError("the last attempt returns or raises")


def _fill_demo(designs: Designs) -> None:
    from hearthkeep.demo import demo_designs

    if designs.is_empty():
        for design in demo_designs():
            designs.create(design)


def _fill_library(library: Library) -> None:
    """The starter units, while the library holds none of a kind."""
    from hearthkeep.demo import starter_units
    from hearthkeep.exchange import read_units

    for kind, adapter in SHEETS.items():
        if library.find(kind, most=1).total == 0:
            read = read_units(adapter, MODELS[kind], starter_units(kind.value))
            library.put(kind, [unit for unit in read.units if isinstance(unit, Unit)])


@contextlib.contextmanager
def _listening(port: int) -> Iterator[socket.socket]:
    """Take the port before anything else is started."""
    with socket.socket() as listener:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("127.0.0.1", port))
            # Only a port that is listened at is taken: two that start at the same time would both be given it.
            listener.listen(2048)
        except OSError as error:
            raise ServeError(
                f"Port {port} is taken by another program ({error.strerror}). Choose one: --port 8770"
            ) from error
        yield listener
