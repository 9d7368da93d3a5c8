"""Everything the Transfer page shows of the chosen arrangement."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design, Leg, Service, narrowed
from hearthkeep.core.figure import MOST_ROWS_TOLD, PHYSICS, Figure, Term
from hearthkeep.core.transfer.arrangements import gap_words
from hearthkeep.core.transfer.bonds import BondCount, bond_counts
from hearthkeep.core.transfer.fates import (
    CircuitState,
    Fate,
    Fates,
    LoadFate,
    fates_of,
    has_positions,
    leg_of_slot,
    told_with_generator,
)
from hearthkeep.core.transfer.labels import labels_of
from hearthkeep.core.transfer.legs import leg_loads_w
from hearthkeep.core.transfer.neutrals import SharedNeutral, shared_neutrals
from hearthkeep.core.transfer.order import EnergyOrder, Floats, energy_order
from hearthkeep.core.transfer.paths import PowerPath, power_path
from hearthkeep.core.transfer.rides import ITI_BASIS, Ride, gap_s, rides_of
from hearthkeep.core.transfer.supply import WHOLE_PANEL


@dataclass(frozen=True, kw_only=True, slots=True)
class LegState:
    """One leg of the backed-up side."""

    leg: Leg
    is_live: bool
    #: Running watts of the backed-up circuits on it, and the same as current [W], [A].
    running_w: float
    current_a: float
    #: Slots of the main panel on it that are dead because of it; only where the whole panel is fed.
    dead_slots: tuple[int, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class TransferReport:
    """How the house is switched over."""

    circuits: tuple[CircuitState, ...]
    #: AC loads with their fate.
    loads: tuple[LoadFate, ...]
    legs: tuple[LegState, ...]
    #: Leg of each slot of the main panel, from slot 1 on.
    slot_legs: tuple[Leg, ...]
    #: Whether the backed-up circuits stand in a device or panel of their own.
    has_positions: bool
    line_v: float
    #: Both legs from one 120 V supply, and whether 240 V stand between them.
    bridged: bool
    across: bool
    imbalance_w: float
    neutrals: tuple[SharedNeutral, ...]
    #: Gap at the change-over [s]; none without an arrangement.
    gap_s: float | None
    #: The same as one says it; empty without an arrangement.
    gap: str
    rides: tuple[Ride, ...]
    bonds: tuple[BondCount, ...]
    path: PowerPath | None
    order: EnergyOrder
    labels: tuple[str, ...]

    def of(self, fate: Fate) -> tuple[LoadFate, ...]:
        """The loads with a fate."""
        return tuple(load for load in self.loads if load.fate is fate)


def transfer_report(design: Design, rating: BankRating, *, carried_w: Floats) -> TransferReport:
    """
    The report of a design as it was entered.

    :param carried_w: what its carried AC loads draw by hour of a usual day [W], (24,).
    """
    settled = _settled(narrowed(design, "kind", "practice", "site", "loads", "inverter", "charging", "transfer"))
    return TransferReport(**settled, order=energy_order(design, rating, fates_of(design), carried_w))


@lru_cache(maxsize=32)
def _settled(design: Design) -> dict[str, Any]:
    """All of the report but the order of the energy, which is of the bank and the month; kept while those are edited."""
    fates, kind, lasts_s = told_with_generator(design), design.transfer.arrangement, gap_s(design)
    left_out = fates.left_out
    carried = tuple(load for load in design.loads if load.supply.is_ac and load.id not in left_out)
    loads_w = leg_loads_w(design, fates.circuits)
    sides = tuple(loads_w.values())
    return {
        "circuits": fates.circuits,
        "loads": fates.loads,
        "legs": tuple(_leg_state(design, fates, leg, loads_w[leg]) for leg in design.site.legs),
        "slot_legs": tuple(leg_of_slot(slot, design.site.legs) for slot in range(1, design.transfer.main.slots + 1)),
        "has_positions": has_positions(kind),
        "line_v": fates.supply.line_v,
        "bridged": fates.supply.bridged,
        "across": fates.supply.across,
        "imbalance_w": abs(sides[0] - sides[-1]),
        "neutrals": shared_neutrals(design, fates),
        "gap_s": lasts_s,
        "gap": "" if lasts_s is None else gap_words(lasts_s),
        "rides": rides_of(design, carried),
        "bonds": bond_counts(design),
        "path": power_path(design, kind) if kind is not None else None,
        "labels": labels_of(design, fates),
    }


def transfer_figures(report: TransferReport) -> dict[str, Figure]:
    """How the figures of the page come about."""
    return {
        "transfer.gap_s": Figure(
            label="Gap at the change-over",
            value=report.gap_s or 0.0,
            unit="s",
            formula="usual for the arrangement, unless set on the device; against what each load rides through",
            terms=tuple(
                Term(name=ride.name[:60], value=ride.rides_s, unit="s") for ride in report.rides[:MOST_ROWS_TOLD]
            ),
            basis=ITI_BASIS,
        ),
        "transfer.order": Figure(
            label="A clear day of all arrays",
            value=report.order.offered_wh,
            unit="Wh",
            formula="hour by hour each use takes what those before it leave: loads their average draw, the bank up to its charge limit "
            "until full, export the rest",
            terms=(
                *(Term(name=entry.use.value, value=entry.energy_wh, unit="Wh") for entry in report.order.up),
                Term(name="held back", value=report.order.held_back_wh, unit="Wh"),
            ),
            basis="Clear sky by Ineichen, plane by Perez; the inverter's loss left out (our assumption)",
        ),
        "transfer.imbalance_w": Figure(
            label="Difference of the legs",
            value=report.imbalance_w,
            unit="W",
            formula="|A - B| of the running watts of the backed-up circuits; two-pole circuits half on each",
            terms=tuple(Term(name=f"leg {leg.leg.value}", value=leg.running_w, unit="W") for leg in report.legs),
            basis=PHYSICS,
        ),
    }


def _leg_state(design: Design, fates: Fates, leg: Leg, running_w: float) -> LegState:
    is_live = leg in fates.supply.live
    dead = design.transfer.arrangement in WHOLE_PANEL and not is_live and design.site.service is Service.SPLIT_120_240
    return LegState(
        leg=leg,
        is_live=is_live,
        running_w=running_w,
        current_a=running_w / fates.supply.line_v,
        dead_slots=tuple(
            slot for slot in range(1, design.transfer.main.slots + 1) if leg_of_slot(slot, design.site.legs) is leg
        )
        if dead
        else (),
    )
