"""The change-over at the outage's first moment: what starts anew together, and which tier's start the inverter does not hold."""

from __future__ import annotations

import numpy as np

from hearthkeep.core.loads import TIERS, lived_tier
from hearthkeep.core.outage.events import Event, EventKind
from hearthkeep.core.outage.prepared import PreparedOutage
from hearthkeep.core.transfer import gap_s, start_together


def change_over(prepared: PreparedOutage) -> tuple[Event, ...]:
    """The events of the change-over; none where an arrangement has no gap, or none is chosen.

    Where all that does not ride through starts at once and that is more than the inverter's surge, the lowest tiers wait for those
    above to have started: an overload at the first moment, over before any energy of theirs counts.
    """
    if not gap_s(prepared.design):
        return ()
    switched = Event(time_h=0.0, kind=EventKind.SWITCHED_OVER, tier=None, cause=None)
    tier = _first_that_waits(prepared)
    if tier is None:
        return (switched,)
    waits = Event(time_h=0.0, kind=EventKind.OVERLOADED, tier=TIERS[tier].value, cause="surge")
    return (switched, waits)


def _first_that_waits(prepared: PreparedOutage) -> int | None:
    """Index of the first tier whose start, with all above it, is beyond the surge at the first moment; none for none."""
    design, rows = prepared.design, prepared.rows
    together = start_together(design)
    if not together or design.inverter.rated_w <= 0:
        return None
    hour = int(prepared.scene.row[0])
    units = np.array([load.quantity if load.id in together else 0 for load in design.loads], dtype=np.float64)
    running_w = np.where(rows.is_ac, rows.coincident_w[:, hour], 0.0)
    rise_w = np.where(rows.is_ac, units * rows.start_rise_w[:, hour], 0.0)
    lives = lived_tier(rows)
    for tier in range(len(TIERS)):
        here = lives <= tier
        if (
            running_w[here].sum() + rise_w[here].sum() > design.inverter.surge_w + 1e-9
            and rise_w[lives == tier].sum() > 0
        ):
            return tier
    return None
