"""A circuit in one line: what is understood, and that nothing that looks like a quantity is swallowed."""

import unittest

from hearthkeep.core.design import Circuit, Leg
from hearthkeep.core.transfer import Hangable, PanelNow, hanging_on, read_circuit_line

LOADS = (Hangable(id="f", name="Fridge, garage"), Hangable(id="k", name="Kitchen lights"),
         Hangable(id="m", name="Microwave", placed=True))  # fmt: skip
PANEL = PanelNow(legs=(Leg.A, Leg.B), metric=False, slots=24, loads=LOADS,
                 circuits=(Circuit(id="s2", slot=2, name="there", breaker_a=15.0),
                           Circuit(id="s9", slot=9, name="two", breaker_a=30.0, poles=2)))  # fmt: skip
METRIC = PanelNow(legs=(Leg.A,), metric=True, slots=12)

UNDERSTOOD = (
    ("14 20A 1p fridge and kitchen lights 12 AWG", (14, 20.0, 1, "12 AWG", "fridge and kitchen lights")),
    ("14,16 30A dryer 10 AWG", (14, 30.0, 2, "10 AWG", "dryer")),
    ("14/16 30 A 2-pole dryer", (14, 30.0, 2, None, "dryer")),
    ("#14 30amp dryer 240V", (14, 30.0, 2, None, "dryer")),
    ("20A bedroom 2", (1, 20.0, 1, None, "bedroom 2")),
    ("30A 2p heat pump", (1, 30.0, 2, None, "heat pump")),
    ("5 15A #14 hall", (5, 15.0, 1, "14 AWG", "hall")),
    ("5 15A 14/2 hall", (5, 15.0, 1, "14 AWG", "hall")),
    ("5 double pole 50A range 6 AWG", (5, 50.0, 2, "6 AWG", "range")),
    ("5 20A sump pump", (5, 20.0, 1, None, "sump pump")),
    # What stands on the insulation, whatever the practice.
    ("5 20A pump 4 mm2", (5, 20.0, 1, "4 mm²", "pump")),
)
WAITS = (
    ("14 fridge", "breaker_a", "is missing"),
    ("14 20A", "name", "says what hangs on it"),
    ("99 20A x", "slot", "1 to 84"),
    ("25 20A x", "slot", "1 to 24"),
    ("2 20A x", "slot", "there stands there"),
    ("11 20A x", "slot", "two stands there"),
    ("7 20A 2p x", "slot", "two stands there"),
    ("14,17 20A x", "slot", "2 apart"),
    ("14,16 20A 1p x", "poles", "must be 2"),
    ("14 20A 1p x 240V", "poles", "must be 2 for 240 V"),
    ("14 20A 13 AWG x", "wire", "a size in AWG"),
    ("14 20A 2.4mm2 x", "wire", "a size in mm²"),
    ("14 20A leg C x", "leg", "A or B"),
    ("14 20A 30A x", "line", "not understood"),
    ("14 0A x", "breaker_a", "above 0 to 1,000"),
    ("14 5000A x", "breaker_a", "above 0 to 1,000"),
    ("14 20A x shares neutral with 16", "neutral", "slot 16 is empty"),
    ("", "name", "says what"),
)


class Line(unittest.TestCase):
    def test_understood(self):
        for line, expected in UNDERSTOOD:
            with self.subTest(line):
                entry = read_circuit_line(line, PANEL)
                self.assertEqual(entry.problems, ())
                found = entry.circuit
                self.assertEqual((found.slot, found.breaker_a, found.poles, found.wire, found.name), expected)

    def test_marks(self):
        entry = read_circuit_line("4 20A pump 12 AWG leg B backed up shares neutral with 2", PANEL).circuit
        self.assertEqual(
            (entry.leg, entry.backed_up, entry.shares_neutral_with, entry.name), (Leg.B, True, "s2", "pump")
        )
        self.assertFalse(read_circuit_line("4 20A pump stays on the grid", PANEL).circuit.backed_up)

    def test_waits_with_its_reason(self):
        for line, field, reason in WAITS:
            with self.subTest(line):
                entry = read_circuit_line(line, PANEL)
                self.assertIsNone(entry.circuit)
                self.assertIn(reason, {p.field: p.accepted for p in entry.problems}.get(field, ""), entry.problems)

    def test_metric(self):
        found = read_circuit_line("3 B16 kitchen 2.5 mm²", METRIC).circuit
        self.assertEqual((found.slot, found.breaker_a, found.wire, found.name), (3, 16.0, "2.5 mm²", "kitchen"))
        self.assertIn("A", read_circuit_line("3 B16 kitchen leg B", METRIC).problems[0].accepted)
        self.assertEqual(read_circuit_line("3 C20 2p hob", METRIC).circuit.poles, 2)
        self.assertIn("one column", read_circuit_line("3,4 C20 hob", METRIC).problems[0].accepted)

    def test_loads_named_hang_on_it_if_they_hang_nowhere_yet(self):
        self.assertEqual(read_circuit_line("5 20A fridges and kitchen light", PANEL).loads, ("f", "k"))
        self.assertEqual(read_circuit_line("5 20A microwave", PANEL).loads, ())
        self.assertEqual(hanging_on("lights", LOADS), ())

    def test_a_full_panel(self):
        full = PanelNow(legs=(Leg.A,), metric=True, slots=2, circuits=tuple(
            Circuit(id=f"s{at}", slot=at, name="x", breaker_a=10.0) for at in (1, 2)))  # fmt: skip
        self.assertIn("no slot of 2 is free", read_circuit_line("B10 lamp", full).problems[0].accepted)


if __name__ == "__main__":
    unittest.main()
