"""Starting points: whole designs that carry what they say, and two empty ones that say what is missing."""

import json
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import SCHEMA_VERSION, read_design
from hearthkeep.core.trials import trials
from hearthkeep.starting import STARTING_POINTS, Start, starting_design
from tests.support.designs import ROOT, array, load, moved


class Patterns(unittest.TestCase):
    def test_each_is_whole_honest_and_carried(self):
        patterns = [point for point in STARTING_POINTS if not point.is_empty]
        self.assertEqual(len(patterns), 9)
        for point in patterns:
            with self.subTest(point.start):
                assessment = assess(starting_design(point.start))
                heavy = {
                    found.code: found.message for found in assessment.findings if found.severity in ("stop", "mend")
                }
                self.assertEqual(heavy, {})
                self.assertTrue(assessment.outage.is_asked and assessment.outage.carried_to_the_end)
                # Only its place is still to be said.
                self.assertEqual([entry.step for entry in assessment.missing], ["storm"])

    def test_each_stands_in_a_document_of_this_version_with_every_point_in_words(self):
        self.assertEqual([point.start for point in STARTING_POINTS], list(Start))
        for point in STARTING_POINTS:
            values = json.loads((ROOT / "hearthkeep" / "starting" / f"{point.start.value}.json").read_text())
            self.assertEqual(values["schema_version"], SCHEMA_VERSION)
            self.assertEqual(read_design(values), starting_design(point.start))
            self.assertGreater(len(point.meaning), 30)

    def test_with_a_name_of_its_own(self):
        self.assertEqual(starting_design(Start.CART, "Ours").name, "Ours")
        self.assertEqual(starting_design(Start.CART).name, "Cart")


class Empty(unittest.TestCase):
    def missing(self, design):
        return [entry.step for entry in assess(design).missing]

    def test_they_say_what_is_missing_next_in_order(self):
        design = starting_design(Start.HOME)
        self.assertEqual(self.missing(design), ["storm", "loads", "charging"])
        placed = moved(design, {"site.place": "Birchrow"})
        self.assertEqual(self.missing(placed), ["loads", "charging"])
        # More than the bank holds for three days: something has to put energy back.
        loaded = moved(placed, {"loads": [load("heater", 300.0)]})
        self.assertEqual(self.missing(loaded), ["charging", "transfer"])
        controller = {"id": "c", "name": "c", "kind": "mppt", "output_a": 60.0, "arrays": [array("roof", 2000.0)]}
        sunny = moved(loaded, {"charging.controllers": [controller]})
        self.assertEqual(self.missing(sunny), ["transfer"])
        self.assertEqual(self.missing(moved(sunny, {"transfer": {"arrangement": "inlet"}})), [])
        # What the bank carries alone needs nothing else.
        small = moved(placed, {"loads": [load("lamp", 5.0, supply="dc")]})
        self.assertEqual(self.missing(small), [])

    def test_nothing_is_met_where_nothing_asks(self):
        for loads in ([], [load("tv", 50.0, tier="ease")]):
            assessment = assess(moved(starting_design(Start.HOME), {"loads": loads}))
            self.assertFalse(assessment.outage.is_asked)
            self.assertNotIn("CARRIED", {found.code for found in assessment.findings})
        self.assertFalse(trials(starting_design(Start.HOME)).is_asked)
