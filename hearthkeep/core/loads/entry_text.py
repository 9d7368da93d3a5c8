"""The words of an entry line: quantities with their unit and time, taken from the line one after the other.

Every pattern is anchored and looks at one word, so that no line takes longer than its length.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

_ALIKE = str.maketrans(
    {"–": "-", "—": "-", "−": "-", "×": "x", "\u00a0": " ", "\u202f": " ", "@": " ", "≈": "~"}
    | {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3"}
)
_MARKS = ",;"
_QUANTITY = re.compile(r"^([0-9][0-9.,'’]*|[.,][0-9]+|[0-9]+/[0-9]+)([A-Za-z%]*)(?:/(.+))?$", re.ASCII)
#: The space before the half of the day: 6 pm.
_HALF_DAY = re.compile(r"(?<=[0-9])[ ]([ap]m)\b", re.IGNORECASE | re.ASCII)
#: Two parts in one word: 10x9W, 10*9W, and volts and amps such as 5V/2A.
_COUNTED = re.compile(r"^([0-9]{1,6})[x*](?=[0-9])", re.IGNORECASE | re.ASCII)
_VOLTS_AMPS = re.compile(r"^([0-9][0-9.,]*m?[VA])/([0-9][0-9.,]*m?[VA])$", re.IGNORECASE | re.ASCII)
#: What a name may have of a number, what begins as a quantity does, and the runs of letters in it.
_NUMBERED = re.compile(r"^[#(]?[0-9]+[.)]?$", re.ASCII)
_LEFT_OVER = re.compile(r"^[^A-Za-z0-9#]*[0-9]", re.ASCII)
_LETTERS = re.compile(r"[^\W\d_]+")
_FRACTION = re.compile(r"^([0-9]{1,3})/([0-9]{1,3})$", re.ASCII)

#: Units by the words they are written as.
UNITS: dict[str, str] = {
    **dict.fromkeys(("w", "watt", "watts"), "W"),
    **dict.fromkeys(("kw", "kilowatt", "kilowatts"), "kW"),
    **dict.fromkeys(("va", "kva"), "VA"),
    **dict.fromkeys(("wh", "kwh"), "Wh"),
    **dict.fromkeys(("ah", "mah"), "Ah"),
    **dict.fromkeys(("v", "volt", "volts", "mv"), "V"),
    **dict.fromkeys(("a", "amp", "amps", "ampere", "amperes", "ma"), "A"),
    **dict.fromkeys(("hp", "horsepower"), "hp"),
    **dict.fromkeys(("h", "hr", "hrs", "hour", "hours"), "h"),
    **dict.fromkeys(("min", "mins", "minute", "minutes"), "min"),
    **dict.fromkeys(("%", "percent"), "%"),
    **dict.fromkeys(("pc", "pcs", "piece", "pieces", "units"), "pcs"),
    # Known to be quantities, and not to be understood here.
    **dict.fromkeys(("s", "sec", "secs", "second", "seconds"), "s"),
    **dict.fromkeys(("time", "times", "day", "days", "week", "weeks", "month", "months", "year", "years"), "days"),
    **dict.fromkeys(("btu", "btus", "j", "kj", "mj", "cal", "kcal", "therm", "therms"), "energy"),
}
#: What the word itself scales its number by, beside the unit.
_SCALE = {"kw": 1.0, "kva": 1000.0, "kwh": 1000.0, "mah": 0.001, "mv": 0.001, "ma": 0.001}
#: Spans of time after "per", "a", "in" or a stroke [h].
PERIODS_H: dict[str, float] = {
    **dict.fromkeys(("h", "hr", "hour"), 1.0),
    **dict.fromkeys(("d", "day", "night"), 24.0),
    **dict.fromkeys(("week", "wk"), 168.0),
    "month": 730.0,
    **dict.fromkeys(("year", "yr", "annum", "a"), 8760.0),
}
#: The same in one word after the quantity [h].
_ADVERBS_H: dict[str, float] = {
    **dict.fromkeys(("daily", "nightly"), 24.0),
    "weekly": 168.0,
    "monthly": 730.0,
    **dict.fromkeys(("yearly", "annually", "pa", "p.a", "p.a."), 8760.0),
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Quantity:
    """A number with its unit and, where it is said, the time it is meant for."""

    #: The number as typed, and what its unit's word scales it by.
    number: str
    scale: float
    #: One of the values of UNITS; empty for a number alone.
    unit: str
    #: The words it was read from.
    text: str
    #: How many words those are.
    words: int
    #: Time it is meant for [h]; none where nothing is said. As typed where it is a number of hours.
    period_h: float | None = None
    period_number: str | None = None


def words_of(line: str) -> list[str]:
    """The words of a line, without the marks between them."""
    parts = (part.strip(_MARKS) for part in _HALF_DAY.sub(r"\1", line.translate(_ALIKE)).split())
    return [word for part in parts for word in _parted(part) if word]


def _parted(word: str) -> list[str]:
    """One word, or the two that were written as one: 10x9W, 5V/2A, ~850W."""
    if word.startswith("~"):
        return ["~", word[1:]]
    # The mark of an alternating current on a nameplate: 230V~.
    word = word.removesuffix("~")
    if counted := _COUNTED.match(word):
        return [f"{counted[1]}x", word[counted.end() :]]
    both = _VOLTS_AMPS.match(word)
    return [both[1], both[2]] if both is not None else [word]


def quantity_at(words: list[str], at: int) -> Quantity | None:
    """The quantity that begins at a word; none where that is no number."""
    found = _QUANTITY.match(words[at])
    if found is None:
        return None
    number, unit_word, rest = found[1], found[2].lower(), found[3]
    used = 1
    if unit_word and unit_word not in UNITS:
        return None
    if not unit_word and rest is None and at + 1 < len(words):
        following = _QUANTITY.match("1" + words[at + 1])
        if following is not None and following[2].lower() in UNITS and following[1] == "1":
            unit_word, rest, used = following[2].lower(), following[3], 2
    if unit_word == "" and rest is not None:
        # A stroke after a bare number is a fraction, which has its own form.
        return None
    period = _period(words, at + used, rest) if unit_word else (None, None, 0)
    used += period[2]
    return Quantity(
        number=number,
        scale=_SCALE.get(unit_word, 1.0),
        unit=UNITS[unit_word] if unit_word else "",
        text=" ".join(words[at : at + used]),
        words=used,
        period_h=period[0],
        period_number=period[1],
    )


def _period(words: list[str], at: int, rest: str | None) -> tuple[float | None, str | None, int]:
    """Time [h] after a stroke, "per", "a", "in" or "every"; its number as typed where there is one; and words used."""
    if rest is not None:
        return (*_span(rest, ""), 0) if _span(rest, "") != (None, None) else (None, rest, 0)
    if at >= len(words):
        return None, None, 0
    lead = words[at].lower()
    if lead in _ADVERBS_H:
        return _ADVERBS_H[lead], None, 1
    if lead.startswith("/") and len(lead) > 1:
        return (*_span(lead[1:], ""), 1)
    if lead not in ("per", "a", "in", "every", "each", "/") or at + 1 >= len(words):
        return None, None, 0
    following = words[at + 2] if at + 2 < len(words) else ""
    span = _span(words[at + 1], following)
    if span == (None, None):
        return None, None, 0
    alone = _span(words[at + 1], "") != (None, None)
    return (*span, 2 if alone else 3)


def _span(word: str, following: str) -> tuple[float | None, str | None]:
    """A word such as day, 24h or 48 followed by hours, as hours or as a number of them."""
    key = word.lower()
    if key in PERIODS_H:
        return PERIODS_H[key], None
    found = _QUANTITY.match(word)
    if found is None or found[3] is not None:
        return None, None
    unit = found[2].lower() or following.lower()
    return (1.0, found[1]) if UNITS.get(unit) == "h" else (None, None)


def fraction(text: str) -> float | None:
    """A fraction such as 1/3; none where it is none, or has nothing below the stroke."""
    found = _FRACTION.match(text)
    return int(found[1]) / int(found[2]) if found is not None and int(found[2]) > 0 else None


def is_left_over(word: str) -> bool:
    """Whether a word looks like a quantity that nothing has read: 18:30, 850-1000W, 3600/h, ~5.

    Plain whole numbers, with a number sign or in brackets, belong to names: fridge 2, pump #2, fridge (2).
    """
    if _NUMBERED.match(word) or not _LEFT_OVER.match(word):
        return False
    return all(letters.lower() in UNITS or letters.lower() in ("am", "pm", "x") for letters in _LETTERS.findall(word))
