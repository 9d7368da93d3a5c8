"""How the figures of the outage come about."""

from __future__ import annotations

from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.outage.report import OutageReport

#: What figures taken from a run rest on.
STEP_BY_STEP = "The outage model, step by step"


def outage_figures(outage: OutageReport, *, time_step_min: int) -> dict[str, Figure]:
    """Hours carried, and the books."""
    ledger = outage.ledger_wh
    return {
        "outage.hours_carried_h": Figure(
            label="Hours carried",
            value=outage.hours_carried_h,
            unit="h",
            formula="time from the start until Life or Keep first asks for power and is not served, or the outage's end; "
            "what is left on the grid or dead asks for nothing",
            terms=(
                Term(name="outage", value=outage.duration_h, unit="h"),
                Term(name="lowest charge", value=100 * outage.min_soc_frac, unit="%"),
                Term(name="reached at hour", value=outage.min_soc_time_h, unit="h"),
            ),
            basis=f"The outage model in steps of {time_step_min} min, levels solved inside each step",
        ),
        "outage.ledger": Figure(
            label="Energy books of the outage",
            value=ledger.sun + ledger.generator + ledger.other + ledger.bank_drawn,
            unit="Wh",
            formula="sun + generator + other sources + drawn from bank = served + inverter loss + charge loss + wiring loss + spilled",
            terms=(
                Term(name="sun", value=ledger.sun, unit="Wh"),
                Term(name="generator", value=ledger.generator, unit="Wh"),
                Term(name="other sources", value=ledger.other, unit="Wh"),
                Term(name="drawn from bank", value=ledger.bank_drawn, unit="Wh"),
                Term(name="served", value=ledger.served, unit="Wh"),
                Term(name="inverter loss", value=ledger.inverter_loss, unit="Wh"),
                Term(name="charge and discharge loss", value=ledger.charge_loss, unit="Wh"),
                Term(name="wiring loss", value=ledger.wiring_loss, unit="Wh"),
                Term(name="spilled", value=ledger.spilled, unit="Wh"),
            ),
            basis="Conservation of energy; the books close within 0.01 %",
        ),
    }
