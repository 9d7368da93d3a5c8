"""Filling the bank from the grid in the warning time of a storm: does it get there?"""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import BankRating, charged_frac, hours_to_full
from hearthkeep.core.design import Design

#: From this state of charge a bank counts as full, since lead-acid creeps through its last percent. Our assumption.
FULL_ENOUGH_FRAC = 0.99


@dataclass(frozen=True, kw_only=True, slots=True)
class WarningFill:
    """The bank from the warning to the first hour of the outage. The sun of these hours is left out."""

    #: State of charge when the warning comes: the top-up set point, or that at the start where there is none.
    from_frac: float
    warning_h: float
    #: State of charge as the outage begins.
    reached_frac: float
    #: Hours to full by the grid charger [h]; none without one.
    needed_h: float | None
    #: Taken from the grid meanwhile, charger losses included [Wh].
    grid_wh: float
    #: Whether that counts as full.
    is_full: bool


def fill_in_warning(design: Design, rating: BankRating) -> WarningFill:
    """Fill from the top-up set point within the warning time, or begin as the bank's page says where there is none."""
    charger, warning_h = design.charging.grid_charger, design.outage.warning_h
    if charger.top_up_soc_frac is None:
        from_frac = reached = design.bank.start_soc_frac
    else:
        from_frac = charger.top_up_soc_frac
        reached = charged_frac(rating, charger_w=charger.output_w, from_frac=from_frac, hours_h=warning_h)
    put_in_wh = (reached - from_frac) * rating.capacity_wh / rating.charge_efficiency_frac
    return WarningFill(
        from_frac=from_frac,
        warning_h=warning_h,
        reached_frac=reached,
        needed_h=hours_to_full(rating, charger_w=charger.output_w, from_frac=from_frac),
        grid_wh=put_in_wh / charger.efficiency_frac,
        is_full=reached >= FULL_ENOUGH_FRAC,
    )
