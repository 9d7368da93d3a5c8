"""Findings about the inverter."""

from __future__ import annotations

import math
from collections.abc import Iterator

from hearthkeep.core.checks.bank_limits import bank_can_feed, start_opens_board
from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
)
from hearthkeep.core.design import MOST_UNITS, Build, Kind, NameplateReading, Output, Service, Supply, Waveform
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.words import counted, headroom, kilowatts, percent, some_of, watts

#: Direct currents at which thicker thought is due, and at which the voltage is wrong [A]. Common practice.
CURRENT_MIND_A, CURRENT_MEND_A = 125.0, 250.0


def rating_and_start(evidence: Evidence) -> Iterator[Finding]:
    """Running watts against the rating, and the worst start against the surge."""
    loads, inverter = evidence.loads, evidence.all_inverters
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
            remedy=_sized_up(evidence, loads.peak_w * (1 + inverter.headroom_frac), loads.start_surge_w),
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
            remedy=_sized_up(evidence, loads.peak_w * (1 + inverter.headroom_frac), loads.start_surge_w),
        )
    if over_surge:
        starter = loads.start_surge_load or "The largest start"
        many = starter.endswith("together")
        yield Finding(
            code="START_OVER_SURGE",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title=f"{starter} outrun{'' if many else 's'} the inverter",
            message=f"{'Their starts' if many else 'Its start'} on top of all else that may run {'are' if many else 'is'} {watts(loads.start_surge_w)}; the inverter holds "
            f"{watts(inverter.surge_w)} for {inverter.surge_s:g} s. The true inrush may be two to four times a chart's figure.",
            basis="Worst start plus the other coincident running watts; locked-rotor remark from motor tables, from memory",
            remedy=_sized_up(evidence, max(inverter.rated_w, loads.start_surge_w / 2), loads.start_surge_w),
        )
    if not over_rating and not over_surge:
        spare = inverter.rated_w / loads.peak_w - 1 if loads.peak_w > 0 else 1.0
        enough = spare >= inverter.headroom_frac - 1e-9
        yield Finding(
            code="HEADROOM" if enough else "LITTLE_HEADROOM",
            severity=Severity.GOOD if enough else Severity.MIND,
            step=Step.INVERTER,
            title="Peak and start fit" if enough else "Little headroom",
            message=f"Peak {watts(loads.peak_w)} of {watts(inverter.rated_w)}, worst start {watts(loads.start_surge_w)} of "
            f"{watts(inverter.surge_w)}. Headroom on the peak is {headroom(spare)}, {percent(inverter.headroom_frac)} is asked for; 20 % "
            "is usual, many go up one or two sizes.",
            basis=COMMON_PRACTICE,
            remedy=None
            if enough
            else _sized_up(evidence, loads.peak_w * (1 + inverter.headroom_frac), loads.start_surge_w),
        )


def apparent_power(evidence: Evidence) -> Iterator[Finding]:
    """Apparent power at the peak, by the power factors that were read, against what the unit is rated for."""
    loads, inverter = evidence.loads, evidence.all_inverters
    poor = [
        (load, load.known.power_factor)
        for load in evidence.design.loads
        if load.supply.is_ac
        and load.on_by_hour[loads.peak_hour]
        and isinstance(load.known, NameplateReading)
        and load.known.power_factor < 1.0
    ]
    more_va = sum(load.quantity * load.running_w * (1.0 / factor - 1.0) for load, factor in poor)
    peak_va = loads.peak_w + more_va
    if inverter.rated_w == 0 or not poor or loads.peak_w > inverter.rated_w or peak_va <= inverter.apparent_va:
        return
    is_known = inverter.rated_va is not None
    yield Finding(
        code="PEAK_OVER_VA",
        severity=Severity.MEND if is_known else Severity.MIND,
        step=Step.INVERTER,
        title="The peak fits in watts, not in volt-amperes",
        message=f"{some_of([load.name for load, _ in poor])}: with the power factor on the nameplate the peak of {watts(loads.peak_w)} is {peak_va:,.0f} VA. "
        + (
            f"The unit carries {inverter.apparent_va:,.0f} VA and trips on current before its watts are reached."
            if is_known
            else f"Of the unit {watts(inverter.rated_w)} are entered alone: enter the VA of its sheet."
        ),
        basis="Apparent power = watts ÷ power factor, added up as if in phase, the upper end; textbook",
        figure=Figure(
            label="Apparent power at the peak",
            value=peak_va,
            unit="VA",
            formula="peak watts + watts × (1 ÷ power factor - 1) of each load whose nameplate gives one",
            terms=(
                Term(name="peak", value=loads.peak_w, unit="W"),
                Term(name="by power factors", value=more_va, unit="VA"),
                Term(name="unit", value=inverter.apparent_va, unit="VA" if is_known else "W"),
            ),
            basis=PHYSICS,
        ),
    )


def _sized_up(evidence: Evidence, rated_w: float, start_w: float) -> Remedy:
    """A larger unit; where several work together, each of them."""
    inverter = evidence.design.inverter
    count = inverter.units
    rated = next_size(max(rated_w / count, inverter.rated_w), SIZES_W)
    surge = max(2 * rated, next_size(start_w / count, SIZES_W), inverter.surge_w)
    # The data sheet's idle and efficiency stay; a larger unit usually idles higher, so the price is not hidden.
    idle_w = max(inverter.idle_w, min(round(0.01 * rated), rated / inverter.efficiency_frac - rated))
    return Remedy(
        label=f"Try {kilowatts(rated)} unit" if count == 1 else f"Try {count} units of {rated / 1000:g} kW",
        changes=(
            Change(path="inverter.surge_w", value=surge),
            Change(path="inverter.rated_w", value=rated),
            Change(path="inverter.idle_w", value=idle_w),
        ),
    )


def _higher_voltage(evidence: Evidence) -> Remedy | None:
    """Twice or four times the volts, whichever first makes the current easy; none where neither does."""
    bank, current_a = evidence.design.bank, evidence.inverter.peak_current_a
    factor = next((factor for factor in (2, 4) if current_a / factor <= CURRENT_MIND_A), None)
    if factor is None or bank.series * factor > 64 or evidence.rating.nominal_v * factor > 60:
        return None
    return Remedy(
        label=f"Try {evidence.rating.nominal_v * factor:g} V",
        changes=(
            Change(path="bank.series", value=bank.series * factor),
            Change(path="bank.parallel", value=max(1, -(-bank.parallel // factor))),
            Change(path="inverter.low_cutoff_v", value=round(evidence.design.inverter.low_cutoff_v * factor, 2)),
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
        remedy=_higher_voltage(evidence),
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
        message=f"Search mode listens for {watts(inverter.search_threshold_w)}. {some_of(names, most=4)} "
        f"stay dead whenever nothing larger runs: {sums.search_dead_wh:,.0f} Wh a day. "
        "Feed them from the DC side, or keep the inverter awake.",
        basis="Watts of each load against the search threshold; cycling loads taken as independent, our assumption",
        remedy=Remedy(label="Keep it awake", changes=(Change(path="inverter.search_threshold_w", value=0.0),)),
    )


def waveform(evidence: Evidence) -> Iterator[Finding]:
    """A stepped wave on motors and electronics."""
    if evidence.design.inverter.waveform is Waveform.PURE_SINE or evidence.all_inverters.rated_w == 0:
        return
    motors = [load.name for load in evidence.design.loads if load.supply.is_ac and (load.start_w or 0) > load.running_w]
    yield Finding(
        code="MODIFIED_SINE",
        severity=Severity.MEND if motors else Severity.MIND,
        step=Step.INVERTER,
        title="A stepped wave",
        message=f"{', '.join(motors[:3]) or 'Electronics and chargers'} run hot, hum or fail on a modified sine; some power supplies and "
        "medical devices are ruined by it. Pure sine is the usual choice.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(label="Try pure sine", changes=(Change(path="inverter.waveform", value="pure_sine"),)),
    )


def output_fits(evidence: Evidence) -> Iterator[Finding]:
    """What the inverter gives against what the house and its loads need."""
    inverter, service = evidence.design.inverter, evidence.design.site.service
    if inverter.rated_w == 0 or inverter.output is None:
        return
    both = [load.name for load in evidence.design.loads if load.supply is Supply.AC_240]
    suits = {Service.V120: Output.V120, Service.SPLIT_120_240: Output.SPLIT_120_240, Service.V230: Output.V230}[service]
    remedy = Remedy(label=f"Try {suits.value} V", changes=(Change(path="inverter.output", value=suits.value),))
    if (inverter.output is Output.V230) != (service is Service.V230):
        yield Finding(
            code="OUTPUT_VOLTAGE",
            severity=Severity.STOP,
            step=Step.INVERTER,
            title=f"{inverter.output.value} V into a {service.value} V house",
            message="The inverter's voltage is not the house's: devices burn or do not start.",
            basis="Output voltage against the service of the site",
            remedy=remedy,
        )
    elif inverter.output is Output.SPLIT_PAIR and inverter.units % 2:
        yield Finding(
            code="PAIR_INCOMPLETE",
            severity=Severity.MEND,
            step=Step.INVERTER,
            title="A pair needs two units",
            message=f"Split phase from a pair takes one unit a leg, or the same number on each; {inverter.units} cannot be divided.",
            basis="One 120 V unit a leg, their neutral shared",
            remedy=Remedy(
                label=f"Try {counted(inverter.units + 1, 'unit')}",
                changes=(Change(path="inverter.units", value=min(inverter.units + 1, 12)),),
            ),
        )
    elif inverter.output is Output.V120 and service is Service.SPLIT_120_240:
        yield Finding(
            code="ONE_LEG_ONLY",
            severity=Severity.MEND if both else Severity.MIND,
            step=Step.INVERTER,
            title="120 V into a split-phase house",
            message=(f"{both[0]} needs both legs and stays dead. " if both else "")
            + "One 120 V source on both legs puts the sum of both on a shared neutral: check every multiwire circuit, or feed one leg only.",
            basis="A multiwire branch carries the sum, not the difference, from one 120 V source",
            remedy=remedy,
        )


def _sun_beside(evidence: Evidence) -> str:
    """What becomes of the sun when an inverter/charger fails."""
    if any(controller.charges for controller in evidence.design.charging.controllers):
        return "; the sun goes on charging by its own controller."
    return ", and with them the grid-tied array goes dark." if evidence.outage.coupled is not None else "."


def one_fault(evidence: Evidence) -> Iterator[Finding]:
    """What a single failure takes down."""
    failed, inverter = evidence.one_failed, evidence.design.inverter
    if failed is None or not any(load.supply.is_ac for load in evidence.design.loads):
        return
    if evidence.design.kind is Kind.PORTABLE and inverter.units == 1:
        # A portable unit is one piece: a second is another unit.
        return
    charger = "its charger" if evidence.design.site.off_grid else "grid charger"
    if inverter.output is Output.SPLIT_PAIR and failed.units_left == 1:
        yield Finding(
            code="ONE_FAULT",
            severity=Severity.MIND,
            step=Step.INVERTER,
            title="One fault takes a leg",
            message="Of a pair that makes 120/240 V each unit is one leg: with one of them failed its leg is dead, and so is everything of 240 V. The "
            "second unit is no spare; two units a leg are.",
            basis="Each leg is made by one unit",
        )
        return
    takes = {
        Build.SEPARATE: "Separate parts fail one by one and are replaced one by one; there is more to wire.",
        Build.INVERTER_CHARGER: f"Inverter and {charger} fail together" + _sun_beside(evidence),
        Build.ALL_IN_ONE: f"Inverter, {charger} and solar input fail together: nothing charges and nothing runs until it is replaced.",
    }[inverter.build]
    whole = {"life", "keep"} <= set(failed.tiers_carried)
    if failed.units_left == 0:
        rest = "Life and Keep run on direct current and go on." if whole else "Only direct-current loads go on."
        message = f"One fault leaves every AC load dead. {rest} {takes}"
    else:
        kept = " and ".join(tier.title() for tier in failed.tiers_carried)
        fits = f"{kept} still fit{'s' if len(failed.tiers_carried) == 1 else ''}" if kept else "no tier fits whole on"
        message = f"With one of {inverter.units} failed, {fits} the rest, and the house is carried for {failed.hours_carried_h:.0f} h of {evidence.outage.duration_h:.0f}. {takes}"
    wanted = failed.units_for_keep
    yield Finding(
        code="ONE_FAULT" if not whole else "ONE_FAULT_CARRIED",
        severity=Severity.GOOD if whole else Severity.MIND,
        step=Step.INVERTER,
        title="One fault is carried"
        if whole
        else "One fault darkens the house"
        if failed.units_left == 0
        else "One fault takes a part",
        message=message,
        basis="The outage simulated again with one unit fewer",
        remedy=Remedy(label=f"Try {wanted} of them", changes=(Change(path="inverter.units", value=wanted),))
        if not whole and inverter.units < wanted <= MOST_UNITS
        else None,
    )


CHECKS = (
    waveform,
    output_fits,
    one_fault,
    rating_and_start,
    apparent_power,
    direct_current,
    bank_can_feed,
    start_opens_board,
    cutoff_volts,
    idle_left_out,
    search_leaves_dead,
)
