"""Storms to start from: invented outages that put a whole storm into the design, to be edited there."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel, ConfigDict

from hearthkeep.core.design import OutageDay, Sky


class UsualStorm(BaseModel):
    """A storm to start from; its fields are those of the design's outage."""

    model_config = ConfigDict(frozen=True)

    key: str
    title: str
    #: What it stands for, in one sentence.
    meaning: str
    #: Local standard time.
    start: datetime
    duration_h: float
    warning_h: float
    #: One for each calendar day from the start's.
    days: tuple[OutageDay, ...]
    #: Hours from the start in which the grid is back.
    grid_back: tuple[tuple[int, int], ...] = ()


def _day(sky: Sky, air_temp_c: float, wind_m_s: float | None = None, *, away: bool = False) -> OutageDay:
    return OutageDay(sky=sky, air_temp_c=air_temp_c, wind_m_s=wind_m_s, away=away)


_WINTER, _AUTUMN = 1, 9
#: The month is that of the north; figures are our assumptions, of no place and no year.
_STORMS = (
    UsualStorm(
        key="night",
        title="One night",
        meaning="A line down on a winter evening, mended by morning: 14 h without sun.",
        start=datetime(1, _WINTER, 15, 17),
        duration_h=14.0,
        warning_h=0.0,
        days=(_day(Sky.OVERCAST, 0.0), _day(Sky.BROKEN, 0.0)),
    ),
    UsualStorm(
        key="day",
        title="One day",
        meaning="A dull winter day and its night, from breakfast to breakfast, without warning.",
        start=datetime(1, _WINTER, 15, 7),
        duration_h=24.0,
        warning_h=0.0,
        days=(_day(Sky.OVERCAST, 1.0), _day(Sky.BROKEN, 0.0)),
    ),
    UsualStorm(
        key="ice",
        title="Ice storm, 72 h",
        meaning="Ice on lines and panels: three dark days in frost, half a day of warning.",
        start=datetime(1, _WINTER, 12, 17),
        duration_h=72.0,
        warning_h=12.0,
        days=(
            _day(Sky.COVERED, -2.0),
            _day(Sky.COVERED, -6.0),
            _day(Sky.COVERED, -8.0),
            _day(Sky.OVERCAST, -5.0),
        ),
    ),
    UsualStorm(
        key="hurricane",
        title="Hurricane week",
        meaning="Two dark days of wind and rain, then heat under mostly clear skies; two days of warning.",
        start=datetime(1, _AUTUMN, 10, 14),
        duration_h=168.0,
        warning_h=48.0,
        days=(
            _day(Sky.OVERCAST, 25.0, 20.0),
            _day(Sky.OVERCAST, 24.0, 16.0),
            _day(Sky.BROKEN, 27.0, 8.0),
            _day(Sky.CLEAR, 30.0, 4.0),
            _day(Sky.CLEAR, 31.0, 3.0),
            _day(Sky.BROKEN, 31.0, 3.0),
            _day(Sky.CLEAR, 30.0, 4.0),
            _day(Sky.BROKEN, 29.0, 4.0),
        ),
    ),
    UsualStorm(
        key="rolling",
        title="Rolling cuts, 2 h in 6",
        meaning="Too little supply in a cold week: each quarter of the day two hours without, four with the grid.",
        start=datetime(1, _WINTER, 19, 7),
        duration_h=168.0,
        warning_h=24.0,
        days=tuple(
            _day(sky, air_temp_c)
            for sky, air_temp_c in (
                (Sky.BROKEN, -4.0),
                (Sky.OVERCAST, -3.0),
                (Sky.OVERCAST, -2.0),
                (Sky.COVERED, -3.0),
                (Sky.OVERCAST, -4.0),
                (Sky.BROKEN, -6.0),
                (Sky.CLEAR, -7.0),
                (Sky.BROKEN, -5.0),
            )
        ),
        grid_back=tuple((hour, hour + 4) for hour in range(2, 168, 6)),
    ),
    UsualStorm(
        key="away",
        title="Ten days away",
        meaning="The house is empty and the grid fails unnoticed in a snowy January: what stays on looks after itself.",
        start=datetime(1, _WINTER, 18, 10),
        duration_h=240.0,
        warning_h=0.0,
        days=tuple(
            _day(sky, air_temp_c, away=True)
            for sky, air_temp_c in (
                (Sky.OVERCAST, 0.0),
                (Sky.COVERED, -3.0),
                (Sky.COVERED, -5.0),
                (Sky.OVERCAST, -4.0),
                (Sky.BROKEN, -6.0),
                (Sky.OVERCAST, -2.0),
                (Sky.OVERCAST, 1.0),
                (Sky.BROKEN, 0.0),
                (Sky.CLEAR, -5.0),
                (Sky.BROKEN, -3.0),
                (Sky.OVERCAST, 0.0),
            )
        ),
    ),
)


def usual_storms(latitude_deg: float, year: int) -> tuple[UsualStorm, ...]:
    """
    The storms to start from, in that year; south of the equator half a year later in the calendar, so that winter stays
    winter.

    :param latitude_deg: of the site, north positive [°].
    """
    by_months = 6 if latitude_deg < 0 else 0
    return tuple(
        storm.model_copy(
            update={"start": storm.start.replace(year=year, month=(storm.start.month + by_months - 1) % 12 + 1)}
        )
        for storm in _STORMS
    )
