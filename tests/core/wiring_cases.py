"""For each finding of the Wiring page a design that calls it up, and the fields that quiet it."""

from __future__ import annotations

from typing import Any

from hearthkeep.core.design import Design
from tests.core.as_built import ILL_MADE, next_size, on_roof
from tests.core.made import PANEL_60, home, panels, van
from tests.support.designs import moved


def wired(*runs: dict[str, Any], **fields: Any) -> Design:
    """The well-made home with its runs counted, and something set on them; `fields` are parts of the wiring."""
    return moved(home(), {"wiring": {"runs": list(runs), **fields}})


def at(run: str, **fields: Any) -> Design:
    """The same with something set on one run."""
    return wired({"run": run, **fields})


def three_strings(**sheet: Any) -> Design:
    """Three strings of two panels side by side on one controller."""
    array = panels("roof", {**PANEL_60, **sheet}, 2, 3)
    return moved(wired(), {"charging.controllers.0.arrays": [array]})


def known(block_mohm: float, **bank: Any) -> Design:
    """The home on blocks of a known resistance."""
    fields = {"bank.unit": {"name": "block", "internal_resistance_mohm": block_mohm}}
    return moved(wired(), {**fields, **{f"bank.{name}": value for name, value in bank.items()}})


ON_VAN = {"wiring": {"runs": [{"run": "branch-cool-box", "fed_from": "load_terminals"}]}}

CASES: dict[str, Design] = {
    # 5,000 W at 44 V and 93 %: 122.2 A, 152.7 to be carried; 2/0 AWG may carry 175 at 75 °C, 1/0 150.
    "CONDUCTOR_TOO_THIN": at("bank", size="1/0 AWG"),
    "NO_CONDUCTOR": moved(wired(), {"inverter.rated_w": 60_000.0, "inverter.surge_w": 60_000.0}),
    "SIZE_NOT_IN_TABLES": at("bank", size="33 AWG"),
    # 95 mm² count as 3/0 AWG, 85.0 mm².
    "SIZE_OF_OTHER_PRACTICE": at("bank", size="95 mm²"),
    "RUN_NOT_KNOWN": at("bank", unknown=["size"]),
    # 122.2 A through 2 x 3 m of 2/0, 0.317 Ω/km: 0.232 V of 44, 0.53 %; at 6 m 1.06 %.
    "DROP_TOO_LARGE": at("bank", size="2/0 AWG", length_m=6.0),
    "LUG_MISFIT": at("bank", lug_mm=8.4, stud_mm=10.0),
    # Four of 6 AWG, 0.0507 in2 each, in 1/2 in of 0.304: 67 %.
    "CONDUIT_OVERFULL": at("panel", conduit="1/2", size="6 AWG"),
    "FLAT_WIRING_LOSS": wired(loss_frac=0.02),
    "LENGTHS_GUESSED": wired(),
    # 0.3 m of 14 AWG have 3.1 mΩ, the Bank page's links 0.3.
    "LINKS_DIFFER": moved(at("parallel-links", size="14 AWG", length_m=0.3), {"bank.takeoff": "one_end"}),
    "RUNS_HOLD": wired(),
    "RUNS_LEFT_OVER": at("array-gone", length_m=3.0),
    # Without leads of their own nothing stands before the strings but the bank's device.
    "NO_DEVICE": moved(at("bank", device="none"), {"bank.takeoff": "one_end"}),
    "PWM_OVERLOADED": ILL_MADE["85 A of panels on a PWM of 30"][2],
    "CONTACTS_TOO_SMALL": ILL_MADE["a plug of 50 A in a lead of 56"][2],
    "BUILT_IN_CANNOT_BREAK": ILL_MADE["built-in breakers of 5 kA with no fuse behind them"][2],
    "LEADS_OPEN_IN_TURN": ILL_MADE["six blocks on 32 A"][2],
    "STRINGS_LINKED_BARE": moved(wired(), {"bank.takeoff": "one_end"}),
    "NEXT_SIZE_UP": next_size(60),
    "NO_RAPID_SHUTDOWN": ILL_MADE["a roof without rapid shutdown"][2],
    "NO_GROUND_FAULT_PROTECTION": moved(on_roof(True), {"charging.controllers.0.ground_fault": False}),
    "NO_ARC_FAULT_PROTECTION": moved(on_roof(True), {"charging.controllers.0.arc_fault": False}),
    "MOUNTING_NOT_SAID": wired(),
    "OUTLETS_TOO_SMALL": ILL_MADE["outlets of 15 A behind 25"][2],
    "DEVICE_TOO_LARGE": at("bank", size="2/0 AWG", device_a=200.0),
    "DEVICE_TOO_SMALL": at("bank", size="2/0 AWG", device_a=150.0),
    "DEVICE_NOT_MADE": moved(wired(), {"inverter.rated_w": 60_000.0, "inverter.surge_w": 60_000.0}),
    # Two blocks of 4 mΩ: 54.4 V over 2 mΩ and 0.15 m of lead, more than a class T fuse breaks.
    "CANNOT_BREAK_FAULT": known(4.0),
    "DEVICE_FAR": at("bank", device_at_m=0.6),
    "STRING_FUSE_OVER_PANEL": moved(three_strings(), {"wiring.runs": [{"run": "string-roof", "device_a": 30.0}]}),
    "INVERTER_ON_LOAD_TERMINALS": at("inverter-1", fed_from="load_terminals"),
    "BRANCH_OVER_LOAD_TERMINALS": moved(
        moved(van(), ON_VAN), {"loads.0.running_w": 300.0}
    ),
    "DISCONNECT_MISSING": at("array-roof", disconnects="load"),
    "ORDER_OF_SIZES": at("controller-c", size="4/0 AWG", device_a=225.0, device="class_t"),
    "BREAKER_BOTH_WAYS": at("inverter-1", device="dc_breaker"),
    "NO_SHUNT": wired(has_shunt=False),
    "SHUNT_TOO_SMALL": wired(shunt_a=100.0),
    "NO_SURGE_PROTECTION": wired(surge_ac=False),
    # 780 W of start and the rest from cold blocks of 1.2 Ω each.
    "VOLTS_AT_START": known(1_200.0, temp_c=-10.0),
    "VOLTS_AT_PEAK": known(3_000.0),
    "CUTOFF_VOLTS_ABOVE_FLOOR": moved(wired(), {"inverter.low_cutoff_v": 52.0, "bank.depth_frac": 0.9}),
    "SURGE_OVER_BOARD": moved(wired(), {"inverter.surge_w": 20_000.0}),
    "PARTS_OVERLAP": wired(board={"places": [{"part": "bus", "x_mm": 700.0, "y_mm": 1000.0}, {"part": "inverter-1", "x_mm": 700.0, "y_mm": 1000.0}]}),
    "NO_CLEARANCE": wired(board={"places": [{"part": "bus", "x_mm": 40.0, "y_mm": 1000.0}, {"part": "inverter-1", "x_mm": 500.0, "y_mm": 1000.0}]}),
    "OFF_THE_BOARD": wired(board={"width_mm": 600.0}),
    "ABOVE_VENTED_CELLS": moved(
        wired(), {"bank.chemistry": "flooded", "bank.depth_frac": 0.5, "bank.cutoff_soc_frac": 0.2, "bank.ventilated": True}
    ),
}  # fmt: skip

ONE = "wiring.runs.0"
#: For each code the fields that differ from its case; numbers lie just on the other side where there is a limit.
QUIET: dict[str, dict[str, Any]] = {
    "CONDUCTOR_TOO_THIN": {f"{ONE}.size": "2/0 AWG"},
    "NO_CONDUCTOR": {"inverter.rated_w": 20_000.0},
    "SIZE_NOT_IN_TABLES": {f"{ONE}.size": "2/0 AWG"},
    "SIZE_OF_OTHER_PRACTICE": {f"{ONE}.size": "3/0 AWG"},
    "RUN_NOT_KNOWN": {f"{ONE}.unknown": []},
    "DROP_TOO_LARGE": {f"{ONE}.length_m": 5.6},
    "LUG_MISFIT": {f"{ONE}.lug_mm": 10.4},
    "CONDUIT_OVERFULL": {f"{ONE}.conduit": "3/4"},
    "FLAT_WIRING_LOSS": {"wiring.loss_frac": None},
    "LENGTHS_GUESSED": {
        "wiring.runs": [
            {"run": run, "length_m": 5.0} for run in ("array-roof", "grid", "generator", "panel", "string-leads")
        ]
    },
    "LINKS_DIFFER": {f"{ONE}.size": "2/0 AWG"},
    "RUNS_HOLD": {"wiring.runs": [{"run": "bank", "size": "1/0 AWG"}]},
    "RUNS_LEFT_OVER": {f"{ONE}.run": "array-roof"},
    "NO_DEVICE": {f"{ONE}.device": "class_t"},
    # 1.25 × 85 A are 106.3.
    "PWM_OVERLOADED": {"charging.controllers.0.output_a": 107.0},
    "CONTACTS_TOO_SMALL": {"wiring.runs.1.contact_a": 56.2},
    "BUILT_IN_CANNOT_BREAK": {"bank.unit_breaker_interrupt_a": 5500.0},
    "LEADS_OPEN_IN_TURN": {"wiring.runs.2.device_a": 40.0},
    "STRINGS_LINKED_BARE": {"bank.takeoff": "equal_leads"},
    "NEXT_SIZE_UP": {"wiring.runs.0.terminal_c": 75},
    "NO_RAPID_SHUTDOWN": {"charging.controllers.0.arrays.0.mounting": "ground"},
    "NO_GROUND_FAULT_PROTECTION": {"charging.controllers.0.arrays.0.mounting": "ground"},
    # Two in series are 24.3 V each, some more in the cold.
    "NO_ARC_FAULT_PROTECTION": {"charging.controllers.0.arrays.0.series": 2},
    "MOUNTING_NOT_SAID": {"charging.controllers.0.arrays.0.mounting": "vehicle"},
    "OUTLETS_TOO_SMALL": {"transfer.circuits.0.outlets_a": 25.0},
    "DEVICE_TOO_LARGE": {f"{ONE}.device_a": 175.0},
    "DEVICE_TOO_SMALL": {f"{ONE}.device_a": 175.0},
    "DEVICE_NOT_MADE": {"inverter.rated_w": 20_000.0},
    "CANNOT_BREAK_FAULT": {"bank.unit.internal_resistance_mohm": 6.0},
    "DEVICE_FAR": {f"{ONE}.device_at_m": 0.18},
    "STRING_FUSE_OVER_PANEL": {f"{ONE}.device_a": 20.0},
    "INVERTER_ON_LOAD_TERMINALS": {f"{ONE}.fed_from": "bus"},
    # 20 A of controller at 11 V.
    "BRANCH_OVER_LOAD_TERMINALS": {"loads.0.running_w": 219.0},
    "DISCONNECT_MISSING": {f"{ONE}.disconnects": "both"},
    "ORDER_OF_SIZES": {f"{ONE}.device_a": 175.0},
    "BREAKER_BOTH_WAYS": {f"{ONE}.device": "class_t"},
    "NO_SHUNT": {"wiring.has_shunt": True},
    "SHUNT_TOO_SMALL": {"wiring.shunt_a": 125.0},
    "NO_SURGE_PROTECTION": {"wiring.surge_ac": True},
    "VOLTS_AT_START": {"bank.unit.internal_resistance_mohm": 20.0},
    "VOLTS_AT_PEAK": {"bank.unit.internal_resistance_mohm": 20.0},
    "CUTOFF_VOLTS_ABOVE_FLOOR": {"inverter.low_cutoff_v": 44.0},
    "SURGE_OVER_BOARD": {"inverter.surge_w": 10_000.0},
    "PARTS_OVERLAP": {"wiring.board.places.0.x_mm": 100.0},
    "NO_CLEARANCE": {"wiring.board.places": []},
    "OFF_THE_BOARD": {"wiring.board.width_mm": 2000.0},
    "ABOVE_VENTED_CELLS": {"bank.chemistry": "agm"},
}
