"""Inverter: what turns the bank's direct current into house current."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, model_validator

from hearthkeep.core.design.fields import DcVolts, DesignPart
from hearthkeep.core.design.hours import HourSpans
from hearthkeep.core.design.sheets import InverterSheet

#: Units that may work together.
MOST_UNITS = 12


class Output(StrEnum):
    """What the inverter gives."""

    V120 = "120"
    #: One unit that gives both legs.
    SPLIT_120_240 = "120/240"
    #: Two units of 120 V, one a leg.
    SPLIT_PAIR = "120/240_pair"
    V230 = "230"


class Build(StrEnum):
    """How inverter, charger and solar input are put together."""

    SEPARATE = "separate"
    INVERTER_CHARGER = "inverter_charger"
    ALL_IN_ONE = "all_in_one"


class Waveform(StrEnum):
    """The shape of its house current."""

    PURE_SINE = "pure_sine"
    MODIFIED_SINE = "modified_sine"


class Inverter(DesignPart):
    """One inverter, or several like it side by side. A rating of 0 W means that there is none."""

    rated_w: Annotated[float, Field(strict=True, ge=0, le=200_000)]
    surge_w: Annotated[float, Field(strict=True, ge=0, le=600_000)]
    #: Apparent power it is rated for, where its sheet gives it beside the watts [VA]; never less than the watts.
    rated_va: Annotated[float, Field(strict=True, gt=0, le=400_000)] | None = None
    #: How long the surge can be held [s].
    surge_s: Annotated[float, Field(strict=True, ge=0, le=3_600)] = 5.0
    idle_w: Annotated[float, Field(strict=True, ge=0, le=2_000)]
    #: Efficiency at the rated power, idle draw included.
    efficiency_frac: Annotated[float, Field(strict=True, ge=0.5, le=1)]
    #: Battery voltage under load at which it switches off [V].
    low_cutoff_v: DcVolts
    #: Units like this one, working together.
    units: Annotated[int, Field(strict=True, ge=1, le=MOST_UNITS)] = 1
    #: None means that which suits the site's service.
    output: Output | None = None
    build: Build = Build.INVERTER_CHARGER
    waveform: Waveform = Waveform.PURE_SINE
    #: Headroom over the coincident peak that the designer wants.
    headroom_frac: Annotated[float, Field(strict=True, ge=0, le=3)] = 0.2
    sheet: InverterSheet | None = None
    #: It reads the bank's own board over a data cable, and charges as that asks.
    reads_bank: bool = False
    #: Search mode: house watts below which it only listens [W]; 0 means that it has none or that it is off.
    search_threshold_w: Annotated[float, Field(strict=True, ge=0, le=500)] = 0.0
    #: What it takes while it listens [W].
    search_w: Annotated[float, Field(strict=True, ge=0, le=500)] = 1.0
    #: Hours of the day in which it is switched off and only DC loads run, as [from, to) pairs.
    off_hours: HourSpans = ()

    @property
    def apparent_va(self) -> float:
        """Apparent power that its output may carry: as its sheet gives it, else its watts [VA]."""
        return self.rated_w if self.rated_va is None else self.rated_va

    @property
    def together(self) -> Inverter:
        """All units as one: ratings, surge, idle and search draw added up."""
        return self.of_units(self.units)

    def of_units(self, count: int) -> Inverter:
        """So many of the units as one; none of them is no inverter."""
        if count == 1 and self.units == 1:
            return self
        return self.model_copy(
            update={
                "units": 1,
                "rated_w": self.rated_w * count,
                "surge_w": self.surge_w * count,
                "rated_va": None if self.rated_va is None else self.rated_va * count,
                "idle_w": self.idle_w * count,
                "search_w": self.search_w * count,
            }
        )

    @model_validator(mode="after")
    def _losses_are_possible(self) -> Self:
        if self.rated_w == 0:
            return self
        if self.surge_w < self.rated_w:
            raise ValueError(f"surge_w must be at least rated_w, {self.rated_w:g} W (got {self.surge_w:g} W)")
        if self.rated_va is not None and self.rated_va < self.rated_w:
            raise ValueError(f"rated_va must be at least rated_w, {self.rated_w:g} W (got {self.rated_va:g} VA)")
        loss_at_rated_w = self.rated_w / self.efficiency_frac - self.rated_w
        if self.idle_w > loss_at_rated_w + 1e-9:
            raise ValueError(
                f"idle_w must be within 0 to {loss_at_rated_w:.1f} W, the whole loss at rated power "
                f"by efficiency_frac {self.efficiency_frac:g} (got {self.idle_w:g} W)"
            )
        return self
