"""One device and what it said of late."""

from __future__ import annotations

from collections import deque
from datetime import datetime

import numpy as np

from hearthkeep.core.logbook import Quantity, Trace
from hearthkeep.core.watch import DeviceFault, DeviceTrack, FaultKind
from hearthkeep.devices import DeviceSource, Said
from hearthkeep.polling.gathered import DeviceShown

#: What is held for naming faults: so far back [s], and no more readings than this.
HELD_S, MOST_HELD = 960.0, 240
#: A device that was silent so often in a row is asked only so often [s].
SILENT_TIMES, SILENT_EVERY_S = 3, 60.0
#: With one of these nothing that a device says is believed; one that drifts is not believed in volts and amps.
UNBELIEVED = frozenset({FaultKind.FROZEN, FaultKind.SCALE, FaultKind.REVERSED})
DRIFTING = frozenset({Quantity.BANK_V, Quantity.BANK_A})


class Talk:
    """What one device said; seconds are those of local standard time since 1970."""

    def __init__(self, source: DeviceSource, now_s: float) -> None:
        """Begin to ask a device."""
        self.source = source
        self.said: Said | None = None
        self.trouble = ""
        self._asked_since_s = now_s
        self._answered: tuple[float, datetime] | None = None
        self._lines: dict[Quantity, deque[tuple[float, float]]] = {}
        self._silent = 0
        #: When it was asked last [s].
        self.asked_s = -np.inf
        self._clock_off_s: float | None = None

    def is_due(self, now_s: float) -> bool:
        """Whether it is asked in this round."""
        return self._silent < SILENT_TIMES or abs(now_s - self.asked_s) >= SILENT_EVERY_S

    def answered(self, said: Said, at: datetime, now_s: float) -> None:
        """Hold what it said."""
        self.said, self.trouble, self._silent, self.asked_s = said, "", 0, now_s
        self._answered = (now_s, at)
        self._clock_off_s = None if said.clock_s is None else said.clock_s - at.timestamp()
        for quantity, value in said.values.items():
            line = self._lines.setdefault(quantity, deque(maxlen=MOST_HELD))
            if line and line[-1][0] >= now_s:
                # This machine's clock was set back: what lies behind it has no order any more.
                line.clear()
            line.append((now_s, value))
        for quantity, line in list(self._lines.items()):
            while line and line[0][0] < now_s - HELD_S:
                line.popleft()
            if not line:
                del self._lines[quantity]

    def kept_silent(self, trouble: str, now_s: float) -> None:
        """It gave no answer that is understood."""
        self.trouble, self.asked_s = trouble, now_s
        self._silent += 1

    def track(self) -> DeviceTrack:
        """What it said of late, as faults are named by it."""
        traces = {}
        for quantity, line in self._lines.items():
            pairs = np.array(line)
            traces[quantity] = Trace(at_s=pairs[:, 0], values=pairs[:, 1])
        return DeviceTrack(
            key=self.source.key,
            name=self.source.name,
            kind=self.source.kind,
            traces=traces,
            answered_s=None if self._answered is None else self._answered[0],
            asked_since_s=self._asked_since_s,
            co_ppm=None if self.said is None else self.said.co_ppm,
        )

    def fresh(self, now_s: float, within_s: float) -> dict[Quantity, float]:
        """What it said last; nothing where that is older than this [s]."""
        if self.said is None or self._answered is None or not 0.0 <= now_s - self._answered[0] <= within_s:
            return {}
        return self.said.values

    def shown(self, faults: tuple[DeviceFault, ...]) -> DeviceShown:
        """As it is told."""
        said = self.said
        return DeviceShown(
            key=self.source.key,
            name=self.source.name,
            kind=self.source.kind,
            says_it_is="" if said is None else said.name,
            answered_at=None if self._answered is None else self._answered[1],
            trouble=self.trouble,
            wrong=() if said is None else said.wrong,
            values={} if said is None else said.values,
            runs=None if said is None else said.runs,
            fuel_l=None if said is None else said.fuel_l,
            co_ppm=None if said is None else said.co_ppm,
            clock_off_s=self._clock_off_s,
            is_doubted=bool(UNBELIEVED & {fault.kind for fault in faults if fault.key == self.source.key}),
        )


def is_doubted(quantity: Quantity, key: str, faults: tuple[DeviceFault, ...]) -> bool:
    """Whether a device's word on a quantity is not believed."""
    own = {fault.kind for fault in faults if fault.key == key}
    return bool(own & UNBELIEVED) or (FaultKind.DRIFT in own and quantity in DRIFTING)
