"""The simulated devices behind one Modbus TCP address, a unit each; they are read and never written."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime

from pymodbus.constants import ExcCodes
from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from hearthkeep.devices import BASES
from hearthkeep.standins.instruments import UNITS, Instrument
from hearthkeep.standins.told import LineState

#: Where the number of the unit stands in a frame: Modbus Messaging on TCP/IP, implementation guide V1.0b, 3.1.3.
UNIT_AT = 6


class DeviceServer:
    """Modbus TCP on loopback."""

    def __init__(self, panel: tuple[Instrument, ...], clock: Callable[[], datetime], utc_offset_h: float) -> None:
        """
        Put devices behind an address.

        :param clock: says the moment of the house, local standard time.
        """
        self._panel: Mapping[int, Instrument] = {UNITS[each.kind]: each for each in panel}
        self._clock, self._utc_offset_h = clock, utc_offset_h
        self._server: ModbusTcpServer | None = None
        self.line = LineState.WELL

    async def start(self, host: str, port: int) -> int:
        """Listen; says the port, which is chosen where 0 is given."""
        devices = [self._device(unit, each) for unit, each in self._panel.items()]
        self._server = ModbusTcpServer(
            devices, address=(host, port), ignore_missing_devices=True, trace_packet=self._on_its_way
        )
        await self._server.listen()
        listening = self._server.transport
        # An asyncio server, as which the library does not type it.
        sockets = getattr(listening, "sockets", ())
        if not sockets:
            raise OSError(f"Port {port} is taken by another program.")
        return int(sockets[0].getsockname()[1])

    async def stop(self) -> None:
        """Close every connection and listen no more."""
        if self._server is not None:
            await self._server.shutdown()

    def _device(self, unit: int, instrument: Instrument) -> SimDevice:
        first = instrument.registers(self._clock(), self._utc_offset_h)

        async def answer(
            function_code: int, start_address: int, address: int, count: int, registers: list[int],
            wanted: list[int] | list[bool] | None,
        ) -> ExcCodes | None:  # fmt: skip
            if wanted is not None:
                return ExcCodes.ILLEGAL_FUNCTION
            words = instrument.registers(self._clock(), self._utc_offset_h)
            at = start_address - BASES[0]
            registers[:] = words[at : at + len(registers)]
            return None

        data = SimData(BASES[0], values=first, datatype=DataType.REGISTERS)
        return SimDevice(id=unit, simdata=[data], action=answer)

    def _on_its_way(self, sending: bool, packet: bytes) -> bytes:
        if not sending or len(packet) <= UNIT_AT:
            return packet
        instrument = self._panel.get(packet[UNIT_AT])
        if instrument is not None and instrument.is_silent:
            return b""
        if self.line is LineState.HALF:
            return packet[: len(packet) // 2]
        return bytes(len(packet)) if self.line is LineState.GARBAGE else packet
