"""Kits: ranges of the library's parts put into a design, each lived through the weather year, price against share carried."""

from hearthkeep.core.kits.answer import KitAnswer, answer_of, kitted_design, stops_of
from hearthkeep.core.kits.choices import MOST_KITS, KitPlan, LeftOut, kits_of
from hearthkeep.core.kits.ranges import KitRanges, KitTarget, read_ranges
from hearthkeep.core.kits.report import KitReport, report_of
from hearthkeep.core.kits.usual import usual_ranges

__all__ = [
    "MOST_KITS",
    "KitAnswer",
    "KitPlan",
    "KitRanges",
    "KitReport",
    "KitTarget",
    "LeftOut",
    "answer_of",
    "kits_of",
    "kitted_design",
    "read_ranges",
    "report_of",
    "stops_of",
    "usual_ranges",
]
