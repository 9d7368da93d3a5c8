"""The amp-hour ledger: every load, inverter and parasitic draw in amps at bank volts. Common practice, no source."""

from __future__ import annotations

from hearthkeep.core.design import LedgerHabits, MpptHabit
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.sheet import Answer, Sheet

LEAVES_OUT = "Leaves out what the inverter loses in converting, cold, age and start surge."
#: "A converting controller gives 30 % more", in both forms in which it is put into the sum.
MPPT_FACTOR = {MpptHabit.NONE: 1.0, MpptHabit.DIVIDED: 1 / 1.3, MpptHabit.TIMES: 0.7}
BLOCK_V = 12.0


def ledger(audit: OpinionAudit, habits: LedgerHabits, sheet: Sheet) -> Answer:
    """
    Array A = Ah a day ÷ useful sun hours, W = A × panel volts × safety, less for a converting controller, more for lead-acid;
    bank Ah = Ah of a dark day × dark days ÷ depth; inverter = AC amps together × volts, up a size or two.

    :returns: bank [Wh], array [W], controller [A], inverter [W], before the size sold.
    """
    right, volts = sheet.right, audit.nominal_v
    usual_ah, dark_ah = _daily_ah(audit, habits, sheet)
    idle_ah = audit.idle_day_wh / volts
    asked_ah = right.loads_wh / volts + idle_ah
    day_ah = sheet.taken("day", "Ah a day", usual_ah, "Ah", "sum of the lines above", right=asked_ah)
    # --- array
    hours_h = sheet.taken(
        "sun_hours", "Useful sun hours", habits.sun_hours_h, "h", "by habit", path="opinions.ledger.sun_hours_h",
        right=right.sun_hours_h,
    )  # fmt: skip
    array_a = sheet.follows("array_a", "Array current", day_ah / hours_h, "A", "Ah a day ÷ sun hours")
    panel_v = sheet.taken(
        "panel_v", "Panel volts to 12 V of bank", habits.panel_v, "V", "by habit", path="opinions.ledger.panel_v"
    )
    bare_w = sheet.follows(
        "bare_w", "Panels", array_a * panel_v * blocks_of(volts), "W", "array A × panel volts × 12 V blocks in series"
    )
    safety = sheet.taken(
        "safety", "Safety for trees and cloud", habits.safety_frac, "", "by habit", path="opinions.ledger.safety_frac"
    )
    safe_w = sheet.follows("safe_w", "with safety", bare_w * (1 + safety), "W", "× (1 + safety)")
    mppt = habits.mppt or (MpptHabit.DIVIDED if audit.converts else MpptHabit.NONE)
    factor = sheet.taken(
        "mppt", "Converting controller", MPPT_FACTOR[mppt], "", "“30 % more”: ÷ 1.3, or × 0.7",
        path="opinions.ledger.mppt", note=_both_habits(safe_w) if mppt is not MpptHabit.NONE else "",
    )  # fmt: skip
    charge_frac = habits.charge_efficiency_frac or (0.85 if audit.is_lead_acid else 1.0)
    charge_frac = sheet.taken(
        "charge", "Charge efficiency", charge_frac, "", "lead-acid 0.85, LFP 1",
        path="opinions.ledger.charge_efficiency_frac",
    )  # fmt: skip
    array_w = sheet.follows("array", "Array", safe_w * factor / charge_frac, "W", "× controller ÷ charge", is_sum=True)
    through_a = array_w / volts if factor < 1 else array_a * (1 + safety) / charge_frac
    sheet.follows(
        "controller", "Controller", through_a, "A",
        "array W ÷ bank volts" if factor < 1 else "the panels' own amps", is_sum=True,
    )  # fmt: skip
    # --- bank
    dark = sheet.taken("dark_day", "Ah of a dark day", dark_ah, "Ah", "without the loads that stay off", right=asked_ah)
    days = sheet.taken(
        "days", "Dark days", habits.dark_days, "", "by habit", path="opinions.ledger.dark_days",
        right=right.days,
    )  # fmt: skip
    dark_days_ah = sheet.follows("dark_ah", "Ah over the dark days", dark * days, "Ah", "Ah of a dark day × days")
    losses = sheet.left_out(
        "losses", "Lost in the inverter", "not counted",
        right=right.losses * right.loads_wh / max(right.loads_wh + audit.idle_day_wh, 1e-9),
    )  # fmt: skip
    depth = sheet.taken(
        "usable", "Depth", habits.depth_frac or audit.usual_depth_frac, "", "lead-acid 0.5, LFP 0.8",
        path="opinions.ledger.depth_frac", right=right.usable_frac,
    )  # fmt: skip
    bank_ah = sheet.follows("bank", "Bank", dark_days_ah * losses / depth, "Ah", "÷ depth", is_sum=True)
    # --- inverter
    together_a = sheet.follows("ac_a", "AC amps together, at bank volts", audit.peak_w / volts, "A", "W ÷ bank volts")
    inverter_w = sheet.taken(
        "inverter", "Inverter", together_a * volts, "W", "AC amps × bank volts", right=right.inverter_w
    )
    sizes_up = int(
        sheet.taken(
            "sizes_up", "Sizes up", habits.sizes_up, "", "the next one sold is 1", path="opinions.ledger.sizes_up"
        )
    )
    return Answer(
        bank_wh=bank_ah * volts, array_w=array_w, controller_a=through_a, inverter_w=inverter_w, sizes_up=sizes_up
    )


def blocks_of(nominal_v: float) -> int:
    """12 V blocks in series that make up a bank's volts.

    >>> blocks_of(12.8), blocks_of(51.2)
    (1, 4)
    """
    return max(1, round(nominal_v / BLOCK_V))


def _daily_ah(audit: OpinionAudit, habits: LedgerHabits, sheet: Sheet) -> tuple[float, float]:
    """A usual and a dark day [Ah], each load a line."""
    usual_ah = dark_ah = audit.idle_day_wh / audit.nominal_v
    for load in audit.loads:
        ah = load.usual_wh / audit.nominal_v
        is_off = load.dark_wh == 0 if habits.left_out is None else load.id in habits.left_out
        usual_ah += ah
        if not is_off:
            dark_ah += ah if habits.left_out is not None else load.dark_wh / audit.nominal_v
        amps = load.running_w / audit.nominal_v
        sheet.load(load.id, load.name, ah, "Ah", f"{amps:.4g} A × {load.hours_h:.4g} h", is_off=is_off)
    if audit.idle_day_wh > 0:
        sheet.follows(
            "idle", "Inverter standing ready", audit.idle_day_wh / audit.nominal_v, "Ah",
            f"{audit.idle_w / audit.nominal_v:.3g} A × 24 h",
        )  # fmt: skip
    return usual_ah, dark_ah


def _both_habits(watts: float) -> str:
    divided, times = (MPPT_FACTOR[habit] for habit in (MpptHabit.DIVIDED, MpptHabit.TIMES))
    return (
        f"Both are in use: ÷ 1.3 makes {watts * divided:,.0f} W of it, × 0.7 makes {watts * times:,.0f} W; they lie "
        f"{100 * (divided / times - 1):.0f} % apart."
    )
