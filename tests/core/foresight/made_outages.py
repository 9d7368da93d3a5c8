"""Made-up houses in made-up storms, drawn from a seed: what Watch is tried on."""

from __future__ import annotations

import json
import random

from hearthkeep.core.design import Design
from tests.support.designs import array, load, simple

SKIES = ("clear", "broken", "overcast", "covered")


def made_house(seed: int, *, hours: float = 72.0, step_min: int = 30, generator: bool | None = None) -> Design:
    """A house with loads of every tier, sun, snow, and often a generator, in a storm of some days."""
    dice = random.Random(seed)
    loads = [
        load("heart", dice.uniform(10, 60), tier="life"),
        load("fridge", dice.uniform(60, 150), duty_frac=dice.uniform(0.2, 0.5)),
        load("boiler", dice.uniform(40, 150), hours=[[5, 9], [16, 22]]),
        load("tv", dice.uniform(40, 200), tier="ease", hours=[[17, 23]]),
        load("desk", dice.uniform(30, 120), tier="ease", hours=[[9, 16]]),
        load("wash", dice.uniform(200, 600), tier="spare", hours=[[10, 15]]),
    ]
    sky = tuple(dice.choice(SKIES) for _ in range(int(hours // 24) + 2))
    with_generator = dice.random() < 0.6 if generator is None else generator
    start = dice.uniform(0.15, 0.4)
    design = simple(
        *loads,
        arrays=(array("roof", dice.uniform(300, 2500), snow=dice.choice(["lies", "slides", "swept"]), swept_hour=9),),
        sky=sky,
        controller={"output_a": 200.0},
        outage={
            "start": dice.choice(["2026-01-15T17:00:00", "2026-03-03T06:30:00", "2026-10-03T12:00:00"]),
            "duration_h": hours,
        },
        bank={
            "unit_ah": dice.uniform(150, 600),
            "start_soc_frac": dice.uniform(0.6, 1.0),
            "depth_frac": dice.choice([0.8, 0.9]),
            "cutoff_soc_frac": 0.1,
            "unit_max_charge_a": 150.0,
            "unit_max_discharge_a": 500.0,
        },
        inverter={"rated_w": 3000.0, "surge_w": 6000.0, "idle_w": dice.choice([0.0, 20.0]), "efficiency_frac": 0.9},
        policy={"ease_level_frac": dice.choice([0.3, 0.5]), "keep_level_frac": dice.choice([0.2, 0.3])},
        simulation={"time_step_min": step_min},
    )
    values = design.model_dump(mode="json")
    for day in values["outage"]["days"]:
        day |= {"air_temp_c": dice.choice([-4.0, 5.0]), "fuel": dice.random() < 0.2}
    if with_generator:
        values["charging"]["generator"] = {
            "rated_w": 2500.0,
            "stock_l": dice.uniform(3, 20),
            "charger_w": dice.choice([400.0, 1200.0]),
            "start_soc_frac": start,
            "stop_soc_frac": start + 0.4,
            "min_run_h": dice.choice([0.0, 1.0]),
            "quiet_hours": dice.choice([[], [[0, 7], [22, 24]]]),
            "by_hand": dice.random() < 0.6,
            "charges_only": dice.random() < 0.3,
        }
    return Design.model_validate_json(json.dumps(values))


def other_skies(design: Design, seed: int) -> Design:
    """The same storm as it really comes: days that were foretold wrong, the more the further ahead they lie."""
    dice = random.Random(seed)
    values = design.model_dump(mode="json")
    for number, day in enumerate(values["outage"]["days"]):
        if dice.random() < min(0.15 + 0.1 * number, 0.5):
            at = SKIES.index(day["sky"]) + dice.choice([-1, 1])
            day["sky"] = SKIES[min(max(at, 0), 2 if day["air_temp_c"] > 1 else 3)]
    return Design.model_validate_json(json.dumps(values))
