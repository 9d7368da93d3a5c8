"""Sources that drip their answers, or are of no use: cut off, told, and nobody else waits for them."""

import contextlib
import itertools
import socket
import threading
import time
import unittest
from datetime import UTC, datetime
from unittest import mock

from hearthkeep.core.design import read_design
from hearthkeep.devices import CapService, DeviceError, MailGateway, OutageFeed, Sources, services
from hearthkeep.polling import Poller, place
from hearthkeep.store import Designs, Logbook, WatchSources
from tests.support.designs import ROOT
from tests.support.shared import fresh_engine
from tests.support.standing_in import Standing

HEAD = b"HTTP/1.1 200 OK\r\nContent-Type: text/plain\r\n\r\n"


class Dripping:
    """A server that sends what it has a byte at a time, for as long as anybody listens."""

    def __init__(self, text=b"", every_s=0.1):
        self.text, self.every_s, self.asked = text, every_s, 0

    def __enter__(self):
        self._server = socket.create_server(("127.0.0.1", 0))
        self.port = self._server.getsockname()[1]
        self._end = threading.Event()
        threading.Thread(target=self._serve, daemon=True).start()
        return self

    def __exit__(self, *_):
        self._end.set()
        self._server.close()

    def _serve(self):
        with contextlib.suppress(OSError):
            while True:
                line, _ = self._server.accept()
                self.asked += 1
                threading.Thread(target=self._drip, args=(line,), daemon=True).start()

    def _drip(self, line):
        with line, contextlib.suppress(OSError):
            line.sendall(self.text)
            while not self._end.wait(self.every_s):
                line.sendall(b"x")


class TotalLimits(unittest.TestCase):
    def setUp(self):
        for name, value in (("WHOLE_ANSWER_S", 0.8), ("WHOLE_LIST_S", 1.5), ("WHOLE_MESSAGE_S", 0.8)):
            self.enterContext(mock.patch.object(services, name, value))

    def in_time(self, ask, most_s=4.0):
        began = time.monotonic()
        with self.assertRaises(DeviceError) as caught:
            ask()
        self.assertLess(time.monotonic() - began, most_s)
        return str(caught.exception)

    def test_an_answer_that_drips(self):
        # In its head, in its body, and in a line that greets.
        for text in (b"", b"HTTP/1.1 200 OK\r\nX-", HEAD, HEAD + b"["):
            with self.subTest(text), Dripping(text) as drip:
                address = f"http://127.0.0.1:{drip.port}/x"
                self.in_time(OutageFeed(address).outages)
                self.in_time(CapService(address, None).alerts)

    def test_a_greeting_that_drips(self):
        with Dripping(b"220 ") as drip:
            said = self.in_time(lambda: MailGateway("127.0.0.1", drip.port, "a@b.c").send(["d@e.f", "g@h.i"], "s", "t"))
        self.assertIn("d@e.f", said)
        self.assertEqual(drip.asked, 1)

    def test_what_is_cut_off_is_never_taken_for_whole(self):
        # What stands there by then could be read.
        with Dripping(HEAD + b'{"format": "outages", "version": 1, "outages": []}', every_s=60.0) as drip:
            self.assertIn("more than", self.in_time(OutageFeed(f"http://127.0.0.1:{drip.port}/x").outages))

    def test_a_list_of_which_each_part_is_slow(self):
        with Dripping(HEAD) as drip:
            links = tuple(f"http://127.0.0.1:{drip.port}/{number}" for number in range(30))
            with (
                mock.patch.object(services, "read_alert_links", return_value=links),
                mock.patch.object(services, "fetched", side_effect=lambda *_: time.sleep(0.4) or b"no"),
            ):
                began = time.monotonic()
                warned = CapService(f"http://127.0.0.1:{drip.port}/list", None).alerts()
        self.assertLess(time.monotonic() - began, 4.0)
        self.assertRegex(warned.wrong[-1], r"^2\d warnings are left out: the service took more than")


class Beside(unittest.TestCase):
    """One installation whose device and services drip, and one whose devices answer."""

    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=20.0))
        design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        cls.design = Designs(cls.engine).create(design)
        logs = Logbook(cls.engine)
        cls.slow, cls.quick = (logs.begin(cls.design.id, name).id for name in ("Slow", "Quick"))

    def put(self, installation_id, **document):
        WatchSources(self.engine).put(installation_id, Sources.model_validate(document).model_dump(mode="json"))

    def device(self, port, unit=1):
        return {"key": "monitor", "name": "Bank", "kind": "monitor", "host": "127.0.0.1", "port": port, "unit": unit}

    def test_the_other_is_asked_round_after_round(self):
        drip = self.enterContext(Dripping(b"\x00\x01\x00\x00\x00\xf0\x01\x03\xf0"))
        web = self.enterContext(Dripping(HEAD))
        address = f"http://127.0.0.1:{web.port}/x"
        battery = next(each for each in self.standing.state["devices"] if each["kind"] == "monitor")
        self.put(self.slow, devices=[self.device(drip.port)], warnings=address, outages=address, every_s=5)
        self.put(self.quick, devices=[self.device(self.standing.state["modbus_port"], battery["unit"])], every_s=5)
        self.enterContext(mock.patch.object(place, "ADDRESS_S", 4.0))
        poller = Poller(self.engine, clock=lambda: datetime.now(UTC))
        self.addCleanup(poller.stop)
        poller.start()
        answered, give_up = set(), time.monotonic() + 30.0
        while len(answered) < 3 and time.monotonic() < give_up:
            found = poller.gathered(self.quick)
            answered |= {each.answered_at for each in (found.devices if found else ()) if each.answered_at}
            time.sleep(0.1)
        moments = sorted(answered)
        self.assertEqual(len(moments), 3)
        self.assertLess(max((b - a).total_seconds() for a, b in itertools.pairwise(moments)), 7.5)
        slow = poller.gathered(self.slow)
        self.assertNotEqual(slow.devices[0].trouble, "")
        began = time.monotonic()
        poller.stop()
        self.assertLess(time.monotonic() - began, 25.0)

    def test_a_service_that_meets_a_fault_of_ours_is_told_and_the_devices_go_on(self):
        battery = next(each for each in self.standing.state["devices"] if each["kind"] == "monitor")
        devices = [self.device(self.standing.state["modbus_port"], battery["unit"])]
        self.put(self.quick, devices=devices, warnings="http://127.0.0.1:9/x", outages="http://127.0.0.1:9/x")
        self.put(self.slow)
        poller = Poller(self.engine)
        self.addCleanup(poller.stop)
        with (
            mock.patch.object(CapService, "alerts", side_effect=RecursionError("deep")),
            self.assertLogs("hearthkeep.polling.place", "ERROR"),
        ):
            poller.look()
        found = poller.gathered(self.quick)
        self.assertEqual([each.trouble for each in found.devices], [""])
        self.assertIn("RecursionError", found.warnings.trouble)
        self.assertIn("Nobody answers", found.utility.trouble)
