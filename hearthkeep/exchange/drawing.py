"""The one-line diagram as a standalone SVG drawing, for print and for other programs."""

from __future__ import annotations

from html import escape

from hearthkeep.core.wiring import OneLine, OneLineText

#: Line widths, and the room around the title.
_RUN, _WIRE, _SYMBOL, _HEAD = 1.3, 0.8, 1.0, 34.0
#: Kinds that sit in a line and part it.
_IN_LINE = ("fuse", "breaker", "disconnect", "shunt", "inlet", "no_device")


def one_line_svg(drawing: OneLine, *, title: str, note: str) -> bytes:
    """The diagram with its title above and a note below, black on white, sized for one sheet; without them where they are empty."""
    head = _HEAD if title else 0.0
    width, height = drawing.width_px, drawing.height_px + head + (_HEAD if note else 0.0)
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}" width="{width:g}" height="{height:g}" '
        'font-family="Atkinson Hyperlegible Next, Arial, sans-serif">',
        f"<title>{escape(title)}</title>",
        f'<rect width="{width:g}" height="{height:g}" fill="#fff"/>',
        f'<text x="14" y="24" font-size="14" font-weight="700">{escape(title)}</text>',
        f'<g transform="translate(0 {head:g})" fill="none" stroke="#000" stroke-linejoin="round">',
    ]
    for line in drawing.lines:
        dash = ' stroke-dasharray="4 3"' if line.is_inside else ""
        path = "".join("M" + "L".join(f"{x:g} {y:g}" for x, y in stroke) for stroke in line.strokes)
        parts.append(
            f'<path d="{path}" stroke-width="{_RUN if line.is_run else _WIRE:g}"{dash}><title>{escape(line.title)}</title></path>'
        )
        parts += [f'<circle cx="{x:g}" cy="{y:g}" r="2.6" fill="#000"/>' for x, y in line.dots]
    for symbol in drawing.symbols:
        left, top, right, bottom = symbol.box
        if symbol.kind in _IN_LINE:
            parts.append(
                f'<rect x="{left:g}" y="{top:g}" width="{right - left:g}" height="{bottom - top:g}" fill="#fff" stroke="none"/>'
            )
        fill = "#000" if symbol.kind == "bus" else "#fff"
        parts.append(
            f'<path transform="translate({symbol.x:g} {symbol.y:g})" d="{symbol.path}" fill="{fill}" stroke-width="{_SYMBOL:g}">'
            f"<title>{escape(symbol.title)}</title></path>"
        )
    parts.append("</g>")
    parts.append(f'<g transform="translate(0 {head:g})">')
    for symbol in drawing.symbols:
        parts += [_text(text) for text in symbol.texts]
    for line in drawing.lines:
        parts += [_text(text) for text in line.texts]
    parts.append("</g>")
    parts.append(f'<text x="14" y="{height - 12:g}" font-size="9">{escape(note)}</text></svg>')
    return "".join(parts).encode()


def _text(text: OneLineText) -> str:
    return f'<text x="{text.x:g}" y="{text.y:g}" font-size="{text.height_px:g}" text-anchor="{text.anchor}">{escape(text.text)}</text>'
