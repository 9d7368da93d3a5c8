"""Entries of gates on their way to the processes, and read there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from hearthkeep.core.building import GateEntry, Signed


@dataclass(frozen=True, slots=True)
class GateLine:
    """A gate's entry as it is kept: when, and its plain values."""

    at: datetime
    values: dict[str, Any]


def signed_of(lines: Sequence[GateLine]) -> tuple[Signed, ...]:
    """Kept entries read."""
    return tuple(Signed(at=line.at, entry=GateEntry.model_validate(line.values)) for line in lines)
