"""Findings about any wiring plan: a remedy settles its finding and raises nothing grave; a sentence's figures are the formula's own."""

import re
import unittest
from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.checks import Step
from tests.core.made_wiring import wired_homes
from tests.core.test_paths import plans
from tests.runner.profile import amount
from tests.support.designs import moved

PLANS = amount(25, 2_000)
#: What a finding of another page, or of the volts, says is judged there.
ELSEWHERE = ("VOLTS_AT_PEAK", "VOLTS_AT_START")
#: Digits that are no figure: a conductor's size, a device's and its count, how many more, feet of a length shown in metres, volts of
#: a generator and of what a basis names.
NAMES = re.compile(
    r"((?<![\d.])\d × )?[\d/.]+ (AWG|kcmil|mm²)|(?<![\d.])\d × [\d.]+ A|and \d+ more|over [\d.,]+ ft|at \d+ V|out of \d+|other \d+ strings|(?<=inverter )\d+"
)
NUMBER = re.compile(r"(?<![\w./])\d[\d,]*(?:\.\d+)?(?![\d/])")


def grave(findings):
    """Stops and Mends of the plan; of volts nothing is said while a run's conductor is not known, so that they may appear with it."""
    return Counter(
        each.code
        for each in findings
        if each.severity.value in ("stop", "mend") and each.step is Step.WIRING and each.code not in ELSEWHERE
    )


class AnyPlan(unittest.TestCase):
    def test_each_remedy_settles_its_finding_and_raises_nothing_grave(self):
        tried: Counter[str] = Counter()

        @settings(max_examples=PLANS)
        @given(st.one_of(plans(), wired_homes()))
        def settles(design):
            before = assess(design).findings
            for finding in before:
                if finding.remedy is None or finding.step is not Step.WIRING or finding.code in ELSEWHERE:
                    continue
                tried[finding.code] += 1
                changes = {change.path: change.value for change in finding.remedy.changes}
                after = assess(moved(design, changes)).findings
                codes = [each.code for each in after]
                self.assertLess(codes.count(finding.code), [each.code for each in before].count(finding.code), finding)
                self.assertLessEqual(grave(after), grave(before), finding)

        settles()
        for code in ("CONDUCTOR_TOO_THIN", "DEVICE_TOO_LARGE", "DEVICE_TOO_SMALL", "DROP_TOO_LARGE"):
            self.assertGreater(tried[code], 0, code)

    def test_each_figure_of_a_sentence_is_its_formulas_own(self):
        found: Counter[str] = Counter()

        @settings(max_examples=PLANS)
        @given(st.one_of(plans(), wired_homes()))
        def stands(design):
            for finding in assess(design).findings:
                if finding.figure is None or finding.step is not Step.WIRING:
                    continue
                known = [finding.figure.value, *(term.value for term in finding.figure.terms)]
                for text in NUMBER.findall(NAMES.sub("", finding.message)):
                    number, places = float(text.replace(",", "")), len(text.partition(".")[2])
                    found[finding.code] += 1
                    self.assertTrue(
                        any(abs(number - value) <= 0.51 * 10**-places for value in known),
                        (text, finding.message, known),
                    )

        stands()
        for code in (
            "CONDUCTOR_TOO_THIN",
            "DEVICE_TOO_LARGE",
            "CANNOT_BREAK_FAULT",
            "DROP_TOO_LARGE",
            "PWM_OVERLOADED",
        ):
            self.assertGreater(found[code], 0, code)
