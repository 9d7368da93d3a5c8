"""A conductor's size carries its own unit: a change of practice converts nothing, and takes no copper for granted."""

import json
import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.conductor_sizes import in_tables
from hearthkeep.core.design import Practice, read_design, with_changes
from hearthkeep.core.published import copper_ampacity_rows, iec_resistance_rows, nec_resistance_rows
from hearthkeep.core.wiring import wiring_plan
from tests.core.made import home
from tests.core.made_transfers import house
from tests.support.designs import moved

AWG_MM2 = {row.size: row.area_mm2 for row in nec_resistance_rows()}
IN_AMPACITIES = {row.size for row in copper_ampacity_rows()}
MM2 = {row.size: row.area_mm2 for row in iec_resistance_rows()}


def stops(design):
    return {each.code for each in assess(design).findings if each.severity == "stop"}


def said(design):
    return {each.code: each for each in assess(design).findings}


class Counted(unittest.TestCase):
    def test_as_the_next_thinner_one_and_never_as_more(self):
        for sizes, unit, practice, there in (
            (MM2, "mm²", Practice.NORTH_AMERICAN, {size: AWG_MM2[size] for size in IN_AMPACITIES}),
            ({size: AWG_MM2[size] for size in IN_AMPACITIES}, "AWG", Practice.METRIC_230, MM2),
        ):
            for size, area_mm2 in sizes.items():
                with self.subTest(size=size, practice=practice):
                    name = in_tables(f"{size} {unit}", practice)
                    thinner = [each for each in there.values() if each <= area_mm2]
                    self.assertEqual(None if name is None else there[name], max(thinner, default=None))

    def test_its_own_size_is_itself(self):
        self.assertEqual(in_tables("2/0 AWG", Practice.NORTH_AMERICAN), "2/0")
        self.assertEqual(in_tables("2.5 mm²", Practice.METRIC_230), "2.5")


class OtherPractice(unittest.TestCase):
    def test_a_stop_stays_a_stop(self):
        # A bare 4 was 4 mm² here and 4 AWG, 21 mm², there.
        for size in ("4 mm²", "6 mm²", "10 mm²"):
            with self.subTest(size):
                thin = moved(home(), {"wiring.runs": [{"run": "bank", "size": size}]})
                metric = moved(thin, {"practice": "metric_230"})
                self.assertIn("CONDUCTOR_TOO_THIN", stops(metric))
                self.assertIn("CONDUCTOR_TOO_THIN", stops(thin))

    def test_there_and_back_changes_nothing(self):
        design = moved(home(), {"wiring.runs": [{"run": "bank", "size": "2/0 AWG"}]})
        back = moved(moved(design, {"practice": "metric_230"}), {"practice": "north_american"})
        self.assertEqual(back, design)
        self.assertEqual(assess(back).findings, assess(design).findings)

    def test_what_is_said_is_settled_by_its_remedy_and_judged_as_before(self):
        panel = house("critical_panel")
        design = moved(
            panel,
            {"wiring.runs": [{"run": "bank", "size": "95 mm²"}],
             "transfer.circuits.0.wire": "6 mm²", "transfer.device.feeder_wire": "35 mm²"},
        )  # fmt: skip
        found = [each for each in assess(design).findings if each.code == "SIZE_OF_OTHER_PRACTICE"]
        self.assertEqual([each.step.value for each in found], ["transfer", "wiring"])
        self.assertIn("6 mm² as 10 AWG", found[0].message)
        self.assertIn("95 mm² as 3/0 AWG", found[1].message)
        settled = with_changes(design, [change for each in found for change in each.remedy.changes])
        before, after = said(design), said(settled)
        self.assertEqual(set(before) - set(after), {"SIZE_OF_OTHER_PRACTICE"})
        self.assertEqual(set(after) - set(before), set())
        was, bank = (wiring_plan(each, rate(each.bank)).find("bank") for each in (design, settled))
        self.assertEqual((was.size, bank.size, bank.ampacity_a), ("95 mm²", "3/0 AWG", was.ampacity_a))

    def test_sizes_of_the_own_practice_are_silent(self):
        self.assertNotIn(
            "SIZE_OF_OTHER_PRACTICE", said(moved(home(), {"wiring.runs": [{"run": "bank", "size": "3/0 AWG"}]}))
        )


class OfVersion9(unittest.TestCase):
    def test_a_bare_size_is_of_the_practice_it_was_read_by(self):
        for practice, sizes in (
            ("north_american", ("2/0 AWG", "12 AWG", "250 kcmil")),
            ("metric_230", ("16 mm²", "2.5 mm²", "50 mm²")),
        ):
            with self.subTest(practice):
                run, circuit, feeder = (size.split()[0] for size in sizes)
                values = json.loads(
                    moved(house("critical_panel"), {"wiring.runs": [{"run": "bank"}]}).model_dump_json()
                )
                values |= {"schema_version": 9, "practice": practice}
                values["wiring"]["runs"][0]["size"] = run
                for each in values["transfer"]["circuits"]:
                    each["wire"] = circuit
                values["transfer"]["device"]["feeder_wire"] = feeder
                design = read_design(values)
                self.assertEqual(
                    (design.wiring.runs[0].size, design.transfer.circuits[0].wire, design.transfer.device.feeder_wire),
                    sizes,
                )

    def test_a_size_that_the_practice_cannot_count_opens_as_what_it_must_be(self):
        # Entered under one practice and stored under the other: it stood in no table, and opens all the same.
        for practice, bare, kept in (("north_american", "2.5", "2.5 mm²"), ("metric_230", "1/0", "1/0 AWG")):
            with self.subTest(bare):
                values = json.loads(moved(home(), {"wiring.runs": [{"run": "bank"}]}).model_dump_json())
                values |= {"schema_version": 9, "practice": practice}
                values["wiring"]["runs"][0]["size"] = bare
                design = read_design(values)
                self.assertEqual(design.wiring.runs[0].size, kept)
                self.assertIn("SIZE_OF_OTHER_PRACTICE", said(design))

    def test_spellings_of_one_size_are_one(self):
        for typed, kept in (
            ("35mm2", "35 mm²"),
            ("35 mm²", "35 mm²"),
            ("2/0 awg", "2/0 AWG"),
            ("250 AWG", "250 kcmil"),
        ):
            with self.subTest(typed):
                design = moved(home(), {"wiring.runs": [{"run": "bank", "size": typed}]})
                self.assertEqual(design.wiring.runs[0].size, kept)
