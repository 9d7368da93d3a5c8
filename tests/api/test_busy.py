"""Long questions never stand before an edit, a process that is lost costs nobody else an answer, and what waits is bounded."""

import asyncio
import logging
import os
import time
import unittest
from unittest import mock

import psycopg

from hearthkeep.api.guard import COMPANIONS
from hearthkeep.api.jobs import MOST_LIVE
from hearthkeep.jobs.queue import connection_of
from hearthkeep.workers import BusyError, Workers, WorkLostError, pool
from tests.support.api import JSON, ApiTest
from tests.support.shared import shared_cluster
from tests.support.units import battery


class Processes(unittest.TestCase):
    """Tasks that only sleep or die, in real processes."""

    def run_with(self, count, work):
        workers = Workers(shared_cluster().url("postgres"), count)
        self.addCleanup(workers.close)
        return asyncio.run(work(workers))

    def test_an_edit_does_not_wait_for_what_takes_long(self):
        async def work(workers):
            await workers.run(divmod, 7, 2)
            long = [asyncio.create_task(workers.run_long(time.sleep, 20.0)) for _ in range(6)]
            await asyncio.sleep(0.5)
            begun = time.monotonic()
            answers = [await workers.run(divmod, number, 2) for number in range(5)]
            took_s = time.monotonic() - begun
            for task in long:
                task.cancel()
            return answers, took_s

        answers, took_s = self.run_with(1, work)
        self.assertEqual(answers, [divmod(number, 2) for number in range(5)])
        self.assertLess(took_s, 5.0)

    def test_no_more_wait_than_may(self):
        async def work(workers):
            await workers.run(divmod, 7, 2)
            most = 1 + pool.MOST_LONG_WAITING
            asked = [asyncio.create_task(workers.run_long(time.sleep, 20.0)) for _ in range(most)]
            await asyncio.sleep(0.1)
            with self.assertRaises(BusyError):
                await workers.run_long(divmod, 7, 2)
            for task in asked:
                task.cancel()
            await asyncio.gather(*asked, return_exceptions=True)
            # Who gave up makes room.
            workers._long.replace(workers._long.processes)
            return await workers.run_long(divmod, 9, 2)

        self.assertEqual(self.run_with(1, work), (4, 1))

    def test_who_waits_while_another_is_ended_is_asked_again(self):
        async def work(workers):
            await workers.run(divmod, 7, 2)
            with mock.patch.object(pool, "LONGEST_S", 4.0):
                hung = asyncio.create_task(workers.run(time.sleep, 60.0))
                await asyncio.sleep(0.1)
                others = [asyncio.create_task(workers.run(divmod, number, 2)) for number in range(40)]
                beside = [asyncio.create_task(workers.run(time.sleep, 1.5)) for _ in range(3)]
                found = await asyncio.gather(*others, *beside)
                with self.assertRaises(WorkLostError):
                    await hung
            return found

        self.assertEqual(self.run_with(2, work), [divmod(number, 2) for number in range(40)] + [None] * 3)

    def test_who_kills_its_process_every_time_costs_nobody_else_an_answer(self):
        async def work(workers):
            await workers.run(divmod, 7, 2)
            killer = asyncio.create_task(workers.run(os._exit, 1))
            others = [asyncio.create_task(workers.run(time.sleep, 0.2)) for _ in range(8)]
            found = await asyncio.gather(*others)
            with self.assertRaises(WorkLostError):
                await killer
            return found

        self.assertEqual(self.run_with(2, work), [None] * 8)

    def test_a_moment_in_which_no_process_can_be_begun_costs_no_answer(self):
        # As while the process that the others are forked from is being ended: it stands there and refuses everyone.
        submit, refused = pool.ProcessPoolExecutor.submit, []

        def refusing(executor, *asked):
            if time.monotonic() < until_s:
                refused.append(asked)
                raise ConnectionRefusedError
            return submit(executor, *asked)

        async def work(workers):
            nonlocal until_s
            await workers.run(divmod, 7, 2)
            until_s = time.monotonic() + 0.6
            return await workers.run(divmod, 9, 2)

        until_s = 0.0
        with mock.patch.object(pool.ProcessPoolExecutor, "submit", refusing):
            self.assertEqual(self.run_with(1, work), (4, 1))
        self.assertEqual(len(refused), 2)

    def test_one_who_gives_up_is_not_asked_again(self):
        async def work(workers):
            await workers.run(divmod, 7, 2)
            task = asyncio.create_task(workers.run(time.sleep, 20.0))
            await asyncio.sleep(0.1)
            task.cancel()
            with self.assertRaises(asyncio.CancelledError):
                await task

        self.run_with(1, work)


class Answers(ApiTest):
    def refused(self, raised):
        async def busy(*_, **__):
            raise raised

        logging.disable(logging.ERROR)
        self.addCleanup(logging.disable, logging.NOTSET)
        with mock.patch.object(Workers, "run", busy):
            return self.client.post("/api/assessments", content=self.document(), headers=JSON)

    def test_every_one_carries_the_guards_headers(self):
        for raised, status, code in (
            (BusyError("12 questions of this kind wait already."), 503, "BUSY"),
            (asyncio.CancelledError(), 500, "UNEXPECTED"),
            (RuntimeError("odd"), 500, "UNEXPECTED"),
        ):
            with self.subTest(raised):
                answer = self.refused(raised)
                self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))
                for name, value in COMPANIONS.items():
                    self.assertEqual(answer.headers[name], value)
                self.assertIn("default-src 'none'", answer.headers["content-security-policy"])


class Waiting(ApiTest):
    """Searches that nobody works on."""

    def parts(self):
        with psycopg.connect(connection_of(self.engine.url)) as connection:
            return connection.execute("select count(*) from procrastinate_jobs").fetchone()[0]

    def test_cancelling_takes_the_parts_out_and_no_more_wait_than_may(self):
        address = f"/api/designs/{self.made()['id']}/kit-searches"
        units = [battery(f"rack-{number}", 51.2, 50.0 + number, 1000.0) for number in range(10)]
        ranges = {"target": {"hours_h": 24, "share_frac": 0.5}, "batteries": {"units": units, "most": 6}}
        asked = [self.client.post(address, json=ranges) for _ in range(MOST_LIVE + 1)]
        self.assertEqual([answer.status_code for answer in asked], [201] * MOST_LIVE + [503])
        self.assertIn(f"{MOST_LIVE} may", asked[-1].json()["detail"])
        searches = [answer.json() for answer in asked[:-1]]
        all_parts = self.parts()
        self.assertGreaterEqual(all_parts, 4 * MOST_LIVE)
        queue = self.client.app.state.queue
        first, second, *rest = (search["id"] for search in searches)
        self.assertTrue(queue.is_waiting(first))
        self.client.post(f"/api/kit-searches/{first}/cancel")
        self.assertFalse(queue.is_waiting(first))
        self.assertTrue(queue.is_waiting(second))
        self.assertEqual(self.parts(), all_parts - all_parts // MOST_LIVE)
        for search in rest:
            self.client.delete(f"/api/kit-searches/{search}")
        self.assertEqual(self.parts(), all_parts // MOST_LIVE)
        self.assertEqual(self.client.post(address, json=ranges).status_code, 201)
