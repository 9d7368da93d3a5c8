"""What the front end does with the design: fields by path, painted hours, keys from names, readings, weights."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Load, StartCode, StartMultiple, StartTyped, Supply, Tier
from hearthkeep.core.design.fields import Identifier
from hearthkeep.core.loads import with_readings
from tests.runner.profile import examples
from tests.support.designs import birchrow
from tests.support.web import called, chained

quick = examples(40)
CELLS = st.lists(st.booleans(), min_size=24, max_size=24)


class Paths(unittest.TestCase):
    DOCUMENT = birchrow().model_dump(mode="json")

    def test_a_field_set_is_the_field_read_and_nothing_else_changes(self):
        for path, value in (
            ("bank.parallel", 7),
            ("loads.3.running_w", 12.5),
            ("outage.days.1.sky", "covered"),
            ("charging.controllers.0.arrays.0.shade_frac", [0.5] * 24),
            ("charging.generator", {"rated_w": 2000}),
            ("charging.generator.rated_w", 2000),
        ):
            with self.subTest(path):
                after = called("design/path", "withValue", self.DOCUMENT, path, value)
                self.assertEqual(called("design/path", "valueAt", after, path), value)
                before = called("design/path", "valueAt", self.DOCUMENT, path)
                # What was null has no branch to give the old value back to.
                if before is not None:
                    self.assertEqual(called("design/path", "withValue", after, path, before), self.DOCUMENT)

    def test_where_there_is_nothing_nothing_is_read(self):
        self.assertIsNone(called("design/path", "valueAt", self.DOCUMENT, "charging.wind.rated_w"))
        self.assertIsNone(called("design/path", "valueAt", self.DOCUMENT, "loads.999.name"))


class Hours(unittest.TestCase):
    @quick
    @given(CELLS)
    def test_painted_cells_become_spans_and_cells_again(self, cells):
        spans = called("fields/hours", "spansFrom", cells)
        self.assertEqual(called("fields/hours", "cellsFrom", spans), cells)
        # Spans are in order, apart, and inside the day, as the design asks for.
        edges = [edge for span in spans for edge in span]
        self.assertEqual(edges, sorted(set(edges)))
        self.assertTrue(all(0 <= edge <= 24 for edge in edges))

    def test_overlapping_spans_paint_each_hour_once(self):
        self.assertEqual(called("fields/hours", "cellsFrom", [[0, 3], [2, 5]]), [True] * 5 + [False] * 19)

    def test_in_words(self):
        self.assertEqual(called("fields/hours", "hoursText", [[0, 6], [22, 24]]), "0–6 h, 22–24 h")
        self.assertEqual(called("fields/hours", "hoursText", []), "never")


class Keys(unittest.TestCase):
    ACCEPTED = TypeAdapter(Identifier)

    @quick
    @given(st.text(max_size=60), st.lists(st.sampled_from(["load-1", "load-2", "a", "pump"]), max_size=4))
    def test_any_name_gives_a_key_the_design_accepts_and_that_is_not_taken(self, name, used):
        made = called("shared/ids", "idFromName", name, used)
        self.ACCEPTED.validate_python(made)
        self.assertNotIn(made, used)

    def test_a_key_reads_like_its_name(self):
        self.assertEqual(called("shared/ids", "idFromName", "Sump pump, 1/3 hp", []), "sump-pump-1-3-hp")
        self.assertEqual(called("shared/ids", "idFromName", "Réchaud", []), "re-chaud")
        self.assertEqual(called("shared/ids", "freshId", "array", ["array-3", "x"]), "array-4")


class Readings(unittest.TestCase):
    """A reading that is begun says what the row says already."""

    def row(self, **fields):
        base = {"id": "a", "name": "a", "tier": "keep", "running_w": 120.0, "duty_frac": 0.4}
        return Load.model_validate({**base, **fields})

    def test_every_kind_begins_as_one_the_design_accepts_and_keeps_the_watts(self):
        kinds = [kind["value"] for kind in called("steps/loads/readings", "READING_KINDS")]
        self.assertEqual(len(kinds), 8)
        row = self.row()
        for kind in kinds:
            with self.subTest(kind):
                known = called("steps/loads/readings", "blankReading", kind, row.model_dump(mode="json"), 120, 12.8)
                read = with_readings(self.row(known=known))
                # To the hundredth of an amp or a kilowatt-hour.
                self.assertAlmostEqual(read.running_w, 120, delta=1.0)
                self.assertAlmostEqual(read.duty_frac, 0.4, delta=0.005)

    def test_every_kind_of_start_is_accepted(self):
        models = {"typed": StartTyped, "multiple": StartMultiple, "code": StartCode}
        for kind in called("steps/loads/readings", "START_KINDS"):
            begun = called("steps/loads/readings", "blankStart", kind["value"])
            self.assertIsInstance(self.row(start_known=begun).start_known, models[kind["value"]])

    def test_every_code_letter_is_a_code_letter_and_none_is_left_out(self):
        letters = [letter["value"] for letter in called("steps/loads/readings", "CODE_LETTERS")]
        for letter in letters:
            self.row(start_known={"kind": "code", "code_letter": letter, "horsepower_hp": 0.5})
        for letter in set("ABCDEFGHIJKLMNOPQRSTUVWXYZ") - set(letters):
            with self.subTest(letter), self.assertRaises(ValueError):
                self.row(start_known={"kind": "code", "code_letter": letter, "horsepower_hp": 0.5})

    def test_marks_tell_how_a_row_is_fed(self):
        told = {
            supply.value: called(
                "steps/loads/readings", "marksOf", self.row(supply=supply.value).model_dump(mode="json")
            )
            for supply in Supply
        }
        self.assertEqual(told, {"ac": "", "ac240": "240 V", "dc": "DC", "dc_converted": "DC conv.", "panel": "panel"})
        waits = self.row(supply="dc", flexible_h=3).model_dump(mode="json")
        self.assertEqual(called("steps/loads/readings", "marksOf", waits), "DC · any 3 h")


class Orders(unittest.TestCase):
    def test_tiers_and_weights_stand_in_the_core_s_order(self):
        self.assertEqual([tier["tier"] for tier in called("steps/loads/tiers", "TIERS")], [tier.value for tier in Tier])
        words = called("checks/severity", "WORDS")
        self.assertEqual(list(words), [severity.value for severity in Severity])

    def test_findings_come_heaviest_first_and_otherwise_as_they_were(self):
        found = [
            {"severity": weight, "code": code} for weight, code in (("mind", 1), ("stop", 2), ("good", 3), ("mind", 4))
        ]
        self.assertEqual([entry["code"] for entry in called("checks/severity", "byWeight", found)], [2, 1, 4, 3])
        self.assertEqual(called("checks/severity", "worst", found), "stop")
        self.assertEqual(called("checks/severity", "worst", []), "good")

    def test_a_tier_s_rule_names_its_level(self):
        levels = {"keep_frac": 0.2, "ease_frac": 0.35}
        self.assertEqual(
            chained("steps/loads/tiers", ["TIERS"], ["at", 1], ["rule", levels]),
            "dropped only to protect the bank, at 20 %",
        )
        self.assertEqual(chained("steps/loads/tiers", ["TIERS"], ["at", 2], ["rule", levels]), "dropped below 35 %")
