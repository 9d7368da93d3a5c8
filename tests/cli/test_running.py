"""The application as a process: started, stopped, killed and repaired; backed up and restored by command."""

import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

import psutil

from tests.support.designs import BIRCHROW
from tests.support.home import Home, free_port

#: The application, asked to stop while something is loaded that swallows it.
SWALLOWING = """
import os, signal, time
from hearthkeep.cli import main
import hearthkeep.server.serve as serving
opened = serving.open_database
def swallowing(*given, **named):
    try:
        os.kill(os.getpid(), signal.SIGTERM)
        time.sleep(1)
    except SystemExit:
        pass
    return opened(*given, **named)
serving.open_database = swallowing
raise SystemExit(main())
"""

#: The application, asked to stop, and asked again, while its database is slow to start.
SLOW_DATABASE = """
import os, signal, time
from hearthkeep.cli import main
import hearthkeep.server.serve as serving
serving.INSIST_S = 0.5
starting = serving.Cluster.ensure_running
def slowly(*given, **named):
    os.kill(os.getpid(), signal.SIGTERM)
    time.sleep(3)
    starting(*given, **named)
serving.Cluster.ensure_running = slowly
raise SystemExit(main())
"""


class RunningTest(unittest.TestCase):
    starts_cold = True

    def setUp(self):
        self.place = Path(tempfile.mkdtemp(prefix="hearth running "))
        self.place.chmod(0o755)
        self.addCleanup(shutil.rmtree, self.place, ignore_errors=True)

    def home(self, name="home", **options):
        made = Home(self.place / name, **options)
        self.addCleanup(made.remove)
        return made


class Stopping(RunningTest):
    def test_a_number_that_now_belongs_to_another_is_left_alone(self):
        home = self.home()
        home.path.mkdir()
        with subprocess.Popen(["sleep", "60"]) as bystander:
            self.addCleanup(bystander.kill)
            for note in (
                {"pid": bystander.pid, "address": "http://127.0.0.1:1/"},
                {"pid": bystander.pid, "started": 12.5, "address": "http://127.0.0.1:1/"},
            ):
                (home.path / "running.json").write_text(json.dumps(note))
                done = home.hearth("stop")
                self.assertEqual((done.returncode, done.stdout), (0, "Hearth Keep was not running.\n"), done.stderr)
                self.assertIsNone(bystander.poll())
            bystander.kill()

    def test_three_stops_at_once_and_the_servers_own(self):
        home = self.home().start()
        command = [sys.executable, "-m", "hearthkeep.cli", "stop"]
        stops = [
            subprocess.Popen(command, env=home.environment(), stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
            for _ in range(3)
        ]
        home.process.send_signal(signal.SIGINT)
        for stop in stops:
            told = stop.communicate(timeout=90)
            self.assertEqual((stop.returncode, told[1]), (0, ""), told)
        self.assertEqual(home.ended()[0], 0)
        self.assertEqual(home.database_processes(), [])

    def test_a_stop_in_the_midst_of_starting(self):
        home = self.home()
        for delay_s in (0.3, 1.0, 1.8, 2.6, 3.4):
            with self.subTest(delay_s):
                home.begin()
                time.sleep(delay_s)
                home.process.send_signal(signal.SIGTERM)
                code, text = home.ended()
                self.assertIn(code, (0, -signal.SIGTERM), text)
                self.assertNotIn("Traceback", text)
                self.assertEqual(home.database_processes(), [])
        home.start()

    def test_a_stop_that_a_library_swallows_while_it_starts(self):
        home = self.home()
        home.begin(code=SWALLOWING)
        code, text = home.ended()
        self.assertEqual(code, 0, text)
        self.assertNotIn("Traceback", text)
        self.assertNotIn("Hearth Keep is at", text)
        self.assertEqual(home.database_processes(), [])

    def test_a_stop_that_insists_while_the_database_is_slow_to_start(self):
        home = self.home()
        home.begin(code=SLOW_DATABASE)
        code, text = home.ended()
        self.assertEqual(code, 0, text)
        self.assertNotIn("Traceback", text)
        self.assertEqual(home.database_processes(), [])

    def test_helpers_end_with_a_killed_server(self):
        home = self.home().start()
        home.ask("POST", "assessments", BIRCHROW.read_bytes())
        helpers = psutil.Process(home.process.pid).children(recursive=True)
        self.assertGreaterEqual(len(helpers), 2)
        home.process.kill()
        home.process.wait(10)
        _, alive = psutil.wait_procs(helpers, 10)
        self.assertEqual([process for process in alive if process.is_running() and process.status() != "zombie"], [])


class Starting(RunningTest):
    def test_two_homes_on_one_port(self):
        port = free_port()
        homes = [self.home(name, port=port).begin() for name in ("one", "two")]
        give_up = time.monotonic() + 60
        while all(home.process.poll() is None for home in homes) and time.monotonic() < give_up:
            time.sleep(0.1)
        (refused,) = [home for home in homes if home.process.poll() is not None]
        (served,) = [home for home in homes if home is not refused]
        code, text = refused.ended()
        self.assertEqual(code, 3)
        self.assertRegex(text, rf"^hearth: Port {port} is taken by another program .*--port")
        self.assertEqual(len(text.strip().splitlines()), 1)
        served.until_it_answers(60)
        self.assertEqual(served.ask("GET", "health")["database"], "answers")

    def test_a_killed_first_start_leaves_no_password_behind_and_the_next_is_whole(self):
        home = self.home()
        before = set(Path(tempfile.gettempdir()).glob("hearth-*"))
        home.begin()
        give_up = time.monotonic() + 30
        while not list(home.path.glob("making-*/postgres/*")) and time.monotonic() < give_up:
            time.sleep(0.01)
        home.process.kill()
        home.ended()
        left = set(Path(tempfile.gettempdir()).glob("hearth-*")) - before
        self.assertEqual([path for path in left if (path / "password").exists()], [])
        home.start()
        self.assertEqual(list(home.path.glob("making-*")), [])

    def test_a_second_start_says_where_the_first_is(self):
        home = self.home().start()
        done = home.hearth("start", "--port", free_port())
        self.assertEqual(done.returncode, 3)
        self.assertIn(f"already running at http://127.0.0.1:{home.port}/", done.stderr)

    def test_a_folder_of_an_odd_name(self):
        home = self.home('q" $HOME `id` \\ %s 😀').start(cold=True)
        made = home.ask("POST", "designs/import", BIRCHROW.read_bytes())
        self.assertEqual(home.hearth("stop").returncode, 0)
        home.start()
        self.assertEqual(home.ask("GET", f"designs/{made['id']}")["revision"], 1)


class Repaired(RunningTest):
    def test_a_killed_database_is_brought_back_within_ten_seconds(self):
        home = self.home().start()
        made = home.ask("POST", "designs/import", BIRCHROW.read_bytes())
        for _ in range(2):
            lock = home.path / "postgres" / "postmaster.pid"
            os.kill(int(lock.read_text().split()[0]), signal.SIGKILL)
            time.sleep(0.1)
            home.until_it_answers(10)
            self.assertEqual(home.ask("GET", f"designs/{made['id']}")["revision"], 1)
        home.process.send_signal(signal.SIGTERM)
        _, text = home.ended()
        self.assertIn("The database has died; bringing it back.", text)
        self.assertNotIn("Traceback", text)

    def test_so_it_is_by_the_next_start_when_both_are_killed(self):
        home = self.home().start()
        made = home.ask("POST", "designs/import", BIRCHROW.read_bytes())
        lock = home.path / "postgres" / "postmaster.pid"
        os.kill(int(lock.read_text().split()[0]), signal.SIGKILL)
        home.process.kill()
        home.ended()
        home.start()
        self.assertEqual(home.ask("GET", f"designs/{made['id']}")["revision"], 1)


class Keeping(RunningTest):
    def test_a_backup_of_a_running_and_of_a_stopped_one_restored_elsewhere(self):
        home = self.home().start()
        made = home.ask("POST", "designs/import", BIRCHROW.read_bytes())
        done = home.hearth("backup", self.place / "running.zip")
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertRegex(done.stdout, r"running\.zip: 1 design, 1 revision, \d+ units, 0 weather years; .* whole\.")
        home.hearth("stop")
        home.ended()
        done = home.hearth("backup", self.place / "stopped.zip")
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertEqual(home.database_processes(), [])
        again = home.hearth("backup", self.place / "stopped.zip")
        self.assertEqual((again.returncode, "is there already" in again.stderr), (3, True))
        done = home.hearth("restore", self.place / "stopped.zip")
        self.assertEqual((done.returncode, "is not empty" in done.stderr), (3, True))
        done = home.hearth("restore", self.place / "running.zip", "--into", self.place / "new home")
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        restored = self.home("new home").start()
        self.assertEqual(restored.ask("GET", f"designs/{made['id']}")["document"], made["document"])

    def test_the_nightly_one_is_made_and_told(self):
        home = self.home().start()
        give_up = time.monotonic() + 30
        while (last := home.ask("GET", "backups/last"))["file"] is None and time.monotonic() < give_up:
            time.sleep(0.2)
        self.assertRegex(last["file"], r"^nightly-\d{4}-\d\d-\d\d\.zip$")
        self.assertEqual(last["folder"], str(home.path / "backups"))
        self.assertTrue((home.path / "backups" / last["file"]).exists())

    def test_a_backup_of_nothing_and_a_restoration_of_nothing(self):
        home = self.home()
        for arguments, words in (
            (("backup", self.place / "x.zip"), "There is no data in"),
            (("restore", self.place / "none.zip"), "There is no file"),
            (("restore", BIRCHROW), "is not a backup"),
        ):
            done = home.hearth(*arguments)
            self.assertEqual(done.returncode, 3)
            self.assertIn(words, done.stderr)
            self.assertEqual(len(done.stderr.strip().splitlines()), 1)
        self.assertFalse(home.path.exists())
