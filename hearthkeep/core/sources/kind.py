"""What every kind of source says of itself; a new kind is one file beside this one and a line in the registry."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import Charging, Design, hours_in
from hearthkeep.core.figure import Figure

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class SourceSteps:
    """The steps of an outage as a source meets them, each (n,) where not said otherwise."""

    #: Hour of the day, and calendar day of the outage.
    hour: NDArray[np.int64]
    day: NDArray[np.int64]
    #: Mean wind of each calendar day [m/s], (days,); none where the source's own mean holds.
    day_wind_m_s: Sequence[float | None]
    #: Whether somebody is there to drive or to plug in.
    attended: NDArray[np.bool_]
    #: Whether a vehicle can be reached.
    car: NDArray[np.bool_]
    #: Of the bank while it is charged [V].
    charging_v: float

    def while_attended_w(self, power_w: float, spans: tuple[tuple[int, int], ...]) -> Floats:
        """A steady power in some hours of the day while somebody is there [W], (n,)."""
        running = np.array(hours_in(spans), dtype=bool)[self.hour] & self.attended
        return np.where(running, power_w, 0.0)

    def while_driven_w(self, power_w: float, spans: tuple[tuple[int, int], ...]) -> Floats:
        """The same of a vehicle, on days on which it can be reached [W], (n,)."""
        return np.where(self.car, self.while_attended_w(power_w, spans), 0.0)


@dataclass(frozen=True, kw_only=True, slots=True)
class Setting:
    """A field of the design and the value it is to be set to."""

    path: str
    value: float


class FieldUnit(StrEnum):
    """What a field of a source's page counts in; `speed` is metres a second or miles an hour by practice."""

    WATTS = "W"
    AMPS = "A"
    SPEED = "speed"
    PERCENT = "percent"
    MONEY = "money"
    HOURS = "hours"


@dataclass(frozen=True, kw_only=True, slots=True)
class PageField:
    """One field on a source's page."""

    #: Of the source's part of the design.
    field: str
    label: str
    unit: FieldUnit


class SourceKind(ABC):
    """A kind of source that charges the bank."""

    #: Field of Charging that holds it.
    key: str
    #: As a title, and inside a sentence. Of kinds that share one name only the strongest charges at a time.
    label: str
    name: str

    def is_in(self, charging: Charging) -> bool:
        """Whether the design has one."""
        return getattr(charging, self.key) is not None

    @abstractmethod
    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        """Most current it may give at the volts of a bank that is charged, 0 without one [A]."""

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...] | None:
        """Its own settings that hold it to a current, rounded down; none where nothing can be set, as on a rotor."""
        return None


def whole_watts(limit_a: float, charging_v: float) -> float:
    """A current at the bank's volts as whole watts, rounded down [W]."""
    return float(math.floor(limit_a * charging_v + 1e-6))


class SteadySource(SourceKind):
    """A source whose power follows from clock, weather and people alone, at the direct-current bus."""

    #: What the page asks, and its fields.
    question: str
    fields: tuple[PageField, ...]

    @abstractmethod
    def power_w(self, charging: Charging, steps: SourceSteps) -> Floats:
        """Power at the direct-current bus of the one the design has [W], (n,)."""

    @abstractmethod
    def start(self, rating: BankRating) -> dict[str, object]:
        """What the page begins with for this bank: the part of the design as plain values."""

    @abstractmethod
    def figure(self, design: Design, rating: BankRating, *, given_wh: float, duration_h: float) -> Figure:
        """How what it gave in an outage comes about."""

    def price(self, charging: Charging) -> float | None:
        """What the design's one costs; none where the price is not known."""
        price: float | None = getattr(charging, self.key).price
        return price
