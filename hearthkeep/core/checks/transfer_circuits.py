"""Findings about circuits and loads at the change-over: what is dead or left out, shared neutrals, positions, the gap."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.transfer import set_to
from hearthkeep.core.design import Design, Supply, Tier
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.transfer import (
    BY_ITSELF,
    ITI_BASIS,
    SURELY_STOPS_S,
    Fate,
    LoadFate,
    gap_words,
    gives_split,
    has_positions,
    only_blinks,
)
from hearthkeep.core.words import counted, some_of


def life_left_out(evidence: Evidence) -> Iterator[Finding]:
    """A Life load that the change-over does not carry."""
    tiers = {load.id: load.tier for load in evidence.entered.loads}
    left = [load for load in evidence.transfer.loads if load.fate is not Fate.CARRIED and tiers[load.id] is Tier.LIFE]
    if left:
        at = next(
            (n for n, circuit in enumerate(evidence.entered.transfer.circuits) if circuit.id == left[0].circuit), None
        )
        yield Finding(
            code="LIFE_NOT_CARRIED",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title=f"{left[0].name} is not carried",
            message=f"{some_of([load.name for load in left])}: {left[0].why}. Somebody depends on it.",
            basis="The tier Life, and where the load hangs",
            remedy=Remedy(label="Try it backed up", changes=(set_to(f"circuits.{at}.backed_up", True),))
            if at is not None and left[0].why == "kept on the grid"
            else None,
        )


def dead_loads(evidence: Evidence) -> Iterator[Finding]:
    """What is switched over and gets nothing."""
    report, design = evidence.transfer, evidence.entered
    dead = report.of(Fate.DEAD)
    slots = [slot for leg in report.legs for slot in leg.dead_slots]
    if not dead and not slots:
        return
    legless = [leg.leg.value for leg in report.legs if not leg.is_live]
    by_240 = [load.name for load in dead if "120 V supply" in load.why]
    yield Finding(
        code="DEAD_CIRCUITS",
        severity=Severity.MEND,
        step=Step.TRANSFER,
        title=f"{dead[0].name} stays dead" if dead else f"Leg {legless[0]} is dead",
        message=(f"{some_of([load.name for load in dead])}: {dead[0].why}. " if dead else "")
        + (f"Only one leg is energised, so that every other pair of slots is dead: {_slots(slots)}. " if slots else "")
        + ("A dead load counts in no peak, draw or size, and nobody notices it before the outage." if dead else ""),
        basis="120 V between a leg and neutral; 240 V only between the two legs of one true 120/240 V supply",
        remedy=_alive(design, dead, bool(by_240)),
    )


def _slots(slots: list[int]) -> str:
    return ", ".join(str(slot) for slot in slots)


def _alive(design: Design, dead: tuple[LoadFate, ...], needs_240: bool) -> Remedy | None:
    if gives_split(design):
        return Remedy(label="Try both legs of the supply", changes=(set_to("device.feed", "both"),))
    if needs_240 or not has_positions(design.transfer.arrangement):
        return Remedy(
            label="Try a 120/240 V unit",
            changes=(Change(path="inverter.output", value="120/240"), set_to("device.feed", None)),
        )
    live = "B" if design.transfer.device.feed == "leg_b" else "A"
    wanted = {design.transfer.root_of(load.circuit) for load in dead}
    return Remedy(
        label=f"Try them on leg {live}",
        changes=tuple(
            set_to(f"circuits.{at}.backup_leg", live)
            for at, circuit in enumerate(design.transfer.circuits)
            if circuit.id in wanted
        ),
    )


def shared_neutral(evidence: Evidence) -> Iterator[Finding]:
    """Multiwire circuits whose neutral carries the sum of two circuits."""
    report = evidence.transfer
    circuits = {circuit.id: (at, circuit) for at, circuit in enumerate(evidence.entered.transfer.circuits)}
    for pair in report.neutrals:
        if not pair.adds_up or (pair.allowed_a is not None and pair.most_a <= pair.allowed_a):
            continue
        (_, first), (at, second) = circuits[pair.first], circuits[pair.second]
        known = pair.allowed_a is not None
        apart = report.across and has_positions(evidence.entered.transfer.arrangement)
        other = "B" if (first.backup_leg or "A") == "A" else "A"
        yield Finding(
            code="SHARED_NEUTRAL_OVERLOAD" if known else "SHARED_NEUTRAL_UNKNOWN",
            severity=Severity.STOP if known else Severity.MEND,
            step=Step.TRANSFER,
            title=f"One neutral for {first.name[:30]} and {second.name[:30]}",
            message=f"Both hang on one line, so that their currents add up in the neutral they share: {pair.carries_a:.1f} A with "
            f"today's loads, {pair.most_a:g} A before a breaker opens, "
            + (
                f"in a conductor for {pair.allowed_a:g} A. No breaker watches the neutral: it can burn."
                if known
                else "in a conductor of unknown size. Enter its size, or keep one of the two on the grid."
            ),
            basis="Kirchhoff's current law; NEC Table 310.16, 60 °C column, and 240.4(D) (from memory)",
            remedy=Remedy(label="Try opposite legs", changes=(set_to(f"circuits.{at}.backup_leg", other),))
            if apart
            else Remedy(label="Try the second on the grid", changes=(set_to(f"circuits.{at}.backed_up", False),)),
            figure=Figure(
                label="Current in the shared neutral",
                value=pair.carries_a,
                unit="A",
                formula="first + second, on one line; from both legs of one supply it would be their difference",
                terms=(
                    Term(name=first.name[:60], value=pair.first_a, unit="A"),
                    Term(name=second.name[:60], value=pair.second_a, unit="A"),
                    Term(name="before a breaker opens", value=pair.most_a, unit="A"),
                    Term(name="conductor", value=pair.allowed_a or 0.0, unit="A"),
                ),
                basis="Kirchhoff's current law, unity power factor",
            ),
        )


def positions(evidence: Evidence) -> Iterator[Finding]:
    """More circuits than the transfer device has room for."""
    left = [state for state in evidence.transfer.circuits if state.why == "no position left for it"]
    most = evidence.entered.transfer.device.positions
    if not left or most is None:
        return
    names = {circuit.id: circuit.name for circuit in evidence.entered.transfer.circuits}
    needed = sum(
        circuit.poles if len(evidence.transfer.legs) > 1 else 1
        for circuit in evidence.entered.transfer.circuits
        if circuit.backed_up
    )
    yield Finding(
        code="TOO_FEW_POSITIONS",
        severity=Severity.MEND,
        step=Step.TRANSFER,
        title=f"{counted(len(left), 'circuit')} without a position",
        message=f"The backed-up circuits need {needed} positions, half on each leg; there are {most}. Left on the grid: "
        f"{some_of([names[state.id] for state in left])}.",
        basis="Positions of the transfer device; 240 V takes one on each leg",
        remedy=Remedy(
            label=f"Try {needed + needed % 2} positions", changes=(set_to("device.positions", needed + needed % 2),)
        ),
    )


def circuits_and_loads(evidence: Evidence) -> Iterator[Finding]:
    """Loads without a circuit, on the wrong one, and those that come along."""
    report, design = evidence.transfer, evidence.entered
    unplaced = [load.name for load in report.loads if load.unplaced]
    if unplaced:
        yield Finding(
            code="LOADS_UNPLACED",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title=f"{counted(len(unplaced), 'load')} on no circuit",
            message=f"{some_of(unplaced)}: counted as carried until placed. Hang each on its circuit on this page.",
            basis="The panel schedule against the audit",
        )
    poles = {key: circuit.poles for key, circuit in design.transfer.feeding.items()}
    wrong = [
        load.name
        for load in design.loads
        if load.supply is Supply.AC_240 and poles.get(load.circuit or "") == 1 and len(report.legs) > 1
    ]
    if wrong:
        yield Finding(
            code="POLES_MISMATCH",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title=f"{wrong[0]} needs two poles",
            message=f"{some_of(wrong)}: 240 V on a circuit with one pole. Either the load or the breaker is entered wrongly.",
            basis="240 V stand between two legs only",
        )
    yield from _come_along(evidence)


def _come_along(evidence: Evidence) -> Iterator[Finding]:
    order = list(Tier)
    loads = {load.id: load for load in evidence.entered.loads}
    for state in evidence.transfer.circuits:
        there = [loads[key] for key in state.loads]
        if state.fate is not Fate.CARRIED or not there or evidence.entered.transfer.arrangement is None:
            continue
        highest = min(there, key=lambda load: order.index(load.tier))
        along = [load for load in there if order.index(load.tier) > order.index(highest.tier)]
        if along:
            drawn_wh = sum(row.daily_wh for row in evidence.loads.rows if row.id in {load.id for load in along})
            yield Finding(
                code="COMES_ALONG",
                severity=Severity.MIND,
                step=Step.TRANSFER,
                title=f"{along[0].name} comes along with {highest.name[:40]}",
                message=f"They share slot {state.slots[0]}: switched over together, {drawn_wh:,.0f} Wh a day more. Dropping "
                f"{some_of([load.name for load in along])} alone means pulling the plug.",
                basis="A breaker switches its whole circuit",
            )
            return


def at_the_gap(evidence: Evidence) -> Iterator[Finding]:
    """What the gap at the change-over does to each load."""
    report, design = evidence.transfer, evidence.entered
    if report.gap_s is None or report.gap_s == 0:
        return
    tiers = {load.id: load.tier for load in design.loads}
    stops = [ride for ride in report.rides if not ride.rides_through]
    if not stops:
        return
    # Of Life only what was entered counts: a battery of its own, or what its maker says. What cycles, as a cool box does, waits.
    cycles = {load.id for load in design.loads if load.duty_frac < 1.0}
    life = [
        ride.name
        for ride in stops
        if tiers[ride.id] is Tier.LIFE and ride.id not in cycles and not only_blinks(ride.name, report.gap_s)
    ]
    starts = [ride.name for ride in stops if ride.starts_anew]
    by_hand = design.transfer.arrangement not in BY_ITSELF
    alone = by_hand and any(day.away for day in design.outage.days)
    yield Finding(
        code="NOBODY_SWITCHES" if alone else "GAP_AT_CHANGE_OVER",
        severity=Severity.MEND if alone or life else Severity.MIND,
        step=Step.TRANSFER,
        title="Nobody is there to switch over" if alone else f"{gap_words(report.gap_s)} without supply",
        message=("On a day away the change-over by hand does not happen: the house stays dark. " if alone else "")
        + f"{counted(len(stops), 'load')} of {len(report.rides)} {'may not ride' if report.gap_s < SURELY_STOPS_S else 'does not ride' if len(stops) == 1 else 'do not ride'} through "
        f"{gap_words(report.gap_s)}"
        + (
            f"; Life among them: {some_of(life)}. Enter on the load the longest gap that it rides through, by a battery of its own or by its "
            "maker's word; with none it needs a supply that bridges the gap"
            if life
            else ""
        )
        + (
            f". {some_of(starts)} start{'s' if len(starts) == 1 else ''} anew"
            + (" together, which counts in the worst start" if not by_hand and len(starts) > 1 else "")
            + "; a refrigerator wants three to five minutes between starts"
            if starts
            else ""
        )
        + (
            "."
            if report.gap_s >= SURELY_STOPS_S
            else ". Motors coast through it; what works with electronics may begin anew."
        ),
        basis=ITI_BASIS,
        figure=Figure(
            label="Gap at the change-over",
            value=report.gap_s,
            unit="s",
            formula="gap of the arrangement against what each load rides through; typical unless set on the load",
            terms=tuple(
                Term(name=f"{ride.name[:48]}{'' if ride.is_typical else ' (set)'}", value=ride.rides_s, unit="s")
                for ride in report.rides[:12]
            ),
            basis=ITI_BASIS,
        ),
    )


CHECKS = (
    life_left_out,
    dead_loads,
    shared_neutral,
    positions,
    circuits_and_loads,
    at_the_gap,
)
