"""How the inverter's figures come about."""

from __future__ import annotations

from hearthkeep.core.design import Inverter
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.loads import LoadSums
from hearthkeep.core.sizing.bank_and_inverter import InverterSums


def inverter_figures(inverter: Inverter, loads: LoadSums, sums: InverterSums) -> dict[str, Figure]:
    """Currents and idle draw of all inverters together."""
    marginal = Term(name="marginal efficiency", value=sums.marginal_efficiency_frac, unit="")
    cutoff = Term(name="low cut-off", value=inverter.low_cutoff_v, unit="V")
    idle = Term(name="idle", value=inverter.idle_w, unit="W")
    formula = "(idle W + output W ÷ marginal efficiency) ÷ low cut-off V"
    return {
        "inverter.peak_current_a": Figure(
            label="Direct current at the peak",
            value=sums.peak_current_a,
            unit="A",
            formula=formula,
            terms=(Term(name="output", value=loads.peak_w, unit="W"), idle, marginal, cutoff),
            basis="At the lowest battery voltage under load, not the nominal one",
        ),
        "inverter.surge_current_a": Figure(
            label="Direct current at the worst start",
            value=sums.surge_current_a,
            unit="A",
            formula=formula,
            terms=(Term(name="output", value=loads.start_surge_w, unit="W"), idle, marginal, cutoff),
            basis="At the lowest battery voltage under load, for seconds",
        ),
        "inverter.idle_daily_wh": Figure(
            label="Idle draw a day",
            value=sums.idle_daily_wh,
            unit="Wh",
            formula="idle W × 24 h, while any tier on the bank owns an AC load",
            terms=(idle,),
            basis=PHYSICS,
        ),
    }
