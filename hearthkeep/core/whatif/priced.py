"""The price of a change in hours: the outage simulated again with it, against the outage as it is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from hearthkeep.core.outage import Outcome, PreparedOutage, Run


@dataclass(frozen=True, kw_only=True, slots=True)
class PriceInHours:
    """What one change does to the outage."""

    #: Hours carried gained, negative when lost [h]; never beyond the outage's end.
    gain_h: float
    #: Lowest charge gained, as a part of full: what distinguishes choices once the outage is carried.
    lowest_soc_gain_frac: float
    #: Fuel the generator burns less, negative when more [L]: what distinguishes them where it evens the charge out.
    fuel_gain_l: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Measured:
    """What a price needs of an outage."""

    carried_h: float
    lowest_soc_frac: float
    fuel_l: float

    @classmethod
    def of(cls, prepared: PreparedOutage, found: Outcome | Run) -> Self:
        """Of an outage already simulated."""
        return cls(
            carried_h=prepared.carried_h(found.dark_h),
            lowest_soc_frac=found.lowest_wh / prepared.rating.capacity_wh,
            fuel_l=float(found.fuel_l),
        )

    def price_of(self, other: Self) -> PriceInHours:
        """What the other one brings."""
        return PriceInHours(
            gain_h=other.carried_h - self.carried_h,
            lowest_soc_gain_frac=other.lowest_soc_frac - self.lowest_soc_frac,
            fuel_gain_l=self.fuel_l - other.fuel_l,
        )


def measured(prepared: PreparedOutage) -> Measured:
    """Simulate an outage and keep what a price needs of it."""
    return Measured.of(prepared, prepared.outcome())
