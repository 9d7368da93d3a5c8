"""Panel schedules in and out: foreign headers, rubbish rows listed, good rows taken, and the same circuits back."""

import unittest

from hearthkeep.exchange import panel_now, read_schedule, read_text, read_workbook, schedule_rows, write_csv, write_xlsx
from tests.core.made_transfers import circuit, house
from tests.support.designs import moved

RUBBISH = """Circuit No.,Description,Amps,Pole,AWG,Phase,Backup,Fuse colour
5,Kitchen outlets,20,1,12,A,yes,red
"7,9",Dryer,30,2,10,,no,
11,Bath,ten,1,14,A,no,
12,,15,1,14,A,no,
13,Hall,15,1,13,A,no,
14,Attic,15,1,14,C,no,
15,Garage,15,1,14,A,perhaps,
5,Again,15,1,14,A,no,
99,Nowhere,15,1,14,A,no,
30,Beyond,15,1,14,A,no,
=1+1,Formula,15,1,14,A,no,
,No slot,15,1,14,A,no,
1,Fridge circuit,15,1,14,A,yes,
"""


class Read(unittest.TestCase):
    def setUp(self):
        self.design = house("critical_panel")

    def read(self, text, design=None):
        return read_schedule(read_text(text), panel_now(design or self.design))

    def test_rubbish_is_listed_by_row_and_column_and_the_good_rows_stand(self):
        preview = self.read(RUBBISH)
        self.assertEqual(preview.notes, ("Columns not used: Fuse colour.",))
        fates = {row.row: row.fate.value for row in preview.rows}
        self.assertEqual({row for row, fate in fates.items() if fate != "faulty"}, {2, 3, 14})
        self.assertEqual(fates[14], "changed")
        told = {row.row: (row.problems[0].column, row.problems[0].expected) for row in preview.rows if row.problems}
        for row, column, expected in (
            (4, "Amps", "a breaker in amps, above 0 to 1,000"), (5, "Name", "what hangs on it"), (6, "AWG", "a size in AWG"),
            (7, "Phase", "a leg of the service: A or B"), (8, "Backup", "yes or no"),
            (9, "Slot", "a free slot; row 2 has a breaker in it"), (10, "Circuit No.", "a slot, 1 to 84"),
            (11, "Slot", "a slot of the panel, 1 to 24"), (12, "Circuit No.", "a slot, 1 to 84"), (13, "Slot", "a slot"),
        ):  # fmt: skip
            with self.subTest(row):
                self.assertEqual(told[row][0], column)
                self.assertTrue(told[row][1].startswith(expected), told[row])
        dryer = preview.rows[1].circuit
        self.assertEqual((dryer.slot, dryer.poles, dryer.breaker_a, dryer.wire), (7, 2, 30.0, "10 AWG"))

    def test_a_load_hangs_on_one_circuit(self):
        free = moved(self.design, {"transfer.circuits": [], **{f"loads.{at}.circuit": None for at in range(5)}})
        preview = self.read(
            "slot,breaker,name,loads\n5,15,one,fridge; router\n7,15,two,Fridge\n9,15,three,nothing\n", free
        )
        self.assertEqual(preview.rows[0].loads, ("fridge", "router"))
        self.assertIn("row 2 has it", preview.rows[1].problems[0].expected)
        self.assertIn("loads of the audit", preview.rows[2].problems[0].expected)

    def test_typed_lines_below_each_other(self):
        preview = self.read("5 20A 1p kitchen 12 AWG\n7,9 30A dryer\n11 hall\n")
        self.assertEqual([row.fate.value for row in preview.rows], ["new", "new", "faulty"])
        self.assertIn("breaker_a", preview.rows[2].problems[0].column)

    def test_two_hundred_rows_stop_at_the_last_slot(self):
        rows = "slot,breaker,name\n" + "".join(f"{at % 84 + 1},15,c{at}\n" for at in range(200))
        large = moved(self.design, {"transfer.main.slots": 84, "transfer.circuits": []})
        preview = self.read(rows, large)
        self.assertEqual(sum(row.fate.value != "faulty" for row in preview.rows), 84)
        self.assertEqual(len(preview.rows), 200)

    def test_without_a_header(self):
        preview = self.read("5,20A,Kitchen,12\n")
        self.assertEqual(preview.rows[0].circuit.wire, "12 AWG")
        self.assertIn("No header", preview.notes[0])

    def test_nothing_in_it(self):
        self.assertIn("no rows", self.read("slot,breaker,name\n").notes[0])


class ThereAndBack(unittest.TestCase):
    def test_csv_and_workbook_give_the_same_circuits(self):
        design = house("manual_switch", device={"positions": 4})
        named = {"transfer.circuits.0.name": "=1+1; 'quoted'", "transfer.circuits.1.why": "+ heat",
                 "transfer.circuits.2.backup_leg": "A", "transfer.circuits.3.shares_neutral_with": "c3",
                 "transfer.circuits.4": circuit(6, 20.0, poles=2)}  # fmt: skip
        design = moved(design, named)
        rows = schedule_rows(design)
        for tables in (read_text(write_csv(rows).decode("utf-8-sig")), read_workbook(write_xlsx(rows, "Panel"))):
            preview = read_schedule(tables, panel_now(design))
            self.assertEqual([row.problems for row in preview.rows], [()] * 5)
            self.assertEqual({row.fate.value for row in preview.rows}, {"same"})
            on = {row.circuit.id: row.loads for row in preview.rows}
            self.assertEqual(on, {load.circuit: (load.id,) for load in design.loads})

    def test_after_says_what_becomes_of_each(self):
        header, *rows = schedule_rows(house("manual_switch", device={"positions": 4}))
        after = {row[1]: row[header.index("After")] for row in rows}
        self.assertEqual(after["circuit 6"], "no position left for it")
        self.assertEqual(after["circuit 1"], "carried")


if __name__ == "__main__":
    unittest.main()
