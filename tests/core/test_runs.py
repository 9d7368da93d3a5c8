"""Runs: by hand, by properties over random designs, and what nonsense comes to."""

import re
import unittest

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, DeviceKind
from hearthkeep.core.errors import InputError
from hearthkeep.core.wiring import RunKind, cables_of, device_words, wiring_plan
from tests.core.made import home
from tests.core.made_wiring import everything, wired_homes
from tests.core.test_invariants import quick
from tests.support.designs import ROOT, birchrow, load, moved


def plan_of(design: Design):
    return wiring_plan(design, rate(design.bank))


def unset(design: Design) -> Design:
    return moved(design, {"wiring.runs": []})


class ByHand(unittest.TestCase):
    def test_three_runs_of_birchrow_agree_with_the_document(self):
        text = (ROOT / "docs" / "wiring-by-hand.md").read_text()
        plan = plan_of(birchrow())
        told = re.findall(r"^\| `([\w-]+)` \| (\w+) \| ([^|]+?) \|$", text, re.MULTILINE)
        self.assertEqual(len({key for key, _, _ in told}), 3)
        for key, what, value in told:
            with self.subTest(run=key, what=what):
                run = plan.find(key)
                found = {
                    "carries": run.run.current_a,
                    "needed": run.needed_a,
                    "ampacity": run.ampacity_a,
                    "drop_v": run.drop_v,
                    "drop_percent": 100 * (run.drop_frac or 0.0),
                    "fault": run.device.fault_a if run.device else None,
                    "device": run.device.rating_a if run.device else None,
                    "size": str(run.size).removesuffix(" AWG"),
                    "most_v": run.run.most_v,
                }[what]
                if what == "size":
                    self.assertEqual(found, value)
                else:
                    self.assertAlmostEqual(
                        found, float(value.replace(",", "")), delta=0.5 * 10 ** -len(value.partition(".")[2])
                    )
        self.assertGreater(len(told), 15)

    def test_a_bank_in_series_and_parallel_has_its_links_and_leads(self):
        from tests.core.made import cabin

        design = moved(cabin(), {"wiring": {}})
        runs = {run.run.key: run.run for run in plan_of(design).runs}
        # Four blocks in series, twice: three links in each string, one conductor each; two leads to the bars.
        self.assertEqual((runs["series-links"].count, runs["series-links"].poles), (6, 1))
        self.assertEqual((runs["string-leads"].count, runs["string-leads"].poles), (2, 2))
        # 1,500 W at 21 V and 90 %: 79.4 A, half of it in each lead.
        self.assertAlmostEqual(runs["bank"].current_a, 1500 / 0.9 / 21.0)
        self.assertAlmostEqual(runs["string-leads"].current_a, 1500 / 0.9 / 21.0 / 2)

    def test_the_bank_s_leads_follow_the_inverter_s_rating_and_not_the_audit(self):
        design = moved(home(), {"wiring": {}, "loads": [load("a router", 17.0)]})
        bank = plan_of(design).find("bank")
        self.assertAlmostEqual(bank.run.current_a, 5000 / 0.93 / 44.0)


class AnyDesign(unittest.TestCase):
    @quick
    @given(wired_homes())
    def test_every_positive_that_leaves_a_source_has_a_device_between_its_current_and_its_conductor(self, design):
        for sized in plan_of(unset(design)).runs:
            run = sized.run
            if run.is_dc and run.kind not in (RunKind.LINK, RunKind.GROUND, RunKind.ARRAY):
                # Of two strings side by side neither drives more into a fault than its conductor bears.
                self.assertTrue(run.needs_device or run.kind in (RunKind.STRING, RunKind.LEAD), run.key)
            if (
                sized.device is None
                or sized.conductor is None
                or sized.by_heat is None
                or sized.device.rating_a is None
            ):
                continue
            self.assertGreaterEqual(sized.device.rating_a, run.current_a)
            self.assertGreaterEqual(sized.device.rating_a, sized.needed_a - 1e-9)
            self.assertLessEqual(sized.device.rating_a, sized.largest_device_a + 1e-9)
            self.assertLessEqual(sized.device.rating_a, sized.ampacity_a + 1e-9)

    @quick
    @given(wired_homes())
    def test_each_device_breaks_its_fault_or_is_told(self, design):
        findings = [finding for finding in assess(design).findings if finding.step == "wiring"]
        told = {
            finding.title.split(":")[0] for finding in findings if finding.code in ("CANNOT_BREAK_FAULT", "NO_DEVICE")
        }
        for sized in plan_of(design).runs:
            device = sized.device
            if device is None or device.fault_a is None or device.rating_a is None:
                continue
            if device.interrupt_a is None or device.interrupt_a < device.fault_a:
                label = sized.run.label if len(sized.run.label) <= 60 else sized.run.label[:59].rstrip() + "…"
                self.assertTrue(
                    any(label.startswith(title) or title.startswith(label.split(":")[0]) for title in told), label
                )

    @quick
    @given(wired_homes(), st.floats(0.2, 300), st.floats(1.0, 3.0))
    def test_a_longer_run_never_gets_a_thinner_conductor(self, design, length_m, times):
        design = unset(design)
        keys = [run.run.key for run in plan_of(design).runs]
        assume(keys)
        for key in keys:
            one = plan_of(moved(design, {"wiring.runs": [{"run": key, "length_m": length_m}]})).find(key)
            other = plan_of(moved(design, {"wiring.runs": [{"run": key, "length_m": length_m * times}]})).find(key)
            if one.conductor is None:
                self.assertIsNone(other.conductor, key)
            else:
                self.assertGreaterEqual(other.conductor.pole_mm2, one.conductor.pole_mm2, key)

    @quick
    @given(wired_homes(), st.floats(1.0, 4.0))
    def test_more_current_never_a_smaller_device_nor_a_thinner_conductor(self, design, times):
        design = unset(design)
        assume(design.inverter.rated_w > 0)
        more = moved(
            design,
            {
                "inverter.rated_w": design.inverter.rated_w * times,
                "inverter.surge_w": design.inverter.surge_w * times,
                "wiring.board.places": [
                    {"part": part.key, "x_mm": part.x_mm, "y_mm": part.y_mm} for part in plan_of(design).parts
                ],
            },
        )
        for before in plan_of(design).runs:
            after = plan_of(more).find(before.run.key)
            self.assertGreaterEqual(after.run.current_a, before.run.current_a - 1e-9)
            if before.device is None or before.device.rating_a is None or after.device.rating_a is None:
                continue
            self.assertGreaterEqual(after.device.rating_a, before.device.rating_a, before.run.key)
            if before.conductor is not None and after.conductor is not None and before.length_m == after.length_m:
                self.assertGreaterEqual(after.conductor.pole_mm2, before.conductor.pole_mm2, before.run.key)

    @quick
    @given(wired_homes())
    def test_the_drop_equals_that_of_a_network_solved_node_by_node(self, design):
        for sized in plan_of(design).runs:
            if sized.drop_v is None or sized.conductor is None or sized.run.drop_at_a == 0:
                continue
            pieces = 6
            # Out along one pole and back along the other, in pieces, a source of current at the far end: Kirchhoff at each node.
            nodes = sized.run.poles * pieces
            siemens = 1.0 / (sized.conductor.ohm_per_m / sized.conductor.per_pole * sized.length_m / pieces)
            matrix, injected = np.zeros((nodes, nodes)), np.zeros(nodes)
            for node in range(nodes):
                matrix[node, node] += siemens
                if node > 0:
                    matrix[node - 1, node - 1] += siemens
                    matrix[node, node - 1] -= siemens
                    matrix[node - 1, node] -= siemens
            injected[-1] = sized.run.drop_at_a
            volts = np.linalg.solve(matrix, injected)
            self.assertAlmostEqual(volts[-1] / sized.drop_v, 1.0, places=9)

    @quick
    @given(wired_homes())
    def test_nothing_set_on_a_run_breaks_the_assessment(self, design):
        found = assess(design)
        self.assertEqual(found.wiring.run_count, len(plan_of(design).runs))
        self.assertTrue(all(finding.basis for finding in found.findings))


class Loss(unittest.TestCase):
    def test_the_leads_lose_what_ohm_says(self):
        # 17 W of router on a 5 kW inverter: bank and inverter leads by their own resistance, at nominal volts.
        design = moved(home(), {"wiring": {}})
        rating, plan = rate(design.bank), plan_of(design)
        cables = cables_of(design, rating)
        self.assertAlmostEqual(cables.bank_per_w * 51.2**2, plan.find("bank").loop_ohm, places=12)
        self.assertAlmostEqual(cables.inverter_per_w * 51.2**2, plan.find("inverter-1").loop_ohm, places=12)

    def test_two_inverters_share_the_current_and_lose_half_of_one_lead(self):
        design = everything()
        cables, plan = cables_of(design, rate(design.bank)), plan_of(design)
        both = plan.find("inverter-1").loop_ohm + plan.find("inverter-2").loop_ohm
        self.assertAlmostEqual(cables.inverter_per_w * 51.2**2, both / 2 / 2, places=9)

    def test_the_outage_loses_it_and_a_thicker_lead_loses_less(self):
        lost = []
        for size in ("6 AWG", "3 AWG", "4/0 AWG"):
            runs = [{"run": key, "size": size, "length_m": 20.0} for key in ("bank", "inverter-1")]
            outage = assess(moved(home(), {"wiring": {"runs": runs}, "charging.generator": None})).outage
            lost.append(outage.ledger_wh.wiring_loss)
        self.assertGreater(lost[0], lost[1])
        self.assertGreater(lost[1], lost[2])
        # Resistances of 1.608 and 0.1996 Ω/km: nearly in their proportion, since the hours carried are nearly alike.
        self.assertAlmostEqual(lost[0] / lost[2] / (1.608 / 0.1996), 1.0, delta=0.05)

    def test_a_steady_load_by_hand(self):
        # 1,000 W day and night behind 10 m of 6 AWG from the bank and 5 m to the inverter, at 51.2 V, all losses else left out.
        design = moved(
            home(),
            {
                "wiring": {"runs": [{"run": "bank", "size": "6 AWG", "length_m": 10.0}, {"run": "inverter-1", "size": "6 AWG", "length_m": 5.0}]},
                "loads": [load("kiln", 1000.0, tier="life")],
                "inverter.idle_w": 0.0, "inverter.efficiency_frac": 1.0, "charging": {}, "outage.duration_h": 2.0,
            },
        )  # fmt: skip
        ohm_per_m = 1.608e-3
        at_inverter_w = 1000.0 + 2 * 5.0 * ohm_per_m * (1000.0 / 51.2) ** 2
        lost_w = at_inverter_w - 1000.0 + 2 * 10.0 * ohm_per_m * (at_inverter_w / 51.2) ** 2
        self.assertAlmostEqual(assess(design).outage.ledger_wh.wiring_loss, 2.0 * lost_w, places=6)

    def test_a_flat_loss_stands_in_for_the_runs(self):
        design = moved(home(), {"wiring": {"loss_frac": 0.02, "runs": [{"run": "bank", "length_m": 500.0}]}})
        self.assertEqual(cables_of(design, rate(design.bank)), (0.02, 0.0, 0.0, 0.0))


class Nonsense(unittest.TestCase):
    def test_lengths_and_amps_out_of_range_are_refused_by_their_field(self):
        for field, value in (
            ("length_m", 0.0), ("length_m", 10_000.0), ("length_m", float("nan")), ("length_m", -1.0), ("device_a", 0.0),
            ("device_a", 1e9), ("per_pole", 0), ("bundled", 61), ("size", "1e5"), ("size", ""), ("size", "35"), ("size", "2.5 AWG"), ("size", "4/0 mm²"), ("conduit", "9"), ("insulation_c", 80),
        ):  # fmt: skip
            with self.subTest(field, value=value), self.assertRaises(InputError) as caught:
                moved(home(), {"wiring": {"runs": [{"run": "bank", field: value}]}})
            if value == value:
                self.assertIn(f"wiring.runs.0.{field}", [problem.field for problem in caught.exception.problems])

    def test_a_run_set_twice_is_refused(self):
        with self.assertRaisesRegex(InputError, "runs: each key must stand once"):
            moved(home(), {"wiring": {"runs": [{"run": "bank"}, {"run": "bank"}]}})

    def test_a_2_a_fuse_on_200_a_and_a_size_from_nowhere_are_told(self):
        design = moved(
            home(), {"wiring": {"runs": [{"run": "bank", "device_a": 2.0}, {"run": "inverter-1", "size": "33 AWG"}]}}
        )
        codes = {finding.code for finding in assess(design).findings}
        self.assertLessEqual({"DEVICE_TOO_SMALL", "SIZE_NOT_IN_TABLES"}, codes)
        self.assertIsNone(plan_of(design).find("inverter-1").conductor)

    def test_a_set_wire_is_never_made_thinner_or_thicker_in_silence(self):
        design = moved(home(), {"wiring": {"runs": [{"run": "bank", "size": "14 AWG"}]}})
        self.assertEqual(plan_of(design).find("bank").size, "14 AWG")
        self.assertIn("CONDUCTOR_TOO_THIN", {finding.code for finding in assess(design).findings})

    def test_two_hundred_runs(self):
        loads = [load(f"lamp {number}", 4.0 + number % 7, supply="dc") for number in range(200)]
        design = moved(home(), {"wiring": {}, "loads": loads})
        plan = plan_of(design)
        self.assertGreater(len(plan.runs), 200)
        self.assertTrue(all(run.conductor is not None for run in plan.runs))
        assess(design)

    def test_a_device_nobody_makes(self):
        design = moved(
            home(), {"wiring": {}, "inverter.rated_w": 60_000.0, "inverter.surge_w": 60_000.0, "inverter.idle_w": 40.0}
        )
        codes = {finding.code for finding in assess(design).findings}
        self.assertLessEqual({"DEVICE_NOT_MADE", "NO_CONDUCTOR"}, codes)
        self.assertIsNone(plan_of(design).find("bank").device.rating_a)
        self.assertIs(plan_of(design).find("bank").device.kind, DeviceKind.CLASS_T)

    def test_none_not_known_and_not_made_are_three_things(self):
        for fields, words in (({"device": "none"}, "none"), ({"unknown": ["device"]}, "not known")):
            for run in ("bank", "panel"):
                with self.subTest(words, run=run):
                    design = moved(home(), {"wiring": {"runs": [{"run": run, **fields}]}})
                    self.assertEqual(device_words(plan_of(design).find(run).device), words)
        large = moved(home(), {"wiring": {}, "inverter.rated_w": 60_000.0, "inverter.surge_w": 60_000.0})
        self.assertIn("not made", device_words(plan_of(large).find("bank").device))
