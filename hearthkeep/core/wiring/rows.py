"""Each run as its row on the page: everything of it in words and numbers, with the working behind the numbers."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Design, Disconnects
from hearthkeep.core.figure import Figure
from hearthkeep.core.wiring.conductors import Conductor
from hearthkeep.core.wiring.faults import BankFault
from hearthkeep.core.wiring.fittings import conductors_in
from hearthkeep.core.wiring.paths import Guarded
from hearthkeep.core.wiring.plan import ON_BOARD, WiringPlan
from hearthkeep.core.wiring.run_figures import run_figures
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import Binding, SizedRun
from hearthkeep.core.wiring.words import conductor_set_words, conductor_words, device_words

#: Groups of the page, as current flows.
GROUPS = {
    RunKind.STRING: "Sun",
    RunKind.ARRAY: "Sun",
    RunKind.CONTROLLER: "Sun",
    RunKind.SOURCE: "Other sources",
    RunKind.LINK: "Bank",
    RunKind.LEAD: "Bank",
    RunKind.BANK: "Bank",
    RunKind.INVERTER: "Inverter",
    RunKind.FEED: "DC branches",
    RunKind.BRANCH: "DC branches",
    RunKind.GRID: "House side",
    RunKind.GENERATOR: "House side",
    RunKind.COUPLED: "House side",
    RunKind.PANEL: "House side",
    RunKind.BYPASS: "House side",
    RunKind.GROUND: "Ground",
}
BINDING_WORDS = {
    Binding.HEAT: "heat",
    Binding.DROP: "drop",
    Binding.SET: "as it is",
    Binding.TABLE: "table",
}
DISCONNECT_WORDS = {
    Disconnects.NONE: "none",
    Disconnects.SOURCE: "at its source",
    Disconnects.LOAD: "at its end",
    Disconnects.BOTH: "at both ends",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class RunRow:
    """One run, ready to be read."""

    key: str
    kind: RunKind
    group: str
    label: str
    start: str
    end: str
    count: int
    conductors: int
    is_dc: bool
    volts_v: float
    most_v: float
    current_a: float
    factor: float
    needed_a: float
    #: What is asked of a conductor that is there [A].
    least_a: float
    basis: str
    is_estimate: bool
    length_m: float
    #: set, board, usual.
    length_from: str
    #: Parts of the board between which its length is taken, where it is taken there.
    board_ends: tuple[str, ...]
    #: None where it is not known.
    size: str | None
    per_pole: int
    conductor: str
    binding: str
    by_heat: str
    by_drop: str
    ampacity_a: float | None
    insulation_c: int
    terminal_c: int
    ambient_c: float
    bundled: int
    method: str
    drop_v: float | None
    drop_frac: float | None
    drop_limit_frac: float
    loop_mohm: float | None
    device: str
    device_kind: str
    device_a: float | None
    interrupt_a: float | None
    fault_a: float | None
    #: The current-limiting device before it that breaks what its own cannot; empty where there is none.
    limited_by: str
    device_at_m: float
    asks_device: bool
    disconnects: str
    asks_disconnects: str
    locks: bool
    ground_size: str | None
    lug_mm: float
    stud_mm: float
    fill_frac: float | None
    fill_limit_frac: float | None
    colours: str
    torque_nm: float | None
    unknown: tuple[str, ...]
    is_set: bool
    #: By what it is guarded from every source that can drive a fault on it, and from which sources nothing guards it.
    guarded_by: str
    unguarded_from: tuple[str, ...]
    #: How its current, ampacity, drop, device and fault come about.
    figures: tuple[Figure, ...]


def run_rows(design: Design, plan: WiringPlan) -> tuple[RunRow, ...]:
    """Every run as a row, in the order in which current flows."""
    guarded = {each.sized.run.key: each for each in plan.guarded}
    return tuple(_row(design, plan.fault, sized, guarded.get(sized.run.key)) for sized in plan.runs)


def _words(conductor: Conductor | None, design: Design) -> str:
    return "none" if conductor is None else conductor_words(conductor, design.practice)


def _row(design: Design, fault: BankFault, sized: SizedRun, guarded: Guarded | None) -> RunRow:
    is_judged = guarded is not None and sized.next_size_a is not None
    run, lying, device = sized.run, sized.lying, sized.device
    return RunRow(
        key=run.key,
        kind=run.kind,
        group=GROUPS[run.kind],
        label=run.label,
        start=run.start,
        end=run.end,
        count=run.count,
        conductors=run.poles if run.poles == 1 else conductors_in(run) if not run.is_dc else 2,
        is_dc=run.is_dc,
        volts_v=run.volts_v,
        most_v=run.most_v,
        current_a=run.current_a,
        factor=run.factor,
        needed_a=sized.needed_a,
        least_a=sized.least_a,
        basis=run.basis,
        is_estimate=run.is_estimate,
        length_m=sized.length_m,
        length_from=sized.length_from,
        board_ends=tuple(ON_BOARD.get(end, end) for end in (run.start, run.end))
        if sized.length_from == "board"
        else (),
        size=sized.size,
        per_pole=sized.conductor.per_pole if sized.conductor else 1,
        conductor=conductor_set_words(sized, design.practice),
        binding=BINDING_WORDS[sized.binding],
        by_heat=_words(sized.by_heat, design),
        by_drop=_words(sized.by_drop, design),
        ampacity_a=sized.ampacity_a,
        insulation_c=lying.insulation_c,
        terminal_c=lying.terminal_c,
        ambient_c=lying.ambient_c,
        bundled=lying.bundled,
        method=lying.method,
        drop_v=sized.drop_v,
        drop_frac=sized.drop_frac,
        drop_limit_frac=sized.drop_limit_frac,
        loop_mohm=None if sized.loop_ohm is None else 1000.0 * sized.loop_ohm,
        device=device_words(device),
        device_kind=device.kind.value if device else "",
        device_a=device.rating_a if device else None,
        interrupt_a=device.interrupt_a if device else None,
        fault_a=device.fault_a if device else None,
        limited_by=device.limited_by if device else "",
        device_at_m=device.at_m if device else 0.0,
        asks_device=run.needs_device,
        disconnects="not known" if sized.disconnects is None else DISCONNECT_WORDS[sized.disconnects],
        asks_disconnects=DISCONNECT_WORDS[sized.asks_disconnects],
        locks=sized.has_locks,
        ground_size=sized.ground_size,
        lug_mm=sized.lug_mm,
        stud_mm=sized.stud_mm,
        fill_frac=sized.fill_frac,
        fill_limit_frac=sized.fill_limit_frac,
        colours=sized.colours,
        torque_nm=sized.torque_nm,
        unknown=tuple(fact.value for fact in sized.unknown),
        is_set=sized.is_set,
        guarded_by=guarded.words if guarded is not None and is_judged else "",
        unguarded_from=tuple(feed.source for feed in guarded.unguarded) if guarded is not None and is_judged else (),
        figures=tuple(run_figures(sized, fault)),
    )
