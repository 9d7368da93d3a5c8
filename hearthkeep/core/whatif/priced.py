"""The price of a change in hours: the outage simulated again with it, against the outage as it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
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
    #: The hours stand on an edge: with a hundredth more or less of what the bank gives they are quite others.
    is_on_edge: bool = False


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


#: To both sides of what the bank gives it is looked this far; only where at least so many hours are gained or lost, which stand on
#: an edge where one side differs by more than so many hours and this part of them. Our own choice.
SIDE_FRAC, LEAST_H, OTHER_H, OTHER_FRAC = 0.01, 3.0, 2.0, 0.5


class Pricing:
    """Prices against one outage as it is."""

    def __init__(self, prepared: PreparedOutage, run: Run | None = None) -> None:
        """`run` is the outage's own, where it is there already."""
        self._prepared = prepared
        self._base = measured(prepared) if run is None else Measured.of(prepared, run)
        self._sides: tuple[Measured, ...] | None = None

    def of(self, changed: PreparedOutage) -> PriceInHours:
        """What a change brings."""
        return self.with_sides(measured(changed), lambda: [measured(side) for side in beside(changed)])

    def with_sides(self, other: Measured, sides: Callable[[], Sequence[Measured]]) -> PriceInHours:
        """What a change brings whose outage is simulated already; the outages to both sides are asked for only where they count."""
        price = self._base.price_of(other)
        if not self.is_large(price):
            return price
        if self._sides is None:
            self._sides = tuple(measured(side) for side in beside(self._prepared))
        apart_h = max(
            abs(base.price_of(side).gain_h - price.gain_h) for base, side in zip(self._sides, sides(), strict=True)
        )
        return replace(price, is_on_edge=apart_h > max(OTHER_H, OTHER_FRAC * abs(price.gain_h)))

    @staticmethod
    def is_large(price: PriceInHours) -> bool:
        """Whether it is looked to both sides."""
        return abs(price.gain_h) >= LEAST_H

    def price_of(self, other: Measured) -> PriceInHours:
        """What a change brings, not looked to the sides."""
        return self._base.price_of(other)


def beside(prepared: PreparedOutage) -> tuple[PreparedOutage, PreparedOutage]:
    """The same outage with a hundredth less and more of what the bank gives."""
    given = prepared.plant.discharge_efficiency
    less, more = given * (1.0 - SIDE_FRAC), min(given * (1.0 + SIDE_FRAC), 1.0)
    return (
        prepared.with_plant(prepared.plant._replace(discharge_efficiency=less)),
        prepared.with_plant(prepared.plant._replace(discharge_efficiency=more)),
    )
