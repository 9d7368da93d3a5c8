"""Charging: arrays, controllers and the grid charger."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, field_validator, model_validator

from hearthkeep.core.design.fields import Amps, DcVolts, DesignPart, Efficiency, Identifier, Name, Watts
from hearthkeep.core.design.loads import HourSpan, checked_spans


class ControllerKind(StrEnum):
    """How a solar controller meets the bank."""

    PWM = "pwm"
    MPPT = "mppt"


class ModuleSheet(DesignPart):
    """The data sheet of one panel, under standard test conditions."""

    name: Name
    stc_w: Annotated[float, Field(strict=True, gt=0, le=2_000)]
    voc_v: DcVolts
    vmp_v: DcVolts
    isc_a: Annotated[float, Field(strict=True, gt=0, le=100)]
    imp_a: Annotated[float, Field(strict=True, gt=0, le=100)]
    #: Open-circuit voltage lost per degree, a negative number [1/°C]; empty takes the published factor table.
    voc_temp_coeff_per_c: Annotated[float, Field(strict=True, ge=-0.01, le=0)] | None = None
    #: Largest fuse the maker allows in its string [A].
    series_fuse_a: Annotated[float, Field(strict=True, gt=0, le=100)] | None = None

    @model_validator(mode="after")
    def _open_is_above_working(self) -> Self:
        if self.voc_v <= self.vmp_v:
            raise ValueError(f"voc_v must be above vmp_v, {self.vmp_v:g} V (got {self.voc_v:g} V)")
        if self.isc_a < self.imp_a:
            raise ValueError(f"isc_a must be at least imp_a, {self.imp_a:g} A (got {self.isc_a:g} A)")
        return self


class Array(DesignPart):
    """One plane of panels."""

    id: Identifier
    name: Name
    #: Power under standard test conditions [W].
    stc_w: Watts
    tilt_deg: Annotated[float, Field(strict=True, ge=0, le=90)]
    #: Clockwise from north [°]; south is 180.
    azimuth_deg: Annotated[float, Field(strict=True, ge=0, lt=360)]
    #: Soiling, mismatch, wiring and shade together, as a part lost.
    losses_frac: Annotated[float, Field(strict=True, ge=0, le=0.95)] = 0.14
    #: Voltage of the array at maximum power under standard test conditions [V]; empty means 1.5 x bank volts.
    vmp_v: DcVolts | None = None
    #: The panel, how many in series, and how many such strings side by side; empty while only the watts are known.
    module: ModuleSheet | None = None
    series: Annotated[int, Field(strict=True, ge=1, le=40)] = 1
    strings: Annotated[int, Field(strict=True, ge=1, le=40)] = 1
    #: Power lost per degree above 25 °C cell temperature, a negative number [1/°C].
    power_temp_coeff_per_c: Annotated[float, Field(strict=True, ge=-0.01, le=0)] = -0.0035
    #: Nominal operating cell temperature [°C].
    noct_c: Annotated[float, Field(strict=True, ge=30, le=70)] = 45.0


class Controller(DesignPart):
    """One solar controller and the arrays that share its output limit."""

    id: Identifier
    name: Name
    kind: ControllerKind
    #: Most current it gives to the bank [A].
    output_a: Amps
    #: Conversion efficiency; empty means 0.97 for MPPT and 1 for PWM.
    efficiency_frac: Efficiency | None = None
    #: Most volts and amps it takes at its solar input, and by how much the array must lie above the bank to start [V].
    max_input_v: DcVolts | None = None
    max_input_a: Amps | None = None
    start_margin_v: Annotated[float, Field(strict=True, ge=0, le=100)] = 5.0
    arrays: Annotated[tuple[Array, ...], Field(max_length=12)] = ()


class Fuel(StrEnum):
    """What a generator burns."""

    GASOLINE = "gasoline"
    DIESEL = "diesel"
    PROPANE = "propane"


class Generator(DesignPart):
    """A generator that carries the house through the transfer relay and charges with what is left."""

    #: At sea level and 25 °C [W].
    rated_w: Annotated[float, Field(strict=True, gt=0, le=200_000)]
    #: What it holds for the seconds of a start; empty means 1.25 x rated [W].
    surge_w: Annotated[float, Field(strict=True, gt=0, le=600_000)] | None = None
    fuel: Fuel = Fuel.GASOLINE
    #: Fuel at no load [L/h] and for each kilowatt-hour given [L/kWh]; empty takes the fuel's typical line.
    fuel_idle_l_per_h: Annotated[float, Field(strict=True, ge=0, le=100)] | None = None
    fuel_l_per_kwh: Annotated[float, Field(strict=True, gt=0, le=10)] | None = None
    #: Fuel on hand, the tank's included, and the tank alone [L].
    stock_l: Annotated[float, Field(strict=True, ge=0, le=100_000)]
    tank_l: Annotated[float, Field(strict=True, gt=0, le=10_000)] = 15.0
    #: It starts at or below the one and stops at the other, after its minimum run.
    start_soc_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.3
    stop_soc_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.8
    min_run_h: Annotated[float, Field(strict=True, ge=0, le=24)] = 1.0
    #: Hours of the day in which it stays off, as [from, to) pairs.
    quiet_hours: Annotated[tuple[HourSpan, ...], Field(max_length=24)] = ()
    #: Its charger's direct-current output into the bank [W], and the charger's efficiency.
    charger_w: Watts
    charger_efficiency_frac: Efficiency = 0.9
    #: Part of cold starts that fail; kept as data for the trials.
    start_failure_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.05

    @field_validator("quiet_hours")
    @classmethod
    def _quiet_hours_are_spans(cls, spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
        return checked_spans(spans)

    @model_validator(mode="after")
    def _stops_above_its_start(self) -> Self:
        if self.stop_soc_frac <= self.start_soc_frac:
            raise ValueError(
                f"stop_soc_frac must be above start_soc_frac, {self.start_soc_frac:g} (got {self.stop_soc_frac:g})"
            )
        return self


class GridCharger(DesignPart):
    """What refills the bank from the grid, before the outage and after it."""

    #: Direct-current output into the bank [W]; 0 means none.
    output_w: Watts = 0.0


class Charging(DesignPart):
    """Everything that puts energy back."""

    controllers: Annotated[tuple[Controller, ...], Field(max_length=8)] = ()
    grid_charger: GridCharger = GridCharger()
    generator: Generator | None = None

    @property
    def stc_w(self) -> float:
        """Panel power of all arrays [W]."""
        return sum(array.stc_w for controller in self.controllers for array in controller.arrays)
