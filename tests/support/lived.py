"""The outage of a design alone, without prices and findings, for tests that simulate hundreds."""

from __future__ import annotations

from hearthkeep.core.design import Design
from hearthkeep.core.outage import OutageReport, prepare, report_from, run_panel_loads


def lived(design: Design) -> OutageReport:
    """Simulate the outage of a design."""
    prepared = prepare(design)
    return report_from(
        prepared,
        prepared.run(),
        panel_loads=run_panel_loads(prepared.design, prepared.scene),
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
