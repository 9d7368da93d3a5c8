"""Work on a whole year cut into pieces, each worked out alone: in one go here, or by many workers as a job."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

Piece = TypeVar("Piece")
Whole = TypeVar("Whole")


@dataclass(frozen=True, kw_only=True, slots=True)
class Pieces(Generic[Piece, Whole]):
    """A question in numbered pieces, and what they come to together."""

    count: int
    #: All of it together, in outages of the planned length from every hour of the year.
    years: float
    #: The answer of one number, on so many threads; none for as many as there are cores.
    answer: Callable[[int, int | None], Piece]
    #: The whole, from the answers of all numbers in their order.
    whole: Callable[[Sequence[Piece]], Whole]

    def at_once(self) -> Whole:
        """All pieces, one after the other, each on as many threads as there are cores."""
        return self.whole([self.answer(number, None) for number in range(self.count)])
