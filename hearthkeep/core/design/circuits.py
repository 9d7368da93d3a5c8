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


_GAUGE = re.compile(r"^([1-9][0-9]{0,2}|[1-4]/0) ?(?:AWG|kcmil)$", re.IGNORECASE)
_AREA = re.compile(r"^([1-9][0-9]{0,2}(?:\.[0-9]{1,2})?|0\.[0-9]{1,2}) ?mm[²2]$", re.IGNORECASE)
#: The thinnest conductor that is counted in thousands of circular mils.
LEAST_KCMIL = 250


def wire_size(size: str, *, is_metric: bool) -> str:
    """A size of one practice's tables with its unit, as a document has it.

    >>> wire_size("2/0", is_metric=False), wire_size("250", is_metric=False), wire_size("35", is_metric=True)
    ('2/0 AWG', '250 kcmil', '35 mm²')
    """
    if is_metric:
        return f"{size} mm²"
    return f"{size} kcmil" if "/" not in size and float(size) >= LEAST_KCMIL else f"{size} AWG"


def _with_unit(text: str) -> str:
    for pattern, is_metric in ((_GAUGE, False), (_AREA, True)):
        found = pattern.match(text)
        if found:
            return wire_size(found[1], is_metric=is_metric)
    raise ValueError("must be a size with its unit, such as 14 AWG, 1/0 AWG, 250 kcmil or 2.5 mm²")


#: Size of a conductor with its unit: AWG, kcmil or mm², whichever stands on its insulation, in either practice.
WireSize = Annotated[
    str,
    StringConstraints(max_length=12),
    AfterValidator(_with_unit),
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
    #: What its outlets are rated for, and that there is one alone on it.
    outlets_a: RatedAmps | None = None
    one_outlet: bool = False
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


#: Panels behind the main one, and circuits of one of them.
MOST_FURTHER, MOST_FURTHER_CIRCUITS = 8, 42


class FurtherCircuit(DesignPart):
    """One circuit of a panel that stands behind a circuit of another one."""

    id: Identifier
    name: Name
    breaker_a: RatedAmps
    poles: Annotated[int, Field(strict=True, ge=1, le=2)] = 1
    wire: WireSize | None = None
    outlets_a: RatedAmps | None = None
    one_outlet: bool = False


class FurtherPanel(DesignPart):
    """A panel fed by a circuit of the main panel, or of another such panel: breaker and conductor of that circuit are its feeder."""

    id: Identifier
    name: Name
    #: The circuit that feeds it.
    fed_by: Identifier
    #: What its bus bears, and its own main, where it has one; empty where not known.
    bus_a: RatedAmps | None = None
    main_a: RatedAmps | None = None
    circuits: Annotated[tuple[FurtherCircuit, ...], Field(max_length=MOST_FURTHER_CIRCUITS)] = ()
