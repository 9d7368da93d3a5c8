"""Reading a load from one typed line: `2x lamp 6W 17-22 dc ease`.

Order is free except that the name is made of the words that mean nothing else. What is not understood is said, with
what was expected, and nothing is guessed in its place.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.design import Load, Quality, Supply, Tier, merge_spans
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import FieldProblem
from hearthkeep.core.loads.known_text import START_EXPECTED, known_text, start_from, start_text
from hearthkeep.core.loads.measure import with_readings

_NUMBER = r"(\d+(?:[.,]\d+)?|[.,]\d+)"
#: Watts; a rate of watts "per hour" is a slip of the tongue for watts.
_WATTS = re.compile(rf"^{_NUMBER}(k?)w(?:/h)?$", re.IGNORECASE)
_BARE = re.compile(rf"^{_NUMBER}(k?)w?$", re.IGNORECASE)
_PERCENT = re.compile(rf"^{_NUMBER}%?$")
_PLAIN = re.compile(rf"^{_NUMBER}$")
_HOURS_LONG = re.compile(r"^(\d{1,2})h?$", re.IGNORECASE)
_COUNT = re.compile(r"^(?:x(\d+)|(\d+)x)$", re.IGNORECASE)
_TIMES = re.compile(r"^(?:x(\d+(?:\.\d+)?)|(\d+(?:\.\d+)?)x)$", re.IGNORECASE)
_VOLTS = re.compile(rf"^{_NUMBER}v$", re.IGNORECASE)
_AMPS = re.compile(rf"^{_NUMBER}a$", re.IGNORECASE)
_LABEL = re.compile(rf"^{_NUMBER}kwh/(?:year|yr|a)$", re.IGNORECASE)
_METER = re.compile(rf"^{_NUMBER}kwh/{_NUMBER}h$", re.IGNORECASE)
_HOURS = re.compile(r"^\d{1,2}(?::00)?-\d{1,2}(?::00)?(?:,\d{1,2}(?::00)?-\d{1,2}(?::00)?)*$")
_DASHES = str.maketrans({"–": "-", "—": "-", "−": "-", "×": "x"})


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

    def __init__(self, tier: Tier, bank_v: float) -> None:
        self.name: list[str] = []
        self.values: dict[str, object] = {"tier": tier}
        #: Parts of a reading: volts, amps, power factor, kWh.
        self.parts: dict[str, float] = {}
        self.bank_v = bank_v
        self.problems: list[FieldProblem] = []

    def wrong(self, field: str, value: str, accepted: str) -> None:
        self.problems.append(FieldProblem(field=field, value=repr(value), accepted=accepted))


def read_line(line: str, *, tier: Tier = Tier.KEEP, load_id: str = "new", bank_v: float = 12.8) -> LoadEntry:
    """Read one line into a load of the given tier unless the line names another.

    Amps of a direct-current load are taken at `bank_v` unless the line names the volts [V].

    >>> entry = read_line("fridge 120W starts 780 duty 36%")
    >>> entry.load.name, entry.load.running_w, entry.load.start_w, entry.load.duty_frac
    ('fridge', 120.0, 780.0, 0.36)
    >>> read_line("kettle 1500W duty 10% 7-8,17-18").load.hours
    ((7, 8), (17, 18))
    >>> read_line("freezer 300 kWh/year 120W").understood
    ('freezer', 'runs 120 W', 'duty 29%', '0–24 h', 'label 300 kWh/year at 120 W', 'tier Keep')
    """
    reading = _Reading(tier, bank_v)
    # "120 W" and "7-8, 17-18" are one word each.
    text = line.translate(_DASHES)
    text = re.sub(rf"{_NUMBER}\s+(k?wh|k?w|v|a|hp|h|%)\b", r"\1\2", text, flags=re.IGNORECASE)
    text = re.sub(r"kwh\s*(/|per|in|a)\s*", "kWh/", text, flags=re.IGNORECASE)
    text = re.sub(r"(\d)\s*,\s*(?=\d{1,2}(?::00)?-)", r"\1,", text)
    text = re.sub(r"(\d\s*v)\s*x\s*(\d)", r"\1 \2", text, flags=re.IGNORECASE)
    words = text.split()
    position = 0
    while position < len(words):
        position += _read_word(words, position, reading)
    return _finished(reading, load_id)


def _read_word(words: list[str], position: int, reading: _Reading) -> int:
    """Read the word at the position, and those after it where they belong to it; return how many were used."""
    word, rest = words[position], words[position + 1 :]
    key = word.lower()
    following = rest[0] if rest else ""
    times = _TIMES.match(following)
    if key in ("starts", "start", "surge") and times is not None:
        reading.values["start_known"] = {"kind": "multiple", "multiple": float(times[1] or times[2])}
        return 2
    if key == "code" and len(rest) >= 2 and rest[1].lower().endswith("hp"):
        try:
            reading.values["start_known"] = start_from(f"code {rest[0]} {_horsepower(rest[1])}")
        except (ValueError, ZeroDivisionError):
            reading.wrong("start", " ".join(rest[:2]), f"needs {START_EXPECTED}")
        return 3
    if key in _VALUE_WORDS:
        field, pattern, accepted = _VALUE_WORDS[key]
        found = pattern.match(following)
        if found is None:
            reading.wrong(field, following, accepted)
        else:
            reading.values[field] = _SCALES.get(field, _quantity)(found)
        return 2
    if key == "pf" and _PLAIN.match(following):
        reading.parts["pf"] = float(following.replace(",", "."))
        return 2
    if key == "link":
        reading.values["link"] = following or None
        return 2
    _read_single(word, key, reading)
    return 1


def _read_single(word: str, key: str, reading: _Reading) -> None:
    """Read a word that stands for itself."""
    if watts := _WATTS.match(word):
        if "running_w" in reading.values:
            reading.wrong("running_w", word, "stands twice; write the start as 'starts 780'")
        reading.values["running_w"] = _quantity(watts)
    elif count := _COUNT.match(word):
        reading.values["quantity"] = int(count.group(1) or count.group(2))
    elif label := _LABEL.match(word):
        reading.parts["kwh_per_year"] = _quantity(label)
    elif meter := _METER.match(word):
        reading.parts |= {"kwh": _quantity(meter), "over_h": float(meter.group(2).replace(",", "."))}
    elif volts := _VOLTS.match(word):
        reading.parts["volts"] = _quantity(volts)
    elif amps := _AMPS.match(word):
        reading.parts["amps"] = _quantity(amps)
    elif _HOURS.match(word):
        _read_hours(word, reading)
    elif key in _FLAGS:
        field, value = _FLAGS[key]
        reading.values[field] = value
    else:
        reading.name.append(word)


_VALUE_WORDS = {
    **dict.fromkeys(("starts", "start", "surge"), ("start_w", _BARE, "needs watts, for example starts 780")),
    **dict.fromkeys(("duty",), ("duty_frac", _PERCENT, "needs a percentage of 0 to 100, for example duty 36%")),
    **dict.fromkeys(("standby",), ("standby_w", _BARE, "needs watts, for example standby 2")),
    "any": ("flexible_h", _HOURS_LONG, "needs 1 to 24 hours, for example any 3h"),
    "converter": ("converter_efficiency_frac", _PERCENT, "needs an efficiency of 30 to 100 %, for example 90%"),
}
_FLAGS: dict[str, tuple[str, object]] = {
    **{tier.value: ("tier", tier) for tier in Tier},
    "ac": ("supply", Supply.AC),
    "dc": ("supply", Supply.DC),
    "panel": ("supply", Supply.PANEL),
    "24h": ("hours", ((0, 24),)),
    **{quality.value: ("known", {"kind": "typed", "quality": quality}) for quality in Quality},
}


def _quantity(found: re.Match[str]) -> float:
    kilo = 1000.0 if found.re in (_WATTS, _BARE) and found.group(2).lower() == "k" else 1.0
    return float(found.group(1).replace(",", ".")) * kilo


_SCALES: dict[str, Callable[[re.Match[str]], object]] = {
    "duty_frac": lambda found: _quantity(found) / 100.0,
    "converter_efficiency_frac": lambda found: _quantity(found) / 100.0,
    "flexible_h": lambda found: int(found.group(1)),
}


def _horsepower(word: str) -> str:
    """1/3hp as a number of horsepower."""
    top, _, bottom = word[:-2].partition("/")
    return f"{float(top) / float(bottom):.6g} hp" if bottom else f"{top} hp"


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


def _read_parts(reading: _Reading) -> None:
    """Volts, amps and kilowatt-hours as a reading of the watts."""
    parts, values = reading.parts, reading.values
    is_direct = values.get("supply") is Supply.DC
    running_w = values.get("running_w")
    if "kwh_per_year" in parts or "kwh" in parts:
        if running_w is None:
            reading.wrong("running_w", "", "is needed beside an energy, for example 120W, to tell the duty")
        elif "kwh_per_year" in parts:
            values["known"] = {
                "kind": "label",
                "energy_kwh_per_year": parts["kwh_per_year"],
                "running_w": running_w,
            }
        else:
            values["known"] = {
                "kind": "meter",
                "energy_kwh": parts["kwh"],
                "over_h": parts["over_h"],
                "running_w": running_w,
            }
    elif "amps" in parts and is_direct:
        values["known"] = {"kind": "dc_amps", "current_a": parts["amps"], "at_v": parts.get("volts", reading.bank_v)}
    elif "amps" in parts and "volts" in parts:
        values["known"] = {
            "kind": "nameplate",
            "volts_v": parts["volts"],
            "current_a": parts["amps"],
            "power_factor": parts.get("pf", 1.0),
        }
    elif "amps" in parts:
        reading.wrong("running_w", "", "amps need their volts, for example 120V 5A")
    volts = parts.get("volts", 0.0)
    if not is_direct and 200 <= volts <= 250:
        values["supply"] = Supply.AC_240 if volts >= 235 else Supply.AC
    if values.get("supply") is Supply.DC and "converter_efficiency_frac" in values:
        values["supply"] = Supply.DC_CONVERTED
    if "amps" in parts and "known" in values:
        # A stand-in until the reading is worked out below.
        values.setdefault("running_w", 0.0)


def _finished(reading: _Reading, load_id: str) -> LoadEntry:
    name = " ".join(reading.name).strip(" ,;")
    if not name:
        reading.wrong("name", "", "needs a name, for example fridge")
    _read_parts(reading)
    if "running_w" not in reading.values and not reading.problems:
        reading.wrong("running_w", "", "needs watts, for example 120W or 1.5kW")
    load = None
    if not reading.problems:
        try:
            load = with_readings(Load.model_validate({"id": load_id, "name": name, **reading.values}))
        except ValidationError as error:
            reading.problems.extend(field_problems(error, root=("loads", 0)))
    understood = _understood(name, reading.values if load is None else load.model_dump(exclude_defaults=True), load)
    return LoadEntry(load=load, understood=understood, problems=tuple(reading.problems))


def _understood(name: str, values: dict[str, object], load: Load | None) -> tuple[str, ...]:
    words = [name] if name else []
    if "quantity" in values:
        words.append(f"{values['quantity']} of them")
    for field, text in (("running_w", "runs {:g} W"), ("start_w", "starts {:g} W"), ("standby_w", "standby {:g} W")):
        if values.get(field) is not None:
            words.append(text.format(values[field]))
    if "duty_frac" in values:
        words.append(f"duty {float(str(values['duty_frac'])):.0%}")
    hours = (load.hours if load and load.known else None) or values.get("hours")
    if isinstance(hours, tuple) and hours:
        words.append(", ".join(f"{start}–{end} h" for start, end in hours))
    if "flexible_h" in values:
        words.append(f"any {values['flexible_h']} h of them, when the sun carries it")
    supply = values.get("supply")
    if supply in _SUPPLY_WORDS:
        words.append(_SUPPLY_WORDS[Supply(str(supply))])
    if load is not None:
        words += [text for text in (known_text(load.known), start_text(load.start_known)) if text]
    if values.get("link"):
        words.append(f"linked: {values['link']}")
    tier = load.tier if load else values["tier"]
    words.append(f"tier {tier.value.title()}" if isinstance(tier, Tier) else "")
    return tuple(words)


_SUPPLY_WORDS = {
    Supply.AC_240: "on 240 V",
    Supply.DC: "on DC",
    Supply.DC_CONVERTED: "on DC through a converter",
    Supply.PANEL: "straight from a panel",
}
