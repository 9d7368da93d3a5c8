"""The hour-by-hour model of the outage, compiled.

Inputs are constant inside a step. Inside each step the moments at which a level is met are solved for, so the answer does
not depend on the step length. Powers [W], energies [Wh], times [h], at the direct-current bus.
"""

from hearthkeep.core.outage.kernel.advance import first_state
from hearthkeep.core.outage.kernel.brief import outcome_from, outcome_of, outcomes_of
from hearthkeep.core.outage.kernel.record import run, run_from
from hearthkeep.core.outage.kernel.state import Genset, State
from hearthkeep.core.outage.kernel.values import (
    NO_COUPLED,
    NO_GENERATOR,
    OUTCOME_NUMBERS,
    CoupledPlant,
    GeneratorPlant,
    Outcome,
    Plant,
    Run,
    Starts,
    Steps,
    Timeline,
)

__all__ = [
    "NO_COUPLED",
    "NO_GENERATOR",
    "OUTCOME_NUMBERS",
    "CoupledPlant",
    "GeneratorPlant",
    "Genset",
    "Outcome",
    "Plant",
    "Run",
    "Starts",
    "State",
    "Steps",
    "Timeline",
    "first_state",
    "outcome_from",
    "outcome_of",
    "outcomes_of",
    "run",
    "run_from",
]
