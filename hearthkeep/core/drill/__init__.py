"""Drill: a storm with surprises lived on one's own design, and its account."""

from hearthkeep.core.drill.account import DrillAccount, drill_account
from hearthkeep.core.drill.play import MOST_DECISIONS, DrillDecision
from hearthkeep.core.drill.scenario import LONGEST_DRILL_H, Scenario, drawn_scenario
from hearthkeep.core.drill.stand import DrillStand, drill_stand

__all__ = [
    "LONGEST_DRILL_H",
    "MOST_DECISIONS",
    "DrillAccount",
    "DrillDecision",
    "DrillStand",
    "Scenario",
    "drawn_scenario",
    "drill_account",
    "drill_stand",
]
