"""The command that runs the tests: it knows them all without loading one, and which of them each amount asks for."""

import subprocess
import sys
import time
import unittest
from collections.abc import Iterator

from tests.__main__ import is_wanted, unreported
from tests.runner.catalogue import PACKAGES, SLOW_PACKAGES, test_classes
from tests.runner.profile import MORE, PROFILE, Profile, amount, examples, some
from tests.runner.queue import Job, Outcome, Queue, _answer_of
from tests.support.designs import ROOT

LISTED = """
import sys, unittest
def single(suite):
    for entry in suite:
        if isinstance(entry, unittest.TestSuite):
            yield from single(entry)
        else:
            yield entry.id()
for package in sys.argv[1:]:
    print("\\n".join(single(unittest.defaultTestLoader.discover(f"tests/{package}", top_level_dir="."))))
"""


def ids() -> Iterator[str]:
    for each in test_classes():
        yield from each.named(())


class Catalogue(unittest.TestCase):
    def test_what_is_read_from_the_sources_is_what_is_found_by_loading_them(self):
        done = subprocess.run(
            [sys.executable, "-c", LISTED, *PACKAGES], cwd=ROOT, capture_output=True, text=True, check=True
        )
        self.assertEqual(sorted(ids()), sorted(done.stdout.split()))

    def test_each_stands_in_a_package_that_is_known(self):
        self.assertEqual({each.package for each in test_classes()}, set(PACKAGES))
        self.assertLess(SLOW_PACKAGES, set(PACKAGES))

    def test_words_are_sought_in_the_whole_name(self):
        (own,) = (each for each in test_classes() if each.name == "Catalogue")
        self.assertEqual(own.named(["words_are_sought"]), (self.id(),))
        self.assertEqual(own.named(["no such word"]), ())


class Amounts(unittest.TestCase):
    def test_the_fast_one_starts_nothing_cold_and_drives_no_browser(self):
        fast = [each for each in test_classes() if is_wanted(each, 0.0, fast=True, full=False)]
        self.assertFalse(any(each.wants_browser or each.starts_cold or each.is_study for each in fast))
        self.assertLessEqual({"core", "published", "api"}, {each.package for each in fast})

    def test_studies_are_for_the_full_one_alone(self):
        wanted = [sum(is_wanted(each, 0.0, fast=False, full=full) for each in test_classes()) for full in (False, True)]
        studies = sum(each.is_study for each in test_classes())
        self.assertEqual(wanted[1] - wanted[0], studies)

    def test_the_gate_is_always_the_same_and_the_full_one_tries_more(self):
        if PROFILE is Profile.GATE:
            self.assertTrue(examples(7).derandomize)
            found = examples(7).max_examples, amount(3, 9), some(range(10), 4)
            self.assertEqual(found, (7, 3, [0, 4, 8]))
        else:
            self.assertFalse(examples(7).derandomize)
            self.assertEqual((examples(7).max_examples, amount(3, 9)), (7 * MORE, 9))


class TheQueue(unittest.TestCase):
    def test_a_worker_that_ended_is_noticed_though_its_output_is_held_open(self):
        with subprocess.Popen(["sh", "-c", "sleep 6 & exit 3"], stdout=subprocess.PIPE, text=True) as ended:
            began_s = time.monotonic()
            self.assertEqual(_answer_of(ended), "")
            self.assertLess(time.monotonic() - began_s, 5)

    def test_a_class_of_which_nothing_is_heard_is_named(self):
        one, other = (Job(each, each.tests, 1.0) for each in test_classes()[:2])
        self.assertEqual(unreported([one, other], Outcome(took_s={one.of.key: 1.0})), [other.of.key])

    def test_the_longest_first_and_browsers_to_those_who_drive_one(self):
        browser, other = (
            [each for each in test_classes() if each.wants_browser is is_one][:2] for is_one in (True, False)
        )
        jobs = [Job(each, each.tests, 1.0 + at) for at, each in enumerate((*browser, *other))]
        queue = Queue(jobs)
        taken = [queue.next(drives_browser=drives) for drives in (False, True, True, True, False)]
        self.assertEqual([job and job.expected_s for job in taken], [4.0, 2.0, 1.0, 3.0, None])
