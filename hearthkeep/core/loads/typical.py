"""The starter list: typical devices, none of a brand, each a guess until it is measured."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from importlib import resources

from hearthkeep.core.design import Load, Typical


@dataclass(frozen=True, kw_only=True, slots=True)
class TypicalLoad:
    """One device of the list."""

    #: The row as it would be added; its id stands in for a real one.
    load: Load
    #: Other words by which it may be sought.
    words: str
    #: What the figure depends on, or the usual range.
    note: str


@cache
def typical_loads() -> tuple[TypicalLoad, ...]:
    """All devices. Common practice, no source; values from memory."""
    text = resources.files(__package__).joinpath("typical_loads.json").read_text(encoding="utf-8")
    found = []
    for number, row in enumerate(json.loads(text)["rows"], start=1):
        fields = {key: value for key, value in row.items() if key not in ("words", "note")}
        load = Load.model_validate_json(json.dumps({**fields, "id": f"typical-{number}"}))
        found.append(
            TypicalLoad(load=load.model_copy(update={"known": Typical()}), words=row["words"], note=row["note"])
        )
    return tuple(found)
