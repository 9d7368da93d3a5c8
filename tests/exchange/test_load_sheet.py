"""Loads from other people's sheets, and our own sheets back to the identical ledger."""

import csv
import io
import unittest
import zipfile

from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from hearthkeep.core.numbers import Commas
from hearthkeep.exchange import SheetError, read_sheet, read_text, read_workbook, sheet_rows, write_csv, write_xlsx
from tests.runner.profile import examples
from tests.strategies import audited_loads
from tests.support.designs import birchrow


def preview(text, loads=()):
    return read_sheet(read_text(text), loads)


def fates(found):
    return [row.fate.value for row in found.rows]


class RoundTrip(unittest.TestCase):
    def test_csv_and_xlsx_come_back_identical(self):
        loads = birchrow().loads
        rows = sheet_rows(loads)
        for read in (read_text(write_csv(rows).decode("utf-8-sig")), read_workbook(write_xlsx(rows, "Loads"))):
            found = read_sheet(read, loads)
            self.assertEqual(set(fates(found)), {"same"})
            self.assertEqual(tuple(row.load for row in found.rows), loads)
            # Into an empty design as well, ids and all.
            self.assertEqual(tuple(row.load for row in read_sheet(read, ()).rows), loads)

    @examples(25)
    @given(st.lists(audited_loads(), max_size=4, unique_by=lambda load: load.id))
    def test_any_ledger_survives(self, loads):
        rows = sheet_rows(loads)
        for read in (read_text(write_csv(rows).decode("utf-8-sig")), read_workbook(write_xlsx(rows, "Loads"))):
            found = read_sheet(read, ()).rows
            self.assertEqual([row.problems for row in found], [()] * len(loads))
            self.assertEqual([row.load for row in found], loads)

    def test_a_name_with_another_separator_does_not_mislead(self):
        load = birchrow().loads[0].model_copy(update={"name": "lamp; desk, red"})
        text = write_csv(sheet_rows([load])).decode("utf-8-sig")
        self.assertEqual([row.load for row in read_sheet(read_text(text), ()).rows], [load])

    def test_a_reading_alone_gives_the_watts(self):
        found = preview("Load,Known by\nPump,nameplate 240 V 5 A pf 0.8\nFan,about 30 W")
        self.assertEqual(found.rows[0].load.running_w, 960)
        self.assertIn("or a reading such as", found.rows[1].problems[0].expected)

    def test_what_a_comma_means_is_told_by_the_sheet_then_by_the_practice_and_else_asked(self):
        alone = "Load\tRuns, W\nDryer\t1,400\nFan\t20"
        for others, usual, running_w in (
            ("", Commas.GROUP, 1400),
            ("", Commas.UNSURE, None),
            ("\nLamp\t7,5", Commas.GROUP, 1.4),
            ("\nPlant\t1,200,000", Commas.UNSURE, 1400),
            ("\nPlant\t1,200.5", Commas.UNSURE, 1400),
            # A sheet that writes both ways leaves it open.
            ("\nLamp\t7,5\nPlant\t1,200.5", Commas.GROUP, None),
        ):
            with self.subTest(others=others, usual=usual.value):
                row = read_sheet(read_text(alone + others), (), usual).rows[0]
                if running_w is None:
                    self.assertIn("may be 1400 or 1.4", row.problems[0].expected)
                else:
                    self.assertEqual(row.load.running_w, running_w)

    def test_a_number_followed_by_spaces_and_a_word_is_no_number(self):
        found = preview(f"Load,Runs W\nFan,1{' ' * 1_500}x\nLamp,1{' ' * 1_500}W")
        self.assertEqual(fates(found), ["faulty", "new"])

    def test_a_name_that_looks_like_a_formula_is_kept_as_text(self):
        for name in ("=1+1", "lamp;=1+1", "lamp; @now", ";'=x", "'; '=1", "a;b", "-;-"):
            load = birchrow().loads[0].model_copy(update={"name": name})
            text = write_csv(sheet_rows([load])).decode("utf-8-sig")
            # However a spreadsheet parts the cells, by commas or by semicolons.
            for separator in ",;":
                cells = [cell for row in csv.reader(text.splitlines(), delimiter=separator) for cell in row]
                self.assertFalse([cell for cell in cells if cell.strip()[:1] in tuple("=+-@")], name)
            self.assertEqual(preview(text).rows[0].load.name, name)


class ForeignSheets(unittest.TestCase):
    def test_sixty_rows_with_decimal_commas_and_a_misspelt_tier(self):
        lines = ["Device\tW\tQty\tDuty %\tPriority"]
        lines += [f"Thing {number}\t{number},5\t2\t37,5\tKeep" for number in range(1, 61)]
        lines[17] = lines[17].replace("Keep", "Kepe")
        found = preview("\n".join(lines))
        self.assertEqual((len(found.rows), fates(found).count("new")), (60, 59))
        bad = found.rows[16]
        self.assertEqual((bad.row, bad.problems[0].row, bad.problems[0].column), (18, 18, "Priority"))
        self.assertEqual(bad.problems[0].read, "Kepe")
        self.assertIn("did you mean Keep?", bad.problems[0].expected)
        good = found.rows[0].load
        self.assertEqual((good.running_w, good.duty_frac, good.quantity), (1.5, 0.375, 2))
        self.assertTrue(any("decimal commas" in note for note in found.notes))

    def test_watts_per_hour_is_understood_and_said(self):
        found = preview("Load,W/h\nFridge,120")
        self.assertEqual(found.rows[0].load.running_w, 120)
        self.assertTrue(any("never per hour" in note for note in found.notes))

    def test_hours_a_day_become_a_duty_since_the_hours_are_not_named(self):
        found = preview("Item;Watts;Hours/day\nLaptop;65;6")
        load = found.rows[0].load
        self.assertEqual((load.hours, load.duty_frac), (((0, 24),), 0.25))
        self.assertTrue(any("spread over the day" in note for note in found.notes))

    def test_named_hours(self):
        found = preview('Load,Watts,Hours\nCPAP,34,"22-6"\nTV,70,"7-8, 17-22"\nRouter,10,all day')
        self.assertEqual([row.load.hours for row in found.rows], [((0, 6), (22, 24)), ((7, 8), (17, 22)), ((0, 24),)])

    def test_without_a_header_the_columns_are_taken_in_order_and_that_is_said(self):
        found = preview("Fridge\t120\nLamp\t6\t4")
        self.assertEqual([(row.load.name, row.load.quantity) for row in found.rows], [("Fridge", 1), ("Lamp", 4)])
        self.assertTrue(any("No header" in note for note in found.notes))

    def test_thousands_and_mixed_marks(self):
        found = preview('Load,Watts\nA,"1,200"\nB,"1.200,50"\nC,1500 W')
        self.assertEqual([row.load.running_w for row in found.rows], [1200, 1200.5, 1500])

    def test_unused_columns_are_named(self):
        self.assertTrue(any("Columns not used: Colour" in note for note in preview("Load,Watts,Colour\nA,5,red").notes))

    def test_every_bad_cell_is_listed_with_what_was_read_and_expected(self):
        found = preview("Load,Watts,Qty,Duty %,Hours,Supply\nA,lots,1.5,250,30-40,gas\n,5,,,,\nC,-3,,,,\nD,5,,,,")
        problems = [
            (problem.row, problem.column, problem.read, problem.expected)
            for row in found.rows
            for problem in row.problems
        ]
        self.assertEqual(fates(found), ["faulty", "faulty", "faulty", "new"])
        for row, column, words in (
            (2, "Watts", "a number"),
            (2, "Qty", "a whole number"),
            (2, "Hours", "hours of 0 to 24"),
            (2, "Supply", "AC, AC 240 V, DC, DC converter"),
            (3, "Load", "a name"),
            (4, "Watts", "must be 0 to 50,000"),
        ):
            with self.subTest(row=row, column=column):
                self.assertTrue(any(p[:2] == (row, column) and words in p[3] for p in problems), problems)

    def test_against_loads_there_are_rows_are_new_changed_or_the_same(self):
        loads = birchrow().loads
        found = preview(
            "Load,Tier,Watts,Duty %\nrouter and fibre box,Keep,17,\nTelevision,Ease,60,\nHeater,Ease,900,", loads
        )
        self.assertEqual(fates(found), ["changed", "changed", "new"])
        self.assertIn("Runs W: 74, now 60", found.rows[1].changes)
        # What the sheet does not say stays as it is.
        self.assertEqual((found.rows[1].load.hours, found.rows[1].load.standby_w), (((19, 22),), 0.5))
        self.assertEqual(found.rows[1].load.id, "tv")

    def test_the_same_name_twice_makes_two_loads(self):
        found = preview("Load,Watts\nLamp,5\nLamp,6")
        self.assertEqual(len({row.load.id for row in found.rows}), 2)


class HostileFiles(unittest.TestCase):
    def test_each_is_refused_in_one_sentence(self):
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("xl/workbook.xml", b"0" * 60_000_000)
        for content, words in (
            (bomb.getvalue(), "unpacks to"),
            (b"\xd0\xcf\x11\xe0" + b"x" * 1000, "password"),
            (b"%PDF-1.7", "not an XLSX"),
            (b"", "not an XLSX"),
            (b"PK\x03\x04" + b"\x00" * 400, "not an XLSX"),
        ):
            with self.subTest(words), self.assertRaisesRegex(SheetError, words):
                read_workbook(content)

    def test_a_zip_that_is_no_workbook(self):
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as archive:
            archive.writestr("readme.txt", "hello")
        with self.assertRaisesRegex(SheetError, "damaged or is not one"):
            read_workbook(other.getvalue())

    def test_too_many_rows_and_binary_text(self):
        with self.assertRaisesRegex(SheetError, "at most 1,000 rows"):
            read_text("a,1\n" * 1001)
        with self.assertRaisesRegex(SheetError, "not text"):
            read_text("a\x00b")

    def test_a_formula_is_a_bad_cell_not_a_value(self):
        workbook = Workbook()
        workbook.active.append(["Load", "Watts"])
        workbook.active.append(["Fridge", "=60*2"])
        out = io.BytesIO()
        workbook.save(out)
        row = read_sheet(read_workbook(out.getvalue()), ()).rows[0]
        self.assertEqual((row.fate.value, row.problems[0].read), ("faulty", "=60*2"))
        self.assertIn("formula", row.problems[0].expected)

    def test_nothing_at_all(self):
        self.assertEqual(preview("").rows, ())
        self.assertEqual(preview("Load,Watts").rows, ())
