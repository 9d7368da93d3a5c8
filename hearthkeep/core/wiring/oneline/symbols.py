"""Symbols of the one-line diagram as path data about their middle: IEC 60617 in metric practice, IEEE Std 315 in North American.

Drawn from memory of the two standards, simplified where a diagram of this size asks for it.
"""

from __future__ import annotations

from hearthkeep.core.design import Practice
from hearthkeep.core.wiring.oneline.geometry import LegendEntry

#: Sizes of the symbols: width and height.
SIZES: dict[str, tuple[float, float]] = {
    "array": (44, 30),
    "battery": (40, 30),
    "generator": (34, 34),
    "wind": (34, 34),
    "alternator": (34, 34),
    "grid": (34, 34),
    "outlet": (54, 30),
    "combiner": (24, 30),
    "terminal": (6, 6),
    "controller": (54, 32),
    "charger": (54, 32),
    "grid_tied": (54, 32),
    "inverter": (60, 40),
    "all_in_one": (60, 40),
    "input": (18, 9),
    "load": (46, 30),
    "main": (54, 32),
    "panel": (26, 34),
    "transfer": (30, 34),
    "ground_bar": (40, 12),
    "electrode": (26, 18),
    "frames": (44, 30),
    "meter": (22, 22),
    "fuse": (24, 10),
    "breaker": (20, 14),
    "disconnect": (18, 12),
    "plug": (20, 12),
    "shunt": (26, 10),
    "inlet": (16, 16),
    "no_device": (14, 14),
    "bus": (5, 40),
    "block": (14, 40),
}


def _box(width: float, height: float) -> str:
    return f"M{-width / 2:g} {-height / 2:g}h{width:g}v{height:g}h{-width:g}z"


def _circle(radius: float) -> str:
    return f"M{-radius:g} 0a{radius:g} {radius:g} 0 1 0 {2 * radius:g} 0a{radius:g} {radius:g} 0 1 0 {-2 * radius:g} 0"


def _whole(kind: str) -> str:
    return _box(*SIZES[kind])


#: Alternating current, direct current, about a point.
def _wave(x: float, y: float) -> str:
    return f"M{x - 7:g} {y:g}q3.5 -6 7 0t7 0"


def _straight(x: float, y: float) -> str:
    return f"M{x - 7:g} {y - 2:g}h14M{x - 7:g} {y + 2:g}h3.5m1.75 0h3.5m1.75 0h3.5"


_COMMON = {
    # A rectangle with the arrow of a cell that light makes work.
    "array": _whole("array") + "M-22 -15l14 15l-14 15",
    # Long and short plates of two cells.
    "battery": "M-20 0h12M-8 -13v26M-3 -6v12M3 -13v26M8 -6v12M8 0h12",
    "generator": _circle(17) + "M5 -5a7 7 0 1 0 0 10v-5h-4",
    "wind": _circle(17) + "M0 0v-13M0 0l11 7M0 0l-11 7",
    "alternator": _circle(17) + _wave(0, 1),
    "grid": _circle(17) + _wave(0, 1),
    "outlet": _whole("outlet") + "M-7 -4v8M7 -4v8",
    "combiner": _whole("combiner") + "M-12 -9h8l5 9l-5 9h-8M-12 0h24",
    "terminal": _circle(3),
    "controller": _whole("controller") + "M-27 16l54 -32" + _straight(-13, -8) + _straight(13, 8),
    "charger": _whole("charger") + "M-27 16l54 -32" + _wave(-13, -7) + _straight(13, 8),
    "grid_tied": _whole("grid_tied") + "M-27 16l54 -32" + _straight(-13, -8) + _wave(13, 9),
    "inverter": _whole("inverter") + "M-30 20l60 -40" + _straight(-14, -10) + _wave(14, 11),
    # An inverter with a rectifier beside it, in one box.
    "all_in_one": _whole("all_in_one")
    + "M-30 20l60 -40M0 20v-20"
    + _straight(-14, -10)
    + _wave(18, 11)
    + _straight(-12, 14),
    "input": _whole("input") + "M-4 -2l4 4l4 -4",
    "load": _whole("load") + "M-8 -5l6 5l-6 5M2 -5l6 5l-6 5",
    "main": _whole("main") + "M-27 16l54 -32",
    "panel": _whole("panel") + "M-13 -17l26 34",
    "transfer": _whole("transfer") + "M-15 -9h7M-15 9h7M-8 -9l14 9M6 0h9",
    "ground_bar": _whole("ground_bar") + "M-12 0h.1M0 0h.1M12 0h.1",
    "electrode": "M0 -9v6M-13 -3h26M-8 2h16M-3 7h6",
    "frames": _whole("frames") + "M-22 15l12 -30M-8 15l12 -30M6 15l12 -30",
    "meter": _circle(11) + "M-5 4v-8l5 6l5 -6v8",
    "inlet": _circle(8) + "M-3 -3v6M3 -3v6",
    "bus": _whole("bus"),
    "block": _whole("block"),
    "no_device": "M-7 -7l14 14M-7 7l14 -14",
}
_BY_PRACTICE = {
    Practice.METRIC_230: {
        # A rectangle with the line through it; a contact with a cross; a contact with a bar.
        "fuse": _whole("fuse") + "M-12 0h24",
        "breaker": "M-10 0h3M-7 0l13 -6M7 0h3M4.5 -2.5l5 5M4.5 2.5l5 -5",
        "disconnect": "M-9 0h2M-7 0l12 -6M6 -3.5v7M6 0h3",
        # A pin in a half round socket.
        "plug": "M-10 0h5M-5 -2h8v4h-8zM8 -6a6 6 0 0 0 0 12M2 0h8",
        "shunt": _whole("shunt") + "M-9 5v4M9 5v4",
    },
    Practice.NORTH_AMERICAN: {
        # A rectangle between two caps; an arc over a gap; a blade.
        "fuse": "M-12 0h3M-9 -5h18v10h-18zM9 0h3M-9 0h18",
        "breaker": "M-10 1h2M8 1h2M-8 1a8.5 8.5 0 0 1 16 0",
        "disconnect": "M-9 0h2M-7 0l12 -6M7 0h2",
        # One arrowhead in another.
        "plug": "M-10 0h10M-6 -5l5 5l-5 5M0 -5l5 5l-5 5M5 0h5",
        "shunt": "M-13 0h3l2 -5l4 10l4 -10l4 10l4 -10l2 5h3",
    },
}
MEANS = {
    "array": "solar array",
    "battery": "bank",
    "generator": "generator",
    "wind": "wind turbine",
    "alternator": "alternator",
    "grid": "grid",
    "outlet": "outlet",
    "combiner": "combiner",
    "controller": "solar controller",
    "charger": "charger",
    "grid_tied": "grid-tied inverter",
    "inverter": "inverter",
    "all_in_one": "inverter, charger and solar controllers in one box",
    "input": "solar input of the unit",
    "load": "load",
    "main": "main panel",
    "panel": "panel",
    "transfer": "transfer switch",
    "ground_bar": "ground bar",
    "electrode": "grounding electrode",
    "frames": "frames and cases",
    "block": "distribution block",
    "meter": "meter",
    "fuse": "fuse",
    "breaker": "breaker",
    "disconnect": "disconnect",
    "plug": "plug or connector, pulled by hand",
    "shunt": "shunt, in the negative",
    "inlet": "inlet",
    "no_device": "no device where one is asked",
}


def drawing(kind: str, practice: Practice, height: float | None = None) -> str:
    """Path data of a kind of symbol; one that stands across several lanes is a taller box, its line from corner to corner."""
    width, usual = SIZES[kind]
    if height is None or abs(height - usual) < 0.1:
        return {**_COMMON, **_BY_PRACTICE[practice]}[kind]
    box = _box(width, height)
    if kind in ("bus", "block", "load"):
        return box
    if kind in ("panel", "transfer"):
        return f"{box}M{-width / 2:g} {-height / 2:g}l{width:g} {height:g}"
    marks = {
        "controller": _straight(-13, 9 - height / 2) + _straight(13, height / 2 - 9),
        "grid_tied": _straight(-13, 9 - height / 2) + _wave(13, height / 2 - 8),
    }
    return f"{box}M{-width / 2:g} {height / 2:g}l{width:g} {-height:g}{marks.get(kind, '')}"


def legend(kinds: set[str], practice: Practice) -> tuple[LegendEntry, ...]:
    """What the kinds that are used stand for, in the order of the list above."""
    return tuple(
        LegendEntry(
            kind=kind, means=means, path=drawing(kind, practice), width_px=SIZES[kind][0], height_px=SIZES[kind][1]
        )
        for kind, means in MEANS.items()
        if kind in kinds
    )
