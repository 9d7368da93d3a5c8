"""Well-made designs raise no Stop and no Mend; ill-made ones raise exactly what they should."""

import re
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.checks import Severity
from tests.core.made import ILL_MADE, WELL_MADE, ill_made

HEAVY = (Severity.STOP, Severity.MEND)


def heavy(design) -> set[str]:
    return {finding.code for finding in assess(design).findings if finding.severity in HEAVY}


class Made(unittest.TestCase):
    def test_well_made_ones_raise_nothing_heavy(self):
        for name, design in WELL_MADE.items():
            with self.subTest(name):
                self.assertEqual(heavy(design()), set())

    def test_ill_made_ones_raise_exactly_what_they_should(self):
        for what, base, fields, codes in ILL_MADE:
            with self.subTest(what):
                self.assertEqual(heavy(ill_made(base, fields)), codes)

    def test_what_is_said_of_them_is_plain_english(self):
        for name, design in WELL_MADE.items():
            for finding in assess(design()).findings:
                with self.subTest(name, code=finding.code):
                    text = f"{finding.title} {finding.message} {finding.remedy.label if finding.remedy else ''}"
                    self.assertNotRegex(
                        text, r"\b1 (days|strings|units|loads|hours|cycles) |\b1 are |\ba 8|\ba 11 |\d{4,} %"
                    )
                    # Nothing is useless apart from itself, nor carried and dead at once.
                    twice = re.search(r"(\w[\w ]+) and \1 are", text)
                    self.assertIsNone(twice)
