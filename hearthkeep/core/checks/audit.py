"""Findings about what an audit gets wrong: guesses, charts, standby, things that belong together or never meet."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import ValidationError

from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    USUAL_HEADROOM_FRAC,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
)
from hearthkeep.core.checks.heating import heat_from_a_battery, heating_needs_both
from hearthkeep.core.design import (
    Load,
    Output,
    Quality,
    Service,
    StartCode,
    StartMultiple,
    StartTyped,
    Supply,
    Tier,
)
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.loads import given_by_readings, rests_on_reading, with_readings
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.words import counted, kilowatts, percent, watts

#: Above this share of the daily energy guesses are worth a word.
GUESSED_MIND_FRAC = 0.3
#: A load whose start is this much above its running watts is taken for a motor.
MOTOR_START_RATIO = 1.3
#: Single-phase locked-rotor current over full-load current, NEC Table 430.251(A) (from memory).
LOCKED_ROTOR_MULTIPLE = 6.0
#: Loads that run in bursts: short duty and many watts.
BURST_DUTY_FRAC, BURST_FROM_W = 0.2, 500.0


def guesses(evidence: Evidence) -> Iterator[Finding]:
    """How much of the plan rests on guesses, and which row is worth measuring next."""
    loads = evidence.loads
    guessed_wh = loads.daily_by_quality_wh[Quality.GUESS.value]
    if loads.daily_wh <= 0 or loads.measure_next is None:
        return
    row = next(row for row in loads.rows if row.id == loads.measure_next)
    name = next(load.name for load in evidence.design.loads if load.id == row.id)
    share = guessed_wh / loads.daily_wh
    figure = Figure(
        label="Energy that rests on guesses",
        value=100 * share,
        unit="%",
        formula="Wh a day of rows known by guess or chart ÷ all Wh a day; worth measuring next: largest Wh × doubt",
        terms=(
            *(Term(name=quality, value=value, unit="Wh") for quality, value in loads.daily_by_quality_wh.items()),
            Term(name=f"doubt of {name}", value=row.doubt_wh, unit="Wh"),
        ),
        basis="Doubt of 5 % for measured, 20 % label, 40 % nameplate, 60 % guess: our assumption",
    )
    if share >= GUESSED_MIND_FRAC:
        yield Finding(
            code="GUESSED",
            severity=Severity.MIND,
            step=Step.LOADS,
            title=f"{percent(share)} of the energy is guessed",
            message=f"Worth measuring next: {name}, whose {row.daily_wh:,.0f} Wh a day may be off by {row.doubt_wh:,.0f} Wh. "
            "A plug-in meter left in for 24 h gives the true average and the duty.",
            basis=COMMON_PRACTICE,
            figure=figure,
        )
    elif evidence.design.loads:
        yield Finding(
            code="WELL_KNOWN",
            severity=Severity.GOOD,
            step=Step.LOADS,
            title=f"{percent(1 - share)} of the energy is known",
            message=f"Measured, from a label or a nameplate. The largest doubt left is {name}, {row.doubt_wh:,.0f} Wh a day.",
            basis=COMMON_PRACTICE,
            figure=figure,
        )


def reading_left_behind(evidence: Evidence) -> Iterator[Finding]:
    """Figures that no longer are what their readings give."""
    rows = [(index, load) for index, load in enumerate(evidence.design.loads) if not rests_on_reading(load)]
    if not rows:
        return
    changes = [
        Change(path=f"{evidence.row(index)}.{field}", value=value)
        for index, load in rows
        if _can_be(load)
        for field, value in given_by_readings(load).items()
        if value != getattr(load, field)
    ]
    first = rows[0][1]
    given = {"running_w": first.running_w, "duty_frac": first.duty_frac, **given_by_readings(first)}
    yield Finding(
        code="READING_LEFT_BEHIND",
        severity=Severity.MIND,
        step=Step.LOADS,
        title=f"{first.name}: not what was read",
        message=f"The row says {watts(first.running_w)} at {percent(first.duty_frac)}; its reading gives "
        f"{watts(given['running_w'])} at {percent(given['duty_frac'])}."
        + (
            f" {counted(len(rows) - 1, 'more row')} {'has' if len(rows) == 2 else 'have'} left {'its reading' if len(rows) == 2 else 'their readings'}."
            if len(rows) > 1
            else ""
        ),
        basis=PHYSICS,
        remedy=Remedy(label="Take what the readings give", changes=tuple(changes)) if changes else None,
    )


def _can_be(load: Load) -> bool:
    """Whether what the readings give is within what a load may have."""
    try:
        with_readings(load)
    except ValidationError:
        return False
    return True


def needs_both_legs(evidence: Evidence) -> Iterator[Finding]:
    """A load of 240 V."""
    service = evidence.design.site.service
    names = [load.name for load in evidence.design.loads if load.supply is Supply.AC_240]
    if not names or service is Service.V230:
        return
    alone, output = service is Service.V120, evidence.design.inverter.output
    one_leg = output is Output.V120
    yield Finding(
        code="NEEDS_240_V" if alone else "NEEDS_BOTH_LEGS",
        severity=Severity.MEND if alone else Severity.MIND,
        step=Step.LOADS,
        title=f"{names[0]} needs 240 V",
        message="The service here is 120 V: it cannot run."
        if alone
        else "It takes both legs, half its watts on each. "
        + (
            "The inverter gives one leg only: a split-phase unit or a pair is needed."
            if one_leg
            else "The inverter gives both."
            if output is not None
            else "A single 120 V inverter cannot run it; a split-phase unit or a pair is needed."
        ),
        basis="Voltage of the load against the service of the site",
    )


def start_from_a_chart(evidence: Evidence) -> Iterator[Finding]:
    """The start that decides the inverter, taken from a chart."""
    name = evidence.loads.start_surge_load
    found = next(((i, load) for i, load in enumerate(evidence.design.loads) if load.name == name), None)
    if found is None:
        return
    index, load = found
    known = load.start_known
    is_known = (
        isinstance(known, StartCode)
        or (isinstance(known, StartMultiple) and known.multiple >= LOCKED_ROTOR_MULTIPLE)
        or (isinstance(known, StartTyped) and known.quality is not Quality.GUESS)
    )
    start_w = load.start_w or load.running_w
    if is_known or start_w < MOTOR_START_RATIO * load.running_w:
        return
    locked_w = LOCKED_ROTOR_MULTIPLE * load.running_w
    yield Finding(
        code="START_FROM_CHART",
        severity=Severity.MIND,
        step=Step.LOADS,
        title=f"{load.name}: the start is a chart's",
        message=f"{watts(start_w)} decides the inverter and was not measured. With the rotor locked a single-phase motor takes "
        f"about six times its running current, here {locked_w:,.0f} VA. Read the code letter of its nameplate, or an inrush "
        "clamp.",
        basis="NEC Table 430.251(A): single-phase locked rotor is six times full load (from memory)",
        remedy=Remedy(
            label=f"Try a start of {watts(locked_w)}",
            changes=(
                Change(path=f"{evidence.row(index)}.start_w", value=locked_w),
                Change(
                    path=f"{evidence.row(index)}.start_known",
                    value={"kind": "multiple", "multiple": LOCKED_ROTOR_MULTIPLE},
                ),
            ),
        )
        if locked_w > start_w
        else None,
        figure=Figure(
            label="Start with the rotor locked",
            value=locked_w,
            unit="VA",
            formula="6 × running W",
            terms=(
                Term(name="running", value=load.running_w, unit="W"),
                Term(name="start as entered", value=start_w, unit="W"),
            ),
            basis="NEC Table 430.251(A) (from memory); apparent power, of which the real part is less",
        ),
    )


def standby_above_use(evidence: Evidence) -> Iterator[Finding]:
    """A load that takes more by waiting than by working."""
    for index, load in enumerate(evidence.design.loads):
        hours_on = sum(load.on_by_hour)
        use_wh = load.quantity * load.running_w * load.duty_frac * (load.flexible_h or hours_on)
        waiting_wh = load.quantity * load.standby_w * (24 - (load.flexible_h or hours_on))
        if waiting_wh > use_wh:
            yield Finding(
                code="STANDBY_ABOVE_USE",
                severity=Severity.MIND,
                step=Step.LOADS,
                title=f"{load.name}: waiting costs more than working",
                message=f"Standby takes {waiting_wh:,.0f} Wh a day, its work {use_wh:,.0f} Wh. A switched strip ends it.",
                basis=PHYSICS,
                remedy=Remedy(
                    label="Try it switched off", changes=(Change(path=f"{evidence.row(index)}.standby_w", value=0.0),)
                ),
            )
            return


def peak_of_bursts(evidence: Evidence) -> Iterator[Finding]:
    """A peak made of loads that hardly ever meet."""
    loads = evidence.loads
    bursts = [
        load
        for load in evidence.design.loads
        if load.supply.is_ac
        and load.on_by_hour[loads.peak_hour]
        and load.duty_frac <= BURST_DUTY_FRAC
        and load.running_w >= BURST_FROM_W
    ]
    if len(bursts) < 2:
        return
    total_w = sum(load.quantity * load.running_w for load in bursts)
    largest_w = max(load.quantity * load.running_w for load in bursts)
    apart_w = loads.peak_w - total_w + largest_w
    together, apart = (next_size(value * (1 + USUAL_HEADROOM_FRAC), SIZES_W) for value in (loads.peak_w, apart_w))
    if together <= apart:
        return
    yield Finding(
        code="PEAK_OF_BURSTS",
        severity=Severity.MIND,
        step=Step.LOADS,
        title="The peak is made of short bursts",
        message=f"At {loads.peak_hour}:00 {' and '.join(load.name for load in bursts[:3])} count together. Used one at a time, by "
        f"habit or in other hours, the peak is {watts(apart_w)} instead of {watts(loads.peak_w)}: {kilowatts(apart)} unit "
        f"instead of {together / 1000:g} kW.",
        basis="Sum of coincident running watts; 20 % headroom; common practice",
        figure=Figure(
            label="Peak with one burst at a time",
            value=apart_w,
            unit="W",
            formula="coincident peak − all bursts + the largest of them",
            terms=(
                Term(name="coincident peak", value=loads.peak_w, unit="W"),
                *(Term(name=load.name, value=load.quantity * load.running_w, unit="W") for load in bursts),
            ),
            basis="Bursts: a duty of 20 % or less at 500 W or more; our assumption",
        ),
    )


def away_and_still_on(evidence: Evidence) -> Iterator[Finding]:
    """Nobody is at home, yet comfort loads run."""
    days = [number + 1 for number, day in enumerate(evidence.design.outage.days) if day.away]
    rows = [
        (index, load)
        for index, load in enumerate(evidence.design.loads)
        if load.tier in (Tier.EASE, Tier.SPARE) and not load.stops_when_away
    ]
    if not days or not rows:
        return
    yield Finding(
        code="AWAY_STILL_RUNS",
        severity=Severity.MIND,
        step=Step.LOADS,
        title=f"Nobody is home on day {days[0]}, yet {rows[0][1].name} runs",
        message=f"{counted(len(rows), 'load')} of Ease and Spare {'goes' if len(rows) == 1 else 'go'} on in an empty house. Mark those that stop when nobody is at home.",
        basis="The days of the outage as entered",
        remedy=Remedy(
            label="Stop them when away",
            changes=tuple(Change(path=f"{evidence.row(index)}.stops_when_away", value=True) for index, _ in rows),
        ),
    )


CHECKS = (
    guesses,
    reading_left_behind,
    heat_from_a_battery,
    heating_needs_both,
    needs_both_legs,
    start_from_a_chart,
    standby_above_use,
    peak_of_bursts,
    away_and_still_on,
)
