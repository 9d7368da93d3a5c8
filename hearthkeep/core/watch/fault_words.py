"""What is said of a device's fault: how grave it is, what it is called, what to do, and on what ground."""

from __future__ import annotations

from hearthkeep.core.checks import Severity
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.watch.devices import FaultKind

_OURS = "Our assumption: levels of the signs"
#: Severity, title, what to do next, basis.
FAULT_WORDS: dict[FaultKind, tuple[Severity, str, str, str]] = {
    FaultKind.DROPPED: (
        Severity.MEND, "gives no answer",
        "Look at its display and its cable, then at address, port and unit number. Until it speaks the model reckons on.", _OURS,
    ),
    FaultKind.FROZEN: (
        Severity.MEND, "its reading stands still",
        "Read its display beside another instrument; switch its link off and on. What it says is kept apart and not counted with.",
        f"{COMMON_PRACTICE}; {_OURS.lower()}",
    ),
    FaultKind.SCALE: (
        Severity.MEND, "its scale is wrong",
        "Hold a hand meter beside it, then look at its settings: shunt, ratio, units. What it says is kept apart and not counted with.",
        f"{COMMON_PRACTICE}; {_OURS.lower()}",
    ),
    FaultKind.REVERSED: (
        Severity.MEND, "its shunt counts the wrong way",
        "Charge or draw with one load and see the sign. Its gauge of the charge is wrong as well until the sense leads are exchanged: "
        "by a licensed person, with the bank opened first.", COMMON_PRACTICE,
    ),
    FaultKind.DRIFT: (
        Severity.MIND, "its display leaves the others",
        "Hold a hand meter to the posts and trust that one; clean and tighten its sense leads when the bank is open.",
        f"{COMMON_PRACTICE}; {_OURS.lower()}",
    ),
    FaultKind.CREEPING: (
        Severity.STOP, "charges past its set point",
        "Open the array disconnect, then the charger's device, and read at the posts with a meter. Do not leave it on.",
        f"{COMMON_PRACTICE}: a failed controller creeps upwards, and something burns",
    ),
    FaultKind.FAN: (
        Severity.MEND, "grows hot; its fan may stand still",
        "Hear and feel for its fan; give it air, and take loads off until it cools. No more than half its rating without a fan.",
        COMMON_PRACTICE,
    ),
    FaultKind.CO: (
        Severity.STOP, "tells of carbon monoxide",
        "Everybody out into the open now. Stop the generator only if that can be done from outside; then call for help.",
        "Carbon monoxide kills unseen; an alarm after UL 2034 sounds at 70 ppm within four hours (stated from memory)",
    ),
}  # fmt: skip
