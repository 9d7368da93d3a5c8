"""The outage under both habits: several regulated sources together, or one at a time; and the fuel it would ask for."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.outage import PreparedOutage, Run, out_of_fuel_h, spilled_wh

#: More fuel than any outage burns [L].
ENDLESS_L = 1e6


@dataclass(frozen=True, kw_only=True, slots=True)
class Habits:
    """The outage under both habits: several regulated sources together, or one at a time."""

    together_h: float
    one_source_h: float
    together_spilled_wh: float
    one_source_spilled_wh: float
    #: Charge as the outage ends, as parts of full.
    together_end_frac: float
    one_source_end_frac: float


def habits_of(prepared: PreparedOutage, run: Run) -> Habits | None:
    """Simulate the outage under the other habit as well; none while there is at most one source to share the bank.

    `run` is the outage as it is.
    """
    charging, scene = prepared.design.charging, prepared.scene
    sources = (scene.sun.offered_w.any(), scene.steady.total_w.any(), charging.generator is not None)
    if sum(map(bool, sources)) < 2:
        return None
    swapped = prepared.with_plant(prepared.plant._replace(one_source=not charging.one_source)).run()
    together, one = (swapped, run) if charging.one_source else (run, swapped)
    capacity_wh = prepared.rating.capacity_wh
    return Habits(
        together_h=prepared.carried_h(together.dark_h),
        one_source_h=prepared.carried_h(one.dark_h),
        together_spilled_wh=spilled_wh(scene, together),
        one_source_spilled_wh=spilled_wh(scene, one),
        together_end_frac=float(together.stored_wh[-1] / capacity_wh),
        one_source_end_frac=float(one.stored_wh[-1] / capacity_wh),
    )


def fuel_asked_l(prepared: PreparedOutage, run: Run) -> float:
    """Fuel the generator would burn if the stock never ended [L]; 0 without one. `run` is the outage as it is."""
    generator = prepared.plant.generator
    if prepared.design.charging.generator is None:
        return 0.0
    was_fetched = prepared.scene.refuels.any() and out_of_fuel_h(run) is None
    if was_fetched or run.fuel_l < generator.stock_l * (1 - 1e-6):
        return float(run.fuel_l)
    endless = prepared.plant._replace(generator=generator._replace(stock_l=ENDLESS_L))
    return float(prepared.with_plant(endless).outcome().fuel_l)
