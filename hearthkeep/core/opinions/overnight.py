"""Overnight watt-hours: watts by the hours of one night, and an array that puts them back in a day. Common practice, no source."""

from __future__ import annotations

from hearthkeep.core.design import OvernightHabits, hours_in
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.sheet import Answer, Sheet

LEAVES_OUT = "Leaves out depth, losses, idle draw, cold, and every day after the first night."


def overnight(audit: OpinionAudit, habits: OvernightHabits, sheet: Sheet) -> Answer:
    """
    Bank Wh = W × h of the night; array W = Wh ÷ sun hours; controller A = array W ÷ bank V; inverter for the running watts.

    :returns: bank [Wh], array [W], controller [A], inverter [W], before the next size sold.
    """
    right = sheet.right
    night = hours_in(habits.night_hours)
    night_wh = sum(float(load.usual_w[list(night)].sum()) for load in audit.loads)
    loads_wh = sheet.taken(
        "loads", "Loads through the night", night_wh, "Wh", "W × h of the hours of the night",
        path="opinions.overnight.night_hours", right=right.loads_wh,
    )  # fmt: skip
    days = sheet.left_out("days", "Days to be bridged", "one night and no more", right=right.days)
    losses = sheet.left_out("losses", "Losses and idle draw", "not counted", right=right.losses)
    usable = sheet.left_out("usable", "Part of the bank that is used", "all of it", right=right.usable_frac)
    bank_wh = sheet.follows("bank", "Bank", loads_wh * days * losses / usable, "Wh", "loads of the night", is_sum=True)
    sheet.follows("bank_ah", f"the same at {audit.nominal_v:g} V", bank_wh / audit.nominal_v, "Ah", "Wh ÷ bank volts")
    array_w, through_a = quick_array(sheet, audit, loads_wh * losses, habits.sun_hours_h, "overnight")
    return Answer(bank_wh=bank_wh, array_w=array_w, controller_a=through_a, inverter_w=running_watts(sheet, audit))


def quick_array(
    sheet: Sheet, audit: OpinionAudit, daily_wh: float, sun_hours_h: float, method: str
) -> tuple[float, float]:
    """The quick sum that several methods end with: array W = Wh ÷ sun hours, controller A = array W ÷ bank V."""
    hours_h = sheet.taken(
        "sun_hours", "Sun hours a day", sun_hours_h, "h", "by habit", path=f"opinions.{method}.sun_hours_h",
        right=sheet.right.sun_hours_h,
    )  # fmt: skip
    array_w = sheet.follows("array", "Array", daily_wh / hours_h, "W", "Wh a day ÷ sun hours", is_sum=True)
    return array_w, controller_a(sheet, array_w, audit.nominal_v)


def controller_a(sheet: Sheet, array_w: float, nominal_v: float) -> float:
    """Controller A = array W ÷ bank V."""
    return sheet.follows("controller", "Controller", array_w / nominal_v, "A", "array W ÷ bank volts", is_sum=True)


def running_watts(sheet: Sheet, audit: OpinionAudit) -> float:
    """Inverter = the running watts that fall together, then the next size sold."""
    return sheet.taken(
        "inverter", "Inverter", audit.peak_w, "W", "running watts that fall together",
        right=sheet.right.inverter_w,
    )  # fmt: skip
