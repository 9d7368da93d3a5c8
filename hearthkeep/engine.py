"""Which version of the rules and computations this is: what an earlier one found may differ from what this one finds."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

import hearthkeep

CORE = Path(__file__).resolve().parent / "core"


@cache
def engine_version() -> str:
    """The application's version and a digest of the core's sources and tables, at most 40 characters."""
    digest = hashlib.sha256()
    for path in sorted(CORE.rglob("*")):
        if path.is_file() and path.suffix in (".py", ".csv", ".json", ".toml"):
            digest.update(str(path.relative_to(CORE)).encode() + b"\0" + path.read_bytes())
    return f"{hearthkeep.__version__}+{digest.hexdigest()[:16]}"
