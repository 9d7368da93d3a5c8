"""Gates in proportion: a small system in the half dozen that matter, with every reading and danger of the long form; the data cable."""

import unittest
from datetime import UTC, datetime

from hearthkeep.core.building.gates import gates_of
from hearthkeep.core.building.judge import judge
from hearthkeep.core.building.progress import GateEntry, Signed, Signing, check_signing
from hearthkeep.core.building.sheet import build_sheet
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.errors import InputError
from hearthkeep.starting import Start, starting_design
from tests.core.as_built import one_fan
from tests.core.building.moments import gate_of, noon
from tests.support.designs import birchrow, moved

SMALL = {
    Start.ROOM: ["built", "controllers", "branches", "grid_charge", "strings", "sun", "handover"],
    Start.BOX: ["built", "controllers", "inverter", "grid_charge", "strings", "sun", "handover"],
}


def gates(design, signed=()):
    return gates_of(Expected(design, noon()), signed)


class InProportion(unittest.TestCase):
    def test_a_small_system_is_passed_in_half_a_dozen_gates(self):
        for start, keys in SMALL.items():
            with self.subTest(start.value):
                self.assertEqual([gate.key for gate in gates(starting_design(start))], keys)
        self.assertEqual([gate.key for gate in gates(one_fan())], ["built", "inverter", "handover"])

    def test_nothing_of_the_long_form_is_lost(self):
        for start in SMALL:
            design = starting_design(start)
            short, long = gates(design), gates(design, ["polarity"])
            self.assertGreater(len(long), 2 * len(short))
            for part in ("asks", "do"):
                self.assertEqual(
                    sorted(str(each) for gate in short for each in getattr(gate, part)),
                    sorted(str(each) for gate in long for each in getattr(gate, part)),
                )
            self.assertEqual(
                {each for gate in short for each in gate.precautions},
                {each for gate in long for each in gate.precautions},
            )
            # Each comes after all that it needed.
            place = {part: at for at, gate in enumerate(short) for part in gate.parts or (gate.key,)}
            for gate in long:
                for need in gate.needs:
                    self.assertLessEqual(place[need], place[gate.key], (gate.key, need))

    def test_a_field_more_and_the_gates_stand_alone(self):
        for fields in (
            {"bank.unit_ah": 200.0},
            {"kind": "home"},
            {"inverter.rated_w": 1500.0, "inverter.surge_w": 3000.0},
            {"charging.generator": {"rated_w": 900.0, "charger_w": 200.0, "stock_l": 3.0, "tank_l": 3.0}},
        ):
            with self.subTest(fields):
                self.assertIn("polarity", [gate.key for gate in gates(moved(starting_design(Start.BOX), fields))])

    def test_a_deadly_reading_keeps_the_joined_gate_shut(self):
        design = starting_design(Start.ROOM)
        found = gates(design)
        built = found[0]
        good = {ask.key: ask.window.expected for ask in built.asks}
        judged = judge(Expected(design, noon()), built, good)
        self.assertEqual((judged.outside, judged.open, judged.forbidden), ((), (), ()))
        for key, value in (("dead.bus_v", 12.8), ("polarity.bank_v", -12.8)):
            readings = {**good, key: value}
            entry = GateEntry(
                gate="built", signing=Signing.PASSED, who="Ada Rook", readings=readings, note="ok", second="Mo Fen",
                instrument="meter", moment=noon(),
            )  # fmt: skip
            judged = judge(Expected(design, noon()), built, readings)
            with self.subTest(key), self.assertRaises(InputError):
                check_signing(found, (), entry, judged)
            self.assertTrue(judged.causes or key == "dead.bus_v")
        self.assertFalse(built.may_be_skipped)

    def test_who_began_with_the_long_form_goes_on_with_it(self):
        design = starting_design(Start.ROOM)
        entry = GateEntry(gate="mount", signing=Signing.PASSED, who="Ada Rook", instrument="torque driver")
        kept = [Signed(at=datetime(2026, 6, 1, tzinfo=UTC), entry=entry)]
        keys = [each.gate.key for each in build_sheet(design, noon(), entries=kept).gates]
        self.assertIn("polarity", keys)
        self.assertNotIn("built", keys)


class DataCable(unittest.TestCase):
    def test_it_is_a_gate_only_where_it_was_entered(self):
        self.assertNotIn("data", [gate.key for gate in gates(birchrow())])
        design = moved(birchrow(), {"inverter.reads_bank": True})
        keys = [gate.key for gate in gates(design)]
        self.assertLess(keys.index("precharge"), keys.index("data"))
        self.assertLess(keys.index("data"), keys.index("settings"))
        expected, gate = gate_of(design, "data")
        right = {"data.unit_v": expected.bank_volts[0].expected, "data.soc_apart": 1.0}
        self.assertEqual(judge(expected, gate, right).outside, ())
        self.assertEqual(judge(expected, gate, {**right, "data.soc_apart": 40.0}).outside, ("data.soc_apart",))


if __name__ == "__main__":
    unittest.main()
