"""The outage's own answer, before anything else is worked out: what the strip shows."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.checks import Missing, still_missing
from hearthkeep.core.design import Design
from hearthkeep.core.figure import Figure
from hearthkeep.core.outage import (
    OutageReport,
    PanelRun,
    PreparedOutage,
    Run,
    drop_levels_frac,
    hours_back_to_full,
    outage_figures,
    prepare,
    report_from,
    run_panel_loads,
)
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.transfer import Fate, fates_of


@dataclass(frozen=True, kw_only=True, slots=True)
class Levels:
    """States of charge at which tiers are dropped."""

    life_frac: float
    keep_frac: float
    ease_frac: float
    #: The bank's own floor, below which Keep is dropped whatever the policy says.
    floor_frac: float
    #: What lies between Keep's level and Life's: nothing but Life draws on it [Wh].
    life_alone_wh: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Endurance:
    """How long the house is carried, and what the strip draws of it."""

    outage: OutageReport
    levels: Levels
    #: What the bank holds when full [Wh].
    capacity_wh: float
    #: Names of the loads that are switched over and not fed.
    dead: tuple[str, ...]
    #: What has still to be entered, the next thing first.
    missing: tuple[Missing, ...]
    #: How the hours carried and the energy books come about.
    carried: Figure
    books: Figure


@dataclass(frozen=True, kw_only=True, slots=True)
class Simulated:
    """A design's outage prepared, run and reported: what the whole assessment goes on from."""

    prepared: PreparedOutage
    run: Run
    panel_loads: PanelRun
    outage: OutageReport

    @property
    def levels(self) -> Levels:
        """The charges at which tiers are dropped."""
        rating = self.prepared.rating
        life, keep, ease = drop_levels_frac(self.prepared.design, rating)
        return Levels(
            life_frac=life,
            keep_frac=keep,
            ease_frac=ease,
            floor_frac=rating.floor_soc_frac,
            life_alone_wh=(keep - life) * rating.capacity_wh,
        )

    @property
    def missing(self) -> tuple[Missing, ...]:
        """What has still to be entered, the next thing first."""
        return still_missing(self.prepared.entered, self.outage)


def simulate(design: Design, year: WeatherYear | None = None) -> Simulated:
    """Prepare a design's outage and run it once; `year` is the weather year its site names."""
    prepared = prepare(design, year)
    run = prepared.run()
    panel_loads = run_panel_loads(prepared.design, prepared.scene)
    back_h = hours_back_to_full(prepared, stored_wh=float(run.stored_wh[-1]))
    return Simulated(
        prepared=prepared,
        run=run,
        panel_loads=panel_loads,
        outage=report_from(prepared, run, panel_loads=panel_loads, hours_back_to_full=back_h),
    )


def endurance_of(simulated: Simulated) -> Endurance:
    """What the strip shows of an outage simulated."""
    prepared, outage = simulated.prepared, simulated.outage
    figures = outage_figures(outage, time_step_min=prepared.design.simulation.time_step_min)
    return Endurance(
        outage=outage,
        levels=simulated.levels,
        capacity_wh=prepared.rating.capacity_wh,
        dead=tuple(load.name for load in fates_of(prepared.entered).of(Fate.DEAD)),
        missing=simulated.missing,
        carried=figures["outage.hours_carried_h"],
        books=figures["outage.ledger"],
    )
