"""A process that runs classes of tests: it is sent their names and answers with what came of them, a line of JSON each."""

from __future__ import annotations

import io
import json
import os
import sys
import time
import unittest
import warnings
from typing import Any

import tests.runner.profile  # noqa: F401 - before any test is loaded, for those that name no number of examples


class TimedResult(unittest.TextTestResult):
    """Keeps how long each test took [s]; what its class sets up counts with its first test."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        """Begin with nothing."""
        super().__init__(*args, **kwargs)
        self.took_s: dict[str, float] = {}
        self._since_s = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """Note what passed since the test before it."""
        super().stopTest(test)
        now_s = time.monotonic()
        self.took_s[test.id()] = now_s - self._since_s
        self._since_s = now_s


def run_class(key: str, tests: list[str]) -> dict[str, Any]:
    """Run tests of a class, and say what came of them."""
    began_s = time.monotonic()
    text = io.StringIO()
    suite = unittest.defaultTestLoader.loadTestsFromNames(tests)
    result = unittest.TextTestRunner(stream=text, verbosity=0, buffer=True, resultclass=TimedResult).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return {
        "key": key,
        "ran": result.testsRun,
        "failed": failed,
        "skipped": len(result.skipped),
        "took_s": time.monotonic() - began_s,
        "tests_s": result.took_s,
        "text": text.getvalue() if failed or result.skipped else "",
    }


def main() -> int:
    """Answer until nothing more is asked."""
    # A warning from our own code is an error. Naming an option keeps the runner from putting its filters in front.
    sys.warnoptions.append("default")
    warnings.filterwarnings("error", module=r"(hearthkeep|tests)\b")
    # Whatever a test prints must not stand among the answers.
    answers = os.fdopen(os.dup(1), "w", encoding="utf-8")
    os.dup2(2, 1)
    for line in sys.stdin:
        asked = json.loads(line)
        print(json.dumps(run_class(asked["key"], asked["tests"])), file=answers, flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
