"""Loads: what must stay on, when, and in which order it is dropped."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.fields import DesignPart, Efficiency, Fraction, Identifier, LoadWatts, Name, StartWatts
from hearthkeep.core.design.hours import HourSpans, hours_in
from hearthkeep.core.design.known import Known, StartKnown


class Tier(StrEnum):
    """Drop order, from the last dropped to the first."""

    LIFE = "life"
    KEEP = "keep"
    EASE = "ease"
    SPARE = "spare"


class Supply(StrEnum):
    """How a load is fed: through the inverter, or straight from the bank."""

    #: House current at the usual voltage, 120 V or 230 V.
    AC = "ac"
    #: House current at 240 V, across both legs of a split-phase service.
    AC_240 = "ac240"
    #: Straight from the bank, at its voltage.
    DC = "dc"
    #: From the bank through a converter to another direct voltage.
    DC_CONVERTED = "dc_converted"
    #: Straight from a panel, without the bank: it runs only while the sun alone carries it.
    PANEL = "panel"

    @property
    def is_ac(self) -> bool:
        """Whether the load is fed by the inverter."""
        return self in (Supply.AC, Supply.AC_240)


class DarkDay(StrEnum):
    """What becomes of a load on an overcast or covered day."""

    KEEP = "keep"
    DROP = "drop"
    #: Something else does its work, with other watts: gas instead of the electric ring.
    SUBSTITUTE = "substitute"


class Load(DesignPart):
    """One row of the audit."""

    id: Identifier
    name: Name
    tier: Tier
    quantity: Annotated[int, Field(strict=True, ge=1, le=500)] = 1
    #: Power of one unit while it runs [W].
    running_w: LoadWatts
    #: Power of one unit while it starts [W]; none means that it starts at its running power.
    start_w: StartWatts | None = None
    #: Share of its hours in which it really runs.
    duty_frac: Fraction = 1.0
    #: Hours of the day in which it may run, as [from, to) pairs; stored sorted and merged.
    hours: HourSpans = ((0, 24),)
    #: Any so many of those hours a day, when the sun alone carries it; none for all of them.
    flexible_h: Annotated[int, Field(strict=True, ge=1, le=24)] | None = None
    supply: Supply = Supply.AC
    #: Efficiency of its converter, for a load fed through one; empty means 0.9.
    converter_efficiency_frac: Efficiency | None = None
    #: Power of one unit outside its hours [W].
    standby_w: LoadWatts = 0.0
    #: Loads with the same link are useless apart: they live and drop together.
    link: Name | None = None
    #: The circuit it hangs on, and whether it is wired to it, without a plug.
    circuit: Identifier | None = None
    hard_wired: bool = False
    #: Longest gap in its supply that it does not notice [s]; empty means what is usual for its kind.
    rides_s: Annotated[float, Field(strict=True, ge=0, le=36_000)] | None = None
    #: How the running watts are known; empty is a guess.
    known: Known | None = None
    #: How the start is known; empty is a chart value or a guess.
    start_known: StartKnown | None = None
    #: Whether it stands still on days when nobody is at home.
    stops_when_away: bool = False
    dark_day: DarkDay = DarkDay.KEEP
    #: On dark days, where something else does its work: its name, and the watts it still takes [W].
    substitute_name: Name | None = None
    substitute_w: LoadWatts = 0.0
    #: Part of its duty in each month, January first; empty means the whole year alike.
    month_factors: Annotated[tuple[Fraction, ...], Field(min_length=12, max_length=12)] | None = None

    @property
    def on_by_hour(self) -> tuple[bool, ...]:
        """Whether the load is on in each of the 24 hours of the day."""
        return hours_in(self.hours)
