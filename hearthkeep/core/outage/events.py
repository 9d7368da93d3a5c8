"""What happened in a run, by name: the kinds of event and their causes."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.inverter import Overload
from hearthkeep.core.loads import TIERS
from hearthkeep.core.outage.kernel import Run, values


class EventKind(StrEnum):
    """What happened at a moment of the outage."""

    DROPPED = "dropped"
    RETURNED = "returned"
    OVERLOADED = "overloaded"
    FITS_AGAIN = "fits_again"
    CUT_OFF = "cut_off"
    FULL = "full"
    DARK = "dark"
    BACK_ON = "back_on"
    GENERATOR_ON = "generator_on"
    GENERATOR_OFF = "generator_off"
    INVERTER_BACK = "inverter_back"
    ARRAY_CUT = "array_cut"
    ARRAY_BACK = "array_back"
    #: The generator's stock is full again.
    FUEL_FETCHED = "fuel_fetched"
    #: The house was switched over to the backup supply.
    SWITCHED_OVER = "switched_over"


EVENT_KINDS = {
    values.DROPPED: EventKind.DROPPED,
    values.RETURNED: EventKind.RETURNED,
    values.OVERLOADED: EventKind.OVERLOADED,
    values.FITS_AGAIN: EventKind.FITS_AGAIN,
    values.CUT_OFF: EventKind.CUT_OFF,
    values.FULL: EventKind.FULL,
    values.DARK: EventKind.DARK,
    values.BACK_ON: EventKind.BACK_ON,
    values.GENERATOR_ON: EventKind.GENERATOR_ON,
    values.GENERATOR_OFF: EventKind.GENERATOR_OFF,
    values.INVERTER_BACK: EventKind.INVERTER_BACK,
    values.ARRAY_CUT: EventKind.ARRAY_CUT,
    values.ARRAY_BACK: EventKind.ARRAY_BACK,
    values.FUEL_FETCHED: EventKind.FUEL_FETCHED,
}
#: Causes by number: those of an overload, and why the generator stopped.
CAUSES = {
    **{overload.value: overload.name.lower() for overload in Overload},
    values.STOP_FULL: "charged",
    values.STOP_QUIET: "quiet_hours",
    values.STOP_EMPTY: "out_of_fuel",
    values.STOP_TANK: "tank_empty",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Event:
    """One event of the outage."""

    #: Hours from the start of the outage [h].
    time_h: float
    kind: EventKind
    tier: str | None
    #: For an overload: rating, surge, bank_current or switched_off; for a stop of the generator: charged, quiet_hours,
    #: grid_back, nobody_there, out_of_fuel or tank_empty.
    cause: str | None


def out_of_fuel_h(run: Run) -> float | None:
    """When the fuel on hand first ran dry; none where it never did [h]."""
    return moment_h(run.cause_h[values.STOP_EMPTY])


def moment_h(value: float) -> float | None:
    """A moment of the run, which writes -1 for never [h]."""
    return None if value < 0 else float(value)


def events_of(run: Run) -> tuple[Event, ...]:
    """The run's events with their names."""
    return tuple(
        Event(
            time_h=float(time_h),
            kind=EVENT_KINDS[int(kind)],
            tier=TIERS[int(tier)].value if tier >= 0 else None,
            cause=CAUSES[int(cause)] if cause > 0 else None,
        )
        for time_h, kind, tier, cause in run.events[: run.event_count]
    )
