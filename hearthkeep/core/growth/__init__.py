"""Growth: the design stage by stage, each assessed whole, and what has to be bought large or alike from the start."""

from hearthkeep.core.growth.report import GrowthReport, growth_of

__all__ = ["GrowthReport", "growth_of"]
