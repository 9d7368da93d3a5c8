"""Everything the Wiring page shows, in one answer."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, Kind
from hearthkeep.core.wiring.board import BoardPart
from hearthkeep.core.wiring.lists import Lists, lists_of
from hearthkeep.core.wiring.oneline import OneLine, one_line
from hearthkeep.core.wiring.plan import wiring_plan
from hearthkeep.core.wiring.rows import RunRow, run_rows
from hearthkeep.core.wiring.run_checks import RunCheck, run_checks_of


@dataclass(frozen=True, kw_only=True, slots=True)
class WiringSheet:
    """The wiring of a design, ready to be read, drawn and bought."""

    runs: tuple[RunRow, ...]
    one_line: OneLine
    board: tuple[BoardPart, ...]
    #: Of all that stands on the board or below it, and of what hangs on it [kg].
    mass_kg: float
    hung_kg: float
    lists: Lists
    checks: tuple[RunCheck, ...]
    #: A unit on wheels or in a box, where the whole weight is moved.
    is_portable: bool
    #: Keys of runs on which something is set and that the design no longer has.
    left_over: tuple[str, ...]


def wiring_sheet(design: Design, *, year_low_c: float | None = None) -> WiringSheet:
    """Work it out for a design as it was entered; `year_low_c` is the coldest hour of its weather year [°C]."""
    rating = rate(design.bank)
    plan = wiring_plan(design, rating, year_low_c=year_low_c)
    return WiringSheet(
        runs=run_rows(design, plan),
        one_line=one_line(design, plan),
        board=plan.parts,
        mass_kg=sum(part.mass_kg for part in plan.parts),
        hung_kg=sum(part.mass_kg for part in plan.parts if part.kind != "battery"),
        lists=lists_of(design, rating, plan),
        checks=run_checks_of(design, rating, plan),
        is_portable=design.kind is Kind.PORTABLE,
        left_over=plan.left_over,
    )
