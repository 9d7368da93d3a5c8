"""Where the application writes what went wrong: a file that is kept small, and one line on the terminal."""

from __future__ import annotations

import logging
from logging.handlers import RotatingFileHandler
from pathlib import Path

MAX_BYTES, KEPT = 1_000_000, 4


class _OneLine(logging.Formatter):
    """No traceback: that stands in the file."""

    def __init__(self, file: Path) -> None:
        super().__init__()
        self._file = file

    def format(self, record: logging.LogRecord) -> str:
        text = record.getMessage().splitlines() or [""]
        more = f" (more in {self._file})" if record.exc_info or len(text) > 1 else ""
        return f"hearth: {text[0]}{more}"


def keep_log(home: Path) -> None:
    """Log to the data folder from now on, and warnings in one line each to the terminal."""
    folder = home / "logs"
    folder.mkdir(mode=0o700, exist_ok=True)
    file = folder / "hearth.log"
    full = RotatingFileHandler(file, maxBytes=MAX_BYTES, backupCount=KEPT, encoding="utf-8", delay=True)
    full.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(name)s: %(message)s"))
    short = logging.StreamHandler()
    short.setLevel(logging.WARNING)
    short.setFormatter(_OneLine(file))
    root = logging.getLogger()
    root.handlers = [full, short]
    root.setLevel(logging.INFO)
    # Each request is not worth a line.
    logging.getLogger("uvicorn.access").disabled = True
    logging.getLogger("uvicorn.error").setLevel(logging.WARNING)
    logging.getLogger("alembic").setLevel(logging.WARNING)
