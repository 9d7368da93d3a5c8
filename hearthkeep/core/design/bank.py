"""Bank: the battery, its arrangement and the place where it stands."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.fields import Amps, Celsius, DesignPart, Efficiency, Fraction, UnitAmpHours, UnitVolts
from hearthkeep.core.design.loads import Tier
from hearthkeep.core.design.sheets import BatterySheet

#: What a bank may have side by side, and in series.
MOST_STRINGS = 64
MOST_IN_SERIES = 64


class Chemistry(StrEnum):
    """What the bank is made of."""

    LFP = "lfp"
    AGM = "agm"
    GEL = "gel"
    FLOODED = "flooded"
    #: Made to crank an engine: thin plates, ruined by deep cycles.
    STARTER = "starter"

    @property
    def is_vented(self) -> bool:
        """Whether its cells gas freely and take water."""
        return self in (Chemistry.FLOODED, Chemistry.STARTER)


class Place(StrEnum):
    """Where the bank stands."""

    LIVING_SPACE = "living_space"
    UTILITY_ROOM = "utility_room"
    GARAGE = "garage"
    SHED = "shed"
    OUTDOOR_BOX = "outdoor_box"


class TakeOff(StrEnum):
    """Where the leads to the house leave a bank of parallel strings."""

    #: Both from the first string.
    ONE_END = "one_end"
    #: Positive from the first string, negative from the last.
    OPPOSITE_ENDS = "opposite_ends"
    #: Every string on bus bars by leads of one length.
    EQUAL_LEADS = "equal_leads"


class Heater(DesignPart):
    """Warms the bank's box to a temperature, from the bank itself."""

    #: Most it draws [W].
    power_w: Annotated[float, Field(strict=True, gt=0, le=2_000)]
    #: Heat the box loses for each degree inside above outside [W/°C].
    loss_w_per_c: Annotated[float, Field(strict=True, gt=0, le=200)] = 1.5
    target_c: Annotated[float, Field(strict=True, ge=-20, le=30)] = 5.0


class Addition(DesignPart):
    """Units somebody wants to add beside the ones that are there."""

    chemistry: Chemistry
    unit_v: UnitVolts
    unit_ah: UnitAmpHours
    parallel: Annotated[int, Field(strict=True, ge=1, le=MOST_STRINGS)] = 1
    #: How much newer they are than the bank [years].
    years_newer: Annotated[float, Field(strict=True, ge=0, le=30)] = 0.0


class Tap(DesignPart):
    """A load hung on part of a series string."""

    #: Units of the string, counted from its negative end, that the load draws from.
    units: Annotated[int, Field(strict=True, ge=1, le=63)]
    current_a: Annotated[float, Field(strict=True, gt=0, le=1_000)]
    hours_per_day: Annotated[float, Field(strict=True, gt=0, le=24)]


class Need(DesignPart):
    """What the bank has to carry, from which its size is worked out."""

    #: Without any sun [h].
    autonomy_h: Annotated[float, Field(strict=True, gt=0, le=720)] = 24.0
    #: The lowest tier that counts: Life alone, Life and Keep, or Ease as well.
    lowest_tier: Tier = Tier.KEEP
    #: Whether the audit is that of a dark day.
    dark_day: bool = True
    growth_frac: Annotated[float, Field(strict=True, ge=0, le=2)] = 0.1
    #: Capacity left at the end of the bank's life, up to which the need is met.
    end_of_life_frac: Annotated[float, Field(strict=True, ge=0.3, le=1)] = 0.8
    #: Full cycles at the design's depth in a year, outages and tests together.
    cycles_per_year: Annotated[float, Field(strict=True, ge=0, le=366)] = 30.0


class Bank(DesignPart):
    """Series x parallel of one unit. Fields left empty take the chemistry's typical value."""

    chemistry: Chemistry
    unit_v: UnitVolts
    #: Rated capacity of one unit [Ah].
    unit_ah: UnitAmpHours
    series: Annotated[int, Field(strict=True, ge=1, le=MOST_IN_SERIES)]
    parallel: Annotated[int, Field(strict=True, ge=1, le=MOST_STRINGS)]
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
    #: The breaker built into each unit, where it has one: its rating, and what it can break [A].
    unit_breaker_a: Annotated[float, Field(strict=True, gt=0, le=5_000)] | None = None
    unit_breaker_interrupt_a: Annotated[float, Field(strict=True, gt=0, le=500_000)] | None = None
    charge_efficiency_frac: Efficiency | None = None
    discharge_efficiency_frac: Efficiency | None = None
    #: Peukert exponent, used for lead-acid above the rated current.
    peukert_exponent: Annotated[float, Field(strict=True, ge=1, le=1.6)] | None = None
    #: Hours of the rating, usually 20.
    rated_hours_h: Annotated[float, Field(strict=True, ge=1, le=100)] = 20.0
    #: The rest of the unit's data sheet.
    unit: BatterySheet | None = None
    takeoff: TakeOff = TakeOff.OPPOSITE_ENDS
    #: Resistance of one link cable between neighbouring strings, lugs included [mΩ].
    link_mohm: Annotated[float, Field(strict=True, ge=0, le=100)] = 0.3
    heater: Heater | None = None
    addition: Addition | None = None
    tap: Tap | None = None
    need: Need = Need()

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
