"""The hour-by-hour model of the outage, compiled.

Inputs are constant inside a step. Inside each step the moments at which a level is met are solved for, so the answer does
not depend on the step length. Powers [W], energies [Wh], times [h], at the direct-current bus.
"""

from hearthkeep.core.outage.kernel.brief import outcome_of, outcomes_of
from hearthkeep.core.outage.kernel.record import run
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
    "Outcome",
    "Plant",
    "Run",
    "Starts",
    "Steps",
    "Timeline",
    "outcome_of",
    "outcomes_of",
    "run",
]
