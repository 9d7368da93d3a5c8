"""Findings about ratings in series, the legs, the relay and the bus."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.transfer import by_practice, set_to
from hearthkeep.core.design import ArrangementKind, Build, Design, Practice, Use
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.transfer import CORDS, WHOLE_PANEL, Balance, ampacity_a, balance, has_positions
from hearthkeep.core.words import begun, percent, shortened, watts

#: A continuous current is taken 1.25 times for devices and conductors (NEC 705.12 and 210.20, from memory).
CONTINUOUS = 1.25
#: Part of a bus that two supplies at its ends may reach together.
BUS_FRAC = 1.2
#: Legs that differ by less than this part of their sum count as balanced. Common practice, no source.
BALANCED_FRAC = 0.2
_SERIES = (
    "Each rating in series against the one before it; NEC Table 310.16, 60 °C column, and 240.4(D) (from memory)",
    "Each rating in series against the one before it; IEC 60364-5-52, Table B.52.2, method B2 (from memory)",
)


def line_current_a(evidence: Evidence, power_w: float) -> float:
    """Current of a supply that loads its lines evenly [A]."""
    report = evidence.transfer
    return power_w / (report.line_v * (2 if report.across else 1))


def _feeder_wire_a(evidence: Evidence) -> float | None:
    """The largest device that the feeder's conductor may have before it, as the Wiring page reads it [A]."""
    device, panel = evidence.entered.transfer.device, evidence.wiring.find("panel")
    if device.feeder_wire is not None and panel is not None and panel.size == device.feeder_wire:
        return panel.next_size_a
    return ampacity_a(device.feeder_wire, evidence.entered)


def in_series(evidence: Evidence) -> Iterator[Finding]:
    """Inverter, feeder, device, position, breaker, wire: each must stand what the one before lets through."""
    design, device = evidence.entered, evidence.entered.transfer.device
    if design.transfer.arrangement in (None, *CORDS):
        return
    most_a = line_current_a(evidence, evidence.all_inverters.apparent_va)
    feeds_a = device.feeder_a or most_a
    wire_a = _feeder_wire_a(evidence)
    faults: list[tuple[Severity, str, Change | None]] = []
    if wire_a is not None and feeds_a > wire_a:
        faults.append(
            (
                Severity.STOP,
                f"{feeds_a:.0f} A feed a conductor of {device.feeder_wire} for {wire_a:g} A",
                set_to("device.feeder_a", wire_a),
            )
        )
    if device.rated_a is not None and feeds_a > device.rated_a + 1e-9:
        faults.append(
            (
                Severity.STOP,
                f"{feeds_a:.0f} A feed a transfer device rated {device.rated_a:g} A",
                set_to("device.feeder_a", device.rated_a),
            )
        )
    bus_a = design.transfer.main.bus_a if design.transfer.arrangement in WHOLE_PANEL else None
    if bus_a is not None and feeds_a > bus_a + 1e-9:
        faults.append((Severity.STOP, f"{feeds_a:.0f} A feed a panel bus of {bus_a:g} A", None))
    for circuit in design.transfer.circuits:
        allowed_a = ampacity_a(circuit.wire, design)
        if allowed_a is not None and circuit.breaker_a > allowed_a:
            faults.append(
                (
                    Severity.STOP,
                    f"the breaker of {circuit.breaker_a:g} A in slot {circuit.slot} guards a conductor of {circuit.wire} for {allowed_a:g} A",
                    None,
                )
            )
        if circuit.backed_up and device.position_a is not None and circuit.breaker_a > device.position_a:
            faults.append(
                (
                    Severity.MEND,
                    f"slot {circuit.slot} has a breaker of {circuit.breaker_a:g} A, its position is for {device.position_a:g} A",
                    None,
                )
            )
    faults += _further_panels(design)
    faults += _utility_before_main(design)
    if not faults:
        return
    faults.sort(key=lambda fault: fault[0] is not Severity.STOP)
    severity, first, change = faults[0]
    yield Finding(
        code="RATINGS_IN_SERIES",
        severity=severity,
        step=Step.TRANSFER,
        title=begun(shortened(first)),
        message=f"{'; '.join(text for _, text, _ in faults[:3])}{'; and more' if len(faults) > 3 else ''}. What stands behind must "
        "carry what stands before it lets through.",
        basis=by_practice(design, *_SERIES),
        remedy=None if change is None else Remedy(label=f"Try a feeder breaker of {change.value} A", changes=(change,)),
        figure=Figure(
            label="Current into the backed-up side",
            value=feeds_a,
            unit="A",
            formula="feeder breaker, or the inverter's rated output over its lines",
            terms=(
                Term(
                    name="inverter",
                    value=evidence.all_inverters.apparent_va,
                    unit="W" if evidence.all_inverters.rated_va is None else "VA",
                ),
                Term(name="on each line", value=most_a, unit="A"),
            ),
            basis="Arithmetic of power and current",
        ),
    )


def _further_panels(design: Design) -> list[tuple[Severity, str, Change | None]]:
    """Panels behind a circuit: their bus against what feeds them, and their wires against their breakers."""
    faults: list[tuple[Severity, str, Change | None]] = []
    feeding = design.transfer.feeding
    for panel in design.transfer.further:
        feeder_a, name = feeding[panel.fed_by].breaker_a, shortened(panel.name, 32)
        held_a = feeder_a if panel.main_a is None else min(feeder_a, panel.main_a)
        if panel.bus_a is not None and held_a > panel.bus_a + 1e-9:
            faults.append((Severity.STOP, f"{held_a:g} A feed {name}, whose bus is for {panel.bus_a:g} A", None))
        for circuit in panel.circuits:
            allowed_a = ampacity_a(circuit.wire, design)
            if allowed_a is not None and circuit.breaker_a > allowed_a:
                own = f"the breaker of {circuit.breaker_a:g} A of {shortened(circuit.name, 32)} in {name}"
                faults.append((Severity.STOP, f"{own} guards a conductor of {circuit.wire} for {allowed_a:g} A", None))
    return faults


def _utility_before_main(design: Design) -> list[tuple[Severity, str, Change | None]]:
    """A panel whose main or bus is smaller than what the utility lets through to it, without a main that holds it."""
    main = design.transfer.main
    if main.utility_a is None:
        return []
    if main.main_a is not None and main.utility_a > main.main_a + 1e-9:
        # The main holds what is behind it; what it stands in has to bear what comes in.
        if main.bus_a is None or main.utility_a > main.bus_a + 1e-9:
            bears = "is not entered" if main.bus_a is None else f"is {main.bus_a:g} A"
            return [
                (
                    Severity.MEND,
                    f"the utility's breaker of {main.utility_a:g} A stands before a main of {main.main_a:g} A, and the panel's own rating {bears}",
                    None,
                )
            ]
        return []
    if main.main_a is None and main.bus_a is not None and main.utility_a > main.bus_a + 1e-9:
        return [
            (
                Severity.STOP,
                f"the utility's breaker of {main.utility_a:g} A feeds a panel bus of {main.bus_a:g} A",
                None,
            )
        ]
    return []


def trips_under_load(evidence: Evidence) -> Iterator[Finding]:
    """Breakers that open under what hangs on them."""
    report, design = evidence.transfer, evidence.entered
    if design.transfer.arrangement in (None, *CORDS):
        return
    feeder_a, peak_a = design.transfer.device.feeder_a, line_current_a(evidence, evidence.loads.peak_w)
    if feeder_a is not None and peak_a > feeder_a + 1e-9:
        yield Finding(
            code="FEEDER_TRIPS",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title=f"The feeder breaker of {feeder_a:g} A trips",
            message=f"What may run together draws {peak_a:.0f} A on each line, evenly spread; the feeder breaker is {feeder_a:g} A. "
            "Then everything behind it is dark at once.",
            basis="Sum of coincident running watts over the lines, unity power factor",
        )
    names = {circuit.id: circuit for circuit in design.transfer.circuits}
    over = [state for state in report.circuits if state.current_a > names[state.id].breaker_a + 1e-9]
    if over:
        circuit = names[over[0].id]
        yield Finding(
            code="CIRCUIT_OVERLOADED",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title=f"{circuit.name[:40]} trips",
            message=f"What hangs on slot {circuit.slot} may draw {over[0].current_a:.1f} A together; its breaker is {circuit.breaker_a:g} A.",
            basis="Sum of running watts over the circuit's volts, unity power factor",
        )
    yield from _behind_trips(evidence)


def _behind_trips(evidence: Evidence) -> Iterator[Finding]:
    """Circuits of panels further on, and those that feed such panels, against what may run on them together."""
    design, report = evidence.entered, evidence.transfer
    further = [circuit for panel in design.transfer.further for circuit in panel.circuits]
    fed = {panel.fed_by: panel for panel in design.transfer.further}
    for circuit in further:
        ids = {circuit.id} | (design.transfer.behind(fed[circuit.id]) if circuit.id in fed else set())
        on_it = [load for load in design.loads if load.supply.is_ac and load.circuit in ids]
        most_w = max(
            (sum(load.quantity * (load.running_w if load.on_by_hour[hour] else load.standby_w) for load in on_it) for hour in range(24)),
            default=0.0,
        )  # fmt: skip
        volts = report.line_v * (2 if circuit.poles == 2 and len(report.legs) > 1 else 1)
        if most_w / volts <= circuit.breaker_a + 1e-9:
            continue
        yield Finding(
            code="CIRCUIT_OVERLOADED",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title=f"{shortened(circuit.name, 40)} trips",
            message=f"What is connected to it may draw {most_w / volts:.1f} A together; its breaker is {circuit.breaker_a:g} A"
            + (f", and then all of {shortened(fed[circuit.id].name, 32)} is dark." if circuit.id in fed else "."),
            basis="Sum of running watts over the circuit's volts, unity power factor",
        )


def legs(evidence: Evidence) -> Iterator[Finding]:
    """The two legs against each other and against half the inverter."""
    report, design = evidence.transfer, evidence.entered
    if design.transfer.arrangement in (None, *CORDS) or not report.across or not report.circuits:
        return
    half_w = evidence.all_inverters.rated_w / 2
    heavier = max(report.legs, key=lambda leg: leg.running_w)
    total_w = sum(leg.running_w for leg in report.legs)
    if total_w <= 0:
        return
    over = heavier.running_w > half_w + 1e-9
    uneven = report.imbalance_w / total_w
    figure = Figure(
        label="Difference of the legs",
        value=report.imbalance_w,
        unit="W",
        formula="|A - B| of the backed-up circuits' running watts; two-pole circuits half on each",
        terms=tuple(Term(name=f"leg {leg.leg.value}", value=leg.running_w, unit="W") for leg in report.legs),
        basis=COMMON_PRACTICE,
    )
    may_move = has_positions(design.transfer.arrangement)
    # The search is made only where something might be moved.
    is_even = not over and uneven <= BALANCED_FRAC
    best = None if is_even or not may_move else balance(design, report.circuits)
    helps = best is not None and best.imbalance_w < report.imbalance_w - 1e-9
    if is_even or (not over and may_move and not helps):
        yield Finding(
            code="LEGS_BALANCED",
            severity=Severity.GOOD,
            step=Step.TRANSFER,
            title="The legs are balanced",
            message=f"A and B differ by {watts(report.imbalance_w)}, {percent(uneven)} of what hangs on both"
            + ("." if is_even else ", as little as these circuits allow."),
            basis=COMMON_PRACTICE,
            figure=figure,
        )
        return
    left_w = best.imbalance_w if best is not None and helps else report.imbalance_w
    settles = helps and (total_w + left_w) / 2 <= half_w + 1e-9
    yield Finding(
        code="LEG_OVERLOADED" if over else "LEGS_UNEVEN",
        severity=Severity.MEND if over else Severity.MIND,
        step=Step.TRANSFER,
        title=f"Leg {heavier.leg.value} carries {watts(heavier.running_w)}",
        message=f"The legs differ by {watts(report.imbalance_w)}, {percent(uneven)} of their sum. "
        + (
            f"Each leg of the inverter gives half its rating, {watts(half_w)}: run together, they trip it."
            if over
            else "The fuller leg reaches its half of the inverter first."
        )
        + (f" The best assignment leaves {watts(left_w)}." if helps else ""),
        basis=COMMON_PRACTICE,
        remedy=Remedy(label="Try the best balance", changes=_moves(design, best))
        if best is not None and settles
        else None,
        figure=figure,
    )


def _moves(design: Design, best: Balance) -> tuple[Change, ...]:
    """Each circuit to the leg of the best assignment."""
    return tuple(
        set_to(f"circuits.{at}.backup_leg", best.legs[circuit.id].value)
        for at, circuit in enumerate(design.transfer.circuits)
        if circuit.id in best.legs
    )


def pass_through(evidence: Evidence) -> Iterator[Finding]:
    """With the grid up everything on the critical panel and the charger flow through the inverter's relay."""
    design, device = evidence.entered, evidence.entered.transfer.device
    if (
        design.transfer.arrangement not in (ArrangementKind.CRITICAL_PANEL, ArrangementKind.AC_COUPLED)
        or device.rated_a is None
    ):
        return
    charger = design.charging.grid_charger
    charger_w = charger.output_w / charger.efficiency_frac
    house_w = evidence.loads.peak_w
    flows_a = line_current_a(evidence, house_w + charger_w)
    if flows_a <= device.rated_a:
        return
    allowed_w = (device.rated_a / line_current_a(evidence, 1.0) - house_w) * charger.efficiency_frac
    yield Finding(
        code="PASS_THROUGH",
        severity=Severity.MEND,
        step=Step.TRANSFER,
        title=f"{flows_a:.0f} A through a relay of {device.rated_a:g} A",
        message=f"With the grid up {watts(house_w)} of loads and {watts(charger_w)} of charging flow through the inverter's relay: "
        f"{flows_a:.0f} A against {device.rated_a:g} A. It trips in normal times, most likely after an outage.",
        basis="Sum of coincident running watts and the charger's input, over the lines",
        remedy=Remedy(
            label=f"Try charging with {watts(allowed_w)}",
            changes=(Change(path="charging.grid_charger.output_w", value=float(int(allowed_w))),),
        )
        if allowed_w >= 50
        else None,
        figure=Figure(
            label="Pass-through current",
            value=flows_a,
            unit="A",
            formula="(coincident peak + charger output ÷ its efficiency) ÷ volts of the lines",
            terms=(Term(name="loads", value=house_w, unit="W"), Term(name="charger", value=charger_w, unit="W")),
            basis="Arithmetic of power and current",
        ),
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class BusRule:
    """The load-side connection of a supply to a bus."""

    #: Most output current of the supply that the rule leaves [A].
    most_a: float
    #: 125 % of the supply's current plus the main, and what the bus may reach [A].
    sum_a: float
    allowed_a: float

    @property
    def holds(self) -> bool:
        """Whether the supply may be joined so."""
        return self.sum_a <= self.allowed_a + 1e-9


def bus_rule(*, source_a: float, main_a: float, bus_a: float, at_far_end: bool) -> BusRule:
    """The 120 % rule at opposite ends of a bus, the plain sum elsewhere; currents [A].

    Source: NEC 705.12, 2023, in our own words (from memory).

    >>> bus_rule(source_a=32, main_a=200, bus_a=200, at_far_end=True).holds
    True
    """
    allowed_a = bus_a * (BUS_FRAC if at_far_end else 1.0)
    return BusRule(
        most_a=max(allowed_a - main_a, 0.0) / CONTINUOUS, sum_a=CONTINUOUS * source_a + main_a, allowed_a=allowed_a
    )


def load_side(evidence: Evidence) -> Iterator[Finding]:
    """A supply that can send current back into the main panel."""
    design, main = evidence.entered, evidence.entered.transfer.main
    if design.practice is not Practice.NORTH_AMERICAN or design.transfer.arrangement is None or design.site.off_grid:
        return
    source_w = _sends_back_w(evidence)
    if source_w <= 0:
        return
    source_a = source_w / (evidence.transfer.line_v * (2 if len(evidence.transfer.legs) > 1 else 1))
    if main.bus_a is None or main.main_a is None:
        yield Finding(
            code="BUS_UNKNOWN",
            severity=Severity.MIND,
            step=Step.TRANSFER,
            title="What does the panel's bus stand?",
            message=f"{source_a:.1f} A can flow back into the main panel. Enter the ratings of its bus and of its main breaker, which "
            "stand on the label inside the door.",
            basis="NEC 705.12 in our own words (from memory)",
        )
        return
    rule = bus_rule(source_a=source_a, main_a=main.main_a, bus_a=main.bus_a, at_far_end=main.supply_at_far_end)
    breaker = main.supply_breaker_a
    thin = breaker is not None and breaker < CONTINUOUS * source_a - 1e-9
    if rule.holds and not thin:
        return
    yield Finding(
        code="BUS_OVERLOADED" if not rule.holds else "SUPPLY_BREAKER_SMALL",
        severity=Severity.STOP if not rule.holds else Severity.MEND,
        step=Step.TRANSFER,
        title=f"The bus takes {rule.most_a:.0f} A, not {source_a:.0f} A"
        if not rule.holds
        else f"A supply breaker of {breaker:g} A trips",
        message=f"125 % of {source_a:.1f} A and the main of {main.main_a:g} A make {rule.sum_a:.0f} A; a bus of {main.bus_a:g} A may reach "
        f"{rule.allowed_a:.0f} A with the supply {'at the far end' if main.supply_at_far_end else 'anywhere on it'}."
        if not rule.holds
        else f"The supply gives {source_a:.1f} A for hours; its breaker must be at least {CONTINUOUS * source_a:.1f} A.",
        basis="NEC 705.12 in our own words (from memory); a listed control may stand in for the sum",
        remedy=Remedy(label="Try it at the far end", changes=(set_to("main.supply_at_far_end", True),))
        if not rule.holds and bus_rule(source_a=source_a, main_a=main.main_a, bus_a=main.bus_a, at_far_end=True).holds
        else None,
        figure=Figure(
            label="Most supply current on this bus",
            value=rule.most_a,
            unit="A",
            formula=f"({'1.2 × ' if main.supply_at_far_end else ''}bus - main) ÷ 1.25",
            terms=(
                Term(name="bus", value=main.bus_a, unit="A"),
                Term(name="main breaker", value=main.main_a, unit="A"),
                Term(name="supply", value=source_a, unit="A"),
            ),
            basis="NEC 705.12, 2023, in our own words (from memory)",
        ),
    )


def _sends_back_w(evidence: Evidence) -> float:
    """What can flow from behind into the main panel [W]: the grid-tied array, or an inverter that exports."""
    design = evidence.entered
    if design.charging.grid_tied is not None:
        return design.charging.grid_tied.rated_w
    exports = Use.EXPORT in design.transfer.order and design.inverter.build is not Build.SEPARATE
    parallel = design.transfer.arrangement is ArrangementKind.CRITICAL_PANEL and bool(design.charging.arrays)
    return evidence.all_inverters.rated_w if exports and parallel and design.transfer.main.supply_breaker_a else 0.0


def relay_is_there(evidence: Evidence) -> Iterator[Finding]:
    """An arrangement that asks of the inverter what it is not built for; a whole house that it must carry."""
    design, kind = evidence.entered, evidence.entered.transfer.arrangement
    behind = (ArrangementKind.CRITICAL_PANEL, ArrangementKind.AC_COUPLED)
    if kind in behind and design.inverter.build is Build.SEPARATE and design.inverter.rated_w > 0:
        yield Finding(
            code="NO_RELAY",
            severity=Severity.MEND,
            step=Step.TRANSFER,
            title="The inverter has no relay",
            message="A critical panel hangs on the relay of an inverter/charger, which passes the grid on and takes over in milliseconds. "
            "This inverter stands alone.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label="Try an inverter/charger", changes=(Change(path="inverter.build", value="inverter_charger"),)
            ),
        )
    if kind is ArrangementKind.AUTOMATIC:
        all_w = sum(load.quantity * load.running_w for load in evidence.design.loads if load.supply.is_ac)
        if all_w > evidence.all_inverters.rated_w >= evidence.loads.peak_w:
            yield Finding(
                code="AUTOMATIC_CAPACITY",
                severity=Severity.MEND,
                step=Step.TRANSFER,
                title="The whole house is more than the supply",
                message=f"What is transferred by itself comes to {watts(all_w)}; the inverter is rated {watts(evidence.all_inverters.rated_w)}. "
                "The supply must carry all of it, or a listed control sheds what it cannot: keep circuits off the switch.",
                basis="NEC 702.4: capacity with automatic connection, in our own words (from memory)",
            )


CHECKS = (
    in_series,
    trips_under_load,
    legs,
    pass_through,
    load_side,
    relay_is_there,
)
