"""Faults of devices, named by their signs and kept until those are gone."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from hearthkeep.core.design import Design
from hearthkeep.core.watch.devices import DeviceFault, DeviceTrack, FaultKind
from hearthkeep.core.watch.side import Known, side_of
from hearthkeep.core.watch.signs import SIGNS

#: What one fault of a device explains of the same device.
_EXPLAINS: dict[FaultKind, frozenset[FaultKind]] = {
    FaultKind.DROPPED: frozenset(set(FaultKind) - {FaultKind.DROPPED, FaultKind.CO}),
    FaultKind.FROZEN: frozenset({FaultKind.DRIFT, FaultKind.REVERSED, FaultKind.FAN, FaultKind.SCALE}),
    FaultKind.SCALE: frozenset({FaultKind.DRIFT, FaultKind.REVERSED}),
    FaultKind.REVERSED: frozenset({FaultKind.DRIFT}),
}
#: A device with one of these says nothing that another could be measured by.
_USELESS = frozenset({FaultKind.DROPPED, FaultKind.FROZEN, FaultKind.SCALE})


def named(
    design: Design, tracks: Sequence[DeviceTrack], now_s: float, held: Sequence[DeviceFault] = ()
) -> tuple[DeviceFault, ...]:
    """
    The faults of now, the surest first; what was named before stays until its signs are gone.

    :param tracks: what the devices said over the last quarter of an hour, at local standard time.
    :param now_s: seconds of local standard time since 1970 [s].
    :param held: what was named a moment ago.
    """
    side = side_of(design, tracks, now_s)
    known: Known = {(fault.kind, fault.key): fault for fault in held}
    found: dict[tuple[FaultKind, str], DeviceFault] = {}
    for sign in SIGNS:
        for fault in sign(side, known):
            key = (fault.kind, fault.key)
            before = known.get(key)
            kept = fault if before is None else replace(fault, since=before.since, level=before.level)
            if key not in found or kept.weight > found[key].weight:
                found[key] = kept
    return tuple(sorted(_explained(tuple(found.values())), key=lambda each: (-each.weight, each.since, each.key)))


def _explained(faults: Sequence[DeviceFault]) -> Iterable[DeviceFault]:
    """Without those that a graver fault explains, of the same device or of one that it was measured by."""
    gone = {(kind, fault.key) for fault in faults for kind in _EXPLAINS.get(fault.kind, ())}
    useless = {fault.key for fault in faults if fault.kind in _USELESS and not fault.measured_by}
    return [
        fault for fault in faults if (fault.kind, fault.key) not in gone and not useless.intersection(fault.measured_by)
    ]
