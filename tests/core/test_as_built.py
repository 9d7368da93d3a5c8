"""Installations as they stand: what a competent electrician would pass raises nothing, what is ill made is named with its figures."""

import re
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.checks import Severity, Step
from hearthkeep.core.wiring import RunKind, wiring_plan
from tests.core.as_built import ILL_MADE, WELL_MADE, next_size, one_block, pwm
from tests.support.designs import moved

#: What other pages find leaves the runs guarded.
OF_OTHER_PAGES = ("ONE_FAULT", "OVER_SERIES_LIMIT", "NO_RAPID_SHUTDOWN", "RATINGS_IN_SERIES", "OUTLETS_TOO_SMALL")


def plan_of(design):
    return wiring_plan(design, rate(design.bank))


class AsBuilt(unittest.TestCase):
    def test_what_is_well_made_raises_no_stop_and_no_mend(self):
        for name, design in WELL_MADE.items():
            with self.subTest(name):
                grave = [
                    (finding.code, finding.message)
                    for finding in assess(design).findings
                    if finding.severity.value in ("stop", "mend")
                ]
                self.assertEqual(grave, [])

    def test_what_is_ill_made_is_named_and_a_field_away_it_is_not(self):
        for name, (code, figure, ill, well) in ILL_MADE.items():
            with self.subTest(name):
                found = [finding for finding in assess(ill).findings if finding.code == code]
                self.assertTrue(found)
                self.assertIn(figure, found[0].message)
                self.assertNotIn("RUNS_HOLD", [finding.code for finding in assess(ill).findings if finding.step == "wiring"
                                               and code not in OF_OTHER_PAGES])  # fmt: skip
                self.assertNotIn(code, [finding.code for finding in assess(well).findings])

    def test_each_remedy_settles_its_finding_and_raises_nothing_else(self):
        tried = 0
        for name, (code, _, ill, _) in ILL_MADE.items():
            before = assess(ill).findings
            for finding in (each for each in before if each.code == code and each.remedy is not None):
                with self.subTest(name):
                    tried += 1
                    after = assess(
                        moved(ill, {change.path: change.value for change in finding.remedy.changes})
                    ).findings
                    self.assertLess(
                        [each.code for each in after].count(code), [each.code for each in before].count(code)
                    )
                    graver = {each.code for each in after if each.severity.value in ("stop", "mend")}
                    self.assertLessEqual(
                        graver, {each.code for each in before if each.severity.value in ("stop", "mend")}
                    )
        self.assertGreater(tried, 6)

    def test_the_next_size_is_a_note_where_the_ampacity_is_below_the_device(self):
        """6 AWG carries 65 A at 75 °C and 55 at 60; behind 60 A the second stands by NEC 240.4(B)."""
        for terminal_c, is_said in ((75, False), (60, True)):
            found = [finding for finding in assess(next_size(terminal_c)).findings if finding.code == "NEXT_SIZE_UP"]
            self.assertEqual(bool(found), is_said)
            if found:
                self.assertEqual(found[0].severity.value, "mind")
                self.assertIn("60 A before 6 AWG, good for 55 A", found[0].message)

    def test_a_device_that_bears_the_audit_and_not_the_full_rating_is_a_note(self):
        def worst(device_a):
            design = moved(one_block(), {"wiring.runs.0.device_a": device_a})
            return next((each for each in assess(design).findings if each.code == "DEVICE_TOO_SMALL"), None)

        peak_a = assess(one_block()).inverter.bank_peak_a
        bears, opens = worst(50.0), worst(1.1 * peak_a)
        self.assertIn(f"at its peak, {peak_a:.0f} A, it bears", bears.message)
        self.assertEqual((bears.severity, opens.severity), (Severity.MIND, Severity.MEND))
        self.assertIsNone(worst(125.0))
        # Charging goes through the same device: then the audit's peak is no comfort.
        charged = {"wiring.runs.0.device_a": 50.0, "charging.grid_charger.output_w": 4000.0}
        found = {each.code: each for each in assess(moved(one_block(), charged)).findings}
        self.assertEqual(found["DEVICE_TOO_SMALL"].severity, Severity.MEND)
        self.assertNotIn("it bears", found["DEVICE_TOO_SMALL"].message)

    def test_a_pwm_cable_may_lose_what_its_controller_throws_away(self):
        design = pwm(1)
        run = next(each for each in plan_of(design).runs if each.run.kind is RunKind.ARRAY)
        module = design.charging.controllers[0].arrays[0].module
        hot_v = module.vmp_v * (1 - 0.0035 * 40)
        self.assertGreater(run.run.spare_v, 0.0)
        self.assertLess(run.run.spare_v, hot_v - design.bank.nominal_v)
        converts = moved(design, {"charging.controllers.0.kind": "mppt"})
        other = next(each for each in plan_of(converts).runs if each.run.kind is RunKind.ARRAY)
        self.assertEqual((other.run.spare_v, other.drop_limit_frac), (0.0, 0.02))
        self.assertAlmostEqual(run.drop_limit_frac, run.run.spare_v / run.run.volts_v)

    def test_each_number_of_a_sentence_stands_in_the_findings_own_figure(self):
        for name, (code, _, bad, _) in ILL_MADE.items():
            for each in assess(bad).findings:
                if each.step is not Step.WIRING or each.code != code or each.figure is None:
                    continue
                known = [each.figure.value, *(term.value for term in each.figure.terms)]
                for text in NUMBER.findall(each.message):
                    number, places = float(text.replace(",", "")), len(text.partition(".")[2])
                    near = [value for value in known if abs(number - value) <= 0.51 * 10**-places]
                    with self.subTest(name, number=text):
                        self.assertTrue(near or text in SAID_OF_SIZES, each.message)


#: Digits that are no figure: those of a conductor's name, and of a count of strings.
SAID_OF_SIZES = ("10", "12", "2", "0", "6", "1")
NUMBER = re.compile(r"(?<![\w./])\d[\d,]*(?:\.\d+)?(?![\d/])")
