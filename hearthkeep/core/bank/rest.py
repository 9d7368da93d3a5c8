"""State of charge from a rest voltage, by the trade's charge tables."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank.cells import cells_of
from hearthkeep.core.design import Bank, Chemistry
from hearthkeep.core.published import rest_voltage_rows

_TABLES = {
    Chemistry.FLOODED: "flooded_12v",
    Chemistry.STARTER: "flooded_12v",
    Chemistry.AGM: "agm_12v",
    Chemistry.GEL: "agm_12v",
    Chemistry.LFP: "lfp_12v",
}
#: How far the answer may be off, as a part of full. Common practice, no source.
DOUBT_FRAC = {
    Chemistry.FLOODED: 0.07,
    Chemistry.STARTER: 0.1,
    Chemistry.AGM: 0.12,
    Chemistry.GEL: 0.12,
    Chemistry.LFP: 0.15,
}
#: Cells of the block the tables are made for.
BLOCK_CELLS = {chemistry: 4 if chemistry is Chemistry.LFP else 6 for chemistry in Chemistry}


@dataclass(frozen=True, kw_only=True, slots=True)
class RestState:
    """What a rest voltage says."""

    soc_frac: float
    doubt_frac: float
    #: The bank's rest voltage by state of charge, emptiest first: (part of full, V).
    table: tuple[tuple[float, float], ...]


def rest_state(bank: Bank, rest_v: float) -> RestState:
    """State of charge of the whole bank, rested some hours without load.

    Common practice, no source; linear between the table's rows, held at its ends.
    """
    # Cells are counted: 12 V and 12.8 V are names of the same block of four lithium cells.
    scale = cells_of(bank) / BLOCK_CELLS[bank.chemistry]
    table = tuple((soc, round(volts * scale, 3)) for soc, volts in rest_voltage_rows(_TABLES[bank.chemistry]))
    soc = float(np.interp(rest_v, [volts for _, volts in table], [part for part, _ in table]))
    return RestState(soc_frac=soc, doubt_frac=DOUBT_FRAC[bank.chemistry], table=table)
