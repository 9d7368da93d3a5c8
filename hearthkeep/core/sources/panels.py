"""The sun as a source: all arrays on their controllers together."""

from __future__ import annotations

import math

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.sources.greatest import greatest_sun_w
from hearthkeep.core.sources.kind import Setting, SourceKind


class PanelsKind(SourceKind):
    """Panels behind controllers."""

    key, label, name = "controllers", "Sun", "sun"

    def is_in(self, charging: Charging) -> bool:
        return any(controller.charges for controller in charging.controllers)

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        """The greatest that a clear day brings, all arrays together [A]."""
        return greatest_sun_w(design.site, design.charging.controllers, volts) / volts.charging_v

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...]:
        """Each controller's part of the current."""
        total_a = sum(entry.output_a for entry in charging.controllers if entry.charges)
        return tuple(
            Setting(
                path=f"charging.controllers.{at}.output_a",
                value=math.floor(1000 * entry.output_a * limit_a / total_a) / 1000,
            )
            for at, entry in enumerate(charging.controllers)
            if entry.charges
        )


PANELS = PanelsKind()
