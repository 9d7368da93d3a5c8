"""Kill the application and its database again and again, and look for what was lost: `python -m bench.kills [COUNT]`.

A writer saves without pause, each save under a key, and sends again what was not answered. After each kill the
application is started anew and every acknowledged save must be there. Kills fall on saving, starting, stopping, backing up
and restoring in turn; processes die as by a power cut to them, without a word.
"""

from __future__ import annotations

import contextlib
import json
import os
import random
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import uuid
from collections import Counter
from pathlib import Path

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.store import read_backup
from tests.support.designs import BIRCHROW
from tests.support.home import Home

PHASES = ("saving", "saving", "starting", "saving", "stopping", "saving", "backing up", "saving", "restoring")
VICTIMS = ("web", "database", "both")


class Writer(threading.Thread):
    """Saves one design over and over; knows what was acknowledged."""

    def __init__(self, home: Home) -> None:
        super().__init__(daemon=True)
        self._home = home
        self._document = json.loads(BIRCHROW.read_text())
        made = home.ask("POST", "designs/import", BIRCHROW.read_bytes())
        self.id, self._revision = made["id"], made["revision"]
        #: Revision and name of every acknowledged save.
        self.acknowledged: dict[int, str] = {}
        self.refused: list[str] = []
        self.done = threading.Event()

    def run(self) -> None:
        number = 0
        while not self.done.is_set():
            number += 1
            name, key = f"State {number}", uuid.uuid4()
            body = json.dumps({**self._document, "name": name}).encode()
            path = f"designs/{self.id}?expected_revision={self._revision}&key={key}"
            while not self.done.is_set():
                try:
                    self._revision = self._home.ask("PUT", path, body)["revision"]
                except urllib.error.HTTPError as error:
                    text = error.read().decode()
                    # 503 while the database is away; anything else of a save nobody else disturbs is a fault.
                    if error.code != 503:
                        self.refused.append(f"{error.code} {text[:200]}")
                        return
                    time.sleep(0.05)
                except (OSError, ValueError):
                    time.sleep(0.05)
                else:
                    self.acknowledged[self._revision] = name
                    # Each is looked for afterwards; more of them would only take longer.
                    time.sleep(0.02)
                    break


class Siege:
    """One data folder under attack."""

    def __init__(self) -> None:
        self.place = Path(tempfile.mkdtemp(prefix="hearth siege "))
        self.place.chmod(0o755)
        self.home = Home(self.place / "home")
        self.restarts_s: list[float] = []
        self.lost: list[str] = []
        self.not_started: list[str] = []
        self.checked: set[int] = set()
        self.counts: Counter[str] = Counter()

    def begin(self) -> None:
        self.home.start()
        self.writer = Writer(self.home)
        self.writer.start()

    def kill(self, victim: str) -> None:
        """SIGKILL to the web server, to the database's first process, or to both."""
        if victim != "database" and self.home.process is not None:
            self.home.process.kill()
        if victim != "web":
            with contextlib.suppress(OSError, ValueError, IndexError):
                os.kill(int((self.home.path / "postgres" / "postmaster.pid").read_text().split()[0]), signal.SIGKILL)

    def stand_up(self, what: str, *, counted: bool) -> None:
        """Start again where the server is gone, wait until it answers, and look for every acknowledged save."""
        begun = time.monotonic()
        for is_last in (False, True):
            if self.home.process.poll() is not None:
                self.home.ended()
                begun = time.monotonic()
                self.home.begin()
            try:
                self.home.until_it_answers(60)
                break
            except OSError:
                # It may have been ending still, or have given up with a word: then it must start when it is asked to.
                if is_last or self.home.process.poll() is None:
                    self.not_started.append(f"{what}: {self.home.process.poll()}")
                    raise
        if counted:
            self.restarts_s.append(time.monotonic() - begun)
        for number, name in list(self.writer.acknowledged.items()):
            if number not in self.checked:
                found = self.home.ask("GET", f"designs/{self.writer.id}/revisions/{number}")["name"]
                if found != name:
                    self.lost.append(f"{what}: revision {number} is {found}, acknowledged was {name}")
                self.checked.add(number)

    def strike(self, phase: str, victim: str) -> None:
        what = f"{phase}, {victim}"
        self.counts[what] += 1
        time.sleep(random.uniform(0.1, 0.6))
        if phase == "saving":
            self.kill(victim)
        elif phase == "starting":
            self.kill("both")
            self.home.ended()
            self.home.begin()
            time.sleep(random.uniform(0.05, 3.0))
            self.kill(victim)
        elif phase == "stopping":
            self.home.process.send_signal(signal.SIGTERM)
            time.sleep(random.uniform(0.0, 0.8))
            self.kill(victim)
        else:
            self.while_keeping(phase, victim, what)
        time.sleep(random.uniform(0.0, 0.2))
        of_command = victim == "web" and phase in ("backing up", "restoring")
        if victim != "database" and not of_command:
            self.home.process.wait(10)
        if phase in ("starting", "stopping") and self.home.process.poll() is None and victim == "database":
            # It may be ending, or on its way up without a database.
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.home.process.wait(15 if phase == "stopping" else 4)
        self.stand_up(what, counted=not of_command)

    def while_keeping(self, phase: str, victim: str, what: str) -> None:
        """Kill during a backup or a restoration; for "web" the command itself is the victim."""
        file = self.place / f"{uuid.uuid4().hex}.zip"
        if phase == "restoring":
            assert self.home.hearth("backup", file).returncode == 0, what
        target = self.place / f"restored {uuid.uuid4().hex}"
        arguments = ["backup", str(file)] if phase == "backing up" else ["restore", str(file), "--into", str(target)]
        command = [sys.executable, "-m", "hearthkeep.cli", *arguments]
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        doing = subprocess.Popen(command, env=self.home.environment(), **quiet)
        time.sleep(random.uniform(0.3, 3.5 if phase == "restoring" else 1.6))
        if victim == "web":
            doing.kill()
        else:
            self.kill(victim)
        doing.wait(60)
        if phase == "backing up" and file.exists():
            try:
                read_backup(file)
            except HearthKeepError as error:
                self.lost.append(f"{what}: a backup under its name is damaged: {error}")
        if phase == "restoring":
            self.restored_is_whole_or_nothing(file, target, what)
        file.unlink(missing_ok=True)

    def restored_is_whole_or_nothing(self, file: Path, target: Path, what: str) -> None:
        if not target.exists():
            done = self.home.hearth("restore", file, "--into", target)
            if done.returncode != 0:
                self.lost.append(f"{what}: the next restoration failed: {done.stderr}")
                return
        restored = Home(target)
        try:
            restored.start()
            restored.ask("GET", f"designs/{self.writer.id}")
        except OSError as error:
            self.not_started.append(f"{what}: the restored folder: {error}")
        finally:
            restored.remove()

    def end(self) -> None:
        self.writer.done.set()
        self.writer.join()
        self.home.remove()
        shutil.rmtree(self.place, ignore_errors=True)


def main(arguments: list[str]) -> int:
    """Strike so many times and print what it came to."""
    random.seed(1)
    siege = Siege()
    siege.begin()
    try:
        for number in range(int(arguments[0]) if arguments else 300):
            siege.strike(PHASES[number % len(PHASES)], VICTIMS[number // len(PHASES) % len(VICTIMS)])
            if siege.writer.refused:
                break
            if number % 10 == 9:
                report(siege, number + 1)
    finally:
        report(siege, sum(siege.counts.values()))
        siege.end()
    return 1 if siege.lost or siege.not_started or siege.writer.refused else 0


def report(siege: Siege, kills: int) -> None:
    restarts = sorted(siege.restarts_s) or [0.0]
    print(
        f"{kills} kills: {len(siege.writer.acknowledged)} saves acknowledged, {len(siege.lost)} lost, "
        f"{len(siege.writer.refused)} refused, {len(siege.not_started)} not started again; back after "
        f"{statistics.median(restarts):.1f} s (median), {restarts[-1]:.1f} s at most",
        flush=True,
    )
    for line in (*siege.lost, *siege.writer.refused, *siege.not_started):
        print(f"  {line}", flush=True)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
