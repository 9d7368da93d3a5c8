"""Suspects of the bank, read whole and block by block. How often each is met is common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import cells_of, rest_state
from hearthkeep.core.building.dead_gates import block_key
from hearthkeep.core.building.suspect import Suspect
from hearthkeep.core.building.suspect_ranges import Asks, all_of, as_type, near, times
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Chemistry


def bank_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    """Of the whole bank, read before anything is closed or on a controller's display."""
    bank = expected.design.bank
    yield Suspect(
        key="reversed_polarity", title="Plus and minus exchanged", prior=0.3, says=all_of(asks, -1),
        next="Follow the conductor from the post marked + by hand, then measure again at the post itself.",
    )  # fmt: skip
    yield Suspect(
        key="low_charge", title="Less charged than was said", prior=0.3,
        says={key: near(expected.rest_v(0.1), expected.rest_v(0.5) - expected.rest_v(0.0)) for key in asks},
        next="Charge it with a bench charger and read again after some hours of rest.",
    )  # fmt: skip
    for other in (Chemistry.LFP, Chemistry.FLOODED, Chemistry.AGM):
        if other is bank.chemistry or (other is not Chemistry.LFP and bank.chemistry is not Chemistry.LFP):
            continue
        table = rest_state(as_type(bank, other), 0.0).table
        yield Suspect(
            key="wrong_battery", title="Batteries of another type than the design's", prior=0.12,
            says={key: (table[len(table) // 3][1], table[-1][1]) for key in asks},
            next="Read the type on every block's label; set the chargers for what is there, and put it into the design.",
        )  # fmt: skip
    for missing in (1, -1):
        series = bank.series - missing
        if series >= 1:
            factor = series / bank.series
            yield Suspect(
                key="series_count", title=f"{series} blocks in series where the design has {bank.series}", prior=0.08,
                says=all_of(asks, factor), next="Count the links from one end post to the other.",
            )  # fmt: skip
    cells = cells_of(bank)
    yield Suspect(
        key="dead_cell", title="One cell shorted", prior=0.08, says=all_of(asks, (cells - 1) / cells),
        next="Measure block by block; the bad one is lower by a cell's volts and sinks first under load.",
    )  # fmt: skip
    yield Suspect(
        key="board_open", title="A protection board that has opened, or an open fuse", prior=0.1 if bank.chemistry is Chemistry.LFP else 0.05,
        says=dict.fromkeys(asks, (0.0, 0.5 * expected.blocks)),
        next="Wake the board with a charger of the right volts; measure on both sides of the fuse.",
    )  # fmt: skip
    yield Suspect(
        key="meter_range", title="Meter on the wrong range or with a flat battery", prior=0.06,
        says=dict.fromkeys(asks, (-0.01, 0.01)), next="Try the meter on a battery whose volts you know.",
    )  # fmt: skip


def block_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    bank = expected.design.bank
    unit_cells = max(cells_of(bank) // bank.series, 1)
    span = expected.rest_v(0.5) - expected.rest_v(0.0)
    for string in range(1, bank.parallel + 1):
        for block in range(bank.series + 1):
            key = block_key(string, block)
            if key not in asks:
                continue
            ask = asks[key]
            name = ask.label[0].lower() + ask.label[1:]
            cells = unit_cells if block else cells_of(bank)
            each = len(asks)
            yield Suspect(
                key=f"reversed.{key}", title=f"Probes or posts exchanged on {name}", prior=0.3 / each, says={key: times(ask, -1)},
                next="Look for the post's own mark, not the cable's colour.",
            )  # fmt: skip
            yield Suspect(
                key=f"low.{key}", title=f"{ask.label} is less charged than the others", prior=0.4 / each,
                says={key: (ask.window.low - span / max(bank.series if block else 1, 1), ask.window.low)},
                next="Charge it alone to full and let it rest; if it falls back, it is worn.",
            )  # fmt: skip
            yield Suspect(
                key=f"dead_cell.{key}", title=f"A shorted cell in {name}", prior=0.2 / each, says={key: times(ask, (cells - 1) / cells)},
                next="Load it for a minute with a lamp: a shorted cell sinks at once. Replace the block.",
            )  # fmt: skip
            yield Suspect(
                key=f"open.{key}", title=f"Board open, or a broken link, in {name}", prior=0.15 / each, says={key: (-0.05, 0.5)},
                next="Wake the board with a charger of the right volts; try the meter on another block.",
            )  # fmt: skip
    yield Suspect(
        key="all_low", title="All of them less charged than was said", prior=0.25,
        says={key: (ask.window.low - span / bank.series, ask.window.low) for key, ask in asks.items()},
        next="Charge them all and read again after some hours of rest.",
    )  # fmt: skip
