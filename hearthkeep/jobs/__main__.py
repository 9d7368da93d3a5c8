"""A worker as a process: the database's address comes in the environment, so that it stands in no list of processes."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import logging
import os
import signal
import threading

import psutil
from sqlalchemy import make_url

from hearthkeep.jobs.work import Worker
from hearthkeep.workers import begin_warming

#: The environment variable with the address.
DATABASE = "HEARTH_DATABASE"


def main() -> None:
    """Run a worker until it is stopped."""
    parser = argparse.ArgumentParser(prog="hearthkeep.jobs")
    parser.add_argument("--count", type=int, default=1)
    parser.add_argument("--idle-s", type=float)
    parser.add_argument("--of", type=int, help="process whose end is this one's end")
    options = parser.parse_args()
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s: %(message)s")
    begin_warming()
    if options.of is not None:
        threading.Thread(target=_end_with, args=(options.of,), daemon=True).start()
    asyncio.run(Worker(make_url(os.environ[DATABASE]), options.count, idle_s=options.idle_s).run())


def _end_with(pid: int) -> None:
    """A killed server must not leave its worker behind."""
    with contextlib.suppress(psutil.NoSuchProcess):
        psutil.Process(pid).wait()
    os.kill(os.getpid(), signal.SIGTERM)


if __name__ == "__main__":
    main()
