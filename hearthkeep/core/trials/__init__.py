"""Trials: the outage lived from every hour of the weather year, and what comes of it."""

from hearthkeep.core.trials.lived import Lived, all_starts, end_matters, live
from hearthkeep.core.trials.parts import Part, parts_of
from hearthkeep.core.trials.year import TrialYear, begun, trial_year

__all__ = [
    "Lived",
    "Part",
    "TrialYear",
    "all_starts",
    "begun",
    "end_matters",
    "live",
    "parts_of",
    "trial_year",
]
