"""What all processes of a run share: one database server, migrated once, and prepared data folders that are copied."""

from __future__ import annotations

import atexit
import contextlib
import fcntl
import itertools
import os
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from functools import cache
from pathlib import Path

from sqlalchemy import Engine

from hearthkeep.jobs import ensure_queue
from hearthkeep.server.serve import open_database
from hearthkeep.store import Cluster, engine_for, ensure_database
from hearthkeep.store.database import direct
from tests.runner.queue import RUN_VARIABLE

TEMPLATE = "template_of_tests"
_numbers = itertools.count(1)


@cache
def run_folder() -> Path:
    """The folder of this run; one of this process alone where nobody runs it with others."""
    given = os.environ.get(RUN_VARIABLE)
    if given:
        return Path(given)
    folder = Path(tempfile.mkdtemp(prefix="hearth tests "))
    folder.chmod(0o711)
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    atexit.register(end_shared, folder)
    return folder


def end_shared(folder: Path) -> None:
    """Stop the database server of a run."""
    if (folder / "cluster").exists():
        _cluster_in(folder).destroy()


@contextlib.contextmanager
def _one_at_a_time(name: str) -> Iterator[Path]:
    """One process makes a thing, the others wait and find it made."""
    with (run_folder() / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield run_folder() / name


def _cluster_in(folder: Path) -> Cluster:
    return Cluster(folder / "cluster", durable=False)


@cache
def shared_cluster() -> Cluster:
    """The server of this run, started at first use, with a database of today's schema to copy from."""
    with _one_at_a_time("cluster"):
        cluster = _cluster_in(run_folder())
        made = run_folder() / "template"
        cluster.ensure_running()
        if not made.exists():
            url = cluster.url(TEMPLATE)
            ensure_database(url)
            ensure_queue(url)
            made.touch()
    return cluster


def database_name(stem: str = "test") -> str:
    """A name that no other process of the run gives a database."""
    return f"{stem}_{os.getpid()}_{next(_numbers)}"


def fresh_engine() -> Engine:
    """An engine on a new, empty database with the current schema and its queue."""
    cluster, name = shared_cluster(), database_name()
    # While a database is copied nobody may be connected to it.
    with _one_at_a_time("copying"), direct(cluster.url("postgres"), autocommit=True) as connection:
        connection.execute(f"create database {name} template {TEMPLATE}")
    return engine_for(cluster.url(name))


def copy_prepared_home(place: Path, *, demo: bool) -> None:
    """Make a data folder as after its first start: the database made, its schema today's, filled with what it begins with."""
    with _one_at_a_time("home-demo" if demo else "home-own") as prepared:
        if not (prepared / "cluster.json").exists():
            cluster = Cluster(prepared)
            cluster.ensure_running()
            open_database(cluster, demo=demo).dispose()
            cluster.stop()
    subprocess.run(["cp", "-a", "--reflink=auto", str(prepared), str(place)], check=True)
