"""How each figure on the screens comes about: the formula with its inputs and its basis; one file a step."""

from __future__ import annotations

from hearthkeep.core.checks import Evidence
from hearthkeep.core.figure import Figure
from hearthkeep.core.figures.bank import bank_figures
from hearthkeep.core.figures.charging import charging_figures
from hearthkeep.core.figures.inverter import inverter_figures
from hearthkeep.core.figures.loads import load_figures
from hearthkeep.core.figures.outage import outage_figures


def figures_of(evidence: Evidence) -> dict[str, Figure]:
    """Every explained figure, by the key the screens ask for it with."""
    return {
        **load_figures(evidence),
        **bank_figures(evidence),
        **inverter_figures(evidence),
        **charging_figures(evidence),
        **outage_figures(evidence),
    }
