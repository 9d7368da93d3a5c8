"""Findings about the inverter."""

from __future__ import annotations

import math
from collections.abc import Iterator

from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    SIZES_W,
    USUAL_HEADROOM_FRAC,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
    next_size,
    percent,
    watts,
)

#: Direct currents at which thicker thought is due, and at which the voltage is wrong [A]. Common practice.
CURRENT_MIND_A, CURRENT_MEND_A = 125.0, 250.0


def rating_and_start(evidence: Evidence) -> Iterator[Finding]:
    """Running watts against the rating, and the worst start against the surge."""
    loads, inverter = evidence.loads, evidence.design.inverter
    if not any(load.supply.is_ac for load in evidence.design.loads):
        return
    if inverter.rated_w == 0:
        yield Finding(
            code="NO_INVERTER",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title="AC loads and no inverter",
            message=f"The audit holds {watts(loads.peak_w)} of AC loads at its peak and the inverter is rated 0 W.",
            basis="Sum of coincident running watts",
            remedy=_sized_up(evidence, loads.peak_w * (1 + USUAL_HEADROOM_FRAC), loads.start_surge_w),
        )
        return
    over_rating, over_surge = loads.peak_w > inverter.rated_w, loads.start_surge_w > inverter.surge_w
    if over_rating:
        yield Finding(
            code="PEAK_OVER_RATING",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title="More runs at once than it can carry",
            message=f"At {loads.peak_hour}:00 {watts(loads.peak_w)} may run together; the inverter is rated "
            f"{watts(inverter.rated_w)}. The lowest tier's AC loads are dropped until the rest fits.",
            basis="Sum of coincident running watts, duty ignored since motors coincide",
            remedy=_sized_up(evidence, loads.peak_w * (1 + USUAL_HEADROOM_FRAC), loads.start_surge_w),
        )
    if over_surge:
        starter = loads.start_surge_load or "The largest start"
        yield Finding(
            code="START_OVER_SURGE",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title=f"{starter} outruns the inverter",
            message=f"Its start on top of all else that may run is {watts(loads.start_surge_w)}; the inverter holds "
            f"{watts(inverter.surge_w)} for {inverter.surge_s:g} s. The true inrush may be two to four times a chart's figure.",
            basis="Worst start plus the other coincident running watts; locked-rotor remark from motor tables, from memory",
            remedy=_sized_up(evidence, max(inverter.rated_w, loads.start_surge_w / 2), loads.start_surge_w),
        )
    if not over_rating and not over_surge:
        headroom = inverter.rated_w / loads.peak_w - 1 if loads.peak_w > 0 else 1.0
        enough = headroom >= USUAL_HEADROOM_FRAC - 1e-9
        yield Finding(
            code="HEADROOM" if enough else "LITTLE_HEADROOM",
            severity=Severity.GOOD if enough else Severity.MIND,
            step=Step.INVERTER,
            title="Peak and start fit" if enough else "Little headroom",
            message=f"Peak {watts(loads.peak_w)} of {watts(inverter.rated_w)}, worst start {watts(loads.start_surge_w)} of "
            f"{watts(inverter.surge_w)}. Headroom on the peak is {percent(headroom)}; 20 % is usual.",
            basis=COMMON_PRACTICE,
        )


def _sized_up(evidence: Evidence, rated_w: float, start_w: float) -> Remedy:
    inverter = evidence.design.inverter
    rated = next_size(max(rated_w, inverter.rated_w), SIZES_W)
    surge = max(2 * rated, next_size(start_w, SIZES_W), inverter.surge_w)
    # The data sheet's idle and efficiency stay; a larger unit usually idles higher, so the price is not hidden.
    idle_w = max(inverter.idle_w, min(round(0.01 * rated), rated / inverter.efficiency_frac - rated))
    return Remedy(
        label=f"Try a {rated / 1000:g} kW unit",
        changes=(
            Change(path="inverter.surge_w", value=surge),
            Change(path="inverter.rated_w", value=rated),
            Change(path="inverter.idle_w", value=idle_w),
        ),
    )


def direct_current(evidence: Evidence) -> Iterator[Finding]:
    """Amps on the battery side against the system voltage."""
    current_a, bank_v = evidence.inverter.peak_current_a, evidence.rating.nominal_v
    if current_a <= CURRENT_MIND_A:
        return
    heavy = current_a > CURRENT_MEND_A
    yield Finding(
        code="DC_CURRENT_HIGH",
        severity=Severity.MEND if heavy else Severity.MIND,
        step=Step.INVERTER,
        title=f"{current_a:.0f} A at {bank_v:g} V",
        message=f"The peak of {watts(evidence.loads.peak_w)} draws {current_a:.0f} A at the low cut-off of "
        f"{evidence.design.inverter.low_cutoff_v:g} V. "
        + (
            "Cable, fuse and lugs for this are costly and run hot; a higher system voltage is the usual answer."
            if heavy
            else "Short, thick cable and a fuse that can break the bank's short circuit are needed."
        ),
        basis="Input power over the low cut-off voltage; the limits of 125 and 250 A are common practice",
    )


def bank_can_feed(evidence: Evidence) -> Iterator[Finding]:
    """The bank's own current limit."""
    limit_a = evidence.rating.discharge_limit_a
    nominal_a = evidence.inverter.peak_current_a * evidence.design.inverter.low_cutoff_v / evidence.rating.nominal_v
    if nominal_a > limit_a:
        yield Finding(
            code="BANK_CURRENT_LIMIT",
            severity=Severity.MEND,
            step=Step.BANK,
            title="The bank's limit comes first",
            message=f"The peak asks for {nominal_a:.0f} A at {evidence.rating.nominal_v:g} V; the units together may give "
            f"{limit_a:.0f} A, then their protection opens.",
            basis="Sum of the units' discharge limits; typical limits are common practice where the design names none",
            remedy=Remedy(
                label=f"Try {evidence.design.bank.parallel + 1} in parallel",
                changes=(Change(path="bank.parallel", value=evidence.design.bank.parallel + 1),),
            ),
        )


def cutoff_volts(evidence: Evidence) -> Iterator[Finding]:
    """A low cut-off that belongs to another system voltage."""
    cutoff_v, bank_v = evidence.design.inverter.low_cutoff_v, evidence.rating.nominal_v
    if evidence.design.inverter.rated_w > 0 and not 0.7 * bank_v <= cutoff_v <= bank_v:
        yield Finding(
            code="CUTOFF_VOLTAGE_MISMATCH",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title="The low cut-off does not fit the bank",
            message=f"The inverter switches off at {cutoff_v:g} V; for a bank of {bank_v:g} V it lies between "
            f"{0.7 * bank_v:.1f} and {bank_v:.1f} V. Is it made for this system voltage?",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label=f"Try {0.86 * bank_v:.1f} V",
                changes=(Change(path="inverter.low_cutoff_v", value=round(0.86 * bank_v, 1)),),
            ),
        )


def idle_left_out(evidence: Evidence) -> Iterator[Finding]:
    """The inverter's own draw, which no meter in the house shows."""
    inverter = evidence.design.inverter
    if inverter.rated_w == 0 or inverter.idle_w > 0 or not any(load.supply.is_ac for load in evidence.design.loads):
        return
    spare_w = inverter.rated_w / inverter.efficiency_frac - inverter.rated_w
    usual_w = min(float(max(8, round(0.012 * inverter.rated_w))), math.floor(spare_w))
    yield Finding(
        code="IDLE_LEFT_OUT",
        severity=Severity.MEND,
        step=Step.INVERTER,
        title="The inverter's own draw is left out",
        message=f"It is entered as taking nothing while it stands ready. Units of 1 to 3 kW take 15 to 50 W day and night; "
        f"{usual_w:.0f} W would be {24 * usual_w:,.0f} Wh a day, which a plug-in meter behind it never shows.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(label=f"Try {usual_w:.0f} W", changes=(Change(path="inverter.idle_w", value=usual_w),))
        if usual_w > 0
        else None,
    )


def search_leaves_dead(evidence: Evidence) -> Iterator[Finding]:
    """Loads too small to wake the inverter."""
    sums, inverter = evidence.inverter, evidence.design.inverter
    if inverter.search_threshold_w <= 0 or not sums.search_dead:
        return
    names = [load.name for load in evidence.design.loads if load.id in sums.search_dead]
    yield Finding(
        code="SEARCH_LEAVES_DEAD",
        severity=Severity.MEND,
        step=Step.LOADS,
        title=f"{names[0]} cannot wake the inverter",
        message=f"Search mode listens for {watts(inverter.search_threshold_w)}. {', '.join(names[:4])}"
        f"{' and more' if len(names) > 4 else ''} stay dead whenever nothing larger runs: {sums.search_dead_wh:,.0f} Wh a day. "
        "Feed them from the DC side, or keep the inverter awake.",
        basis="Watts of each load against the search threshold; cycling loads taken as independent, our assumption",
        remedy=Remedy(label="Keep it awake", changes=(Change(path="inverter.search_threshold_w", value=0.0),)),
    )


CHECKS = (rating_and_start, direct_current, bank_can_feed, cutoff_volts, idle_left_out, search_leaves_dead)
