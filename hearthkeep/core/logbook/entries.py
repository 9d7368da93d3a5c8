"""What is written into the log of an installation: one shape for each kind of entry."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from hearthkeep.core.building import CapacityRun, Drawdown, GateEntry, LoadStep, Moment, Shown, WattPair
from hearthkeep.core.design import LONGEST_NAME, DesignPart
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import FieldProblem, InputError

MOST_INSTRUMENTS = 24
MOST_TEST_STEPS = 24
EntryNote = Annotated[str, Field(max_length=2_000)]
InstrumentName = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]


class CrossEntry(DesignPart):
    """One quantity read on several instruments within a minute."""

    kind: Literal["cross"] = "cross"
    shown: Shown
    #: By instrument [V, A or %].
    values: Annotated[
        dict[InstrumentName, Annotated[float, Field(strict=True, ge=-5_000, le=5_000)]],
        Field(min_length=2, max_length=MOST_INSTRUMENTS),
    ]
    note: EntryNote = ""


class WattsEntry(DesignPart):
    """Battery monitor and inverter read within a minute."""

    kind: Literal["watts"] = "watts"
    monitor_w: Annotated[float, Field(strict=True, ge=-500_000, le=500_000)]
    output_w: Annotated[float, Field(strict=True, ge=0, le=500_000)]
    inverter_on: bool = True
    direct_w: Annotated[float, Field(strict=True, ge=0, le=500_000)] = 0.0
    note: EntryNote = ""

    @property
    def pair(self) -> WattPair:
        """As the core takes it."""
        return WattPair(
            monitor_w=self.monitor_w, output_w=self.output_w, inverter_on=self.inverter_on, direct_w=self.direct_w
        )


class LoadTestEntry(DesignPart):
    """A load test in steps."""

    kind: Literal["load_test"] = "load_test"
    moment: Moment
    steps: Annotated[tuple[LoadStep, ...], Field(min_length=1, max_length=MOST_TEST_STEPS)]
    note: EntryNote = ""


class DrawdownEntry(DesignPart):
    """A drawdown test."""

    kind: Literal["drawdown"] = "drawdown"
    test: Drawdown
    note: EntryNote = ""


class CapacityEntry(DesignPart):
    """A capacity test."""

    kind: Literal["capacity"] = "capacity"
    test: CapacityRun
    note: EntryNote = ""


Entry = GateEntry | CrossEntry | WattsEntry | LoadTestEntry | DrawdownEntry | CapacityEntry
#: Each kind by its name.
KINDS: dict[str, type[Entry]] = {
    model.model_fields["kind"].default: model
    for model in (GateEntry, CrossEntry, WattsEntry, LoadTestEntry, DrawdownEntry, CapacityEntry)
}


def read_entry(values: dict[str, Any]) -> Entry:
    """Read an entry from plain values; raises InputError that names field, value and range."""
    kind = values.get("kind")
    model = KINDS.get(kind) if isinstance(kind, str) else None
    if model is None:
        raise InputError(
            (FieldProblem(field="kind", value=repr(kind)[:80], accepted=f"must be one of {', '.join(KINDS)}"),)
        )
    try:
        return model.model_validate(values)
    except ValidationError as error:
        raise InputError(field_problems(error, model=model)) from None
