"""Values to JSON, each kind's writer built when it is first asked: most processes write few of the kinds they know."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from pydantic import TypeAdapter

_every: list[Writer] = []


class Writer:
    """Writes values of one type as JSON."""

    def __init__(self, kind: Any) -> None:
        self._kind = kind
        _every.append(self)

    @cached_property
    def adapter(self) -> TypeAdapter[Any]:
        """What checks and writes values of the type."""
        return TypeAdapter(self._kind)

    def dump_json(self, value: object) -> bytes:
        """The value as JSON text; it is not checked again."""
        return self.adapter.dump_json(value)


def build_all() -> None:
    """Build every writer now: in a process that others are forked from."""
    for writer in _every:
        _ = writer.adapter
