"""The web interface in this process, on a database of its own."""

from __future__ import annotations

import json
import time
import unittest

from fastapi.testclient import TestClient

from hearthkeep.api import create_app
from hearthkeep.workers import Workers
from tests.support.designs import BIRCHROW
from tests.support.shared import fresh_engine

PORT = 8700
JSON = {"content-type": "application/json"}
BINARY = {"content-type": "application/octet-stream"}


class ApiTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        engine = fresh_engine()
        cls.addClassCleanup(engine.dispose)
        cls.engine = engine
        workers = Workers(engine.url, 1)
        cls.addClassCleanup(workers.close)
        app = create_app(engine=engine, workers=workers, port=PORT, web=None)
        # One event loop for all requests, as in the server.
        cls.client = cls.enterClassContext(TestClient(app, base_url=f"http://127.0.0.1:{PORT}"))

    def listed(self, **query):
        """The list of designs, once every line is worked out."""
        give_up = time.monotonic() + 60
        while True:
            designs = self.client.get("/api/designs", params=query).json()["designs"]
            if not any(row["is_pending"] for row in designs):
                return designs
            self.assertLess(time.monotonic(), give_up)

    def document(self, **fields):
        return json.dumps({**json.loads(BIRCHROW.read_text()), **fields})

    def made(self, **fields):
        answer = self.client.post("/api/designs/import", content=self.document(**fields), headers=JSON)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()
