"""What an entry line's words come to: values, parts of a reading, and what is wrong with them."""

from __future__ import annotations

import re
from collections.abc import Callable

from hearthkeep.core.design import Quality, Supply, Tier
from hearthkeep.core.errors import FieldProblem
from hearthkeep.core.loads.entry_text import Quantity, fraction, quantity_at
from hearthkeep.core.loads.known_text import START_EXPECTED, start_from
from hearthkeep.core.numbers import Commas, NumberError, read_number

_TIMES = re.compile(r"^(?:x(\d{1,6}(?:[.,]\d{1,6})?)|(\d{1,6}(?:[.,]\d{1,6})?)x)$", re.IGNORECASE | re.ASCII)


class LineReading:
    """The parts gathered while the words are read."""

    def __init__(self, tier: Tier, bank_v: float, commas: Commas) -> None:
        self.name: list[str] = []
        self.values: dict[str, object] = {"tier": tier}
        #: Parts of a reading: volts, amps, power factor, Wh and the hours they were used over, hours a day, horsepower.
        self.parts: dict[str, float] = {}
        self.spans: list[tuple[int, int]] = []
        self.bank_v, self.commas = bank_v, commas
        self.problems: list[FieldProblem] = []
        #: What was read otherwise than written, or filled by habit.
        self.notes: list[str] = []
        #: Said to be about right only.
        self.is_guess = False
        #: Hours a day that are said to be those of the night.
        self.is_at_night = False
        #: Horsepower as it was typed.
        self.horsepower = ""

    def wrong(self, field: str, value: str, accepted: str) -> None:
        self.problems.append(FieldProblem(field=field, value=repr(value), accepted=accepted))

    def number(self, field: str, found: Quantity, scale: float = 1.0) -> float | None:
        """The number of a quantity, or none once it is said what is wrong with it."""
        try:
            return read_number(found.number, self.commas) * found.scale * scale
        except NumberError as error:
            self.wrong(field, found.text, "is no number" if str(error) == "a number" else str(error))
            return None

    def put(self, field: str, value: float | None) -> None:
        if value is not None:
            self.values[field] = value

    def part(self, name: str, value: float | None, text: str) -> None:
        if value is None:
            return
        if name in self.parts:
            self.wrong("line", text, "stands twice")
        self.parts[name] = value


def read_value(words: list[str], at: int, reading: LineReading) -> int:
    """A word that names the value behind it: starts 780, duty 36 %."""
    key = words[at].lower()
    field, units, accepted = VALUE_WORDS[key]
    following = words[at + 1] if at + 1 < len(words) else ""
    times = _TIMES.match(following) if field == "start_w" else None
    if times is not None:
        multiple = float((times[1] or times[2]).replace(",", "."))
        reading.values["start_known"] = {"kind": "multiple", "multiple": multiple}
        return 2
    found = quantity_at(words, at + 1) if following else None
    if found is None or found.unit not in units or found.period_h is not None:
        if key == "pf":
            # A word of the name like any other.
            reading.name.append(words[at])
            return 1
        reading.wrong(field, following, accepted)
        return 2
    value = reading.number(field, found, units[found.unit])
    if value is not None:
        if field == "power_factor":
            reading.parts["pf"] = value
        elif field == "flexible_h":
            if value == int(value):
                reading.values[field] = int(value)
            else:
                reading.wrong(field, found.text, accepted)
        else:
            reading.values[field] = value
    return 1 + found.words


#: Words that name a value: its field, the units it may have and what they scale it by, and what is accepted.
_POWER = {"": 1.0, "W": 1.0, "kW": 1000.0}
_PART = {"": 0.01, "%": 0.01}
VALUE_WORDS: dict[str, tuple[str, dict[str, float], str]] = {
    **dict.fromkeys(("starts", "start", "surge"), ("start_w", _POWER, "needs watts, for example starts 780")),
    "duty": ("duty_frac", _PART, "needs a percentage of 0 to 100, for example duty 36%"),
    "standby": ("standby_w", _POWER, "needs watts, for example standby 2"),
    "any": ("flexible_h", {"": 1.0, "h": 1.0}, "needs 1 to 24 hours, for example any 3h"),
    "converter": ("converter_efficiency_frac", _PART, "needs an efficiency of 30 to 100 %, for example 90%"),
    "pf": ("power_factor", {"": 1.0}, "needs a power factor of 0.1 to 1"),
}
FLAGS: dict[str, tuple[str, object]] = {
    **{tier.value: ("tier", tier) for tier in Tier},
    "ac": ("supply", Supply.AC),
    "dc": ("supply", Supply.DC),
    "panel": ("supply", Supply.PANEL),
    "24h": ("hours", ((0, 24),)),
    **{quality.value: ("known", {"kind": "typed", "quality": quality}) for quality in Quality},
}


def read_code(words: list[str], at: int, reading: LineReading) -> int:
    """A code letter with its horsepower: code K 1/2hp, code K 1.5 hp. Nothing where no horsepower follows."""
    letter, size = words[at + 1], words[at + 2]
    used = 3
    if not size.lower().endswith("hp"):
        if at + 3 >= len(words) or words[at + 3].lower() != "hp":
            return 0
        used = 4
    number = size[:-2] if size.lower().endswith("hp") else size
    part = fraction(number)
    try:
        text = f"{part:.6g}" if part is not None else f"{read_number(number, reading.commas):.6g}"
        reading.values["start_known"] = start_from(f"code {letter} {text} hp")
    except ValueError:
        reading.wrong("start", " ".join(words[at + 1 : at + used]), f"needs {START_EXPECTED}")
    return used


def read_horsepower(words: list[str], at: int, reading: LineReading) -> int:
    """Horsepower as a fraction, with a whole number before it or not: 1/3 hp, 1 1/2hp. Nothing where there is none."""
    whole, first = 0.0, at
    if words[at].isascii() and words[at].isdigit() and len(words[at]) == 1 and at + 1 < len(words):
        whole, first = float(words[at]), at + 1
    size = words[first]
    used = first - at + 1
    if size.lower().endswith("hp"):
        part = fraction(size[:-2])
    else:
        part = fraction(size) if first + 1 < len(words) and words[first + 1].lower() in ("hp", "horsepower") else None
        used += 1
    if part is None:
        return 0
    reading.horsepower = " ".join(words[at : at + used])
    reading.part("hp", whole + part, reading.horsepower)
    return used


def _read_watts(found: Quantity, reading: LineReading) -> None:
    scale = 1000.0 if found.unit == "kW" else 1.0
    value = reading.number("running_w", found, scale)
    if found.period_number is not None or found.period_h not in (None, 1.0):
        reading.wrong(
            "line", found.text, "is not understood; a power is never per time, an energy is written 1.2 kWh/day"
        )
        return
    if found.period_h is not None and value is not None:
        reading.notes.append(f"{found.text} read as {value:g} W: a power is never per hour")
    if "running_w" in reading.values:
        reading.wrong("running_w", found.text, "stands twice; write the start as 'starts 780'")
    reading.put("running_w", value)
    if found.unit == "VA":
        reading.values.setdefault("known", {"kind": "typed", "quality": Quality.NAMEPLATE})
        reading.notes.append("volt-amperes taken as watts")


def _read_energy(found: Quantity, reading: LineReading) -> None:
    energy_wh = reading.number("line", found)
    if found.period_h is None:
        reading.wrong("line", found.text, "needs its time, for example 1.2 kWh/day, 0.75 kWh in 24 h or 300 kWh/year")
        return
    over_h: float | None = found.period_h
    if found.period_number is not None:
        try:
            over_h = read_number(found.period_number, reading.commas)
        except NumberError:
            over_h = None
    if not over_h:
        reading.wrong("line", found.text, "needs a time of more than 0 hours")
        return
    if over_h == 1.0 and energy_wh is not None:
        reading.notes.append(f"{found.text} read as {energy_wh:g} W")
        reading.put("running_w", energy_wh)
        return
    reading.part("energy_wh", energy_wh, found.text)
    reading.parts["over_h"] = over_h


def _read_volts(found: Quantity, reading: LineReading) -> None:
    reading.part("volts", reading.number("line", found), found.text)


def _read_amps(found: Quantity, reading: LineReading) -> None:
    reading.part("amps", reading.number("line", found), found.text)


def _read_whole_horsepower(found: Quantity, reading: LineReading) -> None:
    reading.horsepower = found.text
    reading.part("hp", reading.number("line", found), found.text)


def _read_hours_a_day(found: Quantity, reading: LineReading) -> None:
    hours_h = reading.number("hours", found, 1 / 60 if found.unit == "min" else 1.0)
    if found.period_number is not None or found.period_h not in (None, 24.0):
        reading.wrong("line", found.text, "is not understood; hours are those of a day, for example 4 h/day")
    elif hours_h is not None and not 0 < hours_h <= 24:
        reading.wrong("hours", found.text, "must be more than 0 to 24 hours a day")
    else:
        reading.is_at_night = found.text.lower().endswith(("night", "nightly"))
        reading.part("hours_a_day", hours_h, found.text)


def _read_count(found: Quantity, reading: LineReading) -> None:
    if found.number.isdigit() and found.period_h is None:
        reading.values["quantity"] = int(found.number[:7])
    else:
        _not_understood(found, reading)


def _not_understood(found: Quantity, reading: LineReading) -> None:
    how = "a share of the time is written duty 36%" if found.unit == "%" else "take it out or write it another way"
    reading.wrong("line", found.text, f"is not understood; {how}")


READERS: dict[str, Callable[[Quantity, LineReading], None]] = {
    **dict.fromkeys(("W", "kW", "VA"), _read_watts),
    "Wh": _read_energy,
    "V": _read_volts,
    "A": _read_amps,
    "hp": _read_whole_horsepower,
    **dict.fromkeys(("h", "min"), _read_hours_a_day),
    "pcs": _read_count,
    **dict.fromkeys(("Ah", "%", "s", "days", "energy"), _not_understood),
}
