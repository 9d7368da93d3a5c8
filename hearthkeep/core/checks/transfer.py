"""Findings about the change-over: paths that must not exist, bonds, legs, what is dead, and who is to do the work."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import (
    ArrangementKind,
    Bypass,
    Design,
    GeneratorAt,
    Grounding,
    Interlock,
    Kind,
    SourceBond,
    Supply,
    Tier,
)
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.transfer import (
    BOND_BASIS,
    BY_ITSELF,
    BY_KIND,
    CORDS,
    ITI_BASIS,
    SUPPLIES,
    BondCount,
    Fate,
    Hazard,
    LoadFate,
    bond_counts,
    gap_words,
    gives_split,
    has_positions,
    ranked_arrangements,
)
from hearthkeep.core.words import counted

_INTERCONNECTION = "NEC 702.5: no inadvertent interconnection, in our own words (from memory); line workers' safety"
#: Names told in one sentence.
_MOST_NAMES = 3


def told(names: tuple[str, ...] | list[str]) -> str:
    """A few names for a sentence."""
    shown = ", ".join(name[:40] for name in names[:_MOST_NAMES])
    return shown + (f" and {len(names) - _MOST_NAMES} more" if len(names) > _MOST_NAMES else "")


def set_to(path: str, value: float | int | str | bool | None) -> Change:
    """A change of one field of the transfer part."""
    return Change(path=f"transfer.{path}", value=value)


def not_planned(evidence: Evidence) -> Iterator[Finding]:
    """A home whose change-over nobody has thought of."""
    design = evidence.entered
    if design.transfer.arrangement is not None or not any(load.supply.is_ac for load in design.loads):
        return
    best = ranked_arrangements(design)[0]
    title = BY_KIND[best.kind].title
    yield Finding(
        code="TRANSFER_NOT_PLANNED",
        severity=Severity.MIND,
        step=Step.TRANSFER,
        title="How is the house switched over?" if design.kind is Kind.HOME else "How do the loads reach the unit?",
        message=f"Without an arrangement every AC load counts as carried. By this design's facts, first comes: {title.lower()}. "
        f"{best.why}",
        basis="The advisor's reasons on the Transfer page",
        remedy=Remedy(label=f"Try {title.lower()}", changes=(set_to("arrangement", best.kind.value),)),
    )


def joined_supplies(evidence: Evidence) -> Iterator[Finding]:
    """Supplies that nothing keeps apart."""
    path = evidence.transfer.path
    if path is None:
        return
    labels = {contact.key: contact.label for contact in path.contacts}
    for at_grid in (True, False):
        hazard = next((entry for entry in path.hazards if (entry.first == "grid") is at_grid), None)
        if hazard is None:
            continue
        closed = " and ".join(labels[key] for key in hazard.closed) or "what is always joined"
        yield Finding(
            code="BACK_FEED" if at_grid else "TWO_SUPPLIES",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title="The backup supply can reach the street" if at_grid else "Two supplies on one bus",
            message=f"With {closed} closed, {SUPPLIES[hazard.first]} and {SUPPLIES[hazard.second]} are joined, and nothing prevents "
            "it. "
            + (
                "A line worker can be killed by it, and the returning grid destroys the unit."
                if at_grid
                else "Each makes its own voltage; without synchronising one of them is destroyed, or burns."
            ),
            basis=_INTERCONNECTION if at_grid else COMMON_PRACTICE,
            remedy=_kept_apart(evidence.entered, hazard),
        )


def _kept_apart(design: Design, hazard: Hazard) -> Remedy | None:
    device = design.transfer.device
    if "outlet" in hazard.closed:
        return Remedy(label="Try cords to the loads", changes=(set_to("device.into_outlet", False),))
    if "bypass" in hazard.closed and device.bypass is Bypass.LOOSE:
        return Remedy(label="Try an interlocked bypass", changes=(set_to("device.bypass", Bypass.INTERLOCKED.value),))
    if "generator" in hazard.closed and device.generator_at is GeneratorAt.PANEL:
        at_input = GeneratorAt.INVERTER_INPUT.value
        return Remedy(label="Try it at the inverter's input", changes=(set_to("device.generator_at", at_input),))
    if device.interlock is Interlock.NONE:
        mechanical = Interlock.MECHANICAL.value
        return Remedy(label="Try a mechanical interlock", changes=(set_to("device.interlock", mechanical),))
    return None


#: Changes that may set the bonds right, the least first.
_BOND_CHANGES: tuple[tuple[str, dict[str, object]], ...] = (
    ("the panel's bonding screw out", {"panel_bond": False}),
    ("a floating neutral in the unit", {"source_bond": SourceBond.FLOATING}),
    ("a bond in the unit", {"source_bond": SourceBond.BONDED}),
    ("a switched neutral", {"switches_neutral": True}),
    ("a switched neutral and a bond in the unit", {"switches_neutral": True, "source_bond": SourceBond.BONDED}),
    ("a solid neutral and a floating unit", {"switches_neutral": False, "source_bond": SourceBond.FLOATING}),
    ("screw out, floating unit", {"panel_bond": False, "source_bond": SourceBond.FLOATING}),
    ("screw out, bond in the unit", {"panel_bond": False, "source_bond": SourceBond.BONDED}),
)


def neutral_bonds(evidence: Evidence) -> Iterator[Finding]:
    """Neutral and ground joined once in every position."""
    design, counts = evidence.entered, evidence.transfer.bonds
    grounding = design.transfer.grounding
    if not counts:
        return
    wrong = [count for count in counts if not count.is_right]
    if grounding.source_bond is SourceBond.UNKNOWN:
        if design.transfer.arrangement is ArrangementKind.CORDS:
            return
        yield Finding(
            code="BOND_UNKNOWN",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="Is the unit's neutral bonded?",
            message="Nobody has said whether neutral and ground are joined inside the unit. Read its manual or measure between the "
            "two, unit off and unplugged; the count of bonds depends on it.",
            basis=BOND_BASIS,
            figure=_bond_figure(counts),
        )
        return
    if not wrong:
        yield Finding(
            code="NEUTRAL_BONDED_ONCE",
            severity=Severity.GOOD,
            step=Step.TRANSFER,
            title="Neutral and ground are joined once",
            message="; ".join(f"on {count.position}: {_at(count)}" for count in counts) + ".",
            basis=BOND_BASIS,
            figure=_bond_figure(counts),
        )
        return
    first = wrong[0]
    yield Finding(
        code="NEUTRAL_BONDS",
        severity=Severity.STOP,
        step=Step.TRANSFER,
        title=f"{counted(first.count, 'neutral-ground bond')} on {first.position}"
        if first.count
        else f"No neutral-ground bond on {first.position}",
        message=f"On {first.position} neutral and ground are joined at {_at(first)}. "
        + (
            "Two bonds let the neutral's current flow through ground wires, pipes and frames."
            if first.count > 1
            else "Without a bond a fault to a metal case trips no breaker and no protection."
        ),
        basis=BOND_BASIS,
        remedy=_bond_remedy(design),
        figure=_bond_figure(counts),
    )


def _at(count: BondCount) -> str:
    return " and ".join(count.at) or "no place"


def _bond_figure(counts: tuple[BondCount, ...]) -> Figure:
    return Figure(
        label="Neutral-ground bonds",
        value=float(max(count.count for count in counts)),
        unit="",
        formula="bonds that the neutral of the backed-up circuits meets, position by position; a switched neutral leaves the service's",
        terms=tuple(
            Term(name=f"on {count.position}: {_at(count)}", value=float(count.count), unit="") for count in counts
        ),
        basis=BOND_BASIS,
    )


def _bond_remedy(design: Design) -> Remedy | None:
    for label, fields in _BOND_CHANGES:
        grounding: Grounding = design.transfer.grounding.model_copy(update=fields)
        tried = design.model_copy(update={"transfer": design.transfer.model_copy(update={"grounding": grounding})})
        if all(count.is_right for count in bond_counts(tried)):
            changes = tuple(
                set_to(f"grounding.{name}", value.value if isinstance(value, SourceBond) else bool(value))
                for name, value in fields.items()
            )
            return Remedy(label=f"Try {label}", changes=changes)
    return None


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
        message=(f"{told([load.name for load in dead])}: {dead[0].why}. " if dead else "")
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
    wanted = {load.circuit for load in dead}
    return Remedy(
        label=f"Try them on leg {live}",
        changes=tuple(
            set_to(f"circuits.{at}.backup_leg", live)
            for at, circuit in enumerate(design.transfer.circuits)
            if circuit.id in wanted
        ),
    )


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
            message=f"{told([load.name for load in left])}: {left[0].why}. Somebody depends on it.",
            basis="The tier Life, and where the load hangs",
            remedy=Remedy(label="Try it backed up", changes=(set_to(f"circuits.{at}.backed_up", True),))
            if at is not None and left[0].why == "kept on the grid"
            else None,
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


def no_bypass(evidence: Evidence) -> Iterator[Finding]:
    """Circuits behind an inverter with no way around it."""
    transfer = evidence.entered.transfer
    behind = (ArrangementKind.CRITICAL_PANEL, ArrangementKind.MOVED_CIRCUITS, ArrangementKind.AC_COUPLED)
    if transfer.arrangement not in behind or transfer.device.bypass is not Bypass.NONE:
        return
    life = [load.name for load in evidence.design.loads if load.tier is Tier.LIFE and load.supply.is_ac]
    yield Finding(
        code="NO_BYPASS",
        severity=Severity.MEND if life else Severity.MIND,
        step=Step.TRANSFER,
        title="No way around the inverter",
        message="When the inverter fails or is serviced, its circuits are dark though the grid is up"
        + (f", {told(life)} among them." if life else ".")
        + " A service bypass, interlocked, keeps them on.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(label="Try an interlocked bypass", changes=(set_to("device.bypass", Bypass.INTERLOCKED.value),)),
    )


def ground_faults(evidence: Evidence) -> Iterator[Finding]:
    """Ground-fault outlets on a bonded unit, and portable units in metric practice without protection."""
    transfer = evidence.entered.transfer
    grounding = transfer.grounding
    through_house = transfer.arrangement in (ArrangementKind.INLET, ArrangementKind.MANUAL_SWITCH)
    bonded = grounding.source_bond in (SourceBond.BONDED, SourceBond.RELAY)
    if through_house and grounding.ground_fault_outlets and bonded and not grounding.switches_neutral:
        yield Finding(
            code="GROUND_FAULT_TRIPS",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title="The unit's outlet trips at once",
            message="A bonded unit with ground-fault outlets, plugged into a house whose neutral is bonded too: part of the current "
            "comes back by the ground wire, and the outlet trips as it should. Switch the neutral, or use a floating unit.",
            basis="NEC 250.30 and practice with portable units, in our own words (from memory)",
            remedy=Remedy(label="Try a switched neutral", changes=(set_to("grounding.switches_neutral", True),)),
        )
    if transfer.arrangement is ArrangementKind.PORTABLE_METRIC and not grounding.residual_current:
        yield Finding(
            code="NO_RESIDUAL_CURRENT",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title="No residual-current protection",
            message="Several loads hang on one portable 230 V supply; two faults at once put its voltage on metal that is touched. "
            "30 mA protection behind an earth-neutral bond opens at the first.",
            basis="IEC 60364-5-551, common practice for small low-voltage sets (from memory)",
            remedy=Remedy(label="Try 30 mA protection", changes=(set_to("grounding.residual_current", True),)),
        )


def at_the_gap(evidence: Evidence) -> Iterator[Finding]:
    """What the gap at the change-over does to each load."""
    report, design = evidence.transfer, evidence.entered
    if report.gap_s is None or report.gap_s == 0:
        return
    tiers = {load.id: load.tier for load in design.loads}
    stops = [ride for ride in report.rides if not ride.rides_through]
    if not stops:
        return
    life = [ride.name for ride in stops if tiers[ride.id] is Tier.LIFE]
    starts = [ride.name for ride in stops if ride.starts_anew]
    by_hand = design.transfer.arrangement not in BY_ITSELF
    alone = by_hand and any(day.away for day in design.outage.days)
    yield Finding(
        code="NOBODY_SWITCHES" if alone else "GAP_AT_CHANGE_OVER",
        severity=Severity.MEND if alone else Severity.MIND,
        step=Step.TRANSFER,
        title="Nobody is there to switch over" if alone else f"{gap_words(report.gap_s)} without supply",
        message=("On a day away the change-over by hand does not happen: the house stays dark. " if alone else "")
        + f"{counted(len(stops), 'load')} of {len(report.rides)} {'does' if len(stops) == 1 else 'do'} not ride through "
        f"{gap_words(report.gap_s)}"
        + (f"; Life among them: {told(life)}. Its own battery bridges it" if life else "")
        + (
            f". {told(starts)} start{'s' if len(starts) == 1 else ''} anew"
            + (" together, which counts in the worst start" if not by_hand and len(starts) > 1 else "")
            + "; a refrigerator wants three to five minutes between starts"
            if starts
            else ""
        )
        + ".",
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
            message=f"{told(unplaced)}: counted as carried until placed. Hang each on its circuit on this page.",
            basis="The panel schedule against the audit",
        )
    poles = {circuit.id: circuit.poles for circuit in design.transfer.circuits}
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
            message=f"{told(wrong)}: 240 V on a circuit with one pole. Either the load or the breaker is entered wrongly.",
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
                f"{told([load.name for load in along])} alone means pulling the plug.",
                basis="A breaker switches its whole circuit",
            )
            return


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
        f"{told([names[state.id] for state in left])}.",
        basis="Positions of the transfer device; 240 V takes one on each leg",
        remedy=Remedy(
            label=f"Try {needed + needed % 2} positions", changes=(set_to("device.positions", needed + needed % 2),)
        ),
    )


def papers_and_people(evidence: Evidence) -> Iterator[Finding]:
    """Labels, and who does the work."""
    transfer, report = evidence.entered.transfer, evidence.transfer
    kind = transfer.arrangement
    if kind is None:
        return
    if report.labels:
        done = transfer.labels_in_place
        yield Finding(
            code="LABELS_IN_PLACE" if done else "LABELS_REQUIRED",
            severity=Severity.GOOD if done else Severity.MIND,
            step=Step.TRANSFER,
            title=f"{counted(len(report.labels), 'label')} {'in place' if done else 'to be put up'}",
            message=". ".join(report.labels) + ".",
            basis="NEC 702.7 and 705.12 in our own words (from memory); the adopted edition decides",
        )
    if kind not in CORDS:
        yield Finding(
            code="PANEL_WORK",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="Licensed work, with a permit",
            message=f"{BY_KIND[kind].installer}. A panel stays live above its main breaker. Wrong work here kills line workers and "
            "burns houses; local code and the inspector decide, not this page.",
            basis="Public safety guidance; local code decides",
        )


CHECKS = (
    not_planned,
    joined_supplies,
    neutral_bonds,
    life_left_out,
    dead_loads,
    shared_neutral,
    positions,
    circuits_and_loads,
    no_bypass,
    ground_faults,
    at_the_gap,
    papers_and_people,
)
