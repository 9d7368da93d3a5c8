"""Reading a load from one typed line: `2x lamp 6W 17-22 dc ease`.

Order is free except that the name is made of the words that mean nothing else. What is not understood is said, with
what was expected, and nothing is guessed in its place; what is filled by habit is shown.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.design import Load, Quality, Supply, Tier, merge_spans
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import FieldProblem
from hearthkeep.core.loads.entry_hours import read_hours
from hearthkeep.core.loads.entry_name import is_whole, may_be_grouped, may_count, read_name, read_small_word
from hearthkeep.core.loads.entry_reading import (
    FLAGS,
    READERS,
    VALUE_WORDS,
    LineReading,
    read_code,
    read_horsepower,
    read_value,
)
from hearthkeep.core.loads.entry_text import quantity_at, words_of
from hearthkeep.core.loads.habits import MOTOR_START_MULTIPLE, motor_guess, usual_hours
from hearthkeep.core.loads.known_text import known_text, start_text
from hearthkeep.core.loads.measure import with_readings
from hearthkeep.core.numbers import Commas

_COUNT = re.compile(r"^(?:x(\d{1,6})|(\d{1,6})x)$", re.IGNORECASE | re.ASCII)
#: Below this a voltage belongs to a battery and not to a house [V].
BATTERY_BELOW_V = 61.0
HOURS_A_YEAR = 8760.0


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadEntry:
    """What was understood of a line."""

    #: The load, as far as it is whole; none while something is missing or wrong.
    load: Load | None
    #: What was understood, in words, in the order of the columns; at the end what was filled by habit.
    understood: tuple[str, ...]
    problems: tuple[FieldProblem, ...]


def read_line(
    line: str, *, tier: Tier = Tier.KEEP, load_id: str = "new", bank_v: float = 12.8, commas: Commas = Commas.GROUP
) -> LoadEntry:
    """Read one line into a load of the given tier unless the line names another.

    Amps of a direct-current load are taken at `bank_v` unless the line names the volts [V]; `commas` says what a comma before
    three digits means.

    >>> entry = read_line("fridge 120W starts 780 duty 36%")
    >>> entry.load.name, entry.load.running_w, entry.load.start_w, entry.load.duty_frac
    ('fridge', 120.0, 780.0, 0.36)
    >>> read_line("kettle 1,500 W duty 10% 7-8,17-18").load.hours
    ((7, 8), (17, 18))
    >>> read_line("freezer 300 kWh/year 120W").understood
    ('freezer', 'runs 120 W', 'duty 29%', '0–24 h', 'label 300 kWh/year at 120 W', 'tier Keep')
    """
    reading = LineReading(tier, bank_v, commas)
    words = words_of(line)
    at = 0
    while at < len(words):
        at += _read_at(words, at, reading)
    return _finished(reading, load_id)


def _read_at(words: list[str], at: int, reading: LineReading) -> int:
    """Read the word at a place, and those after it where they belong to it; return how many were used."""
    word, key = words[at], words[at].lower()
    following = words[at + 1] if at + 1 < len(words) else ""
    if key in VALUE_WORDS:
        return read_value(words, at, reading)
    if key == "code" and at + 2 < len(words):
        used = read_code(words, at, reading)
        if used:
            return used
    if key == "link":
        reading.values["link"] = following or None
        return 2
    if key in FLAGS:
        field, value = FLAGS[key]
        reading.values[field] = value
        return 1
    used = read_hours(words, at, reading) or read_small_word(words, at, reading)
    if used:
        return used
    if count := _COUNT.match(word):
        reading.values["quantity"] = int(count.group(1) or count.group(2))
        return 1
    if (following.lower() == "x" or [key.lower() for key in words[at + 1 : at + 3]] == ["of", "them"]) and is_whole(
        word
    ):
        # "5 A x 12 V" has its units; a bare number before an x is a count.
        reading.values["quantity"] = int(word[:7])
        return 2 if following.lower() == "x" else 3
    used = read_horsepower(words, at, reading)
    if used:
        return used
    found = quantity_at(words, at)
    if found is not None and found.unit:
        READERS[found.unit](found, reading)
        return found.words
    if found is not None and may_be_grouped(words, at):
        reading.wrong(
            "line",
            f"{word} {following}",
            "may be one number or two: write it without the space",
        )
        return 1
    if at == 0 and may_count(word, following):
        reading.values["quantity"] = int(word)
        return 1
    read_name(words, at, reading)
    return 1


def _read_parts(reading: LineReading) -> None:
    """Volts, amps and energies as a reading of the watts; horsepower as a guess."""
    parts, values = reading.parts, reading.values
    volts = parts.get("volts", 0.0)
    if "amps" in parts and 0 < volts < BATTERY_BELOW_V:
        # A battery's volts: its amps are direct current, what the inverter loses among them where one is named.
        values.setdefault("supply", Supply.DC)
    is_house = values.get("supply") in (None, Supply.AC) and volts >= BATTERY_BELOW_V
    if "energy_wh" in parts:
        _read_energy_parts(reading)
    elif "amps" in parts and not is_house and (volts or values.get("supply") is Supply.DC):
        values["known"] = {"kind": "dc_amps", "current_a": parts["amps"], "at_v": volts or reading.bank_v}
    elif "amps" in parts and volts:
        values["known"] = {
            "kind": "nameplate",
            "volts_v": volts,
            "current_a": parts["amps"],
            "power_factor": parts.get("pf", 1.0),
        }
    elif "amps" in parts:
        reading.wrong("running_w", "", "amps need their volts, for example 120V 5A")
    if values.get("supply") is None and 200 <= volts <= 250:
        values["supply"] = Supply.AC_240 if volts >= 235 else Supply.AC
    if values.get("supply") is Supply.DC and "converter_efficiency_frac" in values:
        values["supply"] = Supply.DC_CONVERTED
    if "amps" in parts and "known" in values:
        # A stand-in until the reading is worked out below.
        values.setdefault("running_w", 0.0)
    if "hp" in parts:
        _guess_motor(reading, parts["hp"])


def _read_energy_parts(reading: LineReading) -> None:
    """An energy over a time, beside the running watts where they are given."""
    energy_wh, over_h = reading.parts["energy_wh"], reading.parts["over_h"]
    average_w = energy_wh / over_h
    if "running_w" not in reading.values:
        reading.notes.append(f"running watts not given: taken as the average, {average_w:.3g} W")
    running_w = reading.values.get("running_w", average_w)
    if over_h == HOURS_A_YEAR:
        known = {"kind": "label", "energy_kwh_per_year": energy_wh / 1000, "running_w": running_w}
    else:
        known = {"kind": "meter", "energy_kwh": energy_wh / 1000, "over_h": over_h, "running_w": running_w}
    reading.values["known"] = known
    reading.values["running_w"] = running_w


def _guess_motor(reading: LineReading, horsepower_hp: float) -> None:
    """Typical watts and start where the line gives none."""
    if not 0 < horsepower_hp <= 50:
        reading.wrong("line", f"{horsepower_hp:g} hp", "must be more than 0 to 50 hp")
        return
    values = reading.values
    if "running_w" not in values:
        values["running_w"] = motor_guess(horsepower_hp).running_w
        values.setdefault("known", {"kind": "typed", "quality": Quality.GUESS})
    if "start_w" not in values and "start_known" not in values:
        values["start_w"] = float(str(values["running_w"])) * MOTOR_START_MULTIPLE
        values["start_known"] = {"kind": "typed", "quality": Quality.GUESS}
    reading.notes.append(f"{reading.horsepower}: typical watts and start, a guess until measured")


def _place_hours(reading: LineReading, name: str) -> None:
    """Painted hours, and a number of hours a day placed where it usually is."""
    if reading.spans:
        reading.values["hours"] = merge_spans(tuple(reading.spans))
    if "energy_wh" in reading.parts and reading.values.get("hours", ((0, 24),)) != ((0, 24),):
        reading.wrong("hours", "", "painted hours stand beside an energy, which counts every hour; keep one of them")
    hours_h = reading.parts.get("hours_a_day")
    if hours_h is None:
        return
    if "hours" in reading.values:
        reading.wrong("hours", f"{hours_h:g} h", "stands beside painted hours; keep one of them, or write any 3h")
        return
    if "energy_wh" in reading.parts:
        reading.wrong("hours", f"{hours_h:g} h", "stands beside an energy, which counts every hour; keep one of them")
        return
    spans = usual_hours(f"{name} at night" if reading.is_at_night else name, hours_h)
    count = sum(end - start for start, end in spans)
    reading.values["hours"] = spans
    if hours_h < count:
        reading.values["duty_frac"] = round(float(str(reading.values.get("duty_frac", 1.0))) * hours_h / count, 9)
    if count < 24:
        where = ", ".join(f"{start}–{end}" for start, end in spans)
        long = f"{hours_h:.4g} h" if hours_h >= 1 else f"{hours_h * 60:.3g} min"
        reading.notes.append(f"{long} a day placed at {where}; paint others")


def _finished(reading: LineReading, load_id: str) -> LoadEntry:
    name = " ".join(reading.name).strip(" ,;")
    if not name:
        reading.wrong("name", "", "needs a name, for example fridge")
    _read_parts(reading)
    _place_hours(reading, name)
    if reading.is_guess:
        reading.values.setdefault("known", {"kind": "typed", "quality": Quality.GUESS})
    if "running_w" not in reading.values and not reading.problems:
        reading.wrong("running_w", "", "needs watts, for example 120W or 1.5kW")
    load = None
    if not reading.problems:
        try:
            load = with_readings(Load.model_validate({"id": load_id, "name": name, **reading.values}))
        except ValidationError as error:
            reading.problems.extend(field_problems(error, root=("loads", 0)))
    understood = _understood(name, reading.values if load is None else load.model_dump(exclude_defaults=True), load)
    return LoadEntry(load=load, understood=(*understood, *reading.notes), problems=tuple(reading.problems))


def _understood(name: str, values: dict[str, object], load: Load | None) -> tuple[str, ...]:
    words = [name] if name else []
    if "quantity" in values:
        words.append(f"{values['quantity']} of them")
    for field, text in (("running_w", "runs {:,g} W"), ("start_w", "starts {:,g} W"), ("standby_w", "standby {:g} W")):
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
        # Watts and start known in the same way are said once.
        words += dict.fromkeys(_short(text) for text in (known_text(load.known), start_text(load.start_known)) if text)
    if values.get("link"):
        words.append(f"linked: {values['link']}")
    tier = load.tier if load else values["tier"]
    words.append(f"tier {tier.value.title()}" if isinstance(tier, Tier) else "")
    return tuple(words)


def _short(text: str) -> str:
    """A reading's text without the digits that are only there to read it back exactly."""
    return re.sub(r"(?<!\d)\d+\.\d{4,}", lambda found: f"{float(found[0]):.4g}", text)


_SUPPLY_WORDS = {
    Supply.AC_240: "on 240 V",
    Supply.DC: "on DC",
    Supply.DC_CONVERTED: "on DC through a converter",
    Supply.PANEL: "straight from a panel",
}
