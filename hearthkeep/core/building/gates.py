"""The gates of a design, in the order that harms nothing."""

from __future__ import annotations

from collections.abc import Iterable

from hearthkeep.core.building.dead_gates import dead_gates
from hearthkeep.core.building.gate import Gate
from hearthkeep.core.building.house_gates import house_gates, interlock_gates
from hearthkeep.core.building.last_gates import last_gates
from hearthkeep.core.building.live_gates import live_gates
from hearthkeep.core.building.proportion import in_proportion
from hearthkeep.core.building.windows import Expected


def gates_of(expected: Expected, signed: Iterable[str] = ()) -> tuple[Gate, ...]:
    """Every gate of a design as it was entered, each with what the moment lets a meter show; `signed` are the keys that have entries.

    Common practice, no source, for the order; the makers' own order goes before it where it differs.
    """
    gates = [*dead_gates(expected), *interlock_gates(expected), *live_gates(expected), *house_gates(expected)]
    gates += last_gates(expected, gates)
    return in_proportion(expected, gates, signed)
