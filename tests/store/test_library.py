"""The equipment library in real PostgreSQL: searched by words, replaced by key, kept while a design's newest state uses it."""

import unittest

from hearthkeep.core.design import LibraryBattery, LibraryModule
from hearthkeep.store import Designs, InUseError, Library, NotFoundError, UnitKind
from tests.support.designs import birchrow, changed
from tests.support.shared import fresh_engine


def battery(key: str, name: str, **fields) -> LibraryBattery:
    return LibraryBattery(library_id=key, name=name, chemistry="lfp", unit_v=12.8, unit_ah=100.0, **fields)


def panel(key: str, **fields) -> LibraryModule:
    sheet = {"name": key, "stc_w": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.8, "imp_a": 12.9}
    return LibraryModule(library_id=key, **{**sheet, **fields})


class LibraryTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        engine = fresh_engine()
        cls.addClassCleanup(engine.dispose)
        cls.library, cls.designs = Library(engine), Designs(engine)

    def keys(self, words, kind=UnitKind.BATTERY, **options):
        return [unit.library_id for unit in self.library.find(kind, words, **options).units]


class Search(LibraryTest):
    def test_every_word_has_to_fit_in_any_order_and_letter_size(self):
        self.library.put(UnitKind.BATTERY, [battery("s1", "Shelf block red"), battery("s2", "Shelf block blue")])
        self.assertEqual(self.keys("BLUE shelf"), ["s2"])
        self.assertEqual(self.keys("shelf"), ["s2", "s1"])
        self.assertEqual(self.keys("shelf green"), [])

    def test_signs_of_the_database_are_plain_letters(self):
        self.library.put(
            UnitKind.BATTERY,
            [battery("p1", "Half 50% cell"), battery("p2", "Half 50 cell"), battery("u1", "a_b"), battery("u2", "aXb")],
        )
        self.assertEqual(self.keys("50%"), ["p1"])
        self.assertEqual(self.keys("a_b"), ["u1"])
        self.assertEqual(self.keys("'; drop table units; --"), [])

    def test_a_long_find_is_cut_and_counted_whole(self):
        self.library.put(UnitKind.MODULE, [panel(f"many-{number:03d}") for number in range(70)])
        found = self.library.find(UnitKind.MODULE, "many", most=20)
        self.assertEqual((len(found.units), found.total), (20, 70))
        self.assertEqual(found.units[0].library_id, "many-000")

    def test_kinds_do_not_mix(self):
        self.library.put(UnitKind.BATTERY, [battery("same-key", "Twin")])
        self.library.put(UnitKind.MODULE, [panel("same-key", name="Twin")])
        self.assertIsInstance(self.library.find(UnitKind.BATTERY, "twin").units[0], LibraryBattery)
        self.assertIsInstance(self.library.find(UnitKind.MODULE, "twin").units[0], LibraryModule)


class Keeping(LibraryTest):
    def test_the_same_key_replaces_its_unit_and_its_words(self):
        self.library.put(UnitKind.BATTERY, [battery("r", "Old name", price=100.0)])
        self.library.put(UnitKind.BATTERY, [battery("r", "New name", price=90.0)])
        self.assertEqual(self.keys("old"), [])
        self.assertEqual(self.library.find(UnitKind.BATTERY, "new").units[0].price, 90.0)

    def test_nothing_is_put_quietly(self):
        self.assertEqual(self.library.put(UnitKind.BATTERY, []), 0)

    def test_a_unit_no_design_uses_goes_and_one_that_is_not_there_is_told(self):
        self.library.put(UnitKind.BATTERY, [battery("gone", "Gone")])
        self.library.delete(UnitKind.BATTERY, "gone")
        with self.assertRaises(NotFoundError):
            self.library.delete(UnitKind.BATTERY, "gone")

    def with_panel(self, key):
        charging = birchrow().model_dump(mode="json")["charging"]
        charging["controllers"][0]["arrays"][0]["module"] = panel(key).model_dump(mode="json")
        return changed(birchrow(), charging=charging)

    def test_a_panel_deep_in_a_design_is_found_and_only_its_newest_state_counts(self):
        self.library.put(UnitKind.MODULE, [panel("deep"), panel("deep-2")])
        made = self.designs.create(self.with_panel("deep"))
        with self.assertRaisesRegex(InUseError, "Birchrow"):
            self.library.delete(UnitKind.MODULE, "deep")
        # A key that only begins alike is another unit.
        self.library.delete(UnitKind.MODULE, "deep-2")
        self.designs.save(made.id, birchrow(), expected_revision=1)
        self.library.delete(UnitKind.MODULE, "deep")
        # Undone, the design has its sheet whole, without the library.
        undone = self.designs.undo(made.id, expected_revision=2)
        self.assertEqual(undone.document.charging.controllers[0].arrays[0].module.library_id, "deep")
