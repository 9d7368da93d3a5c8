"""Opinions: six rules of thumb on the design's own audit, with the storm as referee."""

from hearthkeep.core.opinions.blame import Blame, Verdict
from hearthkeep.core.opinions.bought import Bought
from hearthkeep.core.opinions.have import Fit, Have
from hearthkeep.core.opinions.methods import Method
from hearthkeep.core.opinions.report import (
    KitColumn,
    KitName,
    KitShare,
    Opinion,
    OpinionsReport,
    kit_design,
    kit_share,
    opinions_of,
)
from hearthkeep.core.opinions.sheet import Answer, OpinionLine

__all__ = [
    "Answer",
    "Blame",
    "Bought",
    "Fit",
    "Have",
    "KitColumn",
    "KitName",
    "KitShare",
    "Method",
    "Opinion",
    "OpinionLine",
    "OpinionsReport",
    "Verdict",
    "kit_design",
    "kit_share",
    "opinions_of",
]
