"""Generator: its rating, its rules and its fuel."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, model_validator

from hearthkeep.core.design.fields import DesignPart, Efficiency, Watts
from hearthkeep.core.design.hours import HourSpans

#: Fuel that may be on hand [L].
MOST_STOCK_L = 100_000.0


class Fuel(StrEnum):
    """What a generator burns."""

    GASOLINE = "gasoline"
    DIESEL = "diesel"
    PROPANE = "propane"


class GeneratorOutput(StrEnum):
    """What a generator gives."""

    V120 = "120"
    SPLIT_120_240 = "120/240"
    V230 = "230"


class Generator(DesignPart):
    """A generator that carries the house through the transfer relay and charges with what is left, or charges only."""

    #: At sea level and 25 °C [W].
    rated_w: Annotated[float, Field(strict=True, gt=0, le=200_000)]
    #: What it holds for the seconds of a start; empty means 1.25 x rated [W].
    surge_w: Annotated[float, Field(strict=True, gt=0, le=600_000)] | None = None
    #: Empty means what the inverter takes.
    output: GeneratorOutput | None = None
    fuel: Fuel = Fuel.GASOLINE
    #: Fuel at no load [L/h] and for each kilowatt-hour given [L/kWh]; empty takes the fuel's typical line.
    fuel_idle_l_per_h: Annotated[float, Field(strict=True, ge=0, le=100)] | None = None
    fuel_l_per_kwh: Annotated[float, Field(strict=True, gt=0, le=10)] | None = None
    #: Fuel on hand, the tank's included, and the tank alone [L]; with nobody at home it runs on the tank alone.
    stock_l: Annotated[float, Field(strict=True, ge=0, le=MOST_STOCK_L)]
    tank_l: Annotated[float, Field(strict=True, gt=0, le=10_000)] = 15.0
    #: It starts at or below the one and stops at the other, after its minimum run.
    start_soc_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.3
    stop_soc_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.8
    min_run_h: Annotated[float, Field(strict=True, ge=0, le=24)] = 1.0
    #: Hours of the day in which it stays off, as [from, to) pairs.
    quiet_hours: HourSpans = ()
    #: Somebody has to start it: on days with nobody at home it stays off.
    by_hand: bool = False
    #: Its charger's direct-current output into the bank [W], and the charger's efficiency.
    charger_w: Watts
    charger_efficiency_frac: Efficiency = 0.9
    #: It feeds its charger alone, and the inverter goes on carrying the house.
    charges_only: bool = False
    #: Part of cold starts that fail; kept as data for the trials.
    start_failure_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.05

    @model_validator(mode="after")
    def _stops_above_its_start(self) -> Self:
        if self.stop_soc_frac <= self.start_soc_frac:
            raise ValueError(
                f"stop_soc_frac must be above start_soc_frac, {self.start_soc_frac:g} (got {self.stop_soc_frac:g})"
            )
        return self
