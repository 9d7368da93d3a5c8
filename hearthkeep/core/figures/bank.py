"""How the bank's figures come about."""

from __future__ import annotations

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.checks import Evidence
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.practice import degrees


def bank_figures(evidence: Evidence) -> dict[str, Figure]:
    design, rating, bank = evidence.design, evidence.rating, evidence.bank
    unit = design.bank
    typical = TYPICAL[unit.chemistry]
    figures = {
        "bank.rated_wh": Figure(
            label="Rated energy",
            value=bank.rated_wh,
            unit="Wh",
            formula="unit V × series × unit Ah × parallel",
            terms=(
                Term(name="unit", value=unit.unit_v, unit="V"),
                Term(name="series", value=unit.series, unit=""),
                Term(name="unit", value=unit.unit_ah, unit="Ah"),
                Term(name="parallel", value=unit.parallel, unit=""),
            ),
            basis=PHYSICS,
        ),
        "bank.usable_wh": Figure(
            label="Usable energy",
            value=bank.usable_wh,
            unit="Wh",
            formula="rated Wh × temperature factor × ageing × (1 − floor)",
            terms=(
                Term(name="rated", value=bank.rated_wh, unit="Wh"),
                Term(
                    name=f"temperature factor at {degrees(design, unit.temp_c)}", value=rating.temperature_frac, unit=""
                ),
                Term(name="ageing", value=unit.ageing_frac, unit=""),
                Term(name="floor", value=rating.floor_soc_frac, unit="of full"),
            ),
            basis="IEEE Std 485 Table 1 (from memory)"
            if typical.is_lead_acid
            else "LFP in the cold: common practice, no source",
        ),
        "bank.daily_drawn_wh": Figure(
            label="Drawn from the bank a day, without sun",
            value=bank.daily_drawn_wh,
            unit="Wh",
            formula="loads + inverter standing ready + AC Wh × (1 ÷ marginal efficiency − 1) + converters; × (1 + wiring) "
            "÷ discharge efficiency; Spare left out",
            terms=(
                *(Term(name=line.label, value=line.wh, unit="Wh") for line in bank.daily_ledger[:-1]),
                Term(name="marginal efficiency", value=evidence.inverter.marginal_efficiency_frac, unit=""),
                Term(name="wiring", value=design.wiring.loss_frac, unit=""),
                Term(name="discharge efficiency", value=rating.discharge_efficiency_frac, unit=""),
            ),
            basis="Inverter modelled as idle plus a proportional loss, fitted to its rated point",
        ),
    }
    if bank.autonomy_h is not None:
        figures["bank.autonomy_h"] = Figure(
            label="Autonomy without any sun",
            value=bank.autonomy_h,
            unit="h",
            formula="usable Wh ÷ daily Wh drawn × 24",
            terms=(
                Term(name="usable", value=bank.usable_wh, unit="Wh"),
                Term(name="drawn a day", value=bank.daily_drawn_wh, unit="Wh"),
            ),
            basis="Averages over the day; the strip below knows the hours and the drop rules",
        )
    return figures
