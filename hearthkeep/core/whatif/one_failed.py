"""What is left when one of several inverters fails."""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.design import Design, Tier
from hearthkeep.core.inverter import off_hours
from hearthkeep.core.inverter.fit import AC_TIERS
from hearthkeep.core.loads import table_from
from hearthkeep.core.outage import PreparedOutage, with_other_watts
from hearthkeep.core.whatif.panels import with_panels

#: Life and Keep, the first two tiers.
KEPT = 2


@dataclass(frozen=True, kw_only=True, slots=True)
class OneFailed:
    """The outage with one inverter fewer."""

    units_left: int
    #: Tiers whose loads all fit in every hour of the outage, from Life down.
    tiers_carried: tuple[str, ...]
    hours_carried_h: float
    #: Units of this size with which Life and Keep still fit one fewer.
    units_for_keep: int


def one_failed(prepared: PreparedOutage) -> OneFailed | None:
    """Simulate the outage with one unit fewer; none where there is no inverter.

    A single unit's failure leaves DC loads. The solar inputs built into an all-in-one are lost with it, in equal parts.
    """
    inverter = prepared.entered.inverter
    if inverter.rated_w == 0:
        return None
    poorer = without_one(prepared.entered)
    left = prepared.with_parts({"inverter": poorer.inverter.together, "charging": poorer.charging})
    if any(controller.built_in for controller in poorer.charging.controllers):
        left = left.with_scene(with_other_watts(left.scene, left.design, left.rating))
    # Hours in which it is switched off anyway lose nothing.
    on = ~off_hours(left.design.inverter, left.rows)
    fits = left.house.fits[on, -1, AC_TIERS].min(initial=len(Tier))
    table = table_from(left.rows)
    running_w = table.coincident_ac_w[:, :KEPT].sum(axis=1)
    starting_w = running_w + table.start_rise_w[:, :KEPT].max(axis=1)
    part = max(float(running_w.max()) / inverter.rated_w, float(starting_w.max()) / inverter.surge_w)
    # A tier without AC loads is carried as long as its DC loads are.
    return OneFailed(
        units_left=inverter.units - 1,
        tiers_carried=tuple(tier.value for index, tier in enumerate(Tier) if index < fits),
        units_for_keep=1 + max(1, math.ceil(part - 1e-9)),
        hours_carried_h=left.carried_h(left.outcome().dark_h),
    )


def without_one(design: Design) -> Design:
    """A design as it was entered with one inverter fewer, and without its part of the solar inputs built into them."""
    inverter, controllers = design.inverter, design.charging.controllers
    own = {array.id for controller in controllers if controller.built_in for array in controller.arrays}
    left = (inverter.units - 1) / inverter.units
    poorer = with_panels(design, own, left).charging
    kept = tuple(
        controller.model_copy(update={"output_a": controller.output_a * left}) if controller.built_in else controller
        for controller in poorer.controllers
    )
    fewer = {"units": inverter.units - 1} if inverter.units > 1 else {"rated_w": 0.0, "surge_w": 0.0, "idle_w": 0.0}
    return design.model_copy(
        update={
            "inverter": inverter.model_copy(update=fewer),
            "charging": poorer.model_copy(update={"controllers": kept}),
        }
    )
