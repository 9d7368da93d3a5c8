"""Run every test, or those whose dotted name holds one of the words given: `./hearth test browser`.

The browser tests wait on a browser most of the time, so they run beside the others in a process of their own, with those
that bring both to about the same length.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
import unittest
import warnings
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
GROUPS = (
    ("core", "published", "places", "cli", "jobs", "devices", "standins", "polling", "web"),
    ("store", "exchange", "api", "papers", "browser"),
)
#: So many of a group's slowest classes are named at its end.
SLOWEST = 12


class TimedResult(unittest.TextTestResult):
    """Counts what each class of tests took [s], with what it sets up."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        """Begin with nothing."""
        super().__init__(*args, **kwargs)
        self.took_s: defaultdict[str, float] = defaultdict(float)
        self._since_s = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """Add what passed since the test before it to its class."""
        super().stopTest(test)
        now_s = time.monotonic()
        self.took_s[f"{type(test).__module__}.{type(test).__name__}"] += now_s - self._since_s
        self._since_s = now_s


def main(arguments: list[str]) -> int:
    """Run the groups side by side; the exit code is 0 when something ran and nothing failed."""
    if arguments[:1] == ["--group"]:
        return run_group(arguments[1].split(","), Path(arguments[2]), arguments[3:])
    with tempfile.TemporaryDirectory() as folder:
        jobs = []
        for number, group in enumerate(GROUPS):
            counts, log = Path(folder) / f"{number}.json", Path(folder) / f"{number}.log"
            command = [sys.executable, "-m", "tests", "--group", ",".join(group), str(counts), *arguments]
            with log.open("w") as output:
                job = subprocess.Popen(command, cwd=ROOT, stdout=output, stderr=subprocess.STDOUT)
            jobs.append((job, group, counts, log))
        totals = {"ran": 0, "failed": 0, "skipped": 0}
        for job, group, counts, log in jobs:
            code = job.wait()
            sys.stdout.write(f"--- {', '.join(group)}\n{log.read_text(errors='replace')}")
            if not counts.exists():
                print(f"the group ended without a result, exit code {code}")
                totals["failed"] += 1
                continue
            for key, value in json.loads(counts.read_text()).items():
                totals[key] += value
    passed = totals["ran"] - totals["failed"] - totals["skipped"]
    print(f"\n{passed} passed, {totals['failed']} failed, {totals['skipped']} skipped")
    return 0 if passed > 0 and totals["failed"] == 0 else 1


def run_group(group: list[str], counts: Path, words: list[str]) -> int:
    """Run one group's tests in this process and write down how many ran."""
    # A warning from our own code is an error. Naming an option keeps the runner from putting its filters in front.
    sys.warnoptions.append("default")
    warnings.filterwarnings("error", module=r"(hearthkeep|tests)\b")
    suite = unittest.TestSuite()
    for name in group:
        for test in flattened(unittest.defaultTestLoader.discover(str(ROOT / "tests" / name), top_level_dir=str(ROOT))):
            if not words or any(word in test.id() for word in words):
                suite.addTest(test)
    result = unittest.TextTestRunner(verbosity=2 if words else 1, buffer=True, resultclass=TimedResult).run(suite)
    slowest = sorted(result.took_s.items(), key=lambda entry: -entry[1])[:SLOWEST]
    print("slowest:", ", ".join(f"{name} {took_s:.0f} s" for name, took_s in slowest))
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    counts.write_text(json.dumps({"ran": result.testsRun, "failed": failed, "skipped": len(result.skipped)}))
    return 0 if failed == 0 else 1


def flattened(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    """The single tests of a nested suite."""
    for entry in suite:
        if isinstance(entry, unittest.TestSuite):
            yield from flattened(entry)
        else:
            yield entry


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
