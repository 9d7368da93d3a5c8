"""Making it last: which loads to leave off in which hours, so that Life and then Keep are carried to the end.

A schedule switches cells off: one load, or loads that are linked, in one hour of the day, on every day of the outage. Life is
never switched off. Of two schedules that carry the house the one that gives up less of Keep is better, then less of Ease.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import merge_spans
from hearthkeep.core.inverter import house_watts
from hearthkeep.core.loads import HOURS, TIERS, LoadRows, lived_tier, rows_from
from hearthkeep.core.outage import Outcome, PreparedOutage, Run

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
_KEEP, _EASE = 1, 2
#: A cell that saves less than this before the house goes dark does not help [Wh].
_HELPS_WH = 1e-6
#: Outages lived in the search, about, each a fraction of a millisecond; how many searches that may be; and how much the order of
#: each is shaken, as a part of what a cell is worth. The seed is fixed, so that a design always has the same plan.
_TRIES, _FEWEST_SEARCHES, _MOST_SEARCHES, _SHAKEN, _SEED = 5000, 1, 60, 0.15, 14


@dataclass(frozen=True, slots=True)
class Cell:
    """What is switched off together: some loads, in one hour of the day, or in all hours where they wait for the sun."""

    loads: tuple[int, ...]
    hour: int | None
    tier: int


class Rationing:
    """One outage and every schedule of its loads."""

    def __init__(self, prepared: PreparedOutage) -> None:
        self.prepared = prepared
        design, scene = prepared.design, prepared.scene
        self._on = prepared.rows
        never = tuple(load.model_copy(update={"hours": ()}) for load in design.loads)
        self._off: LoadRows = rows_from(never, scene.kinds)
        self.cells = _cells(prepared)
        steps_h = np.bincount(scene.row, weights=scene.clock.length_h, minlength=self._on.average_w.shape[1])
        asked, drawn = self._watts()
        #: What each cell gives up over the whole outage [Wh], and in which tier it lives, (cells,).
        self.cost_wh: Floats = asked @ steps_h
        self.tier = np.array([cell.tier for cell in self.cells], dtype=np.int64)
        self._drawn_w = drawn

    def _watts(self) -> tuple[Floats, Floats]:
        """Watts of each cell by hour of each kind of day: as asked by loads, and as drawn from the bank, (cells, hours)."""
        more_w = self._on.average_w - self._off.average_w
        per_watt = np.where(self._on.is_ac, self.prepared.limits.bus_w_per_ac_w, 1.0 + self._on.converter_loss)
        asked, drawn = (np.zeros((len(self.cells), more_w.shape[1])) for _ in range(2))
        hour_of_row = np.arange(more_w.shape[1]) % HOURS
        for at, cell in enumerate(self.cells):
            here = np.ones_like(hour_of_row, dtype=bool) if cell.hour is None else hour_of_row == cell.hour
            for load in cell.loads:
                asked[at, here] += more_w[load, here]
                drawn[at, here] += more_w[load, here] * per_watt[load]
        return asked, drawn

    # --- schedules; each is (cells,), whether a cell is switched off

    def given_up_wh(self, off: Bools, run: Run) -> tuple[float, float]:
        """What a schedule gives up of Keep and of Ease, what is dropped under it in `run` besides included [Wh]."""
        keep, ease = (
            float(self.cost_wh[off & (self.tier == tier)].sum() + run.unserved_wh[tier]) for tier in (_KEEP, _EASE)
        )
        return keep, ease

    def tried(self, off: Bools) -> Outcome:
        """The outage under a schedule, in a few numbers."""
        return self.outage(off).outcome()

    def lived(self, off: Bools) -> Run:
        """The outage under a schedule, recorded."""
        return self.outage(off).run()

    def rows(self, off: Bools) -> LoadRows:
        """The loads under a schedule."""
        names = ("average_w", "coincident_w", "start_rise_w")
        rows, left = [getattr(self._on, name).copy() for name in names], [getattr(self._off, name) for name in names]
        for at in np.flatnonzero(off):
            cell = self.cells[at]
            hours = slice(None) if cell.hour is None else slice(cell.hour, None, HOURS)
            for load in cell.loads:
                for now, then in zip(rows, left, strict=True):
                    now[load, hours] = then[load, hours]
        return replace(self._on, **dict(zip(names, rows, strict=True)))

    def outage(self, off: Bools) -> PreparedOutage:
        """The outage under a schedule."""
        house = house_watts(self.rows(off), self.prepared.design.inverter, self.prepared.limits)
        return self.prepared.with_house(house)

    def least(self) -> Bools | None:
        """
        The schedule that carries Life and Keep to the end and gives up least; none where no schedule carries them.

        The best of several searches: one that switches off what helps most until the house is carried, and some that begin
        with everything off; each then switches on again whatever may be, the dearest first, in an order shaken a little.
        """
        helpful, everything = self._by_what_helps(), np.ones(len(self.cells), dtype=bool)
        if self.tried(helpful).dark_h >= 0:
            return None
        if not helpful.any():
            return helpful
        shaken = np.random.default_rng(_SEED)
        searches = max(_FEWEST_SEARCHES, min(_MOST_SEARCHES, _TRIES // max(len(self.cells), 1)))
        found = [self._without_needless(helpful, self.cost_wh)]
        # An inverter that sleeps while little runs may leave Keep unserved with everything else off.
        for search in range(searches if self.tried(everything).dark_h < 0 else 0):
            size = 0.0 if search == 0 else _SHAKEN * (search % 4 + 1)
            worth_wh = self.cost_wh * np.exp(size * shaken.standard_normal(self.cost_wh.shape))
            found.append(self._without_needless(everything, worth_wh))
        return min(found, key=lambda off: self.given_up_wh(off, self.lived(off)))

    def _by_what_helps(self) -> Bools:
        """Switch off, one by one, the cell that saves most for what it gives up, until the house is carried."""
        off = np.zeros(len(self.cells), dtype=bool)
        run = self.lived(off)
        while run.dark_h >= 0:
            cell = self._best(np.where(off, 0.0, self._drawn_w @ self._before_dark_h(run)))
            if cell is None:
                # What is left does not help where it counts: all of it does.
                return np.ones_like(off)
            off[cell] = True
            run = self.lived(off)
        return off

    def _before_dark_h(self, run: Run) -> Floats:
        """How long each hour of each kind of day lasts between the last full bank and the first dark moment, (hours,) [h].

        Where what goes dark does not fit the inverter, only the hour of that moment counts.
        """
        scene, capacity_wh = self.prepared.scene, self.prepared.plant.acceptance.capacity_wh
        last = int(np.searchsorted(scene.clock.edges_h, run.dark_h, side="right")) - 1
        last = min(max(last, 0), scene.row.shape[0] - 1)
        length_h = np.zeros_like(scene.clock.length_h)
        if run.dark_cause:
            length_h[last] = scene.clock.length_h[last]
        else:
            full = np.flatnonzero(run.stored_wh[: last + 1] >= capacity_wh - self.prepared.plant.acceptance.tiny_wh)
            first = int(full[-1]) if full.shape[0] else 0
            length_h[first : last + 1] = scene.clock.length_h[first : last + 1]
        return np.asarray(
            np.bincount(scene.row, weights=length_h, minlength=self._on.average_w.shape[1]), dtype=np.float64
        )

    def _best(self, helps_wh: Floats) -> int | None:
        """The cell that saves most for what it gives up, of Ease while any there helps; none where nothing helps."""
        for tier in (_EASE, _KEEP):
            usable = (self.tier == tier) & (helps_wh > _HELPS_WH)
            if usable.any():
                part = np.where(usable, helps_wh / np.maximum(self.cost_wh, 1e-9), -1.0)
                ties = np.flatnonzero(part >= part.max() - 1e-9)
                return int(ties[np.argmax(helps_wh[ties])])
        return None

    def _without_needless(self, off: Bools, worth_wh: Floats) -> Bools:
        """The schedule with every cell switched on again that may be: Keep before Ease, and what is worth most first."""
        kept = off.copy()
        order = np.lexsort((-worth_wh, self.tier))
        for at in order[off[order]]:
            kept[at] = False
            if self.tried(kept).dark_h >= 0:
                kept[at] = True
        return kept

    def hours_of(self, load: int, off: Bools) -> tuple[tuple[int, int], ...]:
        """What is left of a load's painted hours under a schedule."""
        given_up = {cell.hour for cell, is_off in zip(self.cells, off, strict=True) if is_off and load in cell.loads}
        painted = self.prepared.design.loads[load].on_by_hour
        if None in given_up:
            return ()
        return merge_spans(tuple((hour, hour + 1) for hour in range(HOURS) if painted[hour] and hour not in given_up))


def _cells(prepared: PreparedOutage) -> tuple[Cell, ...]:
    """Every cell of Keep and Ease in which something would run."""
    loads, rows = prepared.design.loads, prepared.rows
    lives = lived_tier(rows)
    groups: dict[int, list[int]] = {}
    for at in range(len(loads)):
        link = int(rows.link[at])
        groups.setdefault(-1 - at if link < 0 else link, []).append(at)
    cells = []
    for members in groups.values():
        tier = int(lives[members[0]])
        if tier not in (_KEEP, _EASE):
            continue
        if any(loads[at].flexible_h is not None for at in members):
            cells.append(Cell(tuple(members), None, tier))
            continue
        for hour in range(HOURS):
            here = tuple(at for at in members if loads[at].on_by_hour[hour])
            if here and rows.average_w[list(here), hour::HOURS].any():
                cells.append(Cell(here, hour, tier))
    return tuple(cells)


@dataclass(frozen=True, kw_only=True, slots=True)
class RationedLoad:
    """A load that a plan leaves off in some hours."""

    load_id: str
    name: str
    tier: str
    #: Painted hours today and under the plan, as [from, to) pairs.
    hours_now: tuple[tuple[int, int], ...]
    hours_then: tuple[tuple[int, int], ...]
    #: Where its hours stand in the design.
    path: str
    #: Given up over the whole outage [Wh].
    given_up_wh: float


@dataclass(frozen=True, kw_only=True, slots=True)
class RationPlan:
    """How the loads are made to last."""

    duration_h: float
    carried_now_h: float
    carried_then_h: float
    #: The plan carries Life and Keep to the end.
    is_carried: bool
    loads: tuple[RationedLoad, ...]
    given_up_keep_wh: float
    given_up_ease_wh: float
    #: Where nothing carries them, with everything but Life left off: what Life asks and does not get, all together, and at most
    #: at a time.
    missing_wh: float
    missing_w: float


def ration(prepared: PreparedOutage) -> RationPlan:
    """Find the schedule that makes it last; where none does, everything but Life is left off and what is missing is said."""
    rationing = Rationing(prepared)
    now = prepared.carried_h(prepared.outcome().dark_h)
    found = rationing.least()
    off = np.ones(len(rationing.cells), dtype=bool) if found is None else found
    run = rationing.lived(off)
    life_short_w = _life_short_w(rationing, off, run)
    keep_wh, ease_wh = rationing.given_up_wh(off, run)
    return RationPlan(
        duration_h=prepared.duration_h,
        carried_now_h=now,
        carried_then_h=prepared.carried_h(run.dark_h),
        is_carried=found is not None,
        loads=_told(rationing, off),
        given_up_keep_wh=keep_wh,
        given_up_ease_wh=ease_wh,
        missing_wh=float(run.unserved_wh[0]),
        missing_w=float(life_short_w.max(initial=0.0)),
    )


def _life_short_w(rationing: Rationing, off: Bools, run: Run) -> Floats:
    """What Life asks and does not get, by step [W]."""
    asked_w = rationing.outage(off).draws.asked_w[rationing.prepared.scene.row, 0]
    short: Floats = np.maximum(asked_w - run.served_w[:, 0], 0.0)
    return short


def _told(rationing: Rationing, off: Bools) -> tuple[RationedLoad, ...]:
    prepared = rationing.prepared
    lives: Sequence[int] = lived_tier(prepared.rows).tolist()
    places = {load.id: at for at, load in enumerate(prepared.entered.loads)}
    steps_h = np.bincount(
        prepared.scene.row, weights=prepared.scene.clock.length_h, minlength=prepared.rows.average_w.shape[1]
    )
    changed_w = prepared.rows.average_w - rationing.rows(off).average_w
    told = []
    for at, load in enumerate(prepared.design.loads):
        hours = rationing.hours_of(at, off)
        if load.id in places and hours != load.hours:
            told.append(
                RationedLoad(
                    load_id=load.id,
                    name=load.name,
                    tier=TIERS[lives[at]].value,
                    hours_now=load.hours,
                    hours_then=hours,
                    path=f"loads.{places[load.id]}.hours",
                    given_up_wh=float(changed_w[at] @ steps_h),
                )
            )
    return tuple(sorted(told, key=lambda row: -row.given_up_wh))
