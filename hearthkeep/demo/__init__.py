"""Made-up designs: two homes in an invented ice-storm town, a house above it off the grid, a flat under a grid-tied array, and a
village hall's relay cart."""

from __future__ import annotations

from pathlib import Path

from hearthkeep.core.design import Design, read_design

LIBRARY = Path(__file__).resolve().parent / "library"
EXAMPLES = Path(__file__).resolve().parents[2] / "examples"
NAMES = ("hill-house", "relay-cart", "terrace-flat", "birchrow-16", "birchrow-14")


def starter_units(kind: str) -> str:
    """Invented units that the library begins with, as CSV; `kind` is battery, inverter or module."""
    return (LIBRARY / f"{kind}.csv").read_text(encoding="utf-8")


def demo_designs() -> tuple[Design, ...]:
    """The designs under examples/, the one to be looked at first last."""
    return tuple(read_design((EXAMPLES / f"{name}.json").read_bytes()) for name in NAMES)
