"""From an older version of the Design document to the current one, step by step. A step only moves and renames."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from hearthkeep.core.design.circuits import wire_size
from hearthkeep.core.design.document import SCHEMA_VERSION, Practice

Values = dict[str, Any]


def to_current(values: Values) -> Values:
    """Plain values of any earlier version as those of the current one; a document without a version is of version 1.

    What is not understood is left as it is, for the validation to name.
    """
    version = values.get("schema_version", 1)
    if type(version) is not int:
        return values
    while version in STEPS:
        values = {**STEPS[version](values), "schema_version": version + 1}
        version += 1
    return values


def _to_2(values: Values) -> Values:
    """`rules` is divided into what the house does and how finely it is simulated; `direct` controllers are `panel_fed`."""
    values = dict(values)
    rules = values.pop("rules", {})
    if isinstance(rules, dict):
        rest = dict(rules)
        for part, field in (("policy", "ease_level_frac"), ("simulation", "time_step_min")):
            if field in rest:
                values[part] = {field: rest.pop(field)}
        rules = rest
    if rules:
        values["rules"] = rules
    charging = values.get("charging")
    if isinstance(charging, dict) and isinstance(charging.get("controllers"), list):
        values["charging"] = {**charging, "controllers": [_panel_fed(entry) for entry in charging["controllers"]]}
    return values


def _panel_fed(controller: Any) -> Any:
    if isinstance(controller, dict) and controller.get("kind") == "direct":
        return {**controller, "kind": "panel_fed"}
    return controller


def _to_3(values: Values) -> Values:
    """Transfer, circuits and a grid-tied array are new; what was there stays."""
    return values


#: The flat loss that a document of version 3 counted where it named none.
LOSS_BEFORE_4 = 0.01


def _to_4(values: Values) -> Values:
    """Runs are new, and count where no flat loss is named: the one that counted until now is written down."""
    wiring = values.get("wiring", {})
    if not isinstance(wiring, dict):
        return values
    return {**values, "wiring": {"loss_frac": LOSS_BEFORE_4, **wiring}}


def _to_5(values: Values) -> Values:
    """The record of past outages is new; what was there stays."""
    return values


def _to_6(values: Values) -> Values:
    """Hours in which the grid is back, Keep's own level, the margin and a generator by hand are new; what was there stays."""
    return values


def _to_7(values: Values) -> Values:
    """A house off the grid, and days on which fuel and a car can be reached are new; what was there stays."""
    return values


def _to_8(values: Values) -> Values:
    """The habits of the rules of thumb and the stages ahead are new; what was there stays."""
    return values


def _to_9(values: Values) -> Values:
    """Names and contacts for the papers are new; what was there stays."""
    return values


def _to_10(values: Values) -> Values:
    """A conductor's size has its unit beside it: that of the practice by which it was read until now."""
    is_metric = values.get("practice") == Practice.METRIC_230.value

    def with_unit(part: Any, field: str) -> Any:
        size = part.get(field) if isinstance(part, dict) else None
        if not isinstance(size, str) or not BARE.match(size):
            return part
        # No gauge has a decimal, no area a stroke: such a size was entered before the practice was changed.
        has_area = "." in size or (is_metric and "/" not in size)
        return {**part, field: wire_size(size, is_metric=has_area)}

    def each(part: Any, field: str, named: str) -> Any:
        if not isinstance(part, dict) or not isinstance(part.get(field), list):
            return part
        return {**part, field: [with_unit(entry, named) for entry in part[field]]}

    found = dict(values)
    if "wiring" in found:
        found["wiring"] = each(found["wiring"], "runs", "size")
    if isinstance(found.get("transfer"), dict):
        transfer = each(found["transfer"], "circuits", "wire")
        if "device" in transfer:
            transfer = {**transfer, "device": with_unit(transfer["device"], "feeder_wire")}
        found["transfer"] = transfer
    return found


def _to_11(values: Values) -> Values:
    """Built-in breakers, distribution blocks, the bank's posts as the bus and leads of vehicles are new; what was there stays."""
    return values


#: A conductor's size as documents up to version 9 had it.
BARE = re.compile(r"^(?:[1-9][0-9]{0,2}(?:\.[0-9]{1,2})?|0\.[0-9]{1,2}|[1-4]/0)$")
#: From version n to n + 1.
STEPS: dict[int, Callable[[Values], Values]] = {
    1: _to_2, 2: _to_3, 3: _to_4, 4: _to_5, 5: _to_6, 6: _to_7, 7: _to_8, 8: _to_9, 9: _to_10, 10: _to_11,
}  # fmt: skip
if set(STEPS) != set(range(1, SCHEMA_VERSION)):
    raise RuntimeError("each earlier version of the Design document needs its step")
