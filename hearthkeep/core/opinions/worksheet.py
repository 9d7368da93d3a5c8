"""The full worksheet: autonomy, depth, cold, ageing, losses, worst-month sun and margin.

In the manner of IEEE Std 1013 (lead-acid batteries for stand-alone photovoltaic systems) and IEEE Std 1562 (array and battery
sizing); the order of the steps and the usual values are from memory.
"""

from __future__ import annotations

from calendar import month_name

from hearthkeep.core.design import WorksheetHabits
from hearthkeep.core.loads import HOURS
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.sheet import Answer, Sheet
from hearthkeep.core.sources import TYPICAL_VMP_RATIO

LEAVES_OUT = "Leaves out the hour: a day is its mean, and the sky of this one outage is that of a mean month."
#: Controllers and conductors take a quarter more than the array's rated current. NEC 690.8 in our own words.
CONTROLLER_MARGIN = 1.25


def worksheet(audit: OpinionAudit, habits: WorksheetHabits, sheet: Sheet) -> Answer:
    """
    Bank Ah = the greatest of Ah a day × autonomy ÷ depth, Ah a day ÷ daily depth and Ah a day × autonomy ÷ end of life,
    ÷ cold × (1 + margin); array A = Ah a day × array-to-load ratio ÷ (1 − losses) ÷ sun hours of the design month.

    :returns: bank [Wh], array [W], controller [A], inverter [W], before the next size sold.
    """
    volts = audit.nominal_v
    day_ah = _day_ah(audit, sheet)
    bank_ah = _bank_ah(audit, habits, sheet, day_ah)
    array_w, controller_a = _array(audit, habits, sheet, day_ah)
    headroom = sheet.taken(
        "headroom", "Headroom of the inverter", habits.headroom_frac, "", "by habit",
        path="opinions.worksheet.headroom_frac",
    )  # fmt: skip
    inverter_w = sheet.taken(
        "inverter", "Inverter", max(audit.peak_w * (1 + headroom), audit.start_w / audit.surge_ratio), "W",
        "the greater of running watts × (1 + headroom) and worst start ÷ surge ratio",
        right=sheet.right.inverter_w,
    )  # fmt: skip
    return Answer(bank_wh=bank_ah * volts, array_w=array_w, controller_a=controller_a, inverter_w=inverter_w)


def _day_ah(audit: OpinionAudit, sheet: Sheet) -> float:
    right = sheet.right
    loads_wh = sheet.taken("loads", "Loads a day", audit.usual_wh, "Wh", "sum of the audit", right=right.loads_wh)
    ac_wh = sum(load.usual_wh for load in audit.loads if load.is_ac)
    extra_wh = ac_wh * (1 / audit.efficiency_frac - 1) + audit.idle_day_wh + HOURS * audit.heater_w
    losses = sheet.taken(
        "losses", "Inverter, idle draw and heater", 1 + extra_wh / audit.usual_wh if audit.usual_wh > 0 else 1.0, "",
        "(AC Wh ÷ efficiency + DC Wh + idle + heater) ÷ loads", right=right.losses,
    )  # fmt: skip
    return sheet.follows(
        "day_ah", "Ah a day at the bank", loads_wh * losses / audit.nominal_v, "Ah", "loads × losses ÷ bank volts",
        is_sum=True,
    )  # fmt: skip


def _bank_ah(audit: OpinionAudit, habits: WorksheetHabits, sheet: Sheet, day_ah: float) -> float:
    right = sheet.right
    days = sheet.taken(
        "days", "Days of autonomy", habits.autonomy_days, "", "by habit", path="opinions.worksheet.autonomy_days",
        right=right.days,
    )  # fmt: skip
    bare_ah = sheet.follows("bare_ah", "Ah over the autonomy", day_ah * days, "Ah", "Ah a day × days")
    depth = sheet.taken(
        "depth", "Greatest depth", habits.depth_frac or audit.depth_frac, "", "at the end of the autonomy",
        path="opinions.worksheet.depth_frac",
    )  # fmt: skip
    daily = sheet.taken(
        "daily_depth", "Depth of a usual day", habits.daily_depth_frac or (0.25 if audit.is_lead_acid else depth), "",
        "lead-acid 0.25, LFP as deep as the greatest", path="opinions.worksheet.daily_depth_frac",
        right=depth,
    )  # fmt: skip
    life = sheet.taken(
        "age", "Capacity at the end of life", habits.end_of_life_frac, "", "the need is met until then",
        path="opinions.worksheet.end_of_life_frac", right=1.0,
    )  # fmt: skip
    by_depth, by_day, by_life = bare_ah / depth, day_ah / daily, bare_ah / life
    greatest_ah = sheet.follows(
        "greatest", "the greatest of the three", max(by_depth, by_day, by_life), "Ah",
        f"÷ depth {by_depth:,.0f}, ÷ daily depth {by_day:,.0f}, ÷ end of life {by_life:,.0f}",
    )  # fmt: skip
    cold = sheet.taken(
        "cold", "Capacity in the cold", audit.temperature_frac, "", "at the temperature of the place",
        path="bank.temp_c",
    )  # fmt: skip
    margin = sheet.taken(
        "margin", "Design margin", habits.design_margin_frac, "", "by habit",
        path="opinions.worksheet.design_margin_frac", right=0.0,
    )  # fmt: skip
    return sheet.follows("bank", "Bank", greatest_ah / cold * (1 + margin), "Ah", "÷ cold × (1 + margin)", is_sum=True)


def _array(audit: OpinionAudit, habits: WorksheetHabits, sheet: Sheet, day_ah: float) -> tuple[float, float]:
    by_month = [wh / max(hours_h, 1e-6) for wh, hours_h in zip(audit.month_wh, audit.sun_hours_h, strict=True)]
    month = by_month.index(max(by_month))
    sun_hours_h = audit.sun_hours_h[month] if habits.sun_hours_h is None else habits.sun_hours_h
    hours_h = sheet.taken(
        "sun_hours", "Sun hours of the design month", max(sun_hours_h, 0.01), "h",
        f"{month_name[month + 1]}, where loads over sun are greatest" if habits.sun_hours_h is None else "as entered",
        path="opinions.worksheet.sun_hours_h", right=sheet.right.sun_hours_h,
    )  # fmt: skip
    ratio = sheet.taken(
        "array_to_load_ratio", "Array-to-load ratio", habits.array_to_load_ratio, "", "1.3 to 1.4 where it matters",
        path="opinions.worksheet.array_to_load_ratio",
    )  # fmt: skip
    loss = habits.system_loss_frac if habits.system_loss_frac is not None else 0.2 if audit.is_lead_acid else 0.1
    loss = sheet.taken(
        "system_loss", "Lost by dust, wire and charging", loss, "", "lead-acid 0.2, LFP 0.1",
        path="opinions.worksheet.system_loss_frac",
    )  # fmt: skip
    array_a = sheet.follows(
        "array_a", "Array current at bank volts", day_ah * ratio / (1 - loss) / hours_h, "A",
        "Ah a day × ratio ÷ (1 − lost) ÷ sun hours",
    )  # fmt: skip
    ratio_v = 1.0 if audit.converts else TYPICAL_VMP_RATIO
    array_w = sheet.follows(
        "array", "Array", array_a * audit.nominal_v * ratio_v, "W",
        "A × bank volts" if audit.converts else "A × panel volts, 1.5 × the bank's", is_sum=True,
    )  # fmt: skip
    controller_a = sheet.follows(
        "controller", "Controller", array_a * CONTROLLER_MARGIN, "A", "array A × 1.25", is_sum=True
    )
    return array_w, controller_a
