"""Findings about the layout board: parts in each other's way, without their air, over the edge, or in a battery's gas."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Evidence, Finding, Severity, Step
from hearthkeep.core.wiring import BoardPart

#: Parts that are not battery blocks are electronics or make sparks.
BATTERY = "battery"


def _overlap_mm(one: BoardPart, other: BoardPart, *, room: bool) -> tuple[float, float]:
    """How far two parts lie over each other across and up [mm]; with `room` the first part's clearance counts as part of it."""
    free = one.clearance
    top, bottom, left, right = (
        (free.top_mm, free.bottom_mm, free.left_mm, free.right_mm) if room else (0.0, 0.0, 0.0, 0.0)
    )
    across = min(one.x_mm + one.width_mm + right, other.x_mm + other.width_mm) - max(one.x_mm - left, other.x_mm)
    up = min(one.y_mm + one.height_mm + top, other.y_mm + other.height_mm) - max(one.y_mm - bottom, other.y_mm)
    return across, up


def in_the_way(evidence: Evidence) -> Iterator[Finding]:
    """Parts over each other, and parts in the room another asks for."""
    parts = evidence.wiring.parts
    over: list[tuple[BoardPart, BoardPart]] = []
    tight: list[tuple[BoardPart, BoardPart]] = []
    for at, one in enumerate(parts):
        for other in parts[at + 1 :]:
            if min(_overlap_mm(one, other, room=False)) > 0.5:
                over.append((one, other))
            elif one.kind != other.kind or one.kind != BATTERY:
                if min(_overlap_mm(one, other, room=True)) > 0.5:
                    tight.append((one, other))
                elif min(_overlap_mm(other, one, room=True)) > 0.5:
                    tight.append((other, one))
    if over:
        one, other = over[0]
        yield Finding(
            code="PARTS_OVERLAP",
            severity=Severity.MEND,
            step=Step.WIRING,
            title="Two parts in one place",
            message=f"{one.name[:60]} and {other.name[:60]} lie over each other on the board{f', and {len(over) - 1} more pairs' if len(over) > 1 else ''}.",
            basis="The board to scale",
        )
    if tight:
        one, other = tight[0]
        yield Finding(
            code="NO_CLEARANCE",
            severity=Severity.MIND,
            step=Step.WIRING,
            title=f"{one.name[:40]} has no room for {one.clearance_for}",
            message=f"{other.name[:60]} stands in it{f'; {len(tight) - 1} more like it' if len(tight) > 1 else ''}. Inverters and controllers give less when they are hot, and one that cannot "
            "be reached is not serviced. The part's own manual decides.",
            basis=COMMON_PRACTICE,
        )


def off_the_board(evidence: Evidence) -> Iterator[Finding]:
    """Parts that do not lie on the board."""
    board = evidence.entered.wiring.board
    off = [
        part
        for part in evidence.wiring.parts
        if part.x_mm + part.width_mm > board.width_mm + 0.5 or part.y_mm + part.height_mm > board.height_mm + 0.5
    ]
    if off:
        yield Finding(
            code="OFF_THE_BOARD",
            severity=Severity.MIND,
            step=Step.WIRING,
            title=f"{off[0].name[:60]} does not fit on the board",
            message=f"The board is {board.width_mm:.0f} × {board.height_mm:.0f} mm{f'; {len(off)} parts reach over its edge' if len(off) > 1 else ''}. A larger one, or the parts nearer together.",
            basis="The board to scale",
        )


def above_vented_cells(evidence: Evidence) -> Iterator[Finding]:
    """Electronics right above cells that give off gas."""
    if not evidence.entered.bank.chemistry.is_vented:
        return
    cells = [part for part in evidence.wiring.parts if part.kind == BATTERY]
    above = [
        part
        for part in evidence.wiring.parts
        if part.kind != BATTERY
        and any(_overlap_mm(part, cell, room=False)[0] > 0 and part.y_mm >= cell.y_mm for cell in cells)
    ]
    if above:
        yield Finding(
            code="ABOVE_VENTED_CELLS",
            severity=Severity.MIND,
            step=Step.WIRING,
            title=f"{above[0].name[:60]} hangs above vented cells",
            message="Hydrogen rises to it and finds a spark, and acid mist eats its boards. Beside the cells, or with a lid and a vent between.",
            basis="Common practice, no source; IEC 62485-2 for the distance of sparks (from memory)",
        )


CHECKS = (in_the_way, off_the_board, above_vented_cells)
