"""Backups hold everything, are restored whole or not at all, and carry data of every released schema to today's."""

import json
import random
import shutil
import tempfile
import unittest
import zipfile
from datetime import datetime
from pathlib import Path

import psycopg

from hearthkeep.core.design import SCHEMA_VERSION
from hearthkeep.server.keeping import restore
from hearthkeep.store import (
    BackupError,
    Cluster,
    Designs,
    Library,
    NewerSchemaError,
    Nightly,
    UnitKind,
    WeatherYears,
    engine_for,
    ensure_database,
    load_backup,
    read_backup,
    write_backup,
)  # fmt: skip
from tests.support.designs import ROOT, birchrow, changed

RELEASED = ROOT / "tests" / "documents" / "schemas"


class BackupTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.place = Path(tempfile.mkdtemp(prefix="hearth backup "))
        cls.place.chmod(0o755)
        cls.addClassCleanup(shutil.rmtree, cls.place, ignore_errors=True)
        cls.cluster = Cluster(cls.place / "home", durable=False)
        cls.addClassCleanup(cls.cluster.destroy)
        cls.cluster.ensure_running()

    def fresh(self, name):
        """A home of its own beside."""
        cluster = Cluster(self.place / name, durable=False)
        self.addCleanup(cluster.destroy)
        return cluster

    def engine(self, cluster, database="hearth"):
        ensure_database(cluster.url(database))
        engine = engine_for(cluster.url(database))
        self.addCleanup(engine.dispose)
        return engine


class Whole(BackupTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        ensure_database(cls.cluster.url("hearth"))
        engine = engine_for(cls.cluster.url("hearth"))
        designs = Designs(engine)
        # Names that the format must not trip over.
        cls.kept = designs.create(changed(birchrow(), name="Back\\slash \\N \\. \\t ┌ “ü”"))
        designs.save(cls.kept.id, changed(birchrow(), name="Second"), expected_revision=1)
        designs.undo(cls.kept.id, expected_revision=2)
        cls.gone = designs.create(birchrow())
        designs.delete(cls.gone.id)
        from hearthkeep.demo import starter_units
        from hearthkeep.exchange import read_units, read_weather
        from hearthkeep.store import MODELS, SHEETS
        from tests.support.weather import epw_lines, joined

        kind = UnitKind.BATTERY
        Library(engine).put(kind, read_units(SHEETS[kind], MODELS[kind], starter_units(kind.value)).units)
        WeatherYears(engine).put(read_weather(joined(epw_lines()), "a year"))
        engine.dispose()
        cls.file = cls.place / "all.zip"
        cls.manifest = write_backup(cls.cluster.url, cls.file)

    def test_everything_is_there_again_elsewhere(self):
        restore(self.file, self.place / "elsewhere", lambda _: None, durable=False)
        cluster = self.fresh("elsewhere")
        cluster.ensure_running()
        before, after = self.engine(self.cluster), self.engine(cluster)
        found = Designs(after)
        self.assertEqual(found.history(self.kept.id), Designs(before).history(self.kept.id))
        self.assertEqual(found.get(self.kept.id), Designs(before).get(self.kept.id))
        self.assertTrue(found.get(self.kept.id).can_redo)
        self.assertIsNotNone(found.get(self.gone.id).deleted_at)
        kind = UnitKind.BATTERY
        self.assertEqual(Library(after).everything(kind), Library(before).everything(kind))
        self.assertEqual(WeatherYears(after).everything(), WeatherYears(before).everything())
        again = write_backup(cluster.url, self.place / "again.zip")
        self.assertEqual(again.databases, self.manifest.databases)

    def test_nothing_is_written_over(self):
        held = self.file.read_bytes()
        with self.assertRaisesRegex(BackupError, "is there already"):
            write_backup(self.cluster.url, self.file)
        self.assertEqual(self.file.read_bytes(), held)
        taken = self.place / "taken"
        taken.mkdir()
        (taken / "a file").touch()
        with self.assertRaisesRegex(BackupError, "is not empty.*--into"):
            restore(self.file, taken, lambda _: None, durable=False)
        self.assertEqual([path.name for path in taken.iterdir()], ["a file"])

    def test_a_place_that_cannot_be_written_is_named(self):
        with self.assertRaisesRegex(BackupError, "could not be written: No such file"):
            write_backup(self.cluster.url, self.place / "nowhere" / "x.zip")

    def test_damage_anywhere_is_refused_and_nothing_is_made(self):
        held, dice = self.file.read_bytes(), random.Random(1)
        spoilt = self.place / "spoilt.zip"
        cases = [held[:cut] for cut in (0, 10, len(held) // 2, len(held) - 1)]
        with zipfile.ZipFile(self.file) as archive:
            # A byte inside each table, where nothing but its digest tells.
            for entry in archive.infolist():
                if entry.compress_size > 40:
                    at = entry.header_offset + 60 + dice.randrange(entry.compress_size - 40)
                    cases.append(held[:at] + bytes([held[at] ^ 0x41]) + held[at + 1 :])
        for number, content in enumerate(cases):
            spoilt.write_bytes(content)
            with self.subTest(number):
                with self.assertRaises(BackupError):
                    restore(spoilt, self.place / "never", lambda _: None, durable=False)
                self.assertFalse((self.place / "never").exists())

    def rewritten(self, change):
        """The backup with its manifest or members changed, as a hand would."""
        target = self.place / "rewritten.zip"
        with zipfile.ZipFile(self.file) as source, zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as out:
            members = {name: source.read(name) for name in source.namelist()}
            values = json.loads(members["manifest.json"])
            change(values, members)
            members["manifest.json"] = json.dumps(values).encode()
            for name, content in members.items():
                out.writestr(name, content)
        return target

    def test_a_hostile_one_is_refused(self):
        def names(values, members):
            values["databases"][0]["name"] = 'x"; drop database hearth; --'

        def columns(values, members):
            values["databases"][0]["tables"][0]["columns"][0] = "pg_read_file('/etc/passwd')"

        def more(values, members):
            members["../../outside.tsv"] = b"x"

        def bomb(values, members):
            members["hearth/units.tsv"] = b"\x00" * 200_000_000

        def missing(values, members):
            values["databases"][0]["tables"].pop()

        for change in (names, columns, more, bomb, missing):
            with self.subTest(change.__name__), self.assertRaises(BackupError):
                restore(self.rewritten(change), self.place / "never", lambda _: None, durable=False)
            self.assertFalse((self.place / "never").exists())

    def test_one_of_a_newer_release_is_refused_in_one_line(self):
        def newer(values, members):
            values["databases"][0]["schema_revision"] = "9001"

        with self.assertRaisesRegex(NewerSchemaError, "schema 9001"):
            restore(self.rewritten(newer), self.place / "never", lambda _: None, durable=False)

    def test_what_an_interrupted_restoration_left_is_cleared_by_the_next(self):
        left = self.place / ".third.restoring"
        left.mkdir()
        (left / "restoring.json").write_text("{}")
        half = Cluster(left, durable=False)
        half.ensure_running()
        restore(self.file, self.place / "third", lambda _: None, durable=False)
        self.assertFalse(left.exists())
        cluster = self.fresh("third")
        cluster.ensure_running()
        self.assertEqual(len(Designs(self.engine(cluster)).history(self.kept.id)), 3)

    def test_a_folder_of_that_name_that_no_restoration_made_is_left(self):
        left = self.place / ".fourth.restoring"
        left.mkdir()
        (left / "mine").touch()
        with self.assertRaisesRegex(BackupError, "no restoration made it"):
            restore(self.file, self.place / "fourth", lambda _: None, durable=False)
        self.assertTrue((left / "mine").exists())

    def test_tables_have_no_counters_which_a_backup_would_have_to_carry(self):
        address = self.cluster.url("hearth").set(drivername="postgresql").render_as_string(hide_password=False)
        with psycopg.connect(address) as connection:
            self.assertEqual(connection.execute("select count(*) from pg_sequences").fetchone(), (0,))


class EveryRelease(BackupTest):
    def test_data_of_every_released_schema_open_in_todays(self):
        files = sorted(RELEASED.glob("*.zip"))
        known = sorted(path.name[:4] for path in (ROOT / "hearthkeep/store/migrations/versions").glob("0*.py"))
        self.assertEqual([file.stem for file in files], known, "each released schema needs its dump")
        for file in files:
            with self.subTest(file.stem):
                backup = read_backup(file)
                self.assertEqual(backup.manifest.databases[0].schema_revision, file.stem)
                database = f"of_{file.stem}"
                load_backup(backup, lambda _, name=database: self.cluster.url(name))
                engine = self.engine(self.cluster, database)
                with engine.connect() as connection:
                    ids = connection.exec_driver_sql("select id, head from designs order by name").all()
                self.assertEqual(len(ids), 2)
                for design_id, head in ids:
                    found = Designs(engine).get(design_id)
                    self.assertEqual((found.revision, found.document.schema_version), (head, SCHEMA_VERSION))
                    self.assertEqual(len(Designs(engine).history(design_id)), head)
                    for step in range(1, head + 1):
                        Designs(engine).revision(design_id, step)


class EachNight(BackupTest):
    def setUp(self):
        shutil.rmtree(self.cluster.folder.backups())
        self.nightly = Nightly(self.cluster)

    def test_when_one_is_due(self):
        at = datetime.fromisoformat
        self.assertTrue(self.nightly.is_due(at("2026-03-01T12:00")))
        self.nightly.make(at("2026-03-01T12:00"))
        for moment, due in (
            ("03-01T23:59", False),
            ("03-02T02:59", False),
            ("03-02T03:00", True),
            ("03-03T00:30", True),
        ):
            self.assertEqual(self.nightly.is_due(at(f"2026-{moment}")), due, moment)

    def test_those_of_two_weeks_are_kept_and_nothing_else_is_touched(self):
        folder = self.cluster.folder.backups()
        for name in ("nightly-2026-02-14.zip", "nightly-2026-02-15.zip", "nightly-2025-01-01.zip", "mine.zip"):
            (folder / name).touch()
        file = self.nightly.make(datetime.fromisoformat("2026-03-01T03:00"))
        self.assertEqual(
            sorted(path.name for path in folder.iterdir()),
            ["mine.zip", "nightly-2026-02-15.zip", "nightly-2026-03-01.zip"],
        )
        read_backup(file)
        self.assertEqual((self.nightly.last().file, self.nightly.last().trouble), ("nightly-2026-03-01.zip", ""))

    def test_a_failure_is_kept_to_be_told(self):
        day = datetime.fromisoformat("2026-03-01T03:00")
        self.nightly.make(day)
        with self.assertRaises(BackupError):
            self.nightly.make(day)
        self.assertIn("is there already", self.nightly.last().trouble)
