"""Installations as they stand: made well, which a competent electrician would pass, and made ill, each by one thing."""

from __future__ import annotations

from typing import Any

from hearthkeep.core.design import SCHEMA_VERSION, Design, read_design
from tests.support.designs import array, load, moved

PANEL_200 = {"name": "Panel 200", "stc_w": 200.0, "voc_v": 24.3, "vmp_v": 20.4, "isc_a": 10.2, "imp_a": 9.8,
             "voc_temp_coeff_per_c": -0.003, "series_fuse_a": 15.0}  # fmt: skip
SITE = {"place": "Birchrow", "latitude_deg": 44.0, "longitude_deg": -75.0, "utc_offset_h": -5.0, "record_low_c": -15.0}


def built(*loads: dict[str, Any], **parts: Any) -> Design:
    """A design of which only the parts named matter here."""
    base: dict[str, Any] = {
        "schema_version": SCHEMA_VERSION,
        "name": "As built",
        "kind": "home",
        "practice": "north_american",
        "site": {**SITE, "service": "120"},
        "outage": {"start": "2026-02-10T18:00:00", "duration_h": 24.0, "days": [{"sky": "overcast", "air_temp_c": 5.0}]},
        "loads": list(loads) or [load("lamps", 60.0)],
        "bank": {"chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100.0, "series": 1, "parallel": 1, "depth_frac": 0.9,
                 "cutoff_soc_frac": 0.1, "place": "utility_room", "temp_c": 20.0, "unit_max_discharge_a": 100.0,
                 "unit_max_charge_a": 50.0},
        "inverter": {"rated_w": 2400.0, "surge_w": 4800.0, "idle_w": 20.0, "efficiency_frac": 0.93, "low_cutoff_v": 46.0,
                     "build": "separate"},
        "wiring": {},
    }  # fmt: skip
    for name, value in parts.items():
        base[name] = {**base.get(name, {}), **value} if isinstance(value, dict) else value
    return read_design(base)


def run(key: str, **fields: Any) -> dict[str, Any]:
    return {"run": key, **fields}


def known(unit: str, mohm: float, **sheet: Any) -> dict[str, Any]:
    return {"name": unit, "internal_resistance_mohm": mohm, **sheet}


def cart() -> Design:
    """(a) 12 V 200 Ah cart, 2,000 W, fine-strand leads, one class T, a ten-way block behind 60 A, two panels in series."""
    branches = [("lamp", 12.0, 5.0, "18 AWG"), ("fan", 24.0, 5.0, "16 AWG"), ("radio", 60.0, 15.0, "14 AWG")]
    controller = {"id": "sun", "name": "Controller", "kind": "mppt", "output_a": 30.0, "max_input_v": 100.0,
                  "arrays": [array("deck", 400.0, name="Deck", module=PANEL_200, series=2)]}  # fmt: skip
    return built(
        *(load(name, watts, supply="dc", tier="keep") for name, watts, _, _ in branches),
        load("kettle", 1200.0, tier="ease", hours=[[7, 8]], duty_frac=0.2),
        kind="portable",
        bank={"unit_v": 12.8, "unit_ah": 200.0, "unit": known("Block", 2.0), "unit_max_discharge_a": 250.0},
        inverter={"rated_w": 2000.0, "surge_w": 4000.0, "efficiency_frac": 0.9, "low_cutoff_v": 10.8},
        charging={"controllers": [controller]},
        wiring={
            "vehicle": True,
            "blocks": [{"id": "ways", "name": "Ten-way block", "loads": [name for name, *_ in branches]}],
            "runs": [
                run("bank", size="2/0 AWG", length_m=0.6, device="class_t", device_a=300.0),
                run("inverter-1", size="2/0 AWG", length_m=0.6, device="none"),
                run("controller-sun", size="8 AWG", length_m=1.0, device="class_t", device_a=40.0),
                run("array-deck", size="10 AWG", length_m=5.0, method="free_air", disconnects="load"),
                run("feed-ways", size="6 AWG", length_m=0.5, device="class_t", device_a=60.0),
                *(
                    run(f"branch-{name}", size=size, length_m=1.5, device="blade", device_a=amps)
                    for name, _, amps, size in branches
                ),
            ],
        },
    )


def one_block() -> Design:
    """(b) One 51.2 V 100 Ah block, class T 125 A, 2/0 to a 2,400 W inverter without a second fuse."""
    return built(
        bank={"unit": known("Block", 10.0)},
        wiring={
            "runs": [
                run("bank", size="2/0 AWG", length_m=0.6, device="class_t", device_a=125.0),
                run("inverter-1", size="2/0 AWG", length_m=0.8, device="none"),
            ]
        },
    )


def two_blocks() -> Design:
    """(c) Two 51.2 V 100 Ah blocks, each with its breaker and a class T on 2 AWG; 3.5 kW all-in-one behind one breaker."""
    return built(
        bank={"parallel": 2, "takeoff": "equal_leads", "unit": known("Block", 10.0), "unit_breaker_a": 125.0,
              "unit_breaker_interrupt_a": 6000.0},
        inverter={"rated_w": 3500.0, "surge_w": 7000.0, "build": "all_in_one"},
        wiring={
            "bus": "posts",
            "runs": [
                run("string-leads", size="2 AWG", length_m=0.6, device="class_t", device_a=125.0),
                run("inverter-1", size="2/0 AWG", length_m=1.0, device="dc_breaker", device_a=125.0),
            ],
        },
    )  # fmt: skip


def next_size(terminal_c: int) -> Design:
    """(d) 53 A on 6 AWG behind 60 A: 2,300 W of 43.4 A, × 1.25 54.2; at 46 V and 93 %."""
    watts = 53.0 / 1.25 * 46.0 * 0.93
    return built(
        inverter={"rated_w": watts, "surge_w": 2 * watts},
        bank={"unit": known("Block", 10.0)},
        wiring={
            "runs": [
                run("bank", size="6 AWG", length_m=0.5, device="class_t", device_a=60.0, terminal_c=terminal_c),
                run("inverter-1", size="6 AWG", length_m=0.5, device="none", terminal_c=terminal_c),
            ]
        },
    )


def one_leg() -> Design:
    """(e) A 3 kW unit of 120 V, 25 A, 30 A breaker, 10 AWG, all on leg A of a split panel."""
    return built(
        load("lamps", 60.0, circuit="a1"),
        site={"service": "120/240"},
        inverter={"rated_w": 3000.0, "surge_w": 6000.0, "output": "120", "build": "inverter_charger"},
        bank={"unit_ah": 200.0, "unit": known("Block", 6.0), "unit_max_discharge_a": 150.0},
        transfer={
            "arrangement": "critical_panel",
            "device": {"positions": 8, "rated_a": 50.0, "feed": "leg_a", "feeder_a": 30.0, "feeder_wire": "10 AWG"},
            "circuits": [
                {"id": "a1", "slot": 1, "name": "Lamps", "breaker_a": 15.0, "wire": "14 AWG", "backed_up": True}
            ],
            "main": {"slots": 20, "bus_a": 200.0, "main_a": 100.0},
            "grounding": {"source_bond": "floating"},
            "labels_in_place": True,
        },
        wiring={"runs": [run("panel", size="10 AWG", device_a=30.0, terminal_c=75)]},
    )


def two_units() -> Design:
    """(f) Two 16 kWh blocks of unknown resistance, each with breaker and class T, two 8 kW units of 230 V."""
    return built(
        practice="metric_230",
        site={"service": "230"},
        bank={"unit_ah": 314.0, "parallel": 2, "takeoff": "equal_leads", "unit_max_discharge_a": 250.0,
              "unit_breaker_a": 250.0},
        inverter={"rated_w": 8000.0, "surge_w": 16_000.0, "units": 2, "output": "230"},
        wiring={
            "runs": [
                run("string-leads", size="95 mm²", length_m=0.6, device="class_t", device_a=250.0),
                run("inverter-1", size="95 mm²", length_m=1.0, device="class_t", device_a=250.0),
                run("inverter-2", size="95 mm²", length_m=1.0, device="class_t", device_a=250.0),
            ],
            "bus": "posts",
        },
    )  # fmt: skip


def without_bar() -> Design:
    """(g) Battery, breaker, PWM controller without a bar, its load terminals used."""
    module = {**PANEL_200, "stc_w": 100.0, "vmp_v": 18.0, "voc_v": 22.0, "imp_a": 5.6, "isc_a": 6.0}
    controller = {"id": "pwm", "name": "Controller", "kind": "pwm", "output_a": 20.0, "max_input_v": 50.0,
                  "arrays": [array("roof", 100.0, name="Panel", module=module)]}  # fmt: skip
    return built(
        load("lamp", 20.0, supply="dc", tier="keep"),
        kind="portable",
        bank={
            "chemistry": "agm",
            "unit_v": 12.0,
            "unit_ah": 100.0,
            "unit": known("Block", 6.0),
            "depth_frac": 0.5,
            "cutoff_soc_frac": 0.2,
        },
        inverter={"rated_w": 0.0, "surge_w": 0.0, "idle_w": 0.0},
        charging={"controllers": [controller]},
        wiring={
            "bus": "posts",
            "vehicle": True,
            "runs": [
                run("controller-pwm", size="10 AWG", length_m=0.8, device="dc_breaker", device_a=20.0),
                run("array-roof", size="12 AWG", length_m=3.0, disconnects="load"),
                run("branch-lamp", size="14 AWG", length_m=3.0, device="none", fed_from="load_terminals"),
            ],
        },
    )


def one_fan() -> Design:
    """(h) One small inverter of 230 V that feeds one fan by its own outlet."""
    return built(
        load("fan", 40.0, tier="ease"),
        kind="portable",
        practice="metric_230",
        site={"service": "230"},
        bank={"unit_v": 12.8, "unit_ah": 50.0, "unit": known("Block", 4.0), "unit_max_discharge_a": 50.0},
        inverter={
            "rated_w": 300.0,
            "surge_w": 600.0,
            "efficiency_frac": 0.88,
            "low_cutoff_v": 10.8,
            "idle_w": 5.0,
            "output": "230",
        },
        transfer={"arrangement": "portable_metric"},
        wiring={"vehicle": True},
    )


def set_points(chemistry: str, unit_v: float, series: int, **stages: Any) -> Design:
    """(i) Set points that are a choice."""
    return built(
        load("lamps", 6.0),
        bank={"chemistry": chemistry, "unit_v": unit_v, "unit_ah": 100.0, "series": series, "depth_frac": 0.5,
              "cutoff_soc_frac": 0.2, "ventilated": True, "unit_max_discharge_a": None, "unit_max_charge_a": None},
        inverter={"rated_w": 300.0, "surge_w": 600.0, "low_cutoff_v": 0.9 * unit_v * series, "idle_w": 5.0},
        charging={"stages": stages},
    )  # fmt: skip


WELL_MADE: dict[str, Design] = {
    "a cart": cart(),
    "b one block": one_block(),
    "c two blocks": two_blocks(),
    "d 75 degrees": next_size(75),
    "d 60 degrees": next_size(60),
    "e one leg": one_leg(),
    "f two units": two_units(),
    "g without a bar": without_bar(),
    "h one fan": one_fan(),
    "i absorb at 3.45 V a cell": set_points("lfp", 51.2, 1, absorb_v=55.2),
    "i absorb of AGM at 28.4 V": set_points("agm", 12.0, 2, absorb_v=28.4),
    "i never equalised": set_points("flooded", 12.0, 1, never_equalised=True, over_voltage_v=15.2),
}


def pwm(strings: int) -> Design:
    """So many strings of 8.5 A on a PWM controller of 30 A."""
    module = {**PANEL_200, "isc_a": 8.5, "imp_a": 8.1}
    return moved(
        without_bar(),
        {"charging.controllers.0": {"id": "pwm", "name": "Controller", "kind": "pwm", "output_a": 30.0,
                                    "arrays": [array("roof", 165.0 * strings, name="Panels", module=module, strings=strings)]}},
    )  # fmt: skip


def in_string(device_a: float | None) -> Design:
    """Panels of 12 A in one string, with a fuse that nobody needs."""
    module = {**PANEL_200, "isc_a": 12.0, "imp_a": 11.5, "stc_w": 234.6}
    fields = {"charging.controllers.0.arrays.0.module": module, "charging.controllers.0.arrays.0.stc_w": 469.2}
    design = moved(cart(), fields)
    return (
        design
        if device_a is None
        else moved(design, {"wiring.runs.3.device_a": device_a, "wiring.runs.3.device": "solar_fuse"})
    )


def six_blocks(device_a: float) -> Design:
    """Six blocks of 12 V side by side, 150 A together: 25 A a lead, 30 with one out."""
    return moved(
        cart(),
        {
            "bank.parallel": 6, "bank.takeoff": "equal_leads", "bank.unit_max_discharge_a": 100.0,
            "inverter.rated_w": 1350.0, "loads": [load("lamp", 20.0)], "wiring.blocks": [],
            "wiring.runs": [
                run("bank", size="2/0 AWG", length_m=0.6, device="class_t", device_a=300.0),
                run("inverter-1", size="2/0 AWG", length_m=0.6, device="none"),
                run("string-leads", size="2 AWG", length_m=0.6, device="class_t", device_a=device_a),
            ],
        },
    )  # fmt: skip


def on_bus(device: str, device_a: float) -> Design:
    """A branch straight on the bus of a lithium bank, behind 300 A only."""
    branch = run("branch-radio", size="14 AWG", length_m=1.5, device=device, device_a=device_a)
    design = cart()
    runs = [entry.model_dump(mode="json") for entry in design.wiring.runs if entry.run != "branch-radio"]
    return moved(
        design,
        {"wiring.blocks": [{"id": "ways", "name": "Ways", "loads": ["lamp", "fan"]}], "wiring.runs": [*runs, branch]},
    )


def pwm_input(size: str) -> Design:
    """A PWM controller whose solar input is fused at 40 A."""
    return moved(
        pwm(2),
        {
            "wiring.runs": [
                run("controller-pwm", size="6 AWG", length_m=0.8, device="dc_breaker", device_a=60.0),
                run(
                    "array-roof",
                    size=size,
                    length_m=3.0,
                    device="dc_breaker",
                    device_a=40.0,
                    disconnects="load",
                    method="raceway",
                ),
            ]
        },
    )


def in_series(boards: int) -> Design:
    """Blocks of 12.8 V in series, of which two are allowed."""
    sheet = known("Block", 3.0, max_series=2)
    return built(bank={"unit_v": 12.8, "series": boards, "unit": sheet}, inverter={"rated_w": 400.0, "surge_w": 800.0,
                 "low_cutoff_v": 11.0 * boards})  # fmt: skip


def pair(units: int) -> Design:
    """Units of 120 V that make 120/240 V together."""
    return built(
        load("fridge", 100.0, tier="keep"),
        site={"service": "120/240"},
        inverter={"rated_w": 2000.0, "surge_w": 4000.0, "units": units, "output": "120/240_pair"},
        bank={"unit_ah": 300.0, "unit": known("Block", 5.0), "unit_max_discharge_a": 300.0},
    )


def on_roof(rapid_shutdown: bool | None) -> Design:
    """Four panels of a house on its roof."""
    roof = array(
        "roof", 800.0, name="Roof", module=PANEL_200, series=4, mounting="building", rapid_shutdown=rapid_shutdown
    )
    controller = {"id": "sun", "name": "Controller", "kind": "mppt", "output_a": 20.0, "max_input_v": 150.0, "ground_fault": True,
                  "arc_fault": True, "arrays": [roof]}  # fmt: skip
    return moved(one_block(), {"charging.controllers": [controller]})


def at_the_panel(**fields: Any) -> Design:
    """The unit of 120 V on a split panel, something of the panel entered."""
    return moved(one_leg(), {f"transfer.{name}": value for name, value in fields.items()})


#: By name: the code it must raise, a figure that must stand in its message, the ill-made design, and the well-made one a field away.
ILL_MADE: dict[str, tuple[str, str, Design, Design]] = {
    "85 A of panels on a PWM of 30": ("PWM_OVERLOADED", "106.2 A", pwm(10), pwm(2)),
    "two blocks without a device in their leads": (
        "NO_DEVICE", "string drives", moved(two_blocks(), {"wiring.runs.0.device": "none", "bank.unit_breaker_a": None}), two_blocks(),
    ),
    "15 A in a string of 12 A": ("DEVICE_TOO_SMALL", "1.56 × 12.0 A = 18.8 A", in_string(15.0), in_string(20.0)),
    "5 A in a string of 12 A": ("DEVICE_TOO_SMALL", "1.56 × 12.0 A = 18.8 A", in_string(5.0), in_string(None)),
    # 3,500 W at 46 V and 93 %: 81.8 A, 40.9 in each of two leads.
    "20 A in a lead that carries 41": ("DEVICE_TOO_SMALL", "carries 41 A", moved(two_blocks(), {"wiring.runs.0.device_a": 20.0}), two_blocks()),
    "six blocks on 32 A": ("LEADS_OPEN_IN_TURN", "× 1.25", six_blocks(32.0), six_blocks(40.0)),
    "a blade fuse on a lithium bus": ("CANNOT_BREAK_FAULT", "it breaks 1,000 A", on_bus("blade", 10.0), on_bus("class_t", 15.0)),
    "40 A on 10 AWG at the input of a PWM": ("DEVICE_TOO_LARGE", "40 A", pwm_input("10 AWG"), pwm_input("6 AWG")),
    "a second unit of a pair as a spare": ("ONE_FAULT", "no spare", pair(2), pair(4)),
    "a roof without rapid shutdown": ("NO_RAPID_SHUTDOWN", "30 V within 30 s", on_roof(False), on_roof(True)),
    "the utility's 125 A before a main of 80": (
        "RATINGS_IN_SERIES", "125 A stands before a main of 80 A", at_the_panel(**{"main.utility_a": 125.0, "main.main_a": 80.0, "main.bus_a": 100.0}),
        at_the_panel(**{"main.utility_a": 125.0, "main.main_a": 80.0, "main.bus_a": 125.0}),
    ),
    "outlets of 15 A behind 25": (
        "OUTLETS_TOO_SMALL", "outlets of 15 A", at_the_panel(**{"circuits.0.breaker_a": 25.0, "circuits.0.wire": "10 AWG", "circuits.0.outlets_a": 15.0}),
        at_the_panel(**{"circuits.0.breaker_a": 20.0, "circuits.0.wire": "10 AWG", "circuits.0.outlets_a": 15.0}),
    ),
    "an inlet of 30 A behind 35": (
        "OUTLETS_TOO_SMALL", "an inlet of 30 A behind 35 A", at_the_panel(**{"device.inlet_a": 30.0, "device.feeder_a": 35.0, "device.feeder_wire": "8 AWG"}),
        at_the_panel(**{"device.inlet_a": 30.0}),
    ),
    # 2,400 W at 46 V and 93 % are 56.1 A.
    "a plug of 50 A in a lead of 56": (
        "CONTACTS_TOO_SMALL", "56.1 A", moved(one_block(), {"wiring.runs.1.opened_by": "plug", "wiring.runs.1.contact_a": 50.0}),
        moved(one_block(), {"wiring.runs.1.opened_by": "plug", "wiring.runs.1.contact_a": 57.0}),
    ),
    # 54.4 V over 10 mΩ; a class T fuse in the lead limits it, a breaker does not.
    "built-in breakers of 5 kA with no fuse behind them": (
        "BUILT_IN_CANNOT_BREAK", "5,440 A", moved(two_blocks(), {"bank.unit_breaker_interrupt_a": 5000.0, "wiring.runs.0.device": "dc_breaker"}),
        moved(two_blocks(), {"bank.unit_breaker_interrupt_a": 5000.0}),
    ),
    "four boards in series where two are allowed": ("OVER_SERIES_LIMIT", "allows 2", in_series(4), in_series(2)),
}  # fmt: skip
