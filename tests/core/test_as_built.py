"""Installations as they stand: what a competent electrician would pass raises nothing, what is ill made is named with its figures."""

import unittest

from hearthkeep.core.assess import assess
from tests.core.as_built import ILL_MADE, WELL_MADE, next_size
from tests.support.designs import moved

#: What other pages find leaves the runs guarded.
OF_OTHER_PAGES = ("ONE_FAULT", "OVER_SERIES_LIMIT", "NO_RAPID_SHUTDOWN", "RATINGS_IN_SERIES", "OUTLETS_TOO_SMALL")


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
