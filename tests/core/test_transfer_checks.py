"""Each arrangement well made raises nothing heavy; spoilt in one way it raises exactly what it should, and the Try mends it."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import ArrangementKind
from tests.core.made_transfers import RIGHT, WRONG, house, on_the_rack
from tests.support.designs import moved


def heavy(design):
    return {finding.code: finding for finding in assess(design).findings if finding.severity in ("stop", "mend")}


def codes(design):
    return {finding.code for finding in assess(design).findings}


class Arrangements(unittest.TestCase):
    def test_each_well_made_raises_nothing_heavy(self):
        self.assertEqual(set(RIGHT), {kind.value for kind in ArrangementKind})
        for name, make in RIGHT.items():
            with self.subTest(name):
                self.assertEqual({code: finding.message for code, finding in heavy(make()).items()}, {})

    def test_each_ill_made_raises_what_it_should_with_its_basis(self):
        self.assertEqual({base for _, base, _, _ in WRONG}, set(RIGHT))
        for what, base, fields, expected in WRONG:
            with self.subTest(what):
                found = heavy(moved(RIGHT[base](), fields))
                self.assertEqual(set(found), expected, {code: f.message for code, f in found.items()})
                for finding in found.values():
                    self.assertTrue(finding.basis)

    def test_a_try_settles_its_finding(self):
        settled = 0
        for what, base, fields, _ in WRONG:
            design = moved(RIGHT[base](), fields)
            for code, finding in heavy(design).items():
                if finding.remedy is None or finding.step != "transfer":
                    continue
                with self.subTest(what, code=code):
                    changes = {change.path: change.value for change in finding.remedy.changes}
                    self.assertNotIn(code, codes(moved(design, changes)))
                    settled += 1
        self.assertGreater(settled, 15)


class Bus(unittest.TestCase):
    def test_the_array_that_fits_the_bus(self):
        self.assertEqual(heavy(on_the_rack()), {})

    def test_one_kilowatt_more_does_not(self):
        spoilt = on_the_rack(**{"charging.grid_tied.rated_w": 7800.0, "transfer.main.supply_breaker_a": 45.0})
        finding = heavy(spoilt)["BUS_OVERLOADED"]
        self.assertEqual(finding.figure.value, 32.0)
        self.assertIn("705.12", finding.basis)

    def test_in_the_middle_of_the_bus_nothing_is_left(self):
        self.assertIn("BUS_OVERLOADED", heavy(on_the_rack(**{"transfer.main.supply_at_far_end": False})))

    def test_a_breaker_below_what_flows_for_hours(self):
        self.assertIn("SUPPLY_BREAKER_SMALL", heavy(on_the_rack(**{"transfer.main.supply_breaker_a": 30.0})))

    def test_an_unknown_bus_is_asked_for(self):
        self.assertIn("BUS_UNKNOWN", codes(on_the_rack(**{"transfer.main.bus_a": None})))


class Lesser(unittest.TestCase):
    def test_what_is_said_without_weight(self):
        for code, design in (
            ("TRANSFER_NOT_PLANNED", moved(house("inlet"), {"transfer.arrangement": None})),
            ("BOND_UNKNOWN", moved(house("inlet"), {"transfer.grounding.source_bond": "unknown"})),
            ("LABELS_REQUIRED", moved(house("inlet"), {"transfer.labels_in_place": False})),
            ("LABELS_IN_PLACE", house("inlet")),
            ("PANEL_WORK", house("inlet")),
            ("LOADS_UNPLACED", moved(house("inlet"), {"loads.0.circuit": None})),
            ("COMES_ALONG", moved(house("inlet"), {"loads.4.circuit": "c1"})),
            ("NEUTRAL_BONDED_ONCE", house("inlet")),
            ("GAP_AT_CHANGE_OVER", house("critical_panel")),
            ("LEGS_UNEVEN", moved(house("critical_panel"), {"loads.4.circuit": "c3", "loads.4.running_w": 400.0})),
            ("LEGS_BALANCED", moved(house("critical_panel"), {"loads.4.circuit": "c1", "loads.4.running_w": 70.0})),
        ):
            with self.subTest(code):
                self.assertIn(code, codes(design))

    def test_a_supply_that_is_wired_in_needs_no_sign_at_an_inlet_and_no_cord(self):
        inlet, wired = (assess(house("manual_switch", device={"by_inlet": by_inlet})) for by_inlet in (True, False))
        self.assertEqual(len(inlet.transfer.labels) - len(wired.transfer.labels), 1)
        self.assertIn("cord", inlet.switching.ways[0].steps[1].do)
        self.assertNotIn("cord", wired.switching.ways[0].steps[1].do)

    def test_metric_practice_names_its_own_sources_and_no_article_of_another(self):
        for design in (RIGHT["ac_coupled"](), moved(RIGHT["ac_coupled"](), {"transfer.circuits.0.breaker_a": 32.0,
                       "transfer.device.bypass": "loose", "transfer.grounding.panel_bond": True})):  # fmt: skip
            for finding in assess(design).findings:
                if finding.step == "transfer":
                    self.assertNotIn("NEC", finding.message + finding.basis, finding.code)

    def test_search_mode_beside_an_array_is_said(self):
        design = moved(RIGHT["ac_coupled"](), {"inverter.search_threshold_w": 20.0})
        self.assertIn("SEARCH_WITH_ARRAY", codes(design))


if __name__ == "__main__":
    unittest.main()
