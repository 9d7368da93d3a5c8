"""Devices whose readings are watched: what each of them said of late, and the faults that are known by their signs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.logbook import Quantity, Trace

Floats = NDArray[np.float64]


class InstrumentKind(StrEnum):
    """What a device is."""

    MONITOR = "monitor"
    INVERTER = "inverter"
    CONTROLLER = "controller"
    GENERATOR = "generator"


DEVICE_WORDS = {
    InstrumentKind.MONITOR: "battery monitor",
    InstrumentKind.INVERTER: "inverter/charger",
    InstrumentKind.CONTROLLER: "solar controller",
    InstrumentKind.GENERATOR: "generator controller",
}


class FaultKind(StrEnum):
    """A fault of a device, of its cable or of what it controls."""

    #: It gives no answer any more.
    DROPPED = "dropped"
    #: It says the same again and again.
    FROZEN = "frozen"
    #: What it says is a power of ten too much or too little.
    SCALE = "scale"
    #: Its shunt is wired the other way round.
    REVERSED = "reversed"
    #: It leaves the others slowly.
    DRIFT = "drift"
    #: Controller: the bank's volts climb past the set point.
    CREEPING = "creeping"
    #: Inverter: it grows hot without giving more.
    FAN = "fan"
    #: Generator: it tells of carbon monoxide.
    CO = "co"


@dataclass(frozen=True, kw_only=True, slots=True)
class DeviceTrack:
    """What one device said over the last minutes, at seconds of local standard time since 1970."""

    #: Short name that is never shown, and the name that is.
    key: str
    name: str
    kind: InstrumentKind
    traces: Mapping[Quantity, Trace] = field(default_factory=dict)
    #: Its last answer, and since when it is asked [s]; none before the first.
    answered_s: float | None = None
    asked_since_s: float = 0.0
    co_ppm: float | None = None

    def find(self, quantity: Quantity) -> Trace | None:
        """What it said of a quantity; none where it says nothing of it."""
        trace = self.traces.get(quantity)
        return trace if trace is not None and trace.at_s.size else None


@dataclass(frozen=True, kw_only=True, slots=True)
class DeviceFault:
    """A fault that is named; it stays named until its signs are gone."""

    kind: FaultKind
    key: str
    name: str
    #: Since then, local standard time; and how its sign stood when it was named, with its unit.
    since: datetime
    level: float
    unit: str
    #: How sure it is, 0 to 1: what is surest stands first.
    weight: float
    #: Its signs in words.
    signs: str
    #: Keys of the other devices that it was measured by, where their being wrong would look the same.
    measured_by: tuple[str, ...] = ()
