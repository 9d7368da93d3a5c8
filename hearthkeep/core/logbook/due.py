"""The upkeep calendar of an installation: what was done when, what is due, what is overdue."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

from hearthkeep.core.building import GateEntry, Signing
from hearthkeep.core.design import Design
from hearthkeep.core.logbook.entries import CapacityEntry, Entry, EventEntry, EventKind
from hearthkeep.core.upkeep import upkeep_of

#: Which tasks an event settles besides one that names its task.
SETTLES: dict[EventKind, tuple[str, ...]] = {
    EventKind.WATERED: ("water",),
    EventKind.CLEANED: ("panels",),
    EventKind.FAN_CHECK: ("air", "vent"),
    EventKind.SNOW_CLEARED: ("snow",),
    EventKind.EQUALISED: ("equalise",),
    EventKind.FUEL_TURNED_OVER: ("fuel",),
}
#: A task counts as soon due so many days before.
SOON_DAYS = 14


class DueState(StrEnum):
    """How a task stands."""

    OVERDUE = "overdue"
    SOON = "soon"
    LATER = "later"


@dataclass(frozen=True, kw_only=True, slots=True)
class DueTask:
    """One task of upkeep with its last time and its next."""

    key: str
    title: str
    do: str
    basis: str
    every_days: int
    #: None while it was never done.
    last_on: date | None
    due_on: date
    #: From today; negative once it is overdue.
    days_left: int
    state: DueState


@dataclass(frozen=True, kw_only=True, slots=True)
class Written:
    """An entry with the moment it tells of, local standard time of the site."""

    at: datetime
    entry: Entry


def due_tasks(design: Design, written: Sequence[Written], *, begun_on: date, today: date) -> tuple[DueTask, ...]:
    """Every task of a design with when it is due, the most pressing first; before it was ever done it counts from the beginning."""
    last: dict[str, date] = {}
    for one in written:
        for key in _settled(one.entry):
            last[key] = max(last.get(key, date.min), one.at.date())
    found = []
    for task in upkeep_of(design):
        done = last.get(task.key)
        due_on = (done or begun_on) + timedelta(days=task.every_days)
        if task.month is not None and task.every_days >= 180:
            due_on = _in_month(due_on, task.month, task.every_days)
        left = (due_on - today).days
        state = DueState.OVERDUE if left < 0 else DueState.SOON if left <= SOON_DAYS else DueState.LATER
        found.append(
            DueTask(
                key=task.key,
                title=task.title,
                do=task.do,
                basis=task.basis,
                every_days=task.every_days,
                last_on=done,
                due_on=due_on,
                days_left=left,
                state=state,
            )
        )
    return tuple(sorted(found, key=lambda each: (each.due_on, each.key)))


def _settled(entry: Entry) -> tuple[str, ...]:
    if isinstance(entry, CapacityEntry):
        return ("capacity",)
    if isinstance(entry, GateEntry):
        # What commissioning has shown need not be shown again the day after.
        shown = {"air": ("vent",), "labels": ("labels",), "generator": ("generator_run",), "mount": ("joints",)}
        return shown.get(entry.gate, ()) if entry.signing is Signing.PASSED else ()
    if not isinstance(entry, EventEntry):
        return ()
    return (entry.part,) if entry.what is EventKind.UPKEEP else SETTLES.get(entry.what, ())


def _in_month(due_on: date, month: int, every_days: int) -> date:
    """The last day of the month that is best for a task, at or before it would be due; half-yearly ones keep their rhythm."""
    if every_days < 360:
        return due_on
    year = due_on.year if due_on.month >= month else due_on.year - 1
    after = date(year + (month == 12), month % 12 + 1, 1)
    best = after - timedelta(days=1)
    # Never sooner than half its interval after it was last done.
    return best if (due_on - best).days <= every_days // 2 else due_on
