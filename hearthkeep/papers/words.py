"""Numbers, moments and lengths as they are printed; the pages on the screen write theirs by the same rules."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date, datetime, timedelta

from hearthkeep.core.design import Design
from hearthkeep.core.practice import degrees, volume_text
from hearthkeep.core.wiring import length_words
from hearthkeep.core.words import counted, hours, percent

_WEEKDAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
#: A number and its unit stay on one line.
_BOUND = "\u00a0"


def number(value: float | None, digits: int = 0) -> str:
    """A number with so many decimals at the most, thousands grouped; a dash for none.

    >>> number(12345.6), number(0.25, 2), number(3.0, 2), number(None)
    ('12,346', '0.25', '3', '–')
    """
    if value is None:
        return "–"
    text = f"{value + 0.0:,.{digits}f}"
    text = text.rstrip("0").rstrip(".") if digits else text
    return "0" if text in ("-0", "") else text


def worked(value: float) -> str:
    """A number of a working: as many decimals as its size makes worth reading.

    >>> worked(1234.5), worked(12.345), worked(0.01234), worked(0.0)
    ('1,234', '12.35', '0.0123', '0')
    """
    size = abs(value)
    # What is left over of sums that cancel out is nothing.
    if size < 1e-9:
        return "0"
    if size < 0.0001:
        return f"{value:.2e}"
    return number(value, 0 if size >= 1000 else 1 if size >= 100 else 2 if size >= 0.1 else 4)


def kilowatt_hours(energy_wh: float) -> str:
    """Energy: 10.2 kWh, or 430 Wh below one kilowatt-hour.

    >>> kilowatt_hours(10240.0), kilowatt_hours(430.2)
    ('10.2\\xa0kWh', '430\\xa0Wh')
    """
    if abs(energy_wh) < 999.5:
        return f"{number(energy_wh)}{_BOUND}Wh"
    return f"{energy_wh / 1000:,.1f}{_BOUND}kWh"


def quantity(value: float | None, unit: str, digits: int = 0) -> str:
    """A number with its unit, which does not part from it; a dash for none.

    >>> quantity(2362.5, "W"), quantity(None, "W")
    ('2,362\\xa0W', '–')
    """
    return "–" if value is None else f"{number(value, digits)}{_BOUND}{unit}".rstrip(_BOUND)


def valued(value: float, unit: str) -> str:
    """A number of a working with its unit, which does not part from it.

    >>> valued(2362.5, "W"), valued(18, ":00"), valued(0.93, "")
    ('2,362\\xa0W', '18:00', '0.93')
    """
    return f"{worked(value)}{'' if unit.startswith(':') or not unit else _BOUND}{unit}"


def day_and_time(start: datetime, offset_h: float) -> str:
    """A moment of the outage.

    >>> day_and_time(datetime(2026, 1, 12, 17), 28.5)
    'Tue 13 Jan 21:30'
    """
    at = start + timedelta(minutes=round(offset_h * 60))
    return f"{calendar_day(at)} {at:%H:%M}"


def calendar_day(day: date) -> str:
    """A day.

    >>> calendar_day(date(2026, 1, 12))
    'Mon 12 Jan'
    """
    return f"{_WEEKDAYS[day.weekday()]} {day.day} {_MONTHS[day.month - 1]}"


def long_date(day: date) -> str:
    """A date that every country reads alike.

    >>> long_date(date(2026, 1, 12))
    '12 Jan 2026'
    """
    return f"{day.day} {_MONTHS[day.month - 1]} {day.year}"


def month_name(number_: int) -> str:
    """A month, 1 to 12.

    >>> month_name(1)
    'Jan'
    """
    return _MONTHS[number_ - 1]


def hour_spans(spans: tuple[tuple[int, int], ...]) -> str:
    """Hours of the day.

    >>> hour_spans(((0, 24),)), hour_spans(((7, 9), (17, 22))), hour_spans(())
    ('all day', '7–9, 17–22', 'never')
    """
    if spans == ((0, 24),):
        return "all day"
    return ", ".join(f"{first}–{last}" for first, last in spans) or "never"


_NUMBER_AND_UNIT = re.compile(r"(\d) (?=(?:%|Wh|kWh|W|kW|A|Ah|V|Ω|°[CF]|h|s|ft|m)(?![\w]))")

#: The sign of a pole stays with its colour.
_POLE = re.compile(r" (?=[+−])(?![+−] ?\d)")


def unbroken(text: str) -> str:
    """A sentence in which no number parts from its unit, and no pole from its sign.

    >>> unbroken("Up to 14.4 V, 92 A"), unbroken("red +, black −")
    ('Up to 14.4\\xa0V, 92\\xa0A', 'red\\xa0+, black\\xa0−')
    """
    return _POLE.sub(_BOUND, _NUMBER_AND_UNIT.sub(rf"\1{_BOUND}", text))


def filters_for(design: Design) -> dict[str, Callable[..., str]]:
    """What the sheets write their values with, in the units of the design's practice."""
    return {
        "number": number,
        "worked": worked,
        "valued": valued,
        "unbroken": unbroken,
        "kwh": kilowatt_hours,
        "quantity": quantity,
        "hours": lambda value_h: hours(value_h).replace(" ", _BOUND),
        "percent": lambda part: percent(part).replace(" ", _BOUND),
        "counted": counted,
        "long_date": long_date,
        "calendar_day": calendar_day,
        "month_name": month_name,
        "hour_spans": hour_spans,
        "degrees": lambda temp_c: degrees(design, temp_c),
        "cable": lambda length_m: length_words(design, length_m),
        "volume": lambda volume_l: volume_text(design, volume_l),
    }
