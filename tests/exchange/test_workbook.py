"""The live workbook against a formula engine of its own: every shared figure, and what a changed cell does."""

import io
import unittest

from openpyxl import load_workbook

from hearthkeep.core.assess import assess
from hearthkeep.core.wiring import wiring_sheet
from hearthkeep.demo import demo_designs
from hearthkeep.exchange import write_live_workbook
from hearthkeep.papers.words import worked
from hearthkeep.starting import Start, starting_design
from tests.papers.made import strained
from tests.support.designs import birchrow, changed, moved
from tests.support.recalculated import recalculated

BESIDE = "BESIDE HEARTH KEEP"


def made(design):
    return write_live_workbook(design, assess(design), wiring_sheet(design))


def beside(cells):
    """Name, the workbook's value and Hearth Keep's, of every shared figure."""
    row = 2
    while (BESIDE, f"A{row}") in cells:
        yield cells[BESIDE, f"A{row}"], cells[BESIDE, f"B{row}"], cells[BESIDE, f"C{row}"]
        row += 1


class Shared(unittest.TestCase):
    def check(self, design):
        found = list(beside(recalculated(made(design))))
        self.assertGreater(len(found), 10)
        for name, theirs, ours in found:
            with self.subTest(design=design.name[:30], figure=name):
                self.assertEqual(worked(float(theirs)), worked(float(ours)))
                self.assertLessEqual(abs(theirs - ours), 1e-9 * max(1.0, abs(ours)))
        return {name for name, _, _ in found}

    def test_every_shared_figure_of_every_demo_is_the_same_worked_out_anew(self):
        for design in demo_designs():
            names = self.check(design)
            self.assertLessEqual(
                {"All loads: Wh a day", "From need to bank: Rated energy needed", "Usable energy", "Parts: sum of what has a price"},
                names,
            )  # fmt: skip

    def test_with_a_flat_loss_converters_search_mode_and_no_inverter(self):
        loads = [
            {**load, "supply": supply, "converter_efficiency_frac": 0.8 if supply == "dc_converted" else None}
            for load, supply in zip(
                birchrow().model_dump(mode="json")["loads"], ["dc", "dc_converted", "ac", "panel"] * 9, strict=False
            )
        ]
        self.check(moved(changed(birchrow(), loads=loads), {"wiring.loss_frac": 0.02}))
        self.check(moved(birchrow(), {"inverter.search_threshold_w": 300.0}))
        self.check(moved(birchrow(), {"inverter.rated_w": 0.0, "inverter.surge_w": 0.0, "inverter.idle_w": 0.0}))
        self.check(starting_design(Start.VAN))

    def test_an_empty_design_makes_a_workbook(self):
        for name, theirs, ours in beside(recalculated(made(starting_design(Start.HOME)))):
            self.assertAlmostEqual(theirs, ours, msg=name)


class Kept(unittest.TestCase):
    def test_what_stands_beside_each_formula_is_what_it_comes_to(self):
        for design in (
            *demo_designs(),
            moved(birchrow(), {"wiring.loss_frac": 0.02, "inverter.search_threshold_w": 300.0}),
        ):
            book = made(design)
            cells = recalculated(book)
            written, kept = (load_workbook(io.BytesIO(book), data_only=only) for only in (False, True))
            count = 0
            for sheet in written.worksheets:
                for row in sheet.iter_rows():
                    for cell in row:
                        if cell.data_type != "f":
                            continue
                        count += 1
                        theirs, ours = (
                            cells[sheet.title.upper(), cell.coordinate],
                            kept[sheet.title][cell.coordinate].value,
                        )
                        where = (design.name[:20], sheet.title, cell.coordinate, cell.value)
                        if isinstance(ours, str):
                            self.assertEqual(theirs, ours, where)
                        else:
                            self.assertLessEqual(abs(theirs - ours), 1e-9 * max(1.0, abs(ours)), where)
            self.assertGreater(count, 60)


class Live(unittest.TestCase):
    def test_a_changed_cell_moves_what_follows_from_it_as_hearth_keep_would(self):
        book = load_workbook(io.BytesIO(made(birchrow())))
        fridge = next(row for row in book["Audit"].iter_rows(min_row=2) if row[0].value == "Fridge-freezer")
        fridge[4].value = 240
        # The day that the bank is sized for has watts of its own.
        fridge[12].value = 240
        out = io.BytesIO()
        book.save(out)
        cells = recalculated(out.getvalue())
        ids = [load.id for load in birchrow().loads if load.name == "Fridge-freezer"]
        found = assess(
            moved(birchrow(), {f"loads.{[load.id for load in birchrow().loads].index(ids[0])}.running_w": 240.0})
        )
        figures = {name: value for name, value, _ in beside(cells)}
        self.assertAlmostEqual(figures["All loads: Wh a day"], found.loads.daily_wh, places=6)
        need = {line.label: line.value for line in found.arrangement.need.lines}
        self.assertAlmostEqual(
            figures["From need to bank: Life and Keep on a dark day"], need["Life and Keep on a dark day"], places=6
        )
        self.assertGreater(
            figures["From need to bank: Rated energy needed"], assess(birchrow()).arrangement.need.nominal_wh
        )

    def test_a_name_like_a_formula_stays_text(self):
        book = load_workbook(io.BytesIO(made(strained(loads=12, branches=4))))
        for sheet in book.worksheets:
            for row in sheet.iter_rows():
                for cell in row:
                    text = str(cell.value or "")
                    if "cmd|" in text:
                        self.assertEqual((cell.data_type, text[:1] in "=+-@"), ("s", False), text[:40])
        self.assertTrue(any("cmd|" in str(row[0].value) for row in book["Audit"].iter_rows()))
