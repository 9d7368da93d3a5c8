"""Grounding conductors, by their tables."""

from __future__ import annotations

from hearthkeep.core.conductor_sizes import with_unit
from hearthkeep.core.design import (
    Design,
    DeviceKind,
    Disconnects,
    OpenedBy,
    Practice,
    RunFact,
    RunSet,
)
from hearthkeep.core.published import nec_grounding_rows
from hearthkeep.core.wiring.conductors import (
    Conductor,
    Lying,
    ampacity_a,
    conductor_of,
    conductor_set,
    ladder,
)
from hearthkeep.core.wiring.devices import next_rating_a
from hearthkeep.core.wiring.fittings import lug_hole_mm, usual_colours
from hearthkeep.core.wiring.runs import Run
from hearthkeep.core.wiring.sized_run import Binding, SizedRun


def grounding_size(
    practice: Practice, device_a: float, phase: Conductor | None, by_heat: Conductor | None = None
) -> str:
    """The equipment grounding conductor for a device, never larger than the run's own conductor.

    Where the run's conductor is thicker than heat alone asks (`by_heat`), as it is for the drop, the ground grows in proportion.

    Source: NEC Table 250.122 and 250.122(B); IEC 60364-5-54 Table 54.2: as the line up to 16 mm², 16 up to 35, half of it above (from
    memory).

    >>> grounding_size(Practice.NORTH_AMERICAN, 100.0, None), grounding_size(Practice.NORTH_AMERICAN, 110.0, None)
    ('8', '6')
    """
    if practice is Practice.METRIC_230:
        area_mm2 = phase.pole_mm2 if phase is not None else 16.0
        least_mm2 = area_mm2 if area_mm2 <= 16 else 16.0 if area_mm2 <= 35 else area_mm2 / 2
        return next((each.size for each in ladder(practice) if each.pole_mm2 >= least_mm2), ladder(practice)[-1].size)
    rows = nec_grounding_rows()
    size = next((size for most_a, size in rows if device_a <= most_a), rows[-1][1])
    own = conductor_of(practice, size)
    if own is not None and phase is not None and by_heat is not None and phase.pole_mm2 > by_heat.pole_mm2:
        grown_mm2 = own.area_mm2 * phase.pole_mm2 / by_heat.pole_mm2
        own = next((each for each in ladder(practice) if each.per_pole == 1 and each.area_mm2 >= grown_mm2 - 1e-9), own)
        size = own.size
    if phase is not None and phase.per_pole == 1 and own is not None and own.area_mm2 > phase.area_mm2:
        return phase.size
    return size


def ground_run(run: Run, design: Design, given: RunSet, lying: Lying, *, length_m: float, length_from: str) -> SizedRun:
    """A grounding conductor, by its table: neither heat nor drop decides it."""
    practice = design.practice
    if run.key == "ground-electrode":
        # To a rod never more than 6 AWG is asked: NEC 250.166(C) (from memory); of metric practice IEC 60364-5-54 asks 6 mm².
        size = "6" if practice is Practice.NORTH_AMERICAN else "16"
    else:
        device_a = next_rating_a(run.current_a, DeviceKind.AC_BREAKER, practice) or run.current_a
        phase = next((each for each in ladder(practice) if ampacity_a(each, lying) >= run.current_a), None)
        size = grounding_size(practice, device_a, phase)
        if practice is Practice.METRIC_230 and float(size) < 6.0:
            # Bonding of frames and cases, with protection against knocks. Common practice.
            size = "6"
    asked = conductor_of(practice, size)
    is_unknown = RunFact.SIZE in given.unknown
    real = None if is_unknown else conductor_set(practice, given.size) if given.size else asked
    stud_mm = given.stud_mm or 8.0
    return SizedRun(
        run=run,
        length_m=length_m,
        length_from=length_from,
        lying=lying,
        conductor=real,
        size=None if is_unknown else given.size or with_unit(size, practice),
        by_heat=asked,
        by_drop=None,
        binding=Binding.SET if given.size or is_unknown else Binding.TABLE,
        needed_a=0.0,
        ampacity_a=None,
        largest_device_a=None,
        next_size_a=None,
        ambient_factor=1.0,
        bundling_factor=1.0,
        drop_v=None,
        drop_limit_frac=design.wiring.branch_drop_frac,
        loop_ohm=None,
        device=None,
        disconnects=Disconnects.NONE,
        asks_disconnects=Disconnects.NONE,
        opened_by=OpenedBy.SWITCH,
        contact_a=None,
        has_locks=False,
        asks_locks=False,
        ground_size=None,
        lug_mm=given.lug_mm or lug_hole_mm(stud_mm),
        stud_mm=stud_mm,
        fill_frac=None,
        fill_limit_frac=None,
        colours=given.colours or usual_colours(run, design),
        torque_nm=given.torque_nm,
        unknown=given.unknown,
        is_set=design.wiring.of_run(run.key) is not None,
    )
