"""Cells of a table as they are saved: what is read as a number on the page is a number in the file."""

import unittest

from tests.support.web import called

TABLES = "shared/tableRows"


class Cells(unittest.TestCase):
    def test_numbers_are_numbers_and_all_else_stays_as_it_is_read(self):
        for text, wanted in (
            ("1,234", 1234), ("12.5", 12.5), ("−20", -20), ("-3.25", -3.25), (" 7\u00a0", 7), ("1,234,567.8", 1234567.8),
            ("10.2 kWh", "10.2 kWh"), ("1,5", "1,5"), ("12,34", "12,34"), ("±5", "±5"), ("+2", "+2"), ("28 h 18", "28 h 18"),
            ("–", "–"), ("", ""), ("a \n b", "a b"), ("=1+1", "=1+1"), ("1e5", "1e5"),
        ):  # fmt: skip
            self.assertEqual(called(TABLES, "cellOf", text), wanted, text)
