"""The design as the outage meets it: several inverters as one, and the loads the plant itself brings along."""

from __future__ import annotations

from hearthkeep.core.bank import heater_w
from hearthkeep.core.design import Design, Load, Quality, Supply, Tier, Typed

HEATER_ID = "bank-heater"


def whole(design: Design) -> Design:
    """Inverters added up, and the bank's heater among the loads; a design that is whole already stays as it is."""
    changes: dict[str, object] = {}
    if design.inverter.units > 1:
        changes["inverter"] = design.inverter.together
    warms_w = heater_w(design.bank)
    if warms_w > 0 and all(load.id != HEATER_ID for load in design.loads):
        heater = Load(
            id=HEATER_ID,
            name="Heater of the bank",
            tier=Tier.LIFE,
            running_w=warms_w,
            supply=Supply.DC,
            known=Typed(quality=Quality.MEASURED),
        )
        changes["loads"] = (*design.loads, heater)
    return design.model_copy(update=changes) if changes else design
