"""The wiring's lists as tables: runs, parts, cuts, devices, placards."""

from __future__ import annotations

from enum import StrEnum

from hearthkeep.core.design import Design, Practice
from hearthkeep.core.wiring import RunRow, WiringSheet
from hearthkeep.exchange.tables import Cell

_METRES_A_FOOT = 0.3048


class WiringTable(StrEnum):
    """Which list."""

    RUNS = "runs"
    PARTS = "parts"
    CUTS = "cuts"
    DEVICES = "devices"
    PLACARDS = "placards"


def wiring_tables(design: Design, sheet: WiringSheet) -> dict[WiringTable, list[list[Cell]]]:
    """Every list with its header, lengths in the unit of the practice."""
    is_us = design.practice is Practice.NORTH_AMERICAN
    unit, lists = "ft" if is_us else "m", sheet.lists

    def long(length_m: float) -> float:
        return round(length_m / _METRES_A_FOOT, 1) if is_us else round(length_m, 2)

    runs: list[list[Cell]] = [
        [
            row.label, float(row.count), long(row.length_m), round(row.current_a, 1), round(row.needed_a, 1), row.conductor,
            row.binding, _number(row.ampacity_a, 0), _number(row.drop_v, 2), _number(_percent(row), 2), row.device,
            _number(row.fault_a, 0), _number(row.interrupt_a, 0), row.disconnects, row.lug_mm, row.stud_mm, row.colours,
            _number(row.torque_nm, 1), ", ".join(row.unknown),
        ]
        for row in sheet.runs
    ]  # fmt: skip
    parts: list[list[Cell]] = [
        [
            part.what, part.group, long(part.quantity) if part.unit == "m" else part.quantity,
            unit if part.unit == "m" else part.unit, _price(part.price, part.unit, is_us=is_us),
            "" if part.price is None else round(part.price * part.quantity, 2),
        ]
        for part in lists.parts
    ]  # fmt: skip
    cuts: list[list[Cell]] = [
        [cut.conductor, cut.label, cut.pole, float(cut.quantity), long(cut.length_m), cut.lug, cut.heat_shrink]
        for cut in lists.cuts
    ]
    devices: list[list[Cell]] = [
        [
            line.label, line.device, float(line.quantity), line.place, round(line.volts_v, 1), _number(line.fault_a, 0),
            _number(line.interrupt_a, 0), line.conductor,
        ]
        for line in lists.devices
    ]  # fmt: skip
    placards: list[list[Cell]] = [[placard.where, placard.text] for placard in lists.placards]
    return {
        WiringTable.RUNS: [
            ["Run", "Count", f"Length {unit}", "Carries A", "Has to carry A", "Conductor", "Decided by", "May carry A", "Drop V",
             "Drop %", "Device", "Fault A", "Device breaks A", "Opened by hand", "Lug hole mm", "Stud mm", "Colours", "Torque N·m",
             "Not known"],
            *runs,
        ],
        WiringTable.PARTS: [
            ["Part", "Group", "Quantity", "Unit", "Price of one", "Sum"],
            *parts,
            ["Sum of what has a price", "", "", "", "", round(lists.total, 2)],
        ],
        WiringTable.CUTS: [["Conductor", "Run", "Pole", "Pieces", f"Length {unit}", "Ends", "Heat-shrink"], *cuts],
        WiringTable.DEVICES: [["Run", "Device", "Count", "Place", "Volts", "Fault A", "Breaks A", "Guards"], *devices],
        WiringTable.PLACARDS: [["Where", "Text"], *placards],
    }  # fmt: skip


def _number(value: float | None, digits: int) -> Cell:
    return "" if value is None else round(value, digits)


def _percent(row: RunRow) -> float | None:
    return None if row.drop_frac is None else 100 * row.drop_frac


def _price(price: float | None, unit: str, *, is_us: bool) -> Cell:
    if price is None:
        return ""
    return round(price * _METRES_A_FOOT, 2) if unit == "m" and is_us else price
