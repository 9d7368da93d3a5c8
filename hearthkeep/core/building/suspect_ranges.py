"""What suspects say of readings: windows multiplied, values with play, and the bank somebody takes this one for."""

from __future__ import annotations

from hearthkeep.core.bank import cells_of
from hearthkeep.core.building.gate import Ask
from hearthkeep.core.building.suspect import Range
from hearthkeep.core.design import Bank, Chemistry

Asks = dict[str, Ask]

#: Nominal volts of a block that is called 12 V.
LFP_BLOCK_V, LEAD_BLOCK_V = 12.8, 12.0


def times(ask: Ask, low: float, high: float | None = None) -> Range:
    """A window multiplied; with two factors from the lower end by the first to the upper by the second."""
    ends = sorted((ask.window.low * low, ask.window.high * (low if high is None else high)))
    return ends[0], ends[1]


def near(value: float, play: float) -> Range:
    return value - play, value + play


def all_of(asks: Asks, low: float, high: float | None = None, *, ending: str = "") -> dict[str, Range]:
    return {key: times(ask, low, high) for key, ask in asks.items() if key.endswith(ending)}


def as_type(bank: Bank, other: Chemistry) -> Bank:
    """The bank somebody takes this one for: as many 12 V blocks of another chemistry."""
    cells_a_block = 4 if bank.chemistry is Chemistry.LFP else 6
    blocks = max(round(cells_of(bank) / cells_a_block), 1)
    nominal_v = (LFP_BLOCK_V if other is Chemistry.LFP else LEAD_BLOCK_V) * blocks
    return bank.model_copy(update={"chemistry": other, "unit": None, "unit_v": nominal_v, "series": 1})
