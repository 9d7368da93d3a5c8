"""Entries of gates on their way to the processes, and read there."""

from __future__ import annotations

import contextlib
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError

from hearthkeep.core.building import GateEntry, Signed


@dataclass(frozen=True, slots=True)
class GateLine:
    """A gate's entry as it is kept: when, and its plain values."""

    at: datetime
    values: dict[str, Any]


def signed_of(lines: Sequence[GateLine]) -> tuple[Signed, ...]:
    """Kept entries read; what cannot be is left out, and stands in the log with its reason."""
    found = []
    for line in lines:
        with contextlib.suppress(ValidationError):
            found.append(Signed(at=line.at, entry=GateEntry.model_validate(line.values)))
    return tuple(found)
