"""A worker as a process: the database's address comes in the environment, so that it stands in no list of processes."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import logging
import os
import signal
import sys
import threading
from logging.handlers import RotatingFileHandler
from pathlib import Path

import psutil
from sqlalchemy import URL, make_url

from hearthkeep.jobs.own_worker import DATABASE_VARIABLE
from hearthkeep.jobs.work import Worker
from hearthkeep.workers import LONG_WORK, begin_warming

LOG_FORMAT = "%(asctime)s %(levelname)s %(name)s: %(message)s"
LOG_BYTES = 1_000_000


def main() -> None:
    """Run a worker until it is stopped."""
    parser = argparse.ArgumentParser(prog="hearthkeep.jobs")
    parser.add_argument("--count", type=int, default=1)
    parser.add_argument("--idle-s", type=float)
    parser.add_argument("--log", type=Path, help="file that what went wrong is written to")
    parser.add_argument("--of", type=int, help="process whose end is this one's end")
    options = parser.parse_args()
    if options.of is not None:
        threading.Thread(target=_end_with, args=(options.of,), daemon=True).start()
    if options.log is not None:
        handler = RotatingFileHandler(options.log, maxBytes=LOG_BYTES, backupCount=1, encoding="utf-8", delay=True)
        handler.setFormatter(logging.Formatter(LOG_FORMAT))
        logging.getLogger().addHandler(handler)
    try:
        work(make_url(os.environ[DATABASE_VARIABLE]), options.count, idle_s=options.idle_s)
    except Exception:
        # The database's end, mostly; the server begins another.
        logging.getLogger(__name__).exception("The worker has stumbled.")
        sys.exit(1)


def work(url: URL, count: int, *, idle_s: float | None = None) -> None:
    """Work on a database, so many parts side by side, until stopped, or without work for so long [s]."""
    logging.basicConfig(level=logging.WARNING, format=LOG_FORMAT)
    begin_warming(LONG_WORK)
    asyncio.run(Worker(url, count, idle_s=idle_s).run())


def _end_with(pid: int) -> None:
    """A killed server must not leave its worker behind."""
    with contextlib.suppress(psutil.NoSuchProcess):
        psutil.Process(pid).wait()
    os.kill(os.getpid(), signal.SIGTERM)


if __name__ == "__main__":
    main()
