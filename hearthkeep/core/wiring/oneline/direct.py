"""Direct current on the one-line diagram: sources and bank left of the bus, inverters and branches right of it."""

from __future__ import annotations

from hearthkeep.core.design import Build, BusKind, Controller, ControllerKind, FedFrom
from hearthkeep.core.wiring.oneline.draft import (
    CHANNEL,
    LABEL_HALF,
    TERMINALS_RISE,
    Draft,
    half,
    label_below,
    next_lane,
)
from hearthkeep.core.wiring.oneline.geometry import Line, Points
from hearthkeep.core.wiring.oneline.one_box import input_drops, inputs_of
from hearthkeep.core.wiring.oneline.symbols import SIZES
from hearthkeep.core.wiring.runs import RunKind, branch_loads, inverter_keys
from hearthkeep.core.wiring.sized_run import SizedRun

#: What must not touch the bus lies so far below its lowest lane; a block reaches so far beyond its ways.
BELOW_BUS = 20.0
#: Where a line crosses another that it is not joined to, it hops over it, in a half circle of this radius.
HOP = 4.0
HALF_CIRCLE = ((0.0, -1.0), (0.5, -0.87), (0.87, -0.5), (1.0, 0.0), (0.87, 0.5), (0.5, 0.87), (0.0, 1.0))


def solar_lanes(draft: Draft) -> None:
    """Controllers with their arrays, and panels that feed loads of their own."""
    in_unit = inputs_of(draft.design)
    for controller in draft.design.charging.controllers:
        if controller.arrays and controller not in in_unit:
            _controller_lanes(draft, controller)


def _controller_lanes(draft: Draft, controller: Controller) -> None:
    at, y = draft.at, draft.left_px
    charges = controller.kind is not ControllerKind.PANEL_FED
    lanes: list[float] = []
    end = y
    for array in controller.arrays:
        lanes.append(y)
        detail = f"{array.stc_w:,.0f} W"
        if array.module is not None:
            detail += f", {array.series} × {array.strings}"
        end = draft.part(f"array-{array.id}", "array", at.source_px, y, array.name, detail)
        string, whole = draft.run(f"string-{array.id}"), draft.run(f"array-{array.id}")
        start_x = at.source_px + half("array")
        if string is not None:
            end = max(end, draft.part(f"combiner-{array.id}", "combiner", at.combiner_px, y, "Combiner"))
            draft.lane(string, start_x, at.combiner_px - half("combiner"), y)
            start_x = at.combiner_px + half("combiner")
        if whole is not None:
            draft.lane(whole, start_x, at.middle_px - half("controller" if charges else "load"), y)
        y = next_lane(y, end)
    last = lanes[-1]
    middle, tall = (lanes[0] + last) / 2, last - lanes[0] + SIZES["controller"][1]
    if not charges:
        key, tall = f"load-{controller.id}", last - lanes[0] + SIZES["load"][1]
        mid_end = draft.part(key, "load", at.middle_px, middle, "Loads on the panel", controller.name, height=tall)
        draft.left_px = max(y, next_lane(last, mid_end))
        return
    own = draft.run(f"controller-{controller.id}")
    detail = "in the inverter" if controller.built_in else f"{controller.kind.value.upper()} {controller.output_a:g} A"
    if draft.design.wiring.surge_dc:
        detail += ", surge protector"
    mid_end = draft.part(
        f"controller-{controller.id}", "controller", at.middle_px, middle, controller.name, detail, height=tall
    )
    start_x = at.middle_px + 27.0
    draft.terminals_px.append(last)
    if own is not None:
        draft.lane(own, start_x, at.bus_px, last, dots=((at.bus_px, last),))
    else:
        draft.wire(
            f"inside-{controller.id}",
            (((start_x, last), (at.bus_px, last)),),
            "Inside the unit",
            is_inside=True,
            dots=((at.bus_px, last),),
        )
    draft.bus_lanes_px.append(last)
    draft.left_px = max(y, next_lane(last, mid_end))


def other_lanes(draft: Draft) -> None:
    """Alternator, wind and chargers, each a lane to the bus."""
    at, design = draft.at, draft.design
    for key, kind, name in (
        ("alternator", "alternator", "Alternator"),
        ("wind", "wind", "Wind turbine"),
        ("bench", "charger", "Plug-in charger"),
        ("charger", "charger", "Charger"),
    ):
        run = draft.run(f"source-{key}")
        if run is None:
            continue
        y = draft.left_px
        generator = draft.run("generator")
        is_driven = key == "charger" and generator is not None and generator.run.end == "charger"
        x = at.middle_px if is_driven else at.source_px
        end = draft.part(key, kind, x, y, name, f"{run.run.current_a:.0f} A")
        if is_driven and generator is not None:
            rated = design.charging.generator
            end = max(
                end,
                draft.part(
                    "generator", "generator", at.source_px, y, "Generator", f"{rated.rated_w:,.0f} W" if rated else ""
                ),
            )
            draft.lane(generator, at.source_px + 17.0, x - half("charger"), y)
        draft.lane(
            run, x + half(kind), at.bus_px, y, dots=((at.bus_px, y),), tag_to=min(at.bus_px, x + 2 * at.stretch_px)
        )
        draft.bus_lanes_px.append(y)
        draft.left_px = next_lane(y, end)


def bank_lane(draft: Draft) -> None:
    """The bank with what joins its blocks, its fuse and shunt."""
    at, bank, y = draft.at, draft.design.bank, draft.left_px
    kind = bank.chemistry.value
    name = f"Bank, {kind.upper() if len(kind) == 3 else kind}"
    detail = f"{bank.nominal_v:g} V {bank.rated_ah:g} Ah" + (
        f", {bank.series} × {bank.parallel}" if bank.series * bank.parallel > 1 else ""
    )
    if bank.unit_breaker_a is not None:
        detail += f", each behind {bank.unit_breaker_a:g} A of its own"
    end = draft.part("bank", "battery", at.source_px, y, name, detail)
    x = at.source_px + half("battery")
    for key in ("series-links", "parallel-links", "string-leads"):
        link = draft.run(key)
        if link is None:
            continue
        draft.lane(link, x, x + at.link_px, y)
        title = "Bars of the bank" if key == "string-leads" else "Terminals of the bank"
        draft.symbol(f"terminal-{key}", "terminal", x + at.link_px + 3.0, y, title=title)
        x += at.link_px + 6.0
    main = draft.run("bank")
    if main is not None:
        draft.lane(main, x, at.bus_px, y, dots=((at.bus_px, y),))
        draft.bus_lanes_px.append(y)
    elif draft.design.wiring.bus is BusKind.POSTS and any(
        "bus" in (run.run.start, run.run.end) for run in draft.plan.runs
    ):
        # Every run begins at the bank itself: there is nothing to buy between them.
        title = "The bank's own posts or bars"
        draft.wire("posts", (((x, y), (at.bus_px, y)),), title, is_inside=True, dots=((at.bus_px, y),))
        draft.bus_lanes_px.append(y)
    draft.left_px = next_lane(y, end)


def right_of_bus(draft: Draft) -> None:
    """Inverters with their inputs and outputs, and the branches."""
    at, design = draft.at, draft.design
    y = draft.right_px
    rows: list[float] = []
    for key in inverter_keys(design):
        sized = draft.run(key)
        if sized is None:
            continue
        rows.append(y)
        unit = design.inverter
        is_one_box = unit.build is Build.ALL_IN_ONE
        sheet_name = unit.sheet.name if unit.sheet else "All-in-one" if is_one_box else "Inverter"
        name = sheet_name if unit.units == 1 else f"{sheet_name} {key.rsplit('-', 1)[1]}"
        kind = "all_in_one" if is_one_box else "inverter"
        end = draft.part(key, kind, at.inverter_px, y, name, f"{unit.rated_w:,.0f} W")
        extra, dots = _fed(draft, sized, y)
        end_x = at.inverter_px - half("inverter")
        start_x = at.bus_px if dots else at.bus_px + HOP
        draft.lane(sized, start_x, end_x, y, extra=extra, dots=dots, tag_to=at.bus_px + at.stretch_px)
        draft.bus_lanes_px.append(y)
        y = next_lane(y, end)
    _inverter_inputs(draft, rows)
    if rows:
        input_drops(draft, rows[0])
    panel = draft.run("panel")
    if panel is not None and rows:
        right, turn_x = at.inverter_px + half("inverter"), at.inverter_px + LABEL_HALF + 4.0
        extra = tuple(((right, row), (turn_x, row), (turn_x, rows[0])) for row in rows[1:])
        draft.lane(panel, turn_x if extra else right, at.panel_px - half("panel"), rows[0],
                   extra=(((right, rows[0]), (turn_x, rows[0])), *extra) if extra else ())  # fmt: skip
        draft.panel_lanes_px.append(rows[0])
    y = _blocks(draft, y)
    in_blocks = {load_id for block in design.wiring.blocks for load_id in block.loads}
    branches = [
        (load, sized)
        for load in branch_loads(design)
        if load.id not in in_blocks and (sized := draft.run(f"branch-{load.id}"))
    ]
    # What hangs on a controller's load terminals comes last, below the bus, which it must not touch.
    for load, sized in sorted(branches, key=lambda each: each[1].run.fed_from is FedFrom.LOAD_TERMINALS):
        is_on_bus = sized.run.fed_from is FedFrom.BUS or not draft.terminals_px
        if not is_on_bus:
            y = max(y, draft.left_px + BELOW_BUS)
        end = draft.part(
            f"load-{load.id}", "load", at.inverter_px, y, load.name, f"{load.running_w * load.quantity:g} W DC"
        )
        extra, dots = _fed(draft, sized, y)
        end_x = at.inverter_px - half("load")
        draft.lane(sized, at.bus_px, end_x, y, extra=extra, dots=dots, tag_to=at.bus_px + at.stretch_px)
        if is_on_bus:
            draft.bus_lanes_px.append(y)
        y = next_lane(y, end)
    draft.right_px = y


def _blocks(draft: Draft, y: float) -> float:
    """Distribution blocks: a feed from the bus, and a lane a way on to its load; returns where the next lane may lie."""
    at, design = draft.at, draft.design
    loads = {load.id: load for load in branch_loads(design)}
    for block in design.wiring.blocks:
        feed = draft.run(f"feed-{block.id}")
        ways = [(loads[key], sized) for key in block.loads if key in loads and (sized := draft.run(f"branch-{key}"))]
        if feed is None or not ways:
            continue
        first = last = y
        for load, sized in ways:
            end = draft.part(
                f"load-{load.id}", "load", at.panel_px, y, load.name, f"{load.running_w * load.quantity:g} W DC"
            )
            draft.lane(sized, at.inverter_px + half("block"), at.panel_px - half("load"), y)
            last, y = y, next_lane(y, end)
        draft.lane(feed, at.bus_px, at.inverter_px - half("block"), first, dots=((at.bus_px, first),),
                   tag_to=at.bus_px + at.stretch_px)  # fmt: skip
        draft.bus_lanes_px.append(first)
        tall = last - first + 2 * BELOW_BUS
        texts = label_below(at.inverter_px, (first + last) / 2 + tall / 2, block.name, "")
        draft.symbol(f"block-{block.id}", "block", at.inverter_px, (first + last) / 2, title=f"{block.name}, {len(ways)} ways",
                     texts=texts, height=tall)  # fmt: skip
    return y


def _fed(draft: Draft, sized: SizedRun, y: float) -> tuple[tuple[Points, ...], Points]:
    """Where a run right of the bus begins: on the bus, with a dot; or past it at the load terminals of a controller."""
    at = draft.at
    if sized.run.fed_from is FedFrom.BUS or not draft.terminals_px:
        return (), ((at.bus_px, y),)
    from_y, channel_x = draft.terminals_px[0] - TERMINALS_RISE, at.bus_px - CHANNEL / 2
    crossed = sorted(lane for lane in set(draft.bus_lanes_px) if from_y < lane < y - HOP)
    down: Points = tuple((channel_x - dx * HOP, lane + dy * HOP) for lane in crossed for dx, dy in HALF_CIRCLE)
    # A branch lies below the bus; an inverter, which nobody should hang there, hops over it.
    over: Points = tuple((at.bus_px + dy * HOP, y - dx * HOP) for dx, dy in HALF_CIRCLE)
    across = over if sized.run.kind is RunKind.INVERTER else ((at.bus_px, y),)
    return (((at.middle_px + 27.0, from_y), (channel_x, from_y), *down, (channel_x, y), *across),), ()


def _inverter_inputs(draft: Draft, rows: list[float]) -> None:
    """Grid and generator from their lanes down to each inverter."""
    if not rows:
        return
    left = draft.at.inverter_px - half("inverter")
    for number, line in enumerate(draft.lines):
        if line.key not in ("grid", "generator") or not line.is_run:
            continue
        sized = draft.run(line.key)
        if sized is None or not sized.run.end.startswith("inverter"):
            continue
        trunk_x, lane_y = line.strokes[0][-1]
        rise = 14.0 if line.key == "grid" else 8.0
        crossed = sorted({y for *_, y in draft.inputs_px if y > lane_y})
        hops: Points = tuple((trunk_x - dx * HOP, y + dy * HOP) for y in crossed for dx, dy in HALF_CIRCLE)
        down: Points = ((trunk_x, lane_y), *hops, (trunk_x, rows[-1] - rise))
        stubs = tuple(((trunk_x, row - rise), (left, row - rise)) for row in rows)
        draft.lines[number] = Line(
            key=line.key, is_run=True, strokes=(*line.strokes, down, *stubs), dots=tuple((trunk_x, row - rise) for row in rows[:-1]),
            title=line.title, texts=line.texts,
        )  # fmt: skip
