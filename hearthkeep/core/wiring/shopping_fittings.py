"""What else is bought: bars, blocks, boxes, connectors, conduit, grounds, racking, labels."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.design import ArrangementKind, BusKind, Chemistry, Design, FedFrom, Kind, Mounting, Practice
from hearthkeep.core.transfer import CORDS
from hearthkeep.core.wiring.cuts import CutLine
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun

#: Bars are made for these currents [A]; beyond the last several bars, or one made to order. Common practice, no source.
BARS_A = (100.0, 150.0, 250.0, 400.0, 600.0, 1_000.0)
#: Conduit comes in such lengths [m], and a run of it takes so many bodies or bends besides its two ends. Common practice, no source.
CONDUIT_LENGTH_M = {Practice.NORTH_AMERICAN: 3.05, Practice.METRIC_230: 3.0}
BODIES_A_RUN = 2


@dataclass(frozen=True, kw_only=True, slots=True)
class Fitting:
    """One item that is no unit, no device and no cable."""

    item: str
    what: str
    quantity: float
    unit: str = "piece"


def fittings_of(design: Design, plan: WiringPlan, cuts: tuple[CutLine, ...], *, placards: int) -> Iterator[Fitting]:
    """All of them for a design with so many placards."""
    yield from _bars(design, plan)
    yield from _grounds(design, plan)
    yield from _arrays(design, plan)
    yield from _conduit(design, plan)
    yield from _house(design, plan)
    boots = sum(2 * cut.quantity for cut in cuts if cut.hole_mm is not None and cut.pole in ("plus", "minus", "link"))
    if boots:
        yield Fitting(item="boot", what="Boot over a lug on its post, red or black", quantity=boots)
    controllers = [each for each in design.charging.controllers if each.charges]
    if controllers and design.bank.chemistry is not Chemistry.LFP:
        yield Fitting(
            item="probe/temperature",
            what="Temperature probe on a block, for the controllers' set points",
            quantity=sum(not each.built_in for each in controllers) or 1,
        )
    if placards:
        yield Fitting(
            item="labels", what="Labels that weather does not take, with the words of the placards", quantity=placards
        )


def _bars(design: Design, plan: WiringPlan) -> Iterator[Fitting]:
    main = plan.find("bank")
    if main is not None and design.wiring.bus is BusKind.BAR:
        ways = sum(
            each.run.count
            for each in plan.runs
            if each.run.is_dc and "bus" in (each.run.start, each.run.end) and each.run.fed_from is FedFrom.BUS
        )
        yield _bar("bar/bus", "Bus bar", main, ways)
    leads = plan.find("string-leads")
    if leads is not None:
        carries = main or leads
        yield _bar("bar/bank", "Bar of the bank", carries, leads.run.count + (1 if main is not None else 0))
    for block in design.wiring.blocks:
        feed = plan.find(f"feed-{block.id}")
        if feed is not None and block.loads:
            yield Fitting(
                item=f"block/{block.id}"[:80],
                what=f"Distribution block with {len(block.loads)} ways, {feed.run.current_a:.0f} A or more, with its negative bar: {block.name}",
                quantity=1,
            )


def _bar(item: str, name: str, carries: SizedRun, studs: int) -> Fitting:
    wanted_a = carries.needed_a
    made_a = next((each for each in BARS_A if each >= wanted_a), None)
    rated = f"{made_a:g} A" if made_a is not None else f"for {wanted_a:,.0f} A"
    return Fitting(item=item, what=f"{name}, {rated}, {studs} studs, covered: one for plus, one for minus", quantity=2)


def _grounds(design: Design, plan: WiringPlan) -> Iterator[Fitting]:
    grounds = [each for each in plan.runs if each.run.kind is RunKind.GROUND]
    if len(grounds) > 1:
        yield Fitting(item="ground/bar", what="Ground bar", quantity=1)
    if plan.find("ground-electrode") is not None:
        rod = "8 ft, 5/8 in" if design.practice is Practice.NORTH_AMERICAN else "1.5 m"
        yield Fitting(
            item="ground/rod", what=f"Ground rod, {rod}, where the house has no electrode to join", quantity=1
        )
        yield Fitting(item="ground/clamp", what="Clamp for the electrode", quantity=1)
    frames = sum(_modules(design).values())
    if frames and plan.find("ground-array") is not None:
        yield Fitting(item="ground/frame", what="Grounding clip or lug of a panel's frame", quantity=frames)


def _modules(design: Design) -> Counter[Mounting | None]:
    """Panels by what they stand on; one an array of which only the watts are known."""
    found: Counter[Mounting | None] = Counter()
    for controller in design.charging.controllers:
        for array in controller.arrays:
            found[array.mounting] += array.series * array.strings if array.module is not None else 1
    return found


def _arrays(design: Design, plan: WiringPlan) -> Iterator[Fitting]:
    pairs = 0
    for controller in design.charging.controllers:
        for array in controller.arrays:
            strings, whole = plan.find(f"string-{array.id}"), plan.find(f"array-{array.id}")
            if strings is not None:
                yield Fitting(
                    item=f"combiner/{array.id}"[:80],
                    what=f"Combiner for {strings.run.count} strings, {strings.run.most_v:.0f} V or more: {array.name}",
                    quantity=1,
                )
            plugged = strings or whole
            if plugged is not None:
                pairs += 2 * plugged.run.count
    if pairs:
        yield Fitting(
            item="connector/panel", what="Panel connector, plug and socket of one make", quantity=pairs, unit="pair"
        )
    on = _modules(design)
    for mounting, key, words in (
        (Mounting.BUILDING, "roof", "Racking on a roof, with flashings"),
        (Mounting.GROUND, "ground", "Racking on the ground"),
        (Mounting.VEHICLE, "vehicle", "Feet or frame on a vehicle or cart"),
    ):
        if on[mounting]:
            yield Fitting(item=f"racking/{key}", what=f"{words}, for one panel", quantity=on[mounting], unit="set")
    arrays = [array for each in design.charging.controllers for array in each.arrays]
    if any(array.rapid_shutdown for array in arrays):
        yield Fitting(item="shutdown/switch", what="Rapid shutdown: its switch outside", quantity=1)
        count = sum(array.series * array.strings if array.module else 1 for array in arrays if array.rapid_shutdown)
        yield Fitting(
            item="shutdown/panel", what="Rapid shutdown: unit at a panel, as the listed system asks", quantity=count
        )


def _conduit(design: Design, plan: WiringPlan) -> Iterator[Fitting]:
    metres: Counter[tuple[str, str]] = Counter()
    runs: Counter[tuple[str, str]] = Counter()
    for sized in plan.runs:
        given = design.wiring.of_run(sized.run.key)
        if given is not None and given.conduit is not None:
            key = (given.conduit_kind, given.conduit)
            metres[key] += math.ceil(100 * sized.length_m)
            runs[key] += 1
    for (kind, size), length in metres.items():
        piece_m = CONDUIT_LENGTH_M[design.practice]
        unit = "10 ft" if design.practice is Practice.NORTH_AMERICAN else f"{piece_m:g} m"
        yield Fitting(
            item=f"conduit/{kind} {size}",
            what=f"Conduit {kind.upper()} {size} in, lengths of {unit}",
            quantity=math.ceil(length / 100 / piece_m),
        )
        yield Fitting(
            item=f"conduit-body/{kind} {size}",
            what=f"Conduit bodies and connectors {kind.upper()} {size} in, both ends and {BODIES_A_RUN} bends a run",
            quantity=(2 + BODIES_A_RUN) * runs[(kind, size)],
        )


def _house(design: Design, plan: WiringPlan) -> Iterator[Fitting]:
    transfer = design.transfer
    by_inlet = (
        transfer.arrangement in (ArrangementKind.INLET, ArrangementKind.MANUAL_SWITCH) and transfer.device.by_inlet
    )
    if by_inlet:
        rated = f", {transfer.device.inlet_a:g} A" if transfer.device.inlet_a else ""
        yield Fitting(item="inlet", what=f"Power inlet with its box{rated}, and its cord", quantity=1)
    if transfer.grounding.residual_current and design.practice is Practice.METRIC_230:
        yield Fitting(
            item="residual-current",
            what="Residual current device, 30 mA, of the type its unit's manual names",
            quantity=1,
        )
    if design.kind is Kind.HOME and transfer.arrangement not in (None, *CORDS):
        runs = sum(each.run.count for each in plan.runs if not each.run.is_dc and each.run.kind is not RunKind.GROUND)
        if runs:
            yield Fitting(
                item="box/ac", what="Junction or device box for a run of the house side, with clamps", quantity=runs
            )
