"""What readings say although they are inside their windows."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from hearthkeep.core.bank import rest_state
from hearthkeep.core.building.gate import Gate
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.words import percent

#: Below so much charge the bank is filled before it is loaded. Common practice, no source.
FILL_FIRST_FRAC = 0.5


@dataclass(frozen=True, kw_only=True, slots=True)
class Meaning:
    """One reading inside its window, and what it means for what comes next."""

    key: str
    words: str


def meanings_of(expected: Expected, gate: Gate, readings: Mapping[str, float]) -> Iterator[Meaning]:
    """What is worth saying of readings that are inside, given by the keys of what a gate asks."""
    for ask in gate.asks:
        if ask.key != "polarity.bank_v" or ask.key not in readings or not ask.window.holds(readings[ask.key]):
            continue
        state = rest_state(expected.design.bank, readings[ask.key])
        low, high = max(state.soc_frac - state.doubt_frac, 0.0), min(state.soc_frac + state.doubt_frac, 1.0)
        if state.soc_frac >= FILL_FIRST_FRAC:
            continue
        yield Meaning(
            key=ask.key,
            words=f"{readings[ask.key]:.2f} V at rest: {percent(low)} to {percent(high)} full. Charge the bank before the load test: under load it "
            "would cut off, and a bank that stands this low ages.",
        )
