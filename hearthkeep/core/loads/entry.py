"""Reading a load from one typed line: `2x lamp 6W 17-22 dc ease`.

Order is free except that the name is made of the words that mean nothing else. What is not understood is said, with
what was expected, and nothing is guessed in its place.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.design import Load, Supply, Tier, merge_spans
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import FieldProblem

_NUMBER = r"(\d+(?:[.,]\d+)?)"
_WATTS = re.compile(rf"^{_NUMBER}\s*(k?)w$", re.IGNORECASE)
_BARE = re.compile(rf"^{_NUMBER}(k?)w?$", re.IGNORECASE)
_PERCENT = re.compile(rf"^{_NUMBER}\s*%?$")
_COUNT = re.compile(r"^(?:x(\d+)|(\d+)x)$", re.IGNORECASE)
_HOURS = re.compile(r"^\d{1,2}(?::00)?-\d{1,2}(?::00)?(?:,\d{1,2}(?::00)?-\d{1,2}(?::00)?)*$")
_DASHES = str.maketrans({"–": "-", "—": "-", "−": "-"})


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadEntry:
    """What was understood of a line."""

    #: The load, as far as it is whole; none while something is missing or wrong.
    load: Load | None
    #: What was understood, in words, in the order of the columns.
    understood: tuple[str, ...]
    problems: tuple[FieldProblem, ...]


class _Reading:
    """The parts gathered while the words are read."""

    def __init__(self, tier: Tier) -> None:
        self.name: list[str] = []
        self.values: dict[str, object] = {"tier": tier}
        self.problems: list[FieldProblem] = []

    def wrong(self, field: str, value: str, accepted: str) -> None:
        self.problems.append(FieldProblem(field=field, value=repr(value), accepted=accepted))


def read_line(line: str, *, tier: Tier = Tier.KEEP, load_id: str = "new") -> LoadEntry:
    """Read one line into a load of the given tier unless the line names another.

    >>> entry = read_line("fridge 120W starts 780 duty 36%")
    >>> entry.load.name, entry.load.running_w, entry.load.start_w, entry.load.duty_frac
    ('fridge', 120.0, 780.0, 0.36)
    >>> read_line("kettle 1500W duty 10% 7-8,17-18").load.hours
    ((7, 8), (17, 18))
    """
    reading = _Reading(tier)
    # "120 W" and "7-8, 17-18" are one word each.
    text = re.sub(rf"{_NUMBER}\s+(k?w)\b", r"\1\2", line.translate(_DASHES), flags=re.IGNORECASE)
    text = re.sub(r"(\d)\s*,\s*(?=\d{1,2}(?::00)?-)", r"\1,", text)
    words = text.split()
    position = 0
    while position < len(words):
        position += _read_word(words, position, reading)
    return _finished(reading, load_id)


def _read_word(words: list[str], position: int, reading: _Reading) -> int:
    """Read the word at the position, and the next where it belongs to it; return how many were used."""
    word = words[position]
    key = word.lower()
    following = words[position + 1] if position + 1 < len(words) else ""
    if key in _VALUE_WORDS:
        field, pattern, accepted = _VALUE_WORDS[key]
        found = pattern.match(following)
        if found is None:
            reading.wrong(field, following, accepted)
        else:
            reading.values[field] = _quantity(found) / (100.0 if field == "duty_frac" else 1.0)
        return 2
    if key == "link":
        reading.values["link"] = following or None
        return 2
    watts = _WATTS.match(word)
    if watts is not None:
        if "running_w" in reading.values:
            reading.wrong("running_w", word, "stands twice; write the start as 'starts 780'")
        reading.values["running_w"] = _quantity(watts)
        return 1
    count = _COUNT.match(word)
    if count is not None:
        reading.values["quantity"] = int(count.group(1) or count.group(2))
    elif _HOURS.match(word):
        _read_hours(word, reading)
    elif key in _FLAGS:
        field, value = _FLAGS[key]
        reading.values[field] = value
    else:
        reading.name.append(word)
    return 1


_VALUE_WORDS = {
    **dict.fromkeys(("starts", "start", "surge"), ("start_w", _BARE, "needs watts, for example starts 780")),
    **dict.fromkeys(("duty",), ("duty_frac", _PERCENT, "needs a percentage of 0 to 100, for example duty 36%")),
    **dict.fromkeys(("standby",), ("standby_w", _BARE, "needs watts, for example standby 2")),
}
_FLAGS: dict[str, tuple[str, object]] = {
    **{tier.value: ("tier", tier) for tier in Tier},
    "ac": ("supply", Supply.AC),
    "dc": ("supply", Supply.DC),
    "24h": ("hours", ((0, 24),)),
}


def _quantity(found: re.Match[str]) -> float:
    kilo = 1000.0 if found.re.groups > 1 and found.group(2).lower() == "k" else 1.0
    return float(found.group(1).replace(",", ".")) * kilo


def _read_hours(word: str, reading: _Reading) -> None:
    spans: list[tuple[int, int]] = []
    for part in word.replace(":00", "").split(","):
        start_h, end_h = (int(hour) for hour in part.split("-"))
        if start_h > 24 or end_h > 24 or start_h == end_h:
            reading.wrong("hours", part, "needs hours of 0 to 24, for example 7-8,17-18 or 22-6")
        elif start_h < end_h:
            spans.append((start_h, end_h))
        else:
            # Over midnight: the evening and the morning.
            spans += [span for span in ((start_h, 24), (0, end_h)) if span[0] < span[1]]
    reading.values["hours"] = merge_spans(tuple(spans))


def _finished(reading: _Reading, load_id: str) -> LoadEntry:
    name = " ".join(reading.name).strip(" ,;")
    if not name:
        reading.wrong("name", "", "needs a name, for example fridge")
    if "running_w" not in reading.values:
        reading.wrong("running_w", "", "needs watts, for example 120W or 1.5kW")
    load = None
    if not reading.problems:
        try:
            load = Load.model_validate({"id": load_id, "name": name, **reading.values})
        except ValidationError as error:
            reading.problems.extend(field_problems(error, root=("loads", 0)))
    return LoadEntry(load=load, understood=_understood(name, reading.values), problems=tuple(reading.problems))


def _understood(name: str, values: dict[str, object]) -> tuple[str, ...]:
    words = [name] if name else []
    if "quantity" in values:
        words.append(f"{values['quantity']} of them")
    for field, text in (("running_w", "runs {:g} W"), ("start_w", "starts {:g} W"), ("standby_w", "standby {:g} W")):
        if field in values:
            words.append(text.format(values[field]))
    if "duty_frac" in values:
        words.append(f"duty {float(str(values['duty_frac'])):.0%}")
    hours = values.get("hours")
    if isinstance(hours, tuple) and hours:
        words.append(", ".join(f"{start}–{end} h" for start, end in hours))
    if values.get("supply") is Supply.DC:
        words.append("on DC")
    if values.get("link"):
        words.append(f"linked: {values['link']}")
    tier = values["tier"]
    words.append(f"tier {tier.value.title()}" if isinstance(tier, Tier) else "")
    return tuple(words)
