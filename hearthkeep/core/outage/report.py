"""What one run of the outage comes to: hours carried, tiers, ledger, series."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from hearthkeep.core.loads import TIERS
from hearthkeep.core.outage.change_over import change_over
from hearthkeep.core.outage.events import CAUSES, Event, EventKind, events_of, moment_h, out_of_fuel_h
from hearthkeep.core.outage.kernel import Run, values
from hearthkeep.core.outage.panel_loads import PanelRun
from hearthkeep.core.outage.prepared import PreparedOutage
from hearthkeep.core.outage.scene import RECOVERY_H, grid_held_w, started_by_hand
from hearthkeep.core.transfer import is_coupled


@dataclass(frozen=True, kw_only=True, slots=True)
class Ledger:
    """Where the energy came from and went [Wh]. The first five sum to the last six."""

    sun: float
    generator: float
    #: What its charger gave while it was back within the outage.
    grid: float
    other: float
    #: Stored energy at the start less that at the end.
    bank_drawn: float
    served: float
    inverter_loss: float
    #: Charge, discharge, Peukert and charger losses.
    charge_loss: float
    wiring_loss: float
    #: Could not be used.
    spilled: float
    #: Sources less uses: what the books fail to close by.
    difference: float


@dataclass(frozen=True, kw_only=True, slots=True)
class TierReport:
    """How one tier fared."""

    served_wh: float
    unserved_wh: float
    unserved_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Series:
    """What the strip draws; the arrays over steps are one shorter than the edges."""

    #: Step edges, hours from the start [h].
    time_h: tuple[float, ...]
    #: Energy in the bank at the edges [Wh].
    stored_wh: tuple[float, ...]
    #: Sun at the direct-current bus before any is spilled [W].
    sun_w: tuple[float, ...]
    #: Power the generator gives at its terminals [W].
    generator_w: tuple[float, ...]
    #: Alternator, wind and bench charger at the direct-current bus [W].
    other_w: tuple[float, ...]
    #: Power of the loads served [W].
    served_w: tuple[float, ...]
    #: Power of the loads that asked and were not served, Spare left out [W].
    unserved_w: tuple[float, ...]
    spilled_w: tuple[float, ...]
    #: Nights as [from, to] in hours from the start [h].
    nights_h: tuple[tuple[float, float], ...]
    #: When the grid is back, in the same way.
    grid_h: tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class CoupledSums:
    """An AC-coupled array in the outage, at its own terminals [Wh]."""

    offered_wh: float
    to_loads_wh: float
    to_bank_wh: float
    held_back_wh: float


@dataclass(frozen=True, kw_only=True, slots=True)
class OutageReport:
    """The outage, simulated hour by hour."""

    #: From the start until Life or Keep first asked and was not served, or the outage's end [h].
    hours_carried_h: float
    duration_h: float
    #: For how long of that the grid is back [h].
    grid_back_h: float
    carried_to_the_end: bool
    #: Whether anything of Life or Keep asks at all in it.
    is_asked: bool
    #: By tier: life, keep, ease, spare.
    per_tier: dict[str, TierReport]
    ledger_wh: Ledger
    min_soc_frac: float
    min_soc_time_h: float
    end_soc_frac: float
    #: From the grid's return until full; none when longer than is followed [h].
    hours_back_to_full_h: float | None
    #: For how long the refill is followed [h].
    refill_followed_h: float
    #: Fuel the generator burnt [L], for how long it ran [h], and how often it started.
    fuel_l: float
    generator_h: float
    generator_starts: int
    #: How often the stock was filled up in it.
    fuel_fetches: int
    #: When the fuel on hand, or the tank with nobody to fill it, first ran dry [h]; none where neither did.
    out_of_fuel_h: float | None
    tank_empty_h: float | None
    #: When Life or Keep first stood back from a running generator that could not carry it [h]; none for never.
    generator_darkens_h: float | None
    #: Why Life or Keep went dark while the bank had charge: rating, surge, bank_current, switched_off; none where the charge
    #: ended, or nothing went dark.
    dark_cause: str | None
    events: tuple[Event, ...]
    #: Events that happened beyond those listed.
    events_left_out: int
    #: Of a grid-tied array kept alive by the inverter, at its own terminals [Wh]: offered, taken by the loads straight, passed
    #: into the inverter for the bank; none without one. The rest was held back.
    coupled: CoupledSums | None
    #: Time for which the model found no steady state and left everything off [h]; 0 unless it fails.
    unsettled_h: float
    series: Series
    start: str


def report_from(
    prepared: PreparedOutage, run: Run, *, panel_loads: PanelRun, hours_back_to_full: float | None
) -> OutageReport:
    """Give the kernel's run its names, and add what ran straight from panels.

    Hours carried and what is unserved leave those loads out: to run with the sun alone is their nature.
    """
    length_h, capacity_wh = prepared.scene.clock.length_h, prepared.rating.capacity_wh
    served_wh = ((run.served_w + panel_loads.served_w) * length_h[:, None]).sum(axis=0)
    return OutageReport(
        hours_carried_h=prepared.carried_h(run.dark_h),
        duration_h=prepared.duration_h,
        grid_back_h=float(length_h[prepared.scene.on_grid].sum()),
        carried_to_the_end=bool(run.dark_h < 0),
        is_asked=bool((prepared.draws.asked_w[np.unique(prepared.scene.row), :2] > 0.0).any()),
        per_tier={
            tier.value: TierReport(
                served_wh=float(served_wh[index]),
                unserved_wh=float(run.unserved_wh[index]),
                unserved_h=float(run.unserved_h[index]),
            )
            for index, tier in enumerate(TIERS)
        },
        ledger_wh=_ledger(prepared, run, panel_loads),
        min_soc_frac=float(run.lowest_wh / capacity_wh),
        min_soc_time_h=float(run.lowest_h),
        end_soc_frac=float(run.stored_wh[-1] / capacity_wh),
        hours_back_to_full_h=hours_back_to_full,
        refill_followed_h=RECOVERY_H,
        fuel_l=float(run.fuel_l),
        generator_h=float(run.generator_h),
        generator_starts=int(run.kind_counts[values.GENERATOR_ON]),
        fuel_fetches=int(run.kind_counts[values.FUEL_FETCHED]),
        out_of_fuel_h=out_of_fuel_h(run),
        tank_empty_h=moment_h(run.cause_h[values.STOP_TANK]),
        generator_darkens_h=moment_h(run.darkened_h),
        dark_cause=CAUSES[int(run.dark_cause)] if run.dark_cause > 0 else None,
        events=(*change_over(prepared), *map(partial(_with_reason, prepared), events_of(run))),
        events_left_out=int(run.kind_counts[values.EVENT_KINDS]) - run.event_count,
        coupled=_coupled(prepared, run),
        unsettled_h=float(run.unsettled_h),
        series=_series(prepared, run, panel_loads),
        start=prepared.design.outage.start.isoformat(),
    )


def _with_reason(prepared: PreparedOutage, event: Event) -> Event:
    """A stop for which the model knows no more than that the generator has to rest, with the reason."""
    if event.kind is not EventKind.GENERATOR_OFF or event.cause != CAUSES[values.STOP_QUIET]:
        return event
    scene = prepared.scene
    step = min(int(np.searchsorted(scene.clock.edges_h, event.time_h + 1e-9)) - 1, scene.on_grid.shape[0] - 1)
    if scene.on_grid[step]:
        return replace(event, cause="grid_back")
    if started_by_hand(prepared.design) and not scene.attended[step]:
        return replace(event, cause="nobody_there")
    return event


def _coupled(prepared: PreparedOutage, run: Run) -> CoupledSums | None:
    if not is_coupled(prepared.design):
        return None
    offered_wh = float((prepared.scene.coupled.offered_w * prepared.scene.clock.length_h).sum())
    to_loads_wh = float(run.totals_wh[values.COUPLED_SERVED])
    to_bank_wh = float(run.totals_wh[values.COUPLED_STORED])
    return CoupledSums(
        offered_wh=offered_wh,
        to_loads_wh=to_loads_wh,
        to_bank_wh=to_bank_wh,
        held_back_wh=offered_wh - to_loads_wh - to_bank_wh,
    )


def _ledger(prepared: PreparedOutage, run: Run, panel_loads: PanelRun) -> Ledger:
    """The energy books of the run, with what ran straight from panels on both sides."""
    totals, scene, length_h = run.totals_wh, prepared.scene, prepared.scene.clock.length_h
    held_wh = float((grid_held_w(scene, run) * length_h).sum())
    grid_wh = float(scene.grid_w * length_h[scene.on_grid].sum()) - held_wh
    other_wh = float((scene.steady.total_w * length_h).sum())
    on_panels_wh = float((panel_loads.offered_w * length_h).sum())
    by_panels_wh = float((panel_loads.served_w * length_h[:, None]).sum())
    sun = totals[values.SUN] + on_panels_wh
    served = totals[values.SERVED] + by_panels_wh
    spilled = totals[values.CLIPPED] + totals[values.UNUSED] - held_wh + on_panels_wh - by_panels_wh
    drawn = run.stored_wh[0] - run.stored_wh[-1]
    losses = totals[values.INVERTER_LOSS] + totals[values.CHARGE_LOSS] + totals[values.WIRING_LOSS]
    return Ledger(
        sun=float(sun),
        generator=float(totals[values.GENERATOR]),
        grid=grid_wh,
        other=other_wh,
        bank_drawn=float(drawn),
        served=float(served),
        inverter_loss=float(totals[values.INVERTER_LOSS]),
        charge_loss=float(totals[values.CHARGE_LOSS]),
        wiring_loss=float(totals[values.WIRING_LOSS]),
        spilled=float(spilled),
        difference=float(
            sun + totals[values.GENERATOR] + totals[values.OTHER] - held_wh + drawn - served - losses - spilled
        ),
    )


def _series(prepared: PreparedOutage, run: Run, panel_loads: PanelRun) -> Series:
    """What the strip draws."""
    scene, house = prepared.scene, prepared.house
    asked_w = (house.ac_w + house.dc_w)[scene.row]
    served_w = run.served_w + panel_loads.served_w
    on_bank = slice(0, values.BANK_TIERS)
    return Series(
        time_h=_rounded(scene.clock.edges_h, 6),
        stored_wh=_rounded(run.stored_wh, 1),
        sun_w=_rounded(scene.sun.offered_w + scene.coupled.offered_w + panel_loads.offered_w, 1),
        generator_w=_rounded(run.generator_w, 1),
        other_w=_rounded(scene.steady.total_w, 1),
        served_w=_rounded(served_w.sum(axis=1), 1),
        unserved_w=_rounded((asked_w - run.served_w)[:, on_bank].sum(axis=1), 1),
        spilled_w=_rounded(
            run.spilled_w - grid_held_w(scene, run) + panel_loads.offered_w - panel_loads.served_w.sum(axis=1), 1
        ),
        nights_h=scene.clock.spans_h(~scene.daylight),
        grid_h=scene.clock.spans_h(scene.on_grid),
    )


def _rounded(values: np.ndarray, digits: int) -> tuple[float, ...]:
    """For drawing; adding zero keeps a rounded negative zero from being printed."""
    return tuple((np.round(values, digits) + 0.0).tolist())
