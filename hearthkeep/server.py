"""Run the application: database, schema, web server, and all of it stopped again."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import signal
import socket
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.store import MODELS, SHEETS, Cluster, Designs, Library, Unit, engine_for, ensure_database

ROOT = Path(__file__).resolve().parents[1]
WEB_BUILD = ROOT / "web" / "dist"
OWN_DATABASE, DEMO_DATABASE = "hearth", "hearth_demo"
STOP_TIMEOUT_S = 30


class ServeError(HearthKeepError):
    """The application cannot be started here and now."""

    code, title = "SERVE", "The application cannot be started"
    fix = "Do what is said above, then start again."


@dataclass(frozen=True, kw_only=True, slots=True)
class Running:
    """What the state file says of a running application."""

    pid: int
    address: str


def serve(home: Path, *, port: int, demo: bool, tell: Callable[[str], None]) -> None:
    """Start everything, print the address, and serve until interrupted; then stop everything."""
    home.mkdir(parents=True, exist_ok=True)
    with _only_one(home), _listening(port) as listener:
        cluster = Cluster(home)
        state = home / "running.json"
        served = False
        try:
            # The database starts while the model and the web interface, which take seconds to load, are loaded.
            with ThreadPoolExecutor(max_workers=1) as beside:
                starting = beside.submit(cluster.ensure_running)
                import uvicorn

                from hearthkeep.api import create_app

                starting.result()
            url = cluster.url(DEMO_DATABASE if demo else OWN_DATABASE)
            ensure_database(url)
            engine = engine_for(url)
            _fill_library(Library(engine))
            if demo:
                _fill_demo(Designs(engine))
            app = create_app(engine=engine, port=port, web=WEB_BUILD)
            address = f"http://127.0.0.1:{port}/"
            state.write_text(json.dumps({"pid": os.getpid(), "address": address}))
            config = uvicorn.Config(app, log_level="warning", access_log=False, timeout_graceful_shutdown=5)
            served = True
            tell(f"Hearth Keep is at {address}" + ("  (demo data)" if demo else ""))
            tell("Ctrl-C stops it.")
            threading.Thread(target=_warm_up, daemon=True).start()
            with contextlib.suppress(KeyboardInterrupt):
                uvicorn.Server(config).run(sockets=[listener])
            engine.dispose()
        finally:
            state.unlink(missing_ok=True)
            cluster.stop()
            if served:
                tell("Stopped.")


def running(home: Path) -> Running | None:
    """The application running on this data folder, if there is one."""
    try:
        state = json.loads((home / "running.json").read_text())
        found = Running(pid=int(state["pid"]), address=str(state["address"]))
        os.kill(found.pid, 0)
    except (OSError, ValueError, KeyError):
        return None
    return found


def stop(home: Path) -> bool:
    """Stop the application and its database; whether anything ran."""
    found = running(home)
    if found is not None:
        os.kill(found.pid, signal.SIGTERM)
        give_up = time.monotonic() + STOP_TIMEOUT_S
        while running(home) is not None:
            if time.monotonic() > give_up:
                raise ServeError(f"Process {found.pid} did not stop within {STOP_TIMEOUT_S} s.")
            time.sleep(0.05)
    # A killed web server leaves its database running.
    cluster = Cluster(home)
    alive = (home / "cluster.json").exists()
    if alive:
        cluster.stop()
    return found is not None


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


def _warm_up() -> None:
    """Load compiled code before the first request needs it."""
    from hearthkeep.core.assess import assess
    from hearthkeep.demo import demo_designs

    for design in demo_designs():
        assess(design)


@contextlib.contextmanager
def _only_one(home: Path) -> Iterator[None]:
    """Hold the data folder's lock; the system lets it go even after a kill."""
    with (home / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            found = running(home)
            where = f" at {found.address}" if found else ""
            raise ServeError(f"Hearth Keep is already running{where}. Stop it with: ./hearth stop") from error
        yield


@contextlib.contextmanager
def _listening(port: int) -> Iterator[socket.socket]:
    """Take the port before anything else is started."""
    with socket.socket() as listener:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("127.0.0.1", port))
        except OSError as error:
            raise ServeError(
                f"Port {port} is taken by another program ({error.strerror}). Choose one: --port 8770"
            ) from error
        yield listener
