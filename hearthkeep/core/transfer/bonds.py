"""Where neutral and ground are joined in each position: once, neither never nor twice.

Source: NEC 250.30 and 250.34 in our own words, from memory; the metric rule is common practice after IEC 60364-5-551.
"""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import ArrangementKind, Design, Practice, SourceBond
from hearthkeep.core.transfer.supply import CORDS


def bond_basis(design: Design) -> str:
    """Where the rule of one bond stands, by the project's practice."""
    if design.practice is Practice.METRIC_230:
        return (
            "IEC 60364-5-551 and 4-41: one neutral-earth bond for each supply by itself, in our own words (from memory)"
        )
    return "NEC 250.30: one neutral-ground bond for each separately derived supply, in our own words (from memory)"


@dataclass(frozen=True, kw_only=True, slots=True)
class BondCount:
    """The neutral-ground bonds of the backed-up circuits in one position."""

    position: str
    #: Where they are.
    at: tuple[str, ...]
    #: What the position needs.
    wanted: tuple[int, ...]

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self.at)

    @property
    def is_right(self) -> bool:
        """Whether there are as many as it needs."""
        return self.count in self.wanted


def bond_counts(design: Design) -> tuple[BondCount, ...]:
    """Bonds of the backed-up circuits on the grid and on the backup supply; none without an arrangement.

    A solid neutral stays joined to the service in every position; a switched one leaves it.
    """
    kind, grounding = design.transfer.arrangement, design.transfer.grounding
    if kind is None:
        return ()
    bonded, by_relay = grounding.source_bond is SourceBond.BONDED, grounding.source_bond is SourceBond.RELAY
    if kind in CORDS:
        at = ("the unit",) if bonded or by_relay else ()
        # A floating unit may feed single cord-and-plug loads; in metric practice several need the bond.
        wanted = (1,) if kind is ArrangementKind.PORTABLE_METRIC else (0, 1)
        return (BondCount(position="backup", at=at, wanted=wanted),)
    service = ("the service",) if grounding.service_bond else ()
    panel = ("the backed-up panel",) if grounding.panel_bond else ()
    apart = grounding.switches_neutral or kind is ArrangementKind.MOVED_CIRCUITS
    unit = ("the unit",) if bonded or by_relay else ()
    on_grid = (*service, *panel, *(("the unit",) if bonded and not apart else ()))
    on_backup = (*(() if apart else service), *panel, *unit)
    if kind is ArrangementKind.OWN_PANEL:
        # The house's own panel is its service: a bond of either name is the one in it.
        own = ("the house panel",) if service or panel else ()
        return (BondCount(position="backup", at=(*own, *unit), wanted=(1,)),)
    if kind is ArrangementKind.MOVED_CIRCUITS:
        # Its circuits live on the unit in every position.
        return (BondCount(position="backup", at=on_backup, wanted=(1,)),)
    return (
        BondCount(position="grid", at=on_grid, wanted=(1,)),
        BondCount(position="backup", at=on_backup, wanted=(1,)),
    )
