"""
Run the tests: `./hearth test [--fast | --full] [--record] [WORD ...]`.

Without a word all of them, else those whose dotted name holds one of the words.
"""

from __future__ import annotations

import argparse
import os
import sys
import time

from tests.runner.catalogue import SLOW_PACKAGES, TestClass, test_classes
from tests.runner.queue import UNKNOWN_S, Job, Outcome, expected, record, run

#: So many of the slowest tests are named at the end.
SLOWEST = 20
#: What takes longer is left to the gate when `--fast` is asked [s].
QUICK_S = 3.0


def main(arguments: list[str]) -> int:
    """Run what is asked; the exit code is 0 when something ran and nothing failed."""
    parser = argparse.ArgumentParser(prog="hearth test")
    amount = parser.add_mutually_exclusive_group()
    amount.add_argument(
        "--fast", action="store_true", help="what is quick of the core, the published and the API; nothing started cold"
    )
    amount.add_argument("--full", action="store_true", help="studies too, and many more examples, drawn anew")
    parser.add_argument("--record", action="store_true", help="write down how long each class took")
    parser.add_argument("words", nargs="*", metavar="WORD", help="only tests whose dotted name holds one of these")
    options = parser.parse_args(arguments)
    if options.full:
        os.environ["HEARTH_TEST_PROFILE"] = "full"
    known, took_s = test_classes(), expected()
    jobs = [
        Job(of, tests, took_s.get(of.key, UNKNOWN_S) * len(tests) / len(of.tests))
        for of in known
        if is_wanted(of, took_s.get(of.key, 0.0), fast=options.fast, full=options.full)
        and (tests := of.named(options.words))
    ]
    began_s = time.monotonic()
    outcome = run(jobs, tell=lambda text: print(text, end="", flush=True))
    for key in unreported(jobs, outcome):
        print(f"{key}: nothing was heard of it")
        outcome.failed += 1
        outcome.ran += 1
    slowest = sorted(outcome.tests_s.items(), key=lambda entry: -entry[1])[:SLOWEST]
    print("slowest:", ", ".join(f"{name.removeprefix('tests.')} {took:.0f} s" for name, took in slowest))
    if options.record:
        record(outcome, known)
    passed = outcome.ran - outcome.failed - outcome.skipped
    print(f"in {time.monotonic() - began_s:.0f} s")
    print(f"{passed} passed, {outcome.failed} failed, {outcome.skipped} skipped")
    return 0 if passed > 0 and outcome.failed == 0 else 1


def unreported(jobs: list[Job], outcome: Outcome) -> list[str]:
    """Classes that were asked for and of which no answer came: not run is not passed."""
    return [job.of.key for job in jobs if job.of.key not in outcome.took_s]


def is_wanted(of: TestClass, took_s: float, *, fast: bool, full: bool) -> bool:
    """Whether a class belongs to the amount that is asked for."""
    if of.is_study and not full:
        return False
    return not (fast and (of.package in SLOW_PACKAGES or of.starts_cold or took_s > QUICK_S))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
