"""Bring a stored document of an older schema version up to the current one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from hearthkeep.core.design import SCHEMA_VERSION, Design, read_design

#: From version n to n + 1. Version 1 is the first, so nothing stands here yet.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def document_to_current(values: dict[str, Any]) -> Design:
    """Migrate step by step, then validate."""
    version = int(values.get("schema_version", 1))
    while version < SCHEMA_VERSION:
        values = STEPS[version](values)
        version += 1
    return read_design(values)
