"""Alternatives of a design side by side: what each comes to, what differs, and what each difference alone is worth."""

from hearthkeep.core.alternatives.column import (
    LaidStrip,
    OpenCheck,
    VariantColumn,
    VariantYear,
    floor_m2,
    mass_kg,
    variant_column,
    variant_year,
)
from hearthkeep.core.alternatives.differences import PartKey, with_part
from hearthkeep.core.alternatives.worth import Worth, lived_hours_h, worth_of

__all__ = [
    "LaidStrip",
    "OpenCheck",
    "PartKey",
    "VariantColumn",
    "VariantYear",
    "Worth",
    "floor_m2",
    "lived_hours_h",
    "mass_kg",
    "variant_column",
    "variant_year",
    "with_part",
    "worth_of",
]
