"""Library units as CSV: whatever is written is read back the same, and whatever cannot be used is named by its cell."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from hearthkeep.core.design import LibraryBattery, LibraryModule
from hearthkeep.exchange import UnitSheetError, read_units, write_units
from tests.runner.profile import examples

BATTERY, MODULE = TypeAdapter(LibraryBattery), TypeAdapter(LibraryModule)
NAMES = st.text(st.characters(codec="utf-8", exclude_categories=("C", "Z")), min_size=1, max_size=20)
SOME = st.floats(0.5, 900).map(lambda value: round(value, 4))


@st.composite
def modules(draw):
    vmp_v, imp_a = draw(SOME), draw(st.floats(0.1, 90))
    return LibraryModule(
        library_id=draw(st.from_regex(r"[a-z0-9][a-z0-9-]{0,15}", fullmatch=True)),
        name=draw(NAMES),
        stc_w=draw(SOME),
        vmp_v=vmp_v,
        voc_v=vmp_v * 1.1,
        imp_a=imp_a,
        isc_a=imp_a * 1.05,
        voc_temp_coeff_per_c=draw(st.none() | st.floats(-0.01, -0.0001)),
        series_fuse_a=draw(st.none() | st.floats(1, 100)),
        price=draw(st.none() | st.floats(0.01, 10_000)),
    )


class RoundTrip(unittest.TestCase):
    @examples(60)
    @given(st.lists(modules(), max_size=5, unique_by=lambda unit: unit.library_id))
    def test_panels_come_back_as_they_were(self, units):
        read = read_units(MODULE, LibraryModule, write_units(LibraryModule, units).decode("utf-8"))
        self.assertEqual(read.problems, ())
        self.assertEqual(read.units, tuple(units))

    def test_cycles_by_depth(self):
        unit = LibraryBattery(
            library_id="a", name="A", chemistry="agm", unit_v=12.0, unit_ah=100.0,
            cycle_points=({"depth_frac": 0.3, "cycles": 1600.0}, {"depth_frac": 0.8, "cycles": 500.0}),
        )  # fmt: skip
        text = write_units(LibraryBattery, [unit]).decode("utf-8")
        self.assertIn("0.3:1600.0 0.8:500.0", text)
        self.assertEqual(read_units(BATTERY, LibraryBattery, text).units, (unit,))

    def test_a_name_that_a_spreadsheet_would_run_is_kept_as_text(self):
        unit = LibraryModule(library_id="f", name="=1+1", stc_w=1.0, voc_v=2.0, vmp_v=1.0, isc_a=1.0, imp_a=1.0)
        text = write_units(LibraryModule, [unit]).decode("utf-8")
        self.assertIn("'=1+1", text)
        self.assertEqual(read_units(MODULE, LibraryModule, text).units[0].name, "=1+1")


class Refused(unittest.TestCase):
    HEAD = "library_id,name,stc_w,voc_v,vmp_v,isc_a,imp_a,series_fuse_a\n"

    def problems(self, *rows):
        return read_units(MODULE, LibraryModule, self.HEAD + "\n".join(rows)).problems

    def test_each_faulty_cell_is_named_by_row_and_column(self):
        found = self.problems(
            "a,A,many,37,31,13,12,", "b,B,400,37,31,13,12,", "c,C,4000000,37,31,13,12,", "d,,400,37,31,13,12,"
        )
        self.assertEqual(
            [(problem.row, problem.column) for problem in found], [(2, "stc_w"), (4, "stc_w"), (5, "name")]
        )
        self.assertEqual((found[0].read, found[0].expected), ("many", "a number"))
        self.assertIn("less than or equal to 2000", found[1].expected)

    def test_figures_that_contradict_each_other_are_told(self):
        (found,) = self.problems("a,A,400,30,31,13,12,")
        self.assertIn("voc_v must be above vmp_v", found.expected)

    def test_nonsense_numbers(self):
        for cell in ("nan", "inf", "-5", "1e400"):
            with self.subTest(cell):
                self.assertTrue(self.problems(f"a,A,{cell},37,31,13,12,"))

    def test_a_text_that_is_no_sheet(self):
        for text, words in (
            ("", "at least name among them"),
            ("stc_w\n400", "at least name among them"),
            ("name,colour\nA,red", "not known: colour"),
            ("name\n" + "A\n" * 10_001, "at most 10,000 units"),
        ):
            with self.subTest(text[:20]), self.assertRaisesRegex(UnitSheetError, words):
                read_units(MODULE, LibraryModule, text)

    def test_empty_rows_are_no_units(self):
        read = read_units(MODULE, LibraryModule, self.HEAD + ",,,,,,,\n\n  ,,\n")
        self.assertEqual((read.units, read.problems), ((), ()))
