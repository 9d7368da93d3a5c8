"""Legs of the house's supply, as a meter meets them."""

from __future__ import annotations

from hearthkeep.core.building.forbidden import TOO_MUCH_FRAC, never
from hearthkeep.core.building.gate import Never, NeverKind
from hearthkeep.core.design import Design, Feed, Output, Practice, Service
from hearthkeep.core.transfer import gives_split


def leg_v(design: Design) -> float:
    """Volts of one leg to neutral, as they stand at an outlet [V]."""
    is_230 = design.practice is Practice.METRIC_230 or Service.V230 is design.site.service
    return 230.0 if is_230 or design.inverter.output is Output.V230 else 120.0


def has_legs(design: Design) -> bool:
    """Whether two legs to neutral are read: a true 120/240 V supply on both."""
    feed = design.transfer.device.feed
    return leg_v(design) == 120.0 and gives_split(design) and feed in (None, Feed.BOTH)


def too_much(volts_v: float) -> tuple[Never, ...]:
    """More than what is plugged in bears."""
    return (never(NeverKind.TOO_MANY_VOLTS, high=TOO_MUCH_FRAC * volts_v),)
