"""The table of docs/design-format.md, made from the model: `./hearth exec python -m tests.support.design_format` rewrites it.

Fields, accepted values and defaults come from the Design's JSON schema; what a field means is written by hand in the
document and kept.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any, NamedTuple

from hearthkeep.core.design import Design
from tests.support.designs import ROOT

DOCUMENT = ROOT / "docs" / "design-format.md"
HEAD = "| field | accepted | default | meaning |\n| --- | --- | --- | --- |\n"
#: A key: what it begins with, what may follow, and how much of that.
KEY = re.compile(r"^\^\[([^\]]+)\]\[([^\]]+)\]\{0,(\d+)\}\$$")
LETTERS = {"A-Za-z0-9_-": "letters, digits, `_`, `-`", "A-Za-z0-9_./ -": "letters, digits, blanks, `_`, `-`, `.`, `/`"}
Schema = dict[str, Any]


class Row(NamedTuple):
    """One field as the model has it."""

    path: str
    accepted: str
    default: str


def rows() -> Iterator[Row]:
    """Every field of the design, in the model's order."""
    schema = Design.model_json_schema()
    yield from _fields(schema, schema, "")


def _fields(root: Schema, node: Schema, stem: str) -> Iterator[Row]:
    required = set(node.get("required", ()))
    for name, given in node["properties"].items():
        field, is_nullable = _resolved(root, given)
        path = f"{stem}{name}"
        if "const" in field and name == "kind" and stem.endswith("."):
            # What tells the kinds of reading apart stands in the path already.
            continue
        accepted = _accepted(root, field) + (", or null" if is_nullable else "")
        yield Row(path, accepted, "" if name in required else _default(given, field))
        for kind, part in _parts(root, field):
            yield from _fields(root, part, f"{path}{kind}.")


def _resolved(root: Schema, node: Schema) -> tuple[Schema, bool]:
    """The field's own schema, and whether it may be null."""
    if "anyOf" in node:
        (kept,) = [entry for entry in node["anyOf"] if entry.get("type") != "null"]
        return _resolved(root, kept)[0], True
    if "$ref" in node:
        return _resolved(root, root["$defs"][node["$ref"].rsplit("/", 1)[1]])
    return node, False


def _parts(root: Schema, field: Schema) -> Iterator[tuple[str, Schema]]:
    """The objects inside a field, with what their path adds to it."""
    if "oneOf" in field:
        for entry in field["oneOf"]:
            part = _resolved(root, entry)[0]
            yield f"({part['properties']['kind']['const']})", part
    elif field.get("type") == "array" and "items" in field:
        item = _resolved(root, field["items"])[0]
        if item.get("type") == "object":
            yield "[]", item
    elif field.get("type") == "object":
        yield "", field


def _accepted(root: Schema, field: Schema) -> str:
    """What may stand there, in words."""
    if "const" in field:
        return f"`{field['const']}`"
    if "enum" in field:
        return ", ".join(f"`{value}`" for value in field["enum"])
    if "oneOf" in field:
        kinds = (_resolved(root, entry)[0]["properties"]["kind"]["const"] for entry in field["oneOf"])
        return "an object by its `kind`: " + ", ".join(f"`{kind}`" for kind in kinds)
    match field["type"]:
        case "number" | "integer":
            return _numbers(field)
        case "boolean":
            return "true, false"
        case "object":
            return "an object"
        case "array":
            return _list(root, field)
    if field.get("format") == "local-date-time":
        return "ISO date and time, no offset"
    if field.get("format") == "wire-size":
        return "a size with its unit, such as `14 AWG`, `1/0 AWG`, `250 kcmil`, `2.5 mm²`"
    key = KEY.match(field.get("pattern", ""))
    if key:
        return f"{LETTERS[key[2]]}, up to {int(key[3]) + 1}"
    low, high = field.get("minLength", 0), field["maxLength"]
    return f"{low} to {high:,} characters" if low else f"up to {high:,} characters"


def _numbers(field: Schema) -> str:
    low = f"above {field['exclusiveMinimum']:,.10g}" if "exclusiveMinimum" in field else f"{field['minimum']:,.10g}"
    high = f"below {field['exclusiveMaximum']:,.10g}" if "exclusiveMaximum" in field else f"{field['maximum']:,.10g}"
    return f"{'whole, ' if field['type'] == 'integer' else ''}{low} to {high}"


def _list(root: Schema, field: Schema) -> str:
    low, high = field.get("minItems", 0), field.get("maxItems")
    many = f"{high}" if low == high else f"{low} to {high}" if low else f"up to {high}"
    item = _resolved(root, field["items"])[0]
    if item.get("type") == "array":
        return f"{many} pairs `[from, to]`, {_numbers(item['prefixItems'][0])}"
    return f"{many} entries" if item.get("type") == "object" else f"{many} of {_accepted(root, item)}"


def _default(given: Schema, field: Schema) -> str:
    value = given.get("default", field.get("default"))
    if isinstance(value, dict):
        return "its own"
    return f"`{json.dumps(value)}`"


def table(document: str) -> str:
    """The table for a document, with the meanings that stand in it; a new field's meaning is empty."""
    meanings = dict(re.findall(r"^\| `([^`]+)` \|(?:[^|]*\|){2} ?(.*?) ?\|$", document, re.MULTILINE))
    return HEAD + "".join(
        f"| `{row.path}` | {row.accepted} | {row.default} | {meanings.get(row.path, '')} |\n" for row in rows()
    )


def renewed(document: str) -> str:
    """The document with its table as the model has it now."""
    start = document.index("| field |")
    end = document.index("\n\n", start) + 1
    return document[:start] + table(document[start:end]) + document[end:]


if __name__ == "__main__":
    DOCUMENT.write_text(renewed(DOCUMENT.read_text()))
