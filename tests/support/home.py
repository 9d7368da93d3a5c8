"""A data folder and the application on it as people run it, for tests that stop, kill and move it."""

import json
import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import psutil

from hearthkeep.store import Cluster
from tests.support.designs import ROOT
from tests.support.shared import copy_prepared_home


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Home:
    """A data folder and the application on it."""

    def __init__(self, place, *, port=None):
        self.path = place
        self.port = port or free_port()
        self.process = None

    def environment(self):
        return {
            **os.environ,
            "PYTHONPATH": str(ROOT),
            "HEARTH_HOME": str(self.path),
            "HEARTH_STAND_INS": "off",
            # Most only start, stop, and answer a question or two.
            "HEARTH_WARMING": "off",
        }

    def begin(self, code=None):
        """Start it, or a program that starts it in a manner of its own."""
        run = ["-m", "hearthkeep.cli"] if code is None else ["-c", code]
        command = [sys.executable, *run, "start", "--port", str(self.port)]
        self.process = subprocess.Popen(
            command, env=self.environment(), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        return self

    def prepare(self):
        """Give a new folder what a first start would: where it is not the first start that is looked at."""
        if not self.path.exists():
            copy_prepared_home(self.path, demo=False)

    def start(self, *, cold=False):
        """Start it and wait until it answers; `cold` where a new folder is to be made by itself."""
        if not cold:
            self.prepare()
        self.begin()
        self.until_it_answers(60)
        return self

    def until_it_answers(self, seconds):
        give_up = time.monotonic() + seconds
        while True:
            try:
                return self.ask("GET", "health")
            except OSError:
                if time.monotonic() > give_up or self.process.poll() is not None:
                    raise
                time.sleep(0.1)

    def ask(self, method, path, body=None):
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api/{path}",
            method=method,
            data=body,
            headers={"Content-Type": "application/json"},
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.loads(answer.read())

    def hearth(self, *arguments):
        return subprocess.run(
            [sys.executable, "-m", "hearthkeep.cli", *map(str, arguments)],
            env=self.environment(), capture_output=True, text=True, timeout=120, check=False,
        )  # fmt: skip

    def ended(self):
        """Exit code and everything it printed."""
        text, _ = self.process.communicate(timeout=60)
        return self.process.returncode, text

    def database_processes(self):
        place = self.path.resolve() / "postgres"
        found = []
        for process in psutil.process_iter():
            try:
                if Path(process.cwd()) == place:
                    found.append(process)
            except psutil.Error:
                continue
        return found

    def remove(self):
        if self.process is not None and self.process.poll() is None:
            self.process.kill()
            self.process.wait(10)
        if self.process is not None and self.process.stdout is not None:
            self.process.stdout.close()
        Cluster(self.path).destroy()
        shutil.rmtree(self.path, ignore_errors=True)
