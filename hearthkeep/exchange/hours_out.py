"""The outage step by step and the year hour by hour, as tables."""

from __future__ import annotations

from datetime import datetime, timedelta

from hearthkeep.core.outage import OutageReport
from hearthkeep.core.yearly import YearHours
from hearthkeep.exchange.tables import Cell


def outage_rows(outage: OutageReport) -> list[list[Cell]]:
    """A row for each step: its start in local standard time, and what held in it."""
    series, start = outage.series, datetime.fromisoformat(outage.start)
    header: list[Cell] = [
        "Local standard time", "Hours from the start", "In the bank at the start Wh", "In the bank at the end Wh", "Sun offered W",
        "Generator W", "Other sources W", "Served W", "Not served W", "Spilled W",
    ]  # fmt: skip
    rows = [header]
    for at in range(len(series.sun_w)):
        moment = start + timedelta(seconds=round(3600 * series.time_h[at]))
        rows.append(
            [
                moment.isoformat(timespec="minutes"), round(series.time_h[at], 6), series.stored_wh[at], series.stored_wh[at + 1],
                series.sun_w[at], series.generator_w[at], series.other_w[at], series.served_w[at], series.unserved_w[at],
                series.spilled_w[at],
            ]
        )  # fmt: skip
    return rows


def year_rows(hours: YearHours) -> list[list[Cell]]:
    """A row for each of the 8,760 hours."""
    header: list[Cell] = [
        "Hour of the year", "Local standard time", "Air °C", "Sun on the level W/m2", "Sun offered W", "Sun through the controllers W",
        "In the bank at the start Wh", "Served W", "Life or Keep dark h", "Spilled W",
    ]  # fmt: skip
    rows = [header]
    first = datetime(2001, 1, 1)
    for at in range(len(hours.offered_w)):
        rows.append(
            [
                float(at), f"{first + timedelta(hours=at):%m-%d %H:%M}", round(float(hours.air_c[at]), 2),
                round(float(hours.level_w_m2[at]), 1), round(float(hours.offered_w[at]), 1), round(float(hours.given_w[at]), 1),
                round(float(hours.stored_wh[at]), 1), round(float(hours.served_w[at]), 1), round(float(hours.dark_h[at]), 4),
                round(float(hours.spilled_w[at]), 1),
            ]
        )  # fmt: skip
    return rows
