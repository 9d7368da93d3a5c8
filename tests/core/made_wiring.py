"""Designs for the wiring's tests: one with everything in it, and any home with things set on its runs."""

from __future__ import annotations

import json
from typing import Any

from hypothesis import strategies as st

from hearthkeep.core.bank import rate
from hearthkeep.core.design import ArrangementKind, Design
from hearthkeep.core.wiring import wiring_plan
from tests.core.made import PANEL_60 as PANEL_SMALL
from tests.core.made import PANEL_400, home, panels
from tests.strategies import designs, sources, with_sources
from tests.support.designs import array, load, moved


def everything() -> Design:
    """Two arrays on one controller and one on another, paired inverters, a generator and a coupled array; one load on direct current."""
    design = home()
    values = design.model_dump(mode="json")
    values["wiring"] = {}
    values["inverter"] |= {"units": 2, "output": "120/240_pair", "rated_w": 3000.0, "surge_w": 6000.0}
    values["loads"].append(load("freezer on DC", 60.0, supply="dc"))
    values["charging"]["controllers"] = [
        {"id": "roof", "name": "Roof controller", "kind": "mppt", "output_a": 80.0, "max_input_v": 250.0,
         "arrays": [panels("south", PANEL_SMALL, 4, 3), panels("west", PANEL_400, 5, 1)]},
        {"id": "wall", "name": "Wall controller", "kind": "mppt", "output_a": 30.0, "max_input_v": 150.0,
         "arrays": [panels("wall", PANEL_400, 3, 2)]},
    ]  # fmt: skip
    values["charging"]["grid_tied"] = {"rated_w": 5000.0, "arrays": [array("old", 5200.0, name="Old array")]}
    values["transfer"] |= {"arrangement": "ac_coupled", "device": {"bypass": "interlocked", "positions": 10}}
    return Design.model_validate_json(json.dumps(values))


@st.composite
def wired_homes(draw: st.DrawFn) -> Design:
    """Any design whose runs count, in both practices, with any arrangement and whatever is set on its runs."""
    design = with_sources(draw(designs(tiers=("life", "keep", "ease", "spare"))), draw(sources()))
    fields: dict[str, Any] = {
        "wiring": {"ambient_c": draw(st.sampled_from([10.0, 30.0, 45.0]))},
        "practice": draw(st.sampled_from(["metric_230", "north_american"])),
        "bank.unit_v": draw(st.sampled_from([12.0, 24.0, 48.0])),
        "bank.parallel": draw(st.sampled_from([1, 2, 5])),
        "bank.chemistry": draw(st.sampled_from(["lfp", "agm"])),
        "bank.takeoff": draw(st.sampled_from(["one_end", "equal_leads"])),
        "inverter.rated_w": draw(st.sampled_from([0.0, 800.0, 3000.0, 6000.0])),
        "inverter.surge_w": 12_000.0,
        "inverter.idle_w": 0.0,
        "inverter.efficiency_frac": 0.9,
        "inverter.units": draw(st.sampled_from([1, 1, 2, 3])),
        "inverter.build": draw(st.sampled_from(["separate", "inverter_charger", "all_in_one"])),
        "charging.grid_charger.output_w": draw(st.sampled_from([0.0, 1500.0])),
        "transfer.arrangement": draw(st.sampled_from([None, *(kind.value for kind in ArrangementKind)])),
    }
    if draw(st.booleans()):
        panel = panels("known", PANEL_400, draw(st.integers(1, 4)), draw(st.integers(1, 4)))
        controller = {"id": "known", "name": "Known", "kind": draw(st.sampled_from(["mppt", "pwm", "panel_fed"])),
                      "output_a": draw(st.sampled_from([20.0, 60.0])), "arrays": [panel]}  # fmt: skip
        fields["charging.controllers"] = [
            *(entry.model_dump(mode="json") for entry in design.charging.controllers),
            controller,
        ]
    if draw(st.integers(0, 2)) == 0:
        fields["charging.grid_tied"] = {"rated_w": 2500.0, "arrays": [array("tied", 2600.0), array("tied-2", 900.0)]}
    design = moved(design, fields)
    runs = [run.run.key for run in wiring_plan(design, rate(design.bank)).runs]
    return (
        moved(
            design,
            {
                "wiring.runs": [
                    draw(set_on(key)) for key in draw(st.lists(st.sampled_from(runs), max_size=3, unique=True))
                ]
            },
        )
        if runs
        else design
    )


@st.composite
def set_on(draw: st.DrawFn, key: str) -> dict[str, Any]:
    """Something set on a run, sensible or not."""
    fields: dict[str, st.SearchStrategy[Any]] = {
        "length_m": st.sampled_from([0.1, 3.0, 40.0, 1000.0]),
        "size": st.sampled_from(["14 AWG", "10 AWG", "2/0 AWG", "2.5 mm²", "35 mm²", "33 AWG"]),
        "device_a": st.sampled_from([2.0, 20.0, 100.0, 400.0]),
        "device": st.sampled_from(["class_t", "blade", "dc_breaker", "none"]),
        "per_pole": st.sampled_from([1, 2]),
        "unknown": st.sampled_from([["size"], ["device"], ["insulation", "terminals"]]),
        "disconnects": st.sampled_from(["none", "both"]),
        "ambient_c": st.sampled_from([-20.0, 60.0]),
        "bundled": st.sampled_from([1, 6, 40]),
    }
    picked = draw(st.lists(st.sampled_from(sorted(fields)), min_size=1, max_size=4, unique=True))
    return {"run": key, **{name: draw(fields[name]) for name in picked}}
