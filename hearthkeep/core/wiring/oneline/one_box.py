"""An all-in-one on the one-line diagram: one symbol, its arrays led to solar inputs on its upper edge, above the bus."""

from __future__ import annotations

from dataclasses import replace

from hearthkeep.core.design import Build, Controller, Design
from hearthkeep.core.wiring.oneline.draft import Draft, half, next_lane
from hearthkeep.core.wiring.oneline.symbols import SIZES

#: So many inputs find room on the edge of one symbol.
MOST_INPUTS = 3
PITCH = SIZES["inverter"][0] / MOST_INPUTS


def inputs_of(design: Design) -> tuple[Controller, ...]:
    """Controllers that are the solar inputs of the one all-in-one; none where several units stand, since nobody says whose they are."""
    if design.inverter.build is not Build.ALL_IN_ONE or design.inverter.units != 1 or design.inverter.rated_w <= 0:
        return ()
    found = tuple(each for each in design.charging.controllers if each.built_in and each.charges and each.arrays)
    return found if len(found) <= MOST_INPUTS else ()


def input_lanes(draft: Draft) -> None:
    """The lanes of arrays to the unit's inputs, as far as above them; each noted by its y and controller."""
    at, y = draft.at, draft.left_px
    found = inputs_of(draft.design)
    for number, controller in enumerate(found):
        x = at.inverter_px + (number - (len(found) - 1) / 2) * PITCH
        for array in controller.arrays:
            detail = f"{array.stc_w:,.0f} W" + (f", {array.series} × {array.strings}" if array.module else "")
            end = draft.part(f"array-{array.id}", "array", at.source_px, y, array.name, detail)
            string, whole = draft.run(f"string-{array.id}"), draft.run(f"array-{array.id}")
            start_x = at.source_px + half("array")
            if string is not None:
                end = max(end, draft.part(f"combiner-{array.id}", "combiner", at.combiner_px, y, "Combiner"))
                draft.lane(string, start_x, at.combiner_px - half("combiner"), y)
                start_x = at.combiner_px + half("combiner")
            if whole is not None:
                draft.lane(whole, start_x, x, y, tag_to=at.bus_px)
                draft.inputs_px.append((whole.run.key, controller.id, x, y))
            y = next_lane(y, end)
    draft.left_px = y


def input_drops(draft: Draft, row: float) -> None:
    """From those lanes down to the inputs on the upper edge of the unit's symbol, whose row is known by now."""
    tall = SIZES["input"][1]
    edge = row - SIZES["inverter"][1] / 2
    for controller in inputs_of(draft.design):
        own = [(key, x, y) for key, of, x, y in draft.inputs_px if of == controller.id]
        if not own:
            continue
        for number, line in enumerate(draft.lines):
            found = next(((x, y) for key, x, y in own if key == line.key and line.is_run), None)
            if found is not None:
                x, y = found
                # Of several arrays on one input the lower ones meet the drop of the upper ones.
                dots = ((x, y),) if y > min(each for _, _, each in own) else ()
                draft.lines[number] = replace(
                    line, strokes=(*line.strokes, ((x, y), (x, edge - tall))), dots=(*line.dots, *dots)
                )
        x = own[0][1]
        title = f"{controller.name}: {controller.kind.value.upper()} {controller.output_a:g} A in the unit"
        draft.symbol(f"controller-{controller.id}", "input", x, edge - tall / 2, title=title)
