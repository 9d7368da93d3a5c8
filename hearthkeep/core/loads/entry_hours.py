"""Hours of the day in an entry line: 7-8,17-18 and 22-6, 18 to 22, 6pm-10pm, 24/7, overnight."""

from __future__ import annotations

import re

from hearthkeep.core.loads.entry_reading import LineReading
from hearthkeep.core.loads.entry_text import quantity_at

_CLOCK = re.compile(r"^(\d{1,2})(?::(\d\d))?(am|pm)?$", re.IGNORECASE | re.ASCII)
_BETWEEN = frozenset(["-", "to", "until", "till"])
_EXPECTED = "needs hours of 0 to 24, for example 7-8,17-18 or 22-6"
#: Our assumption.
_OVERNIGHT_H = (22, 6)


def read_hours(words: list[str], at: int, reading: LineReading) -> int:
    """Read spans of hours that begin at a word, and return how many words they took; 0 where there are none."""
    key = words[at].lower()
    if key == "24/7":
        reading.spans.append((0, 24))
        return 1
    is_all_night = key == "all" and [word.lower() for word in words[at + 1 : at + 2]] == ["night"]
    if key == "overnight" or is_all_night:
        _add(*_OVERNIGHT_H, reading)
        reading.notes.append("overnight read as {}–{}; paint others".format(*_OVERNIGHT_H))
        return 2 if is_all_night else 1
    if key == "from" and at + 1 < len(words):
        used = read_hours(words, at + 1, reading)
        return used + 1 if used else 0
    return _spans_in_a_word(words[at], reading) or _span_in_words(words, at, reading)


def _spans_in_a_word(word: str, reading: LineReading) -> int:
    spans = [part.split("-") for part in word.split(",")]
    if not all(len(span) == 2 and all(_CLOCK.match(end) for end in span) for span in spans):
        return 0
    for start, end in spans:
        _read_span(start, end, f"{start}-{end}", reading)
    return 1


def _span_in_words(words: list[str], at: int, reading: LineReading) -> int:
    """18 to 22, 6 pm - 10 pm; none where the second number has a unit, which makes it a range of something else."""
    if not _CLOCK.match(words[at]) or at + 2 >= len(words) or words[at + 1].lower() not in _BETWEEN:
        return 0
    end, found = words[at + 2], quantity_at(words, at + 2)
    if not _CLOCK.match(end) or (found is not None and found.unit):
        return 0
    _read_span(words[at], end, " ".join(words[at : at + 3]), reading)
    return 3


def _read_span(start: str, end: str, text: str, reading: LineReading) -> None:
    first, last = _CLOCK.match(start), _CLOCK.match(end)
    if first is None or last is None:
        reading.wrong("hours", text, _EXPECTED)
        return
    if {first[2] or "00", last[2] or "00"} != {"00"}:
        reading.wrong("hours", text, "must be whole hours, for example 18-22")
        return
    end_h = _hour(int(last[1]), (last[3] or "").lower())
    half = (first[3] or last[3] or "").lower()
    start_h = _hour(int(first[1]), half)
    if not first[3] and half and start_h is not None and end_h is not None and start_h >= end_h:
        # 10-2pm begins in the morning.
        start_h = (start_h + 12) % 24
    if start_h is None or end_h is None or start_h > 24 or end_h > 24 or start_h == end_h:
        reading.wrong("hours", text, _EXPECTED)
        return
    _add(start_h, end_h, reading)


def _hour(hour_h: int, half: str) -> int | None:
    """An hour of the clock of 24; none where a clock of twelve has no such hour."""
    if not half:
        return hour_h
    return hour_h % 12 + (12 if half == "pm" else 0) if 1 <= hour_h <= 12 else None


def _add(start_h: int, end_h: int, reading: LineReading) -> None:
    if start_h < end_h:
        reading.spans.append((start_h, end_h))
    else:
        # Over midnight: the evening and the morning.
        reading.spans += [span for span in ((start_h, 24), (0, end_h)) if span[0] < span[1]]
