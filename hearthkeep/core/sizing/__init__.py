"""Sizing: what the loads ask of bank and inverter, before any hour is simulated."""

from hearthkeep.core.sizing.bank_and_inverter import (
    BankDetail,
    BankSums,
    InverterSums,
    LedgerLine,
    bank_sums,
    inverter_sums,
)
from hearthkeep.core.sizing.bank_figures import bank_figures
from hearthkeep.core.sizing.compare import STACK_M, ChemistryRow, compare_chemistries
from hearthkeep.core.sizing.curve import ArrayCurve, DayCurve, day_curve
from hearthkeep.core.sizing.inverter_figures import inverter_figures
from hearthkeep.core.sizing.need import NeedSheet, SheetLine, StringsNeed, counted_tiers, need_sheet
from hearthkeep.core.sizing.price import PriceLine, UnitsPrice, price_figure, units_price
from hearthkeep.core.sizing.usual import Usual, usual_of
from hearthkeep.core.sizing.voltage import LOW_FRAC, VoltageRow, compare_voltages, conductor_for

__all__ = [
    "LOW_FRAC",
    "STACK_M",
    "ArrayCurve",
    "BankDetail",
    "BankSums",
    "ChemistryRow",
    "DayCurve",
    "InverterSums",
    "LedgerLine",
    "NeedSheet",
    "PriceLine",
    "SheetLine",
    "StringsNeed",
    "UnitsPrice",
    "Usual",
    "VoltageRow",
    "bank_figures",
    "bank_sums",
    "compare_chemistries",
    "compare_voltages",
    "conductor_for",
    "counted_tiers",
    "day_curve",
    "inverter_figures",
    "inverter_sums",
    "need_sheet",
    "price_figure",
    "units_price",
    "usual_of",
]
