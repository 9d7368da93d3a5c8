"""One table of typed numbers, read by the core and by the pages alike."""

import json
import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.design import Practice
from hearthkeep.core.numbers import Commas, NumberError, commas_of, read_number
from tests.runner.profile import examples
from tests.support.designs import ROOT
from tests.support.web import called

CASES = json.loads((ROOT / "tests" / "numbers.json").read_text(encoding="utf-8"))["cases"]
MEANINGS = (Commas.GROUP, Commas.UNSURE, Commas.DECIMAL)


def read(text: str, commas: Commas) -> float | None:
    try:
        return read_number(text, commas)
    except NumberError:
        return None


class TheTable(unittest.TestCase):
    def test_the_core_reads_it(self):
        for text, *expected in CASES:
            for commas, value in zip(MEANINGS, expected, strict=True):
                with self.subTest(text, commas=commas.value):
                    self.assertEqual(read(text, commas), value)

    def test_the_pages_read_it_alike(self):
        for text, *expected in CASES:
            for commas, value in zip(MEANINGS, expected, strict=True):
                with self.subTest(text, commas=commas.value):
                    self.assertEqual(called("fields/numbers", "readNumber", text, commas.value)["value"], value)

    def test_the_practice_says_what_a_comma_means(self):
        for practice, commas in ((Practice.NORTH_AMERICAN, Commas.GROUP), (Practice.METRIC_230, Commas.UNSURE)):
            self.assertEqual(commas_of(practice), commas)
            self.assertEqual(called("fields/numbers", "commasOf", practice.value), commas.value)

    def test_what_may_be_two_numbers_is_asked_with_both(self):
        with self.assertRaisesRegex(NumberError, "may be 1400 or 1.4: write it without the comma"):
            read_number("1,400", Commas.UNSURE)
        told = called("fields/numbers", "readNumber", "1,400", "unsure")
        self.assertEqual(told["wrong"], "may be 1400 or 1.4: write it without the comma")

    def test_a_field_takes_its_own_unit_and_no_other(self):
        self.assertEqual(called("fields/numbers", "readNumber", "1,400 W", "group", "W")["value"], 1400)
        self.assertEqual(called("fields/numbers", "readNumber", "35 %", "group", "%")["value"], 35)
        self.assertIsNone(called("fields/numbers", "readNumber", "12 A", "group", "W")["value"])


class Any(unittest.TestCase):
    @examples(300)
    @given(st.text("0123456789.,' -+eE", max_size=12), st.sampled_from(MEANINGS))
    def test_both_readers_agree_on_anything(self, text, commas):
        self.assertEqual(read(text, commas), called("fields/numbers", "readNumber", text, commas.value)["value"])

    @examples(200)
    @given(st.floats(-1e9, 1e9))
    def test_what_the_pages_write_is_read_back(self, value):
        for text in (repr(value), f"{round(value, 2):,}"):
            expected = value if text == repr(value) else round(value, 2)
            self.assertEqual(read(text, Commas.GROUP), expected)
