"""Words and bands of the trials, and pictures as files."""

import csv
import io
import unittest

from tests.support.web import called

WORDS, SAVING = "steps/trials/words", "charts/saving"


class Bands(unittest.TestCase):
    def test_only_all_of_them_is_the_lightest_and_few_the_darkest(self):
        for share, band in (
            (1, 0),
            (0.99999, 1),
            (0.95, 1),
            (0.8, 2),
            (0.79, 3),
            (0.5, 3),
            (0.2, 4),
            (0.19, 5),
            (0, 5),
        ):
            self.assertEqual(called(WORDS, "bandOf", share), band, share)

    def test_lengths_are_said_in_days_from_two_on(self):
        for length_h, text in ((12, "12 h"), (24, "24 h"), (48, "2 days"), (60, "60 h"), (720, "30 days")):
            self.assertEqual(called(WORDS, "lengthText", length_h), text)

    def test_a_share_is_nothing_or_everything_only_where_it_is(self):
        for share, text in ((0, "0 %"), (1e-6, "1 %"), (0.5, "50 %"), (0.9999, "99 %"), (1, "100 %")):
            self.assertEqual(called("shared/format", "sharePercent", share), text)


class AsFiles(unittest.TestCase):
    def test_rows_are_read_back_as_they_were(self):
        rows = [["", 'the "roof", east'], ["12 h", 0.5], ["line\nbreak", -3]]
        text = called(SAVING, "csvText", rows)
        read = list(csv.reader(io.StringIO(text, newline="")))
        self.assertEqual(read, [[str(cell) for cell in row] for row in rows])

    def test_words_that_a_spreadsheet_would_run_are_kept_words_and_numbers_numbers(self):
        self.assertEqual(called(SAVING, "csvText", [["=1+1", "-x", -1]]), "'=1+1,'-x,-1\r\n")

    def test_a_files_name_is_letters_digits_and_hyphens(self):
        self.assertEqual(called(SAVING, "fileWords", " Birchrow 14 · ice/storm? "), "Birchrow-14-ice-storm")
