"""The data folder knows itself: moved, copied, spoilt or strange, it never opens empty and nothing in it is deleted."""

import atexit
import json
import os
import shutil
import subprocess
import tempfile
import unittest
import uuid
from functools import cache
from pathlib import Path
from unittest import mock

from hearthkeep.store import Cluster, ClusterError, Designs, NewerSchemaError, engine_for, ensure_database
from hearthkeep.store import folder as folder_module
from hearthkeep.store.database import schema_of
from tests.support.designs import birchrow


def copied(source: Path, target: Path) -> None:
    """As a careful person copies: with owners and modes."""
    subprocess.run(["cp", "-a", str(source), str(target)], check=True)


@cache
def made_once() -> tuple[Path, uuid.UUID]:
    """A stopped folder with one design in it, and the design's id; making one takes seconds."""
    place = Path(tempfile.mkdtemp(prefix="hearth made "))
    place.chmod(0o755)
    atexit.register(shutil.rmtree, place, ignore_errors=True)
    cluster = Cluster(place / "home", durable=False)
    cluster.ensure_running()
    ensure_database(cluster.url("hearth"))
    engine = engine_for(cluster.url("hearth"))
    made = Designs(engine).create(birchrow())
    engine.dispose()
    cluster.stop()
    return place / "home", made.id


class FolderTest(unittest.TestCase):
    def setUp(self):
        self.place = Path(tempfile.mkdtemp(prefix="hearth folder "))
        self.place.chmod(0o755)
        self.addCleanup(shutil.rmtree, self.place, ignore_errors=True)
        self.home = self.place / "home"

    def cluster(self, home=None):
        made = Cluster(home or self.home, durable=False, tell=self.told.append)
        self.addCleanup(made.destroy)
        return made

    @property
    def told(self):
        if not hasattr(self, "_told"):
            self._told = []
        return self._told

    def designs(self, cluster):
        cluster.ensure_running()
        ensure_database(cluster.url("hearth"))
        engine = engine_for(cluster.url("hearth"))
        self.addCleanup(engine.dispose)
        return Designs(engine)

    def lived_in(self):
        """A folder with one design in it, stopped; and the design's id."""
        made, design_id = made_once()
        copied(made, self.home)
        where = json.dumps({"id": json.loads((self.home / "cluster.json").read_text())["id"], "home": str(self.home)})
        (self.home / "postgres" / folder_module.MARK).write_text(where)
        return design_id

    def everything_below(self, folder):
        return {path: path.stat().st_mtime_ns for path in sorted(folder.rglob("*")) if path.name != "hearth.log"}


class MovedAndCopied(FolderTest):
    def test_a_moved_folder_holds_what_it_held(self):
        design_id = self.lived_in()
        self.home.rename(self.place / "moved")
        self.assertEqual(self.designs(self.cluster(self.place / "moved")).get(design_id).document, birchrow())
        self.assertFalse(self.home.exists())

    def test_a_copy_runs_on_its_own_data_beside_the_original(self):
        design_id = self.lived_in()
        copied(self.home, self.place / "copy")
        original, copy = self.designs(self.cluster()), self.designs(self.cluster(self.place / "copy"))
        copy.delete(design_id)
        self.assertIsNone(original.get(design_id).deleted_at)
        self.assertIsNotNone(copy.get(design_id).deleted_at)

    def test_a_copy_made_while_the_database_ran_is_refused_and_the_original_lives_on(self):
        design_id = self.lived_in()
        cluster = self.cluster()
        self.designs(cluster)
        copied(self.home, self.place / "copy")
        with self.assertRaisesRegex(ClusterError, "copied from .* while the database there was running.*hearth backup"):
            Cluster(self.place / "copy").ensure_running()
        Cluster(self.place / "copy").stop()
        self.assertEqual(self.designs(cluster).get(design_id).document, birchrow())

    def test_a_folder_moved_after_a_crash_starts(self):
        design_id = self.lived_in()
        cluster = self.cluster()
        self.designs(cluster)
        lock = (self.home / "postgres" / "postmaster.pid").read_bytes()
        cluster.stop()
        # As the power going leaves it: the lock names a place that is no more, and a number that lives on as another's.
        self.home.rename(self.place / "moved")
        lines = lock.splitlines(keepends=True)
        lines[0] = b"%d\n" % os.getpid()
        (self.place / "moved" / "postgres" / "postmaster.pid").write_bytes(b"".join(lines))
        self.assertEqual(self.designs(self.cluster(self.place / "moved")).get(design_id).document, birchrow())

    def test_folders_of_releases_that_wrote_absolute_paths(self):
        design_id = self.lived_in()
        (self.home / "cluster.json").write_text(json.dumps({"data": str(self.home / "postgres")}))
        copied(self.home, self.place / "copy")
        copy = self.designs(self.cluster(self.place / "copy"))
        copy.delete(design_id)
        self.home.rename(self.place / "moved")
        self.assertIsNone(self.designs(self.cluster(self.place / "moved")).get(design_id).deleted_at)
        elsewhere = self.place / "elsewhere"
        elsewhere.mkdir()
        (elsewhere / "cluster.json").write_text(json.dumps({"data": str(self.home / "postgres")}))
        with self.assertRaisesRegex(ClusterError, "names a database at .* does not belong to this folder"):
            Cluster(elsewhere).ensure_running()

    def test_where_the_database_stands_in_the_shared_place_a_copy_is_refused_and_a_move_followed(self):
        shared = self.place / "shared"
        with (
            mock.patch.object(folder_module, "SHARED_PLACE", shared),
            mock.patch.object(folder_module, "account_can_enter", return_value=False),
            mock.patch.object(folder_module.os, "geteuid", return_value=0),
        ):
            cluster = self.cluster()
            design_id = self.designs(cluster).create(birchrow()).id
            cluster.stop()
            self.assertFalse((self.home / "postgres").exists())
            copied(self.home, self.place / "copy")
            with self.assertRaisesRegex(ClusterError, "is a copy of .* belongs to it.*restore FILE"):
                Cluster(self.place / "copy").ensure_running()
            shutil.rmtree(self.place / "copy")
            self.home.rename(self.place / "moved")
            moved = self.cluster(self.place / "moved")
            self.assertEqual(self.designs(moved).get(design_id).document, birchrow())
            moved.stop()


class NothingDeleted(FolderTest):
    def refused(self, words, cluster=None):
        before = self.everything_below(self.home)
        with self.assertRaisesRegex(ClusterError, words):
            (cluster or Cluster(self.home)).ensure_running()
        self.assertEqual(self.everything_below(self.home), before)

    def test_a_database_without_its_version_is_left_as_it_is(self):
        self.lived_in()
        (self.home / "postgres" / "PG_VERSION").unlink()
        self.refused(r"PG_VERSION is missing\).*Nothing was touched.*hearth restore FILE --into")

    def test_a_lost_database_is_told_and_no_empty_one_made(self):
        self.lived_in()
        (self.home / "postgres").rename(self.place / "aside")
        self.refused("is not there, though this data folder has been in use")
        (self.place / "aside").rename(self.home / "postgres")
        self.designs(self.cluster())

    def test_a_folder_named_postgres_that_stood_there_before(self):
        (self.home / "postgres").mkdir(parents=True)
        (self.home / "postgres" / "my notes").write_text("mine")
        self.home.chmod(0o700)
        self.refused("is there already, and Hearth Keep did not make it")
        self.assertEqual(self.home.stat().st_mode & 0o777, 0o700)

    def test_the_mode_of_a_folder_is_its_owners(self):
        self.home.mkdir()
        self.home.chmod(0o755)
        self.cluster().ensure_running()
        self.assertEqual(self.home.stat().st_mode & 0o777, 0o755)

    def test_another_folders_database_in_its_place(self):
        self.lived_in()
        (self.home / "cluster.json").write_text('{"id": "another", "shared": false, "made": true}')
        self.refused("belongs to another data folder")

    def test_a_lost_note_is_written_anew_from_what_the_database_knows(self):
        design_id = self.lived_in()
        (self.home / "cluster.json").unlink()
        self.assertEqual(self.designs(self.cluster()).get(design_id).document, birchrow())

    @unittest.skipIf(os.geteuid() != 0, "only root can give files away")
    def test_a_copy_that_lost_its_owners_is_told_with_the_way_out(self):
        self.lived_in()
        shutil.chown(self.home / "postgres", "root")
        self.refused("cp -a.*chown -R postgres")

    def test_a_name_with_a_line_break(self):
        with self.assertRaisesRegex(ClusterError, "line break"):
            Cluster(self.place / "a\nb").ensure_running()


class Password(FolderTest):
    def test_a_missing_or_empty_one_is_set_anew_and_told(self):
        design_id = self.lived_in()
        for spoil in (Path.unlink, lambda path: path.write_text("")):
            spoil(self.home / "secret")
            self.told.clear()
            cluster = self.cluster()
            self.assertEqual(self.designs(cluster).get(design_id).document, birchrow())
            self.assertIn("password was missing", self.told[0])
            cluster.stop()

    def test_so_it_is_under_a_server_left_running(self):
        self.lived_in()
        cluster = self.cluster()
        self.designs(cluster)
        (self.home / "secret").unlink()
        again = self.cluster()
        self.designs(again).create(birchrow())

    def test_a_wrong_one_is_not_taken_for_a_missing_one(self):
        self.lived_in()
        cluster = self.cluster()
        cluster.ensure_running()
        (self.home / "secret").write_text("not it")
        with self.assertRaisesRegex(ClusterError, "refuses the password in .*'secret'.* or remove the file"):
            ensure_database(cluster.url("hearth"))


class Versions(FolderTest):
    def test_data_of_a_newer_release_are_refused_in_one_line(self):
        self.lived_in()
        cluster = self.cluster()
        self.designs(cluster)
        engine = engine_for(cluster.url("hearth"))
        self.addCleanup(engine.dispose)
        with engine.begin() as connection:
            connection.exec_driver_sql("update alembic_version set version_num = '9001'")
        with self.assertRaisesRegex(NewerSchemaError, r"written by a newer Hearth Keep \(schema 9001; this one knows"):
            ensure_database(cluster.url("hearth"))
        with engine.connect() as connection:
            self.assertEqual(schema_of(connection), "9001")

    def test_data_of_a_postgresql_that_is_not_installed(self):
        self.lived_in()
        version = self.home / "postgres" / "PG_VERSION"
        for found, words in (("9.6", r"9\.6, older .*apt-get install postgresql-9\.6"), ("99", "99, newer than")):
            version.write_text(f"{found}\n")
            with self.subTest(found), self.assertRaisesRegex(ClusterError, words):
                Cluster(self.home).ensure_running()


class CarriedOver(FolderTest):
    """From an older major version. The older one is played by the same programs in a place of their own, whose starter
    accepts data that say they are older."""

    def setUp(self):
        super().setUp()
        from hearthkeep.store import postgres

        newest = postgres.installed_versions()[0]
        programs = self.place / "programs"
        programs.mkdir()
        (programs / newest).symlink_to(postgres.PROGRAM_PLACES / newest)
        older = programs / "9.6" / "bin"
        older.mkdir(parents=True)
        for program in (postgres.PROGRAM_PLACES / newest / "bin").iterdir():
            (older / program.name).symlink_to(program)
        (older / "pg_ctl").unlink()
        (older / "pg_ctl").write_text(
            "#!/bin/sh\n"
            f'echo {newest} > "$PGDATA/PG_VERSION"\n'
            f"'{postgres.PROGRAM_PLACES / newest / 'bin' / 'pg_ctl'}' \"$@\"\ncode=$?\n"
            '[ "$1" = stop ] && echo 9.6 > "$PGDATA/PG_VERSION"\nexit $code\n'
        )
        (older / "pg_ctl").chmod(0o755)
        patched = mock.patch.object(postgres, "PROGRAM_PLACES", programs)
        self.newest = newest
        self.older = (self.home / "postgres", older / "pg_ctl")
        patched.start()
        self.addCleanup(patched.stop)

    def grown_old(self):
        design_id = self.lived_in()
        (self.home / "postgres" / "PG_VERSION").write_text("9.6\n")
        return design_id

    def test_they_are_carried_over_on_their_own_and_the_old_ones_kept(self):
        design_id = self.grown_old()
        # While the old server runs it says what it is; here the stand-in does, and the tool that asks is told so.
        with mock.patch("hearthkeep.store.postgres.Server.version", OldUntilReplaced(self.newest)):
            cluster = self.cluster()
            self.assertEqual(self.designs(cluster).get(design_id).document, birchrow())
            cluster.stop()
        self.assertEqual((self.home / "postgres" / "PG_VERSION").read_text().strip(), self.newest)
        kept = list(self.home.glob("postgres-9.6-kept-*"))
        self.assertEqual(len(kept), 1)
        self.assertEqual(len(list((self.home / "backups").glob("before-postgresql-*.zip"))), 1)
        self.assertRegex(self.told[-1], "Carried over and verified. The old data are kept in")

    def test_one_interrupted_between_the_renamings_is_finished(self):
        design_id = self.lived_in()
        record = self.cluster().folder.record()
        (self.home / "postgres").rename(self.home / f"ready-{record.id}")
        self.assertEqual(self.designs(self.cluster()).get(design_id).document, birchrow())


class OldUntilReplaced:
    """The version of a server: old for the folder's own data until they were replaced."""

    def __init__(self, newest):
        self.newest = newest

    def __get__(self, server, owner=None):
        text = (server.data / "PG_VERSION").read_text().strip()
        running_old = server.data.name == "postgres" and not list(server.data.parent.glob("postgres-9.6-kept-*"))
        return "9.6" if running_old else text
