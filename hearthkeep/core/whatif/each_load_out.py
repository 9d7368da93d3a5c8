"""The outage without each load in turn, compiled as one loop so that a long audit costs milliseconds."""

from __future__ import annotations

import numpy as np

from hearthkeep.core.compiled import entry
from hearthkeep.core.inverter import draws_of, house_with_all, house_without, off_hours
from hearthkeep.core.loads import compiled_rows
from hearthkeep.core.outage import OUTCOME_NUMBERS, Outcome, PreparedOutage, outcome_of


def each_load_out(prepared: PreparedOutage) -> tuple[Outcome, ...]:
    """Simulate the outage once for each load, that load left out; in the order of the loads."""
    numbers = _each_load_out(
        prepared.scene.steps,
        prepared.plant,
        compiled_rows(prepared.rows),
        off_hours(prepared.design.inverter, prepared.rows),
        prepared.limits,
    )
    return tuple(Outcome(*row) for row in numbers.tolist())


@entry
def _each_load_out(steps, plant, rows, off, limits):  # type: ignore[no-untyped-def]
    count = rows.tier.shape[0]
    _, sums = house_with_all(rows, off, limits)
    numbers = np.empty((count, OUTCOME_NUMBERS))
    for index in range(count):
        house = house_without(rows, off, limits, index, sums)
        outcome = outcome_of(steps, draws_of(house), plant)
        for number in range(OUTCOME_NUMBERS):
            numbers[index, number] = outcome[number]
    return numbers
