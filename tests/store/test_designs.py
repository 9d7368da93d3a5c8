"""Designs in real PostgreSQL: revisions, undo and redo, stale saves, deletion."""

import threading
import unittest
import uuid

from sqlalchemy import create_engine, inspect, update

from hearthkeep.store import (
    DatabaseAwayError,
    DeletedError,
    Designs,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
    Summaries,
)
from hearthkeep.store.models import Base, RevisionRow
from tests.support.designs import birchrow, changed
from tests.support.shared import fresh_engine


class StoreTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.designs = Designs(cls.engine)

    def listed(self, **which):
        return [line.id for line in Summaries(self.engine).page(by="any", **which).lines]

    def named(self, name):
        return changed(birchrow(), name=name)


class Saving(StoreTest):
    def test_an_empty_store_and_one_that_held_something(self):
        engine = fresh_engine()
        self.addCleanup(engine.dispose)
        designs = Designs(engine)
        self.assertTrue(designs.is_empty())
        designs.delete(designs.create(birchrow()).id)
        self.assertFalse(designs.is_empty())

    def test_an_older_document_opens_and_adds_no_revision_when_saved_as_it_is(self):
        made = self.designs.create(birchrow())
        older = {**birchrow().model_dump(mode="json"), "schema_version": 1}
        older["rules"] = {"ease_level_frac": older.pop("policy")["ease_level_frac"], **older.pop("simulation")}
        with self.engine.begin() as connection:
            connection.execute(update(RevisionRow).where(RevisionRow.design_id == made.id).values(document=older))
        opened = self.designs.get(made.id)
        self.assertEqual(opened.document, birchrow())
        self.assertEqual(self.designs.revision(made.id, 1), birchrow())
        self.assertEqual(self.designs.save(made.id, opened.document, expected_revision=1).revision, 1)
        self.designs.save(made.id, self.named("on"), expected_revision=1)
        self.assertEqual(self.designs.undo(made.id, expected_revision=2).document, birchrow())

    def test_what_is_saved_comes_back_whole(self):
        made = self.designs.create(birchrow())
        self.assertEqual((made.revision, made.can_undo, made.can_redo), (1, False, False))
        self.assertEqual(self.designs.get(made.id).document, birchrow())

    def test_each_save_adds_a_revision_and_keeps_the_old(self):
        made = self.designs.create(self.named("a"))
        saved = self.designs.save(made.id, self.named("b"), expected_revision=1)
        self.assertEqual(saved.revision, 2)
        self.assertEqual(self.designs.revision(made.id, 1).name, "a")
        self.assertEqual([entry.number for entry in self.designs.history(made.id)], [2, 1])

    def test_the_same_again_adds_nothing(self):
        made = self.designs.create(self.named("a"))
        self.assertEqual(self.designs.save(made.id, self.named("a"), expected_revision=1).revision, 1)

    def test_a_stale_save_names_the_newer_revision_and_writes_nothing(self):
        made = self.designs.create(self.named("a"))
        self.designs.save(made.id, self.named("theirs"), expected_revision=1)
        with self.assertRaisesRegex(StaleRevisionError, "Revision 2 was saved meanwhile") as caught:
            self.designs.save(made.id, self.named("mine"), expected_revision=1)
        self.assertEqual(caught.exception.newest_revision, 2)
        self.assertEqual(self.designs.get(made.id).document.name, "theirs")

    def test_of_many_at_once_exactly_one_wins(self):
        made = self.designs.create(self.named("start"))
        outcomes = []

        def save(number):
            try:
                self.designs.save(made.id, self.named(f"w{number}"), expected_revision=1)
                outcomes.append("saved")
            except StaleRevisionError:
                outcomes.append("stale")

        workers = [threading.Thread(target=save, args=(number,)) for number in range(6)]
        for worker in workers:
            worker.start()
        for worker in workers:
            worker.join()
        self.assertEqual(sorted(outcomes), ["saved"] + ["stale"] * 5)
        self.assertEqual(self.designs.get(made.id).revision, 2)

    def test_unknown_designs_and_revisions(self):
        with self.assertRaisesRegex(NotFoundError, "no design"):
            self.designs.get(uuid.uuid4())
        made = self.designs.create(self.named("a"))
        with self.assertRaisesRegex(NotFoundError, "no revision 7; its newest is 1"):
            self.designs.revision(made.id, 7)


class SentAgain(StoreTest):
    """A change whose answer was lost is sent again under its key, and is the same change."""

    def test_a_save_is_the_same_save(self):
        made, key = self.designs.create(self.named("a")), uuid.uuid4()
        first = self.designs.save(made.id, self.named("b"), expected_revision=1, key=key)
        again = self.designs.save(made.id, self.named("b"), expected_revision=1, key=key)
        self.assertEqual((first.revision, again), (2, first))
        self.assertEqual(len(self.designs.history(made.id)), 2)

    def test_so_it_is_when_another_window_saved_since(self):
        made, key = self.designs.create(self.named("a")), uuid.uuid4()
        mine = self.designs.save(made.id, self.named("mine"), expected_revision=1, key=key)
        self.designs.save(made.id, self.named("theirs"), expected_revision=2)
        self.assertEqual(self.designs.save(made.id, self.named("mine"), expected_revision=1, key=key), mine)
        self.assertEqual(self.designs.get(made.id).document.name, "theirs")
        with self.assertRaises(StaleRevisionError):
            self.designs.save(made.id, self.named("next"), expected_revision=mine.revision)

    def test_another_key_is_another_save(self):
        made = self.designs.create(self.named("a"))
        self.designs.save(made.id, self.named("b"), expected_revision=1, key=uuid.uuid4())
        with self.assertRaises(StaleRevisionError):
            self.designs.save(made.id, self.named("b"), expected_revision=1, key=uuid.uuid4())

    def test_steps_back_and_forth_are_taken_once(self):
        made = self.designs.create(self.named("a"))
        self.designs.save(made.id, self.named("b"), expected_revision=1)
        back, forth = uuid.uuid4(), uuid.uuid4()
        for _ in range(2):
            self.assertEqual(self.designs.undo(made.id, expected_revision=2, key=back).document.name, "a")
        for _ in range(2):
            self.assertEqual(self.designs.redo(made.id, expected_revision=3, key=forth).document.name, "b")
        self.assertEqual(len(self.designs.history(made.id)), 4)


class Undoing(StoreTest):
    def walk(self, *steps):
        """Save names, or undo and redo; return the name after each step."""
        stored = self.designs.create(self.named("0"))
        names = []
        for step in steps:
            if step in ("undo", "redo"):
                stored = getattr(self.designs, step)(stored.id, expected_revision=stored.revision)
            else:
                stored = self.designs.save(stored.id, self.named(step), expected_revision=stored.revision)
            names.append(self.designs.get(stored.id).document.name)
        self.last = stored
        return names

    def test_back_and_forth(self):
        self.assertEqual(
            self.walk("1", "2", "undo", "undo", "redo", "redo", "undo"), ["1", "2", "1", "0", "1", "2", "1"]
        )
        self.assertEqual(self.last.revision, 8)

    def test_a_new_edit_ends_redo_and_undo_leads_past_it(self):
        self.assertEqual(self.walk("1", "2", "undo", "3", "undo", "undo"), ["1", "2", "1", "3", "1", "0"])
        self.assertFalse(self.last.can_undo)

    def test_undo_after_redo_after_undo(self):
        self.assertEqual(self.walk("1", "2", "undo", "redo", "undo", "undo"), ["1", "2", "1", "2", "1", "0"])

    def test_nothing_to_undo(self):
        made = self.designs.create(self.named("a"))
        with self.assertRaises(NothingToUndoError):
            self.designs.undo(made.id, expected_revision=1)
        with self.assertRaises(NothingToUndoError):
            self.designs.redo(made.id, expected_revision=1)

    def test_a_stale_undo_is_refused(self):
        made = self.designs.create(self.named("a"))
        self.designs.save(made.id, self.named("b"), expected_revision=1)
        with self.assertRaises(StaleRevisionError):
            self.designs.undo(made.id, expected_revision=1)


class Deleting(StoreTest):
    def test_deleted_designs_leave_the_list_and_can_be_restored_with_their_history(self):
        made = self.designs.create(self.named("gone"))
        self.designs.save(made.id, self.named("gone 2"), expected_revision=1)
        self.designs.delete(made.id)
        self.assertNotIn(made.id, self.listed())
        self.assertIn(made.id, self.listed(deleted=True))
        with self.assertRaisesRegex(DeletedError, "Restore it"):
            self.designs.save(made.id, self.named("x"), expected_revision=2)
        restored = self.designs.restore(made.id)
        self.assertEqual((restored.revision, restored.can_undo), (2, True))
        self.assertEqual(self.designs.get(made.id).document.name, "gone 2")

    def test_the_list_has_the_last_saved_first(self):
        first, second = self.designs.create(self.named("first")), self.designs.create(self.named("second"))
        self.designs.save(first.id, self.named("first again"), expected_revision=1)
        ids = self.listed()
        self.assertLess(ids.index(first.id), ids.index(second.id))


class Schema(StoreTest):
    def test_migrations_make_what_the_models_say(self):
        found = inspect(self.engine)
        for table in Base.metadata.sorted_tables:
            columns = {column["name"]: column["nullable"] for column in found.get_columns(table.name)}
            self.assertEqual(columns, {column.name: bool(column.nullable) for column in table.columns})

    def test_a_database_that_does_not_answer_is_told_plainly(self):
        away = Designs(create_engine("postgresql+psycopg://nobody:x@127.0.0.1:1/none"))
        with self.assertRaisesRegex(DatabaseAwayError, "does not answer"):
            away.is_empty()
