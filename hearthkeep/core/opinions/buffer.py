"""Days of buffer: two or three days in the bank, a small array, a generator sized to charge. Common practice, no source."""

from __future__ import annotations

from hearthkeep.core.design import BufferHabits
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.overnight import quick_array, running_watts
from hearthkeep.core.opinions.sheet import Answer, Sheet

LEAVES_OUT = "Leaves out depth, losses, idle draw, cold, age and start surge."


def days_of_buffer(audit: OpinionAudit, habits: BufferHabits, sheet: Sheet) -> Answer:
    """
    Bank = 2 to 3 × daily kWh; an array that refills it in a week; a generator that charges and does not carry the house.

    :returns: bank [Wh], array [W], controller [A], inverter [W], generator's charger [W], before the next size sold.
    """
    right = sheet.right
    daily_wh = sheet.taken("loads", "Wh a day", audit.usual_wh, "Wh", "sum of the audit", right=right.loads_wh)
    sheet.follows(
        "least", "Bank of the sparing", daily_wh * habits.least_days, "Wh", f"Wh a day × {habits.least_days:g} days"
    )
    days = sheet.taken(
        "days", "Days in the bank", habits.most_days, "", "two to three by habit", path="opinions.buffer.most_days",
        right=right.days,
    )  # fmt: skip
    losses = sheet.left_out("losses", "Losses and idle draw", "not counted", right=right.losses)
    usable = sheet.left_out("usable", "Part of the bank that is used", "all of it", right=right.usable_frac)
    bank_wh = sheet.follows("bank", "Bank", daily_wh * days * losses / usable, "Wh", "Wh a day × days", is_sum=True)
    refill = sheet.taken(
        "refill", "Days to refill it by sun", habits.refill_days, "", "by habit", path="opinions.buffer.refill_days"
    )
    array_w, through_a = quick_array(sheet, audit, bank_wh / refill, habits.sun_hours_h, "buffer")
    hours_h = sheet.taken(
        "generator_h", "Hours to refill it by generator", habits.generator_h, "h", "by habit",
        path="opinions.buffer.generator_h",
    )  # fmt: skip
    charger_w = sheet.follows(
        "generator", "Generator's charger", bank_wh / hours_h, "W", "bank Wh ÷ hours", is_sum=True
    )
    return Answer(
        bank_wh=bank_wh,
        array_w=array_w,
        controller_a=through_a,
        inverter_w=running_watts(sheet, audit),
        generator_w=charger_w,
    )
