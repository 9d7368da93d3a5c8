"""Logs in foreign files: any column names, marks, moments and units; what is not understood is counted and said."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.logbook import Quantity
from hearthkeep.exchange import ColumnUse, preview_log, take_log
from hearthkeep.exchange.tables import SheetError

PLAIN = b"""Time,Battery Voltage (V),Current [A],State of Charge (%),PV Power [kW],Remark
2026-03-01 12:00,52.4,-3.1,61,0.412,all well
2026-03-01 12:05,52.5,2.2,61.5,0.5,
"""
HOUR_US = 3_600_000_000


def uses(content, **remembered):
    return [column.use for column in preview_log(content, remembered).columns]


def taken(content, chosen=None, *, utc_offset_h=-6.0, day_first=True):
    return take_log(
        content, uses(content) if chosen is None else chosen, utc_offset_h=utc_offset_h, day_first=day_first
    )


def values(found, quantity, part=""):
    return next(each for each in found.series if (each.quantity, each.part) == (quantity, part))


class Guessed(unittest.TestCase):
    def test_columns_are_known_by_their_words_and_units(self):
        found = {use.column: use for use in uses(PLAIN)}
        self.assertTrue(found["Time"].is_time)
        self.assertEqual(found["Battery Voltage (V)"].quantity, Quantity.BANK_V)
        self.assertEqual(found["Current [A]"].quantity, Quantity.BANK_A)
        self.assertEqual(found["State of Charge (%)"].quantity, Quantity.CHARGE)
        self.assertEqual((found["PV Power [kW]"].quantity, found["PV Power [kW]"].factor), (Quantity.SUN_W, 1000.0))
        self.assertIsNone(found["Remark"].quantity)

    def test_two_columns_of_one_quantity_are_told_apart(self):
        found = uses(b"time,PV Power roof,PV Power wall\n2026-03-01 12:00,1,2\n")
        self.assertEqual(
            [(use.quantity, use.part) for use in found[1:]], [(Quantity.SUN_W, ""), (Quantity.SUN_W, "PV Power wall")]
        )

    def test_a_log_with_the_same_columns_is_remembered(self):
        first = preview_log(PLAIN)
        chosen = [
            ColumnUse(column="Remark", quantity=Quantity.BANK_C),
            *[use for use in uses(PLAIN) if use.column != "Remark"],
        ]
        again = preview_log(PLAIN, {first.header: chosen})
        self.assertTrue(again.is_remembered)
        self.assertEqual(
            next(column.use.quantity for column in again.columns if column.name == "Remark"), Quantity.BANK_C
        )
        self.assertFalse(preview_log(PLAIN.replace(b"Remark", b"Note"), {first.header: chosen}).is_remembered)


class Taken(unittest.TestCase):
    def test_values_with_their_moments_in_local_standard_time(self):
        found = taken(PLAIN)
        sun = values(found, Quantity.SUN_W)
        np.testing.assert_allclose(sun.values, [412.0, 500.0])
        # 12:00 at six hours west is 18:00 UTC of 2026-03-01.
        self.assertEqual(sun.at_us[0] // HOUR_US, 20_513 * 24 + 18)
        self.assertEqual(found.rows, 2)

    def test_moments_of_other_kinds(self):
        for text, offset in (
            ("2026-03-01T18:00:00Z", 5.0), ("2026-03-01 20:00:00+02:00", 5.0), ("1772388000", 5.0), ("1772388000000", 5.0),
            ("01.03.2026 12:00", -6.0), ("1/3/2026 12:00", -6.0),
        ):  # fmt: skip
            found = taken(f"time;volts\n{text};52,4\n".encode(), utc_offset_h=offset)
            one = values(found, Quantity.BANK_V)
            self.assertEqual((one.at_us[0] // HOUR_US, one.values[0]), (20_513 * 24 + 18, 52.4), text)
        american = taken(b"time,volts\n3/1/2026 12:00,52.4\n", day_first=False)
        self.assertEqual(values(american, Quantity.BANK_V).at_us[0] // HOUR_US, 20_513 * 24 + 18)

    def test_day_and_hour_in_columns_of_their_own(self):
        found = taken(b"date,time,volts\n2026-03-01,12:00,52.4\n")
        self.assertEqual(values(found, Quantity.BANK_V).at_us[0] // HOUR_US, 20_513 * 24 + 18)

    def test_what_cannot_be_used_is_counted_and_the_rest_is_taken(self):
        found = taken(
            b"time,volts\n2026-03-01 12:00,52.4\nnever,52\n2026-03-01 12:05,n/a\n2026-03-01 12:10,99999\n2026-03-01 12:15,\n2026-03-01 12:20,51.9 V\n"
        )
        self.assertEqual(list(values(found, Quantity.BANK_V).values), [52.4, 51.9])
        self.assertEqual((found.without_time, found.first_bad_time), (1, "row 3: 'never'"))
        self.assertEqual((dict(found.not_numbers), dict(found.outside)), ({"volts": 1}, {"volts": 1}))

    def test_rows_out_of_order_and_twice(self):
        found = taken(b"time,volts\n2026-03-01 12:05,2\n2026-03-01 12:00,1\n2026-03-01 12:05,3\n")
        self.assertEqual(list(values(found, Quantity.BANK_V).values), [1.0, 3.0])

    def test_a_factor_turns_the_sign(self):
        chosen = [
            ColumnUse(column="time", is_time=True),
            ColumnUse(column="out", quantity=Quantity.BANK_A, factor=-1.0),
        ]
        self.assertEqual(list(values(taken(b"time,out\n2026-03-01 12:00,3\n", chosen), Quantity.BANK_A).values), [-3.0])

    @given(st.binary(max_size=400))
    def test_whatever_bytes_come_the_answer_is_a_preview_or_a_refusal(self, content):
        try:
            preview_log(content)
        except SheetError as error:
            self.assertTrue(str(error))


class Refused(unittest.TestCase):
    def test_what_is_no_log_says_why(self):
        for content, words in (
            (b"", "row of column names"), (b"time,volts\n", "row of column names"), (b"PK\x03\x04\x00\x00", "not text"),
            (b"time,volts\nsome,52\nday,53\n", "No moment can be read"), (b"a,b\n1,2\n", "No column is taken for the moment"),
            (b"time,remark\n2026-03-01,x\n", "a quantity"),
            (b",".join(b"c%d" % at for at in range(99)) + b"\n" + b",".join(b"1" for _ in range(99)) + b"\n", "60 columns"),
        ):  # fmt: skip
            with self.assertRaises(SheetError) as caught:
                taken(content)
            self.assertIn(words, str(caught.exception))
        with self.assertRaises(SheetError) as caught:
            taken(PLAIN, [ColumnUse(column="Gone", is_time=True)])
        self.assertIn("no column Gone", str(caught.exception))
