"""Trials: the outage lived from every hour of the weather year, and what comes of it."""

from hearthkeep.core.trials.carried import CarriedCell, EnduranceCurve, lasts_at_least_h
from hearthkeep.core.trials.failures import Failure, Failures, Spare, failure_pieces, single_failures
from hearthkeep.core.trials.lived import Lived, all_starts, end_matters, live
from hearthkeep.core.trials.one_more import OneMore, OneMoreOfEach, one_more_of_each, one_more_pieces
from hearthkeep.core.trials.outlook import Outlook
from hearthkeep.core.trials.parts import Part, parts_of
from hearthkeep.core.trials.pieces import Pieces
from hearthkeep.core.trials.record import Indices, OutageLived, Reliability, indices, reliability
from hearthkeep.core.trials.report import (
    MOST_STARTS_FRAC,
    Reach,
    Trials,
    share_figure,
    share_text,
    trial_pieces,
    trials,
)
from hearthkeep.core.trials.whole_year import DarkSpell, DayLived, MonthLived, WholeYear, whole_year
from hearthkeep.core.trials.worst import SmallStrip, WorstStart, worst_first
from hearthkeep.core.trials.year import TrialYear, begun, planned_length_h, trial_year

__all__ = [
    "MOST_STARTS_FRAC",
    "CarriedCell",
    "DarkSpell",
    "DayLived",
    "EnduranceCurve",
    "Failure",
    "Failures",
    "Indices",
    "Lived",
    "MonthLived",
    "OneMore",
    "OneMoreOfEach",
    "OutageLived",
    "Outlook",
    "Part",
    "Pieces",
    "Reach",
    "Reliability",
    "SmallStrip",
    "Spare",
    "TrialYear",
    "Trials",
    "WholeYear",
    "WorstStart",
    "all_starts",
    "begun",
    "end_matters",
    "failure_pieces",
    "indices",
    "lasts_at_least_h",
    "live",
    "one_more_of_each",
    "one_more_pieces",
    "parts_of",
    "planned_length_h",
    "reliability",
    "share_figure",
    "share_text",
    "single_failures",
    "trial_pieces",
    "trial_year",
    "trials",
    "whole_year",
    "worst_first",
]
