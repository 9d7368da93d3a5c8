"""From foreign bytes or values to a Design, with every problem listed by field path at once."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from functools import cache
from typing import Any

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from hearthkeep.core.design.document import SCHEMA_VERSION, Design
from hearthkeep.core.design.migrations import to_current
from hearthkeep.core.errors import FieldProblem, InputError

#: A Design document larger than this is refused unread [bytes].
MAX_DOCUMENT_BYTES = 1_000_000
#: More problems than this are not worth listing.
MAX_PROBLEMS = 50
_CURRENT = re.compile(rb'"schema_version"\s*:\s*%d\b' % SCHEMA_VERSION)


def read_design(source: str | bytes | dict[str, Any]) -> Design:
    """Read a Design document of any version from JSON text or from plain values.

    Raises InputError with one FieldProblem per faulty field.

    >>> read_design(b'[1')
    Traceback (most recent call last):
    ...
    hearthkeep.core.errors.InputError: document: must be a JSON object (got not JSON: EOF while parsing a list at line 1 column 2)
    """
    if isinstance(source, dict):
        return _checked(lambda: Design.model_validate(to_current(source)))
    if len(source) > MAX_DOCUMENT_BYTES:
        problem = FieldProblem(
            field="document", value=f"{len(source):,} bytes", accepted=f"must be at most {MAX_DOCUMENT_BYTES:,} bytes"
        )
        raise InputError((problem,))
    older = _older_values(source)
    if older is not None:
        return _checked(lambda: Design.model_validate(to_current(older)))
    return _checked(lambda: Design.model_validate_json(source))


def _older_values(source: str | bytes) -> dict[str, Any] | None:
    """The plain values of a document that does not say it is of the current version; none of one that does, or is no JSON."""
    text = source.encode() if isinstance(source, str) else source
    # Inside a text of the document the quotes would be escaped.
    if _CURRENT.search(text):
        return None
    try:
        values = json.loads(text)
    except (ValueError, RecursionError):
        return None
    return values if isinstance(values, dict) else None


def _checked(validate: Callable[[], Design]) -> Design:
    try:
        return validate()
    except ValidationError as error:
        raise InputError(field_problems(error)) from None


def field_problems(
    error: ValidationError, *, root: tuple[int | str, ...] = (), model: type[BaseModel] = Design
) -> tuple[FieldProblem, ...]:
    """Translate Pydantic's report into field, value and accepted range.

    `root` is where the validated part stands in the model, the document unless it is another, so that its limits can be
    looked up.
    """
    return problems_from_details(error.errors(include_url=False), root=root, model=model)


def problems_from_details(
    details: list[ErrorDetails], *, root: tuple[int | str, ...] = (), model: type[BaseModel] = Design
) -> tuple[FieldProblem, ...]:
    """The same, from error details that another layer has already collected."""
    return tuple(
        _of_whole(detail)
        or FieldProblem(field=_path(detail["loc"]), value=_shown(detail), accepted=_accepted(detail, root, model))
        for detail in details[:MAX_PROBLEMS]
    )


#: What a rule over the whole document says: the field at fault, what is accepted, and what was given.
_WHOLE = re.compile(r"^Value error, ([a-z_]+(?:\.[a-z0-9_]+)+) (must [^\n]*?) \(got ([^\n]*)\)$", re.ASCII)


def _of_whole(detail: ErrorDetails) -> FieldProblem | None:
    """The problem of a field, found by a rule over the whole document; none for any other."""
    found = _WHOLE.match(detail["msg"]) if detail["type"] == "value_error" and not detail["loc"] else None
    return FieldProblem(field=found[1], value=found[3], accepted=found[2]) if found else None


#: Fields that take one of several shapes: the validator names the shape in its path, which no reader needs.
_UNION_FIELDS = ("known", "start_known")


def _path(loc: tuple[int | str, ...]) -> str:
    parts = [part for index, part in enumerate(loc) if index == 0 or loc[index - 1] not in _UNION_FIELDS]
    return ".".join(str(part) for part in parts) or "document"


def _shown(detail: ErrorDetails) -> str:
    kind, value = detail["type"], detail.get("input")
    if kind == "json_invalid":
        return f"not JSON: {detail.get('ctx', {}).get('error', detail['msg'])}"
    if kind == "missing":
        return "nothing"
    if isinstance(value, dict):
        return f"an object with {len(value)} fields"
    if isinstance(value, list | tuple) and len(value) > 4:
        return f"a list of {len(value)}"
    text = repr(value)
    return text if len(text) <= 80 else f"{text[:60]}… ({len(text):,} characters)"


def _accepted(detail: ErrorDetails, root: tuple[int | str, ...], model: type[BaseModel]) -> str:
    kind, context = detail["type"], detail.get("ctx", {})
    if kind == "json_invalid":
        return "must be a JSON object"
    if kind == "extra_forbidden":
        return "is not a field of this document"
    if kind == "value_error":
        return re.sub(r"^Value error, ", "", detail["msg"])
    if kind in _RANGE_KINDS:
        return _range_words(detail, root, model)
    if kind == "too_long":
        return f"must hold at most {context.get('max_length')} entries"
    text = re.sub(r"^(Input|String|Value) should ", "must ", detail["msg"])
    return text[0].lower() + text[1:]


_RANGE_KINDS = (
    "greater_than",
    "greater_than_equal",
    "less_than",
    "less_than_equal",
    "finite_number",
    "float_type",
    "int_type",
    "int_from_float",
)


def _range_words(detail: ErrorDetails, root: tuple[int | str, ...], model: type[BaseModel]) -> str:
    """Both ends of the accepted range, read from the model's own schema."""
    low, high, exclusive_low, whole = _limits((*root, *detail["loc"]), model)
    if low is None and high is None:
        return detail["msg"][0].lower() + detail["msg"][1:]
    low_words = f"more than {low:,g}" if exclusive_low else f"{low:,g}"
    number = "a whole number of " if whole else "a number of " if not detail["type"].startswith(("gr", "le")) else ""
    return f"must be {number}{low_words} to {high:,g}" if high is not None else f"must be at least {low_words}"


@cache
def _schema(model: type[BaseModel]) -> dict[str, Any]:
    return model.model_json_schema()


def _limits(loc: tuple[int | str, ...], model: type[BaseModel]) -> tuple[float | None, float | None, bool, bool]:
    """Lowest, highest, whether the lowest is itself excluded, and whether only whole numbers count."""
    schema = _schema(model)
    node = schema
    for part in loc:
        node = _resolved(node, schema)
        if isinstance(part, int):
            prefix = node.get("prefixItems")
            node = prefix[part] if prefix and part < len(prefix) else node.get("items", {})
        elif part in node.get("discriminator", {}).get("mapping", {}):
            node = {"$ref": node["discriminator"]["mapping"][part]}
        else:
            node = node.get("properties", {}).get(part, node if part in ("float", "int") else {})
    node = _resolved(node, schema)
    exclusive_low = node.get("exclusiveMinimum")
    low = node.get("minimum", exclusive_low)
    high = node.get("maximum", node.get("exclusiveMaximum"))
    return low, high, exclusive_low is not None, node.get("type") == "integer"


def _resolved(node: dict[str, Any], schema: dict[str, Any]) -> dict[str, Any]:
    """Follow a reference, and step into the one real branch of an optional field."""
    while True:
        if "$ref" in node:
            node = schema["$defs"][node["$ref"].rsplit("/", 1)[1]]
        elif "anyOf" in node:
            node = next(branch for branch in node["anyOf"] if branch.get("type") != "null")
        else:
            return node
