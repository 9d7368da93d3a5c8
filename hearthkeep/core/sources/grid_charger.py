"""The grid charger, which fills the bank before an outage and after it."""

from __future__ import annotations

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.sources.kind import Setting, SourceKind, whole_watts


class GridChargerKind(SourceKind):
    """The charger on the grid."""

    key, label, name = "grid_charger", "Grid charger", "a charger"

    def is_in(self, charging: Charging) -> bool:
        return charging.grid_charger.output_w > 0

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        return design.charging.grid_charger.output_w / volts.charging_v

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...]:
        limit_w = whole_watts(limit_a, charging_v)
        if charging.grid_charger.output_w <= limit_w:
            return ()
        return (Setting(path="charging.grid_charger.output_w", value=limit_w),)


GRID_CHARGER = GridChargerKind()
