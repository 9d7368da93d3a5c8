"""Every field of every body and every query is tried with texts and moments that no table can hold: refused, never a fault."""

import copy
import json
import urllib.parse
import uuid

from pydantic import BaseModel

from hearthkeep.core.logbook import KINDS
from tests.api.test_building_api import BuildTest
from tests.support.designs import birchrow

EXTREMES = ("\x00", "a\x00b", "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-14:00", "0001-01-01", "9999-12-31")
#: Sent as they are: what they hold is read by the reader of documents, which has tests of its own.
WHOLE = ("design", "loads", "replacement", "circuits")


class Sampler:
    """A value that fits a schema, as far as a schema says what fits."""

    def __init__(self, schemas, known):
        self.schemas, self.known = schemas, known

    def of(self, schema, depth=0):
        if "$ref" in schema:
            name = schema["$ref"].rsplit("/", 1)[1]
            return copy.deepcopy(self.known[name]) if name in self.known else self.of(self.schemas[name], depth)
        for several in ("anyOf", "oneOf", "allOf"):
            if several in schema:
                return self.of(next(each for each in schema[several] if each.get("type") != "null"), depth)
        if "const" in schema or "enum" in schema:
            return schema.get("const", schema.get("enum", [None])[0])
        match schema.get("type"):
            case "object":
                found = {name: self.of(part, depth + 1) for name, part in schema.get("properties", {}).items()}
                more = schema.get("additionalProperties")
                if isinstance(more, dict) and not found:
                    names = schema.get("propertyNames", {})
                    names = self.schemas[names["$ref"].rsplit("/", 1)[1]] if "$ref" in names else names
                    keys = names.get("enum", ["a", "b"])[: max(schema.get("minProperties", 1), 1)]
                    found = {key: self.of(more, depth + 1) for key in keys}
                return found
            case "array":
                parts = schema.get("prefixItems")
                if parts:
                    return [self.of(part, depth + 1) for part in parts]
                count = max(schema.get("minItems", 0), 1 if depth < 6 else 0)
                return [self.of(schema["items"], depth + 1) for _ in range(count)]
            case "string":
                return {
                    "uuid": str(uuid.uuid4()), "date-time": "2026-01-12T17:00:00+00:00", "date": "2026-01-12",
                    "local-date-time": "2026-01-12T17:00:00",
                }.get(schema.get("format"), "a" * max(schema.get("minLength", 1), 1))  # fmt: skip
            case "number" | "integer":
                low = schema.get("minimum", schema.get("exclusiveMinimum", 0))
                high = schema.get("maximum", schema.get("exclusiveMaximum", low + 2))
                return round(low + (high - low) / 2) if schema["type"] == "integer" else low + (high - low) / 2
            case "boolean":
                return True
        return {}


def texts(value, path=()):
    """Paths to every text of a value."""
    if isinstance(value, dict):
        for key, part in value.items():
            yield from texts(part, (*path, key))
    elif isinstance(value, list):
        for index, part in enumerate(value):
            yield from texts(part, (*path, index))
    elif isinstance(value, str):
        yield path


def put(value, path, text):
    found = copy.deepcopy(value)
    node = found
    for step in path[:-1]:
        node = node[step]
    node[path[-1]] = text
    return found


class Walk(BuildTest):
    def setUp(self):
        super().setUp()
        document = json.loads(birchrow().model_dump_json())
        self.known = {"Design": document, "Load": document["loads"][0]}
        self.openapi = self.client.get("/api/openapi.json").json()
        self.sampler = Sampler(self.openapi["components"]["schemas"], self.known)

    def path_of(self, path):
        ids = {"design_id": self.design, "installation_id": self.place}
        for name in [part[1:-1] for part in path.split("/") if part.startswith("{")]:
            path = path.replace(f"{{{name}}}", str(ids.get(name, uuid.uuid4())))
        return path

    def tried(self, method, path, **sent):
        answer = self.client.request(method, path, **sent)
        self.assertLess(answer.status_code, 500, f"{method} {path} {str(sent)[:300]}: {answer.text[:300]}")
        return answer

    def test_bodies(self):
        taken, tries = set(), 0
        for path, operations in self.openapi["paths"].items():
            for method, operation in operations.items():
                content = operation.get("requestBody", {}).get("content", {}).get("application/json")
                if content is None or "backup" in path or content["schema"].get("$ref", "").endswith("/Design"):
                    continue
                body = self.sampler.of(content["schema"])
                where = self.path_of(path)
                if self.tried(method, where, json=body).status_code < 400:
                    taken.add(path)
                for place in texts(body):
                    if place and place[0] in WHOLE:
                        continue
                    for text in EXTREMES:
                        tries += 1
                        self.tried(method, where, json=put(body, place, text))
        # What is tried is what would be taken, but for one text.
        self.assertGreater(len(taken), 15, taken)
        self.assertGreater(tries, 300)

    def test_entries_of_every_kind(self):
        taken = set()
        for kind, model in KINDS.items():
            if kind == "gate":
                continue
            assert issubclass(model, BaseModel)
            schema = model.model_json_schema(ref_template="#/components/schemas/{model}")
            sampler = Sampler(schema.pop("$defs", {}), self.known)
            body = sampler.of(schema)
            if kind == "reading":
                body["values"] = {"bank_v": 52.0}
            if self.entered(body).status_code == 200:
                taken.add(kind)
            for place in texts(body):
                for text in EXTREMES:
                    self.assertLess(self.entered(put(body, place, text)).status_code, 500, (kind, place, text))
        self.assertGreaterEqual(len(taken), 8, taken)
        # Whatever was taken of all that, every page goes on being shown.
        for ask in ("entries", "series", "log.zip", "upkeep.ics"):
            self.assertEqual(self.client.get(f"/api/installations/{self.place}/{ask}").status_code, 200, ask)
        question = {"design": self.home, "installation_id": self.place}
        for ask in ("watch", "log-outlook", "log-corrections"):
            self.assertEqual(self.client.post(f"/api/{ask}", json=question).status_code, 200, ask)

    def entered(self, body, **fields):
        entry = {"id": str(uuid.uuid4()), "told_at": "2026-01-12T17:00:00+00:00", "body": body, **fields}
        sent = {"sent_at": "2026-01-12T17:00:10+00:00", "entries": [entry]}
        return self.client.post(f"/api/installations/{self.place}/entries", json=sent)

    def test_moments_and_names_of_an_entry(self):
        note = {"kind": "event", "what": "note", "note": "x"}
        for field, text in (
            ("told_at", "0001-01-01T00:00:00+14:00"), ("told_at", "9999-12-31T23:59:59-14:00"), ("who", "a\x00"),
        ):  # fmt: skip
            answer = self.entered(note, **{field: text})
            self.assertEqual(answer.status_code, 422, (field, text))
            self.assertIn(field, answer.json()["problems"][0]["field"])

    def test_queries(self):
        tries = 0
        for path, operations in self.openapi["paths"].items():
            if "get" not in operations or "backup" in path:
                continue
            wanted = operations["get"].get("parameters", [])
            given = {each["name"]: self.sampler.of(each["schema"]) for each in wanted if each["in"] == "query"}
            for name, value in given.items():
                if not isinstance(value, str | list):
                    continue
                for text in EXTREMES:
                    tries += 1
                    query = urllib.parse.urlencode({**given, name: text}, doseq=True)
                    self.tried("get", f"{self.path_of(path)}?{query}")
        self.assertGreater(tries, 60)
