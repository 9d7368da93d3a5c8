"""Upkeep and tests as an iCalendar, for any calendar program (RFC 5545)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event

from hearthkeep.core.upkeep import Upkeep

#: In years of 365 days a task of a year would wander through the months.
_A_YEAR = 365


def write_calendar(
    name: str, tasks: Sequence[Upkeep], *, key: str, begins: date, firsts: Mapping[str, date] | None = None
) -> bytes:
    """
    One event a task, repeated by its interval, from `begins` on, spread so that not all fall on one day.

    `firsts` are the days on which tasks are next due, by their keys, where that is known. `key` makes the events' identities: the same key writes over what a calendar program has of them already.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Hearth Keep//Upkeep//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Upkeep: {name}")
    for at, task in enumerate(tasks):
        event = Event()
        event.add("uid", f"{key}-{task.key}@hearth-keep")
        event.add("dtstamp", datetime(begins.year, begins.month, begins.day, tzinfo=UTC))
        first = (firsts or {}).get(task.key) or first_day(task, begins, at)
        event.add("dtstart", first)
        event.add("dtend", first + timedelta(days=1))
        event.add("summary", task.title)
        event.add("description", f"{task.do}\n\n{task.basis}")
        event.add("categories", ["Hearth Keep"])
        event.add("transp", "TRANSPARENT")
        event.add(
            "rrule",
            {"freq": "yearly"} if task.every_days == _A_YEAR else {"freq": "daily", "interval": task.every_days},
        )
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def first_day(task: Upkeep, begins: date, at: int) -> date:
    """The day a task first falls due: in its month, or within its first interval, the tasks spread over the days."""
    if task.month is None:
        return begins + timedelta(days=min(task.every_days, 7 + 3 * at))
    day = date(begins.year, task.month, 1 + at % 28)
    return day if day > begins else date(begins.year + 1, task.month, 1 + at % 28)
