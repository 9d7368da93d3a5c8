"""The house side of the one-line diagram, in its upper lanes: a coupled array, the grid by way of the main panel, the generator."""

from __future__ import annotations

from hearthkeep.core.design import ArrangementKind
from hearthkeep.core.transfer import CORDS, is_coupled
from hearthkeep.core.wiring.oneline.draft import (
    BEFORE_MAIN,
    EDGE,
    LABEL_HALF,
    LABEL_LINE,
    LANE_ABOVE,
    LANE_BELOW,
    Draft,
    half,
    label_below,
    next_lane,
)
from hearthkeep.core.wiring.oneline.symbols import SIZES
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun


def upper_lanes(draft: Draft) -> None:
    """The house side: a coupled array, the grid by way of the main panel, and the generator."""
    at, design = draft.at, draft.design
    y = EDGE + LANE_ABOVE + 2.0
    tied = design.charging.grid_tied
    coupled = draft.run("coupled")
    is_led = is_coupled(design)
    if tied is not None and coupled is not None:
        y = _tied_lanes(draft, coupled, y, is_led=is_led)
    y = _main_lanes(draft, y, coupled=None if is_led else coupled)
    generator = draft.run("generator")
    if generator is not None and generator.run.end != "charger":
        name = "Generator"
        rated = design.charging.generator
        gives = f", {rated.output.value} V" if rated is not None and rated.output is not None else ""
        detail = f"{rated.rated_w:,.0f} W{gives}" if rated is not None else ""
        end = draft.part("generator", "generator", at.source_px, y, name, detail)
        to_house(draft, generator, at.source_px + half("generator"), y)
        y = next_lane(y, end)
    draft.left_px = y


def to_house(draft: Draft, sized: SizedRun, start_x: float, y: float) -> None:
    """A lane of the house side to its end: the backed-up panel, or the inputs of the inverters."""
    at = draft.at
    tag_to = min(at.bus_px, start_x + 2 * at.stretch_px)
    if sized.run.end == "panel":
        draft.lane(sized, start_x, at.panel_px - half("panel"), y, tag_to=tag_to)
        draft.panel_lanes_px.append(y)
        return
    # Beside the labels where it goes on to a further inverter.
    beside = LABEL_HALF + 4.0 if draft.design.inverter.units > 1 else half("inverter") + 5.0
    trunk_x = at.inverter_px - beside - (7.0 if sized.run.kind is RunKind.GENERATOR else 0.0)
    # What turns down to the inverters is drawn when their lanes are known.
    draft.lane(sized, start_x, trunk_x, y, tag_to=tag_to)


def _tied_lanes(draft: Draft, coupled: SizedRun, y: float, *, is_led: bool) -> float:
    """A grid-tied inverter with its arrays."""
    at, design = draft.at, draft.design
    tied = design.charging.grid_tied
    if tied is None:
        return y
    lanes: list[float] = []
    for array in tied.arrays:
        lanes.append(y)
        end = draft.part(f"array-{array.id}", "array", at.source_px, y, array.name, f"{array.stc_w:,.0f} W")
        draft.wire(
            f"tied-{array.id}", (((at.source_px + half("array"), y), (at.middle_px - half("grid_tied"), y)),),
            f"{array.name} to its grid-tied inverter, as it is",
        )  # fmt: skip
        y = next_lane(y, end)
    last = lanes[-1]
    middle, tall = (lanes[0] + last) / 2, last - lanes[0] + SIZES["grid_tied"][1]
    end = draft.part(
        "grid-tied", "grid_tied", at.middle_px, middle, "Grid-tied inverter", f"{tied.rated_w:,.0f} W", height=tall
    )
    start_x = at.middle_px + half("grid_tied")
    if is_led:
        draft.lane(coupled, start_x, at.panel_px - half("panel"), last, tag_to=at.bus_px)
        draft.panel_lanes_px.append(last)
    return next_lane(last, max(end, y - LANE_ABOVE - 4.0))


def _main_lanes(draft: Draft, y: float, *, coupled: SizedRun | None) -> float:
    """Grid, meter and main panel with everything that leaves it."""
    at, design = draft.at, draft.design
    kind = design.transfer.arrangement
    leaving = [draft.run("bypass"), draft.run("grid")]
    existing = kind in BEFORE_MAIN
    runs = [run for run in leaving if run is not None]
    if design.site.off_grid:
        return y
    if not runs and not existing and coupled is None:
        return y
    # An array joined to the house's own panel shows that panel; the unit is then fed from one of its outlets.
    from_outlet = kind in CORDS and coupled is None
    lanes: list[float] = []
    if coupled is not None:
        # From above, and back to the main panel: it goes dark with the grid.
        over_y = next(
            symbol.y + symbol.height_px / 2 - SIZES["grid_tied"][1] / 2
            for symbol in draft.symbols
            if symbol.key == "grid-tied"
        )
        start_x, turn_x = at.middle_px + half("grid_tied"), at.bus_px - 2.0
        draft.lane(coupled, start_x, turn_x, over_y, extra=(((turn_x, over_y), (turn_x, y), (at.middle_px + 27.0, y)),))
        lanes.append(y)
        y += LANE_BELOW + LANE_ABOVE
    if existing:
        title = "The house's circuits, as they are"
        draft.wire("house", (((at.middle_px + 27.0, y), (at.panel_px - half("panel"), y)),), title)
        draft.panel_lanes_px.append(y)
        lanes.append(y)
        y += LANE_BELOW + LANE_ABOVE
    for run in runs:
        lanes.append(y)
        to_house(draft, run, at.middle_px + 27.0, y)
        y += LANE_BELOW + LANE_ABOVE
    last = lanes[-1]
    grid_y = lanes[0]
    if from_outlet:
        end = draft.part("main", "outlet", at.middle_px, last, "Wall outlet", "of the grid")
        draft_end = draft.part("grid", "grid", at.source_px, grid_y, "Grid")
        draft.wire(
            "service",
            (((at.source_px + 17.0, grid_y), (at.middle_px - half("outlet"), grid_y)),),
            "The house, as it is",
        )
        return next_lane(last, max(end, draft_end))
    middle, tall = (lanes[0] + last) / 2, last - lanes[0] + SIZES["controller"][1]
    name = "Service disconnect" if kind in (ArrangementKind.INLET, ArrangementKind.AUTOMATIC) else "Main panel"
    main_a = design.transfer.main.main_a
    texts = label_below(at.middle_px, middle + tall / 2, name, f"{main_a:g} A main" if main_a else "")
    draft.symbol("main", "main", at.middle_px, middle, title=name, texts=texts, height=tall)
    end = middle + tall / 2 + 6.0 + LABEL_LINE * 2
    grid_end = draft.part("grid", "grid", at.source_px, grid_y, "Grid", design.site.service.value + " V")
    meter_x = (at.source_px + at.middle_px) / 2
    draft.symbol("meter", "meter", meter_x, grid_y, title="Meter")
    draft.wire(
        "service",
        (
            ((at.source_px + 17.0, grid_y), (meter_x - 11.0, grid_y)),
            ((meter_x + 11.0, grid_y), (at.middle_px - 27.0, grid_y)),
        ),
        "The utility's service",
    )
    draft.lowest_px = max(draft.lowest_px, end)
    return next_lane(last, max(end, grid_end))
