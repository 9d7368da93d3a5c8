"""The one-line diagram while it is laid out: its columns, its lanes, and how a part, a run and a label are put into them."""

from __future__ import annotations

from dataclasses import dataclass, field

from hearthkeep.core.design import ArrangementKind, Design, DeviceKind, Disconnects, OpenedBy
from hearthkeep.core.wiring.devices import FUSES
from hearthkeep.core.wiring.oneline.geometry import CHARACTER, SMALL_PX, TEXT_PX, Line, Points, Symbol, Text, wrapped
from hearthkeep.core.wiring.oneline.symbols import SIZES, drawing
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import tag_words

#: Room above a lane's line and below it without labels, for one line of a label, and beside the diagram.
LANE_ABOVE, LANE_BELOW, LABEL_LINE, EDGE = 26.0, 24.0, 13.0, 10.0
#: Characters and lines of a part's label.
LABEL_CHARACTERS, LABEL_LINES = 15, 3
#: Half the width that a label may take.
LABEL_HALF = LABEL_CHARACTERS * CHARACTER * TEXT_PX / 2
#: A channel left of the bus for what hangs on load terminals, and how far above its controller's line it begins.
CHANNEL, TERMINALS_RISE = 16.0, 8.5
#: The least width of a stretch that carries devices and a tag, and the room beside the tag.
STRETCH, BESIDE_TAG = 104.0, 12.0
#: Panel and transfer arrangements in which the house's main panel stays before the backed-up side.
BEFORE_MAIN = (ArrangementKind.MANUAL_SWITCH, ArrangementKind.INLET, ArrangementKind.AUTOMATIC)


@dataclass
class Columns:
    """Where the columns stand: sources, combiners, what converts, the bus, inverters, the backed-up panel, its loads."""

    source_px: float
    combiner_px: float
    middle_px: float
    bus_px: float
    inverter_px: float
    panel_px: float
    loads_px: float
    #: Widths of a stretch, and of one between the blocks of the bank.
    stretch_px: float
    link_px: float


@dataclass
class Draft:
    """The diagram while it is laid out."""

    design: Design
    plan: WiringPlan
    at: Columns
    symbols: list[Symbol] = field(default_factory=list)
    lines: list[Line] = field(default_factory=list)
    #: The lane the next part of each side goes to.
    left_px: float = EDGE
    right_px: float = 0.0
    lowest_px: float = 0.0
    panel_lanes_px: list[float] = field(default_factory=list)
    bus_lanes_px: list[float] = field(default_factory=list)
    #: Lanes of arrays that end in the inputs of an all-in-one: run, controller, where they turn down.
    inputs_px: list[tuple[str, str, float, float]] = field(default_factory=list)
    #: Lanes of controllers, whose load terminals something may hang on.
    terminals_px: list[float] = field(default_factory=list)

    def run(self, key: str) -> SizedRun | None:
        return self.plan.find(key)

    def symbol(
        self,
        key: str,
        kind: str,
        x: float,
        y: float,
        *,
        title: str,
        texts: tuple[Text, ...] = (),
        run: str | None = None,
        height: float | None = None,
    ) -> None:
        """Draw a symbol about its middle."""
        width, usual = SIZES[kind]
        self.symbols.append(
            Symbol(
                key=key, kind=kind, x=x, y=y, width_px=width, height_px=usual if height is None else height,
                path=drawing(kind, self.design.practice, height), run=run, title=title, texts=texts,
            )
        )  # fmt: skip

    def part(
        self, key: str, kind: str, x: float, y: float, name: str, detail: str = "", *, height: float | None = None
    ) -> float:
        """Draw a part with its label below; returns where its label ends."""
        usual = SIZES[kind][1]
        tall = usual if height is None else height
        lines = [*wrapped(name, LABEL_CHARACTERS, 2 if detail else LABEL_LINES), *wrapped(detail, LABEL_CHARACTERS, 4)][
            :5
        ]
        bottom = y + tall / 2
        texts = tuple(
            Text(
                x=x,
                y=bottom + 15.0 + LABEL_LINE * number,
                text=line,
                anchor="middle",
                height_px=TEXT_PX if number == 0 else SMALL_PX,
            )
            for number, line in enumerate(lines)
        )
        title = f"{name}: {detail}" if detail else name
        self.symbol(key, kind, x, y, title=title, texts=texts, height=tall)
        end = bottom + (7.0 + LABEL_LINE * len(lines) if lines else 4.0)
        self.lowest_px = max(self.lowest_px, end)
        return end

    def wire(
        self, key: str, strokes: tuple[Points, ...], title: str, *, is_inside: bool = False, dots: Points = ()
    ) -> None:
        """A conductor that is there already, or inside a unit."""
        self.lines.append(Line(key=key, is_run=False, strokes=strokes, dots=dots, title=title, is_inside=is_inside))

    def lane(
        self,
        sized: SizedRun,
        start_x: float,
        end_x: float,
        y: float,
        *,
        extra: tuple[Points, ...] = (),
        dots: Points = (),
        tag_to: float | None = None,
    ) -> None:
        """A run along its lane, its devices on it, ratings above, its tag below."""
        run, design = sized.run, self.design
        until = end_x if tag_to is None else tag_to
        devices = _devices_of(sized, self.plan)
        places = [start_x + (until - start_x) * (number + 1) / (len(devices) + 1) for number in range(len(devices))]
        for place, (kind, what, above) in zip(places, devices, strict=True):
            texts = (Text(x=place, y=y - 12.0, text=above, anchor="middle", height_px=SMALL_PX),) if above else ()
            title = f"{run.label}: {above or what}"
            self.symbol(f"{run.key}-{what}", kind, place, y, title=title, texts=texts, run=run.key)
        self.lines.append(
            Line(
                key=run.key, is_run=True, strokes=(((start_x, y), (end_x, y)), *extra), dots=dots,
                title=f"{run.label}, {run.current_a:.1f} A",
                texts=(Text(x=start_x + 5.0, y=y + 17.5, text=tag_words(sized, design), height_px=SMALL_PX),),
            )
        )  # fmt: skip
        self.lowest_px = max(self.lowest_px, y + LANE_BELOW)


def _devices_of(sized: SizedRun, plan: WiringPlan) -> list[tuple[str, str, str]]:
    """Symbols on a run in the order of its current: kind, which, and what is written above."""
    found: list[tuple[str, str, str]] = []
    run, device, opens = sized.run, sized.device, sized.disconnects
    by_hand = "plug" if sized.opened_by is OpenedBy.PLUG else "disconnect"
    rated = f"{sized.contact_a:g} A" if sized.contact_a is not None else ""
    is_breaker = device is not None and device.kind in (DeviceKind.DC_BREAKER, DeviceKind.AC_BREAKER)
    # A breaker at the source end opens by hand as well.
    if opens in (Disconnects.SOURCE, Disconnects.BOTH) and not is_breaker and run.key != "bank":
        found.append((by_hand, "opens", rated))
    if device is not None and (device.kind is not DeviceKind.NONE or plan.is_bare(run.key)):
        kind = "breaker" if is_breaker else "fuse" if device.kind in FUSES else "no_device"
        found.append((kind, "device", _rating(sized)))
    if run.key == "bank":
        if opens in (Disconnects.SOURCE, Disconnects.BOTH):
            found.append((by_hand, "opens", rated))
        if plan.shunt.rating_a is not None:
            found.append(("shunt", "shunt", f"{plan.shunt.rating_a:g} A"))
    if opens in (Disconnects.LOAD, Disconnects.BOTH):
        found.append((by_hand, "opens-end", rated))
    if len(found) == 1 and device is not None and device.rating_a is not None and device.kind in _FUSE_NAMES:
        found[0] = (*found[0][:2], f"{device.rating_a:g} A {_FUSE_NAMES[device.kind]}")
    return found


#: Kinds of fuse where there is room for the word.
_FUSE_NAMES = {
    DeviceKind.CLASS_T: "class T",
    DeviceKind.STRIP: "strip",
    DeviceKind.POST: "post",
    DeviceKind.BOLT_SMALL: "bolt-down",
    DeviceKind.BOLT_LARGE: "bolt-down",
    DeviceKind.BLADE: "blade",
    DeviceKind.SOLAR_FUSE: "solar",
}


def _rating(sized: SizedRun) -> str:
    device = sized.device
    if device is None:
        return ""
    if device.rating_a is None:
        return "not known" if not device.is_known else "none" if device.kind is DeviceKind.NONE else "not made"
    return f"{device.rating_a:g} A" + (
        " class T" if device.kind is DeviceKind.CLASS_T and sized.run.key == "bank" else ""
    )


def half(kind: str) -> float:
    return SIZES[kind][0] / 2


def next_lane(y: float, label_end: float) -> float:
    """The next lane below a lane and what is written under it."""
    return max(y + LANE_BELOW, label_end) + LANE_ABOVE + 4.0


def label_below(x: float, bottom: float, name: str, detail: str) -> tuple[Text, ...]:
    lines = [*wrapped(name, LABEL_CHARACTERS, 2), *wrapped(detail, LABEL_CHARACTERS, 1)]
    return tuple(
        Text(
            x=x,
            y=bottom + 15.0 + LABEL_LINE * number,
            text=line,
            anchor="middle",
            height_px=TEXT_PX if number == 0 else SMALL_PX,
        )
        for number, line in enumerate(lines)
    )
