"""What stands beneath the one-line diagram in words, because no symbol shows it."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.design import Build, Bypass, Design, Interlock, Practice, SourceBond
from hearthkeep.core.transfer import CORDS
from hearthkeep.core.wiring.oneline.draft import BEFORE_MAIN
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.words import begun, listed

#: In the order in which they are told apart: the words of a bond inside the supply.
_SOURCE = {
    SourceBond.BONDED: "in the backup supply",
    SourceBond.RELAY: "in the backup supply by its relay, while it makes its own supply",
}


def notes_of(design: Design, plan: WiringPlan) -> Iterator[str]:
    """Bonds, interlock, locks and what one box holds, each as a line; only what was entered."""
    yield from _bonds(design)
    kind = design.transfer.arrangement
    if kind in BEFORE_MAIN and not design.site.off_grid and design.transfer.device.interlock is Interlock.MECHANICAL:
        yield "Grid and backup supply: a mechanism lets only one of the two be closed."
    if kind is not None and kind not in CORDS and design.transfer.device.bypass is Bypass.INTERLOCKED:
        yield "Bypass: one switch or an interlocked pair."
    locked = [
        each.run.label for each in plan.runs if each.has_locks and each.run.kind in (RunKind.ARRAY, RunKind.STRING)
    ]
    if locked:
        yield f"Can be locked open: {listed(locked)}."
    shut = [
        array.name for controller in design.charging.controllers for array in controller.arrays if array.rapid_shutdown
    ]
    if shut:
        yield f"Rapid shutdown by a switch outside: {listed(shut)}."
    if design.inverter.build is not Build.SEPARATE and design.inverter.rated_w > 0:
        inside = [each.name for each in design.charging.controllers if each.built_in and each.charges]
        yield f"One box: {listed(['inverter', 'charger', *inside])}."


def _bonds(design: Design) -> Iterator[str]:
    ground = "ground" if design.practice is Practice.NORTH_AMERICAN else "earth"
    grounding, kind = design.transfer.grounding, design.transfer.arrangement
    if kind is not None and design.inverter.rated_w > 0:
        places = []
        if grounding.service_bond and not design.site.off_grid:
            places.append("at the service")
        if grounding.source_bond in _SOURCE:
            places.append(_SOURCE[grounding.source_bond])
        if grounding.panel_bond:
            places.append("in the backed-up panel")
        if places:
            yield begun(f"neutral and {ground} are joined {listed(places)}.")
    if design.wiring.dc_grounded is not None:
        joined = f"is joined to {ground} at one place" if design.wiring.dc_grounded else f"is not joined to {ground}"
        yield f"The negative of direct current {joined}."
