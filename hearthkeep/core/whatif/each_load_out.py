"""The outage without each load in turn, compiled as one loop so that a long audit costs milliseconds."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from hearthkeep.core.compiled import entry
from hearthkeep.core.inverter import draws_of, house_with_all, house_without, off_hours
from hearthkeep.core.loads import compiled_rows
from hearthkeep.core.outage import OUTCOME_NUMBERS, Outcome, PreparedOutage, outcome_of


def each_load_out(prepared: PreparedOutage, which: Sequence[int]) -> tuple[Outcome, ...]:
    """Simulate the outage once for each of some loads, by their place, that load left out."""
    numbers = _each_load_out(
        prepared.scene.steps,
        prepared.plant,
        compiled_rows(prepared.rows),
        off_hours(prepared.design.inverter, prepared.rows),
        prepared.limits,
        np.asarray(which, dtype=np.int64),
    )
    return tuple(Outcome(*row) for row in numbers.tolist())


@entry
def _each_load_out(steps, plant, rows, off, limits, which):  # type: ignore[no-untyped-def]
    count = which.shape[0]
    _, sums = house_with_all(rows, off, limits)
    numbers = np.empty((count, OUTCOME_NUMBERS))
    for at in range(count):
        house = house_without(rows, off, limits, which[at], sums)
        outcome = outcome_of(steps, draws_of(house), plant)
        for number in range(OUTCOME_NUMBERS):
            numbers[at, number] = outcome[number]
    return numbers
