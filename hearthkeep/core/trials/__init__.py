"""Trials: the outage lived from every hour of the weather year, and what comes of it."""

from hearthkeep.core.trials.carried import CarriedCell, EnduranceCurve, lasts_at_least_h
from hearthkeep.core.trials.lived import Lived, all_starts, end_matters, live
from hearthkeep.core.trials.parts import Part, parts_of
from hearthkeep.core.trials.report import (
    MOST_STARTS_FRAC,
    Reach,
    Trials,
    share_text,
    trials,
)
from hearthkeep.core.trials.worst import SmallStrip, WorstStart
from hearthkeep.core.trials.year import TrialYear, begun, trial_year

__all__ = [
    "MOST_STARTS_FRAC",
    "CarriedCell",
    "EnduranceCurve",
    "Lived",
    "Part",
    "Reach",
    "SmallStrip",
    "TrialYear",
    "Trials",
    "WorstStart",
    "all_starts",
    "begun",
    "end_matters",
    "lasts_at_least_h",
    "live",
    "parts_of",
    "share_text",
    "trial_year",
    "trials",
]
