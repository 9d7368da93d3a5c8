"""What a kit search goes over: units of the library, how many of each, and what a kit has to carry."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, ValidationError, model_validator

from hearthkeep.core.design import (
    LONGEST_OUTAGE_H,
    MOST_STOCK_L,
    MOST_STRINGS,
    MOST_UNITS,
    LibraryBattery,
    LibraryInverter,
    LibraryModule,
    Money,
    Tier,
)
from hearthkeep.core.design.fields import DesignPart, Identifier
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import InputError

#: Units of a kind to choose among, and panels on one array.
MOST_CHOICES, MOST_PANELS = 20, 400

Litres = Annotated[float, Field(strict=True, ge=0, le=MOST_STOCK_L)]


class _Counted(DesignPart):
    """So many of something, from and to."""

    @model_validator(mode="after")
    def _counts_are_in_order(self) -> Self:
        least, most = getattr(self, "least", 0), getattr(self, "most", 0)
        if most < least:
            raise ValueError(f"most must be at least {least} (got {most})")
        return self


class BatteryRange(_Counted):
    """Battery units, and how many strings of them side by side."""

    units: Annotated[tuple[LibraryBattery, ...], Field(min_length=1, max_length=MOST_CHOICES)]
    least: Annotated[int, Field(strict=True, ge=1, le=MOST_STRINGS)] = 1
    most: Annotated[int, Field(strict=True, ge=1, le=MOST_STRINGS)] = 4


class InverterRange(_Counted):
    """Inverters, and how many working together."""

    units: Annotated[tuple[LibraryInverter, ...], Field(min_length=1, max_length=MOST_CHOICES)]
    least: Annotated[int, Field(strict=True, ge=1, le=MOST_UNITS)] = 1
    most: Annotated[int, Field(strict=True, ge=1, le=MOST_UNITS)] = 1


class PanelRange(_Counted):
    """Panels on one of the design's arrays: how many in all."""

    array_id: Identifier
    units: Annotated[tuple[LibraryModule, ...], Field(min_length=1, max_length=MOST_CHOICES)]
    least: Annotated[int, Field(strict=True, ge=1, le=MOST_PANELS)] = 1
    most: Annotated[int, Field(strict=True, ge=1, le=MOST_PANELS)] = 8


class FuelRange(DesignPart):
    """Stocks of the design's generator [L], and what a litre of it costs with its can, in the project's own currency."""

    stock_l: Annotated[tuple[Litres, ...], Field(min_length=1, max_length=MOST_CHOICES)]
    price_per_l: Money = 0.0


class KitTarget(DesignPart):
    """What a kit has to do: carry a tier and those above it so long, from so large a share of the year's hours."""

    #: Life alone, or Life and Keep.
    lowest_tier: Tier = Tier.KEEP
    hours_h: Annotated[int, Field(strict=True, ge=1, le=LONGEST_OUTAGE_H)] = 72
    share_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.95

    @model_validator(mode="after")
    def _tier_is_held_to(self) -> Self:
        if self.lowest_tier is Tier.EASE:
            raise ValueError("lowest_tier must be life or keep: Ease is what is given up first")
        return self


class KitRanges(DesignPart):
    """A whole search. What is left out stays as the design has it."""

    target: KitTarget = KitTarget()
    batteries: BatteryRange | None = None
    inverters: InverterRange | None = None
    panels: PanelRange | None = None
    fuel: FuelRange | None = None


def read_ranges(body: bytes) -> KitRanges:
    """Read ranges from JSON text. Raises InputError with one FieldProblem per faulty field."""
    try:
        return KitRanges.model_validate_json(body)
    except ValidationError as error:
        raise InputError(field_problems(error, model=KitRanges)) from None
