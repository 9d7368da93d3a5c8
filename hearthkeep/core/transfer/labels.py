"""Labels that an arrangement asks for: where each hangs, and the words to be cut out, of what the design has and of nothing else."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.design import ArrangementKind, Bypass, Design, Interlock, Practice, SourceBond
from hearthkeep.core.transfer.fates import Fate, Fates
from hearthkeep.core.transfer.supply import CORDS, supply_of
from hearthkeep.core.words import listed, shortened

#: Arrangements whose supply reaches the house at an inlet, if it has one.
_AT_INLET = (ArrangementKind.INLET, ArrangementKind.MANUAL_SWITCH)
#: Arrangements that start by themselves before the service.
_AT_SERVICE = (ArrangementKind.AUTOMATIC,)
#: Arrangements in which a panel hangs on two sources at once.
_TWO_SOURCES = (ArrangementKind.CRITICAL_PANEL, ArrangementKind.AC_COUPLED)
#: Names of circuits that stand on one label.
MOST_NAMED = 16


def labels_of(design: Design, fates: Fates) -> tuple[str, ...]:
    """Each as "Where: TEXT", with the article that asks for it in North American practice."""
    found = tuple(_labels(design, fates))
    if design.practice is Practice.METRIC_230:
        # The articles are North American.
        return tuple(label.partition(" (NEC")[0] for label in found)
    return found


def _labels(design: Design, fates: Fates) -> Iterator[str]:
    kind, device = design.transfer.arrangement, design.transfer.device
    if kind is None:
        return
    if kind in CORDS:
        yield from _on_the_unit(design)
        return
    if kind is ArrangementKind.OWN_PANEL:
        yield f"At the building: STAND-ALONE SUPPLY, {_supply(design)}; no utility. Shut down {_where(design)} (NEC 710.10)"
    else:
        yield f"At the service: BACKUP SUPPLY, {_supply(design)}. Shut down {_where(design)} (NEC 702.7)"
    if kind in _AT_INLET and device.by_inlet:
        yield f"At the inlet: {_INLET[design.transfer.grounding.source_bond]} (NEC 702.7)"
    if kind is ArrangementKind.INLET:
        slide = "interlock over, " if device.interlock is Interlock.MECHANICAL else ""
        yield f"At the panel: TO BACKUP: all branch breakers off, main off, {slide}inlet breaker on, then the planned ones. BACK: the same in reverse"
    if kind is ArrangementKind.MANUAL_SWITCH and _positions(design, fates):
        yield f"At the switch: {_positions(design, fates)}"
    if kind in _TWO_SOURCES:
        yield "At the panel: TWO SOURCES OF SUPPLY: the grid by its breaker, the inverter by its output breaker. Open both"
    if kind is ArrangementKind.MOVED_CIRCUITS:
        yield "At the panel: FED BY THE INVERTER ALONE, also with the main breaker off. Shut down at the inverter"
    if kind in _AT_SERVICE:
        yield "At the service disconnect: THE BACKUP SUPPLY STARTS BY ITSELF"
    if device.bypass is not Bypass.NONE:
        yield "At the bypass: BYPASS: inverter off, its output breaker open, then close the bypass. Never both at once"
    if supply_of(design).bridged:
        yield "At the panel: SINGLE 120-VOLT SUPPLY. DO NOT CONNECT MULTIWIRE BRANCH CIRCUITS (NEC 710.15)"
    main = design.transfer.main
    if main.supply_breaker_a is not None and main.supply_at_far_end and design.practice is not Practice.METRIC_230:
        yield "At the supply breaker at the far end of the bus: DO NOT RELOCATE THIS DEVICE (NEC 705.12)"


_INLET = {
    SourceBond.BONDED: "FOR A SUPPLY WHOSE NEUTRAL IS JOINED TO GROUND ONLY",
    SourceBond.RELAY: "FOR A SUPPLY THAT JOINS ITS NEUTRAL TO GROUND ONLY",
    SourceBond.FLOATING: "FOR A SUPPLY WHOSE NEUTRAL FLOATS ONLY",
    SourceBond.UNKNOWN: "FOR ONE SUPPLY ONLY; whether its neutral floats is not entered yet",
}


def _supply(design: Design) -> str:
    """What feeds the backed-up side, as entered."""
    parts = []
    if design.inverter.rated_w > 0:
        parts.append(f"battery and inverter of {design.inverter.together.rated_w:,.0f} W")
    if design.charging.arrays:
        parts.append("solar array")
    if design.charging.generator is not None:
        parts.append(f"generator of {design.charging.generator.rated_w:,.0f} W")
    return listed(parts) or "none entered yet"


def _where(design: Design) -> str:
    """Where all of it is shut down."""
    places = ["at the inverter"] if design.inverter.rated_w > 0 else []
    return listed([*places, "at the bank", *(["at the generator"] if design.charging.generator is not None else [])])


def _positions(design: Design, fates: Fates) -> str:
    """The circuits of the switch, each by its positions and its name."""
    names = {circuit.id: circuit.name for circuit in design.transfer.circuits}
    there = sorted(
        (state.positions, shortened(names[state.id], 24)) for state in fates.circuits if state.fate is Fate.CARRIED
    )
    return "; ".join(f"{'+'.join(map(str, positions))} {name}".strip() for positions, name in there[:MOST_NAMED])


def _on_the_unit(design: Design) -> Iterator[str]:
    grounding = design.transfer.grounding
    if grounding.source_bond is SourceBond.RELAY:
        ground = "earth" if design.practice is Practice.METRIC_230 else "ground"
        yield f"On the unit: ITS RELAY JOINS NEUTRAL AND {ground.upper()} WHILE IT MAKES ITS OWN SUPPLY"
    if grounding.residual_current:
        yield "On the unit: PRESS THE TEST BUTTON BEFORE EACH USE"
