"""The outage as it is told in the log: whether one is expected, is on or is over, since when, and what is foretold of its days."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum
from math import ceil

from hearthkeep.core.design import LONGEST_OUTAGE_H, Design, GridCharger, Outage, OutageDay, SkySource
from hearthkeep.core.logbook import (
    DecisionEntry,
    EventEntry,
    EventKind,
    ForecastDay,
    ForecastEntry,
    Quantity,
    ReadingEntry,
    WatchEntry,
    WatchWhat,
    Written,
)
from hearthkeep.core.sources import WeatherYear, day_of_year, skies_of_year, year_for

#: How far is looked ahead [h].
AHEAD_H = 168.0
#: For so long after its end an outage is still spoken of [h].
AFTER_H = 72.0
#: A warning whose moment passed so long ago without an outage is over [h].
WARNING_HOLDS_H = 24.0
#: Clocks of a phone and of the server may differ by so much.
SOON = timedelta(minutes=5)
#: An outline of an outage needs a day for each calendar day, at most so many.
MOST_DAYS = 31


class Phase(StrEnum):
    """Where things stand."""

    QUIET = "quiet"
    BEFORE = "before"
    ON = "on"
    AFTER = "after"


@dataclass(frozen=True, kw_only=True, slots=True)
class Live:
    """An outage as it is told in the log; moments are local standard time."""

    phase: Phase
    #: It began then, or is expected to; now where there is none.
    begun: datetime
    ended: datetime | None
    #: Help or the grid is expected then; by the plan's length where nothing was told.
    help: datetime
    help_is_told: bool
    #: What was foretold, by calendar day, the newest word of each.
    foretold: dict[date, ForecastDay]
    #: What people decided since it began, oldest first.
    decisions: tuple[tuple[datetime, DecisionEntry], ...]
    #: Fuel on hand, as it was counted [L].
    stocks_l: tuple[tuple[datetime, float], ...]
    #: Charge as somebody read and told it [part of full].
    charges_frac: tuple[tuple[datetime, float], ...]
    #: Days on which snow was cleared.
    swept: frozenset[date]


def live_of(design: Design, written: Sequence[Written], now: datetime) -> Live:
    """What the log says of an outage now; entries oldest first, at local standard time."""
    begun = ended = warned = expected = told = None
    is_told = False
    for line in written:
        entry = line.entry
        if not isinstance(entry, WatchEntry) or line.at > now + SOON:
            continue
        moment = line.at if entry.moment is None else entry.moment
        # What is said to begin later has not begun: it is expected.
        if entry.what is WatchWhat.WARNING or (entry.what is WatchWhat.BEGAN and moment > now + SOON):
            warned, expected = line.at, moment
        elif entry.what is WatchWhat.BEGAN:
            begun, ended, told, is_told = moment, None, None, False
        elif entry.what is WatchWhat.HELP:
            told, is_told = entry.moment, entry.moment is not None
        elif entry.what is WatchWhat.ENDED:
            ended = moment if begun is not None else None
            warned = expected = None
    phase, start = Phase.QUIET, now
    if begun is not None and ended is None:
        phase, start = Phase.ON, begun
    elif begun is not None and ended is not None and now - ended <= timedelta(hours=AFTER_H):
        phase, start = Phase.AFTER, begun
    # A newer warning is more than what is over.
    if expected is not None and phase is not Phase.ON and now <= expected + timedelta(hours=WARNING_HOLDS_H):
        phase, start = Phase.BEFORE, max(expected, now)
    planned = start + timedelta(hours=design.outage.duration_h)
    since = start if phase in (Phase.ON, Phase.AFTER) else (warned or now)
    return Live(
        phase=phase,
        begun=start,
        ended=ended if phase is Phase.AFTER else None,
        help=told if told is not None else planned,
        help_is_told=is_told,
        foretold=_foretold(written),
        decisions=tuple(
            (line.at, line.entry) for line in written if isinstance(line.entry, DecisionEntry) and line.at >= since
        ),
        stocks_l=tuple(
            (line.at, line.entry.stock_l)
            for line in written
            if isinstance(line.entry, WatchEntry) and line.entry.stock_l is not None and line.at >= since
        ),
        charges_frac=tuple(
            (line.at, line.entry.values[Quantity.CHARGE] / 100.0)
            for line in written
            if isinstance(line.entry, ReadingEntry) and Quantity.CHARGE in line.entry.values and line.at >= since
        ),
        swept=frozenset(
            line.at.date()
            for line in written
            if isinstance(line.entry, EventEntry) and line.entry.what is EventKind.SNOW_CLEARED and line.at >= since
        )
        | frozenset(
            line.at.date()
            for line in written
            if isinstance(line.entry, DecisionEntry) and line.entry.key == "sweep" and line.entry.is_done
        ),
    )


def _foretold(written: Sequence[Written]) -> dict[date, ForecastDay]:
    found: dict[date, ForecastDay] = {}
    for line in written:
        if isinstance(line.entry, ForecastEntry):
            for number, day in enumerate(line.entry.days):
                found[line.entry.first + timedelta(days=number)] = day
    return found


def live_design(design: Design, live: Live, now: datetime, year: WeatherYear | None = None) -> Design:
    """The design in the outage that is on: its own start, the days foretold, and as far ahead as is looked."""
    into_h = (now - live.begun).total_seconds() / 3600
    to_help_h = (live.help - live.begun).total_seconds() / 3600
    duration_h = min(float(ceil(max(into_h + AHEAD_H, to_help_h))), float(LONGEST_OUTAGE_H))
    count = min((live.begun + timedelta(hours=duration_h)).toordinal() - live.begun.toordinal() + 1, MOST_DAYS)
    planned = design.outage.days
    skies = skies_of_year(year_for(design.site, year)) if design.outage.sky_from is SkySource.YEAR else None
    days = []
    for number in range(count):
        day, on = planned[min(number, len(planned) - 1)], live.begun.date() + timedelta(days=number)
        sky = day.sky if skies is None else skies[day_of_year(on.month, on.day)]
        told = live.foretold.get(on, ForecastDay(sky=sky, air_temp_c=day.air_temp_c))
        days.append(OutageDay.model_validate({**day.model_dump(), "sky": told.sky, "air_temp_c": told.air_temp_c}))
    outage = Outage(
        start=live.begun,
        duration_h=duration_h,
        warning_h=design.outage.warning_h,
        days=tuple(days),
        sky_from=SkySource.BY_HAND,
        people=design.outage.people,
    )
    return design.model_copy(update={"outage": outage})


def starting_at(design: Design, charge_frac: float) -> Design:
    """The design with a bank that begins at a charge that was read: nothing is filled before it."""
    charger: GridCharger = design.charging.grid_charger.model_copy(update={"top_up_soc_frac": None})
    return design.model_copy(
        update={
            "bank": design.bank.model_copy(update={"start_soc_frac": charge_frac}),
            "charging": design.charging.model_copy(update={"grid_charger": charger}),
        }
    )
