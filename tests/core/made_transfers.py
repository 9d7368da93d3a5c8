"""A well-made and an ill-made change-over for each arrangement: which finding each must raise, and no other Stop or Mend."""

from __future__ import annotations

from typing import Any

from hearthkeep.core.design import Design
from tests.core.made import cart, flat, home, rack
from tests.support.designs import array, load, moved


def circuit(slot: int, breaker_a: float = 15.0, **fields: Any) -> dict[str, Any]:
    """A backed-up circuit of one pole, on a wire that suits its breaker."""
    wire = {15.0: "14 AWG", 20.0: "12 AWG", 30.0: "10 AWG"}.get(breaker_a)
    return {
        "id": f"c{slot}",
        "slot": slot,
        "name": f"circuit {slot}",
        "breaker_a": breaker_a,
        "wire": wire,
        "backed_up": True,
        **fields,
    }


#: Slots 1 and 2 lie on leg A, 3 and 4 on leg B.
CIRCUITS = [circuit(1), circuit(3, 20.0), circuit(4), circuit(2), circuit(6)]
SAFE = {"device": {"bypass": "interlocked"}, "grounding": {"source_bond": "floating"}}


def house(arrangement: str, *, base: Design | None = None, **parts: Any) -> Design:
    """The well-made home switched over in some way: its five loads on five circuits, labels in place."""
    design = home() if base is None else base
    on = {row.id: f"c{slot}" for row, slot in zip(design.loads, (1, 3, 4, 2, 6), strict=False)}
    transfer = {"arrangement": arrangement, "circuits": CIRCUITS, "labels_in_place": True, **SAFE, **parts}
    loads = [{**row.model_dump(mode="json"), "circuit": on.get(row.id)} for row in design.loads]
    return moved(design, {"transfer": transfer, "loads": loads})


def metric_flat(**fields: Any) -> Design:
    """The 230 V flat beside its grid-tied array."""
    return moved(
        flat(),
        {
            "transfer": {
                "arrangement": "ac_coupled",
                "circuits": [circuit(1, 16.0, wire="2.5 mm²"), circuit(2, 10.0, wire="1.5 mm²")],
                "labels_in_place": True,
                **SAFE,
            },
            "loads.0.circuit": "c1",
            "loads.1.circuit": "c2",
            "loads.2.circuit": "c2",
            "charging.grid_tied": {"rated_w": 1000.0, "arrays": [array("roof", 1200.0)]},
            **fields,
        },
    )


def cords() -> Design:
    """A home's plugged loads on cords from its unit."""
    wired = {f"loads.{at}.hard_wired": False for at in range(5)}
    return moved(house("cords"), {"transfer.circuits": [], "transfer.grounding.source_bond": "floating", **wired})


def metric_cart() -> Design:
    """The relay cart on cords, its loads on 230 V."""
    return moved(
        cart(),
        {
            "loads": [load("radio", 20, supply="ac"), load("lamps", 28, tier="ease", supply="ac", hours=[[18, 23]])],
            "transfer": {
                "arrangement": "portable_metric",
                "labels_in_place": True,
                "grounding": {"source_bond": "relay", "residual_current": True},
            },
        },
    )


def all_in_one() -> Design:
    """The home on an all-in-one that makes a supply of its own: it bonds."""
    design = house("moved_circuits", grounding={"source_bond": "bonded"})
    return moved(design, {"inverter.build": "all_in_one"})


def off_grid_home(**fields: Any) -> Design:
    """The well-made home with no grid: its inverter feeds the house's own panel, a generator at its input."""
    return moved(house("own_panel"), {"site.off_grid": True, "transfer.device.bypass": "none", **fields})


RIGHT = {
    "cords": cords,
    "inlet": lambda: house("inlet"),
    "manual_switch": lambda: house("manual_switch", device={"positions": 6, "position_a": 20.0}),
    "critical_panel": lambda: house("critical_panel", device={"bypass": "interlocked", "rated_a": 50.0}),
    "moved_circuits": all_in_one,
    "automatic": lambda: house("automatic"),
    "ac_coupled": metric_flat,
    "portable_metric": metric_cart,
    "own_panel": off_grid_home,
}

_240 = {"loads.4.supply": "ac240", "transfer.circuits.4": circuit(6, 20.0, poles=2)}

#: What goes wrong, the arrangement it starts from, the fields that spoil it, and every Stop or Mend it must raise.
WRONG: tuple[tuple[str, str, dict[str, Any], set[str]], ...] = (
    ("a cord with two plugs", "cords", {"transfer.device.into_outlet": True}, {"BACK_FEED"}),
    ("a boiler that is wired in, for somebody's life", "cords", {"loads.1.hard_wired": True, "loads.1.tier": "life"},
     {"LIFE_NOT_CARRIED"}),
    ("nobody there to plug in", "cords", {"outage.days.1.away": True}, {"NOBODY_SWITCHES"}),
    ("an inlet without interlock", "inlet", {"transfer.device.interlock": "none"}, {"BACK_FEED"}),
    ("an inlet on one leg", "inlet", {"inverter.output": "120"}, {"DEAD_CIRCUITS"}),
    ("an inlet from a bonded unit into a bonded house", "inlet", {"transfer.grounding.source_bond": "bonded"},
     {"NEUTRAL_BONDS"}),
    ("ground-fault outlets on a bonded unit", "inlet", {"transfer.grounding.source_bond": "bonded",
     "transfer.grounding.ground_fault_outlets": True}, {"NEUTRAL_BONDS", "GROUND_FAULT_TRIPS"}),
    ("six positions for seven poles", "manual_switch", {"transfer.device.positions": 4}, {"TOO_FEW_POSITIONS"}),
    ("a breaker above its position", "manual_switch", {"transfer.device.position_a": 15.0}, {"RATINGS_IN_SERIES"}),
    ("240 V from one 120 V supply", "manual_switch",
     {"inverter.output": "120", "transfer.device.feed": "bridged", "transfer.device.positions": 8, **_240}, {"DEAD_CIRCUITS"}),
    ("two circuits on one neutral from one 120 V supply", "manual_switch",
     {"inverter.output": "120", "transfer.device.feed": "bridged", "transfer.circuits.0.shares_neutral_with": "c3"},
     {"SHARED_NEUTRAL_OVERLOAD"}),
    ("both halves on leg A, one neutral", "manual_switch",
     {"transfer.circuits.0.shares_neutral_with": "c3", "transfer.circuits.1.backup_leg": "A", "transfer.device.positions": 10},
     {"SHARED_NEUTRAL_OVERLOAD"}),
    ("no way around the inverter for somebody's life", "critical_panel",
     {"transfer.device.bypass": "none", "loads.3.tier": "life", "loads.3.rides_s": 60.0}, {"NO_BYPASS"}),
    ("a bypass of two loose breakers", "critical_panel", {"transfer.device.bypass": "loose"}, {"BACK_FEED"}),
    ("the bonding screw left in", "critical_panel", {"transfer.grounding.panel_bond": True}, {"NEUTRAL_BONDS"}),
    ("a switched neutral and no bond behind it", "critical_panel", {"transfer.grounding.switches_neutral": True},
     {"NEUTRAL_BONDS"}),
    ("a relay too small for loads and charger", "critical_panel",
     {"transfer.device.rated_a": 21.0, "charging.grid_charger.output_w": 5000.0, "bank.parallel": 4}, {"PASS_THROUGH"}),
    ("an inverter that stands alone", "critical_panel", {"inverter.build": "separate"}, {"NO_RELAY"}),
    ("a generator at a breaker of the panel", "critical_panel", {"transfer.device.generator_at": "panel"},
     {"TWO_SUPPLIES", "BACK_FEED"}),
    ("a feeder breaker below the peak", "critical_panel", {"transfer.device.feeder_a": 1.5}, {"FEEDER_TRIPS"}),
    ("an inverter beyond the panel's bus", "inlet", {"transfer.main.bus_a": 20.0}, {"RATINGS_IN_SERIES"}),
    ("a wire under its breaker", "critical_panel", {"transfer.circuits.1.wire": "14 AWG"}, {"RATINGS_IN_SERIES"}),
    ("a fridge, a boiler and a heater on one breaker", "critical_panel",
     {"loads.1.circuit": "c1", "loads.2.circuit": "c1", "loads.2.running_w": 1700.0, "loads.2.duty_frac": 0.01}, {"CIRCUIT_OVERLOADED"}),
    ("a unit that does not bond what it alone feeds", "moved_circuits", {"transfer.grounding.source_bond": "floating"},
     {"NEUTRAL_BONDS"}),
    ("a critical panel where there is no grid", "critical_panel", {"site.off_grid": True}, {"NO_GRID_TO_SWITCH"}),
    ("a house's own panel where there is one", "own_panel", {"site.off_grid": False}, {"GRID_LEFT_OUT"}),
    ("two supplies at the house's own panel", "own_panel",
     {"transfer.device.generator_at": "panel", "transfer.device.interlock": "none"}, {"TWO_SUPPLIES"}),
    ("a bond in the panel and one in the unit", "own_panel", {"transfer.grounding.source_bond": "bonded"}, {"NEUTRAL_BONDS"}),
    ("more by itself than the supply carries", "automatic",
     {"loads.4.running_w": 3000.0, "loads.4.hours": [[1, 2]], "loads.2.running_w": 2500.0, "loads.2.hours": [[4, 5]],
      "transfer.circuits.2": circuit(4, 30.0), "transfer.circuits.4": circuit(6, 30.0)},
     {"AUTOMATIC_CAPACITY", "LEG_OVERLOADED"}),
    ("a metric wire under its breaker", "ac_coupled", {"transfer.circuits.0.breaker_a": 32.0}, {"RATINGS_IN_SERIES"}),
    ("an array larger than the battery inverter", "ac_coupled", {"charging.grid_tied.rated_w": 1250.0},
     {"GRID_TIED_OVER_INVERTER"}),
    ("an array larger than the bank takes", "ac_coupled", {"bank.unit_max_charge_a": 30.0, "charging.controllers.0.output_a": 10.0,
     "charging.grid_charger.output_w": 500.0}, {"GRID_TIED_OVER_BANK"}),
    ("nothing holds the array back", "ac_coupled", {"charging.grid_tied.throttle": "none"}, {"NO_THROTTLE"}),
    ("the array on the main panel", "ac_coupled", {"charging.grid_tied.on_backup_panel": False}, {"GRID_TIED_DARK"}),
    ("no array to couple", "ac_coupled", {"charging.grid_tied": None}, {"NO_GRID_TIED"}),
    ("no protection on the cart", "portable_metric", {"transfer.grounding.residual_current": False}, {"NO_RESIDUAL_CURRENT"}),
    ("a floating cart", "portable_metric", {"transfer.grounding.source_bond": "floating"}, {"NEUTRAL_BONDS"}),
)  # fmt: skip


def on_the_rack(**fields: Any) -> Design:
    """The home with 240 V loads, its array sending current back into a main panel of 200 A."""
    base = moved(
        rack(),
        {
            "charging.controllers": [],
            "charging.grid_tied": {"rated_w": 7000.0, "arrays": [array("roof", 8000.0)]},
            "bank.parallel": 4,
        },
    )
    main = {"bus_a": 200.0, "main_a": 200.0, "supply_breaker_a": 40.0}
    circuits = [circuit(9, 20.0, poles=2), *CIRCUITS[1:3], circuit(5), circuit(6)]
    on = ("c9", "c3", "c4", "c5", "c6")
    loads = [{**row.model_dump(mode="json"), "circuit": key} for row, key in zip(base.loads, on, strict=True)]
    transfer = {"arrangement": "ac_coupled", "circuits": circuits, "main": main, "labels_in_place": True, **SAFE}
    return moved(base, {"transfer": transfer, "loads": loads, **fields})
