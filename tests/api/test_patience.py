"""Requests that begin and never end are given up, over real sockets; patient ones are served."""

import contextlib
import socket
import threading
import time
from unittest import mock

import uvicorn

from hearthkeep.api import guard
from hearthkeep.server import patience
from tests.support.api import PORT, ApiTest

SHORT_S = 0.6


class HalfSent(ApiTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        for place, name in ((patience, "HEAD_WITHIN_S"), (guard, "BODY_WITHIN_S")):
            patched = mock.patch.object(place, name, SHORT_S)
            patched.start()
            cls.addClassCleanup(patched.stop)
        listener = socket.socket()
        listener.bind(("127.0.0.1", 0))
        listener.listen()
        cls.port = listener.getsockname()[1]
        config = uvicorn.Config(cls.client.app, http=patience.PatientProtocol, log_level="critical", lifespan="off")
        server = uvicorn.Server(config)
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()

        def stop():
            server.should_exit = True
            thread.join(10)
            listener.close()

        cls.addClassCleanup(stop)

    @contextlib.contextmanager
    def line(self):
        with socket.create_connection(("127.0.0.1", self.port), 10) as line:
            yield line

    def head(self, method="GET", path="/api/design-schema.json", more=""):
        return f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\n{more}\r\n".encode()

    def all_of(self, line):
        """Everything until the other side closes."""
        parts = []
        while part := line.recv(65_536):
            parts.append(part)
        return b"".join(parts)

    def test_a_head_that_does_not_end(self):
        for half in (b"", b"GET /api/he", self.head()[:-2]):
            with self.subTest(half), self.line() as line:
                line.sendall(half)
                begun = time.monotonic()
                self.assertEqual(self.all_of(line), b"")
                self.assertLess(time.monotonic() - begun, SHORT_S + 3)

    def test_a_head_that_drips(self):
        with self.line() as line, contextlib.suppress(BrokenPipeError, ConnectionResetError):
            line.sendall(b"GET /api/health HTTP/1.1\r\n")
            begun = time.monotonic()
            while time.monotonic() - begun < 10:
                line.sendall(b"x: y\r\n")
                time.sleep(0.1)
            self.fail("a dripping head is listened to for ever")

    def test_a_second_request_on_the_same_connection(self):
        with self.line() as line:
            line.sendall(self.head())
            self.assertIn(b" 200 ", line.recv(65_536)[:20])
            time.sleep(0.1)
            line.sendall(b"GET /api")
            begun = time.monotonic()
            self.all_of(line)
            self.assertLess(time.monotonic() - begun, SHORT_S + 3)

    def test_a_body_that_does_not_arrive(self):
        more = "Content-Type: application/json\r\nContent-Length: 500\r\nConnection: close\r\n"
        with self.line() as line:
            line.sendall(self.head("POST", "/api/assessments", more) + b'{"half')
            answer = self.all_of(line)
        self.assertIn(b" 408 ", answer[:20])
        self.assertIn(b"did not arrive whole", answer)

    def test_what_is_no_request(self):
        with self.line() as line:
            line.sendall(b"\x16\x03\x01 nonsense\r\n\r\n")
            answer = self.all_of(line)
        self.assertIn(b" 400 ", answer[:20])
        self.assertIn(b"x-content-type-options: nosniff", answer.lower())

    def test_a_slow_but_honest_one_is_served(self):
        with self.line() as line:
            whole = self.head(more="Connection: close\r\n")
            for start in range(0, len(whole), 40):
                line.sendall(whole[start : start + 40])
                time.sleep(0.05)
            self.assertIn(b" 200 ", self.all_of(line)[:20])

    def test_no_more_are_open_than_may_and_an_honest_one_finds_room(self):
        with contextlib.ExitStack() as held, mock.patch.object(patience, "MOST_OPEN", 30):
            lines = [held.enter_context(self.line()) for _ in range(90)]
            for line in lines:
                with contextlib.suppress(OSError):
                    line.sendall(b"GET /api/he")
            begun = time.monotonic()
            with self.line() as honest:
                honest.sendall(self.head())
                self.assertIn(b" 200 ", honest.recv(65_536)[:20])
            self.assertLess(time.monotonic() - begun, SHORT_S)
            self.assertLessEqual(len(patience.PatientProtocol._open), 30)

    def test_bodies_that_do_not_arrive_are_bounded_in_number(self):
        half = self.head("POST", "/api/assessments", "Content-Type: application/json\r\nContent-Length: 50\r\n") + b"{"
        with contextlib.ExitStack() as held, mock.patch.object(guard, "MOST_ARRIVING", 5):
            lines = [held.enter_context(self.line()) for _ in range(8)]
            for line in lines:
                line.sendall(half)
            answers = sorted(self.all_of(line)[9:12] for line in lines)
        self.assertEqual(answers, [b"408"] * 5 + [b"503"] * 3)
