"""Panels behind one another: what is connected there has the fate of the circuit that feeds it in the end, and is judged there."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.transfer import Fate, fates_of
from tests.core.made_transfers import circuit, house
from tests.support.designs import moved


def panel(key, fed_by, *circuits, **fields):
    return {"id": key, "name": key.title(), "fed_by": fed_by, "circuits": list(circuits), **fields}


def behind(key, breaker_a=15.0, **fields):
    return {"id": key, "name": key.title(), "breaker_a": breaker_a, **fields}


#: The circuit in slot 1 feeds the garage, a circuit of that the shed; the first load is in the shed.
GARAGE = panel("garage", "c1", behind("door"), behind("to-shed"))
SHED = panel("shed", "to-shed", behind("bench"))


def nested(*panels, at="bench", **fields):
    design = house("critical_panel")
    changes = {"transfer.further": list(panels or (GARAGE, SHED)), "loads.0.circuit": at}
    return moved(design, {**changes, **fields})


def findings(design, code):
    return [each for each in assess(design).findings if each.code == code]


class Nested(unittest.TestCase):
    def test_a_load_two_panels_on_is_carried_or_not_with_its_feeder(self):
        design = nested()
        direct = house("critical_panel")
        for backed_up in (True, False):
            fields = {"transfer.circuits.0.backed_up": backed_up}
            there, here = fates_of(moved(design, fields)), fates_of(moved(direct, fields))
            self.assertEqual(there, here)
            self.assertEqual(there.loads[0].fate is Fate.CARRIED, backed_up)
        self.assertEqual(assess(design).outage.hours_carried_h, assess(direct).outage.hours_carried_h)
        self.assertEqual(
            {code for each in assess(design).findings if each.severity in ("stop", "mend") for code in [each.code]},
            set(),
        )

    def test_each_circuit_on_the_way_is_held_against_what_runs_behind_it(self):
        watts = {"loads.0.running_w": 130.0 * 12, "loads.0.start_w": None}
        found = findings(nested(**watts, **{"transfer.further.1.circuits.0.breaker_a": 20.0}), "CIRCUIT_OVERLOADED")
        # 13 A are within 15; of 10 A the feeder of the shed opens.
        self.assertEqual(found, [])
        design = nested(**watts, **{"transfer.further.0.circuits.1.breaker_a": 10.0})
        found = findings(design, "CIRCUIT_OVERLOADED")
        self.assertEqual([each.title for each in found], ["To-Shed trips"])
        self.assertIn("13.0 A", found[0].message)
        self.assertIn("all of Shed is dark", found[0].message)

    def test_the_bus_of_a_further_panel_and_its_wires(self):
        own = panel("garage", "c1", behind("door", wire="14 AWG"), bus_a=20.0)
        self.assertEqual(findings(nested(own, at="door"), "RATINGS_IN_SERIES"), [])
        small = nested({**own, "bus_a": 10.0}, at="door")
        self.assertIn("15 A feed Garage, whose bus is for 10 A", findings(small, "RATINGS_IN_SERIES")[0].message)
        # Its own main holds what comes to the bus.
        self.assertEqual(findings(nested({**own, "bus_a": 10.0, "main_a": 10.0}, at="door"), "RATINGS_IN_SERIES"), [])
        thick = nested({**own, "circuits": [behind("door", 20.0, wire="14 AWG")]}, at="door")
        self.assertIn("guards a conductor of 14 AWG", findings(thick, "RATINGS_IN_SERIES")[0].message)
        outlets = nested({**own, "circuits": [behind("door", 25.0, wire="10 AWG", outlets_a=15.0)]}, at="door")
        self.assertIn("on Door in Garage", findings(outlets, "OUTLETS_TOO_SMALL")[0].message)

    def test_what_leads_nowhere_or_round_is_refused_with_its_field(self):
        for panels, field in (
            ([panel("garage", "gone")], "further.0.fed_by"),
            ([panel("garage", "bench", behind("door")), panel("shed", "door", behind("bench"))], "further.0.fed_by"),
            ([panel("garage", "c1"), panel("shed", "c1")], "each fed_by must stand once"),
            ([panel("garage", "c1"), panel("garage", "c3")], "each id must stand once"),
            ([panel("garage", "c1", behind("c3"))], "circuits: each id must stand once"),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                values = house("critical_panel").model_dump(mode="json")
                values["transfer"]["further"] = panels
                read_design(values)
            self.assertIn(field, str(caught.exception))

    def test_two_poles_behind_one_are_named(self):
        self.assertEqual(circuit(1)["id"], "c1")
        design = nested(
            GARAGE, at="door", **{"loads.0.supply": "ac240", "site.service": "120/240", "inverter.output": "120/240"}
        )
        self.assertEqual(
            [each.title for each in findings(design, "POLES_MISMATCH")][:1], [f"{design.loads[0].name} needs two poles"]
        )
