"""The one-line diagram as geometry: symbols, lines and texts with their places, for page, paper and tests alike."""

from __future__ import annotations

from dataclasses import dataclass

#: Height of the diagram's texts, and the room that one character takes at the most, as a part of it. Wider than the shipped type
#: really is, so that nothing touches.
TEXT_PX, SMALL_PX, CHARACTER = 12.0, 11.0, 0.58
#: Of a text's height, what lies above its baseline and below it.
ABOVE, BELOW = 0.78, 0.24


@dataclass(frozen=True, kw_only=True, slots=True)
class Text:
    """A line of text by its baseline."""

    x: float
    y: float
    text: str
    #: start, middle or end.
    anchor: str = "start"
    height_px: float = TEXT_PX

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, top, right and bottom of the room it takes."""
        width = len(self.text) * CHARACTER * self.height_px
        left = self.x - {"start": 0.0, "middle": width / 2, "end": width}[self.anchor]
        return left, self.y - ABOVE * self.height_px, left + width, self.y + BELOW * self.height_px


@dataclass(frozen=True, kw_only=True, slots=True)
class Symbol:
    """A part, or a device in a run."""

    #: The part's key, or run and place of a device.
    key: str
    kind: str
    #: Its middle and its size.
    x: float
    y: float
    width_px: float
    height_px: float
    #: What is drawn, as path data about its middle.
    path: str
    #: The run it sits in, or none for a part.
    run: str | None
    #: Said of it when asked.
    title: str
    texts: tuple[Text, ...] = ()

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, top, right and bottom."""
        half_x, half_y = self.width_px / 2, self.height_px / 2
        return self.x - half_x, self.y - half_y, self.x + half_x, self.y + half_y


Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """A run, or a conductor that is there already, as one or more strokes."""

    #: The run's key, or a name of its own.
    key: str
    #: Whether it is a run of the wiring.
    is_run: bool
    strokes: tuple[Points, ...]
    #: Where it is joined to a bar.
    dots: Points
    title: str
    texts: tuple[Text, ...] = ()
    #: Inside a unit, so that nobody lays it.
    is_inside: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class LegendEntry:
    """A kind of symbol and what it stands for."""

    kind: str
    means: str
    path: str
    width_px: float
    height_px: float


@dataclass(frozen=True, kw_only=True, slots=True)
class OneLine:
    """The whole diagram."""

    width_px: float
    height_px: float
    symbols: tuple[Symbol, ...]
    lines: tuple[Line, ...]
    #: What no symbol shows, beneath everything else.
    notes: tuple[Text, ...]
    #: What each kind of symbol that is used stands for, and how it is drawn.
    legend: tuple[LegendEntry, ...]


def wrapped(text: str, characters: int, lines: int) -> tuple[str, ...]:
    """A text in at most so many lines of so many characters; what does not fit ends with an ellipsis.

    >>> wrapped("Roof controller on the garage wall", 16, 2)
    ('Roof controller', 'on the garage w…')
    """
    found: list[str] = [""]
    for word in text.split():
        joined = f"{found[-1]} {word}".strip()
        if len(joined) <= characters:
            found[-1] = joined
        else:
            found.append(word)
    found = [line for line in found if line]
    kept = found[:lines]
    if len(found) > lines and kept:
        kept[-1] = " ".join([kept[-1], *found[lines:]])
    return tuple(line if len(line) <= characters else line[: characters - 1].rstrip() + "…" for line in kept)
