"""One throw-away PostgreSQL server for the whole test process, with a fresh database a test class."""

from __future__ import annotations

import atexit
import itertools
import shutil
import tempfile
from functools import cache
from pathlib import Path

from sqlalchemy import Engine

from hearthkeep.store import Cluster, engine_for, ensure_database

_numbers = itertools.count(1)


@cache
def shared_cluster() -> Cluster:
    """Started at first use, removed at exit."""
    # A space in the path is normal on people's machines and must work.
    home = Path(tempfile.mkdtemp(prefix="hearth tests "))
    cluster = Cluster(home, durable=False)
    atexit.register(shutil.rmtree, home, ignore_errors=True)
    atexit.register(cluster.destroy)
    cluster.ensure_running()
    return cluster


def fresh_engine() -> Engine:
    """An engine on a new, empty database with the current schema."""
    url = shared_cluster().url(f"test_{next(_numbers)}")
    ensure_database(url)
    return engine_for(url)
