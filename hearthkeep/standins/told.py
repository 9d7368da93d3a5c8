"""What the stand-ins tell of themselves over HTTP, and what they are told."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from pydantic import BaseModel

from hearthkeep.core.foresight import GeneratorWish
from hearthkeep.core.watch import FaultKind, InstrumentKind

HOST = "127.0.0.1"
#: Where they listen unless told otherwise.
HTTP_PORT, MODBUS_PORT, SMTP_PORT = 8791, 8792, 8793


class LineState(StrEnum):
    """What becomes of the answers on their way."""

    WELL = "well"
    #: Each answer ends in the middle.
    HALF = "half"
    #: What comes is no answer.
    GARBAGE = "garbage"


class SwitchState(BaseModel):
    """A fault of a device, and whether it is switched on."""

    device: InstrumentKind
    fault: FaultKind
    on: bool


class StandInDevice(BaseModel):
    """A simulated device."""

    kind: InstrumentKind
    name: str
    unit: int


class StandInState(BaseModel):
    """The stand-ins as they are now."""

    design: str
    #: The house's own clock, with its offset.
    now: datetime
    speed: float
    begun: datetime
    hours_h: float
    devices: list[StandInDevice]
    switches: list[SwitchState]
    line: LineState
    #: Its loads by id, those that are left off, and what becomes of the generator.
    load_ids: list[str]
    off: list[str]
    generator: GeneratorWish
    http_port: int
    modbus_port: int
    smtp_port: int
    certificate: str


class HouseWish(BaseModel):
    """What the people of the simulated house do."""

    off: list[str] = []
    generator: GeneratorWish = GeneratorWish.BY_RULE
