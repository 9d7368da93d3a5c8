"""What several devices said of late, laid side by side at the same moments."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

import numpy as np

from hearthkeep.core.design import Design
from hearthkeep.core.logbook import Quantity, Trace
from hearthkeep.core.watch.devices import DEVICE_WORDS, DeviceFault, DeviceTrack, FaultKind, Floats, InstrumentKind

#: What was named a moment ago, by kind and device.
Known = Mapping[tuple[FaultKind, str], DeviceFault]
_EPOCH = datetime(1970, 1, 1)
#: What was said is laid side by side every so many seconds, so far back; the newest minute of it is now [s].
STEP_S, BACK_S, NOW_STEPS = 15.0, 900.0, 4
#: A value that is older than this, or than so many of the usual steps, is none of now [s].
SILENT_S, SILENT_TIMES = 75.0, 3.5


@dataclass(frozen=True, slots=True)
class Side:
    """What the devices said of late, side by side at the same moments."""

    #: Seconds of local standard time since 1970, the last of them now [s], (moments,).
    at_s: Floats
    tracks: tuple[DeviceTrack, ...]
    design: Design
    #: Columns by device and quantity, kept between calls.
    columns: dict[tuple[str, Quantity], Floats] = field(default_factory=dict, compare=False, repr=False)

    @property
    def now_s(self) -> float:
        """Now [s]."""
        return float(self.at_s[-1])

    @property
    def blocks(self) -> float:
        """Blocks of 12 V in the bank."""
        return self.design.bank.nominal_v / 12.0

    def column(self, track: DeviceTrack, quantity: Quantity) -> Floats:
        """One quantity of a device at the moments, NaN where it had said nothing fresh, (moments,)."""
        key = (track.key, quantity)
        if key not in self.columns:
            self.columns[key] = self._laid(track.find(quantity))
        return self.columns[key]

    def _laid(self, trace: Trace | None) -> Floats:
        if trace is None:
            return np.full(self.at_s.size, np.nan)
        last = np.searchsorted(trace.at_s, self.at_s + 1e-6, side="right") - 1
        values = np.where(last >= 0, trace.values[last.clip(0)], np.nan)
        age_s = self.at_s - trace.at_s[last.clip(0)]
        found: Floats = np.where(age_s <= silent_s(trace), values, np.nan)
        return found

    def of(self, kind: InstrumentKind) -> tuple[DeviceTrack, ...]:
        """The devices of a kind."""
        return tuple(track for track in self.tracks if track.kind is kind)

    def volts(self) -> tuple[tuple[DeviceTrack, ...], Floats]:
        """Those that read the bank's volts, and what they read [V], (devices, moments)."""
        own = tuple(track for track in self.tracks if track.find(Quantity.BANK_V) is not None)
        columns = [self.column(track, Quantity.BANK_V) for track in own]
        return own, np.array(columns) if columns else np.zeros((0, self.at_s.size))

    def balance(self) -> tuple[tuple[DeviceTrack, ...], Floats]:
        """What all devices but the monitor lead into the bank together [A], (moments,); NaN where one of them says nothing."""
        own = (*self.of(InstrumentKind.INVERTER), *self.of(InstrumentKind.CONTROLLER))
        if not self.of(InstrumentKind.INVERTER):
            # What the house takes is then nowhere read.
            return own, np.full(self.at_s.size, np.nan)
        total: Floats = np.sum([self.column(track, Quantity.DEVICE_A) for track in own], axis=0)
        return own, total

    def fault(
        self, kind: FaultKind, track: DeviceTrack, weight: float, signs: str, *, level: float = 0.0, unit: str = "",
        since_s: float | None = None, measured_by: Sequence[DeviceTrack] = (),
    ) -> DeviceFault:  # fmt: skip
        """A fault of now."""
        since = _EPOCH + timedelta(seconds=self.now_s if since_s is None else since_s)
        return DeviceFault(
            kind=kind,
            key=track.key,
            name=track.name or DEVICE_WORDS[track.kind],
            since=since.replace(microsecond=0),
            level=level,
            unit=unit,
            weight=weight,
            signs=signs,
            measured_by=tuple(other.key for other in measured_by),
        )


def side_of(design: Design, tracks: Sequence[DeviceTrack], now_s: float) -> Side:
    """Lay what devices said side by side up to a moment [s of local standard time since 1970]."""
    return Side(now_s - np.arange(BACK_S, -STEP_S / 2, -STEP_S), tuple(tracks), design)


def silent_s(trace: Trace) -> float:
    """After so long without a word a device is silent [s]."""
    usual_s = float(np.median(np.diff(trace.at_s[-40:]))) if trace.at_s.size > 1 else 0.0
    return max(SILENT_S, SILENT_TIMES * usual_s)
