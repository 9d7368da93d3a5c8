"""SunSpec models as registers: laid out from values, and read back to them. The layouts are data: `models.json`."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

Value = float | str | None

#: The two words that begin the models, and where they are looked for, the usual place first.
MARKER = (0x5375, 0x6E53)
BASES = (40_000, 0, 50_000)
#: Behind the last model stands this in place of a number.
END_MODEL = 0xFFFF
#: Powers of ten that a scale factor may say.
SCALE_REACH = 10
#: What stands for a value that a device does not have, by type.
NOT_HAD: dict[str, int] = {
    "int16": 0x8000, "uint16": 0xFFFF, "enum16": 0xFFFF, "sunssf": 0x8000, "bitfield32": 0xFFFF_FFFF, "uint32": 0xFFFF_FFFF,
    "acc32": 0, "uint64": 0xFFFF_FFFF_FFFF_FFFF, "pad": 0x8000, "count": 0,
}  # fmt: skip
_SIGNED = frozenset({"int16", "sunssf"})


class Point(NamedTuple):
    """One value of a model."""

    name: str
    type: str
    #: Registers that it takes.
    size: int
    #: The point that holds its power of ten.
    scale: str | None


@dataclass(frozen=True, slots=True)
class Layout:
    """A model's points in the order of their registers, and the block that is repeated behind them."""

    model: int
    name: str
    points: tuple[Point, ...]
    repeated: tuple[Point, ...] = ()

    @property
    def words(self) -> int:
        """Registers of the part that is not repeated."""
        return sum(point.size for point in self.points)

    @property
    def words_repeated(self) -> int:
        """Registers of one repeated block."""
        return sum(point.size for point in self.repeated)


@dataclass(frozen=True, slots=True)
class Model:
    """A model's values; none where the device does not have one."""

    model: int
    values: Mapping[str, Value]
    blocks: tuple[Mapping[str, Value], ...] = ()

    def number(self, name: str) -> float | None:
        """A value that is a number; none else."""
        value = self.values.get(name)
        return value if isinstance(value, float) else None


@cache
def layouts() -> Mapping[int, Layout]:
    """Every model that is known, by its number."""
    document: dict[str, Any] = json.loads((Path(__file__).parent / "models.json").read_text(encoding="utf-8"))
    found = {}
    for number, each in document["models"].items():
        points = tuple(Point(*point) for point in each["points"])
        repeated = tuple(Point(*point) for point in each.get("repeats", {"points": ()})["points"])
        found[int(number)] = Layout(int(number), each["name"], points, repeated)
    return found


def laid_out(model: Model, scales: Mapping[str, int]) -> list[int]:
    """
    The registers of a model, its number and length in front.

    :param scales: powers of ten by the points that hold them; 0 where none is given.
    """
    layout = layouts()[model.model]
    length = layout.words + layout.words_repeated * len(model.blocks) - 2
    head: dict[str, Value] = {**model.values, "ID": float(model.model), "L": float(length)}
    words = [word for point in layout.points for word in _words(point, head, scales)]
    for block in model.blocks:
        words += [word for point in layout.repeated for word in _words(point, block, scales)]
    return words


def _words(point: Point, values: Mapping[str, Value], scales: Mapping[str, int]) -> list[int]:
    value = values.get(point.name)
    if point.type == "string":
        raw = ("" if value is None else str(value)).encode("utf-8")[: 2 * point.size].ljust(2 * point.size, b"\0")
        return [int.from_bytes(raw[at : at + 2], "big") for at in range(0, len(raw), 2)]
    if point.type == "sunssf":
        number = scales.get(point.name, 0)
    elif not isinstance(value, (int, float)):
        number = NOT_HAD[point.type]
    else:
        power = 0 if point.scale is None else scales.get(point.scale, 0)
        number = round(value / 10.0**power)
    bits = 16 * point.size
    low, high = (-(1 << (bits - 1)) + 1, (1 << (bits - 1)) - 1) if point.type in _SIGNED else (0, (1 << bits) - 2)
    held = number if number == NOT_HAD.get(point.type) else min(max(number, low), high)
    raw_number = held & ((1 << bits) - 1)
    return [(raw_number >> (16 * at)) & 0xFFFF for at in range(point.size - 1, -1, -1)]


def read_model(model: int, words: Sequence[int]) -> tuple[Model, tuple[str, ...]]:
    """
    The values of a model, and what was wrong with it in words.

    :param words: from its number on; fewer than its layout leave the points behind them unread.
    """
    layout = layouts()[model]
    values, scales, wrong = _values(layout.points, words)
    blocks = []
    if layout.repeated:
        at = layout.words
        while at + layout.words_repeated <= len(words):
            block, _, others = _values(layout.repeated, words[at : at + layout.words_repeated], scales)
            blocks.append(block)
            wrong += others
            at += layout.words_repeated
    return Model(model, values, tuple(blocks)), tuple(dict.fromkeys(wrong))


def _values(
    points: Sequence[Point], words: Sequence[int], scales: Mapping[str, int] | None = None
) -> tuple[dict[str, Value], dict[str, int], list[str]]:
    raw: dict[str, tuple[Point, int | str | None]] = {}
    at = 0
    for point in points:
        own = words[at : at + point.size]
        at += point.size
        raw[point.name] = (point, _raw(point, own) if len(own) == point.size else None)
    known = {
        **(scales or {}),
        **{name: value for name, (point, value) in raw.items() if point.type == "sunssf" and isinstance(value, int)},
    }
    values: dict[str, Value] = {}
    wrong: list[str] = []
    for name, (point, value) in raw.items():
        if point.type in ("sunssf", "pad"):
            continue
        if not isinstance(value, int):
            values[name] = value
            continue
        power = 0 if point.scale is None else known.get(point.scale, 0)
        if abs(power) > SCALE_REACH:
            wrong.append(f"{point.scale} says a power of ten of {power}; known are -{SCALE_REACH} to {SCALE_REACH}")
            values[name] = None
        else:
            values[name] = float(value) * 10.0**power if power >= 0 else float(value) / 10.0**-power
    return values, known, wrong


def _raw(point: Point, words: Sequence[int]) -> int | str | None:
    if point.type == "string":
        content = b"".join((word & 0xFFFF).to_bytes(2, "big") for word in words)
        return content.split(b"\0")[0].decode("utf-8", "replace") or None
    number = 0
    for word in words:
        number = number << 16 | (word & 0xFFFF)
    if number == NOT_HAD.get(point.type) and point.type not in ("acc32", "count"):
        return None
    bits = 16 * point.size
    return number - (1 << bits) if point.type in _SIGNED and number >= 1 << (bits - 1) else number
