"""Charging: everything that puts energy back, and how the bank is charged."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, model_validator

from hearthkeep.core.design.arrays import Array, Controller
from hearthkeep.core.design.fields import DcVolts, DesignPart, Efficiency, Fraction, Watts
from hearthkeep.core.design.generator import Generator
from hearthkeep.core.design.hours import HourSpans
from hearthkeep.core.design.sheets import Money

WindSpeed = Annotated[float, Field(strict=True, ge=0, le=40)]


class GridCharger(DesignPart):
    """What refills the bank from the grid, before the outage and after it."""

    #: Direct-current output into the bank [W]; 0 means none.
    output_w: Watts = 0.0
    efficiency_frac: Efficiency = 0.92
    #: State of charge at which it keeps the bank in normal times, filling it up when a storm is announced; empty means that
    #: the bank begins the outage as its own page says.
    top_up_soc_frac: Fraction | None = None


class Throttle(StrEnum):
    """How a grid-tied inverter is held back where nobody takes its power."""

    #: The battery inverter raises the frequency and it gives way little by little.
    FREQUENCY = "frequency"
    #: Parts of it are switched off one by one.
    BLOCKS = "blocks"
    #: Neither: it is lost as a whole.
    NONE = "none"


class GridTied(DesignPart):
    """An array on a grid-tied inverter, which needs a supply to follow."""

    rated_w: Annotated[float, Field(strict=True, gt=0, le=200_000)]
    efficiency_frac: Efficiency = 0.96
    arrays: Annotated[tuple[Array, ...], Field(max_length=12)] = ()
    #: It stands on the backed-up panel, where the battery inverter can lead it; elsewhere it is dark with the grid.
    on_backup_panel: bool = True
    throttle: Throttle = Throttle.FREQUENCY
    #: Parts that can be switched off one by one.
    blocks: Annotated[int, Field(strict=True, ge=1, le=12)] = 1
    #: Switched off with a full bank, it comes back at or below this state of charge.
    back_soc_frac: Annotated[float, Field(strict=True, ge=0, le=0.99)] = 0.95
    #: Most that the battery inverter passes from it into the bank [W]; empty means the inverter's rating.
    charge_w: Watts | None = None


class Alternator(DesignPart):
    """A vehicle's alternator, through its charger, while the vehicle is driven."""

    #: Into the bank at its nominal voltage [A].
    current_a: Annotated[float, Field(strict=True, gt=0, le=500)]
    driven_hours: HourSpans = ((8, 9),)
    price: Money | None = None


class Wind(DesignPart):
    """A wind turbine: a cubic curve between cut-in and rated wind, level up to cut-out."""

    rated_w: Annotated[float, Field(strict=True, gt=0, le=100_000)]
    rated_m_s: Annotated[float, Field(strict=True, ge=4, le=30)] = 11.0
    cut_in_m_s: Annotated[float, Field(strict=True, ge=0, le=15)] = 3.0
    cut_out_m_s: Annotated[float, Field(strict=True, ge=10, le=60)] = 25.0
    #: Mean wind at the height of the hub, where a day of the outage names none [m/s].
    mean_m_s: WindSpeed
    #: Of rectifier, regulator and wiring.
    efficiency_frac: Efficiency = 0.85
    price: Money | None = None

    @model_validator(mode="after")
    def _speeds_are_in_order(self) -> Self:
        if not self.cut_in_m_s < self.rated_m_s < self.cut_out_m_s:
            raise ValueError(
                f"rated_m_s must lie between cut_in_m_s, {self.cut_in_m_s:g} m/s, and cut_out_m_s, {self.cut_out_m_s:g} m/s "
                f"(got {self.rated_m_s:g} m/s)"
            )
        return self


class BenchCharger(DesignPart):
    """A plug-in charger, for the hours in which a live socket is at hand: a neighbour's, a hall's, a shelter's."""

    #: Direct-current output into the bank [W].
    output_w: Annotated[float, Field(strict=True, gt=0, le=20_000)]
    plugged_hours: HourSpans = ((9, 12),)
    price: Money | None = None


class Stages(DesignPart):
    """Set points of the chargers for the whole bank; empty fields take the chemistry's usual ones."""

    absorb_v: DcVolts | None = None
    absorb_h: Annotated[float, Field(strict=True, ge=0, le=24)] | None = None
    float_v: DcVolts | None = None
    equalise_v: DcVolts | None = None
    #: The bank is not equalised, on purpose.
    never_equalised: bool = False
    equalise_every_days: Annotated[int, Field(strict=True, ge=1, le=730)] | None = None
    #: Volts at which something disconnects the chargers; empty means that nothing does.
    over_voltage_v: DcVolts | None = None
    #: Millivolts a cell and degree away from 25 °C, a negative number for lead-acid [mV/°C].
    compensation_mv_per_c: Annotated[float, Field(strict=True, ge=-10, le=0)] | None = None


class Charging(DesignPart):
    """Everything that puts energy back."""

    controllers: Annotated[tuple[Controller, ...], Field(max_length=8)] = ()
    grid_charger: GridCharger = GridCharger()
    generator: Generator | None = None
    #: An array on a grid-tied inverter; only an AC-coupled arrangement keeps it alive in an outage.
    grid_tied: GridTied | None = None
    alternator: Alternator | None = None
    wind: Wind | None = None
    bench_charger: BenchCharger | None = None
    #: The habit of one source at a time: the strongest charges and the others wait; otherwise all regulated sources charge
    #: together, up to the bank's limit.
    one_source: bool = False
    stages: Stages = Stages()
    #: Safety factor of the quick sum, for trees and cloud.
    quick_safety_frac: Annotated[float, Field(strict=True, ge=0, le=3)] = 0.3

    @property
    def stc_w(self) -> float:
        """Panel power of all arrays on controllers [W]."""
        return sum(array.stc_w for controller in self.controllers for array in controller.arrays)

    @property
    def arrays(self) -> tuple[Array, ...]:
        """All arrays, those on controllers first."""
        on_controllers = tuple(array for controller in self.controllers for array in controller.arrays)
        return on_controllers + (self.grid_tied.arrays if self.grid_tied else ())

    @property
    def has_other_sources(self) -> bool:
        """Whether anything besides sun and grid charges the bank."""
        return any(part is not None for part in (self.generator, self.alternator, self.wind, self.bench_charger))
