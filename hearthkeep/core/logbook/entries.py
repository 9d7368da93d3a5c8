"""What is written into the log of an installation: one shape for each kind of entry."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Any, Literal, Self

from pydantic import Field, StringConstraints, ValidationError, field_validator, model_validator

from hearthkeep.core.building import CapacityRun, Drawdown, GateEntry, LoadStep, Moment, Shown, WattPair
from hearthkeep.core.design import (
    LONGEST_OUTAGE_H,
    MAX_LOADS,
    MOST_STOCK_L,
    ONE_LINE,
    CalendarDay,
    Celsius,
    DesignPart,
    Identifier,
    Line,
    LocalMoment,
    Name,
    Note,
    Sky,
    local_moment,
)
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.logbook.quantities import QUANTITIES, Quantity

MOST_INSTRUMENTS = 24
MOST_TEST_STEPS = 24
#: What was advised, in a sentence or two.
Said = Annotated[str, StringConstraints(max_length=400, pattern=ONE_LINE)]
#: Days that a forecast may hold.
MOST_FORETOLD = 14


class CrossEntry(DesignPart):
    """One quantity read on several instruments within a minute."""

    kind: Literal["cross"] = "cross"
    shown: Shown
    #: By instrument [V, A or %].
    values: Annotated[
        dict[Name, Annotated[float, Field(strict=True, ge=-5_000, le=5_000)]],
        Field(min_length=2, max_length=MOST_INSTRUMENTS),
    ]
    note: Note = ""


class WattsEntry(DesignPart):
    """Battery monitor and inverter read within a minute."""

    kind: Literal["watts"] = "watts"
    monitor_w: Annotated[float, Field(strict=True, ge=-500_000, le=500_000)]
    output_w: Annotated[float, Field(strict=True, ge=0, le=500_000)]
    inverter_on: bool = True
    direct_w: Annotated[float, Field(strict=True, ge=0, le=500_000)] = 0.0
    note: Note = ""

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
    note: Note = ""


class DrawdownEntry(DesignPart):
    """A drawdown test."""

    kind: Literal["drawdown"] = "drawdown"
    test: Drawdown
    note: Note = ""


class CapacityEntry(DesignPart):
    """A capacity test."""

    kind: Literal["capacity"] = "capacity"
    test: CapacityRun
    note: Note = ""


class ReadingEntry(DesignPart):
    """Readings written down by hand, of one moment."""

    kind: Literal["reading"] = "reading"
    #: By quantity, in the units they are kept in.
    values: Annotated[
        dict[Quantity, Annotated[float, Field(strict=True, allow_inf_nan=False)]], Field(min_length=1, max_length=24)
    ]
    #: Instrument, or group of loads; empty for the installation's own.
    part: Line = ""
    note: Note = ""

    @model_validator(mode="after")
    def _values_are_readings(self) -> Self:
        for quantity, value in self.values.items():
            info = QUANTITIES[quantity]
            if not info.low <= value <= info.high:
                raise ValueError(
                    f"values.{quantity.value} must be {info.low:,g} to {info.high:,g} {info.unit} (got {value:,g})"
                )
        return self


class OutageEntry(DesignPart):
    """An outage lived through."""

    kind: Literal["outage"] = "outage"
    start: LocalMoment
    hours_h: Annotated[float, Field(strict=True, gt=0, le=LONGEST_OUTAGE_H)]
    #: The house went dark, after so many hours; empty where it was carried.
    dark_after_h: Annotated[float, Field(strict=True, ge=0, le=LONGEST_OUTAGE_H)] | None = None
    note: Note = ""

    @field_validator("start")
    @classmethod
    def _start_is_local(cls, start: datetime) -> datetime:
        return local_moment(start)


class EventKind(StrEnum):
    """What is done or happens besides readings."""

    WATERED = "watered"
    CLEANED = "cleaned"
    FAN_CHECK = "fan_check"
    SNOW_CLEARED = "snow_cleared"
    EQUALISED = "equalised"
    FAILURE = "failure"
    REPLACED = "replaced"
    FUEL_BOUGHT = "fuel_bought"
    FUEL_TURNED_OVER = "fuel_turned_over"
    #: A task of the upkeep calendar, named by its key.
    UPKEEP = "upkeep"
    NOTE = "note"


class EventEntry(DesignPart):
    """Something done, or something that happened."""

    kind: Literal["event"] = "event"
    what: EventKind
    #: As it should be: the fan turns, the cells are level.
    is_well: bool = True
    #: Litres of water or fuel, hours: what the kind counts.
    amount: Annotated[float, Field(strict=True, ge=0, le=1_000_000)] | None = None
    #: Which part; of a task its key.
    part: Line = ""
    note: Note = ""


class WatchWhat(StrEnum):
    """A fact of an outage as it goes on."""

    #: It is expected at the moment given.
    WARNING = "warning"
    BEGAN = "began"
    #: Help, or the grid, is expected at the moment given; none where nobody knows.
    HELP = "help"
    #: Litres of fuel on hand, counted.
    FUEL = "fuel"
    ENDED = "ended"


class WatchEntry(DesignPart):
    """A fact of an outage as it goes on."""

    kind: Literal["watch"] = "watch"
    what: WatchWhat
    #: Local standard time; none for the moment of the entry.
    moment: LocalMoment | None = None
    stock_l: Annotated[float, Field(strict=True, ge=0, le=MOST_STOCK_L)] | None = None
    note: Note = ""

    @field_validator("moment")
    @classmethod
    def _moment_is_local(cls, moment: datetime | None) -> datetime | None:
        return None if moment is None else local_moment(moment)

    @model_validator(mode="after")
    def _says_what_it_tells(self) -> Self:
        if self.what is WatchWhat.FUEL and self.stock_l is None:
            raise ValueError(f"stock_l must be 0 to {MOST_STOCK_L:,.0f} L for fuel on hand (got nothing)")
        if self.what is WatchWhat.WARNING and self.moment is None:
            raise ValueError("moment must say when the outage is expected (got nothing)")
        return self


class ForecastDay(DesignPart):
    """What is foretold of one calendar day."""

    sky: Sky
    air_temp_c: Celsius


class ForecastEntry(DesignPart):
    """The forecast of some days, as it was read."""

    kind: Literal["forecast"] = "forecast"
    first: CalendarDay
    days: Annotated[tuple[ForecastDay, ...], Field(min_length=1, max_length=MOST_FORETOLD)]
    note: Note = ""


class DecisionEntry(DesignPart):
    """What people did, or would not do, in an outage; by themselves or as they were advised."""

    kind: Literal["decision"] = "decision"
    #: What was advised; ``own`` for what nobody advised.
    key: Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9_:-]+$")]
    said: Said = ""
    is_done: bool = True
    #: Loads that are left off from here on, and that are on again, by id.
    off: Annotated[tuple[Identifier, ...], Field(max_length=MAX_LOADS)] = ()
    on: Annotated[tuple[Identifier, ...], Field(max_length=MAX_LOADS)] = ()
    #: The generator was started or stopped, and the moment until which it is to run.
    generator: Literal["on", "off"] | None = None
    until: LocalMoment | None = None
    #: Hours that it was said to gain [h].
    gains_h: Annotated[float, Field(strict=True, ge=-1_000, le=1_000)] | None = None
    note: Note = ""

    @field_validator("until")
    @classmethod
    def _until_is_local(cls, until: datetime | None) -> datetime | None:
        return None if until is None else local_moment(until)


Entry = (
    GateEntry
    | CrossEntry
    | WattsEntry
    | LoadTestEntry
    | DrawdownEntry
    | CapacityEntry
    | ReadingEntry
    | OutageEntry
    | EventEntry
    | WatchEntry
    | ForecastEntry
    | DecisionEntry
)
#: Each kind by its name.
KINDS: dict[str, type[Entry]] = {
    model.model_fields["kind"].default: model
    for model in (
        GateEntry,
        CrossEntry,
        WattsEntry,
        LoadTestEntry,
        DrawdownEntry,
        CapacityEntry,
        ReadingEntry,
        OutageEntry,
        EventEntry,
        WatchEntry,
        ForecastEntry,
        DecisionEntry,
    )
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
