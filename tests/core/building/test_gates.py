"""Gates: in every design nothing comes before what it needs, and each danger is kept away by exactly one of them."""

import unittest
from collections import Counter
from datetime import datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.bank import rate
from hearthkeep.core.building.dangers import _SAID
from hearthkeep.core.building.gate import Danger
from hearthkeep.core.building.gates import gates_of
from hearthkeep.core.building.judge import judge
from hearthkeep.core.building.progress import (
    GateEntry,
    GateStand,
    Signed,
    Signing,
    check_signing,
    mark_of,
    progress_of,
)
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.errors import InputError
from hearthkeep.core.wiring.bank_side import precharge_of
from hearthkeep.demo import demo_designs
from tests.core.building.moments import as_expected, gate_of, many_strings, noon
from tests.core.test_invariants import quick
from tests.strategies import designs
from tests.support.designs import birchrow, moved

#: The order in which each demo is commissioned, written out by hand.
HOME = [
    "dead", "mount", "devices", "grounds", "blocks", "polarity", "controllers", "precharge", "settings", "inverter",
]  # fmt: skip
LAST = ["first_full", "instruments", "load_test", "labels", "photos", "handover"]
ORDERS = {
    "Birchrow 14": [*HOME[:6], "interlock", *HOME[6:], "grid_charge", "transfer", "strings", "sun", "shutdown", *LAST],
    "Birchrow Terrace 16": [*HOME, "grid_charge", "others", "generator", "strings", "sun", "shutdown", *LAST],
    "The hill house": [*HOME, "branches", "transfer", "generator", "strings", "sun", "shutdown", *LAST],
    "Village-hall relay cart": [
        "dead", "mount", "devices", "grounds", "air", "blocks", "polarity", "controllers", "settings", "inverter",
        "branches", "grid_charge", "others", "transfer", "strings", "sun", *LAST,
    ],
    "Kestrel Row 7": [
        "dead", "mount", "devices", "grounds", "polarity", "precharge", "settings", "inverter", "grid_charge", "transfer", "coupled", *LAST,
    ],
}  # fmt: skip
BEFORE_SUN = {"polarity", "controllers", "settings", "strings"}


def gates(design):
    return gates_of(Expected(design, noon()))


class Interlocks(unittest.TestCase):
    def test_one_that_was_entered_is_tried_and_never_left_out(self):
        home = birchrow()
        found = {gate.key: gate for gate in gates(home)}
        self.assertFalse(found["interlock"].may_be_skipped)
        self.assertIn("interlock", found["transfer"].needs)
        for fields in (
            {"transfer.device.interlock": "none"},
            {"transfer.arrangement": "critical_panel"},
            {"transfer.arrangement": "automatic"},
            {"transfer.arrangement": None},
        ):
            with self.subTest(fields):
                other = {gate.key: gate for gate in gates(moved(home, fields))}
                self.assertNotIn("interlock", other)
                self.assertNotIn("interlock", other["transfer"].needs if "transfer" in other else ())

    def test_arrays_are_kept_off_by_what_opens_them(self):
        home = birchrow()
        run = next(sized.run.key for sized in Expected(home, noon()).plan.runs if sized.run.kind.value == "array")
        entries = [entry.model_dump(mode="json") for entry in home.wiring.runs if entry.run != run]
        for set_on, words in (
            ({}, "locked, each handle tried against its lock"),
            ({"lock_off": False}, "open and tagged"),
            ({"opened_by": "plug"}, "plugs pulled apart"),
        ):
            with self.subTest(words):
                design = moved(home, {"wiring.runs": [*entries, {"run": run, **set_on}]})
                self.assertIn(words, " ".join(gates(design)[0].do))


class Meanings(unittest.TestCase):
    def test_a_low_bank_inside_its_window_is_said_to_be_low(self):
        lead = moved(
            birchrow(), {"bank.chemistry": "agm", "bank.unit_v": 12.0, "bank.series": 1, "bank.depth_frac": 0.5}
        )
        expected, gate = gate_of(lead, "polarity", noon(soc_frac=None))
        low = judge(expected, gate, {"polarity.bank_v": 11.75})
        self.assertEqual(low.inside, ("polarity.bank_v",))
        self.assertIn("Charge the bank before the load test", low.meanings[0].words)
        self.assertIn("11.75 V at rest: 0 % to 12 % full", low.meanings[0].words)
        self.assertEqual(judge(expected, gate, {"polarity.bank_v": 12.6}).meanings, ())
        # Outside it is something else.
        self.assertEqual(judge(expected, gate, {"polarity.bank_v": 3.0}).meanings, ())

    def test_with_a_full_bank_the_sun_that_is_expected_is_what_the_bank_takes(self):
        home = birchrow()
        controller = home.charging.controllers[0]
        amps = {}
        for soc in (0.5, 0.95, 1.0):
            moment = noon().model_copy(update={"soc_frac": soc, "sun_w_m2": 900.0})
            amps[soc] = Expected(home, moment).solar_amps(controller)[0]
        self.assertGreater(amps[0.5].expected, amps[1.0].expected)
        self.assertAlmostEqual(amps[1.0].expected, 0.02 * home.bank.rated_ah)
        self.assertEqual(amps[1.0].low, 0.0)
        for window in amps.values():
            self.assertTrue(window.low <= window.expected <= window.high)

    def test_a_frequency_that_holds_an_array_back_has_a_window_of_its_own(self):
        flat = next(each for each in demo_designs() if each.name.startswith("Kestrel Row 7"))
        ask = next(ask for ask in gate_of(flat, "coupled")[1].asks if ask.key == "coupled.held_hz")
        self.assertTrue(ask.is_optional)
        for hertz, holds in ((50.0, False), (51.5, True), (52.5, True), (53.0, False)):
            self.assertEqual(ask.window.holds(hertz), holds, hertz)


class InOrder(unittest.TestCase):
    def test_each_demo_is_commissioned_in_this_order(self):
        for start, order in ORDERS.items():
            design = next(each for each in demo_designs() if each.name.startswith(start))
            with self.subTest(design.name):
                self.assertEqual([gate.key for gate in gates(design)], order)

    def assert_safe(self, found):
        keys = [gate.key for gate in found]
        self.assertEqual(len(keys), len(set(keys)))
        for gate in found:
            for need in gate.needs:
                self.assertIn(need, keys)
                self.assertLess(keys.index(need), keys.index(gate.key), f"{need} before {gate.key}")
        if "sun" in keys:
            self.assertLessEqual(BEFORE_SUN, self.behind(found, "sun"))
        for gate in ("controllers", "precharge", "branches"):
            if gate in keys:
                self.assertLessEqual({"dead", "mount", "polarity"}, self.behind(found, gate))
        self.assertEqual(self.behind(found, "handover"), set(keys) - {"handover"})

    @staticmethod
    def behind(found, key):
        """All that a gate needs, and what that needs in turn."""
        needs = {gate.key: gate.needs for gate in found}
        seen, left = set(), [key]
        while left:
            for need in needs[left.pop()]:
                if need not in seen:
                    seen.add(need)
                    left.append(need)
        return seen

    @quick
    @given(designs())
    def test_no_gate_of_any_design_precedes_what_it_needs(self, design):
        self.assert_safe(gates(design))

    @quick
    @given(designs(), st.randoms(use_true_random=False))
    def test_whatever_is_tried_in_whatever_order_nothing_is_signed_before_what_it_needs(self, design, random):
        expected = Expected(design, noon())
        found = gates_of(expected)
        tried = [gate for gate in found for _ in range(2)]
        random.shuffle(tried)
        kept, signed = [], []
        now = datetime(2026, 6, 15, 12)
        for at, gate in enumerate(tried):
            readings = as_expected(gate)
            entry = GateEntry(gate=gate.key, signing=Signing.PASSED, who="A. Tester", moment=noon(), readings=readings)
            try:
                check_signing(found, kept, entry, judge(expected, gate, readings))
            except InputError:
                continue
            kept.append(Signed(at=now + timedelta(minutes=at), entry=entry))
            signed.append(gate.key)
        first = {key: signed.index(key) for key in signed}
        for gate in found:
            for need in gate.needs:
                if gate.key in first:
                    self.assertLess(first[need], first[gate.key])


class Dangers(unittest.TestCase):
    @quick
    @given(designs())
    def test_each_danger_is_kept_away_by_exactly_one_gate(self, design):
        count = Counter(precaution.danger for gate in gates(design) for precaution in gate.precautions)
        self.assertLessEqual(max(count.values()), 1)
        asked = {Danger.LIVE_WORK, Danger.LOOSE_JOINT, Danger.REVERSED, Danger.MISREAD, Danger.UNLABELLED}
        if design.inverter.rated_w > 0:
            asked |= {Danger.LOAD_TERMINALS, Danger.LIVE_PLUG}
            if precharge_of(design, rate(design.bank)).is_needed:
                asked |= {Danger.RUSH}
            if design.transfer.arrangement is not None:
                asked |= {Danger.BACK_FEED}
        if any(controller.charges for controller in design.charging.controllers):
            asked |= {Danger.SUN_FIRST, Danger.LIT_PANELS, Danger.ARC, Danger.WRONG_CHARGE, Danger.CREEPING}
        if design.charging.generator is not None:
            asked |= {Danger.FUMES}
        if design.bank.chemistry.is_vented:
            asked |= {Danger.GAS}
        if design.bank.series * design.bank.parallel > 1:
            asked |= {Danger.UNEQUAL_BLOCKS}
        self.assertLessEqual(asked, set(count))

    def test_every_danger_is_said_and_met_by_some_demo(self):
        self.assertEqual(set(_SAID), set(Danger))
        met = {each.danger for design in demo_designs() for gate in gates(design) for each in gate.precautions}
        self.assertEqual(met, set(Danger))


class WhatIsSaid(unittest.TestCase):
    def test_the_precharge_names_the_resistor_of_wiring_and_never_load_terminals(self):
        expected, gate = gate_of(birchrow(), "precharge")
        self.assertIn(f"{expected.plan.precharge.resistor_ohm:g} Ω", " ".join(gate.do))
        self.assertIn("load terminals", " ".join(gate.do))

    def test_settings_carry_the_values_of_set_points(self):
        cart = next(each for each in demo_designs() if each.name.startswith("Village"))
        flooded = moved(cart, {"bank.chemistry": "flooded", "charging.stages.equalise_v": 15.6})
        _, gate = gate_of(flooded, "settings")
        values = {ask.key: ask.window.expected for ask in gate.asks}
        self.assertAlmostEqual(values["set.equalise_v"], 15.6)
        self.assertAlmostEqual(values["set.absorb_v"], 14.6)
        self.assertIn("flooded", " ".join(gate.do))
        self.assertIn("equalise: off", " ".join(gate_of(cart, "settings")[1].do).lower())

    def test_two_bonds_are_said_to_be_wrong_before_anything_is_closed(self):
        _, gate = gate_of(birchrow(), "grounds")
        self.assertIn("that is wrong", " ".join(gate.do))

    def test_a_bond_by_relay_is_read_on_backup_and_not_with_the_supply_off(self):
        design = moved(birchrow(), {"transfer.grounding.source_bond": "relay"})
        self.assertNotIn("ground.neutral_ohm", [ask.key for ask in gate_of(design, "grounds")[1].asks])
        self.assertIn("transfer.neutral_v", [ask.key for ask in gate_of(design, "transfer")[1].asks])


class Progress(unittest.TestCase):
    def setUp(self):
        self.expected = Expected(many_strings(), noon())
        self.gates = gates_of(self.expected)
        self.kept = []

    def entry(self, key, signing=Signing.PASSED, **fields):
        gate = next(gate for gate in self.gates if gate.key == key)
        base = {
            "gate": key,
            "signing": signing,
            "who": "A. Tester",
            "readings": as_expected(gate),
            "mark": mark_of(gate),
        }
        return GateEntry(**{**base, **fields})

    def sign(self, entry):
        gate = next((gate for gate in self.gates if gate.key == entry.gate), None)
        judged = None if gate is None else judge(self.expected, gate, entry.readings)
        check_signing(self.gates, self.kept, entry, judged)
        self.kept.append(Signed(at=datetime(2026, 6, 15, 12) + timedelta(minutes=len(self.kept)), entry=entry))

    def refused(self, entry):
        with self.assertRaises(InputError) as caught:
            self.sign(entry)
        return str(caught.exception.problems[0])

    def stand(self, key):
        return next(each for each in progress_of(self.gates, self.kept) if each.key == key)

    def test_what_waits_names_what_it_waits_for(self):
        self.assertIn("Everything open and dead", self.refused(self.entry("mount")))
        self.assertEqual(self.stand("mount").stand, GateStand.WAITS)
        self.sign(self.entry("dead"))
        self.assertEqual(self.stand("mount").stand, GateStand.OPEN)

    def test_a_gate_without_its_readings_a_name_or_a_word_on_what_is_outside_is_refused(self):
        self.assertIn("missing: Bus bars", self.refused(self.entry("dead", readings={})))
        self.assertIn("who", self.refused(self.entry("dead", who=" ")))
        self.assertIn("What has to be dead is alive", self.refused(self.entry("dead", readings={"dead.bus_v": 12.0})))
        self.assertIn("must be readings", self.refused(self.entry("dead", readings={"dead.bus_v": 0.0, "other": 1.0})))
        self.assertIn("must be a gate", self.refused(GateEntry(gate="nowhere", signing="passed", who="A")))
        self.sign(self.entry("dead"))
        self.assertEqual(self.stand("dead").stand, GateStand.PASSED)

    def test_a_skipped_gate_says_why_and_lets_the_next_one_on_and_stays_skipped(self):
        self.sign(self.entry("dead"))
        self.assertIn("the risk: A hot terminal", self.refused(self.entry("mount", Signing.SKIPPED)))
        self.sign(self.entry("mount", Signing.SKIPPED, note="done last week"))
        self.assertEqual((self.stand("mount").stand, self.stand("devices").stand), (GateStand.SKIPPED, GateStand.OPEN))

    def test_a_gate_taken_back_opens_and_what_rests_on_it_waits_again(self):
        for key in ("dead", "mount"):
            self.sign(self.entry(key))
        self.sign(self.entry("dead", Signing.REOPENED))
        self.assertEqual((self.stand("dead").stand, self.stand("mount").stand), (GateStand.OPEN, GateStand.PASSED))
        self.assertEqual(self.stand("devices").stand, GateStand.OPEN)
        self.assertEqual(self.stand("labels").stand, GateStand.OPEN)

    def test_readings_alone_sign_nothing_and_do_not_take_a_signature_back(self):
        self.sign(self.entry("dead", Signing.READ))
        self.assertEqual(self.stand("dead").stand, GateStand.OPEN)
        self.sign(self.entry("dead"))
        self.sign(self.entry("dead", Signing.READ))
        self.assertEqual(self.stand("dead").stand, GateStand.PASSED)

    def test_a_gate_signed_for_another_design_says_so(self):
        for key in ("dead", "mount"):
            self.sign(self.entry(key))
        self.gates = gates_of(
            Expected(
                moved(many_strings(), {"wiring.runs": [{"run": "bank", "length_m": 9.0, "size": "4/0 AWG"}]}), noon()
            )
        )
        self.assertEqual((self.stand("dead").stand, self.stand("mount").stand), (GateStand.PASSED, GateStand.CHANGED))

    def test_another_moment_changes_no_mark(self):
        later = gates_of(
            Expected(many_strings(), noon(at=datetime(2026, 12, 1, 9), air_c=-4.0, soc_frac=None, test_load_w=60.0))
        )
        for one, other in zip(self.gates, later, strict=True):
            self.assertEqual(mark_of(one), mark_of(other))
