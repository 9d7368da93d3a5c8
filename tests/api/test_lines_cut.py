"""The line to the database is cut between any two messages: what was acknowledged is kept, and nothing is kept by half."""

import io
import itertools
import json
import random
import uuid
import zipfile
from datetime import datetime, timedelta

from fastapi.testclient import TestClient
from sqlalchemy import text

from hearthkeep.api import create_app
from hearthkeep.jobs.queue import SCHEMA
from hearthkeep.store import engine_for
from hearthkeep.store.database import transaction
from hearthkeep.store.models import Base
from hearthkeep.workers import Workers
from tests.api.test_log_api import LogTest
from tests.runner.profile import amount
from tests.support.api import BINARY, JSON, PORT
from tests.support.cutting import CuttingProxy
from tests.support.shared import fresh_engine
from tests.support.weather import epw_lines, joined

#: What is worked out from the rest and can be worked out anew.
DERIVED = {"summaries", "job_answers"}


class LinesCut(LogTest):
    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.proxy = CuttingProxy(cls.engine.url.host, cls.engine.url.port)
        cls.addClassCleanup(cls.proxy.close)
        through = engine_for(cls.engine.url.set(port=cls.proxy.port))
        cls.addClassCleanup(through.dispose)
        workers = Workers(cls.engine.url, 1)
        cls.addClassCleanup(workers.close)
        app = create_app(engine=through, workers=workers, port=PORT, web=None)
        cls.client = cls.enterClassContext(
            TestClient(app, base_url=f"http://127.0.0.1:{PORT}", raise_server_exceptions=False)
        )
        cls.tables = sorted({table.name for table in Base.metadata.sorted_tables} - DERIVED)

    def setUp(self):
        super().setUp()
        self.dice = random.Random(self.id())

    def amounts(self):
        with transaction(self.engine) as session:
            kept = (session.scalar(text(f"select count(*) from {table}")) for table in self.tables)
            # Parts of a job that is gone wait behind nobody, and are taken out with the next job that ends.
            parts = session.scalar(
                text(f"select count(*) from {SCHEMA}.procrastinate_jobs join jobs on jobs.id::text = args->>'job_id'")
            )
            return (*kept, parts)

    def assert_whole_or_nothing(self, request_of, *, is_keyed):
        """Cut at every message, or each fourth, before or after it arrives.

        :param request_of: makes what is sent, new each time; sent twice it is the same request.
        :param is_keyed: sent again it is known and kept once.
        """
        request_of()()
        send, before = request_of(), self.amounts()
        self.assertLess(send().status_code, 300)
        whole = tuple(after - then for after, then in zip(self.amounts(), before, strict=True))
        self.assertTrue(any(whole))
        cuts, number, stride = 0, 0, amount(4, 1)
        for _ in range(amount(1, 3)):
            for number in range(self.dice.randint(1, stride), 60, stride):
                arrives = self.dice.random() < 0.5
                send, before = request_of(), self.amounts()
                done = tuple(then + more for then, more in zip(before, whole, strict=True))
                with self.subTest(number=number, arrives=arrives):
                    with self.proxy.cutting(number, arrives=arrives):
                        answer = send()
                    if not self.proxy.was_cut:
                        self.assertEqual(self.amounts(), done)
                        break
                    cuts += 1
                    found = self.amounts()
                    self.assertIn(found, (before, done))
                    if answer.status_code < 300:
                        self.assertEqual(found, done)
                    else:
                        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "DATABASE_AWAY"))
                    again = send()
                    self.assertLess(again.status_code, 300, again.text)
                    if is_keyed:
                        self.assertEqual(self.amounts(), done)
                    else:
                        # Once more at most, and what has an identity of its own, as a reading has, once.
                        twice = tuple(then + more for then, more in zip(done, whole, strict=True))
                        found = self.amounts()
                        self.assertTrue(all(a <= b <= c for a, b, c in zip(done, found, twice, strict=True)), found)
        self.assertGreater(cuts, 0)
        self.assertFalse(self.proxy.was_cut)

    def test_a_save(self):
        address = f"/api/designs/{self.design}"

        def request_of():
            revision = self.client.get(address).json()["revision"]
            query = {"expected_revision": revision, "key": str(uuid.uuid4())}
            content = json.dumps({**self.home, "name": f"Home {self.dice.random()}"})
            return lambda: self.client.put(address, params=query, content=content, headers=JSON)

        self.assert_whole_or_nothing(request_of, is_keyed=True)

    def test_an_entry_and_its_readings(self):
        def request_of():
            entry = self.entry(body={"kind": "reading", "values": {"bank_v": 52.6, "charge": 71.0}})
            return lambda: self.send(entry)

        self.assert_whole_or_nothing(request_of, is_keyed=True)

    def test_a_decision(self):
        def request_of():
            entry = self.entry(body={"kind": "decision", "key": "leave_off", "said": "Leave the lamps off", "off": []})
            return lambda: self.send(entry)

        self.assert_whole_or_nothing(request_of, is_keyed=True)

    def test_a_gate(self):
        def request_of():
            # A design of its own each time: it may have so many installations only.
            made = self.client.post("/api/designs/import", json=self.home).json()["id"]
            self.place = self.client.post(f"/api/designs/{made}/installations", json={"name": "Cellar"}).json()["id"]
            entry_id = str(uuid.uuid4())
            return lambda: self.sign("dead", entry_id=entry_id)

        self.assert_whole_or_nothing(request_of, is_keyed=True)

    def test_a_log(self):
        numbers = itertools.count()

        def request_of():
            moment = datetime(2026, 1, 1) + timedelta(hours=next(numbers))
            content = f"time,volts\n{moment:%Y-%m-%d %H:%M},52.4\n".encode()
            uses = [column["use"] for column in self.preview(content)["columns"]]
            return lambda: self.take(content, uses)

        self.assert_whole_or_nothing(request_of, is_keyed=False)

    def test_a_design_and_an_alternative_of_it(self):
        def design():
            content = json.dumps({**self.home, "name": f"Home {self.dice.random()}"})
            return lambda: self.client.post("/api/designs/import", content=content, headers=JSON)

        def alternative():
            made = design()().json()["id"]
            return lambda: self.client.post(f"/api/designs/{made}/alternatives", json={"label": "Smaller"})

        self.assert_whole_or_nothing(design, is_keyed=False)
        self.assert_whole_or_nothing(alternative, is_keyed=False)

    def test_a_bundle(self):
        self.client.post(f"/api/designs/{self.design}/alternatives", json={"label": "Smaller"})
        bundle = self.client.get(f"/api/designs/{self.design}/bundle.zip").content
        self.assertGreater(len(zipfile.ZipFile(io.BytesIO(bundle)).namelist()), 1)
        self.assert_whole_or_nothing(
            lambda: lambda: self.client.post("/api/bundles", content=bundle, headers=BINARY), is_keyed=False
        )

    def test_a_weather_year(self):
        def request_of():
            lines = epw_lines()
            cells = lines[-1].split(",")
            cells[6] = f"{self.dice.uniform(-10, 10):.6f}"
            lines[-1] = ",".join(cells)
            return lambda: self.client.post(
                "/api/weather-years", params={"name": "made-up.epw"}, content=joined(lines), headers=BINARY
            )

        self.assert_whole_or_nothing(request_of, is_keyed=True)

    def test_a_search(self):
        """What is put into the queue stands there with the search it is a part of."""

        def request_of():
            with transaction(self.engine) as session:
                # No more than so many may wait.
                session.execute(text("delete from jobs"))
            made = self.client.post("/api/designs/import", json=self.home).json()["id"]
            return lambda: self.client.post(f"/api/designs/{made}/trial-jobs", params={"trial": "failures"})

        self.assert_whole_or_nothing(request_of, is_keyed=False)
