"""Single fields of a design to be set, named by their path: what a *Try* and a correction are made of."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from hearthkeep.core.design.document import Design
from hearthkeep.core.design.reading import read_design


@dataclass(frozen=True, kw_only=True, slots=True)
class Change:
    """One field of the design to be set."""

    #: Dotted path into the Design document, for example ``bank.parallel``; a number one beyond a list's end adds to it.
    path: str
    value: float | int | str | bool | dict[str, str | float] | tuple[tuple[int, int], ...] | None


def with_changes(design: Design, changes: Sequence[Change]) -> Design:
    """A design with some of its fields set, read anew: what is out of range raises InputError."""
    values = design.model_dump(mode="json")
    for change in changes:
        node: Any = values
        *way, last = change.path.split(".")
        for part in way:
            node = node[int(part)] if part.isdigit() else node[part]
        if last.isdigit() and int(last) == len(node):
            node.append(change.value)
        else:
            node[int(last) if last.isdigit() else last] = change.value
    return read_design(values)
