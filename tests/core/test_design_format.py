"""The published format of a design is what the model accepts: every field with its range and default, each of them held."""

import json
import re
import unittest

from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from tests.support.design_format import DOCUMENT, renewed, rows
from tests.support.designs import ROOT

#: A design in which every object of the format is present.
WHOLE = json.loads((ROOT / "examples" / "birchrow-16.json").read_text())
WHOLE["charging"] |= {"alternator": {"current_a": 20}, "bench_charger": {"output_w": 100}, "stages": {}}
WHOLE["charging"]["controllers"][0]["arrays"][0]["stands"] = [{"from_hour": 9, "tilt_deg": 40, "azimuth_deg": 90}]
WHOLE["bank"] |= {
    "heater": {"power_w": 40},
    "addition": {"chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100},
    "tap": {"units": 1, "current_a": 1, "hours_per_day": 1},
    "need": {},
}
WHOLE["bank"]["unit"] = {
    **(WHOLE["bank"].get("unit") or {"name": "u"}),
    "cycle_points": [{"depth_frac": 0.5, "cycles": 100}],
}
WHOLE["charging"]["grid_tied"] = {
    "rated_w": 2000,
    "arrays": [{**WHOLE["charging"]["controllers"][0]["arrays"][0], "id": "tied"}],
}
WHOLE["transfer"] = {
    "device": {},
    "grounding": {},
    "main": {"slots": 84},
    "circuits": [
        {"id": "c1", "slot": 1, "name": "c", "breaker_a": 15},
        {"id": "c2", "slot": 2, "name": "d", "breaker_a": 15},
    ],
    "further": [
        {"id": "garage", "name": "g", "fed_by": "c1", "circuits": [{"id": "g1", "name": "g", "breaker_a": 15}]},
        {"id": "shed", "name": "s", "fed_by": "g1"},
    ],
}
WHOLE["wiring"] = {
    "blocks": [{"id": "b1", "name": "b", "loads": ["cool-box"]}, {"id": "b2", "name": "c"}],
    "runs": [{"run": "bank", "unknown": ["size"]}, {"run": "grid"}],
    "board": {"places": [{"part": "bus", "x_mm": 1, "y_mm": 1}, {"part": "panel", "x_mm": 1, "y_mm": 1}]},
    "prices": [{"item": "a", "price": 1}, {"item": "b", "price": 1}],
}
WHOLE["record"] = {
    "outages": [{"start": "2024-01-01T00:00:00", "length_h": 1}, {"start": "2024-09-01T00:00:00", "length_h": 1}],
    "utility": {"saifi_per_year": 100, "saidi_min_per_year": 100},
}
WHOLE["opinions"] = {method: {} for method in ("overnight", "ledger", "depth", "buffer", "ratios", "worksheet")}
WHOLE["inverter"]["sheet"] = {"name": "s"}
_CONTROLLER = WHOLE["charging"]["controllers"][0]
WHOLE["growth"] = [
    {
        "id": "next",
        "title": "Next year",
        "battery": {"chemistry": "lfp", "unit_v": 51.2, "unit_ah": 100},
        "panels": [{"array_id": "a", "stc_w": 1}],
        "controllers": [{**_CONTROLLER, "id": "later", "arrays": [{**_CONTROLLER["arrays"][0], "id": "later"}]}],
        "generator": WHOLE["charging"]["generator"],
        "loads": [{**WHOLE["loads"][0], "id": "later"}],
    },
    {"id": "some", "title": "Some day"},
]
WHOLE["papers"] = {"contacts": [{"role": "utility"}, {"role": "electrician"}]}
READINGS = {
    "nameplate": {"volts_v": 120, "current_a": 1}, "spot": {"reading_w": 10},
    "meter": {"energy_kwh": 1, "over_h": 24, "running_w": 100}, "label": {"energy_kwh_per_year": 300, "running_w": 100},
    "dc_amps": {"current_a": 1, "at_v": 12}, "speeds": {"settings": [{"name": "low", "power_w": 5}], "chosen": "low"},
    "code": {"code_letter": "K", "horsepower_hp": 1}, "multiple": {"multiple": 3}, "typed": {}, "typical": {},
}  # fmt: skip
RANGE = re.compile(r"^(whole, )?(above )?(-?[\d,.]+) to (below )?(-?[\d,.]+)(, or null)?$")


def number(text):
    return float(text.replace(",", ""))


def put(document, path, value):
    """Set a field of a document by its path in the format; return the field's own path."""
    node, where = document, []
    *way, last = path.split(".")
    for part in way:
        name, kind, is_list = re.fullmatch(r"(\w+)(?:\((\w+)\))?(\[\])?", part).groups()
        if kind and (node.get(name) or {}).get("kind") != kind:
            node[name] = {"kind": kind, **json.loads(json.dumps(READINGS[kind]))}
        node = node[name][0] if is_list else node[name]
        where += [name, "0"] if is_list else [name]
    node[last] = value
    return ".".join([*where, last])


def ends(row):
    """The values at both ends of a field's range, and those just outside; none for a field without a range."""
    found = RANGE.match(row.accepted)
    if found is None:
        return None
    is_whole, above, low, below, high, _ = found.groups()
    step = 1 if is_whole else 1e-6 * max(abs(number(low)), abs(number(high)))
    cast = int if is_whole else float
    inside = number(low) + (step if above else 0), number(high) - (step if below else 0)
    outside = number(low) - (0 if above else step), number(high) + (0 if below else step)
    return tuple(map(cast, inside)), tuple(map(cast, outside))


def complaints(path, value):
    """Set a field of the whole design: the fields complained of, and the field's own path."""
    document = json.loads(json.dumps(WHOLE))
    field = put(document, path, value)
    try:
        read_design(document)
    except InputError as error:
        return {problem.field for problem in error.problems}, field
    return set(), field


class Format(unittest.TestCase):
    def test_the_document_is_the_model_s(self):
        document = DOCUMENT.read_text()
        self.assertEqual(document, renewed(document), "run ./hearth exec python -m tests.support.design_format")

    def test_the_whole_design_is_accepted(self):
        read_design(json.loads(json.dumps(WHOLE)))

    def test_every_range_is_held_at_both_ends(self):
        tried = 0
        for row in rows():
            found = ends(row)
            if found is None:
                continue
            inside, outside = found
            for value in inside:
                refused, field = complaints(row.path, value)
                with self.subTest(row.path, inside=value):
                    self.assertNotIn(field, refused)
            for value in outside:
                refused, field = complaints(row.path, value)
                with self.subTest(row.path, outside=value):
                    self.assertIn(field, refused)
            tried += 1
        self.assertGreater(tried, 120)

    def test_nothing_but_a_number_passes_for_one(self):
        for row in rows():
            if not RANGE.match(row.accepted):
                continue
            for value in (float("nan"), float("inf"), "1", True, [], {}):
                refused, field = complaints(row.path, value)
                with self.subTest(row.path, value=str(value)):
                    self.assertTrue(any(entry.startswith(field) for entry in refused), refused)

    def test_null_is_accepted_where_the_format_says_so_and_nowhere_else(self):
        for row in rows():
            refused, field = complaints(row.path, None)
            with self.subTest(row.path):
                self.assertEqual(field in refused, not row.accepted.endswith("or null"), refused)
