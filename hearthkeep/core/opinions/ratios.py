"""Ratios: an inverter for the running watts, and to each of its watts so much bank and panel. Common practice, no source."""

from __future__ import annotations

from hearthkeep.core.design import RatioHabits
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.ledger import BLOCK_V
from hearthkeep.core.opinions.overnight import controller_a
from hearthkeep.core.opinions.sheet import Answer, Sheet

LEAVES_OUT = (
    "Looks at watts alone: how long anything runs, how long the outage lasts and what the sky gives are all left out."
)


def ratios(audit: OpinionAudit, habits: RatioHabits, sheet: Sheet) -> Answer:
    """
    Inverter = running watts + 20 %; 100 Ah of a 12 V bank to each 1,000 W of it; 200 W of panel to each 100 Ah.

    :returns: bank [Wh], array [W], controller [A], inverter [W], before the next size sold.
    """
    right = sheet.right
    sheet.follows("running", "Running watts together", audit.peak_w, "W", "of the audit")
    headroom = sheet.taken(
        "headroom", "Headroom", habits.headroom_frac, "", "by habit", path="opinions.ratios.headroom_frac"
    )
    inverter_w = sheet.taken(
        "inverter", "Inverter", audit.peak_w * (1 + headroom), "W", "running watts × (1 + headroom)",
        right=right.inverter_w,
    )  # fmt: skip
    per_100_w = sheet.taken(
        "inverter_per_100", "Inverter to 100 Ah at 12 V", habits.inverter_w_per_100_ah, "W", "by habit",
        path="opinions.ratios.inverter_w_per_100_ah",
    )  # fmt: skip
    block_wh = 100.0 * BLOCK_V
    asked_wh = right.loads_wh * right.days * right.losses / right.usable_frac
    blocks = sheet.taken(
        "blocks", "Blocks of 100 Ah at 12 V", inverter_w / per_100_w, "", "inverter W ÷ the W to each block",
        right=asked_wh / block_wh,
    )  # fmt: skip
    bank_wh = sheet.follows("bank", "Bank", blocks * block_wh, "Wh", "blocks × 1,200 Wh", is_sum=True)
    sheet.follows("bank_ah", f"the same at {audit.nominal_v:g} V", bank_wh / audit.nominal_v, "Ah", "Wh ÷ bank volts")
    panel_w = sheet.taken(
        "panel_per_100", "Panel to 100 Ah at 12 V", habits.panel_w_per_100_ah, "W", "by habit",
        path="opinions.ratios.panel_w_per_100_ah",
        right=right.loads_wh * right.losses / right.sun_hours_h / blocks if blocks > 0 else None,
    )  # fmt: skip
    array_w = sheet.follows("array", "Array", blocks * panel_w, "W", "blocks × the W to each", is_sum=True)
    return Answer(
        bank_wh=bank_wh,
        array_w=array_w,
        controller_a=controller_a(sheet, array_w, audit.nominal_v),
        inverter_w=inverter_w,
    )
