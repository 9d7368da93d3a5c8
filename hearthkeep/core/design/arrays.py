"""Arrays: planes of panels, their strings, and the controllers they feed."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, field_validator, model_validator

from hearthkeep.core.design.fields import (
    Amps,
    DcVolts,
    DesignPart,
    Efficiency,
    Fraction,
    Identifier,
    Name,
    Watts,
)
from hearthkeep.core.design.hours import HourSpans
from hearthkeep.core.design.sheets import Kilograms, Millimetres, Money

#: Most panels in series, and most strings of them side by side.
MOST_ARRAY_SIDE = 40


class ControllerKind(StrEnum):
    """How a solar controller meets the bank."""

    PWM = "pwm"
    MPPT = "mppt"
    #: No controller and no bank: the array feeds the loads that run straight from the panel.
    PANEL_FED = "panel_fed"


class ModuleSheet(DesignPart):
    """The data sheet of one panel, under standard test conditions."""

    #: Key in the equipment library, where the panel comes from it.
    library_id: Identifier | None = None
    name: Name
    stc_w: Annotated[float, Field(strict=True, gt=0, le=2_000)]
    voc_v: DcVolts
    vmp_v: DcVolts
    isc_a: Annotated[float, Field(strict=True, gt=0, le=100)]
    imp_a: Annotated[float, Field(strict=True, gt=0, le=100)]
    #: Open-circuit voltage lost per degree, a negative number [1/°C]; empty takes the published factor table.
    voc_temp_coeff_per_c: Annotated[float, Field(strict=True, ge=-0.01, le=0)] | None = None
    #: Power lost per degree, a negative number [1/°C]; the array keeps its own, which this one fills.
    power_temp_coeff_per_c: Annotated[float, Field(strict=True, ge=-0.01, le=0)] | None = None
    #: Largest fuse the maker allows in its string [A].
    series_fuse_a: Annotated[float, Field(strict=True, gt=0, le=100)] | None = None
    length_mm: Millimetres | None = None
    width_mm: Millimetres | None = None
    mass_kg: Kilograms | None = None
    #: Price of one panel, in the project's own currency.
    price: Money | None = None

    @model_validator(mode="after")
    def _open_is_above_working(self) -> Self:
        if self.voc_v <= self.vmp_v:
            raise ValueError(f"voc_v must be above vmp_v, {self.vmp_v:g} V (got {self.voc_v:g} V)")
        if self.isc_a < self.imp_a:
            raise ValueError(f"isc_a must be at least imp_a, {self.imp_a:g} A (got {self.isc_a:g} A)")
        return self


class SnowHabit(StrEnum):
    """What becomes of snow and ice on an array."""

    #: It stays until it thaws: a covered day gives nothing.
    LIES = "lies"
    #: Too steep to hold it: a covered day counts as overcast.
    SLIDES = "slides"
    #: Somebody clears it at an hour of the day, when at home; from then on the day counts as overcast.
    SWEPT = "swept"


class Mounting(StrEnum):
    """What an array stands on."""

    BUILDING = "building"
    GROUND = "ground"
    VEHICLE = "vehicle"


class Stand(DesignPart):
    """How a panel that is moved stands from an hour of the day on."""

    from_hour: Annotated[int, Field(strict=True, ge=0, le=23)]
    tilt_deg: Annotated[float, Field(strict=True, ge=0, le=90)]
    azimuth_deg: Annotated[float, Field(strict=True, ge=0, lt=360)]


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
    series: Annotated[int, Field(strict=True, ge=1, le=MOST_ARRAY_SIDE)] = 1
    strings: Annotated[int, Field(strict=True, ge=1, le=MOST_ARRAY_SIDE)] = 1
    #: Power lost per degree above 25 °C cell temperature, a negative number [1/°C].
    power_temp_coeff_per_c: Annotated[float, Field(strict=True, ge=-0.01, le=0)] = -0.0035
    #: Nominal operating cell temperature [°C].
    noct_c: Annotated[float, Field(strict=True, ge=30, le=70)] = 45.0
    #: Part of the sun that trees, a hill or a wall take in each hour of the day, midnight first; empty means none.
    shade_frac: Annotated[tuple[Fraction, ...], Field(max_length=24)] = ()
    #: What it stands on; empty means that nobody has said.
    mounting: Mounting | None = None
    #: Its conductors outside the array fall to a touch-safe voltage by a switch outside; empty means that nobody has said.
    rapid_shutdown: bool | None = None
    snow: SnowHabit = SnowHabit.LIES
    #: Hour at which it is cleared, where it is.
    swept_hour: Annotated[int, Field(strict=True, ge=0, le=23)] = 10
    #: A panel that is moved: how it stands from each hour on; before the first of them as above.
    stands: Annotated[tuple[Stand, ...], Field(max_length=8)] = ()
    #: Hours in which a folding panel is set out, as [from, to) pairs; empty means that it stays out.
    out_hours: HourSpans | None = None

    @field_validator("shade_frac")
    @classmethod
    def _shade_is_a_day(cls, shade: tuple[float, ...]) -> tuple[float, ...]:
        if len(shade) not in (0, 24):
            raise ValueError(f"must hold 24 parts, one an hour, or none (got {len(shade)})")
        return shade if any(shade) else ()

    @field_validator("stands")
    @classmethod
    def _stands_follow_the_day(cls, stands: tuple[Stand, ...]) -> tuple[Stand, ...]:
        ordered = tuple(sorted(stands, key=lambda stand: stand.from_hour))
        if len({stand.from_hour for stand in ordered}) < len(ordered):
            raise ValueError("each from_hour must stand once")
        return ordered


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
    #: Nominal volts of the banks it charges, from and to [V].
    battery_min_v: DcVolts | None = None
    battery_max_v: DcVolts | None = None
    #: It detects, interrupts and indicates faults to ground, and arcs, of its arrays, as its listing says; empty means not known.
    ground_fault: bool | None = None
    arc_fault: bool | None = None
    #: It is the solar input of the all-in-one inverter, and is lost with it.
    built_in: bool = False
    arrays: Annotated[tuple[Array, ...], Field(max_length=12)] = ()

    @property
    def charges(self) -> bool:
        """Whether it has an array and charges the bank with it, rather than feeding loads straight."""
        return bool(self.arrays) and self.kind is not ControllerKind.PANEL_FED

    @model_validator(mode="after")
    def _battery_volts_are_in_order(self) -> Self:
        low, high = self.battery_min_v, self.battery_max_v
        if low is not None and high is not None and high < low:
            raise ValueError(f"battery_max_v must be at least battery_min_v, {low:g} V (got {high:g} V)")
        return self
