"""Readings as one line of text, for a sheet's cell and the ledger's entry line; read back to the identical reading."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter, ValidationError

from hearthkeep.core.design import (
    DcReading,
    EnergyLabel,
    Known,
    MeterRun,
    NameplateReading,
    Quality,
    SpeedTable,
    SpotReading,
    StartCode,
    StartKnown,
    StartMultiple,
    Typed,
    Typical,
)
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.numbers import Commas, NumberError, read_number

_KNOWN: TypeAdapter[Known] = TypeAdapter(Known)
_START: TypeAdapter[StartKnown] = TypeAdapter(StartKnown)
_N = r"([0-9][0-9.,'’]*(?:e[+-]?[0-9]{1,3})?|[.,][0-9]+)"


def number(value: float) -> str:
    """A number as short as it can be read back exactly.

    >>> number(120.0), number(0.85)
    ('120', '0.85')
    """
    return repr(float(value)).removesuffix(".0")


def known_text(known: Known | None) -> str:
    """A reading in one line; an empty text for none.

    >>> known_text(NameplateReading(volts_v=120.0, current_a=5.0, power_factor=0.8))
    'nameplate 120 V 5 A pf 0.8'
    """
    return "" if known is None else _WRITERS[type(known)](known)


def _speeds_text(known: SpeedTable) -> str:
    settings = ", ".join(
        f"{setting.name}={number(setting.power_w)}{'*' if setting.name == known.chosen else ''}"
        for setting in known.settings
    )
    return f"speeds {settings} {known.quality.value}"


_WRITERS: dict[type[Any], Callable[[Any], str]] = {
    Typed: lambda known: known.quality.value,
    Typical: lambda known: "typical",
    NameplateReading: lambda known: (
        f"nameplate {number(known.volts_v)} V {number(known.current_a)} A pf {number(known.power_factor)}"
    ),
    SpotReading: lambda known: f"spot {number(known.reading_w)} W step {number(known.step_w)}",
    MeterRun: lambda known: (
        f"meter {number(known.energy_kwh)} kWh in {number(known.over_h)} h at {number(known.running_w)} W"
    ),
    EnergyLabel: lambda known: f"label {number(known.energy_kwh_per_year)} kWh/year at {number(known.running_w)} W",
    DcReading: lambda known: (
        f"dc {number(known.current_a)} A at {number(known.at_v)} V"
        + ("" if known.through_efficiency_frac is None else f" through {number(known.through_efficiency_frac)}")
    ),
    SpeedTable: _speeds_text,
}

_PATTERNS: tuple[tuple[re.Pattern[str], Callable[[re.Match[str], Commas], dict[str, object]]], ...] = (
    (
        re.compile(rf"^nameplate {_N} ?V {_N} ?A(?: pf {_N})?$", re.IGNORECASE),
        lambda m, commas: {
            "kind": "nameplate",
            "volts_v": _value(m[1], commas),
            "current_a": _value(m[2], commas),
            "power_factor": _value(m[3] or "1", commas),
        },
    ),
    (
        re.compile(rf"^spot {_N} ?W(?: step {_N})?$", re.IGNORECASE),
        lambda m, commas: {"kind": "spot", "reading_w": _value(m[1], commas), "step_w": _value(m[2] or "5", commas)},
    ),
    (
        re.compile(rf"^meter {_N} ?kWh in {_N} ?h at {_N} ?W$", re.IGNORECASE),
        lambda m, commas: {
            "kind": "meter",
            "energy_kwh": _value(m[1], commas),
            "over_h": _value(m[2], commas),
            "running_w": _value(m[3], commas),
        },
    ),
    (
        re.compile(rf"^label {_N} ?kWh/(?:year|yr|a) at {_N} ?W$", re.IGNORECASE),
        lambda m, commas: {
            "kind": "label",
            "energy_kwh_per_year": _value(m[1], commas),
            "running_w": _value(m[2], commas),
        },
    ),
    (
        re.compile(rf"^dc {_N} ?A at {_N} ?V(?: through {_N})?$", re.IGNORECASE),
        lambda m, commas: {
            "kind": "dc_amps",
            "current_a": _value(m[1], commas),
            "at_v": _value(m[2], commas),
            "through_efficiency_frac": _value(m[3], commas) if m[3] else None,
        },
    ),
    (
        re.compile(r"^speeds (.+) (measured|label|nameplate|guess)$", re.IGNORECASE),
        lambda m, commas: _speeds_values(m[1], m[2].lower(), commas),
    ),
)
KNOWN_EXPECTED = (
    "measured, label, nameplate or guess, or a reading such as nameplate 120 V 5 A pf 0.8, spot 117 W step 5, "
    "meter 1.9 kWh in 24 h at 120 W, label 300 kWh/year at 120 W, dc 5 A at 12.8 V, speeds low=20, high=55* measured"
)
START_EXPECTED = "measured or guess, code K 0.5 hp, or a multiple such as x3"


def known_from(text: str, commas: Commas = Commas.GROUP) -> Known | None:
    """Read a line back; an empty text is none. Raises ValueError with what was expected."""
    text = text.strip()
    if not text:
        return None
    word = text.casefold()
    if word == "typical":
        return Typical()
    if word in [quality.value for quality in Quality]:
        return Typed(quality=Quality(word))
    known: Known = _matched(text, _PATTERNS, _KNOWN, "known", KNOWN_EXPECTED, commas)
    return known


def start_text(known: StartKnown | None) -> str:
    """How a start is known, in one line; an empty text for none."""
    if known is None:
        return ""
    if isinstance(known, StartCode):
        return f"code {known.code_letter} {number(known.horsepower_hp)} hp"
    if isinstance(known, StartMultiple):
        return f"x{number(known.multiple)}"
    return known.quality.value


_START_PATTERNS: tuple[tuple[re.Pattern[str], Callable[[re.Match[str], Commas], dict[str, object]]], ...] = (
    (
        re.compile(rf"^code ([a-z]) {_N} ?hp$", re.IGNORECASE),
        lambda m, commas: {"kind": "code", "code_letter": m[1].upper(), "horsepower_hp": _value(m[2], commas)},
    ),
    (
        re.compile(rf"^x ?{_N}$", re.IGNORECASE),
        lambda m, commas: {"kind": "multiple", "multiple": _value(m[1], commas)},
    ),
    (
        re.compile(r"^(measured|label|nameplate|guess)$", re.IGNORECASE),
        lambda m, commas: {"kind": "typed", "quality": m[1].lower()},
    ),
)


def start_from(text: str, commas: Commas = Commas.GROUP) -> StartKnown | None:
    """Read a start's line back; an empty text is none. Raises ValueError with what was expected."""
    text = text.strip()
    return _matched(text, _START_PATTERNS, _START, "start_known", START_EXPECTED, commas) if text else None


def _matched(text: str, patterns: Any, adapter: TypeAdapter[Any], field: str, expected: str, commas: Commas) -> Any:
    root = ("loads", 0, field)
    for pattern, values in patterns:
        found = pattern.match(text)
        if found:
            try:
                return adapter.validate_python(values(found, commas))
            except ValidationError as error:
                raise ValueError(field_problems(error, root=root)[0].accepted) from None
    raise ValueError(expected)


def _value(text: str, commas: Commas) -> float:
    return read_number(text, commas)


def _speeds_values(settings: str, quality: str, commas: Commas) -> dict[str, object]:
    found, chosen = [], ""
    for part in settings.split(","):
        name, _, watts = part.partition("=")
        if watts.endswith("*"):
            chosen = name.strip()
        try:
            power_w = read_number(watts.rstrip("*"), commas)
        except NumberError:
            raise ValueError(KNOWN_EXPECTED) from None
        found.append({"name": name.strip(), "power_w": power_w})
    if not chosen:
        raise ValueError("the chosen setting marked with *, for example low=20, high=55*")
    return {"kind": "speeds", "settings": found, "chosen": chosen, "quality": quality}
