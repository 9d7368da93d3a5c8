"""Laid-out pages looked at by their boxes: whether any text leaves its box or the page, or lies over another."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

#: What a glyph may stick out of its box without anybody seeing it, and two boxes share [px].
NEAR_PX = 0.8


@dataclass(frozen=True, slots=True)
class Written:
    """One piece of text with its place and the inner edges of what holds it [px]."""

    text: str
    left: float
    top: float
    right: float
    bottom: float
    holder: tuple[float, float, float, float]


def written(page: Any) -> list[Written]:
    """Every piece of text of a page, head and foot included."""
    return list(_texts(page._page_box, (0.0, 0.0, page.width, page.height)))


def _texts(box: Any, holder: tuple[float, float, float, float]) -> Iterator[Written]:
    from weasyprint.formatting_structure import boxes

    if str(getattr(box, "element_tag", "")).endswith(("::marker", "::before")):
        # The number or dot of a list stands in the margin beside its entry.
        holder = (0.0, 0.0, holder[2], holder[3])
    if isinstance(box, boxes.TextBox):
        if box.text.strip():
            # The line's box is taller than its letters, and more so where they come from another script's font.
            middle, half = box.position_y + box.height / 2, box.style["font_size"] * 0.38
            yield Written(box.text, box.position_x, middle - half, box.position_x + box.width, middle + half, holder)
        return
    if isinstance(box, (boxes.BlockContainerBox, boxes.TableCellBox)) and not isinstance(box, boxes.LineBox):
        left, top = box.content_box_x(), box.content_box_y()
        holder = (left, top, left + box.width, top + box.height)
    for child in getattr(box, "children", ()):
        yield from _texts(child, holder)


def outside(page: Any) -> list[str]:
    """Texts that leave the box which holds them to a side, or the page."""
    found = []
    for text in written(page):
        left, _, right, _ = text.holder
        if text.left < left - NEAR_PX or text.right > right + NEAR_PX:
            found.append(f"{text.text!r} from {text.left:.1f} to {text.right:.1f} in {left:.1f} to {right:.1f}")
        if text.top < 0 or text.bottom > page.height or text.left < 0 or text.right > page.width:
            found.append(f"{text.text!r} leaves the page")
    return found


def overlapping(page: Any) -> list[str]:
    """Pairs of texts that lie over each other."""
    texts = sorted(written(page), key=lambda text: text.top)
    found = []
    for at, one in enumerate(texts):
        for other in texts[at + 1 :]:
            if other.top >= one.bottom - NEAR_PX:
                break
            if min(one.right, other.right) - max(one.left, other.left) > NEAR_PX:
                found.append(f"{one.text!r} and {other.text!r}")
    return found
