"""Devices and services that misbehave on the line: half frames, garbage, silence, far hosts, lists that lead elsewhere."""

import contextlib
import http.server
import json
import os
import socket
import threading
import time
import unittest
from unittest import mock

from hearthkeep.core.errors import InputError
from hearthkeep.devices import (
    CapService,
    DeviceError,
    MailGateway,
    ModbusRegisters,
    OutageFeed,
    SilentError,
    Sources,
    connection,
    heard,
    refuse_far_hosts,
)
from hearthkeep.standins.told import LineState
from tests.support.standing_in import Standing


@contextlib.contextmanager
def answering(content, *, status=200, location=None):
    """A service that answers everything the same; gives its address and the paths that were asked for."""
    asked = []

    class Handler(http.server.BaseHTTPRequestHandler):
        def do_GET(self):
            asked.append(self.path)
            self.send_response(status)
            if location is not None:
                self.send_header("Location", location)
            self.end_headers()
            with contextlib.suppress(OSError):
                self.wfile.write(content(self.path) if callable(content) else content)

        def log_message(self, *_):
            pass

    with http.server.ThreadingHTTPServer(("127.0.0.1", 0), Handler) as server:
        thread = threading.Thread(target=server.serve_forever, daemon=True)
        thread.start()
        try:
            yield f"http://127.0.0.1:{server.server_port}/", asked
        finally:
            server.shutdown()
            thread.join()


@contextlib.contextmanager
def speaking(answers):
    """Whoever connects and asks is answered one after the other with these bytes; gives the port."""
    with socket.create_server(("127.0.0.1", 0)) as listener:
        listener.settimeout(0.2)
        done = threading.Event()

        def work():
            while not done.is_set():
                with contextlib.suppress(OSError):
                    peer, _ = listener.accept()
                    with peer:
                        peer.settimeout(0.5)
                        for answer in answers:
                            peer.recv(300)
                            peer.sendall(answer)

        thread = threading.Thread(target=work, daemon=True)
        thread.start()
        try:
            yield listener.getsockname()[1]
        finally:
            done.set()
            thread.join()


def asked(port, unit=1):
    client = connection("127.0.0.1", port)
    try:
        return heard(ModbusRegisters(client, unit))
    finally:
        client.close()


class Lines(unittest.TestCase):
    def test_half_frames_and_garbage_are_silence_and_the_line_recovers(self):
        with Standing("birchrow-16") as standing:
            port = standing.state["modbus_port"]
            client = connection("127.0.0.1", port)
            self.addCleanup(client.close)
            registers = ModbusRegisters(client, 1)
            for line in (LineState.HALF, LineState.GARBAGE):
                standing.stand_ins.server.line = line
                began = time.monotonic()
                with self.assertRaises(SilentError):
                    heard(registers)
                self.assertLess(time.monotonic() - began, 5.0)
                standing.stand_ins.server.line = LineState.WELL
                self.assertTrue(heard(registers).values, line)

    def test_a_silent_unit_leaves_the_others_their_voice(self):
        with Standing("birchrow-16") as standing:
            standing.switch("monitor", "dropped", True)
            with self.assertRaises(SilentError):
                asked(standing.state["modbus_port"], 1)
            self.assertTrue(asked(standing.state["modbus_port"], 2).values)
            with self.assertRaises(DeviceError):
                asked(standing.state["modbus_port"], 77)

    def test_bytes_that_are_no_modbus_end_in_a_plain_word(self):
        for answers in ([b"\x00"], [b"HTTP/1.1 400 Bad Request\r\n\r\n"], [os.urandom(400)], [b""]):
            with speaking(answers) as port, self.assertRaises(DeviceError):
                asked(port)

    def test_a_frame_with_fewer_registers_than_asked_for_is_no_answer(self):
        # Transaction 1, two registers asked, one given.
        with speaking([bytes([0, 1, 0, 0, 0, 5, 1, 3, 2, 0, 7])]) as port, self.assertRaises(DeviceError):
            asked(port)

    def test_frames_that_begin_well_and_go_on_badly(self):
        head = [0, 1, 0, 0, 0]
        for rest in (
            [3, 1, 3, 0], [2, 1, 0x83], [4, 1, 3, 1, 7], [255, 1, 3, 255], [3, 1, 0x2B, 0x0E], [1, 1], [0], [6, 1, 3, 3, 1, 2, 3],
            [3, 1, 0x83, 0xFF], [5, 2, 3, 2, 0, 7], [7, 1, 4, 4, 0x53, 0x75, 0x6E, 0x53],
        ):  # fmt: skip
            with self.subTest(rest=rest), speaking([bytes(head + rest)]) as port, self.assertRaises(DeviceError):
                asked(port)

    def test_nobody_listens(self):
        with socket.create_server(("127.0.0.1", 0)) as free:
            port = free.getsockname()[1]
        with self.assertRaisesRegex(SilentError, "Nobody listens"):
            asked(port)


class Warnings(unittest.TestCase):
    def feed(self, *links):
        entries = "".join(f'<entry><link href="{link}"/></entry>' for link in links)
        return f'<feed xmlns="http://www.w3.org/2005/Atom">{entries}</feed>'.encode()

    def test_a_list_that_leads_elsewhere_is_not_followed(self):
        with (
            answering(b"") as (elsewhere, asked_there),
            answering(self.feed(f"{elsewhere}a.xml", "file:///etc/hostname")) as (address, _),
        ):
            warned = CapService(address, None).alerts()
        self.assertEqual((warned.alerts, asked_there, len(warned.wrong)), ((), [], 2))

    def test_no_redirection_is_followed(self):
        with (
            answering(b"") as (elsewhere, asked_there),
            answering(b"", status=302, location=elsewhere) as (address, _),
            self.assertRaisesRegex(DeviceError, "302"),
        ):
            CapService(address, None).alerts()
        self.assertEqual(asked_there, [])

    def test_a_message_of_a_megabyte_is_left_out_and_told(self):
        content = {}
        with answering(lambda path: content["feed"] if path == "/" else b"<alert>" + b" " * 1_000_000) as (address, _):
            content["feed"] = self.feed(f"{address}big.xml")
            warned = CapService(address, None).alerts()
        self.assertEqual(warned.alerts, ())
        self.assertIn("256 kB", warned.wrong[0])

    def test_lists_that_are_none(self):
        for content in (
            b"",
            b"\x00\xff",
            b"<html/>",
            b"[" * 100_000,
            b"<?xml version='1.0' encoding='no-such'?><feed/>",
        ):
            with answering(content) as (address, _), self.assertRaises(DeviceError):
                CapService(address, None).alerts()


GOOD = {"id": "a", "began": "2026-01-12T17:00:00-05:00"}


class Outages(unittest.TestCase):
    def told(self, *outages, **more):
        with answering(json.dumps({"format": "outages", "version": 1, "outages": outages, **more}).encode()) as (
            address,
            _,
        ):
            return OutageFeed(address).outages()

    def test_what_nobody_knows_is_none(self):
        (outage,) = self.told({**GOOD, "something": "new"})
        self.assertEqual((outage.estimated_restoration, outage.customers_out), (None, None))

    def test_what_cannot_be_read_names_the_field(self):
        for bad, field in (
            ({**GOOD, "began": "yesterday"}, "began"),
            ({**GOOD, "began": "2026-01-12T17:00:00"}, "began"),
            ({**GOOD, "customers_out": -4}, "customers_out"),
            ({"id": "a"}, "began"),
        ):
            with self.assertRaisesRegex(DeviceError, field):
                self.told(bad)
        with self.assertRaisesRegex(DeviceError, "version"):
            self.told(version=9)
        for content in (b"[" * 60_000, b"{", b"\xff\xfe", b"NaN", b"x" * 200_000):
            with answering(content) as (address, _), self.assertRaises(DeviceError):
                OutageFeed(address).outages()


class Hosts(unittest.TestCase):
    def sources(self, **more):
        return Sources.model_validate(more)

    def test_only_this_machine_unless_the_environment_names_another(self):
        device = {"key": "m", "name": "Monitor", "kind": "monitor", "port": 502, "unit": 1}
        for host in ("127.0.0.1", "localhost", "::1", "127.8.8.8"):
            refuse_far_hosts(self.sources(devices=[{**device, "host": host}]))
        far = self.sources(
            devices=[{**device, "host": "192.168.1.40"}], warnings="http://weather.example/feed", outages="http://10.0.0.9/o.json",
            mail={"host": "mail.example", "port": 25, "sender": "a@b.example", "to": ["c@d.example"]},
        )  # fmt: skip
        with self.assertRaises(InputError) as refused:
            refuse_far_hosts(far)
        self.assertEqual(
            [problem.field for problem in refused.exception.problems],
            ["devices.0.host", "warnings", "outages", "mail.host"],
        )
        named = {"HEARTH_DEVICE_HOSTS": "192.168.1.40, weather.example,10.0.0.9,mail.example"}
        with mock.patch.dict(os.environ, named):
            refuse_far_hosts(far)

    def test_addresses_that_are_none_are_refused(self):
        for address in (
            "ftp://127.0.0.1/",
            "http://",
            "http://user@127.0.0.1/",
            "http://127.0.0.1:99999/",
            "http://127.0.0.1/ x",
            "x" * 600,
        ):
            with self.assertRaises(ValueError):
                self.sources(warnings=address)

    def test_two_devices_are_never_one(self):
        first = {"key": "m", "name": "Monitor", "kind": "monitor", "host": "127.0.0.1", "port": 502, "unit": 1}
        for more in ({"key": "m"}, {"name": "Monitor"}, {"unit": 1}):
            second = {**first, "key": "n", "name": "Other", "unit": 2, **more}
            with self.assertRaisesRegex(ValueError, "twice"):
                self.sources(devices=[first, second])


class Messages(unittest.TestCase):
    def test_a_subject_of_several_lines_is_one(self):
        with Standing("birchrow-16") as standing:
            gateway = MailGateway("127.0.0.1", standing.state["smtp_port"], "house@birchrow.example")
            gateway.send(["5550100@text.example"], "Lights\r\nBcc: all@birchrow.example", "Out at nine." + "x" * 9_000)
            taken = standing.stand_ins.gateway.taken[-1]
        self.assertEqual((taken.subject, taken.to), ("Lights Bcc: all@birchrow.example", ("5550100@text.example",)))
        self.assertLessEqual(len(taken.text), 2_100)

    def test_a_gateway_that_is_not_there_is_told(self):
        with socket.create_server(("127.0.0.1", 0)) as free:
            port = free.getsockname()[1]
        with self.assertRaises(SilentError):
            MailGateway("127.0.0.1", port, "house@birchrow.example").send("c@d.example", "a", "b")
