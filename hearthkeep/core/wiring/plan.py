"""The wiring of a design: every run with its length, sized in the order in which faults are fed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design, DeviceKind, Kind, Load, narrowed
from hearthkeep.core.inverter import NO_CABLES, Cables
from hearthkeep.core.wiring.bank_side import Precharge, Shunt, precharge_of, shunt_of
from hearthkeep.core.wiring.board import BoardPart, board_parts, run_length_m
from hearthkeep.core.wiring.faults import BankFault, bank_fault
from hearthkeep.core.wiring.paths import Guarded, guarded_runs
from hearthkeep.core.wiring.run_list import bank_runs, branch_runs, runs_of
from hearthkeep.core.wiring.runs import Run, RunKind, bank_current_a, branch_loads, branch_w
from hearthkeep.core.wiring.sized import size_run
from hearthkeep.core.wiring.sized_run import SizedDevice, SizedRun
from hearthkeep.core.wiring.words import device_words

#: Length of a run, one way, where nothing else is known [m]: in a house, and in a cart, a van or a box. Our assumption, to be measured.
USUAL_M = {
    RunKind.STRING: (5.0, 3.0),
    RunKind.ARRAY: (15.0, 5.0),
    RunKind.CONTROLLER: (1.5, 0.8),
    RunKind.SOURCE: (3.0, 1.0),
    RunKind.LINK: (0.3, 0.2),
    RunKind.LEAD: (0.6, 0.4),
    RunKind.BANK: (1.5, 0.6),
    RunKind.INVERTER: (1.0, 0.6),
    RunKind.FEED: (1.0, 0.5),
    RunKind.BRANCH: (4.0, 1.5),
    RunKind.GRID: (8.0, 3.0),
    RunKind.GENERATOR: (10.0, 6.0),
    RunKind.COUPLED: (8.0, 8.0),
    RunKind.PANEL: (6.0, 1.0),
    RunKind.BYPASS: (8.0, 1.0),
    RunKind.GROUND: (6.0, 1.0),
}
#: Parts that stand on the board under another key.
ON_BOARD = {"bank": "battery-1-1"}


@dataclass(frozen=True, kw_only=True, slots=True)
class WiringPlan:
    """All runs sized, the board, and what stands beside the bank."""

    runs: tuple[SizedRun, ...]
    #: Each of them that carries current with what can drive a fault on it and what opens between, in the same order.
    guarded: tuple[Guarded, ...]
    parts: tuple[BoardPart, ...]
    fault: BankFault
    shunt: Shunt
    precharge: Precharge | None
    #: What is set on runs that the design no longer has, by key.
    left_over: tuple[str, ...]

    def is_bare(self, key: str) -> bool:
        """Whether a fault can be driven on a run while nothing opens in time."""
        return any(each.sized.run.key == key and each.unguarded for each in self.guarded)

    def find(self, key: str) -> SizedRun | None:
        """The run of a key."""
        return next((entry for entry in self.runs if entry.run.key == key), None)


class _Sizer:
    """Sizes runs of one design; the bank's own run first, since faults further on are fed through it."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.parts = board_parts(design)
        self.on_board = {part.key: part for part in self.parts}
        self.fault = bank_fault(design.bank)
        self.upstream_ohm = 0.0
        #: Feeds of distribution blocks, by the block's key.
        self.feeds: dict[str, SizedRun] = {}
        #: The longest way from an array, which the ground of its frames goes as well, and where that length is from.
        self.array: tuple[float, str] | None = None
        self.lead: SizedRun | None = None
        self.main: SizedRun | None = None

    def size(self, run: Run) -> SizedRun:
        length_m, length_from = self._length(run)
        upstream_ohm = 0.0 if run.kind in (RunKind.BANK, RunKind.LEAD) else self.upstream_ohm
        feed = self.feeds.get(run.start)
        if feed is not None:
            upstream_ohm += feed.loop_ohm or 0.0
        sized = size_run(
            run,
            self.design,
            length_m=length_m,
            length_from=length_from,
            fault=self.fault,
            upstream_ohm=upstream_ohm,
            limited_by=self._limited_by(run, feed),
        )
        if run.kind is RunKind.ARRAY:
            self.array = max(self.array or (0.0, ""), (length_m, length_from))
        if run.kind is RunKind.LEAD:
            self.lead = sized
        if run.kind is RunKind.BANK:
            self.main = sized
        if run.kind is RunKind.FEED:
            self.feeds[run.end] = sized
        return sized

    def _limited_by(self, run: Run, feed: SizedRun | None) -> str:
        """The current-limiting device nearest before a run that was entered, or that its block is fed by."""
        given = self.design.wiring.of_run(run.key)
        kind = None if given is None else given.device
        if feed is not None:
            return limits(feed.device, kind)
        if kind is None or run.kind is RunKind.LEAD:
            return ""
        before = self.lead if run.kind is RunKind.BANK else self.main or self.lead
        return "" if before is None else limits(before.device, kind)

    def bank_first(self, runs: tuple[Run, ...]) -> None:
        for run in runs:
            if run.kind is RunKind.BANK:
                self.upstream_ohm = self.size(run).loop_ohm or 0.0

    def _length(self, run: Run) -> tuple[float, str]:
        given = self.design.wiring.of_run(run.key)
        if given is not None and given.length_m is not None:
            return given.length_m, "set"
        if run.key == "ground-array" and self.array is not None:
            return self.array
        found = run_length_m(self.on_board, ON_BOARD.get(run.start, run.start), ON_BOARD.get(run.end, run.end))
        usual_m = USUAL_M[run.kind][0 if self.design.kind is Kind.HOME else 1]
        return (usual_m, "usual") if found is None else (found, "board")


#: A current-limiting fuse of at most so much breaks what a blade or a small bolt-down fuse behind it cannot; and of at most so much what
#: anything larger cannot [A]. Common practice, no source.
LIMITS_SMALL_A, LIMITS_A = 100.0, 400.0
SMALL = (DeviceKind.BLADE, DeviceKind.BOLT_SMALL, DeviceKind.BOLT_LARGE)


def limits(before: SizedDevice | None, kind: DeviceKind | None) -> str:
    """The device before a run that limits what reaches one of a kind in it, in words; empty where it does not."""
    most_a = LIMITS_SMALL_A if kind is None or kind in SMALL else LIMITS_A
    if before is None or before.kind is not DeviceKind.CLASS_T or before.rating_a is None or before.rating_a > most_a:
        return ""
    return device_words(before)


#: Parts that runs depend on, besides the loads on direct current; those of the sun on the coldest day of the outage as well.
_WIRED = ("kind", "practice", "site", "bank", "inverter", "charging", "transfer", "wiring")


def wiring_plan(design: Design, rating: BankRating, *, year_low_c: float | None = None) -> WiringPlan:
    """Every run of a design as it was entered, sized or judged."""
    return _plan(narrowed(design, *_WIRED, "outage", loads=branch_loads(design)), rating, year_low_c)


@lru_cache(maxsize=32)
def _plan(design: Design, rating: BankRating, year_low_c: float | None) -> WiringPlan:
    runs = runs_of(design, rating, year_low_c=year_low_c)
    sizer = _Sizer(design)
    sizer.bank_first(runs)
    known = {run.key for run in runs}
    sized = tuple(sizer.size(run) for run in runs)
    return WiringPlan(
        runs=sized,
        guarded=guarded_runs(design, sized),
        parts=sizer.parts,
        fault=sizer.fault,
        shunt=shunt_of(design, carries_a=bank_current_a(design, rating)),
        precharge=precharge_of(design, rating),
        left_over=tuple(entry.run for entry in design.wiring.runs if entry.run not in known),
    )


def cables_of(design: Design, rating: BankRating, *, branch_frac: float | None = None) -> Cables:
    """What the runs between bank and loads lose, for the outage; of a design as it was entered.

    The leads' loss grows with the square of what flows, at the bank's nominal volts; a branch's is the part of its load's power
    that it loses while the load runs. A run whose size nobody knows counts as it would be chosen. `branch_frac` is what the branches
    lose, where it is known already. Source: Ohm's law.
    """
    return _cables(narrowed(design, *_WIRED, loads=branch_loads(design)), rating, branch_frac)


@lru_cache(maxsize=256)
def _cables(design: Design, rating: BankRating, branch_frac: float | None) -> Cables:
    if design.wiring.loss_frac is not None:
        return Cables(flat_frac=design.wiring.loss_frac, branch_frac=0.0, bank_per_w=0.0, inverter_per_w=0.0)
    runs = tuple(bank_runs(design, rating))
    if not runs:
        return NO_CABLES
    sizer = _Sizer(design)
    nominal_v = rating.nominal_v
    bank_ohm, inverter_ohm, units = 0.0, 0.0, 0
    for run in runs:
        if run.kind is RunKind.BANK:
            bank_ohm = _loop_ohm(sizer.size(run))
        elif run.kind is RunKind.INVERTER:
            inverter_ohm += _loop_ohm(sizer.size(run))
            units += 1
    return Cables(
        flat_frac=0.0,
        branch_frac=_branch_frac(sizer, rating) if branch_frac is None else branch_frac,
        bank_per_w=bank_ohm / nominal_v**2,
        # Like units share the current, and each its own leads.
        inverter_per_w=inverter_ohm / units**2 / nominal_v**2 if units else 0.0,
    )


def _loop_ohm(sized: SizedRun) -> float:
    if sized.loop_ohm is not None:
        return sized.loop_ohm
    stand_in = sized.by_heat
    return 0.0 if stand_in is None else 2.0 * sized.length_m * stand_in.pole_ohm_per_m


def _branch_frac(sizer: _Sizer, rating: BankRating) -> float:
    """Lost in the branches, as a part of what their loads take, weighed by a day's energy.

    The feed of a distribution block loses as if everything on its ways ran at once.
    """
    own = {load.id: load for load in branch_loads(sizer.design)}
    loads: dict[str, tuple[Load, ...]] = {f"branch-{key}": (load,) for key, load in own.items()}
    loads |= {
        f"feed-{block.id}": tuple(own[key] for key in block.loads if key in own) for block in sizer.design.wiring.blocks
    }
    lost, used = 0.0, 0.0
    for run in branch_runs(sizer.design, rating):
        watts = sum(branch_w(load) for load in loads[run.key])
        day_wh = sum(branch_w(load) * (load.duty_frac * sum(load.on_by_hour) or 24.0) for load in loads[run.key])
        used += day_wh if run.kind is RunKind.BRANCH else 0.0
        lost += day_wh * watts / rating.nominal_v**2 * _loop_ohm(sizer.size(run))
    return lost / used if used > 0 else 0.0
