"""A figure with its working: what every number on a screen can be opened to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

PHYSICS = "Arithmetic of power and energy"
COMMON_PRACTICE = "Common practice, no source"
#: Rows named one by one in a total's working.
MOST_ROWS_TOLD = 10


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


def terms_of_rows(rows: Sequence[tuple[str, float]], unit: str) -> tuple[Term, ...]:
    """The rows that make up a total, the first of them by name and the rest as one.

    >>> [term.value for term in terms_of_rows([("row", 2.0)] * 12, "Wh")][-2:]
    [2.0, 4.0]
    """
    named = [Term(name=name, value=value, unit=unit) for name, value in rows[:MOST_ROWS_TOLD]]
    rest = rows[MOST_ROWS_TOLD:]
    if rest:
        named.append(Term(name=f"{len(rest)} more", value=sum(value for _, value in rest), unit=unit))
    return tuple(named)
