"""Wiring: every run sized and protected, what the bank drives into a fault, and what the cables lose."""

from hearthkeep.core.wiring.board import BoardPart
from hearthkeep.core.wiring.devices import NAMES as DEVICE_NAMES
from hearthkeep.core.wiring.devices import next_rating_a
from hearthkeep.core.wiring.faults import breaker_fault
from hearthkeep.core.wiring.fittings import LOOSE_HOLE_MM
from hearthkeep.core.wiring.oneline import OneLine
from hearthkeep.core.wiring.oneline import Text as OneLineText
from hearthkeep.core.wiring.paths import Feed, Guarded, Opening
from hearthkeep.core.wiring.placards import placards_of
from hearthkeep.core.wiring.plan import WiringPlan, cables_of, limits, wiring_plan
from hearthkeep.core.wiring.report import WiringSums, wiring_figures, wiring_sums
from hearthkeep.core.wiring.rows import RunRow
from hearthkeep.core.wiring.run_figures import AMPACITY, ampacity_figure, drop_figure, fault_figure, needed_figure
from hearthkeep.core.wiring.run_list import leads_hold_from_a
from hearthkeep.core.wiring.runs import (
    CONTINUOUS,
    STRONG_SUN,
    RunKind,
    charging_a,
    is_built_in_charger,
    unit_output_v,
)
from hearthkeep.core.wiring.sheet import WiringSheet, wiring_sheet
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.solar_runs import VOC_RATIO, controller_isc_a, string_isc_a
from hearthkeep.core.wiring.volts import (
    InverterVolts,
    VoltsCase,
    cold_resistance_mohm,
    current_of_power_a,
    inverter_volts,
)
from hearthkeep.core.wiring.words import conductor_set_words, conductor_words, device_words, length_words, torque_words

__all__ = [
    "AMPACITY",
    "CONTINUOUS",
    "DEVICE_NAMES",
    "LOOSE_HOLE_MM",
    "STRONG_SUN",
    "VOC_RATIO",
    "BoardPart",
    "Feed",
    "Guarded",
    "InverterVolts",
    "OneLine",
    "OneLineText",
    "Opening",
    "RunKind",
    "RunRow",
    "SizedRun",
    "VoltsCase",
    "WiringPlan",
    "WiringSheet",
    "WiringSums",
    "ampacity_figure",
    "breaker_fault",
    "cables_of",
    "charging_a",
    "cold_resistance_mohm",
    "conductor_set_words",
    "conductor_words",
    "controller_isc_a",
    "current_of_power_a",
    "device_words",
    "drop_figure",
    "fault_figure",
    "inverter_volts",
    "is_built_in_charger",
    "leads_hold_from_a",
    "length_words",
    "limits",
    "needed_figure",
    "next_rating_a",
    "placards_of",
    "string_isc_a",
    "torque_words",
    "unit_output_v",
    "wiring_figures",
    "wiring_plan",
    "wiring_sheet",
    "wiring_sums",
]
