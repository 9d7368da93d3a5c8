"""What a device's models say, as the log's quantities."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from math import isfinite

from hearthkeep.core.logbook import QUANTITIES, Quantity
from hearthkeep.devices.registers import DeviceError, Registers, models_of
from hearthkeep.devices.sunspec import Model

COMMON, METER, DC_PORTS, BATTERY = 1, 201, 714, 802
#: Single-phase and split-phase inverters.
INVERTERS = (101, 102)
#: The stand-ins' own.
GENERATOR, BANK_SENSOR = 64_950, 64_951
#: Types of a port for direct current: an array, and a bank.
PORT_ARRAY, PORT_BANK = 0.0, 1.0
#: The stand-ins' generator: 1 stands still, 2 runs.
STILL, RUNNING = 1.0, 2.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Said:
    """What a device said at one moment."""

    #: Its maker, model and number as it says them.
    name: str
    #: In the units that the log keeps; amps into the bank count as plus.
    values: dict[Quantity, float]
    #: Of a generator.
    runs: bool | None = None
    fuel_l: float | None = None
    co_ppm: float | None = None
    #: Its own clock, UTC seconds since 1970; none where it has none.
    clock_s: float | None = None
    #: What was not understood or cannot be, in words.
    wrong: tuple[str, ...] = ()


@dataclass
class _Hearing:
    name: str = ""
    values: dict[Quantity, float] = field(default_factory=dict)
    wrong: list[str] = field(default_factory=list)
    runs: bool | None = None
    fuel_l: float | None = None
    co_ppm: float | None = None
    clock_s: float | None = None

    def take(self, quantity: Quantity, value: float | None) -> None:
        """Keep a value; one that cannot be is told and left out."""
        info = QUANTITIES[quantity]
        if value is None:
            return
        if isfinite(value) and info.low <= value <= info.high:
            self.values[quantity] = value
        else:
            self.wrong.append(f"{info.label}: {value:g} {info.unit} lies outside {info.low:g} to {info.high:g}")


def heard(registers: Registers) -> Said:
    """Ask a device everything it has that is known; raises DeviceError."""
    return said_by(models_of(registers))


def said_by(models: Iterable[tuple[Model, tuple[str, ...]]]) -> Said:
    """What models say together; raises DeviceError where none of them is known."""
    hearing, is_known = _Hearing(), False
    for model, wrong in models:
        hearing.wrong += wrong
        is_known = is_known or model.model != COMMON
        _hear(hearing, model)
    if not is_known:
        raise DeviceError("None of its models is known: it is no battery, inverter, controller, meter or generator.")
    return Said(
        name=hearing.name,
        values=hearing.values,
        runs=hearing.runs,
        fuel_l=hearing.fuel_l,
        co_ppm=hearing.co_ppm,
        clock_s=hearing.clock_s,
        wrong=tuple(hearing.wrong),
    )


def _hear(hearing: _Hearing, model: Model) -> None:
    number = model.number
    if model.model == COMMON:
        hearing.name = " ".join(str(model.values[key]) for key in ("Mn", "Md", "SN") if model.values.get(key))
    elif model.model == BATTERY:
        hearing.take(Quantity.BANK_V, number("V"))
        hearing.take(Quantity.BANK_A, number("A"))
        hearing.take(Quantity.CHARGE, number("SoC"))
        volts, watts = number("V"), number("W")
        if volts is not None and watts is not None and volts > 0:
            hearing.take(Quantity.DEVICE_A, watts / volts)
    elif model.model in INVERTERS:
        hearing.take(Quantity.INVERTER_W, number("W"))
        hearing.take(Quantity.BANK_V, number("DCV"))
        hearing.take(Quantity.DEVICE_C, number("TmpCab"))
        volts, watts = number("DCV"), number("DCW")
        if volts is not None and watts is not None and volts > 0:
            # Watts have a sign where the amps of the model have none: taken from the bank they are plus.
            hearing.take(Quantity.DEVICE_A, -watts / volts)
    elif model.model == DC_PORTS:
        _hear_ports(hearing, model)
    elif model.model == METER:
        hearing.take(Quantity.GENERATOR_W, number("W"))
    elif model.model == GENERATOR:
        run, hearing.fuel_l, hearing.co_ppm = number("Run"), number("Fuel"), number("Co")
        hearing.runs = None if run is None else run == RUNNING
        hearing.clock_s = number("Clk") or hearing.clock_s
    elif model.model == BANK_SENSOR:
        hearing.take(Quantity.BANK_C, number("Tmp"))
        hearing.take(Quantity.AH_FROM_FULL, number("AhFull"))
        hearing.clock_s = number("Clk") or hearing.clock_s


def _hear_ports(hearing: _Hearing, model: Model) -> None:
    for port in model.blocks:
        volts, amps, watts = (
            value if isinstance(value := port.get(key), float) else None for key in ("DCV", "DCA", "DCW")
        )
        if port.get("PrtTyp") == PORT_ARRAY:
            hearing.take(Quantity.SUN_V, volts)
        elif port.get("PrtTyp") == PORT_BANK:
            hearing.take(Quantity.BANK_V, volts)
            hearing.take(Quantity.DEVICE_A, amps)
            hearing.take(Quantity.SUN_W, watts)
