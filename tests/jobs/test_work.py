"""Long work on a real queue: two workers, one killed, one stopped, a cancelled search, a start after an end."""

import json
import os
import signal
import time
import unittest
from contextlib import closing
from unittest import mock

import psutil
from procrastinate import SyncPsycopgConnector

from hearthkeep.core.kits import KitRanges, answer_of, kits_of, stops_of
from hearthkeep.engine import engine_version
from hearthkeep.jobs import JobQueue, OwnWorker, ensure_queue
from hearthkeep.jobs.queue import PART, app_on, connection_of
from hearthkeep.jobs.work import NICENESS
from hearthkeep.store import Designs, Jobs, NotFoundError
from hearthkeep.store import jobs as jobs_module
from hearthkeep.workers import long_tasks
from tests.support.designs import load, simple
from tests.support.shared import fresh_engine
from tests.support.units import battery, inverter

#: Longer than any of this takes on a busy machine [s].
WAIT_S = 90.0


def small_design():
    """A house without sun in hours: a kit takes some hundredths of a second."""
    return simple(load("lamp", 50.0), simulation={"time_step_min": 60})


def ranges_of(batteries, strings):
    return {
        "target": {"hours_h": 24, "share_frac": 1.0},
        "batteries": {
            "units": [battery(f"b{at}", 10.0, 20.0 + 3.0 * at, 50.0 + 7.0 * at) for at in range(batteries)],
            "most": strings,
        },
        "inverters": {"units": [inverter("i", 10.0, 100.0)]},
    }


class JobTest(unittest.TestCase):
    def setUp(self):
        self.engine = fresh_engine()
        self.addCleanup(self.engine.dispose)
        ensure_queue(self.engine.url)
        self.designs, self.jobs = Designs(self.engine), Jobs(self.engine)
        self.queue = JobQueue(self.engine.url, self.jobs)
        self.design = small_design()

    def asked(self, question, *, queued=True):
        stored = self.designs.create(self.design)
        question = KitRanges.model_validate(question).model_dump(mode="json")
        planned = long_tasks.kits_planned(self.design.model_dump_json().encode(), json.dumps(question).encode())
        job = self.jobs.ask(
            stored.id, 1, engine=engine_version(), kind="kits", question=question, total=planned.kits
        )  # fmt: skip
        if queued:
            self.queue.put(job)
        return job

    def worker(self, count=1):
        worker = OwnWorker(self.engine.url, count)
        worker.wake()
        self.addCleanup(worker.stop)
        return worker

    def answering(self, worker):
        """Processes of a worker in which answers are worked out."""
        children = psutil.Process(worker.pid).children(recursive=True) if worker.pid else []
        return [process for process in children if process.nice() == NICENESS]

    def until(self, condition, what):
        give_up = time.monotonic() + WAIT_S
        while not (found := condition()):
            self.assertLess(time.monotonic(), give_up, what)
            time.sleep(0.05)
        return found

    def until_ended(self, job):
        return self.until(lambda: (now := self.jobs.get(job.id)) and not now.is_live and now, "the job's end")

    def until_begun(self, job, least=1):
        return self.until(lambda: (now := self.jobs.get(job.id)).done >= least and now, "the first answers")

    def assert_whole(self, job):
        """Every answer stands once and equals what the core says."""
        answers = self.jobs.answers(job.id)
        self.assertEqual([answer["number"] for answer in answers], list(range(job.total)))
        ranges = KitRanges.model_validate(job.question)
        stops = stops_of(self.design)
        kits = kits_of(self.design, ranges).kits
        for number in range(0, job.total, max(1, job.total // 12)):
            direct = answer_of(kits[number], self.design, ranges.target, stops)
            self.assertEqual(json.loads(long_tasks._KIT_ANSWER.dump_json(direct)), answers[number])
        return answers


class Shared(JobTest):
    def test_two_workers_share_a_search_and_say_what_one_says(self):
        together, alone = self.asked(ranges_of(6, 12)), self.asked(ranges_of(6, 12))
        self.jobs.cancel(alone.id)
        first, second = self.worker(), self.worker()
        self.until_ended(together)
        found = self.assert_whole(together)
        # Each has taken parts: the process for its answers, which gives way to others, is begun with the first of them.
        for worker in (first, second):
            self.assertTrue(self.answering(worker))
        first.stop()
        again = self.asked(ranges_of(6, 12))
        self.until_ended(again)
        self.assertEqual(self.jobs.answers(again.id), found)
        self.assertEqual(self.jobs.answers(alone.id), ())

    def test_progress_says_how_long_the_rest_takes(self):
        job = self.asked(ranges_of(12, 12))
        self.assertEqual((job.done, job.remaining_s, job.is_live), (0, None, True))
        self.worker()
        now = self.until(lambda: (now := self.jobs.get(job.id)).remaining_s is not None and now, "a pace")
        self.assertTrue(0 < now.done < job.total)
        self.assertTrue(0 < now.remaining_s < WAIT_S)
        ended = self.until_ended(job)
        self.assertEqual((ended.done, ended.remaining_s, ended.fault, ended.cancelled), (job.total, None, "", False))


class Interrupted(JobTest):
    def test_a_worker_killed_in_the_middle_loses_nothing(self):
        job = self.asked(ranges_of(12, 12))
        worker = self.worker()
        self.until_begun(job)
        children = psutil.Process(worker.pid).children(recursive=True)
        os.kill(worker.pid, signal.SIGKILL)
        done = self.jobs.get(job.id).done
        self.assertLess(done, job.total)
        # It takes what it had begun with it: nothing is left to work unseen.
        psutil.wait_procs(children, timeout=10)
        self.assertEqual([process for process in children if process.is_running()], [])
        self.worker()
        self.until_ended(job)
        self.assert_whole(job)

    def test_a_worker_asked_to_stop_leaves_its_part_to_others_and_a_later_start_goes_on(self):
        job = self.asked(ranges_of(12, 12))
        worker = self.worker()
        self.until_begun(job)
        began = time.monotonic()
        worker.stop()
        self.assertLess(time.monotonic() - began, 8.0)
        self.assertTrue(self.jobs.get(job.id).is_live)
        with closing(self.connector()) as connector:
            waiting = list(app_on(connector).job_manager.list_jobs(status="todo"))
        held = {first for entry in waiting for first in range(entry.task_kwargs["first"], job.total, job.total)}
        lacking = {number - number % PART for number in self.jobs.missing(job.id, 0, job.total)}
        self.assertEqual(held, lacking)
        # As after a restoration, or with another release of the queue's library: nothing is queued.
        with self.engine.begin() as connection:
            connection.exec_driver_sql("comment on schema queue is 'another'")
        ensure_queue(self.engine.url)
        done = self.jobs.get(job.id).done
        self.assertTrue(self.queue.resume())
        self.worker(2)
        self.until_ended(job)
        self.assertGreaterEqual(self.jobs.get(job.id).done, done)
        self.assert_whole(job)
        self.assertFalse(self.queue.resume())

    def test_an_assessing_process_that_is_killed_costs_no_answer(self):
        job = self.asked(ranges_of(6, 16))
        worker = self.worker(2)
        for kill_parent in (False, True):
            before = self.until_begun(job).done
            answering = self.until(lambda: self.answering(worker), "processes that answer")
            # The one that the others are forked from, too.
            for process in [answering[0].parent()] if kill_parent else answering:
                process.kill()
            self.until(
                lambda before=before: self.jobs.get(job.id).done > before or not self.jobs.get(job.id).is_live, "more"
            )
        self.until_ended(job)
        self.assertEqual(self.jobs.get(job.id).fault, "")
        self.assert_whole(job)

    def test_what_the_queue_has_lost_is_queued_again(self):
        job = self.asked(ranges_of(3, 8), queued=False)
        self.worker()
        self.until_ended(job)
        self.assert_whole(job)

    def test_another_engine_begins_anew(self):
        job = self.asked(ranges_of(2, 2))
        self.jobs.put(job.id, {0: {"number": 0, "of": "another engine"}})
        with self.engine.begin() as connection:
            connection.exec_driver_sql("update jobs set engine = 'earlier'")
        self.worker()
        self.assertTrue(self.queue.resume())
        self.until_ended(job)
        self.assert_whole(job)

    def test_cancelling_stops_within_two_seconds(self):
        self.design = simple(
            *(load(f"lamp {at}", 5.0, hours=[[at % 24, at % 24 + 1]]) for at in range(100)),
            simulation={"time_step_min": 5},
        )
        question = ranges_of(12, 12)
        question["target"]["hours_h"] = 720
        job = self.asked(question)
        worker = self.worker(2)
        slots = self.until(lambda: self.working(worker), "a slot at work")
        # Ten million steps a kit: a part would go on for minutes.
        time.sleep(1.0)
        began = time.monotonic()
        self.assertTrue(self.jobs.cancel(job.id).cancelled)
        psutil.wait_procs(slots, timeout=10)
        self.assertLess(time.monotonic() - began, 2.0)
        self.assertEqual([process for process in slots if process.is_running()], [])
        done = self.jobs.get(job.id).done
        # The worker is still there, and does what is asked next.
        self.design = small_design()
        other = self.asked(ranges_of(2, 4))
        self.until_ended(other)
        self.assert_whole(other)
        self.assertEqual(self.jobs.get(job.id).done, done)

    def connector(self):
        connector = SyncPsycopgConnector(conninfo=connection_of(self.engine.url))
        connector.open()
        return connector

    def working(self, worker):
        return [process for process in self.answering(worker) if sum(process.cpu_times()[:2]) > 0.3]


class Ended(JobTest):
    def test_a_fault_ends_the_job_with_its_reason(self):
        self.design = self.design.model_copy(
            update={"site": self.design.site.model_copy(update={"weather_year": "gone"})}
        )  # fmt: skip
        stored = self.designs.create(self.design)
        question = KitRanges.model_validate(ranges_of(1, 2)).model_dump(mode="json")
        job = self.jobs.ask(stored.id, 1, engine=engine_version(), kind="kits", question=question, total=2)
        self.queue.put(job)
        self.worker()
        self.assertIn("weather year gone", self.until_ended(job).fault)

    def test_a_deleted_job_is_forgotten_by_the_worker_too(self):
        job = self.asked(ranges_of(12, 12))
        self.worker()
        self.until_begun(job)
        self.jobs.delete(job.id)
        with self.assertRaises(NotFoundError):
            self.jobs.get(job.id)
        other = self.asked(ranges_of(1, 2))
        self.until_ended(other)

    def test_a_job_forgotten_while_the_list_is_read_is_left_out_of_it(self):
        stored = self.designs.create(small_design())
        first, second = (self.jobs.ask(stored.id, 1, engine="e", kind="kits", question={}, total=1) for _ in range(2))
        read = jobs_module._job

        def forgotten_meanwhile(session, job_id):
            if job_id == first.id:
                raise NotFoundError("forgotten")
            return read(session, job_id)

        with mock.patch.object(jobs_module, "_job", forgotten_meanwhile):
            self.assertEqual([job.id for job in self.jobs.of_design(stored.id, "kits")], [second.id])
            self.assertEqual([job.id for job in self.jobs.live()], [second.id])

    def test_the_oldest_make_room(self):
        stored = self.designs.create(self.design)
        asked = [
            self.jobs.ask(stored.id, 1, engine="e", kind="kits", question={}, total=1) for _ in range(25)
        ]  # fmt: skip
        self.assertEqual(len(self.jobs.of_design(stored.id, "kits")), 25)
        for job in asked:
            self.jobs.cancel(job.id)
        newest = self.jobs.ask(stored.id, 1, engine="e", kind="kits", question={}, total=1)
        kept = self.jobs.of_design(stored.id, "kits")
        self.assertEqual(len(kept), 20)
        self.assertEqual([kept[0].id, kept[-1].id], [newest.id, asked[6].id])

    def test_a_job_moves_out_of_date_with_its_design_and_its_engine(self):
        stored = self.designs.create(self.design)
        job = self.jobs.ask(stored.id, 1, engine=engine_version(), kind="kits", question={}, total=1)
        self.assertFalse(job.is_stale(engine_version()))
        self.assertTrue(job.is_stale("another"))
        self.designs.save(stored.id, self.design.model_copy(update={"name": "Later"}), expected_revision=1)
        self.assertTrue(self.jobs.get(job.id).is_stale(engine_version()))

    def test_it_ends_on_its_own_when_there_is_nothing_to_do(self):
        worker = OwnWorker(self.engine.url, 1, idle_s=0.1)
        self.addCleanup(worker.stop)
        worker.wake()
        self.assertIsNotNone(worker.pid)
        self.until(lambda: worker.pid is None, "its end")
        worker.look()
        self.assertIsNone(worker.pid)


if __name__ == "__main__":
    unittest.main()
