"""Runs and devices in words, in the units of the project's practice."""

from __future__ import annotations

from hearthkeep.core.design import Design, DeviceKind, Practice
from hearthkeep.core.practice import METRES_A_FOOT
from hearthkeep.core.wiring.conductors import Conductor
from hearthkeep.core.wiring.devices import NAMES
from hearthkeep.core.wiring.sized_run import SizedDevice, SizedRun


def size_words(size: str, practice: Practice) -> str:
    """A size with its unit.

    >>> size_words("2/0", Practice.NORTH_AMERICAN), size_words("250", Practice.NORTH_AMERICAN), size_words("35", Practice.METRIC_230)
    ('2/0 AWG', '250 kcmil', '35 mm²')
    """
    if practice is Practice.METRIC_230:
        return f"{size} mm²"
    return f"{size} kcmil" if "/" not in size and float(size) >= 250 else f"{size} AWG"


def conductor_words(conductor: Conductor | None, practice: Practice) -> str:
    """A conductor, with how many of it a pole has where it is more than one."""
    if conductor is None:
        return "size not known"
    size = size_words(conductor.size, practice)
    return size if conductor.per_pole == 1 else f"{conductor.per_pole} × {size} a pole"


def length_words(design: Design, length_m: float) -> str:
    """A length of cable in the practice's unit: of 3.05 m "10 ft", or "3.0 m"."""
    if design.practice is Practice.NORTH_AMERICAN:
        feet = length_m / METRES_A_FOOT
        return f"{feet:.1f} ft" if feet < 10 else f"{feet:,.0f} ft"
    return f"{length_m:.2f} m" if length_m < 3 else f"{length_m:,.1f} m"


def device_words(device: SizedDevice | None) -> str:
    """A device with its rating."""
    if device is None:
        return ""
    if not device.is_known:
        return "not known"
    if device.kind is DeviceKind.NONE:
        return "none"
    if device.rating_a is None:
        return f"{NAMES[device.kind]}, rating not made"
    return f"{device.rating_a:g} A {NAMES[device.kind]}"


def tag_words(sized: SizedRun, design: Design) -> str:
    """The tag of a run on the diagram: how many, size, length."""
    size = "size not known"
    if sized.size is not None:
        size = size_words(sized.size, design.practice)
        if sized.conductor is not None and sized.conductor.per_pole > 1:
            size = f"{sized.conductor.per_pole} × {size}"
    count = f"{sized.run.count} of " if sized.run.count > 1 else ""
    return f"{count}{size}, {length_words(design, sized.length_m)}"
