"""Each finding: a design that calls it up, and, where it has a remedy, that the remedy settles it."""

import re
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Design
from hearthkeep.core.sources import made_up_year, source_currents
from tests.core.made_transfers import RIGHT, WRONG, house, on_the_rack
from tests.core.wiring_cases import CASES as WIRING_CASES
from tests.support.designs import array, birchrow, changed, load, moved, simple

LEAD = {"chemistry": "flooded", "depth_frac": 0.5, "cutoff_soc_frac": 0.2}
SMALL = {"rated_w": 500.0, "surge_w": 800.0, "efficiency_frac": 0.9, "idle_w": 10.0}


def strung(series=1, strings=1, controller=None, **module) -> Design:
    """A design with one array of known panels."""
    sheet = {"name": "m", "stc_w": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.5, **module}
    panels = array("p", 400.0 * series * strings, module=sheet, series=series, strings=strings)
    return simple(load("a", 10), arrays=(panels,), controller=controller, sky=("overcast",))


GENERATOR = {"rated_w": 1000.0, "stock_l": 50.0, "charger_w": 300.0, "start_soc_frac": 0.5, "stop_soc_frac": 0.9}

#: A bank whose string holds 0.95 kWh for 300.
PRICED = {"unit": {"name": "block", "price": 300.0}}
WIND = {"rated_w": 400.0, "mean_m_s": 3.5}


def topped_up(output_w: float) -> dict:
    """A bank kept at half and filled in four hours of warning: 500 Wh, so 125 W are needed."""
    charger = {"output_w": output_w, "top_up_soc_frac": 0.5}
    return {"charging": {"grid_charger": charger}, "outage": {"warning_h": 4.0}}


CASES: dict[str, Design] = {
    "GOES_DARK": simple(load("a", 60), outage={"duration_h": 30.0}),
    "CARRIED": simple(load("a", 10)),
    "ALL_CLEAR_SKY": simple(load("a", 10), arrays=(array("p", 100),)),
    "LICENSED_WORK": simple(load("a", 10)),
    "NO_LOADS": simple(),
    "LIFE_EQUIPMENT": simple(load("a", 10, tier="life")),
    "FULL_DUTY": simple(load("fridge", 100)),
    "SPARE_NEVER_RUNS": simple(load("a", 10, tier="spare")),
    "GUESSED": simple(load("a", 10)),
    "WELL_KNOWN": simple(load("a", 10, known={"kind": "nameplate", "volts_v": 10.0, "current_a": 1.0})),
    "READING_LEFT_BEHIND": simple(load("a", 90, known={"kind": "nameplate", "volts_v": 100.0, "current_a": 1.0})),
    "HEAT_FROM_BATTERY": simple(load("space heater", 1500)),
    "HEATING_NOT_LINKED": simple(load("oil boiler", 100), load("circulator", 40)),
    "HEATING_LINKED": simple(load("oil boiler", 100, link="heat"), load("circulator", 40, link="heat")),
    "NEEDS_240_V": simple(load("well pump", 900, supply="ac240")),
    "NEEDS_BOTH_LEGS": simple(load("well pump", 900, supply="ac240"), site={"service": "120/240"}),
    "START_FROM_CHART": simple(load("pump", 500, start_w=1000.0)),
    "STANDBY_ABOVE_USE": simple(load("printer", 100, hours=[[9, 10]], standby_w=6.0)),
    "PEAK_OF_BURSTS": simple(load("kettle", 1500, duty_frac=0.1), load("toaster", 850, duty_frac=0.1)),
    "AWAY_STILL_RUNS": simple(
        load("tv", 80, tier="ease"), outage={"days": [{"sky": "clear", "air_temp_c": 5.0, "away": True}]}
    ),
    "IDLE_LEFT_OUT": simple(load("a", 10), inverter={**SMALL, "idle_w": 0.0}),
    "SEARCH_LEAVES_DEAD": simple(load("router", 8), inverter={**SMALL, "search_threshold_w": 15.0}),
    "IDLE_LOSS": simple(load("a", 10), inverter=SMALL),
    "FLOODED_IN_LIVING_SPACE": simple(load("a", 10), bank={**LEAD, "place": "living_space"}),
    "LEAD_ACID_UNVENTILATED": simple(load("a", 10), bank={**LEAD, "chemistry": "agm"}),
    "LFP_TOO_COLD_TO_DISCHARGE": simple(load("a", 10), bank={"temp_c": -25.0}),
    "LFP_NO_CHARGE_IN_COLD": simple(load("a", 10), bank={"temp_c": -5.0}),
    "LFP_NEAR_FREEZING": simple(load("a", 10), bank={"temp_c": 2.0}),
    "COLD_BEYOND_TABLE": simple(load("a", 10), bank={**LEAD, "temp_c": -10.0}),
    "CUTOFF_ABOVE_FLOOR": simple(load("a", 10), bank={"depth_frac": 0.9, "cutoff_soc_frac": 0.2}),
    "DEPTH_LEAD_ACID": simple(load("a", 10), bank={**LEAD, "depth_frac": 0.7}),
    "DEPTH_LFP": simple(load("a", 10)),
    "OVER_PARALLEL_LIMIT": simple(load("a", 10), bank={"parallel": 6, "unit": {"name": "block", "max_parallel": 4}}),
    "OVER_SERIES_LIMIT": simple(load("a", 10), bank={"series": 3, "unit": {"name": "block", "max_series": 1}}),
    "UNEVEN_SHARING": simple(load("a", 10), bank={"parallel": 6, "takeoff": "one_end", "link_mohm": 1.0}),
    "MIXED_CHEMISTRY": simple(load("a", 10), bank={"addition": {"chemistry": "agm", "unit_v": 10.0, "unit_ah": 100.0}}),
    "MIXED_VOLTAGE": simple(load("a", 10), bank={"addition": {"chemistry": "lfp", "unit_v": 12.8, "unit_ah": 100.0}}),
    "MIXED_SIZE": simple(load("a", 10), bank={"addition": {"chemistry": "lfp", "unit_v": 10.0, "unit_ah": 200.0}}),
    "MIXED_AGE": simple(
        load("a", 10), bank={"addition": {"chemistry": "lfp", "unit_v": 10.0, "unit_ah": 100.0, "years_newer": 6.0}}
    ),
    "ADDITION_FITS": simple(load("a", 10), bank={"addition": {"chemistry": "lfp", "unit_v": 10.0, "unit_ah": 100.0}}),
    "TAPPED_STRING": simple(
        load("a", 10), bank={"series": 4, "tap": {"units": 1, "current_a": 2.0, "hours_per_day": 5.0}}
    ),
    "BELOW_NEED": simple(load("a", 100), bank={"depth_frac": 0.5}),
    "SHORT_LIFE": simple(
        load("a", 10), bank={**LEAD, "chemistry": "agm", "depth_frac": 0.8, "need": {"cycles_per_year": 300.0}}
    ),
    "HEATER_TOO_WEAK": simple(load("a", 10), bank={"temp_c": -20.0, "heater": {"power_w": 5.0}}),
    "EMPTY_IN_STORAGE": changed(
        simple(load("a", 10), bank={**LEAD, "unit": {"name": "wet", "self_discharge_month_frac": 0.08}}),
        kind="portable",
    ),
    "FIRE_SEPARATION": simple(load("a", 10), bank={"place": "living_space", "unit_ah": 300.0}),
    "MODIFIED_SINE": simple(load("a", 10, start_w=40.0), inverter={"waveform": "modified_sine"}),
    "OUTPUT_VOLTAGE": simple(load("a", 10), inverter={"output": "230"}),
    "PAIR_INCOMPLETE": simple(
        load("a", 10), inverter={"output": "120/240_pair", "units": 1}, site={"service": "120/240"}
    ),
    "ONE_LEG_ONLY": simple(load("a", 10), inverter={"output": "120"}, site={"service": "120/240"}),
    "ONE_FAULT": simple(load("a", 10)),
    "ONE_FAULT_CARRIED": simple(load("a", 10), inverter={"units": 2}),
    "MANY_PARALLEL": simple(load("a", 10), bank={"parallel": 6}),
    "NO_INVERTER": simple(load("a", 10), inverter={"rated_w": 0.0, "surge_w": 0.0, "idle_w": 0.0}),
    "PEAK_OVER_RATING": simple(load("a", 900), inverter=SMALL),
    "START_OVER_SURGE": simple(load("a", 100, start_w=900.0), inverter=SMALL),
    # 120 V × 5 A × 0.6 = 360 W, 600 VA.
    "PEAK_OVER_VA": simple(
        load("pump", 360, known={"kind": "nameplate", "volts_v": 120.0, "current_a": 5.0, "power_factor": 0.6}),
        inverter={**SMALL, "rated_va": 550.0},
    ),
    "LITTLE_HEADROOM": simple(load("a", 450), inverter=SMALL),
    "HEADROOM": simple(load("a", 100), inverter=SMALL),
    "DC_CURRENT_HIGH": simple(load("a", 2500)),
    "BANK_CURRENT_LIMIT": simple(load("a", 250), bank={"unit_max_discharge_a": 20.0}),
    "RATING_OVER_BANK": simple(load("a", 10), inverter={"rated_w": 1000.0}, bank={"unit_max_discharge_a": 100.0}),
    "START_OPENS_BOARD": simple(
        load("a", 10, start_w=2000.0),
        bank={"unit_max_discharge_a": 5000.0, "unit": {"name": "b", "short_discharge_a": 200.0}},
    ),
    "BEGINS_BELOW_FLOOR": simple(load("a", 10), bank={"depth_frac": 0.8, "start_soc_frac": 0.1}),
    "STARTER_BATTERY": simple(load("a", 10), bank={**LEAD, "chemistry": "starter"}),
    "VENTED_GAS": simple(load("a", 10), bank={**LEAD, "ventilated": True}),
    "CUTOFF_VOLTAGE_MISMATCH": simple(load("a", 10), inverter={"low_cutoff_v": 42.0}),
    "NO_SOURCE": simple(load("a", 10)),
    "ARRAY_VOLTAGE_LOW": simple(load("a", 10), arrays=(array("p", 100, vmp_v=8.0),)),
    "PWM_WASTES_VOLTAGE": simple(load("a", 10), arrays=(array("p", 100, vmp_v=36.0),), controller={"kind": "pwm"}),
    "CONTROLLER_CLIPS": simple(load("a", 10), arrays=(array("p", 1000),), controller={"output_a": 20.0}),
    "COLD_VOC_OVER_LIMIT": strung(series=3, controller={"max_input_v": 100.0}),
    "OVER_DWELLING_VOLTAGE": changed(strung(series=15), practice="north_american"),
    "HOT_VMP_LOW": strung(vmp_v=10.5, voc_v=12.9),
    "STRING_CANNOT_START": strung(vmp_v=12.0, voc_v=14.9),
    "COLD_IS_ESTIMATED": strung(),
    "INPUT_CURRENT": strung(strings=2, controller={"max_input_a": 20.0}),
    "STRING_FUSES": strung(strings=3),
    "STRING_FUSE_TOO_LARGE": strung(strings=3, series_fuse_a=15.0),
    "UNLIKE_PANELS": simple(load("a", 10), arrays=(array("p", 100, vmp_v=18.0), array("q", 100, vmp_v=36.0))),
    "ARRAY_POWER_DIFFERS": strung(stc_w=350.0),
    "GENERATOR_CO": simple(load("a", 10), charging={"generator": GENERATOR}),
    "OUT_OF_FUEL": simple(load("a", 100), charging={"generator": {**GENERATOR, "stock_l": 0.2}}),
    "GENERATOR_GIVES_NOTHING": simple(
        load("a", 10, supply="dc"),
        bank={"temp_c": -5.0, "start_soc_frac": 0.4},
        charging={"generator": GENERATOR, "bench_charger": {"output_w": 50.0, "plugged_hours": [[0, 24]]}},
    ),
    "DARK_IN_QUIET_HOURS": simple(
        load("a", 100),
        charging={"generator": {**GENERATOR, "quiet_hours": [[0, 5], [8, 24]]}},
        outage={"duration_h": 40.0},
    ),
    "CHARGER_OVER_GENERATOR": simple(load("a", 10), charging={"generator": {**GENERATOR, "charger_w": 1500.0}}),
    "GENERATOR_DARKENS": simple(load("a", 1500), charging={"generator": GENERATOR}),
    "GENERATOR_BELOW_PEAK": simple(load("a", 1500), charging={"generator": GENERATOR}),
    "GENERATOR_HARDLY_LOADED": simple(load("a", 100), charging={"generator": {**GENERATOR, "rated_w": 8000.0}}),
    "CHARGE_LIMIT_TOGETHER": simple(
        load("a", 10), arrays=(array("p", 400),), bank={"unit_max_charge_a": 60.0}, charging={"generator": GENERATOR}
    ),
    "CHARGE_LIMIT": simple(load("a", 10), arrays=(array("p", 900),), bank={"unit_max_charge_a": 60.0}),
    "NO_GRID_CHARGER": simple(load("a", 10)),
    "CONTROLLER_BATTERY_VOLTS": simple(
        load("a", 10), arrays=(array("p", 300),), controller={"battery_min_v": 24.0, "battery_max_v": 48.0}
    ),
    "FILLED_IN_TIME": simple(load("a", 10), **topped_up(output_w=200.0)),
    "FILL_TOO_SLOW": simple(load("a", 10), **topped_up(output_w=30.0)),
    "ALTERNATOR": simple(load("a", 10), charging={"alternator": {"current_a": 20.0}}),
    "WIND_NEVER_TURNS": simple(load("a", 10), bank=PRICED, charging={"wind": {**WIND, "mean_m_s": 0.0}}),
    "WIND_POOR_VALUE": simple(load("a", 10), bank=PRICED, charging={"wind": {**WIND, "price": 900.0}}),
    "WIND_PAYS": simple(
        load("a", 10),
        bank=PRICED,
        charging={"wind": {**WIND, "mean_m_s": 8.0, "price": 900.0}},
        outage={"duration_h": 96.0},
    ),
    "ONE_SOURCE_COSTS": simple(
        load("a", 100),
        arrays=(array("p", 300),),
        bank={"unit_ah": 400.0, "start_soc_frac": 0.4},
        charging={"one_source": True, "bench_charger": {"output_w": 100.0, "plugged_hours": [[8, 16]]}},
    ),
    "SNOW_LIES": simple(load("a", 10), arrays=(array("p", 300),), sky=("covered", "clear")),
    "NO_DIRECT_PANEL": simple(load("fan", 10, tier="ease", supply="panel")),
    "VITAL_ON_PANEL": simple(
        load("fan", 10, supply="panel"), arrays=(array("p", 50),), controller={"kind": "panel_fed"}
    ),
    "NO_BUILT_IN_INPUT": simple(load("a", 10), arrays=(array("p", 300),), controller={"built_in": True}),
    "ALL_IN_ONE_FAILS_WHOLE": simple(
        load("a", 10), arrays=(array("p", 300),), controller={"built_in": True}, inverter={"build": "all_in_one"}
    ),
    "TANK_RUNS_DRY": simple(
        load("a", 100),
        charging={"generator": {**GENERATOR, "tank_l": 0.3}},
        outage={"days": [{"sky": "clear", "air_temp_c": 5.0, "away": True}]},
    ),
    "ABSORB_TOO_HIGH": simple(load("a", 10), charging={"stages": {"absorb_v": 11.5}}),
    "ABSORB_TOO_LOW": simple(load("a", 10), charging={"stages": {"absorb_v": 9.9}}),
    "FLOAT_NOT_BELOW_ABSORB": simple(load("a", 10), charging={"stages": {"float_v": 11.0}}),
    "EQUALISE_FORBIDDEN": simple(load("a", 10), charging={"stages": {"equalise_v": 15.5}}),
    "NO_OVER_VOLTAGE_LIMIT": simple(load("a", 10), arrays=(array("p", 300),)),
    "OVER_VOLTAGE_TRIPS_EARLY": simple(load("a", 10), charging={"stages": {"over_voltage_v": 10.5}}),
    "OVER_VOLTAGE_TOO_LATE": simple(load("a", 10), charging={"stages": {"over_voltage_v": 18.0}}),
    "LFP_COMPENSATED": simple(
        load("a", 10), charging={"stages": {"compensation_mv_per_c": -4.0}}, bank={"temp_c": 5.0}
    ),
    "NOT_COMPENSATED": simple(
        load("a", 10), bank={**LEAD, "unit_v": 12.0, "temp_c": 5.0}, charging={"stages": {"compensation_mv_per_c": 0.0}}
    ),
    "WEATHER_MISSING": simple(load("a", 10), outage={"sky_from": "year"}, site={"weather_year": "wy-gone"}),
    "WEATHER_MADE_UP": simple(load("a", 10), outage={"sky_from": "year"}),
    "WEATHER_FAR": simple(load("a", 10), site={"weather_year": "far"}),
}
#: Weather years that a case is assessed with.
YEARS = {"WEATHER_FAR": made_up_year(44.0, -75.0, 100.0, -5.0)}


def findings_of(code: str, design: Design):
    return assess(design, YEARS.get(code) if design.site.weather_year else None).findings


CASES |= WIRING_CASES
CASES |= {
    **{
        code: moved(RIGHT[base](), fields)
        for _, base, fields, expected in reversed(WRONG)
        for code in expected
        if len(expected) == 1 or code in ("GROUND_FAULT_TRIPS", "TWO_SUPPLIES", "LEG_OVERLOADED", "AUTOMATIC_CAPACITY")
    },
    "LICENSED_WORK_ALONE": RIGHT["own_panel"](),
    "TRANSFER_NOT_PLANNED": moved(house("inlet"), {"transfer.arrangement": None}),
    "BOND_UNKNOWN": moved(house("inlet"), {"transfer.grounding.source_bond": "unknown"}),
    "NEUTRAL_BONDED_ONCE": house("inlet"),
    "SHARED_NEUTRAL_UNKNOWN": moved(
        house("manual_switch", device={"feed": "bridged"}),
        {"inverter.output": "120", "transfer.circuits.0.shares_neutral_with": "c3"}
        | {f"transfer.circuits.{at}.wire": None for at in (0, 1)},
    ),
    "GAP_AT_CHANGE_OVER": house("critical_panel"),
    "LOADS_UNPLACED": moved(house("inlet"), {"loads.0.circuit": None}),
    "POLES_MISMATCH": moved(house("critical_panel"), {"loads.0.supply": "ac240"}),
    "COMES_ALONG": moved(house("inlet"), {"loads.4.circuit": "c1"}),
    "LABELS_REQUIRED": moved(house("inlet"), {"transfer.labels_in_place": False}),
    "LABELS_IN_PLACE": house("inlet"),
    "PANEL_WORK": house("inlet"),
    "LEGS_BALANCED": moved(house("critical_panel"), {"loads.4.circuit": "c1", "loads.4.running_w": 70.0}),
    "LEGS_UNEVEN": moved(house("critical_panel"), {"loads.4.circuit": "c3", "loads.4.running_w": 400.0}),
    "BUS_UNKNOWN": on_the_rack(**{"transfer.main.bus_a": None}),
    "BUS_OVERLOADED": on_the_rack(**{"transfer.main.supply_at_far_end": False, "transfer.main.main_a": 164.0}),
    "SUPPLY_BREAKER_SMALL": on_the_rack(**{"transfer.main.supply_breaker_a": 36.0}),
    "ARRAY_HELD_BACK": moved(RIGHT["ac_coupled"](), {"outage.start": "2026-06-21T08:00:00"}),
    "NO_BLACK_START": moved(
        RIGHT["ac_coupled"](),
        {
            "bank.start_soc_frac": 0.15,
            "charging.controllers": [],
            "outage.start": "2026-06-21T18:00:00",
            "loads.0.running_w": 700.0,
        },
    ),
    "ARRAY_BESIDE_GENERATOR": moved(RIGHT["ac_coupled"](), {"charging.generator": GENERATOR}),
    "SEARCH_WITH_ARRAY": moved(RIGHT["ac_coupled"](), {"inverter.search_threshold_w": 20.0}),
}


class EachFinding(unittest.TestCase):
    def test_it_appears_with_numbers_reason_and_basis(self):
        for code, design in CASES.items():
            with self.subTest(code):
                finding = next((entry for entry in findings_of(code, design) if entry.code == code), None)
                self.assertIsNotNone(finding)
                self.assertGreater(len(finding.message), 40)
                self.assertTrue(finding.basis)
                self.assertNotRegex(finding.title + finding.message, r"!|\{|nan|inf\b")

    def test_its_remedy_settles_it(self):
        tried = 0
        for code, design in CASES.items():
            finding = next(entry for entry in findings_of(code, design) if entry.code == code)
            if finding.remedy is None:
                continue
            tried += 1
            with self.subTest(code):
                design_after = moved(design, {change.path: change.value for change in finding.remedy.changes})
                self.assertNotIn(code, [entry.code for entry in findings_of(code, design_after)])
        self.assertGreater(tried, 12)

    def test_every_code_in_the_source_has_a_case(self):
        from pathlib import Path

        import hearthkeep.core.checks as checks

        # Those of the trials are asked for apart, and tested with them.
        files = [path for path in Path(checks.__file__).parent.glob("*.py") if path.name != "trials.py"]
        source = "".join(path.read_text() for path in files)
        codes = set(re.findall(r'code="([A-Z_]+)"', source))
        # Codes chosen by a condition, or set together with their severity.
        for pattern in (
            r'code="[A-Z_0-9]+" if [^,]*? else "([A-Z_0-9]+)"',
            r'code, severity, title = "([A-Z_]+)"',
            r'"([A-Z_]+)" if enough else "[A-Z_]+"',
        ):
            codes |= set(re.findall(pattern, source))
        self.assertEqual(codes - CASES.keys(), set())


class Severities(unittest.TestCase):
    def severity(self, design: Design, code: str) -> Severity:
        return next(finding.severity for finding in assess(design).findings if finding.code == code)

    def test_what_can_hurt_someone_is_a_stop(self):
        self.assertEqual(self.severity(CASES["FLOODED_IN_LIVING_SPACE"], "FLOODED_IN_LIVING_SPACE"), Severity.STOP)
        self.assertEqual(self.severity(CASES["CHARGE_LIMIT"], "CHARGE_LIMIT"), Severity.STOP)
        self.assertEqual(self.severity(birchrow(), "LIFE_EQUIPMENT"), Severity.STOP)

    def test_ventilation_settles_lead_acid(self):
        codes = [
            finding.code
            for finding in assess(changed(CASES["LEAD_ACID_UNVENTILATED"], bank={"ventilated": True})).findings
        ]
        self.assertNotIn("LEAD_ACID_UNVENTILATED", codes)

    def test_temperatures_follow_the_practice(self):
        cold = changed(birchrow(), bank={"temp_c": -5.0})
        text = next(finding.message for finding in assess(cold).findings if finding.code == "LFP_NO_CHARGE_IN_COLD")
        self.assertIn("23 °F", text)

    def test_a_typical_limit_is_worth_knowing_and_a_data_sheet_s_is_kept(self):
        for code, field in (("CHARGE_LIMIT", "unit_max_charge_a"), ("RATING_OVER_BANK", "unit_max_discharge_a")):
            with self.subTest(code):
                typical = moved(CASES[code], {f"bank.{field}": None, "bank.unit_ah": 60.0})
                self.assertEqual(self.severity(typical, code), Severity.MIND)
        self.assertEqual(self.severity(CASES["RATING_OVER_BANK"], "RATING_OVER_BANK"), Severity.MEND)


class WhatIsSaid(unittest.TestCase):
    """Sentences that were wrong or noise."""

    def told(self, code: str, design: Design):
        return next((entry for entry in assess(design).findings if entry.code == code), None)

    def test_a_furnace_blower_is_not_useless_apart_from_itself(self):
        self.assertIsNone(self.told("HEATING_NOT_LINKED", simple(load("Furnace blower", 300))))
        self.assertIn(
            "Oil furnace and Furnace blower",
            self.told("HEATING_NOT_LINKED", simple(load("Oil furnace", 200), load("Furnace blower", 300))).message,
        )

    def test_a_unit_of_both_legs_is_not_told_of_single_ones(self):
        pump = simple(
            load("well pump", 900, supply="ac240"), site={"service": "120/240"}, inverter={"output": "120/240"}
        )
        self.assertIn("gives both", self.told("NEEDS_BOTH_LEGS", pump).message)
        self.assertNotIn("cannot run", self.told("NEEDS_BOTH_LEGS", pump).message)

    def test_a_cart_is_not_asked_for_a_second_inverter(self):
        self.assertIsNone(self.told("ONE_FAULT", changed(CASES["ONE_FAULT"], kind="portable")))

    def test_one_fault_is_not_carried_and_dead_at_once(self):
        design = simple(load("lamp", 10, tier="life", supply="dc"), load("tv", 10, tier="ease"))
        found = self.told("ONE_FAULT_CARRIED", design)
        self.assertIn("Life and Keep run on direct current", found.message)

    def test_lead_acid_has_no_protection_that_opens(self):
        lead = moved(CASES["BANK_CURRENT_LIMIT"], {"bank.chemistry": "agm", "bank.depth_frac": 0.5})
        self.assertNotIn("protection", self.told("BANK_CURRENT_LIMIT", lead).message)
        self.assertIn("protection opens", self.told("BANK_CURRENT_LIMIT", CASES["BANK_CURRENT_LIMIT"]).message)

    def test_the_page_and_the_finding_name_the_same_amps(self):
        design = CASES["BANK_CURRENT_LIMIT"]
        page_a = assess(design).inverter.peak_current_a
        self.assertIn(f"{page_a:.0f} A", self.told("BANK_CURRENT_LIMIT", design).message)

    def test_headroom_far_above_the_peak_is_told_in_times(self):
        message = self.told("HEADROOM", simple(load("a", 10), inverter={"rated_w": 1500.0})).message
        self.assertIn("150 times the peak", message)

    def test_counts_and_articles(self):
        one = self.told("BELOW_NEED", CASES["BELOW_NEED"])
        self.assertIn("1 is there", one.title)
        big = self.told("PEAK_OVER_RATING", simple(load("a", 6500), inverter={"rated_w": 500.0}))
        self.assertEqual(big.remedy.label, "Try an 8 kW unit")

    def test_without_sun_none_is_spilled(self):
        frozen = CASES["LFP_NO_CHARGE_IN_COLD"]
        self.assertNotIn("spilled", self.told("LFP_NO_CHARGE_IN_COLD", frozen).message)
        sunny = simple(load("a", 10), arrays=(array("p", 100),), bank={"temp_c": -5.0})
        self.assertIn("spilled", self.told("LFP_NO_CHARGE_IN_COLD", sunny).message)

    def test_snow_lies_with_nobody_at_home_too(self):
        days = [{"sky": "covered", "air_temp_c": -5.0, "away": True}]
        empty = changed(CASES["SNOW_LIES"], outage={**CASES["SNOW_LIES"].outage.model_dump(mode="json"), "days": days})
        found = self.told("SNOW_LIES", empty)
        self.assertIn("nobody is at home", found.message)
        self.assertEqual(found.remedy.label, "Try them steep enough to shed it")

    def test_vented_cells_never_stand_where_people_live_ventilated_or_not(self):
        for chemistry in ("flooded", "starter"):
            bank = {**LEAD, "chemistry": chemistry, "place": "living_space", "ventilated": True}
            with self.subTest(chemistry):
                self.assertIsNotNone(self.told("FLOODED_IN_LIVING_SPACE", simple(load("a", 10), bank=bank)))

    def test_arrays_that_face_apart_count_by_what_the_sky_allows_at_once(self):
        # 500 W east and 500 W west: never a kilowatt at once, and below the limit that their watts alone would pass.
        apart = (array("e", 500, azimuth_deg=90.0, tilt_deg=60.0), array("w", 500, azimuth_deg=270.0, tilt_deg=60.0))
        design = simple(load("a", 10), arrays=apart, bank={"unit_max_charge_a": 70.0})
        self.assertIsNone(self.told("CHARGE_LIMIT", design))
        together = simple(load("a", 10), arrays=(array("s", 1000),), bank={"unit_max_charge_a": 70.0})
        self.assertIsNotNone(self.told("CHARGE_LIMIT", together))
        # No clear day of the year brings more than is counted.
        sums, volts = assess(design).charging, rate(design.bank).volts
        self.assertGreaterEqual(
            source_currents(design, volts)[0].current_a * volts.charging_v, max(sums.curve.together_w) * 0.97
        )


class AtTheBanksVolts(unittest.TestCase):
    def test_seventy_amps_pass_two_kilowatts_at_24_volts(self):
        # 70 A at 28.8 V: 2,016 W pass, and nothing is said to be spilled that a real controller lets through.
        bank = {"chemistry": "agm", "unit_v": 12.0, "series": 2, "depth_frac": 0.5, "cutoff_soc_frac": 0.2}
        sunny = simple(load("a", 10), arrays=(array("p", 4000, vmp_v=60.0),), controller={"output_a": 70.0}, bank=bank)
        self.assertAlmostEqual(max(assess(sunny).charging.curve.together_w), 2016.0, places=1)
