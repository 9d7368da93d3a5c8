"""A simulated house watched in fast time without a network: its devices' registers read as the poller reads them."""

from __future__ import annotations

from datetime import datetime, timedelta

import numpy as np

from hearthkeep.core.logbook import Trace
from hearthkeep.core.watch import DeviceFault, DeviceTrack, named
from hearthkeep.devices import BASES, SilentError, heard
from hearthkeep.standins.house import House
from hearthkeep.standins.instruments import Instrument, panel_of

EPOCH = datetime(1970, 1, 1)
EVERY_S, KEPT = 15.0, 64


class InMemory:
    """Registers of a simulated device, read as Modbus reads them."""

    def __init__(self, instrument: Instrument, moment: datetime) -> None:
        self._instrument = instrument
        self._words = instrument.registers(moment, 0.0)

    def read(self, address: int, count: int) -> list[int]:
        if self._instrument.is_silent:
            raise SilentError("No answer.")
        at = address - BASES[0]
        return self._words[at : at + count]


class Watched:
    """A house and what its devices said, step by step."""

    def __init__(self, design, begun, *, seed=0, since=None, charge_frac=None):
        self.house = House(design, begun, seed=seed, since=since, charge_frac=charge_frac)
        self.panel = panel_of(self.house, seed=seed)
        self.moment = since or begun
        self.said: dict[str, dict] = {each.kind.value: {} for each in self.panel}
        self.answered: dict[str, float] = {}
        self.co_ppm: dict[str, float | None] = {}
        self.faults: tuple[DeviceFault, ...] = ()
        self.asked_since_s = self.now_s

    @property
    def now_s(self) -> float:
        return (self.moment - EPOCH).total_seconds()

    def device(self, kind) -> Instrument:
        return next(each for each in self.panel if each.kind is kind)

    def go_to(self, moment):
        """Let the house live on unwatched."""
        self.moment = moment
        self.house.at(moment)
        self.asked_since_s = self.now_s

    def step(self, every_s=EVERY_S):
        self.moment += timedelta(seconds=every_s)
        for each in self.panel:
            try:
                said = heard(InMemory(each, self.moment))
            except SilentError:
                continue
            self.answered[each.kind.value] = self.now_s
            self.co_ppm[each.kind.value] = said.co_ppm
            for quantity, value in said.values.items():
                line = self.said[each.kind.value].setdefault(quantity, [])
                line.append((self.now_s, value))
                del line[:-KEPT]

    def tracks(self) -> tuple[DeviceTrack, ...]:
        return tuple(
            DeviceTrack(
                key=each.kind.value,
                name=each.kind.value,
                kind=each.kind,
                traces={
                    quantity: Trace(at_s=np.array(line)[:, 0], values=np.array(line)[:, 1])
                    for quantity, line in self.said[each.kind.value].items()
                },
                answered_s=self.answered.get(each.kind.value),
                asked_since_s=self.asked_since_s,
                co_ppm=self.co_ppm.get(each.kind.value),
            )
            for each in self.panel
        )

    def name(self) -> tuple[DeviceFault, ...]:
        self.faults = named(self.house.design, self.tracks(), self.now_s, self.faults)
        return self.faults
