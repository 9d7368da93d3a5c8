"""Documents of earlier versions open as the current one, with the assessment they had."""

import json
import unittest
from pathlib import Path

from hearthkeep.core.assess import assess
from hearthkeep.core.design import SCHEMA_VERSION, read_design
from hearthkeep.core.design.migrations import STEPS, to_current
from hearthkeep.core.errors import InputError
from tests.support.designs import simple

#: Documents of version 1 with what the last release that wrote them found.
KEPT = json.loads((Path(__file__).parents[1] / "documents" / "version-1.json").read_text(encoding="utf-8"))


class Version1(unittest.TestCase):
    def test_each_opens_with_the_assessment_it_had(self):
        self.assertGreaterEqual(len(KEPT), 12)
        for name, kept in KEPT.items():
            with self.subTest(name):
                design = read_design(json.dumps(kept["document"]).encode())
                self.assertEqual(design.schema_version, SCHEMA_VERSION)
                found, was = assess(design), kept["found"]
                self.assertEqual(found.outage.hours_carried_h, was["hours_carried_h"])
                self.assertEqual(found.outage.end_soc_frac, was["end_soc_frac"])
                self.assertEqual(found.outage.min_soc_frac, was["min_soc_frac"])
                self.assertEqual(found.outage.ledger_wh.served, was["served_wh"])
                self.assertEqual(found.outage.ledger_wh.spilled, was["spilled_wh"])
                self.assertEqual(found.outage.fuel_l, was["fuel_l"])
                self.assertEqual(found.bank.daily_drawn_wh, was["daily_drawn_wh"])
                # How the house is switched over and wired was not asked then.
                codes = [finding.code for finding in found.findings if finding.step not in ("transfer", "wiring")]
                # A pair that makes 120/240 V was said to carry one fault; with one of them failed its leg is dead.
                is_pair = design.inverter.output == "120/240_pair"
                expected = ["ONE_FAULT" if is_pair and code == "ONE_FAULT_CARRIED" else code for code in was["codes"]]
                self.assertEqual(codes, expected)

    def test_from_a_file_and_from_plain_values_alike(self):
        for name, kept in KEPT.items():
            with self.subTest(name):
                text = json.dumps(kept["document"])
                self.assertEqual(read_design(text), read_design(kept["document"]))

    def test_a_controller_of_none_keeps_its_meaning(self):
        (cart,) = (read_design(kept["document"]) for name, kept in KEPT.items() if name == "relay-cart")
        was = KEPT["relay-cart"]["found"]["kinds"]
        self.assertIn("direct", was)
        now = [controller.kind.value for controller in cart.charging.controllers]
        self.assertEqual(now, ["panel_fed" if kind == "direct" else kind for kind in was])

    def test_what_the_rules_held_stands_where_it_belongs(self):
        design = read_design({**KEPT["birchrow-14"]["document"], "rules": {"ease_level_frac": 0.5, "time_step_min": 5}})
        self.assertEqual((design.policy.ease_level_frac, design.simulation.time_step_min), (0.5, 5))

    def test_a_fault_is_named_by_its_new_field(self):
        for rules, field in (
            ({"ease_level_frac": 2.0}, "policy.ease_level_frac"),
            ({"time_step_min": 7}, "simulation.time_step_min"),
            ({"colour": 1}, "rules"),
            ([], None),
            ("none", "rules"),
        ):
            with self.subTest(rules):
                document = json.dumps({**KEPT["birchrow-14"]["document"], "rules": rules})
                if field is None:
                    read_design(document)
                    continue
                with self.assertRaises(InputError) as caught:
                    read_design(document)
                self.assertEqual([problem.field for problem in caught.exception.problems], [field])


class AnyVersion(unittest.TestCase):
    def test_the_current_one_is_left_as_it_is(self):
        values = simple().model_dump(mode="json")
        self.assertEqual(to_current(values), values)
        self.assertEqual(set(STEPS), set(range(1, SCHEMA_VERSION)))

    def test_a_version_that_is_none_is_refused(self):
        for version in (0, -1, SCHEMA_VERSION + 1, 2**31, "1", None, True, 1.0, [1]):
            with self.subTest(version), self.assertRaises(InputError) as caught:
                read_design(json.dumps({**KEPT["birchrow-14"]["document"], "schema_version": version}))
            fields = [problem.field for problem in caught.exception.problems]
            self.assertIn("schema_version", fields)

    def test_a_text_that_speaks_of_a_version_does_not_stand_for_one(self):
        document = {**KEPT["birchrow-14"]["document"], "name": '"schema_version": 3'}
        self.assertEqual(read_design(json.dumps(document)).name, '"schema_version": 3')
