"""Runs and devices in words, in the units of the project's practice."""

from __future__ import annotations

from hearthkeep.core.conductor_sizes import is_of, with_unit
from hearthkeep.core.design import Design, DeviceKind, Practice
from hearthkeep.core.practice import METRES_A_FOOT
from hearthkeep.core.wiring.conductors import Conductor
from hearthkeep.core.wiring.devices import NAMES
from hearthkeep.core.wiring.sized_run import SizedDevice, SizedRun


def conductor_words(conductor: Conductor | None, practice: Practice) -> str:
    """A conductor, with how many of it a pole has where it is more than one."""
    if conductor is None:
        return "size not known"
    size = with_unit(conductor.size, practice)
    return size if conductor.per_pole == 1 else f"{conductor.per_pole} × {size} a pole"


def conductor_set_words(sized: SizedRun, practice: Practice) -> str:
    """The conductor of a run; one whose size is of the other practice with what it is counted as."""
    if sized.size is None or (sized.conductor is not None and is_of(sized.size, practice)):
        return conductor_words(sized.conductor, practice)
    if sized.conductor is None:
        return f"{sized.size}, in no table"
    many = f"{sized.conductor.per_pole} × " if sized.conductor.per_pole > 1 else ""
    return f"{many}{sized.size}, counted as {with_unit(sized.conductor.size, practice)}"


def length_words(design: Design, length_m: float) -> str:
    """A length of cable in the practice's unit: of 3.05 m "10 ft", or "3.0 m"."""
    if design.practice is Practice.NORTH_AMERICAN:
        feet = length_m / METRES_A_FOOT
        return f"{feet:.1f} ft" if feet < 10 else f"{feet:,.0f} ft"
    return f"{length_m:.2f} m" if length_m < 3 else f"{length_m:,.1f} m"


#: Studs in the sizes of an inch that stand for metric ones [mm]. Common practice, no source.
INCH_STUDS = {6.0: "1/4 in", 8.0: "5/16 in", 10.0: "3/8 in", 12.0: "1/2 in"}
MM_AN_INCH, IN_LB_A_NM = 25.4, 8.8507


def lug_words(sized: SizedRun, practice: Practice) -> str:
    """The lugs of a run: the stud they go on and their hole, in the practice's unit."""
    if practice is Practice.NORTH_AMERICAN:
        stud = INCH_STUDS.get(sized.stud_mm, f"{sized.stud_mm / MM_AN_INCH:.2f} in")
        return f"lugs for {stud}, hole {sized.lug_mm / MM_AN_INCH:.2f} in"
    return f"lugs for M{sized.stud_mm:g}, hole {sized.lug_mm:g} mm"


def torque_words(torque_nm: float, practice: Practice) -> str:
    """A torque in the practice's unit: of 9 N·m "80 in·lb (9 N·m)", or "9 N·m"."""
    if practice is Practice.NORTH_AMERICAN:
        return f"{torque_nm * IN_LB_A_NM:.0f} in·lb ({torque_nm:g} N·m)"
    return f"{torque_nm:g} N·m"


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
        size = sized.size
        if sized.conductor is not None and sized.conductor.per_pole > 1:
            size = f"{sized.conductor.per_pole} × {size}"
    count = f"{sized.run.count} of " if sized.run.count > 1 else ""
    return f"{count}{size}, {length_words(design, sized.length_m)}"
