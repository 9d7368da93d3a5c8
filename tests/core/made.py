"""Designs as an experienced hand makes them, and ten as they go wrong, all invented."""

from __future__ import annotations

from typing import Any

from hearthkeep.core.design import Design, read_design
from tests.support.designs import load, moved

PANEL_36 = {"name": "36 cells, 100 W", "stc_w": 100.0, "voc_v": 21.8, "vmp_v": 17.8, "isc_a": 6.1, "imp_a": 5.6}
PANEL_60 = {"name": "60 cells, 300 W", "stc_w": 300.0, "voc_v": 39.8, "vmp_v": 32.6, "isc_a": 9.8, "imp_a": 9.2,
            "voc_temp_coeff_per_c": -0.0029, "power_temp_coeff_per_c": -0.0037, "series_fuse_a": 20.0}  # fmt: skip
PANEL_48 = {"name": "48 cells, 240 W", "stc_w": 240.0, "voc_v": 31.6, "vmp_v": 26.0, "isc_a": 9.8, "imp_a": 9.25,
            "voc_temp_coeff_per_c": -0.0029, "power_temp_coeff_per_c": -0.0037}  # fmt: skip
PANEL_400 = {"name": "108 half cells, 400 W", "stc_w": 400.0, "voc_v": 37.1, "vmp_v": 31.2, "isc_a": 13.8, "imp_a": 12.85,
             "voc_temp_coeff_per_c": -0.0026, "power_temp_coeff_per_c": -0.0034, "series_fuse_a": 25.0}  # fmt: skip
METER = {"kind": "typed", "quality": "measured"}


def panels(array_id: str, sheet: dict[str, Any], series: int, strings: int, **fields: Any) -> dict[str, Any]:
    """An array of known panels facing south."""
    return {"id": array_id, "name": array_id, "stc_w": sheet["stc_w"] * series * strings, "tilt_deg": 35.0,
            "azimuth_deg": 180.0, "module": sheet, "series": series, "strings": strings, "snow": "slides", **fields}  # fmt: skip


def made(name: str, *, kind: str, practice: str, service: str, loads: list[dict[str, Any]], **parts: Any) -> Design:
    """A document of the parts that matter, the rest as usual."""
    return read_design(
        {
            "name": name,
            "kind": kind,
            "practice": practice,
            "site": {"place": "Invented", "latitude_deg": 44.0, "longitude_deg": -75.0, "utc_offset_h": -5.0,
                     "service": service, "record_low_c": -30.0, "record_high_c": 36.0},
            "outage": {"start": "2026-06-10T18:00:00", "duration_h": 24.0,
                       "days": [{"sky": "broken", "air_temp_c": 22.0}, {"sky": "broken", "air_temp_c": 24.0}]},
            "loads": [{**row, "known": METER} for row in loads],
            "wiring": {"loss_frac": 0.02},
            **parts,
        }
    )  # fmt: skip


def van() -> Design:
    """12 V, two panels in parallel, a fridge on direct current."""
    return made(
        "Van", kind="portable", practice="north_american", service="120",
        loads=[load("cool box", 45, supply="dc", duty_frac=0.35, hours=[[0, 24]]), load("lamps", 12, supply="dc", hours=[[18, 23]]),
               load("laptop", 60, tier="ease", hours=[[18, 21]])],
        bank={"chemistry": "lfp", "unit_v": 12.8, "unit_ah": 100.0, "series": 1, "parallel": 1, "depth_frac": 0.9,
              "cutoff_soc_frac": 0.1, "place": "utility_room", "temp_c": 20.0, "unit_max_charge_a": 50.0,
              "unit_max_discharge_a": 100.0},
        inverter={"rated_w": 600.0, "surge_w": 1200.0, "idle_w": 7.0, "efficiency_frac": 0.9, "low_cutoff_v": 11.0},
        charging={"controllers": [{"id": "c", "name": "MPPT 20 A", "kind": "mppt", "output_a": 20.0, "max_input_v": 75.0,
                                   "arrays": [panels("roof", PANEL_36, 1, 2, tilt_deg=0.0)]}],
                  "alternator": {"current_a": 20.0, "driven_hours": [[9, 10]]}, "grid_charger": {"output_w": 250.0},
                  "stages": {"over_voltage_v": 14.8}},
    )  # fmt: skip


def cart() -> Design:
    """A relay cart on 24 V sealed batteries that wait in a hall."""
    return made(
        "Cart", kind="portable", practice="metric_230", service="230",
        loads=[load("radio", 20, tier="keep", supply="dc"), load("lamps", 28, tier="ease", supply="dc", hours=[[18, 23]])],
        bank={"chemistry": "agm", "unit_v": 12.0, "unit_ah": 110.0, "series": 2, "parallel": 1, "depth_frac": 0.5,
              "cutoff_soc_frac": 0.2, "place": "utility_room", "ventilated": True, "temp_c": 18.0, "unit_max_charge_a": 25.0,
              "unit_max_discharge_a": 100.0},
        inverter={"rated_w": 800.0, "surge_w": 1600.0, "idle_w": 9.0, "efficiency_frac": 0.9, "low_cutoff_v": 21.0, "output": "230"},
        charging={"controllers": [{"id": "c", "name": "MPPT 15 A", "kind": "mppt", "output_a": 15.0, "max_input_v": 100.0,
                                   "arrays": [panels("fold", PANEL_60, 2, 1)]}],
                  "grid_charger": {"output_w": 300.0}, "stages": {"over_voltage_v": 30.0}},
    )  # fmt: skip


def cabin() -> Design:
    """A 24 V cabin on AGM with two strings on equal leads."""
    return made(
        "Cabin", kind="home", practice="north_american", service="120",
        loads=[load("water pump", 180, duty_frac=0.05, start_w=450.0), load("fridge", 80, duty_frac=0.35, start_w=320.0),
               load("lamps", 30, tier="ease", hours=[[18, 23]])],
        bank={"chemistry": "agm", "unit_v": 6.0, "unit_ah": 220.0, "series": 4, "parallel": 2, "depth_frac": 0.5,
              "cutoff_soc_frac": 0.2, "place": "shed", "ventilated": True, "temp_c": 15.0, "takeoff": "equal_leads",
              "unit_max_charge_a": 45.0, "unit_max_discharge_a": 150.0},
        inverter={"rated_w": 1500.0, "surge_w": 3000.0, "idle_w": 15.0, "efficiency_frac": 0.9, "low_cutoff_v": 21.0},
        charging={"controllers": [{"id": "c", "name": "MPPT 50 A", "kind": "mppt", "output_a": 50.0, "max_input_v": 150.0,
                                   "max_input_a": 30.0, "arrays": [panels("roof", PANEL_60, 2, 2)]}],
                  "grid_charger": {"output_w": 1200.0}, "stages": {"over_voltage_v": 30.0}},
    )  # fmt: skip


def home() -> Design:
    """A 48 V home with a generator for the dark days."""
    return made(
        "Home", kind="home", practice="north_american", service="120/240",
        loads=[load("fridge", 120, duty_frac=0.36, start_w=780.0), load("boiler", 165, duty_frac=0.5, start_w=420.0, link="heat"),
               load("circulator", 46, duty_frac=0.8, link="heat"), load("router", 17),
               load("lamps", 40, tier="ease", hours=[[17, 22]])],
        bank={"chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100.0, "series": 1, "parallel": 2, "depth_frac": 0.8,
              "cutoff_soc_frac": 0.1, "place": "utility_room", "temp_c": 15.0, "takeoff": "equal_leads",
              "unit_max_charge_a": 50.0, "unit_max_discharge_a": 100.0},
        inverter={"rated_w": 5000.0, "surge_w": 10_000.0, "idle_w": 40.0, "efficiency_frac": 0.93, "low_cutoff_v": 44.0,
                  "output": "120/240"},
        charging={"controllers": [{"id": "c", "name": "MPPT 80 A", "kind": "mppt", "output_a": 80.0, "max_input_v": 250.0,
                                   "max_input_a": 40.0, "arrays": [panels("roof", PANEL_400, 5, 1)]}],
                  "generator": {"rated_w": 3500.0, "stock_l": 40.0, "tank_l": 12.0, "charger_w": 2000.0,
                                "start_soc_frac": 0.3, "stop_soc_frac": 0.8},
                  "grid_charger": {"output_w": 2000.0}, "stages": {"over_voltage_v": 59.0}},
        outage={"start": "2026-01-12T17:00:00", "duration_h": 72.0,
                "days": [{"sky": "overcast", "air_temp_c": -4.0}] * 3 + [{"sky": "clear", "air_temp_c": -8.0}]},
    )  # fmt: skip


def flat() -> Design:
    """A 230 V flat with 24 V of lithium."""
    return made(
        "Flat", kind="home", practice="metric_230", service="230",
        loads=[load("fridge", 70, duty_frac=0.35, start_w=280.0), load("router", 12), load("lamps", 24, tier="ease", hours=[[18, 23]])],
        bank={"chemistry": "lfp", "unit_v": 25.6, "unit_ah": 100.0, "series": 1, "parallel": 1, "depth_frac": 0.9,
              "cutoff_soc_frac": 0.1, "place": "utility_room", "temp_c": 18.0, "unit_max_charge_a": 50.0,
              "unit_max_discharge_a": 100.0},
        inverter={"rated_w": 1200.0, "surge_w": 2400.0, "idle_w": 10.0, "efficiency_frac": 0.91, "low_cutoff_v": 22.0, "output": "230"},
        charging={"controllers": [{"id": "c", "name": "MPPT 30 A", "kind": "mppt", "output_a": 30.0, "max_input_v": 100.0,
                                   "arrays": [panels("balcony", PANEL_400, 2, 1, tilt_deg=70.0)]}],
                  "grid_charger": {"output_w": 600.0}, "stages": {"over_voltage_v": 29.4}},
    )  # fmt: skip


def rack() -> Design:
    """A home on a rack of 48 V modules, two inverters as a pair."""
    return made(
        "Rack home", kind="home", practice="north_american", service="120/240",
        loads=[load("well pump", 900, supply="ac240", duty_frac=0.08, start_w=2700.0), load("fridge", 120, duty_frac=0.36, start_w=780.0),
               load("freezer", 100, duty_frac=0.3, start_w=600.0), load("router", 17), load("lamps", 60, tier="ease", hours=[[17, 23]])],
        bank={"chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100.0, "series": 1, "parallel": 4, "depth_frac": 0.8,
              "cutoff_soc_frac": 0.1, "place": "utility_room", "temp_c": 15.0, "takeoff": "equal_leads",
              "unit_max_charge_a": 50.0, "unit_max_discharge_a": 100.0, "unit": {"name": "rack module", "max_parallel": 15}},
        inverter={"rated_w": 4000.0, "surge_w": 8000.0, "idle_w": 30.0, "efficiency_frac": 0.93, "low_cutoff_v": 44.0, "units": 2,
                  "output": "120/240_pair"},
        charging={"controllers": [{"id": "c", "name": "MPPT 100 A", "kind": "mppt", "output_a": 100.0, "max_input_v": 450.0,
                                   "max_input_a": 40.0, "arrays": [panels("roof", PANEL_400, 8, 2)]}],
                  "grid_charger": {"output_w": 3000.0}, "stages": {"over_voltage_v": 59.0}},
    )  # fmt: skip


WELL_MADE = {design.__name__: design for design in (van, cart, cabin, home, flat, rack)}

#: What goes wrong, the well-made design it starts from, the fields that spoil it, and every Stop or Mend it must raise.
ILL_MADE: tuple[tuple[str, str, dict[str, Any], set[str]], ...] = (
    ("an inverter far beyond one protection board", "van", {"inverter.rated_w": 2000.0, "inverter.surge_w": 4000.0},
     {"RATING_OVER_BANK"}),
    ("a string that dies on a cold morning", "flat", {"charging.controllers.0.arrays.0.series": 3,
     "charging.controllers.0.arrays.0.stc_w": 1200.0}, {"COLD_VOC_OVER_LIMIT"}),
    ("a starter battery in the van", "van", {"bank.chemistry": "starter", "bank.unit_v": 12.0, "bank.depth_frac": 0.5,
     "bank.cutoff_soc_frac": 0.2, "bank.unit_max_charge_a": None, "bank.unit_max_discharge_a": None, "bank.place": "outdoor_box",
     "charging.stages.over_voltage_v": 16.0}, {"STARTER_BATTERY"}),
    ("vented cells where people live", "cabin", {"bank.chemistry": "flooded", "bank.place": "living_space",
     "charging.stages.over_voltage_v": 32.0}, {"FLOODED_IN_LIVING_SPACE"}),
    ("lithium in a freezing shed", "flat", {"bank.temp_c": -5.0, "bank.place": "shed"}, {"LFP_NO_CHARGE_IN_COLD"}),
    ("a bank that begins below its floor", "flat", {"bank.start_soc_frac": 0.05}, {"BEGINS_BELOW_FLOOR", "GOES_DARK"}),
    ("48-cell panels one by one on 24 V",
        "cart",
        {
            "charging.controllers.0.arrays.0.module": PANEL_48,
            "charging.controllers.0.arrays.0.series": 1,
            "charging.controllers.0.arrays.0.stc_w": 240.0,
        },
        {"HOT_VMP_LOW"}),
    ("a charger set above the bank's limit", "cart", {"charging.grid_charger.output_w": 1200.0}, {"CHARGE_LIMIT"}),
    ("a pump that outruns the inverter", "cabin", {"loads.0.start_w": 3500.0, "inverter.surge_w": 2000.0},
     {"START_OVER_SURGE", "GOES_DARK"}),
    ("a peak beyond the bank's protection", "flat", {"loads.0.running_w": 900.0, "loads.0.start_w": 900.0, "loads.0.duty_frac": 0.03,
     "bank.unit_max_discharge_a": 30.0}, {"BANK_CURRENT_LIMIT", "GOES_DARK"}),
)  # fmt: skip


def ill_made(base: str, fields: dict[str, Any]) -> Design:
    """A well-made design spoilt."""
    return moved(WELL_MADE[base](), fields)
