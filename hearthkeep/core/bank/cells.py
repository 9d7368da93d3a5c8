"""Cells: how many a bank has in series, their usual set points, and the volts at which the bank is charged."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from hearthkeep.core.design import Bank, Chemistry


@dataclass(frozen=True, kw_only=True, slots=True)
class CellPoints:
    """Usual set points of one cell. Common practice, no source: the volts of a 12 V block over its cells."""

    nominal_v: float
    absorb_low_v: float
    absorb_high_v: float
    #: What data sheets of good blocks absorb at, from and to: set points between these are a choice.
    absorb_from_v: float
    absorb_to_v: float
    absorb_h: float
    float_v: float
    equalise_v: float | None
    equalise_every_days: int | None
    #: Above this something has failed.
    over_voltage_v: float
    compensation_mv_per_c: float


_FLOODED = CellPoints(
    nominal_v=2.0, absorb_low_v=14.4 / 6, absorb_high_v=14.8 / 6, absorb_h=3.0, float_v=13.5 / 6,
    absorb_from_v=14.4 / 6, absorb_to_v=14.8 / 6,
    equalise_v=15.5 / 6, equalise_every_days=30, over_voltage_v=16.0 / 6, compensation_mv_per_c=-4.0,
)  # fmt: skip
CELLS: dict[Chemistry, CellPoints] = {
    Chemistry.LFP: CellPoints(
        nominal_v=3.2, absorb_low_v=14.2 / 4, absorb_high_v=14.4 / 4, absorb_h=2.0, float_v=13.5 / 4, equalise_v=None,
        absorb_from_v=3.45, absorb_to_v=3.6,
        equalise_every_days=None, over_voltage_v=14.6 / 4, compensation_mv_per_c=0.0,
    ),
    Chemistry.AGM: CellPoints(
        nominal_v=2.0, absorb_low_v=14.4 / 6, absorb_high_v=14.7 / 6, absorb_h=3.0, float_v=13.6 / 6, equalise_v=None,
        absorb_from_v=14.1 / 6, absorb_to_v=14.8 / 6,
        equalise_every_days=None, over_voltage_v=15.0 / 6, compensation_mv_per_c=-4.0,
    ),
    Chemistry.GEL: CellPoints(
        nominal_v=2.0, absorb_low_v=14.1 / 6, absorb_high_v=14.1 / 6, absorb_h=3.0, float_v=13.7 / 6, equalise_v=None,
        absorb_from_v=14.0 / 6, absorb_to_v=14.4 / 6,
        equalise_every_days=None, over_voltage_v=14.5 / 6, compensation_mv_per_c=-4.0,
    ),
    Chemistry.FLOODED: _FLOODED,
    Chemistry.STARTER: _FLOODED,
}  # fmt: skip


#: Lithium blocks go by two names: 12 V is what the lead-acid block it replaces has, 12.8 V what its four cells have.
LFP_BLOCK_CELLS, LFP_BLOCK_V = 4, (12.0, 12.8)


def cells_of(bank: Bank) -> int:
    """Cells in series of the whole bank.

    12, 24 and 48 V of lithium are the blocks that are also called 12.8, 25.6 and 51.2 V: 4, 8 and 16 cells.
    """
    if bank.chemistry is Chemistry.LFP:
        blocks = round(bank.nominal_v / LFP_BLOCK_V[1])
        low_v, high_v = (blocks * volts_v for volts_v in LFP_BLOCK_V)
        if blocks and low_v - 0.01 <= bank.nominal_v <= high_v + 0.01:
            return blocks * LFP_BLOCK_CELLS
    return max(1, round(bank.nominal_v / CELLS[bank.chemistry].nominal_v))


class BankVolts(NamedTuple):
    """The two voltages at which sources meet a bank [V]."""

    nominal_v: float
    #: While a strong source charges it; see charging_v.
    charging_v: float


def charging_v(bank: Bank) -> float:
    """Volts of the bank while it is charged: its cells at the lower end of the chemistry's usual absorb volts [V].

    A bank charged by a strong source climbs to these volts and is held there. Below them, while it is low, a current brings up
    to a tenth less power. Common practice, no source: 14.2 V for a 12 V block of LFP, 14.4 V AGM and flooded, 14.1 V gel.
    """
    return cells_of(bank) * CELLS[bank.chemistry].absorb_low_v
