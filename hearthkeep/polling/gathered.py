"""What is known of an installation's devices and services now."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from hearthkeep.core.logbook import Quantity
from hearthkeep.core.watch import DeviceFault, InstrumentKind, WeatherAlert
from hearthkeep.devices import UtilityOutage


@dataclass(frozen=True, kw_only=True, slots=True)
class DeviceShown:
    """A device as it answered last."""

    key: str
    name: str
    kind: InstrumentKind
    #: As it names itself; empty before its first answer.
    says_it_is: str
    #: Its last answer; none before the first.
    answered_at: datetime | None
    #: Why it gave none the last time it was asked; empty where it did.
    trouble: str
    #: What of its answer was not understood or cannot be.
    wrong: tuple[str, ...]
    values: dict[Quantity, float]
    runs: bool | None
    fuel_l: float | None
    co_ppm: float | None
    #: So far is its own clock from this machine's [s]; none where it has none.
    clock_off_s: float | None
    #: Its readings are kept apart and not believed.
    is_doubted: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class ServiceShown:
    """Whether a service answered, and what of it was not understood."""

    answered_at: datetime | None
    trouble: str
    wrong: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Gathered:
    """Everything at a moment."""

    at: datetime
    devices: tuple[DeviceShown, ...]
    faults: tuple[DeviceFault, ...]
    #: Warnings that hold, the newest first; none where no service is named.
    alerts: tuple[WeatherAlert, ...]
    warnings: ServiceShown | None
    utility_outages: tuple[UtilityOutage, ...]
    utility: ServiceShown | None
