"""The outage of a design alone, without prices and findings, for tests that live through hundreds."""

from __future__ import annotations

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design
from hearthkeep.core.outage import (
    OutageReport,
    house_of,
    plant_of,
    report_from,
    rows_for,
    run_direct,
    run_scene,
    scene_of,
    whole,
)


def lived(design: Design) -> OutageReport:
    """Live through the outage of a design."""
    design = whole(design, None)
    rating = rate(design.bank)
    scene = scene_of(design, rating)
    house = house_of(design, rating, rows_for(design, scene))
    return report_from(
        run_scene(scene, house, plant_of(design, rating)),
        scene,
        house,
        direct=run_direct(design, scene),
        capacity_wh=rating.capacity_wh,
        start=design.outage.start.isoformat(),
        hours_back_to_full=None,
    )


def books(outage: OutageReport) -> tuple[float, float]:
    """By how much the books fail to close, and all that flowed [Wh]."""
    ledger = outage.ledger_wh
    put_in = ledger.sun + ledger.generator + ledger.grid + ledger.other + ledger.bank_drawn
    losses = ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss
    return (
        put_in - ledger.served - losses - ledger.spilled,
        ledger.sun + ledger.generator + ledger.other + ledger.served,
    )
