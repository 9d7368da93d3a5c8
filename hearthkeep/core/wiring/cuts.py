"""The cut list: pieces of conductor cut alike, the thickest first."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.design import Design
from hearthkeep.core.wiring.conductors import conductor_set
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import lug_words


@dataclass(frozen=True, kw_only=True, slots=True)
class CutLine:
    """Pieces of one conductor, cut alike."""

    run: str
    label: str
    conductor: str
    #: plus, minus, ground and the like.
    pole: str
    quantity: int
    length_m: float
    lug: str
    #: Hole of its lugs [mm]; none where it has none.
    hole_mm: float | None
    heat_shrink: str


def cuts_of(design: Design, plan: WiringPlan) -> tuple[CutLine, ...]:
    """The cut list; thickest first, so that each drum is taken up once."""
    found = [(cut, _area_mm2(cut, run, design)) for run in plan.runs for cut in _cuts(run, design)]
    return tuple(cut for cut, _ in sorted(found, key=lambda entry: (-entry[1], entry[0].conductor)))


def _area_mm2(cut: CutLine, sized: SizedRun, design: Design) -> float:
    """Copper of one piece [mm²]; 0 where its size is not known."""
    if cut.pole == "ground" and sized.ground_size is not None:
        own = conductor_set(design.practice, sized.ground_size)
        return own.area_mm2 if own else 0.0
    return sized.conductor.area_mm2 if sized.conductor else 0.0


def poles_of(sized: SizedRun) -> tuple[str, ...]:
    """The conductors of a run, by name."""
    run = sized.run
    if run.kind is RunKind.GROUND:
        return ("ground",)
    if run.poles == 1:
        return ("link",)
    if run.is_dc:
        return ("plus", "minus")
    return ("line 1", "line 2", "neutral") if run.volts_v == 240.0 else ("line", "neutral")


def _cuts(sized: SizedRun, design: Design) -> Iterator[CutLine]:
    run = sized.run
    conductor = sized.size or "size not known"
    per_pole = sized.conductor.per_pole if sized.conductor else 1
    is_plugged = run.kind in (RunKind.STRING, RunKind.ARRAY)
    has_lugs = run.is_dc and not is_plugged
    shrink = {"plus": "red", "minus": "black", "link": "red and black", "ground": "green"}
    for pole in poles_of(sized):
        yield CutLine(
            run=run.key,
            label=run.label,
            conductor=conductor,
            pole=pole,
            quantity=run.count * per_pole,
            length_m=sized.length_m,
            lug=lug_words(sized, design.practice) if has_lugs else "connectors" if is_plugged else "screw terminals",
            hole_mm=sized.lug_mm if has_lugs else None,
            heat_shrink=shrink[pole] if has_lugs else "",
        )
    if sized.ground_size is not None:
        yield CutLine(
            run=run.key, label=run.label, conductor=sized.ground_size, pole="ground", quantity=run.count,
            length_m=sized.length_m, lug="screw terminals", hole_mm=None, heat_shrink="",
        )  # fmt: skip
