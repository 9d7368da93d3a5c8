"""Labels and switching card of every arrangement: what they name was entered, and what was not entered is not named."""

import itertools
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import ArrangementKind
from hearthkeep.core.switching import WayKind
from hearthkeep.core.transfer import CORDS
from tests.support.designs import birchrow, moved

BONDS = ("floating", "bonded", "relay", "unknown")


def report(kind, **fields):
    off_grid = kind is ArrangementKind.OWN_PANEL
    base = {"transfer.arrangement": kind.value, "site.off_grid": off_grid}
    return assess(moved(birchrow(), {**base, **fields})).transfer


def switching(kind, **fields):
    off_grid = kind is ArrangementKind.OWN_PANEL
    base = {"transfer.arrangement": kind.value, "site.off_grid": off_grid}
    return assess(moved(birchrow(), {**base, **fields})).switching


def steps_of(card, *kinds):
    """The steps of some ways of a card, of all without any."""
    return [step for way in card.ways if not kinds or way.kind in kinds for step in way.steps]


class Labels(unittest.TestCase):
    def test_each_statement_is_true_of_the_design(self):
        for kind, bond, bypass, by_inlet in itertools.product(
            ArrangementKind, BONDS, ("none", "interlocked"), (True, False)
        ):
            fields = {
                "transfer.grounding.source_bond": bond,
                "transfer.device.bypass": bypass,
                "transfer.device.by_inlet": by_inlet,
            }
            text = " ".join(report(kind, **fields).labels)
            with self.subTest(kind=kind.value, bond=bond, bypass=bypass, by_inlet=by_inlet):
                self.assertEqual("RELAY JOINS" in text, bond == "relay" and kind in CORDS)
                has_inlet = by_inlet and kind in (ArrangementKind.INLET, ArrangementKind.MANUAL_SWITCH)
                self.assertEqual("At the inlet" in text, has_inlet)
                self.assertEqual("BYPASS" in text, bypass != "none" and kind not in CORDS)
                self.assertEqual("no utility" in text, kind is ArrangementKind.OWN_PANEL)
                # Words to cut out, not instructions to write some.
                for instruction in ("which backup supply", "where each", "their order", "the circuit it switches"):
                    self.assertNotIn(instruction, text)

    def test_a_switch_names_its_own_positions_and_no_interlock_where_there_is_none(self):
        found = report(ArrangementKind.MANUAL_SWITCH)
        (label,) = (each for each in found.labels if each.startswith("At the switch"))
        steps = " ".join(step.do for step in steps_of(switching(ArrangementKind.MANUAL_SWITCH), WayKind.TO_BACKUP))
        names = {circuit.id: circuit.name for circuit in birchrow().transfer.circuits}
        for state in found.circuits:
            if state.positions and state.fate.value == "carried":
                handle = f"{'+'.join(map(str, state.positions))} {names[state.id]}"
                self.assertIn(handle, label)
                self.assertIn(handle, steps)
        for interlock, said in (("mechanical", True), ("none", False)):
            fields = {"transfer.device.interlock": interlock}
            card = switching(ArrangementKind.INLET, **fields)
            text = " ".join([*report(ArrangementKind.INLET, **fields).labels, *(step.do for step in steps_of(card))])
            self.assertEqual("interlock" in text, said)

    def test_the_supply_is_named_as_entered(self):
        without = moved(birchrow(), {"charging.controllers": []})
        text = " ".join(assess(without).transfer.labels)
        self.assertIn("battery and inverter of 3,000 W", text)
        self.assertNotIn("solar", text)
        self.assertNotIn("generator", text)
        self.assertIn("solar array", " ".join(assess(birchrow()).transfer.labels))

    def test_one_line_of_120_v_on_a_panel_of_two_legs_is_signed_wherever_it_is(self):
        bridged = {"inverter.output": "120", "transfer.device.feed": "bridged"}
        for kind in ArrangementKind:
            if kind in CORDS:
                continue
            with self.subTest(kind.value):
                self.assertIn("MULTIWIRE", " ".join(report(kind, **bridged).labels))
                self.assertNotIn("MULTIWIRE", " ".join(report(kind, **{"inverter.output": "120/240"}).labels))


class Switching(unittest.TestCase):
    def text(self, kind, **fields):
        card = switching(kind, **fields)
        said = [part for step in steps_of(card) for part in (step.do, step.check, step.never)]
        return " ".join([*(way.title for way in card.ways), *card.throughout, *said]).lower()

    def test_off_the_grid_with_cords_nothing_speaks_of_a_grid_or_of_plugging_back(self):
        text = self.text(ArrangementKind.CORDS, **{"site.off_grid": True})
        for word in ("the grid", "the wall", "the street", "line worker"):
            self.assertNotIn(word, text)
        self.assertIn("plug the loads back into the wall", self.text(ArrangementKind.CORDS))

    def test_circuits_that_stay_on_the_unit_do_not_go_back(self):
        text = self.text(ArrangementKind.MOVED_CIRCUITS)
        self.assertNotIn("then goes back", text)
        self.assertIn("then goes back", self.text(ArrangementKind.CRITICAL_PANEL))

    def test_no_array_no_disconnect_of_an_array(self):
        without = self.text(ArrangementKind.OWN_PANEL, **{"charging.controllers": []})
        for word in ("arrays", "solar"):
            self.assertNotIn(word, without)
        self.assertIn("disconnects of the arrays", self.text(ArrangementKind.OWN_PANEL))

    def test_what_fills_the_bank_again_is_what_there_is(self):
        self.assertIn("relay's current", self.text(ArrangementKind.CRITICAL_PANEL))
        by_sun = self.text(ArrangementKind.CRITICAL_PANEL, **{"charging.grid_charger.output_w": 0.0})
        self.assertNotIn("relay's current", by_sun)
        self.assertIn("the sun fills the bank", by_sun)
