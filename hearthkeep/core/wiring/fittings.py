"""Lugs, studs, conduit and colours of a run."""

from __future__ import annotations

from hearthkeep.core.design import Design, Practice, RunSet
from hearthkeep.core.published import conduit_areas_mm2, conduit_fill_limit, insulated_areas_mm2
from hearthkeep.core.wiring.conductors import Conductor
from hearthkeep.core.wiring.runs import Run, RunKind

#: Studs by the current they carry [A], [mm], and the hole of a lug above its stud [mm]. Common practice, no source.
STUDS = ((60.0, 6.0), (250.0, 8.0), (600.0, 10.0))
LARGEST_STUD_MM = 12.0
HOLE_OVER_STUD_MM = 0.4
#: A lug may have so much more hole than stud before it no longer sits flat [mm]. Common practice, no source.
LOOSE_HOLE_MM = 1.7


def usual_stud_mm(current_a: float) -> float:
    """The stud that usually carries a current [mm].

    >>> usual_stud_mm(100.0), usual_stud_mm(1000.0)
    (8.0, 12.0)
    """
    return next((stud_mm for most_a, stud_mm in STUDS if current_a <= most_a), LARGEST_STUD_MM)


def lug_hole_mm(stud_mm: float) -> float:
    """The hole of a lug for a stud [mm]."""
    return stud_mm + HOLE_OVER_STUD_MM


def conductors_in(run: Run) -> int:
    """Conductors that lie side by side in a run, its ground included: two of direct current, four of alternating current."""
    if run.kind is RunKind.GROUND:
        return 1
    if run.is_dc:
        return 2 * run.count if run.kind is RunKind.STRING else 2
    return 4 if run.volts_v == 240.0 else 3


def conduit_fill_frac(
    run: Run, practice: Practice, given: RunSet, conductor: Conductor | None
) -> tuple[float | None, float | None]:
    """How full its conduit is, and how full it may be; none where it lies in none or its insulated size is not in the table.

    Source: NEC Chapter 9, Tables 1, 4 and 5 (from memory). The ground is counted as large as the others, which errs to the safe
    side.
    """
    if given.conduit is None or conductor is None or practice is Practice.METRIC_230:
        return None, None
    inside_mm2 = conduit_areas_mm2(given.conduit_kind).get(given.conduit)
    each_mm2 = insulated_areas_mm2().get(conductor.size)
    if inside_mm2 is None or each_mm2 is None:
        return None, None
    count = conductors_in(run) * conductor.per_pole
    return count * each_mm2 / inside_mm2, conduit_fill_limit(count)


def usual_colours(run: Run, design: Design) -> str:
    """The usual colours of its conductors.

    North American: NEC 210.5, 250.119 and habit; metric: IEC 60445 (from memory); battery leads red and black in both, by
    common practice.
    """
    is_metric = design.practice is Practice.METRIC_230
    if run.kind is RunKind.GROUND:
        return "green-yellow" if is_metric else "green or bare"
    if run.is_dc:
        return "red +, black −"
    if is_metric:
        return "brown, blue, green-yellow"
    return "black, red, white, green" if run.volts_v == 240.0 else "black, white, green"
