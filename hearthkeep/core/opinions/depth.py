"""The depth formula: Ah = daily Wh ÷ (V × depth). Common practice, no source."""

from __future__ import annotations

from hearthkeep.core.design import DepthHabits
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.overnight import quick_array, running_watts
from hearthkeep.core.opinions.sheet import Answer, Sheet

LEAVES_OUT = "Leaves out losses, idle draw, cold, age, start surge, and every day after the first. Of an array it says nothing: the quick sum stands in."


def depth_formula(audit: OpinionAudit, habits: DepthHabits, sheet: Sheet) -> Answer:
    """
    Bank Ah = daily Wh ÷ (bank volts × depth), plus growth, then the next size sold.

    :returns: bank [Wh], array [W], controller [A], inverter [W], before the next size sold.
    """
    right, volts = sheet.right, audit.nominal_v
    for load in audit.loads:
        sheet.load(load.id, load.name, load.usual_wh, "Wh", f"{load.running_w:.4g} W × {load.hours_h:.4g} h")
    daily_wh = sheet.taken("loads", "Wh a day", audit.usual_wh, "Wh", "sum of the lines above", right=right.loads_wh)
    days = sheet.left_out("days", "Days to be bridged", "one day and no more", right=right.days)
    losses = sheet.left_out("losses", "Losses and idle draw", "not counted", right=right.losses)
    depth = sheet.taken(
        "usable", "Depth", habits.depth_frac or audit.usual_depth_frac, "", "lead-acid 0.5, LFP 0.8",
        path="opinions.depth.depth_frac", right=right.usable_frac,
    )  # fmt: skip
    asked_ah = sheet.follows(
        "asked_ah", "Ah asked for", daily_wh * days * losses / (volts * depth), "Ah", "Wh ÷ (bank volts × depth)"
    )
    growth = sheet.taken(
        "growth", "Growth", habits.growth_frac, "", "room for loads to come", path="opinions.depth.growth_frac",
        right=0.0,
    )  # fmt: skip
    bank_ah = sheet.follows("bank", "Bank", asked_ah * (1 + growth), "Ah", "× (1 + growth)", is_sum=True)
    array_w, through_a = quick_array(sheet, audit, daily_wh * losses, habits.sun_hours_h, "depth")
    return Answer(
        bank_wh=bank_ah * volts, array_w=array_w, controller_a=through_a, inverter_w=running_watts(sheet, audit)
    )
