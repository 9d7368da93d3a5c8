"""The one-line diagram as a standalone SVG drawing, for print and for other programs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from html import escape
from itertools import pairwise

from hearthkeep.core.wiring import OneLine, OneLineText

#: Line widths, and the room around the title.
_RUN, _WIRE, _SYMBOL, _HEAD = 1.3, 0.8, 1.0, 34.0
#: Room between what stands above a cut of a tall drawing and what stands below it.
_GAP = 6.0
#: Kinds that sit in a line and part it.
_IN_LINE = ("fuse", "breaker", "disconnect", "shunt", "inlet", "no_device")


#: The part of a drawing between two heights.
Window = tuple[float, float]


def one_line_svg(
    drawing: OneLine, *, title: str = "", note: str = "", window: Window | None = None, has_texts: bool = True
) -> bytes:
    """
    The diagram, black on white, its title above and a note below where there are any; of a tall one what lies in a window.

    Without texts for those who set them in another way: `texts_in` gives them.
    """
    head = _HEAD if title else 0.0
    top, bottom = window or (0.0, drawing.height_px)
    width, height = drawing.width_px, bottom - top + head + (_HEAD if note else 0.0)
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}" width="{width:g}" height="{height:g}" '
        'font-family="Atkinson Hyperlegible Next, Arial, sans-serif">',
        f"<title>{escape(title)}</title>",
        f'<rect width="{width:g}" height="{height:g}" fill="#fff"/>',
        f'<text x="14" y="24" font-size="14" font-weight="700">{escape(title)}</text>' if title else "",
        f'<g transform="translate(0 {head - top:g})" fill="none" stroke="#000" stroke-linejoin="round">',
    ]
    for line in drawing.lines:
        strokes = [piece for stroke in line.strokes for piece in _inside(stroke, top, bottom)]
        if not strokes:
            continue
        dash = ' stroke-dasharray="4 3"' if line.is_inside else ""
        path = "".join("M" + "L".join(f"{x:g} {y:g}" for x, y in stroke) for stroke in strokes)
        parts.append(
            f'<path d="{path}" stroke-width="{_RUN if line.is_run else _WIRE:g}"{dash}><title>{escape(line.title)}</title></path>'
        )
        parts += [f'<circle cx="{x:g}" cy="{y:g}" r="2.6" fill="#000"/>' for x, y in line.dots if top <= y <= bottom]
    shown = [symbol for symbol in drawing.symbols if symbol.box[1] < bottom and symbol.box[3] > top]
    for symbol in shown:
        left, above, right, below = symbol.box
        if symbol.kind == "bus":
            above, below = max(above, top), min(below, bottom)
            parts.append(
                f'<rect x="{left:g}" y="{above:g}" width="{right - left:g}" height="{below - above:g}" fill="#000">'
                f"<title>{escape(symbol.title)}</title></rect>"
            )
            continue
        if symbol.kind in _IN_LINE:
            parts.append(
                f'<rect x="{left:g}" y="{above:g}" width="{right - left:g}" height="{below - above:g}" fill="#fff" stroke="none"/>'
            )
        parts.append(
            f'<path transform="translate({symbol.x:g} {symbol.y:g})" d="{symbol.path}" fill="#fff" stroke-width="{_SYMBOL:g}">'
            f"<title>{escape(symbol.title)}</title></path>"
        )
    parts.append("</g>")
    parts.append(f'<g transform="translate(0 {head - top:g})">')
    if has_texts:
        parts += map(_text, texts_in(drawing, (top, bottom)))
    parts.append("</g>")
    if note:
        parts.append(f'<text x="14" y="{height - 12:g}" font-size="9">{escape(note)}</text>')
    return "".join([*parts, "</svg>"]).encode()


def texts_in(drawing: OneLine, window: Window) -> list[OneLineText]:
    """The texts of a diagram that lie in a window."""
    of_symbols = [text for symbol in drawing.symbols for text in symbol.texts]
    of_lines = [text for line in drawing.lines for text in line.texts]
    return [text for text in (*of_symbols, *of_lines, *drawing.notes) if window[0] <= text.y <= window[1]]


def windows(drawing: OneLine, most_px: float) -> list[Window]:
    """
    A tall diagram cut into parts at most so high, each between two heights at which only bars and lines that run down are cut.

    Where no such height is to be found in a part, it is made as high as it has to be.
    """
    solid = sorted(
        (box[1], box[3])
        for box in (
            *(symbol.box for symbol in drawing.symbols if symbol.kind != "bus"),
            *(text.box for text in texts_in(drawing, (0.0, drawing.height_px))),
            *((0.0, y - 1.0, 0.0, y + 1.0) for line in drawing.lines for stroke in line.strokes for _, y in stroke),
        )
    )
    free = [0.0]
    reached = 0.0
    for above, below in solid:
        if above > reached + _GAP:
            free.append((above + reached) / 2)
        reached = max(reached, below)
    free.append(drawing.height_px)
    found: list[Window] = []
    top = 0.0
    while top < drawing.height_px:
        fitting = [y for y in free if top < y <= top + most_px]
        bottom = fitting[-1] if fitting else next(y for y in free if y > top)
        found.append((top, bottom))
        top = bottom
    return found


def _inside(stroke: Sequence[tuple[float, float]], top: float, bottom: float) -> Iterator[list[tuple[float, float]]]:
    """What of a line of straight pieces, level or upright, lies between two heights."""
    if all(top <= y <= bottom for _, y in stroke):
        yield list(stroke)
        return
    for (x, y), (to_x, to_y) in pairwise(stroke):
        if max(y, to_y) >= top and min(y, to_y) <= bottom:
            yield [(x, min(max(y, top), bottom)), (to_x, min(max(to_y, top), bottom))]


def _text(text: OneLineText) -> str:
    return f'<text x="{text.x:g}" y="{text.y:g}" font-size="{text.height_px:g}" text-anchor="{text.anchor}">{escape(text.text)}</text>'
