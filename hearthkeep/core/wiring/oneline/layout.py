"""Lays the one-line diagram out: sources left, loads right, each run a lane of its own, so that nothing has to be routed.

The house side lies in the upper lanes, direct current below between its sources and the bus, and to the right of the bus what
hangs on it. Bars and boxes that several lanes meet in stand across them.
"""

from __future__ import annotations

from dataclasses import replace

from hearthkeep.core.design import ArrangementKind, BusKind, Design, FedFrom, Kind
from hearthkeep.core.transfer import BY_KIND, CORDS, fates_of
from hearthkeep.core.wiring.oneline.direct import bank_lane, other_lanes, right_of_bus, solar_lanes
from hearthkeep.core.wiring.oneline.draft import (
    BESIDE_TAG,
    CHANNEL,
    EDGE,
    LABEL_HALF,
    LABEL_LINE,
    LANE_ABOVE,
    STRETCH,
    Columns,
    Draft,
    half,
    label_below,
)
from hearthkeep.core.wiring.oneline.geometry import CHARACTER, SMALL_PX, Line, OneLine, Text, wrapped
from hearthkeep.core.wiring.oneline.house import upper_lanes
from hearthkeep.core.wiring.oneline.notes import notes_of
from hearthkeep.core.wiring.oneline.one_box import input_lanes
from hearthkeep.core.wiring.oneline.symbols import SIZES, legend
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import tag_words


def one_line(design: Design, plan: WiringPlan) -> OneLine:
    """The one-line diagram of a design as it was entered."""
    draft = Draft(design=design, plan=plan, at=_columns(design, plan))
    upper_lanes(draft)
    input_lanes(draft)
    draft.right_px = draft.left_px
    solar_lanes(draft)
    other_lanes(draft)
    bank_lane(draft)
    right_of_bus(draft)
    _bars(draft)
    _ground(draft)
    notes = _notes(draft)
    kinds = {symbol.kind for symbol in draft.symbols}
    right = max(
        [symbol.box[2] for symbol in draft.symbols] + [text.box[2] for text in (*_texts(draft), *notes)], default=100.0
    )
    return OneLine(
        width_px=round(right + EDGE, 1),
        height_px=round(draft.lowest_px + EDGE, 1),
        symbols=tuple(draft.symbols),
        lines=tuple(draft.lines),
        notes=notes,
        legend=legend(kinds, design.practice),
    )


def _texts(draft: Draft) -> list[Text]:
    return [text for symbol in draft.symbols for text in symbol.texts] + [
        text for line in draft.lines for text in line.texts
    ]


def _columns(design: Design, plan: WiringPlan) -> Columns:
    """Columns as far apart as the runs between them ask for."""
    source = EDGE + 52.0
    combines = any(run.run.key.startswith("string-") for run in plan.runs)
    links = [run for run in plan.runs if run.run.key in LINKS]
    stretch = max([STRETCH, *(_tag_width(run, design) for run in plan.runs if run.run.key not in LINKS)])
    link = max([0.0, *(_tag_width(run, design) for run in links)])
    combiner = source + 22.0 + stretch + 12.0
    middle = (combiner + 12.0 if combines else source + 22.0) + stretch + 27.0
    # The bank's lane runs under all of them, links and all, with its fuse, disconnect and shunt.
    bus = max(middle + 27.0 + stretch, source + 20.0 + len(links) * (link + 6.0) + max(stretch, 190.0))
    if any(run.run.fed_from is FedFrom.LOAD_TERMINALS for run in plan.runs):
        bus += CHANNEL
    # Several inverters leave room beside their labels for what goes on to the next.
    beside = LABEL_HALF + 10.0 if design.inverter.units > 1 else half("inverter")
    inverter = bus + stretch + beside + 14.0
    panel = inverter + beside + stretch + half("transfer")
    return Columns(
        source_px=source,
        combiner_px=combiner,
        middle_px=middle,
        bus_px=bus,
        inverter_px=inverter,
        panel_px=panel,
        loads_px=panel + 104.0,
        stretch_px=stretch,
        link_px=link,
    )


#: Characters of a line of the notes, and its height.
NOTE_CHARACTERS, NOTE_LINE = 96, 16.0
#: Runs between the blocks of a bank.
LINKS = ("series-links", "parallel-links", "string-leads")


def _tag_width(sized: SizedRun, design: Design) -> float:
    """Room that the tag of a run takes."""
    return len(tag_words(sized, design)) * CHARACTER * SMALL_PX + BESIDE_TAG


def _bars(draft: Draft) -> None:
    """The bus and the backed-up panel across all lanes that meet in them."""
    at, design = draft.at, draft.design
    if draft.bus_lanes_px:
        top, bottom = min(draft.bus_lanes_px) - 12.0, max(draft.bus_lanes_px) + 12.0
        is_bar = design.wiring.bus is BusKind.BAR
        name = f"{'Bus' if is_bar else 'Posts'} {design.bank.nominal_v:g} V"
        is_above = any(run.run.fed_from is FedFrom.LOAD_TERMINALS for run in draft.plan.runs)
        # What hangs on load terminals passes below the bus; then its name stands above it.
        label_y = top - 7.0 if is_above else bottom + 23.0
        label = Text(x=at.bus_px, y=label_y, text=name, anchor="middle", height_px=SMALL_PX)
        draft.symbol("bus", "bus", at.bus_px, (top + bottom) / 2, title=name, texts=(label,), height=bottom - top)
        draft.lowest_px = max(draft.lowest_px, bottom + 28.0)
    if not draft.panel_lanes_px:
        return
    kind = design.transfer.arrangement
    top, bottom = min(draft.panel_lanes_px), max(draft.panel_lanes_px)
    is_switch = kind in (ArrangementKind.MANUAL_SWITCH, ArrangementKind.INLET, ArrangementKind.AUTOMATIC)
    symbol = "transfer" if is_switch else "panel"
    name = {
        None: "House loads" if design.kind is Kind.HOME else "Its loads",
        ArrangementKind.MANUAL_SWITCH: "Manual switch",
        ArrangementKind.INLET: "Main panel, interlocked",
        ArrangementKind.AUTOMATIC: "Automatic switch",
        ArrangementKind.OWN_PANEL: "House panel",
    }.get(kind, "Outlets" if kind in CORDS else "Backed-up panel")
    surge = "surge protector" if design.wiring.surge_ac and kind is not None and kind not in CORDS else ""
    tall = max(SIZES[symbol][1], bottom - top + 34.0)
    title = f"{name}: {BY_KIND[kind].title}" if kind else name
    texts = label_below(at.panel_px, (top + bottom) / 2 + tall / 2, name, surge)
    draft.symbol("panel", symbol, at.panel_px, (top + bottom) / 2, title=title, texts=texts, height=tall)
    draft.lowest_px = max(draft.lowest_px, (top + bottom) / 2 + tall / 2 + 12.0 + LABEL_LINE * 3)
    carried = sum(state.fate.value == "carried" for state in fates_of(design).circuits)
    what = f"{carried} circuits" if design.transfer.circuits and kind not in CORDS else "AC loads"
    draft.part("loads", "load", at.loads_px, bottom, what)
    draft.wire(
        "loads",
        (((at.panel_px + SIZES[symbol][0] / 2, bottom), (at.loads_px - half("load"), bottom)),),
        "The house's own wiring",
    )


def _ground(draft: Draft) -> None:
    """Frames, equipment and electrode on the ground bar, below everything else."""
    at = draft.at
    array, equipment, electrode = (draft.run(key) for key in ("ground-array", "ground-dc", "ground-electrode"))
    if array is None and equipment is None:
        return
    y = max(draft.lowest_px, draft.left_px - LANE_ABOVE, draft.right_px - LANE_ABOVE) + LANE_ABOVE
    draft.part("ground", "ground_bar", at.bus_px, y, "")
    draft.symbols[-1] = replace(
        draft.symbols[-1],
        title="Ground bar",
        texts=(Text(x=at.bus_px, y=y - 11.0, text="Ground bar", anchor="middle", height_px=SMALL_PX),),
    )
    if array is not None:
        draft.part("frames", "frames", at.source_px, y, "Array frames")
        draft.lane(array, at.source_px + 22.0, at.bus_px - 20.0, y)
    if equipment is not None:
        draft.part("equipment", "frames", at.inverter_px, y, "Cases of the equipment")
        draft.lane(equipment, at.bus_px + 20.0, at.inverter_px - 22.0, y)
    if electrode is not None:
        foot = y + 52.0
        draft.part("electrode", "electrode", at.bus_px, foot, "Grounding electrode")
        draft.lines.append(
            Line(
                key="ground-electrode", is_run=True, strokes=(((at.bus_px, y + 6.0), (at.bus_px, foot - 9.0)),), dots=(),
                title=electrode.run.label,
                texts=(Text(x=at.bus_px + 8.0, y=y + 32.0, text=tag_words(electrode, draft.design), height_px=SMALL_PX),),
            )
        )  # fmt: skip


def _notes(draft: Draft) -> tuple[Text, ...]:
    """What no symbol shows: where neutral and direct current are joined to ground, what keeps two supplies apart, what locks."""
    lines = [line for note in notes_of(draft.design, draft.plan) for line in wrapped(note, NOTE_CHARACTERS, 3)]
    top = draft.lowest_px + LANE_ABOVE / 2
    texts = tuple(
        Text(x=EDGE, y=top + NOTE_LINE * number, text=line, height_px=SMALL_PX)
        for number, line in enumerate(lines, start=1)
    )
    if texts:
        draft.lowest_px = texts[-1].y + 4.0
    return texts
