"""Charging: arrays, controllers and the grid charger."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.fields import Amps, DcVolts, DesignPart, Efficiency, Identifier, Name, Watts


class ControllerKind(StrEnum):
    """How a solar controller meets the bank."""

    PWM = "pwm"
    MPPT = "mppt"


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
    arrays: Annotated[tuple[Array, ...], Field(max_length=12)] = ()


class GridCharger(DesignPart):
    """What refills the bank from the grid, before the outage and after it."""

    #: Direct-current output into the bank [W]; 0 means none.
    output_w: Watts = 0.0


class Charging(DesignPart):
    """Everything that puts energy back."""

    controllers: Annotated[tuple[Controller, ...], Field(max_length=8)] = ()
    grid_charger: GridCharger = GridCharger()

    @property
    def stc_w(self) -> float:
        """Panel power of all arrays [W]."""
        return sum(array.stc_w for controller in self.controllers for array in controller.arrays)
