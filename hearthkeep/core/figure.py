"""A figure with its working: what every number on a screen can be opened to."""

from __future__ import annotations

from dataclasses import dataclass

PHYSICS = "Arithmetic of power and energy"
COMMON_PRACTICE = "Common practice, no source"


@dataclass(frozen=True, kw_only=True, slots=True)
class Term:
    """One number that goes into a figure."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Figure:
    """A figure with its working."""

    label: str
    value: float
    unit: str
    formula: str
    terms: tuple[Term, ...]
    basis: str
