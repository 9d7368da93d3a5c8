"""Data sheets of real units: a battery block, an inverter. Kept whole in the design, so that it needs no library."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, field_validator

from hearthkeep.core.design.fields import Celsius, DesignPart, Fraction, Identifier, Name

Millimetres = Annotated[float, Field(strict=True, gt=0, le=5_000)]
Kilograms = Annotated[float, Field(strict=True, gt=0, le=5_000)]
Money = Annotated[float, Field(strict=True, ge=0, le=10_000_000)]


class CyclePoint(DesignPart):
    """Cycles to 80 % of capacity at one depth of discharge."""

    depth_frac: Annotated[float, Field(strict=True, gt=0, le=1)]
    cycles: Annotated[float, Field(strict=True, gt=0, le=100_000)]


class BatterySheet(DesignPart):
    """What else the data sheet of one battery unit says; empty fields take the chemistry's typical value."""

    #: Key in the equipment library, where the unit comes from it.
    library_id: Identifier | None = None
    name: Name
    mass_kg: Kilograms | None = None
    length_mm: Millimetres | None = None
    width_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    #: Internal resistance of one unit [mΩ].
    internal_resistance_mohm: Annotated[float, Field(strict=True, gt=0, le=10_000)] | None = None
    #: Most one unit gives for a few seconds, while a motor starts, before its protection opens [A].
    short_discharge_a: Annotated[float, Field(strict=True, gt=0, le=20_000)] | None = None
    #: Most units in series and strings in parallel that the maker allows.
    max_series: Annotated[int, Field(strict=True, ge=1, le=64)] | None = None
    max_parallel: Annotated[int, Field(strict=True, ge=1, le=64)] | None = None
    #: Cycles at two or more depths, shallowest first.
    cycle_points: Annotated[tuple[CyclePoint, ...], Field(max_length=12)] = ()
    calendar_years: Annotated[float, Field(strict=True, gt=0, le=50)] | None = None
    charge_min_c: Celsius | None = None
    discharge_min_c: Celsius | None = None
    #: Part of the charge lost in a month of rest at 25 °C.
    self_discharge_month_frac: Fraction | None = None
    #: Price of one unit, in the project's own currency.
    price: Money | None = None

    @field_validator("cycle_points")
    @classmethod
    def _points_are_in_order(cls, points: tuple[CyclePoint, ...]) -> tuple[CyclePoint, ...]:
        ordered = tuple(sorted(points, key=lambda point: point.depth_frac))
        for shallow, deep in pairwise(ordered):
            if deep.depth_frac == shallow.depth_frac or deep.cycles > shallow.cycles:
                raise ValueError("each depth must stand once, and a deeper cycle must not give more of them")
        return ordered


class InverterSheet(DesignPart):
    """What else the data sheet of one inverter says."""

    library_id: Identifier | None = None
    name: Name
    price: Money | None = None
    mass_kg: Kilograms | None = None
    width_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    depth_mm: Millimetres | None = None
