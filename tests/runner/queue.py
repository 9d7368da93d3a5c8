"""
The queue: classes of tests, longest first, one at a time to each of a few processes.

A browser waits most of the time, so one process more than there are cores takes the classes that drive one, and whatever is left
when there are none; the others take them once nothing else is left.
"""

from __future__ import annotations

import itertools
import json
import os
import select
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.runner.catalogue import ROOT, TestClass

#: Of a class that was never timed [s].
UNKNOWN_S = 5.0
DURATIONS = ROOT / "tests" / "durations.json"
#: The folder that the workers of a run share; see tests/support/shared.py.
RUN_VARIABLE = "HEARTH_TEST_RUN"

_numbers = itertools.count(1)


@dataclass(slots=True)
class Job:
    """A class and those of its tests that are asked for."""

    of: TestClass
    tests: tuple[str, ...]
    expected_s: float


@dataclass(slots=True)
class Outcome:
    """All that came of a run."""

    ran: int = 0
    failed: int = 0
    skipped: int = 0
    #: By class and by test [s].
    took_s: dict[str, float] = field(default_factory=dict)
    tests_s: dict[str, float] = field(default_factory=dict)

    def add(self, answer: dict[str, Any]) -> None:
        """Count a class in."""
        self.ran += answer["ran"]
        self.failed += answer["failed"]
        self.skipped += answer["skipped"]
        self.took_s[answer["key"]] = answer["took_s"]
        self.tests_s.update(answer["tests_s"])


class Queue:
    """Jobs not yet given out. Its methods may be called from several threads."""

    def __init__(self, jobs: Sequence[Job]) -> None:
        ordered = sorted(jobs, key=lambda job: (-job.expected_s, job.of.key))
        self._browser = [job for job in ordered if job.of.wants_browser]
        self._others = [job for job in ordered if not job.of.wants_browser]
        self._lock = threading.Lock()

    def next(self, *, drives_browser: bool) -> Job | None:
        """The longest job that suits a worker; none where nothing is left."""
        first, then = (self._browser, self._others) if drives_browser else (self._others, self._browser)
        with self._lock:
            for jobs in (first, then):
                if jobs:
                    return jobs.pop(0)
        return None


def expected() -> dict[str, float]:
    """Recorded durations by class [s]."""
    try:
        return dict(json.loads(DURATIONS.read_text()))
    except (OSError, ValueError):
        return {}


def record(outcome: Outcome, known: Sequence[TestClass]) -> None:
    """Write down what each class took; of those that are no more nothing is kept."""
    keys = {each.key for each in known}
    both = {**expected(), **outcome.took_s}
    kept = {key: round(both[key], 1) for key in sorted(both) if key in keys}
    DURATIONS.write_text(json.dumps(kept, indent=0) + "\n")


def run(jobs: Sequence[Job], *, tell: Callable[[str], None]) -> Outcome:
    """Run them all and tell of each class as it ends."""
    queue, outcome, lock = Queue(jobs), Outcome(), threading.Lock()
    cores = os.cpu_count() or 1
    plans = [False] * min(cores, len(jobs)) + [True] * any(job.of.wants_browser for job in jobs)
    # A space in the path is normal on people's machines and must work.
    with tempfile.TemporaryDirectory(prefix="hearth tests ", ignore_cleanup_errors=True) as folder:
        # The database server's account passes through.
        Path(folder).chmod(0o711)

        def work(drives_browser: bool) -> None:
            worker = _Worker(Path(folder))
            try:
                while (job := queue.next(drives_browser=drives_browser)) is not None:
                    answer = worker.ask(job)
                    with lock:
                        outcome.add(answer)
                        tell(_line(answer) + answer["text"])
            finally:
                worker.end()

        threads = [threading.Thread(target=work, args=(plan,)) for plan in plans]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        _end_shared(Path(folder))
    return outcome


def _line(answer: dict[str, Any]) -> str:
    state = f"{answer['failed']} FAILED of {answer['ran']}" if answer["failed"] else f"{answer['ran']} ok"
    return f"{answer['took_s']:7.1f} s  {state:>10}  {answer['key'].removeprefix('tests.')}\n"


def _end_shared(folder: Path) -> None:
    """Stop what the workers shared; loaded only here, since most runs of a few tests share nothing."""
    if (folder / "cluster").exists():
        from tests.support.shared import end_shared

        end_shared(folder)


def _answer_of(process: subprocess.Popen[str]) -> str:
    """The line that a worker answers; nothing where it has ended, though what it left behind may hold its output open."""
    assert process.stdout
    while True:
        has_ended = process.poll() is not None
        if select.select([process.stdout], [], [], 1.0)[0]:
            return process.stdout.readline()
        if has_ended:
            return ""


class _Worker:
    """A process that runs one class after the other; another takes its place when it dies."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._process: subprocess.Popen[str] | None = None
        #: Whatever it prints beside its answers.
        self._log = folder / f"worker-{next(_numbers)}.log"

    def ask(self, job: Job) -> dict[str, Any]:
        """Have a job done."""
        process = self._ensure()
        assert process.stdin and process.stdout
        try:
            process.stdin.write(json.dumps({"key": job.of.key, "tests": job.tests}) + "\n")
            process.stdin.flush()
            line = _answer_of(process)
        except BrokenPipeError:
            line = ""
        if line:
            return dict(json.loads(line))
        code = process.wait()
        self._process = None
        said = self._log.read_text(errors="replace")[-4000:]
        return {
            "key": job.of.key, "ran": len(job.tests), "failed": len(job.tests), "skipped": 0, "took_s": job.expected_s,
            "tests_s": {}, "text": f"{job.of.key}: the process that ran it ended, exit code {code}\n{said}\n",
        }  # fmt: skip

    def end(self) -> None:
        """Let it end, with what it started."""
        if self._process is not None and self._process.stdin and self._process.stdout:
            self._process.stdin.close()
            self._process.wait()
            self._process.stdout.close()

    def _ensure(self) -> subprocess.Popen[str]:
        if self._process is None:
            with self._log.open("a") as log:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", "tests.runner.worker"],
                    cwd=ROOT, env={**os.environ, RUN_VARIABLE: str(self._folder)}, text=True, encoding="utf-8",
                    stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=log,
                )  # fmt: skip
        return self._process
