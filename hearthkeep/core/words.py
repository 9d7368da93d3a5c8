"""Numbers as they stand in a sentence."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

#: Headroom is written in per cent up to here.
HEADROOM_IN_PERCENT = 3.0


def watts(value: float) -> str:
    """Watts for a sentence.

    >>> watts(1234.4)
    '1,234 W'
    """
    # Halves go up, as the screens round them.
    return f"{math.floor(value + 0.5):,} W"


def percent(fraction: float) -> str:
    """A part of a whole for a sentence.

    >>> percent(0.274)
    '27 %'
    """
    # Adding nothing keeps a rounded negative zero from being printed.
    return f"{round(100 * fraction) + 0:,} %"


def hours(value: float) -> str:
    """Hours for a sentence, to the minute.

    >>> hours(41.3), hours(72.0), hours(-0.9)
    ('41 h 18', '72 h', '−0 h 54')
    """
    whole, minutes = divmod(round(abs(value) * 60), 60)
    sign = "−" if value < 0 and (whole or minutes) else ""
    return f"{sign}{whole:,} h" if minutes == 0 else f"{sign}{whole:,} h {minutes:02d}"


def begun(text: str) -> str:
    """A text as the beginning of a sentence: the first letter is a capital, all others stay as they are.

    >>> begun("class T fuse"), begun("DC breaker"), begun("")
    ('Class T fuse', 'DC breaker', '')
    """
    return text[:1].upper() + text[1:]


def counted(number: int, thing: str) -> str:
    """A count for a sentence, with the plural where it takes one.

    >>> counted(1, "day"), counted(3, "day")
    ('1 day', '3 days')
    """
    return f"{number:,} {thing}" if number == 1 else f"{number:,} {thing}s"


def listed(things: Sequence[str]) -> str:
    """Some things in a sentence.

    >>> listed(["main", "output", "bypass"]), listed(["inlet"])
    ('main, output and bypass', 'inlet')
    """
    return " and ".join(part for part in (", ".join(things[:-1]), *things[-1:]) if part)


def shortened(name: str, longest: int = 60) -> str:
    """A name for a sentence, cut where it is longer than that.

    >>> shortened("The lamp beside the door", 12)
    'The lamp be…'
    """
    return name if len(name) <= longest else name[: longest - 1].rstrip() + "…"


def some_of(names: Sequence[str], most: int = 3, longest: int = 60) -> str:
    """The first few of some names in a sentence, and how many more there are.

    >>> some_of(["fridge", "boiler"]), some_of(["fridge", "boiler", "lamp", "modem", "pump"])
    ('fridge and boiler', 'fridge, boiler, lamp and 2 more')
    """
    shown = [shortened(name, longest) for name in names[:most]]
    return listed([*shown, f"{len(names) - most} more"] if len(names) > most else shown)


@dataclass(frozen=True, slots=True)
class Names:
    """Names that stand in a sentence one after the other; those above `most` are only counted."""

    names: tuple[str, ...]
    most: int = 3

    def __str__(self) -> str:
        return some_of(self.names, self.most)


class Sentence(str):
    """A text that can be said in another language: its pattern, and what stands in it."""

    pattern: str
    values: dict[str, str | Names]
    #: The pattern for more than one, and how many there are; none where nothing is counted.
    plural: str | None
    number: int

    def __new__(cls, text: str = "") -> Sentence:
        """A text that is its own pattern."""
        said = super().__new__(cls, text)
        said.pattern, said.values, said.plural, said.number = text, {}, None, 1
        return said


def sentence(pattern: str, **values: str | Names) -> Sentence:
    """A pattern with its values put in.

    >>> sentence("Open {what}.", what=Names(("main", "bypass"))), sentence("Open {what}.", what="main").pattern
    ('Open main and bypass.', 'Open {what}.')
    """
    said = Sentence(pattern.format_map(values))
    said.pattern, said.values = pattern, values
    return said


def counted_sentence(one: str, many: str, number: int, **values: str | Names) -> Sentence:
    """One of two patterns by how many there are, which stands in it as {number}.

    >>> counted_sentence("{number} step", "{number} steps", 3)
    '3 steps'
    """
    held = {"number": f"{number:,}", **values}
    said = Sentence((one if number == 1 else many).format_map(held))
    said.pattern, said.plural, said.number, said.values = one, many, number, held
    return said


def kilowatts(power_w: float) -> str:
    """A size in kilowatts with its article.

    >>> kilowatts(8000.0), kilowatts(2500.0), kilowatts(11000.0)
    ('an 8 kW', 'a 2.5 kW', 'an 11 kW')
    """
    text = f"{power_w / 1000:g}"
    article = "an" if text.startswith("8") or text.split(".")[0] in ("11", "18") else "a"
    return f"{article} {text} kW"


def headroom(frac: float) -> str:
    """Headroom for a sentence: a part of the peak, or how many times the peak where it is far more.

    >>> headroom(0.25), headroom(149.0)
    ('25 %', '150 times the peak')
    """
    return percent(frac) if frac < HEADROOM_IN_PERCENT else f"{frac + 1:,.0f} times the peak"
