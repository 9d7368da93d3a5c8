"""A run made ready to buy: conductor by heat and by drop, device, disconnects, lugs, ground; or what is really there, judged."""

from __future__ import annotations

from functools import lru_cache

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
from hearthkeep.core.transfer import CORDS
from hearthkeep.core.wiring.conductors import (
    USUAL_INSULATION_C,
    VEHICLE_C,
    Conductor,
    Lying,
    ambient_factor,
    ampacity_a,
    bundling_factor,
    conductor_set,
    drop_v,
    ladder,
    largest_device_a,
    next_size_device_a,
)
from hearthkeep.core.wiring.devices import asked_device, device_kinds, interrupt_a, next_rating_a, string_fuse_a
from hearthkeep.core.wiring.faults import BankFault, fault_a
from hearthkeep.core.wiring.fittings import conduit_fill_frac, lug_hole_mm, usual_colours, usual_stud_mm
from hearthkeep.core.wiring.grounding import ground_run, grounding_size
from hearthkeep.core.wiring.runs import STRONG_SUN, Run, RunKind
from hearthkeep.core.wiring.sized_run import Binding, SizedDevice, SizedRun

#: Volts of an array from which it is opened at both ends, with locks. Our assumption: beyond touch-safe volts a person away from
#: the switch has to be sure of it.
BOTH_ENDS_FROM_V = 60.0
#: From a source's terminals to its device [m]. Common practice: as near as it goes, within 180 mm (7 in) at a battery.
USUAL_DEVICE_AT_M = 0.15
#: Air on a roof is so much above the shade [°C]. Common practice, no source.
ROOF_RISE_C = 10.0
USUAL_HIGH_C = 38.0
#: Usual methods of installation, metric practice: leads in free air near the bank, cables in conduit through the house.
FREE_AIR = (RunKind.LINK, RunKind.LEAD, RunKind.BANK, RunKind.INVERTER, RunKind.CONTROLLER, RunKind.SOURCE)


_EMPTY = RunSet(run="empty")


def lying_of(run: Run, design: Design, given: RunSet) -> Lying:
    """Where and how a run lies: as set, else as is usual for it; what nobody could find out counts as the least."""
    practice = design.practice
    is_metric = practice is Practice.METRIC_230
    insulation_c, terminal_c = given.insulation_c, given.terminal_c
    if RunFact.INSULATION in given.unknown:
        insulation_c = 70 if is_metric else 60
    if RunFact.TERMINALS in given.unknown:
        terminal_c = 70 if is_metric else 60
    if terminal_c is None:
        terminal_c = 70 if is_metric else 75 if run.is_dc else 60
    ambient_c = given.ambient_c
    if ambient_c is None:
        ambient_c = design.wiring.ambient_c
        if run.kind in (RunKind.STRING, RunKind.ARRAY):
            high_c = USUAL_HIGH_C if design.site.record_high_c is None else design.site.record_high_c
            ambient_c = max(ambient_c, high_c + ROOF_RISE_C)
    method = given.method or _usual_method(run, design)
    is_vehicle = method == "vehicle"
    usual_insulation_c = 90 if run.kind in (RunKind.STRING, RunKind.ARRAY) else USUAL_INSULATION_C[practice]
    return Lying(
        practice=practice,
        insulation_c=(VEHICLE_C if is_vehicle else usual_insulation_c) if insulation_c is None else insulation_c,
        terminal_c=terminal_c,
        ambient_c=ambient_c,
        bundled=given.bundled or 1,
        method=method,
    )


def _usual_method(run: Run, design: Design) -> str:
    """How a run lies where nothing is said of it."""
    if design.wiring.vehicle and run.is_dc and run.kind not in (RunKind.STRING, RunKind.ARRAY, RunKind.GROUND):
        return "vehicle"
    if design.practice is Practice.NORTH_AMERICAN:
        return "raceway"
    return "E" if run.kind in FREE_AIR else "C" if run.is_dc else "B2"


def given_of(run: Run, design: Design) -> RunSet:
    """What is set on a run. The feeder of the backed-up side is set on the transfer device, where nothing else is said."""
    given, device = design.wiring.of_run(run.key) or _EMPTY, design.transfer.device
    if run.kind is not RunKind.PANEL:
        return given
    return given.model_copy(
        update={"size": given.size or device.feeder_wire, "device_a": given.device_a or device.feeder_a}
    )


def drop_limit_frac(run: Run, design: Design) -> float:
    """Drop that a run may have, as a part of its volts."""
    wiring = design.wiring
    if run.kind in (RunKind.STRING, RunKind.ARRAY):
        return max(wiring.solar_drop_frac, run.spare_v / run.volts_v)
    if run.kind in FREE_AIR and run.kind not in (RunKind.CONTROLLER, RunKind.SOURCE):
        return wiring.bank_drop_frac
    return wiring.branch_drop_frac


def device_needed_a(run: Run, design: Design, *, full_rated: bool = False) -> float:
    """The least rating of a run's device [A]; one that is listed for 100 % needs no margin for hours on end."""
    if run.kind in (RunKind.STRING, RunKind.ARRAY):
        return string_fuse_a(run.current_a / STRONG_SUN, practice=design.practice)
    return (1.0 if full_rated else run.factor) * (run.current_a if run.device_a is None else run.device_a)


@lru_cache(maxsize=1024)
def _carrying(lying: Lying) -> tuple[tuple[Conductor, float, float], ...]:
    """The ladder where a run lies: each conductor with what it carries and the largest device that protects it [A]."""
    return tuple(
        (each, ampacity_a(each, lying), largest_device_a(each, lying))
        for each in ladder(lying.practice, is_vehicle=lying.is_vehicle)
    )


def _by_heat(lying: Lying, needed_a: float, device_a: float | None) -> Conductor | None:
    """The thinnest conductor that carries a run and is protected by the run's device; none on the ladder does for none."""
    device_least_a = 0.0 if device_a is None else device_a - 1e-9
    return next(
        (
            each
            for each, carries_a, largest_a in _carrying(lying)
            if carries_a >= needed_a - 1e-9 and largest_a >= device_least_a
        ),
        None,
    )


def _device_for_a(
    run: Run, design: Design, given: RunSet, *, fault: BankFault, upstream_ohm: float, limited_by: str
) -> float | None:
    """The rating that the conductor has to suit: as set, else as asked; none where no device sits in the run [A]."""
    if given.device_a is not None and given.device is not DeviceKind.NONE:
        return given.device_a
    if not run.needs_device or given.device is DeviceKind.NONE or RunFact.DEVICE in given.unknown:
        return None
    least_a = device_needed_a(run, design, full_rated=given.full_rated)
    if given.device is not None:
        return next_rating_a(least_a, given.device, design.practice)
    asked = asked_device(
        run,
        practice=design.practice,
        chemistry=design.bank.chemistry,
        needed_a=least_a,
        fault_a=_fault_at(run, design, fault, upstream_ohm) if run.from_bank and not limited_by else None,
    )
    return None if asked is None else asked.rating_a


def _fault_at(run: Run, design: Design, fault: BankFault, cable_ohm: float) -> float:
    """What is driven into a short behind so much cable [A]; into one in a string the others feed."""
    whole_a = fault_a(fault, cable_ohm=cable_ohm)
    strings = design.bank.parallel
    return whole_a * (strings - 1) / strings if run.kind is RunKind.LEAD and strings > 1 else whole_a


def size_run(
    run: Run,
    design: Design,
    *,
    length_m: float,
    length_from: str,
    fault: BankFault,
    upstream_ohm: float,
    limited_by: str = "",
) -> SizedRun:
    """Size a run, or judge what is set on it.

    :param upstream_ohm: the loop between the bank and the run's own source end [Ω].
    :param limited_by: a current-limiting device before it that breaks what its own cannot; empty where there is none.
    """
    given = given_of(run, design)
    lying = lying_of(run, design, given)
    limit_frac = drop_limit_frac(run, design)
    needed_a = (1.0 if given.full_rated else run.factor) * run.current_a
    if run.kind is RunKind.GROUND:
        return ground_run(run, design, given, lying, length_m=length_m, length_from=length_from)
    device_a = _device_for_a(run, design, given, fault=fault, upstream_ohm=upstream_ohm, limited_by=limited_by)
    steps = ladder(design.practice, is_vehicle=lying.is_vehicle)
    by_heat = _by_heat(lying, needed_a, device_a)
    allowed_v = limit_frac * run.volts_v
    by_drop = next(
        (
            each
            for each in steps
            if drop_v(each, length_m=length_m * run.poles / 2, current_a=run.drop_at_a) <= allowed_v + 1e-12
        ),
        None,
    )
    picked: Conductor | None = None
    if by_heat is not None and by_drop is not None:
        picked = by_heat if steps.index(by_heat) >= steps.index(by_drop) else by_drop
    elif by_heat is not None:
        # Beyond the ladder the drop cannot be held: the thickest, and a finding says so.
        picked = steps[-1]
    binding = Binding.HEAT if by_heat is not None and picked == by_heat else Binding.DROP
    size, per_pole = given.size, given.per_pole
    if RunFact.SIZE in given.unknown:
        picked, size, binding = None, None, Binding.SET
    elif size is not None:
        picked, binding = conductor_set(design.practice, size, per_pole or 1), Binding.SET
    elif per_pole is not None and picked is not None:
        picked = _for_several(steps, run, lying, needed_a, per_pole, length_m, allowed_v)
    carries_a = largest_a = next_a = None
    if given.good_for_a is not None:
        # Nothing else is known of it: neither a table nor a next size applies.
        carries_a = largest_a = next_a = given.good_for_a
    elif picked is not None:
        carries_a, largest_a, next_a = (
            ampacity_a(picked, lying),
            largest_device_a(picked, lying),
            next_size_device_a(picked, lying),
        )
        if run.kind is RunKind.PANEL and design.transfer.arrangement in CORDS:
            # Before outlets for cords there is no next size: NEC 240.4(B)(1) (from memory).
            next_a = largest_a
    loop_ohm = None if picked is None else run.poles * length_m * picked.pole_ohm_per_m
    device = _device(run, design, given, picked, fault=fault, upstream_ohm=upstream_ohm, limited_by=limited_by)
    asks = _asks_disconnects(run)
    stud_mm = given.stud_mm or usual_stud_mm(device.rating_a if device and device.rating_a else needed_a)
    fill_frac, fill_limit = conduit_fill_frac(run, design.practice, given, picked)
    return SizedRun(
        run=run,
        length_m=length_m,
        length_from=length_from,
        lying=lying,
        conductor=picked,
        size=size or (with_unit(picked.size, design.practice) if picked else None),
        by_heat=by_heat,
        by_drop=by_drop,
        binding=binding,
        needed_a=needed_a,
        ampacity_a=carries_a,
        largest_device_a=largest_a,
        next_size_a=next_a,
        ambient_factor=ambient_factor(lying.practice, lying.insulation_c, lying.ambient_c, lying.method),
        bundling_factor=bundling_factor(lying.practice, lying.bundled, lying.method),
        drop_v=None if loop_ohm is None else loop_ohm * run.drop_at_a,
        drop_limit_frac=limit_frac,
        loop_ohm=loop_ohm,
        device=device,
        disconnects=None if RunFact.DISCONNECTS in given.unknown else given.disconnects or asks,
        asks_disconnects=asks,
        opened_by=given.opened_by,
        contact_a=given.contact_a,
        has_locks=given.opened_by is OpenedBy.PLUG
        or (given.lock_off if given.lock_off is not None else asks is Disconnects.BOTH),
        asks_locks=asks is Disconnects.BOTH,
        ground_size=_ground_size(run, design, device, picked, by_heat),
        lug_mm=given.lug_mm or lug_hole_mm(stud_mm),
        stud_mm=stud_mm,
        fill_frac=fill_frac,
        fill_limit_frac=fill_limit,
        colours=given.colours or usual_colours(run, design),
        torque_nm=given.torque_nm,
        unknown=given.unknown,
        is_set=design.wiring.of_run(run.key) is not None,
        device_least_a=_device_least_a(run, design, given),
        is_full_rated=given.full_rated,
    )


def _device_least_a(run: Run, design: Design, given: RunSet) -> float:
    """What is asked of a device that is there, which may be less than what a proposal is asked [A]."""
    if run.least_factor is None or given.full_rated:
        return device_needed_a(run, design, full_rated=given.full_rated)
    return run.least_factor * run.current_a


def _for_several(
    steps: tuple[Conductor, ...],
    run: Run,
    lying: Lying,
    needed_a: float,
    per_pole: int,
    length_m: float,
    allowed_v: float,
) -> Conductor | None:
    """The thinnest size that does with so many of it side by side."""
    singles = [
        Conductor(size=each.size, per_pole=per_pole, area_mm2=each.area_mm2, ohm_per_m=each.ohm_per_m)
        for each in steps
        if each.per_pole == 1
    ]
    return next(
        (
            each
            for each in singles
            if ampacity_a(each, lying) >= needed_a - 1e-9
            and drop_v(each, length_m=length_m * run.poles / 2, current_a=run.drop_at_a) <= allowed_v + 1e-12
        ),
        singles[-1],
    )


def _device(
    run: Run,
    design: Design,
    given: RunSet,
    conductor: Conductor | None,
    *,
    fault: BankFault,
    upstream_ohm: float,
    limited_by: str,
) -> SizedDevice | None:
    if RunFact.DEVICE in given.unknown:
        return SizedDevice(
            kind=given.device or DeviceKind.NONE,
            rating_a=None,
            interrupt_a=None,
            fault_a=None,
            at_m=0.0,
            is_set=True,
            is_known=False,
        )
    if not run.needs_device and given.device is None and given.device_a is None:
        return None
    at_m = USUAL_DEVICE_AT_M if given.device_at_m is None else given.device_at_m
    meets_a: float | None = None
    if run.from_bank:
        to_device_ohm = 0.0 if conductor is None else 2.0 * at_m * conductor.pole_ohm_per_m
        meets_a = _fault_at(run, design, fault, upstream_ohm + to_device_ohm)
    asked = asked_device(
        run,
        practice=design.practice,
        chemistry=design.bank.chemistry,
        needed_a=device_needed_a(run, design, full_rated=given.full_rated),
        fault_a=_fault_at(run, design, fault, upstream_ohm) if run.from_bank and not limited_by else None,
    )
    kind = given.device or (asked.kind if asked else device_kinds(run, design.bank.chemistry)[-1])
    if kind is DeviceKind.NONE:
        return SizedDevice(kind=kind, rating_a=None, interrupt_a=None, fault_a=meets_a, at_m=at_m, is_set=True)
    rating_a = given.device_a
    if rating_a is None:
        rating_a = next_rating_a(device_needed_a(run, design, full_rated=given.full_rated), kind, design.practice)
    return SizedDevice(
        kind=kind,
        rating_a=rating_a,
        interrupt_a=given.interrupt_a or (interrupt_a(kind, run.most_v) if run.is_dc else None),
        fault_a=meets_a,
        at_m=at_m,
        is_set=given.device is not None or given.device_a is not None,
        limited_by=limited_by if run.from_bank else "",
    )


def _asks_disconnects(run: Run) -> Disconnects:
    if run.kind is RunKind.ARRAY:
        return Disconnects.BOTH if run.most_v > BOTH_ENDS_FROM_V else Disconnects.LOAD
    if run.kind in (RunKind.BANK, RunKind.INVERTER, RunKind.CONTROLLER, RunKind.GENERATOR, RunKind.GRID):
        return Disconnects.SOURCE
    return Disconnects.NONE


def _ground_size(
    run: Run, design: Design, device: SizedDevice | None, conductor: Conductor | None, by_heat: Conductor | None
) -> str | None:
    """Of alternating-current runs, which bring their own; direct-current parts are bonded by runs of their own."""
    if run.is_dc or device is None or device.rating_a is None:
        return None
    return with_unit(grounding_size(design.practice, device.rating_a, conductor, by_heat), design.practice)
