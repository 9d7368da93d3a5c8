"""The layout board: parts on a wall and on the floor below it, with the room they ask for, to scale."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.design import ArrangementKind, Chemistry, Controller, Design
from hearthkeep.core.wiring.runs import branch_loads, branch_w, inverter_keys, is_built_in_charger
from hearthkeep.core.words import begun

#: Blocks drawn one by one; of larger banks each string is one part.
MOST_BLOCKS = 24
#: Where a data sheet names no size: watt-hours a litre and a kilogram of a block with its case. Common practice, no source.
WH_PER_L = {Chemistry.LFP: 170.0}
WH_PER_KG = {Chemistry.LFP: 110.0}
LEAD_WH_PER_L, LEAD_WH_PER_KG = 75.0, 36.0
#: A run's length along the board: from middle to middle across and down, and so much for bends and ends [m].
ENDS_M = 0.3
#: Between parts that ask for nothing more, and the lowest wall row above the floor [mm].
GAP_MM, WALL_FROM_MM = 40.0, 900.0
#: A board that is lower than this has its wall row right above the batteries [mm].
LOW_BOARD_MM = 1_800.0
#: The same on a board that is no wider than this [mm].
SMALL_GAP_MM, SMALL_BOARD_MM = 20.0, 600.0


@dataclass(frozen=True, slots=True)
class Clearance:
    """Room that stays free on each side of a part [mm]."""

    top_mm: float
    bottom_mm: float
    left_mm: float
    right_mm: float


#: Common practice, no source; the part's own manual decides.
FOR_HEAT = Clearance(300.0, 300.0, 150.0, 150.0)
FOR_LITTLE_HEAT = Clearance(50.0, 50.0, 30.0, 30.0)
FOR_AIR = Clearance(150.0, 150.0, 50.0, 50.0)
FOR_HANDS = Clearance(100.0, 100.0, 100.0, 100.0)
#: In a box of parts that carry so little, hands reach from the front [A], and an inverter of so little warms little [W].
LITTLE_A, LITTLE_W, LITTLE_CONTROLLER_A = 30.0, 500.0, 20.0
FOR_FINGERS = Clearance(30.0, 30.0, 30.0, 30.0)
VENTED_CELLS = Clearance(300.0, 0.0, 25.0, 25.0)
SEALED_CELLS = Clearance(50.0, 0.0, 20.0, 20.0)


@dataclass(frozen=True, kw_only=True, slots=True)
class BoardPart:
    """One part as it stands: its front, depth and weight."""

    key: str
    name: str
    #: battery, bus, inverter, controller, panel, charger.
    kind: str
    width_mm: float
    height_mm: float
    depth_mm: float
    mass_kg: float
    clearance: Clearance
    #: Why the room: heat, air, hands, gas.
    clearance_for: str
    #: Its size is of a data sheet.
    is_known: bool
    #: Lower left corner, from the board's own [mm].
    x_mm: float = 0.0
    y_mm: float = 0.0
    #: Put there by hand.
    is_placed: bool = False

    @property
    def middle_mm(self) -> tuple[float, float]:
        """Its middle [mm]."""
        return self.x_mm + self.width_mm / 2, self.y_mm + self.height_mm / 2


def board_parts(design: Design) -> tuple[BoardPart, ...]:
    """Every part that stands on the board or below it, in its place."""
    placed = {place.part: place for place in design.wiring.board.places}
    board = design.wiring.board
    laid = _laid_out(tuple(_parts(design)), width_mm=board.width_mm, height_mm=board.height_mm)
    return tuple(
        replace(part, x_mm=placed[part.key].x_mm, y_mm=placed[part.key].y_mm, is_placed=True)
        if part.key in placed
        else part
        for part in laid
    )


def run_length_m(parts: dict[str, BoardPart], start: str, end: str) -> float | None:
    """Length of a run between two parts of the board [m]; none where one of them stands elsewhere."""
    one, other = parts.get(start), parts.get(end)
    if one is None or other is None or one is other:
        return None
    (x_mm, y_mm), (other_x_mm, other_y_mm) = one.middle_mm, other.middle_mm
    return round((abs(x_mm - other_x_mm) + abs(y_mm - other_y_mm)) / 1000.0 + ENDS_M, 2)


def _parts(design: Design) -> Iterator[BoardPart]:
    yield from _blocks(design)
    yield _bus(design)
    for key in inverter_keys(design):
        yield _inverter(design, key)
    for controller in design.charging.controllers:
        if controller.charges and not controller.built_in:
            yield _controller(controller)
    if not is_built_in_charger(design) and design.charging.grid_charger.output_w > 0 and not design.site.off_grid:
        watts = design.charging.grid_charger.output_w
        yield BoardPart(
            key="charger", name="Charger", kind="charger", width_mm=150 + watts / 20, height_mm=200 + watts / 20,
            depth_mm=110, mass_kg=2 + watts / 300, clearance=FOR_AIR, clearance_for="air", is_known=False,
        )  # fmt: skip
    if _has_panel(design):
        is_own = design.transfer.arrangement is ArrangementKind.OWN_PANEL
        positions = design.transfer.main.slots if is_own else design.transfer.device.positions or 8
        yield BoardPart(
            key="panel", name="House panel" if is_own else "Backed-up panel", kind="panel", width_mm=300 if positions <= 12 else 370,
            height_mm=220 + 25 * positions, depth_mm=100, mass_kg=4 + positions / 4, clearance=FOR_HANDS,
            clearance_for="hands", is_known=False,
        )  # fmt: skip


def _has_panel(design: Design) -> bool:
    return design.transfer.arrangement in (
        ArrangementKind.MANUAL_SWITCH,
        ArrangementKind.CRITICAL_PANEL,
        ArrangementKind.MOVED_CIRCUITS,
        ArrangementKind.AC_COUPLED,
        ArrangementKind.OWN_PANEL,
    )


def _blocks(design: Design) -> Iterator[BoardPart]:
    bank = design.bank
    sheet, is_lfp = bank.unit, bank.chemistry is Chemistry.LFP
    unit_wh = bank.unit_v * bank.unit_ah
    mass_kg = (
        sheet.mass_kg if sheet and sheet.mass_kg else unit_wh / (WH_PER_KG[Chemistry.LFP] if is_lfp else LEAD_WH_PER_KG)
    )
    known = sheet is not None and None not in (sheet.length_mm, sheet.width_mm, sheet.height_mm)
    if sheet and sheet.length_mm and sheet.width_mm and sheet.height_mm:
        width_mm, depth_mm, height_mm = sheet.length_mm, sheet.width_mm, sheet.height_mm
    else:
        # A block half as deep again as high, and nearly twice as wide: our assumption.
        volume_mm3 = unit_wh / (WH_PER_L[Chemistry.LFP] if is_lfp else LEAD_WH_PER_L) * 1e6
        height_mm = round((volume_mm3 / 1.6) ** (1 / 3))
        width_mm, depth_mm = round(1.6 * height_mm), height_mm
    label = TYPICAL[bank.chemistry].label
    name = sheet.name if sheet else f"{begun(label)} {bank.unit_v:g} V {bank.unit_ah:g} Ah"
    vented = bank.chemistry.is_vented
    whole = bank.series * bank.parallel > MOST_BLOCKS
    for string in range(1, bank.parallel + 1):
        for block in range(1, 2 if whole else bank.series + 1):
            of_string = f"string {string}" if bank.parallel > 1 else ""
            of_block = f"block {block}" if bank.series > 1 and not whole else ""
            yield BoardPart(
                key=f"battery-{string}-{block}",
                name=", ".join(part for part in (name[:60], of_string, of_block) if part),
                kind="battery",
                width_mm=width_mm,
                height_mm=height_mm * (bank.series if whole else 1),
                depth_mm=depth_mm,
                mass_kg=mass_kg * (bank.series if whole else 1),
                clearance=VENTED_CELLS if vented else SEALED_CELLS,
                clearance_for="gas and filling" if vented else "air",
                is_known=known,
            )


def _carries_little(design: Design) -> bool:
    """Whether everything on direct current together takes no more than what small terminals carry."""
    watts = design.inverter.together.rated_w + sum(branch_w(load) for load in branch_loads(design))
    return watts / design.bank.nominal_v <= LITTLE_A


def _bus(design: Design) -> BoardPart:
    ways = 2 + len(inverter_keys(design)) + len(branch_loads(design)) + len(design.charging.controllers)
    if _carries_little(design):
        return BoardPart(
            key="bus", name="Terminals, main fuse, shunt", kind="bus", width_mm=60.0 + 10.0 * min(ways, 30), height_mm=80.0,
            depth_mm=60.0, mass_kg=0.3 + 0.05 * ways, clearance=FOR_FINGERS, clearance_for="hands", is_known=False,
        )  # fmt: skip
    return BoardPart(
        key="bus", name="Bus bars, main fuse, shunt", kind="bus", width_mm=260.0 + 36.0 * min(ways, 20), height_mm=260.0,
        depth_mm=90.0, mass_kg=3.0 + 0.3 * ways, clearance=FOR_HANDS, clearance_for="hands", is_known=False,
    )  # fmt: skip


def _inverter(design: Design, key: str) -> BoardPart:
    inverter = design.inverter
    kilowatts = inverter.rated_w / 1000.0
    sheet = inverter.sheet
    mass_kg = (
        sheet.mass_kg if sheet and sheet.mass_kg else (1.0 if inverter.rated_w <= LITTLE_W else 3.0) + 6.0 * kilowatts
    )
    name = sheet.name[:60] if sheet else "Inverter"
    known = sheet is not None and None not in (sheet.width_mm, sheet.height_mm, sheet.depth_mm)
    # Fronts grow more slowly than watts: common practice, no source.
    is_little = inverter.rated_w <= LITTLE_W
    width_mm, height_mm, depth_mm = 220 + 50 * kilowatts**0.7, 260 + 80 * kilowatts**0.7, 90 + 25 * kilowatts**0.5
    if sheet and sheet.width_mm and sheet.height_mm and sheet.depth_mm:
        width_mm, height_mm, depth_mm = sheet.width_mm, sheet.height_mm, sheet.depth_mm
    elif is_little:
        width_mm, height_mm, depth_mm = 120 + 200 * kilowatts, 140 + 200 * kilowatts, 60 + 60 * kilowatts
    return BoardPart(
        key=key, name=name if inverter.units == 1 else f"{name} {key.rsplit('-', 1)[1]}", kind="inverter",
        width_mm=round(width_mm), height_mm=round(height_mm), depth_mm=round(depth_mm), mass_kg=mass_kg,
        clearance=FOR_LITTLE_HEAT if is_little else FOR_HEAT, clearance_for="heat", is_known=known,
    )  # fmt: skip


def _controller(controller: Controller) -> BoardPart:
    amps = controller.output_a
    return BoardPart(
        key=f"controller-{controller.id}", name=controller.name, kind="controller", width_mm=round(100 + 2.2 * min(amps, 100)),
        height_mm=round(120 + 2.5 * min(amps, 100)), depth_mm=100, mass_kg=0.5 + 0.06 * amps,
        clearance=FOR_LITTLE_HEAT if amps <= LITTLE_CONTROLLER_A else FOR_AIR,
        clearance_for="air", is_known=False,
    )  # fmt: skip


@lru_cache(maxsize=256)
def _laid_out(parts: tuple[BoardPart, ...], *, width_mm: float, height_mm: float) -> tuple[BoardPart, ...]:
    """The parts in their usual places; kept, since few changes of a design touch any part on the board."""
    return tuple(_one_by_one(parts, width_mm=width_mm, height_mm=height_mm))


def _one_by_one(parts: tuple[BoardPart, ...], *, width_mm: float, height_mm: float) -> Iterator[BoardPart]:
    """Batteries along the floor, everything else along the wall above them, left to right and row by row.

    On a low board the wall's rows begin right above the batteries.
    """
    edge_mm = SMALL_GAP_MM if width_mm <= SMALL_BOARD_MM else GAP_MM
    floor = [part for part in parts if part.kind == "battery"]
    wall = [part for part in parts if part.kind != "battery"]
    if width_mm <= SMALL_BOARD_MM:
        # The highest first, so that a row wastes little.
        wall.sort(key=lambda part: -part.height_mm)
    top_mm = 0.0
    for part in _in_rows(
        floor, width_mm=width_mm, from_mm=0.0, edge_mm=edge_mm, gap_of=lambda part: part.clearance.left_mm * 2
    ):
        top_mm = max(top_mm, part.y_mm + part.height_mm + part.clearance.top_mm)
        yield part
    from_mm = top_mm + edge_mm if height_mm < LOW_BOARD_MM else max(WALL_FROM_MM, top_mm + 100.0)
    yield from _in_rows(
        wall, width_mm=width_mm, from_mm=from_mm, edge_mm=edge_mm, gap_of=lambda part: part.clearance.left_mm
    )


def _in_rows(
    parts: list[BoardPart], *, width_mm: float, from_mm: float, edge_mm: float, gap_of: Callable[[BoardPart], float]
) -> Iterator[BoardPart]:
    x_mm, y_mm, row_mm = edge_mm, from_mm, 0.0
    before_mm = 0.0
    for part in parts:
        gap_mm = max(edge_mm, gap_of(part), before_mm) if x_mm > edge_mm else edge_mm
        if x_mm > edge_mm and x_mm + gap_mm + part.width_mm > width_mm:
            x_mm, y_mm, gap_mm = edge_mm, y_mm + row_mm, edge_mm
            row_mm = 0.0
        left_mm = x_mm + (gap_mm if x_mm > edge_mm else 0.0)
        yield replace(part, x_mm=left_mm, y_mm=y_mm)
        x_mm, before_mm = left_mm + part.width_mm, part.clearance.right_mm
        row_mm = max(row_mm, part.height_mm + max(part.clearance.top_mm, edge_mm))
