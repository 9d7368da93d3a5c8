"""Findings about the change-over: paths that must not exist, bonds, bypass, protection, and who is to do the work."""

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
    Practice,
    SourceBond,
    Tier,
)
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.transfer import (
    BY_KIND,
    CORDS,
    SUPPLIES,
    BondCount,
    Hazard,
    bond_basis,
    bond_counts,
    ranked_arrangements,
)
from hearthkeep.core.words import counted, listed, some_of

_INTERCONNECTION = (
    "NEC 702.5: no inadvertent interconnection, in our own words (from memory); line workers' safety",
    "IEC 60364-5-551: a backup supply must not feed the public network, in our own words (from memory)",
)
_LABELS = (
    "NEC 702.7 and 705.12 in our own words (from memory); the adopted edition decides",
    "IEC 60364-5-551 and common practice, in our own words (from memory); local rules decide",
)


def by_practice(design: Design, north_american: str, metric: str) -> str:
    """The source that the project's practice goes by."""
    return metric if design.practice is Practice.METRIC_230 else north_american


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


def suits_the_grid(evidence: Evidence) -> Iterator[Finding]:
    """An arrangement that switches from a grid which is not there, or one that knows no grid where there is one."""
    design = evidence.entered
    kind = design.transfer.arrangement
    if kind is None or kind in CORDS or (kind is ArrangementKind.OWN_PANEL) is design.site.off_grid:
        return
    own = BY_KIND[ArrangementKind.OWN_PANEL].title.lower()
    if design.site.off_grid:
        yield Finding(
            code="NO_GRID_TO_SWITCH",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title="There is no grid to switch from",
            message=f"The arrangement “{BY_KIND[kind].title.lower()}” stands between a grid and the house; off the grid the inverter is "
            "the only supply, and a switch, an inlet or a bypass for a grid is one more thing to fail.",
            basis="The site’s service: none",
            remedy=Remedy(label=f"Try {own}", changes=(set_to("arrangement", ArrangementKind.OWN_PANEL.value),)),
        )
        return
    best = ranked_arrangements(design)[0]
    yield Finding(
        code="GRID_LEFT_OUT",
        severity=Severity.MEND,
        step=Step.TRANSFER,
        title="The house has a grid that nothing joins",
        message="The house's own panel stands on the inverter for good, and the service from the grid is left out: say on the Storm page "
        "that there is none, or choose an arrangement that uses it.",
        basis="The site’s service",
        remedy=Remedy(
            label=f"Try {BY_KIND[best.kind].title.lower()}", changes=(set_to("arrangement", best.kind.value),)
        ),
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
        closed = listed([labels[key] for key in hazard.closed]) or "what is always joined"
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
            basis=by_practice(evidence.entered, *_INTERCONNECTION) if at_grid else COMMON_PRACTICE,
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
            basis=bond_basis(design),
            figure=_bond_figure(design, counts),
        )
        return
    if not wrong:
        yield Finding(
            code="NEUTRAL_BONDED_ONCE",
            severity=Severity.GOOD,
            step=Step.TRANSFER,
            title="Neutral and ground are joined once",
            message="; ".join(f"on {count.position}: {_at(count)}" for count in counts) + ".",
            basis=bond_basis(design),
            figure=_bond_figure(design, counts),
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
        basis=bond_basis(design),
        remedy=_bond_remedy(design),
        figure=_bond_figure(design, counts),
    )


def _at(count: BondCount) -> str:
    return " and ".join(count.at) or "no place"


def _bond_figure(design: Design, counts: tuple[BondCount, ...]) -> Figure:
    return Figure(
        label="Neutral-ground bonds",
        value=float(max(count.count for count in counts)),
        unit="",
        formula="bonds that the neutral of the backed-up circuits meets, position by position; a switched neutral leaves the service's",
        terms=tuple(
            Term(name=f"on {count.position}: {_at(count)}", value=float(count.count), unit="") for count in counts
        ),
        basis=bond_basis(design),
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
        + (f", {some_of(life)} among them." if life else ".")
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
    items = sum(load.quantity for load in evidence.entered.loads if load.supply.is_ac)
    # One item alone is parted from everything else: IEC 60364-4-41, 413.
    if transfer.arrangement is ArrangementKind.PORTABLE_METRIC and not grounding.residual_current and items > 1:
        yield Finding(
            code="NO_RESIDUAL_CURRENT",
            severity=Severity.STOP,
            step=Step.TRANSFER,
            title="No residual-current protection",
            message=f"{items} loads are connected to one portable 230 V supply; two faults at once put its voltage on metal that is touched. "
            "30 mA protection behind an earth-neutral bond opens at the first.",
            basis="IEC 60364-4-41, 413 and 418.3, and 60364-5-551 (from memory)",
            remedy=Remedy(label="Try 30 mA protection", changes=(set_to("grounding.residual_current", True),)),
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
            basis=by_practice(evidence.entered, *_LABELS),
        )
    if kind not in CORDS:
        yield Finding(
            code="PANEL_WORK",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="Licensed work, with a permit",
            message=f"{BY_KIND[kind].installer}. "
            + (
                "The panel is live from inverter, generator or array, and no utility can shut it off. Wrong work here kills and burns "
                "houses"
                if evidence.entered.site.off_grid
                else "A panel stays live above its main breaker. Wrong work here kills line workers and burns houses"
            )
            + "; local code and the inspector decide, not this page.",
            basis="Public safety guidance; local code decides",
        )


CHECKS = (
    not_planned,
    suits_the_grid,
    joined_supplies,
    neutral_bonds,
    no_bypass,
    ground_faults,
)
#: Said last of all.
PAPERS = (papers_and_people,)
