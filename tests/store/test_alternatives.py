"""Alternatives in real PostgreSQL: a tree with a common root, promoted without anything lost."""

import unittest
import uuid

from hearthkeep.core.errors import InputError
from hearthkeep.store import (
    MOST_ALTERNATIVES,
    Alternatives,
    Checked,
    Designs,
    NotFoundError,
    StaleRevisionError,
    Summaries,
)
from tests.support.designs import birchrow, changed
from tests.support.shared import fresh_engine


class Trees(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.designs, cls.kept = Designs(cls.engine), Alternatives(cls.engine)

    def smaller(self, parallel=1):
        design = birchrow()
        return changed(design, bank={"parallel": parallel})

    def test_a_tree_stands_under_its_root_and_only_the_root_in_the_list(self):
        root = self.designs.create(birchrow())
        one = self.kept.keep(root.id, "One battery", Checked.of(self.smaller()))
        as_it_is = self.kept.keep(one.id, "The same again")
        for asked in (root.id, one.id, as_it_is.id):
            tree = self.kept.tree(asked)
            self.assertEqual([entry.id for entry in tree], [root.id, one.id, as_it_is.id])
            self.assertEqual([entry.parent_id for entry in tree], [None, root.id, one.id])
            self.assertEqual([entry.label for entry in tree], ["", "One battery", "The same again"])
        self.assertEqual(self.designs.get(as_it_is.id).document, self.smaller())
        opened = self.designs.get(one.id)
        self.assertEqual((opened.root_id, opened.label), (root.id, "One battery"))
        listed = [line.id for line in Summaries(self.engine).page(by="any").lines]
        self.assertIn(root.id, listed)
        self.assertFalse({one.id, as_it_is.id} & set(listed))

    def test_an_alternative_is_edited_undone_and_removed_like_any_design(self):
        root = self.designs.create(birchrow())
        one = self.kept.keep(root.id, "One")
        self.designs.save(one.id, self.smaller(), expected_revision=1)
        self.assertEqual(self.designs.get(root.id).document, birchrow())
        self.assertEqual(self.designs.undo(one.id, expected_revision=2).document, birchrow())
        self.designs.delete(one.id)
        self.assertIsNotNone(self.kept.tree(root.id)[1].deleted_at)
        self.designs.restore(one.id)
        self.assertIsNone(self.kept.tree(root.id)[1].deleted_at)

    def test_promoting_keeps_what_the_design_was(self):
        root = self.designs.create(birchrow())
        one = self.kept.keep(root.id, "One", Checked.of(changed(self.smaller(), name="Birchrow 14: one")))
        saved = self.kept.promote(one.id, expected_revision=1, label="Until today")
        self.assertEqual(saved.revision, 2)
        now = self.designs.get(root.id)
        # Under its own name, with the other's document; undo goes back, and an alternative holds it besides.
        self.assertEqual(now.document, self.smaller())
        self.assertTrue(now.can_undo)
        before = self.kept.tree(root.id)[-1]
        self.assertEqual((before.label, before.parent_id), ("Until today", root.id))
        self.assertEqual(self.designs.get(before.id).document, birchrow())
        # Once more it is the same already: nothing is added.
        again = self.kept.promote(one.id, expected_revision=2, label="Again")
        self.assertEqual((again.revision, len(self.kept.tree(root.id))), (2, 3))

    def test_promoting_over_a_newer_state_is_refused(self):
        root = self.designs.create(birchrow())
        one = self.kept.keep(root.id, "One", Checked.of(self.smaller()))
        self.designs.save(root.id, self.smaller(3), expected_revision=1)
        with self.assertRaises(StaleRevisionError):
            self.kept.promote(one.id, expected_revision=1, label="x")
        self.assertEqual(len(self.kept.tree(root.id)), 2)

    def test_the_root_is_neither_renamed_nor_promoted_and_strangers_are_unknown(self):
        root = self.designs.create(birchrow())
        for act in (
            lambda: self.kept.rename(root.id, "x"),
            lambda: self.kept.promote(root.id, expected_revision=1, label="x"),
        ):
            with self.assertRaises(InputError):
                act()
        with self.assertRaises(NotFoundError):
            self.kept.tree(uuid.uuid4())
        one = self.kept.keep(root.id, "One")
        self.kept.rename(one.id, "Two")
        self.assertEqual(self.kept.tree(root.id)[1].label, "Two")

    def test_there_is_an_end_to_alternatives(self):
        root = self.designs.create(birchrow())
        for number in range(MOST_ALTERNATIVES):
            last = self.kept.keep(root.id, f"No. {number}")
        with self.assertRaises(InputError):
            self.kept.keep(root.id, "One more")
        self.designs.delete(last.id)
        self.kept.keep(root.id, "One more")
