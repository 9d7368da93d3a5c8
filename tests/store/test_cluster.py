"""The private database server: made once, found again, recovering from a kill, its secret its owner's alone."""

import os
import shutil
import signal
import stat
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

import psycopg

from hearthkeep.store import Cluster, ClusterError, Designs, engine_for, ensure_database
from hearthkeep.store.postgres import Server, program
from tests.support.designs import birchrow
from tests.support.shared import shared_cluster


def kill_dead(pid: int) -> None:
    """Kill a process and wait until it runs no more; a kill is only a word sent, and a busy machine is slow to hear it."""
    os.kill(pid, signal.SIGKILL)
    give_up = time.monotonic() + 20
    while time.monotonic() < give_up:
        try:
            # The state follows the command's name, which stands in parentheses; Z is dead and not yet reaped.
            if Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] == "Z":
                return
        except OSError:
            return
        time.sleep(0.02)
    raise AssertionError(f"process {pid} does not die")


class Lifecycle(unittest.TestCase):
    def setUp(self):
        self.home = Path(tempfile.mkdtemp(prefix="hearth life "))
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)
        self.cluster = Cluster(self.home)
        self.addCleanup(self.cluster.destroy)

    def test_a_killed_server_loses_nothing_that_was_saved(self):
        self.cluster.ensure_running()
        url = self.cluster.url("hearth")
        ensure_database(url)
        engine = engine_for(url)
        made = Designs(engine).create(birchrow())
        engine.dispose()
        data = self.cluster.folder.settle()
        kill_dead(int((data / "postmaster.pid").read_text().splitlines()[0]))

        again = Cluster(self.home)
        again.ensure_running()
        engine = engine_for(again.url("hearth"))
        self.addCleanup(engine.dispose)
        self.assertEqual(Designs(engine).get(made.id).document, birchrow())

    def test_an_interrupted_first_start_is_begun_again(self):
        def interrupted(server, password, *, workshop: Path, **_):
            workshop.mkdir(mode=0o700)
            (workshop / "password").write_text(password)
            found.append(workshop)
            raise KeyboardInterrupt

        found: list[Path] = []
        with mock.patch.object(Server, "make", interrupted), self.assertRaises(KeyboardInterrupt):
            self.cluster.ensure_running()
        self.cluster.ensure_running()
        self.assertFalse(found[0].exists())
        self.assertTrue(self.cluster.url("postgres").port)

    def test_starting_twice_and_stopping_twice_is_harmless(self):
        self.cluster.ensure_running()
        port = self.cluster.url("x").port
        self.cluster.ensure_running()
        self.assertEqual(self.cluster.url("x").port, port)
        self.cluster.stop()
        self.cluster.stop()
        with self.assertRaisesRegex(ClusterError, "not running"):
            self.cluster.url("x")

    def test_a_living_server_is_known_where_root_may_not_look_at_other_accounts_processes(self):
        self.cluster.ensure_running()
        with mock.patch.object(Path, "readlink", side_effect=PermissionError):
            self.assertTrue(Cluster(self.home).is_running())
            Cluster(self.home).ensure_running()
        self.assertTrue((self.cluster.folder.settle() / "postmaster.pid").exists())

    def test_a_damaged_note_of_the_place_is_told(self):
        (self.home / "cluster.json").write_text("{")
        with self.assertRaisesRegex(ClusterError, "damaged"):
            self.cluster.ensure_running()
        (self.home / "cluster.json").unlink()


class Access(unittest.TestCase):
    def test_the_secret_is_readable_by_its_owner_only(self):
        secret = shared_cluster().home / "secret"
        self.assertEqual(stat.S_IMODE(secret.stat().st_mode), 0o600)
        self.assertGreater(len(secret.read_text()), 30)

    def test_the_password_is_needed_and_only_loopback_listens(self):
        url = shared_cluster().url("postgres")
        with self.assertRaisesRegex(psycopg.OperationalError, "password"):
            psycopg.connect(host=url.host, port=url.port, user=url.username, password="wrong", dbname="postgres")
        with psycopg.connect(url.set(drivername="postgresql").render_as_string(hide_password=False)) as connection:
            listens = connection.execute("show listen_addresses").fetchone()
        self.assertEqual(listens, ("127.0.0.1",))

    def test_a_missing_program_is_told_with_what_to_install(self):
        with (
            mock.patch("hearthkeep.store.postgres.PROGRAM_PLACES", Path("/nowhere")),
            mock.patch("shutil.which", return_value=None),
            self.assertRaisesRegex(ClusterError, "apt-get install postgresql"),
        ):
            program("initdb")
