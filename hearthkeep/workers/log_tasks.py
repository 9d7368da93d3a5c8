"""What the processes do for the Logbook: from readings to corrections, alarms, upkeep and replays."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any

import numpy as np

from hearthkeep.core.design import FIRST_YEAR, LAST_YEAR, Design
from hearthkeep.core.errors import InputError
from hearthkeep.core.logbook import (
    DOUBTED,
    Alarm,
    Calibration,
    CanShow,
    DueTask,
    Log,
    OutageEntry,
    Quantity,
    Replay,
    Trace,
    Written,
    alarms_of,
    calibrate,
    can_show,
    due_tasks,
    read_entry,
    replay,
)
from hearthkeep.exchange import ColumnUse, LogPreview, LogTaken, preview_log, take_log
from hearthkeep.store import NewSeries, Readings
from hearthkeep.workers.tasks import store_engine, stored_year_of
from hearthkeep.workers.writer import Writer

_CALIBRATION = Writer(Calibration)
_REPLAY = Writer(Replay)


@dataclass(frozen=True, kw_only=True, slots=True)
class LogOutlook:
    """What the log warns of, and what is due."""

    alarms: tuple[Alarm, ...]
    due: tuple[DueTask, ...]
    #: Within which hand readings lie here; one beyond is asked about once.
    can_show: tuple[CanShow, ...]


_OUTLOOK = Writer(LogOutlook)


@dataclass(frozen=True, slots=True)
class LogLine:
    """A kept entry: when, and its plain values."""

    at: datetime
    values: dict[str, Any]


def local_of(at: datetime, design: Design) -> datetime:
    """A moment in local standard time of the design's site."""
    return (at.astimezone(UTC) + timedelta(hours=design.site.utc_offset_h)).replace(tzinfo=None)


def written_of(design: Design, lines: Sequence[LogLine]) -> tuple[Written, ...]:
    """Kept entries read, at local standard time of the design's site, oldest first; what cannot be used is left out, and stands in
    the log with its reason."""
    found = [
        Written(at=local_of(line.at, design), entry=read_entry(line.values))
        for line in lines
        if not trouble_of(line.at, line.values)
    ]
    return tuple(sorted(found, key=lambda each: each.at))


def trouble_of(at: datetime, values: dict[str, Any]) -> str:
    """Why a kept entry cannot be used here; empty where it can. It may have been kept by an earlier release, or another one."""
    if not FIRST_YEAR <= at.year <= LAST_YEAR:
        return f"its moment lies outside the years {FIRST_YEAR} to {LAST_YEAR}"
    try:
        read_entry(values)
    except InputError as error:
        return "; ".join(str(problem) for problem in error.problems[:2])
    return ""


#: What alarms look at, and how far back.
ALARMED = frozenset(
    {Quantity.BANK_V, Quantity.HIGHEST_V, Quantity.BANK_A, Quantity.BANK_C, Quantity.CHARGE, Quantity.DAYS_SINCE_FULL}
)
ALARMED_DAYS = 120


def log_of(
    design: Design,
    installation_id: uuid.UUID,
    *,
    of: frozenset[Quantity] | None = None,
    days: int | None = None,
    from_moment: datetime | None = None,
) -> Log:
    """
    Readings of an installation that are believed, at local standard time of the design's site.

    :param of: these quantities only.
    :param days: so many days before the last reading of each only.
    :param from_moment: those from this moment on only, local standard time.
    """
    readings = Readings(store_engine())
    shift_s = design.site.utc_offset_h * 3_600.0
    earliest = None if from_moment is None else from_moment.replace(tzinfo=UTC) - timedelta(seconds=shift_s)
    traces = {}
    for kept in readings.series(installation_id):
        if (of is not None and Quantity(kept.quantity) not in of) or kept.part.endswith(DOUBTED):
            continue
        if earliest is not None and kept.last_at < earliest:
            continue
        since = earliest if days is None else kept.last_at - timedelta(days=days)
        at_us, values = readings.of(installation_id, kept.quantity, kept.part, since=since)
        traces[Quantity(kept.quantity), kept.part] = Trace(at_s=at_us / 1e6 + shift_s, values=values)
    return Log(traces=traces)


def corrections(design: Design, installation_id: uuid.UUID) -> bytes:
    """What the readings say of a design."""
    return _CALIBRATION.dump_json(calibrate(design, log_of(design, installation_id), stored_year_of(design)))


def outlook(
    design: Design, installation_id: uuid.UUID, lines: Sequence[LogLine], begun_at: datetime, now: datetime
) -> bytes:
    """Alarms and upkeep of an installation."""
    written, today = written_of(design, lines), local_of(now, design).date()
    log = log_of(design, installation_id, of=ALARMED, days=ALARMED_DAYS)
    found = LogOutlook(
        alarms=alarms_of(design, written, log, today=today),
        due=due_tasks(design, written, begun_on=local_of(begun_at, design).date(), today=today),
        can_show=can_show(design),
    )
    return _OUTLOOK.dump_json(found)


def due_of(design: Design, lines: Sequence[LogLine], begun_on: date, today: date) -> tuple[DueTask, ...]:
    """The upkeep calendar alone."""
    return due_tasks(design, written_of(design, lines), begun_on=begun_on, today=today)


def replayed(design: Design, installation_id: uuid.UUID, lived: OutageEntry) -> bytes:
    """An outage lived through, beside the model."""
    return _REPLAY.dump_json(replay(design, lived, log_of(design, installation_id), stored_year_of(design)))


# --- logs in


def log_previewed(content: bytes, remembered: dict[str, list[dict[str, Any]]]) -> LogPreview:
    """The columns of a log; `remembered` holds uses by the mark of a header, as they are kept."""
    known = {header: [ColumnUse.model_validate(use) for use in uses] for header, uses in remembered.items()}
    return preview_log(content, known)


def log_taken(content: bytes, uses: Sequence[ColumnUse], utc_offset_h: float, day_first: bool) -> LogTaken:
    """A log read by the uses of its columns."""
    return take_log(content, uses, utc_offset_h=utc_offset_h, day_first=day_first)


def series_of(taken: LogTaken) -> list[NewSeries]:
    """Readings of a log as the store takes them."""
    return [
        NewSeries(quantity=each.quantity.value, part=each.part, at_us=each.at_us, values=each.values)
        for each in taken.series
        if each.at_us.size
    ]


def hand_series(values: dict[str, float], part: str, at: datetime) -> list[NewSeries]:
    """Readings written by hand as the store takes them."""
    at_us = np.array([round(at.timestamp() * 1e6)], dtype=np.int64)
    return [NewSeries(quantity=key, part=part, at_us=at_us, values=np.array([value])) for key, value in values.items()]
