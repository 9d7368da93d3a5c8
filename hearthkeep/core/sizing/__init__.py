"""Sizing: what the loads ask of bank and inverter, before any hour is simulated."""

from hearthkeep.core.sizing.compare import ChemistryRow, compare_chemistries
from hearthkeep.core.sizing.need import NeedSheet, SheetLine, StringsNeed, need_sheet
from hearthkeep.core.sizing.sums import (
    BankDetail,
    BankSums,
    ChargingSums,
    InverterSums,
    LedgerLine,
    bank_sums,
    charging_sums,
    inverter_sums,
)
from hearthkeep.core.sizing.voltage import VoltageRow, compare_voltages, conductor_for

__all__ = [
    "BankDetail",
    "BankSums",
    "ChargingSums",
    "ChemistryRow",
    "InverterSums",
    "LedgerLine",
    "NeedSheet",
    "SheetLine",
    "StringsNeed",
    "VoltageRow",
    "bank_sums",
    "charging_sums",
    "compare_chemistries",
    "compare_voltages",
    "conductor_for",
    "inverter_sums",
    "need_sheet",
]
