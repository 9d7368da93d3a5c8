"""Foreign documents: refused with field, value and range; nothing half-read."""

import json
import unittest

from hearthkeep.core.design import MAX_LOADS, SCHEMA_VERSION, Design, read_design
from hearthkeep.core.errors import InputError
from tests.support.designs import BIRCHROW, birchrow


def problems_of(path: str, value: object) -> dict[str, str]:
    """Set one field of the demo home and return what is said about which field."""
    document = json.loads(BIRCHROW.read_text())
    node = document
    *way, last = path.split(".")
    for part in way:
        node = node[int(part)] if part.isdigit() else node[part]
    node[int(last) if last.isdigit() else last] = value
    try:
        read_design(json.dumps(document))
    except InputError as error:
        return {problem.field: f"{problem.accepted} (got {problem.value})" for problem in error.problems}
    return {}


class BadInput(unittest.TestCase):
    CASES = (
        ("loads.0.running_w", float("nan"), "loads.0.running_w", "number"),
        ("loads.0.running_w", float("inf"), "loads.0.running_w", "number"),
        ("loads.0.running_w", -1, "loads.0.running_w", "must be 0 to 50,000 (got -1)"),
        ("loads.0.running_w", "34", "loads.0.running_w", "must be a number of 0 to 50,000 (got '34')"),
        ("loads.0.running_w", True, "loads.0.running_w", "must be a number"),
        ("loads.0.quantity", 1.5, "loads.0.quantity", "must be a whole number of 1 to 500 (got 1.5)"),
        ("loads.0.name", "x" * 1_000_00, "loads.0.name", "200"),
        ("loads.0.name", "a\nb", "loads.0.name", "match"),
        ("loads.0.name", "   ", "loads.0.name", "at least 1"),
        ("loads.0.hours", [[7, 25]], "loads.0.hours.0.1", "0 to 24 (got 25)"),
        ("loads.0.hours", [[9, 7]], "loads.0.hours", "from < to"),
        ("loads.0.hours", [[-1, 3]], "loads.0.hours.0.0", "0 to 24"),
        ("loads.0.id", "../etc", "loads.0.id", "match"),
        ("loads.0.tier", "luxury", "loads.0.tier", "'life', 'keep', 'ease' or 'spare'"),
        ("loads.0.colour", "red", "loads.0.colour", "not a field"),
        ("outage.duration_h", 0, "outage.duration_h", "must be 0.25 to 720 (got 0)"),
        ("outage.duration_h", 10_000, "outage.duration_h", "must be 0.25 to 720 (got 10000)"),
        ("outage.start", "2026-01-12T17:00:00+01:00", "outage.start", "without an offset"),
        ("outage.days", [], "outage.days", "at least 1"),
        ("bank.unit_v", 0, "bank.unit_v", "1 to 1,000"),
        ("bank.need", {"autonomy_h": 0}, "bank.need.autonomy_h", "more than 0 to 720"),
        ("bank.depth_frac", 1.2, "bank.depth_frac", "0.05 to 1"),
        ("inverter.idle_w", 1999, "inverter", "idle_w must be within"),
        ("inverter.surge_w", 10, "inverter", "surge_w must be at least"),
        ("schema_version", SCHEMA_VERSION + 1, "schema_version", str(SCHEMA_VERSION)),
    )

    def test_each_is_refused_by_its_field(self):
        for path, value, field, words in self.CASES:
            with self.subTest(path=path, value=str(value)[:20]):
                self.assertIn(words, problems_of(path, value).get(field, "nothing was refused"))

    def test_every_problem_is_listed_at_once(self):
        document = json.loads(BIRCHROW.read_text())
        document["loads"][1]["running_w"] = -5
        document["bank"]["unit_ah"] = 0
        del document["inverter"]
        with self.assertRaises(InputError) as caught:
            read_design(json.dumps(document))
        fields = {problem.field for problem in caught.exception.problems}
        self.assertEqual(fields, {"loads.1.running_w", "bank.unit_ah", "inverter"})

    def test_too_many_loads(self):
        load = json.loads(BIRCHROW.read_text())["loads"][0]
        loads = [{**load, "id": f"l{number}"} for number in range(MAX_LOADS + 1)]
        self.assertIn(f"at most {MAX_LOADS}", problems_of("loads", loads)["loads"])
        small = [{"id": f"l{n}", "name": "l", "tier": "life", "running_w": 1} for n in range(10_000)]
        self.assertIn("at most 400", problems_of("loads", small)["loads"])

    def test_an_id_may_stand_once_only(self):
        load = json.loads(BIRCHROW.read_text())["loads"][0]
        self.assertIn("repeated: cpap", problems_of("loads", [load, load])["document"])

    def test_text_that_is_no_document(self):
        for text in (b"", b"[", b"{}", b"null", b"[" * 100_000, b'{"a":' * 50_000, b"\xff\xfe", b"x" * 2_000_000):
            with self.subTest(text[:10]), self.assertRaises(InputError):
                read_design(text)


class RoundTrip(unittest.TestCase):
    def test_written_and_read_again_it_is_the_same(self):
        design = birchrow()
        self.assertEqual(read_design(design.model_dump_json()), design)
        self.assertEqual(read_design(design.model_dump(mode="json")), design)

    def test_it_cannot_be_changed_in_place(self):
        with self.assertRaisesRegex(ValueError, "frozen"):
            birchrow().bank.parallel = 3

    def test_the_schema_gives_limits_for_every_number(self):
        """A number without both ends would accept nonsense."""
        open_ended = []

        def walk(node: object, where: str) -> None:
            if isinstance(node, dict):
                if node.get("type") in ("number", "integer"):
                    low = {"minimum", "exclusiveMinimum"} & node.keys()
                    high = {"maximum", "exclusiveMaximum"} & node.keys()
                    if not (low and high) and "enum" not in node and "const" not in node:
                        open_ended.append(where)
                for key, value in node.items():
                    walk(value, f"{where}.{key}")
            elif isinstance(node, list):
                for value in node:
                    walk(value, where)

        walk(Design.model_json_schema(), "")
        self.assertEqual(open_ended, [])
