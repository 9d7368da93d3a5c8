"""Registers of a device: what stands behind them does not matter here, a real device as little as a stand-in."""

from __future__ import annotations

import contextlib
import logging
import struct
from collections.abc import Iterator
from typing import Protocol

from pymodbus import ModbusException
from pymodbus.client import ModbusTcpClient

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.devices.sunspec import BASES, END_MODEL, MARKER, Model, layouts, read_model

#: Registers in one question, as the Modbus application protocol V1.1b3, 6.3, limits them.
MOST_AT_ONCE = 125
#: A device with more models than this, or with a longer one, is none that is understood.
MOST_MODELS, LONGEST_MODEL = 64, 2_048
#: A device has so long for an answer [s].
PATIENCE_S = 1.5

#: What it would tell of silent devices is told by this application itself.
logging.getLogger("pymodbus.logging").setLevel(logging.CRITICAL)


class DeviceError(HearthKeepError):
    """A device or service does not answer, or answers what is not understood."""

    code, title = "DEVICE", "A device does not answer"
    fix = "Look at its display and its cable, then at address, port and unit number."


#: What the library may stumble over in a frame that is none.
_GARBLED = (struct.error, ValueError, IndexError, AttributeError, TypeError)


class SilentError(DeviceError):
    """Nobody is there, or what is there says nothing in time."""


class Registers(Protocol):
    """Where holding registers are read."""

    def read(self, address: int, count: int) -> list[int]:
        """So many registers from an address on; raises DeviceError."""
        ...


def models_of(registers: Registers) -> Iterator[tuple[Model, tuple[str, ...]]]:
    """Every known model of a device with what was wrong with it, as they lie behind one another; raises DeviceError."""
    at = _first(registers)
    for _ in range(MOST_MODELS):
        number, length = registers.read(at, 2)
        if number == END_MODEL:
            return
        if length > LONGEST_MODEL:
            raise DeviceError(f"Model {number} says it is {length} registers long; at most {LONGEST_MODEL} are read.")
        if number in layouts():
            words = [number, length]
            while len(words) < length + 2:
                words += registers.read(at + len(words), min(length + 2 - len(words), MOST_AT_ONCE))
            yield read_model(number, words)
        at += length + 2
    raise DeviceError(f"It has more than {MOST_MODELS} models, or says no end of them.")


def _first(registers: Registers) -> int:
    refused: DeviceError | None = None
    for base in BASES:
        try:
            if tuple(registers.read(base, 2)) == MARKER:
                return base + 2
        except SilentError:
            raise
        except DeviceError as error:
            refused = error
    raise DeviceError("It answers, and has no SunSpec models at 40000, 0 or 50000.") from refused


class ModbusRegisters:
    """Holding registers over Modbus TCP; one connection for all units behind one address."""

    def __init__(self, client: ModbusTcpClient, unit: int) -> None:
        self._client = client
        self._unit = unit

    def read(self, address: int, count: int) -> list[int]:
        """So many registers from an address on; raises DeviceError."""
        try:
            if not self._client.connected and not self._client.connect():
                raise SilentError("Nobody listens at this address and port.")
            answer = self._client.read_holding_registers(address, count=count, device_id=self._unit)
        except (ModbusException, OSError, *_GARBLED) as error:
            # Whatever of a half answer is on its way must not be taken for the next one.
            with contextlib.suppress(OSError):
                self._client.close()
            raise SilentError(f"No answer within {PATIENCE_S:g} s, or half of one.") from error
        if answer.isError():
            raise DeviceError(f"Refuses to say register {address}: Modbus exception {answer.exception_code}.")
        if len(answer.registers) != count:
            raise DeviceError(f"Answers {len(answer.registers)} registers where {count} were asked for.")
        return list(answer.registers)


def connection(host: str, port: int) -> ModbusTcpClient:
    """A connection that is made with the first question; nothing is asked twice by itself."""
    return ModbusTcpClient(host, port=port, timeout=PATIENCE_S, retries=0, name="hearthkeep")
