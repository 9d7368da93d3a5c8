"""The panel's circuits: breaker, place, leg and wire of each, and whether it is backed up."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Annotated

from pydantic import AfterValidator, Field, StringConstraints

from hearthkeep.core.design.fields import DesignPart, Identifier, Name

#: Slots of the largest panel of a home, and so the most circuits.
MOST_SLOTS = 84


class Leg(StrEnum):
    """One of the two lines of a 120/240 V service; where there is only one line, it is A."""

    A = "A"
    B = "B"

    @property
    def other(self) -> Leg:
        """The leg across."""
        return Leg.B if self is Leg.A else Leg.A


_SIZE = re.compile(r"^(?:[1-9]\d{0,2}(?:\.\d{1,2})?|0\.\d{1,2}|[1-4]/0)$", re.ASCII)


def _size(text: str) -> str:
    if not _SIZE.match(text):
        raise ValueError("must be a size such as 14, 1/0 or 2.5")
    return text


#: Size of a conductor: AWG or kcmil in North American practice, mm² in metric practice.
WireSize = Annotated[
    str,
    StringConstraints(max_length=6),
    AfterValidator(_size),
    Field(json_schema_extra={"format": "wire-size"}),
]
#: Rating of a breaker, a switch or a bus [A].
RatedAmps = Annotated[float, Field(strict=True, gt=0, le=1_000)]


class Circuit(DesignPart):
    """One circuit of the main panel. Loads name the circuit they hang on."""

    id: Identifier
    #: Slot of its breaker, counted down the panel, odd ones left; between two legs a two-pole breaker takes the one below too.
    slot: Annotated[int, Field(strict=True, ge=1, le=MOST_SLOTS)]
    name: Name
    breaker_a: RatedAmps
    poles: Annotated[int, Field(strict=True, ge=1, le=2)] = 1
    wire: WireSize | None = None
    #: Leg of its (upper) pole; empty means the one its slot stands on.
    leg: Leg | None = None
    backed_up: bool = False
    #: Why it is backed up, or kept on the grid.
    why: Name | None = None
    #: Leg it is given on the backed-up side; empty means the one it has in the main panel.
    backup_leg: Leg | None = None
    #: Another circuit whose neutral conductor it shares (a multiwire branch circuit).
    shares_neutral_with: Identifier | None = None

    def slots(self, *, stacked: bool) -> tuple[int, ...]:
        """The slots its breaker takes: of a panel with two columns (`stacked`) two for two poles, else one."""
        return (self.slot, self.slot + 2) if self.poles == 2 and stacked else (self.slot,)
