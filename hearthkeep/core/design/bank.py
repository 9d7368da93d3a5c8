"""Bank: the battery, its arrangement and the place where it stands."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.fields import Amps, Celsius, DcVolts, DesignPart, Efficiency, Fraction


class Chemistry(StrEnum):
    """What the bank is made of."""

    LFP = "lfp"
    AGM = "agm"
    GEL = "gel"
    FLOODED = "flooded"


class Place(StrEnum):
    """Where the bank stands."""

    LIVING_SPACE = "living_space"
    UTILITY_ROOM = "utility_room"
    GARAGE = "garage"
    SHED = "shed"
    OUTDOOR_BOX = "outdoor_box"


class Bank(DesignPart):
    """Series x parallel of one unit. Fields left empty take the chemistry's typical value."""

    chemistry: Chemistry
    unit_v: DcVolts
    #: Rated capacity of one unit [Ah].
    unit_ah: Annotated[float, Field(strict=True, gt=0, le=10_000)]
    series: Annotated[int, Field(strict=True, ge=1, le=64)]
    parallel: Annotated[int, Field(strict=True, ge=1, le=64)]
    #: Depth of discharge the design is willing to live with.
    depth_frac: Annotated[float, Field(strict=True, ge=0.05, le=1)]
    #: State of charge at which everything is cut off.
    cutoff_soc_frac: Annotated[float, Field(strict=True, ge=0, le=0.9)]
    start_soc_frac: Fraction = 1.0
    place: Place
    #: Lead-acid gas is led outdoors or the room is ventilated for it.
    ventilated: bool = False
    #: Temperature of the bank's place in the outage season [°C].
    temp_c: Celsius
    #: Capacity left after ageing, as a part of the rated one.
    ageing_frac: Annotated[float, Field(strict=True, ge=0.3, le=1)] = 1.0
    #: Most current one unit may be charged with [A].
    unit_max_charge_a: Amps | None = None
    #: Most current one unit may give, its protection board's limit [A].
    unit_max_discharge_a: Amps | None = None
    charge_efficiency_frac: Efficiency | None = None
    discharge_efficiency_frac: Efficiency | None = None
    #: Peukert exponent, used for lead-acid above the rated current.
    peukert_exponent: Annotated[float, Field(strict=True, ge=1, le=1.6)] | None = None
    #: Hours of the rating, usually 20.
    rated_hours_h: Annotated[float, Field(strict=True, ge=1, le=100)] = 20.0

    @property
    def nominal_v(self) -> float:
        """Nominal voltage of the bank [V]."""
        return self.unit_v * self.series

    @property
    def rated_ah(self) -> float:
        """Rated capacity of the bank [Ah]."""
        return self.unit_ah * self.parallel

    @property
    def rated_wh(self) -> float:
        """Rated energy of the bank [Wh]."""
        return self.nominal_v * self.rated_ah
