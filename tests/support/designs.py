"""Small designs for tests: built from plain values, changed one field at a time."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from hearthkeep.core.design import Design, read_design

ROOT = Path(__file__).resolve().parents[2]
BIRCHROW = ROOT / "examples" / "birchrow-14.json"
CART = ROOT / "examples" / "relay-cart.json"


def birchrow() -> Design:
    """The demo home."""
    return read_design(BIRCHROW.read_bytes())


def in_the_evening(document: dict[str, Any]) -> dict[str, Any]:
    """The document of a design that stands where it is now about 19 o'clock, whenever the test is run: no sun, lamps on."""
    offset_h = float((19 - datetime.now(UTC).hour + 12) % 24 - 12)
    return {**document, "site": {**document["site"], "utc_offset_h": offset_h, "longitude_deg": 15.0 * offset_h}}


def load(load_id: str, running_w: float, **fields: Any) -> dict[str, Any]:
    """One load as plain values; Keep, all day, on AC unless said otherwise."""
    return {"id": load_id.replace(" ", "-"), "name": load_id, "tier": "keep", "running_w": float(running_w), **fields}


def array(array_id: str, stc_w: float, **fields: Any) -> dict[str, Any]:
    """One array facing south."""
    return {"id": array_id, "name": array_id, "stc_w": float(stc_w), "tilt_deg": 40.0, "azimuth_deg": 180.0, **fields}


def simple(
    *loads: dict[str, Any],
    arrays: tuple[dict[str, Any], ...] = (),
    controller: dict[str, Any] | None = None,
    sky: tuple[str, ...] = ("clear",),
    **parts: dict[str, Any],
) -> Design:
    """A design without losses unless a part says so: 1 kWh LFP at 10 V, a large perfect inverter, 24 h from midnight."""
    base: dict[str, dict[str, Any]] = {
        "site": {
            "place": "Test field",
            "latitude_deg": 40.0,
            "longitude_deg": 0.0,
            "utc_offset_h": 0.0,
            "service": "120",
        },
        "outage": {
            "start": "2026-06-21T00:00:00",
            "duration_h": 24.0,
            "days": [{"sky": entry, "air_temp_c": 20.0} for entry in sky],
        },
        "bank": {
            "chemistry": "lfp",
            "unit_v": 10.0,
            "unit_ah": 100.0,
            "series": 1,
            "parallel": 1,
            "depth_frac": 1.0,
            "cutoff_soc_frac": 0.0,
            "place": "garage",
            "temp_c": 25.0,
            "unit_max_charge_a": 500.0,
            "unit_max_discharge_a": 5000.0,
            "charge_efficiency_frac": 1.0,
            "discharge_efficiency_frac": 1.0,
        },
        "inverter": {
            "rated_w": 20_000.0,
            "surge_w": 60_000.0,
            "idle_w": 0.0,
            "efficiency_frac": 1.0,
            "low_cutoff_v": 8.0,
        },
        "wiring": {"loss_frac": 0.0},
        "policy": {"ease_level_frac": 0.35},
        "simulation": {"time_step_min": 15},
    }
    for name, fields in parts.items():
        base.setdefault(name, {}).update(fields)
    if arrays:
        kind = {
            "id": "c",
            "name": "c",
            "kind": "mppt",
            "output_a": 1000.0,
            "efficiency_frac": 1.0,
            **(controller or {}),
        }
        base.setdefault("charging", {})["controllers"] = [{**kind, "arrays": list(arrays)}]
    return read_design({"name": "test", "kind": "home", "practice": "metric_230", "loads": list(loads), **base})


def changed(design: Design, **parts: dict[str, Any]) -> Design:
    """The design with fields of its parts replaced, validated again."""
    values = design.model_dump(mode="json")
    for name, fields in parts.items():
        values[name] = {**values[name], **fields} if isinstance(fields, dict) else fields
    return read_design(values)


def moved(design: Design, fields: dict[str, Any]) -> Design:
    """The design with single fields replaced by their dotted path, validated again."""
    values = design.model_dump(mode="json")
    for path, value in fields.items():
        node = values
        *way, last = path.split(".")
        for part in way:
            node = node[int(part)] if part.isdigit() else node[part]
        node[int(last) if last.isdigit() else last] = value
    return read_design(values)
