"""Alternatives of a design side by side: what each comes to, what differs, and what each difference alone is worth."""

from hearthkeep.core.alternatives.column import VariantColumn, VariantYear, variant_column, variant_year
from hearthkeep.core.alternatives.differences import PartKey, with_part
from hearthkeep.core.alternatives.worth import Worth, lived_hours_h, worth_of

__all__ = [
    "PartKey",
    "VariantColumn",
    "VariantYear",
    "Worth",
    "lived_hours_h",
    "variant_column",
    "variant_year",
    "with_part",
    "worth_of",
]
