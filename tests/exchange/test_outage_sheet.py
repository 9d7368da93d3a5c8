"""Past outages from sheets: every form of a row, and every cell that cannot be used."""

import unittest
from datetime import datetime

from hearthkeep.exchange import SheetError, read_outages, read_text

TODAY = datetime(2026, 11, 27, 12)


def read(text):
    return read_outages(read_text(text), TODAY)


class Understood(unittest.TestCase):
    def test_start_with_hours_minutes_or_an_end(self):
        for text in (
            "2025-12-14 18:30, 26.5",
            "2025-12-14T18:30,2025-12-15 21:00",
            "Start;Hours\n2025-12-14 18:30;26,5",
            "began\tminutes\n2025-12-14 18:30\t1590",
            "Out, Restored\n2025-12-14 18:30, 2025-12-15 21:00",
        ):
            with self.subTest(text):
                found = read(text)
                self.assertEqual(found.problems, ())
                self.assertEqual(
                    [(o.start, o.length_h) for o in found.outages], [(datetime(2025, 12, 14, 18, 30), 26.5)]
                )

    def test_years_are_those_the_record_spans_and_not_the_future(self):
        self.assertAlmostEqual(read("2024-12-30 10:00, 2\n2025-01-02 09:00, 1").years, 2.0, delta=0.01)
        self.assertAlmostEqual(read("2026-01-02 09:00, 1").years, 0.9, delta=0.01)


class Refused(unittest.TestCase):
    def test_each_bad_cell_is_named_and_the_good_rows_stay(self):
        found = read(
            "start,hours\n2025-01-01 10:00,5\n2025-01-01 12:00,1\n2031-01-01,3\nyesterday,2\n2025-03-01 10:00,-1\n"
            "2025-04-01 10:00,900\n2025-02-30 10:00,1\n2025-05-01 10:00,"
        )
        self.assertEqual(len(found.outages), 1)
        self.assertEqual(
            [(problem.row, problem.column) for problem in found.problems],
            [(3, "start"), (4, "start"), (5, "start"), (6, "hours"), (7, "hours"), (8, "start"), (9, "hours")],
        )
        self.assertIn("row 2", found.problems[0].expected)
        self.assertIn("passed", found.problems[1].expected)

    def test_a_record_too_long_empty_or_without_lengths_is_refused_whole(self):
        for text, words in (
            ("\n".join(["2025-01-01 10:00,1"] * 100_000), "at most 1,000 rows"),
            ("", "no rows"),
            ("start,town\n2025-01-01 10:00,Birchrow", "end, hours or minutes"),
        ):
            with self.subTest(words), self.assertRaisesRegex(SheetError, words):
                read(text)
