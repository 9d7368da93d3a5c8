"""A full disk is said as a full disk; files come to a file and leave nothing behind; damaged ones are refused in words."""

import contextlib
import errno
import io
import json
import multiprocessing.util
import random
import tempfile
import threading
import time
import zipfile
from pathlib import Path
from unittest import mock

from sqlalchemy import text

from hearthkeep.api import bodies
from hearthkeep.exchange import CapError, cap, read_alert
from hearthkeep.standins.alerts import WarningService
from hearthkeep.workers import limits
from tests.polling.test_poller import START
from tests.runner.profile import amount
from tests.support.api import BINARY, JSON, ApiTest


def left_behind():
    return {place.name for place in Path(tempfile.gettempdir()).iterdir() if place.name.startswith("hearth ")}


class FullDisk(ApiTest):
    def test_of_the_database(self):
        made = self.made()
        with self.engine.begin() as connection:
            connection.execute(
                text(
                    "create function no_room() returns trigger language plpgsql as"
                    " $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$"
                )
            )
            connection.execute(text("create trigger full_disk before insert on revisions execute function no_room()"))
        sent = self.document(name="Later")
        for ask in (
            lambda: self.client.post("/api/designs/import", content=sent, headers=JSON),
            lambda: self.client.put(f"/api/designs/{made['id']}?expected_revision=1", content=sent, headers=JSON),
        ):
            answer = ask()
            self.assertEqual((answer.status_code, answer.json()["code"]), (507, "DISK_FULL"))
            self.assertIn("no room", answer.json()["detail"])
        with self.engine.begin() as connection:
            connection.execute(text("drop trigger full_disk on revisions"))
        self.assertEqual([row["name"] for row in self.listed()], [made["document"]["name"]])
        self.assertEqual(self.client.post("/api/designs/import", content=sent, headers=JSON).status_code, 201)

    def test_of_the_files(self):
        full = OSError(errno.ENOSPC, "No space left on device")
        with mock.patch.object(bodies.tempfile, "NamedTemporaryFile", side_effect=full):
            answer = self.client.post("/api/weather-years", content=b"x", headers=BINARY)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "DISK_FULL"))


class Uploads(ApiTest):
    def setUp(self):
        # Processes are begun through a socket in a folder that is chosen once for all: it must outlive this test.
        multiprocessing.util.get_temp_dir()
        # Tests beside this one lay down files of their own.
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(mock.patch.object(tempfile, "tempdir", folder))

    def test_they_are_read_a_few_at_a_time_and_leave_nothing(self):
        before, most, now, lock = left_behind(), [], [], threading.Lock()
        real = limits.run_limited

        def slowly(*args):
            with lock:
                now.append(1)
                most.append(len(now))
            time.sleep(0.3)
            try:
                return real(*args)
            finally:
                now.pop()

        codes = []

        def send():
            codes.append(
                self.client.post("/api/weather-years", content=b"no weather" * 100, headers=BINARY).status_code
            )

        with mock.patch.object(limits, "run_limited", slowly):
            threads = [threading.Thread(target=send) for _ in range(14)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(max(most), bodies.UPLOADS_AT_ONCE)
        self.assertEqual(set(codes), {422, 503})
        self.assertEqual(codes.count(422), bodies.UPLOADS_AT_ONCE + bodies.MOST_UPLOADS_WAITING)
        self.assertEqual(left_behind(), before)

    def test_a_cancelled_paper_leaves_nothing(self):
        before = left_behind()
        run = self.client.post(f"/api/designs/{self.made()['id']}/papers?audience=owner").json()
        give_up = time.monotonic() + 60.0
        while left_behind() == before:
            self.assertLess(time.monotonic(), give_up)
            time.sleep(0.02)
        self.client.delete(f"/api/papers/{run['id']}")
        while left_behind() != before:
            self.assertLess(time.monotonic(), give_up)
            time.sleep(0.05)


class Damaged(ApiTest):
    """A byte changed, cut off or put in somewhere: opened, or refused in words."""

    def spoilt(self, content, count, seed):
        draw = random.Random(seed)
        for _ in range(count):
            some = bytearray(content)
            at = draw.randrange(len(some))
            kind = draw.randrange(3)
            if kind == 0:
                some[at] = draw.randrange(256)
            elif kind == 1:
                del some[at : at + draw.randrange(1, 40)]
            else:
                some[at:at] = bytes(draw.randrange(256) for _ in range(draw.randrange(1, 9)))
            yield bytes(some)

    def repacked(self, content, count, seed):
        """A bundle whose files are damaged and whose archive is whole."""
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        draw = random.Random(seed)
        for number in range(count):
            name = draw.choice(sorted(files))
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as archive:
                for each, held in files.items():
                    archive.writestr(each, next(self.spoilt(held, 1, seed + number)) if each == name and held else held)
            yield out.getvalue()

    def assert_answered(self, answer):
        self.assertIn(answer.status_code, (200, 201, 413, 422), answer.text[:300])
        if answer.status_code == 422:
            self.assertNotEqual(answer.json()["detail"], "")

    def test_bundles(self):
        design_id = self.made()["id"]
        whole = self.client.get(f"/api/designs/{design_id}/bundle.zip").content
        self.assertEqual(self.client.post("/api/bundles", content=whole, headers=BINARY).status_code, 201)
        for number, some in enumerate(
            [*self.spoilt(whole, amount(10, 700), 7), *self.repacked(whole, amount(10, 700), 8)]
        ):
            with self.subTest(number):
                self.assert_answered(self.client.post("/api/bundles", content=some, headers=BINARY))

    def test_what_no_reader_foresaw_is_a_refusal(self):
        with (
            mock.patch.object(
                limits, "run_limited", side_effect=limits.FileUnreadableError("It is damaged (KeyError).")
            ),
        ):
            answer = self.client.post("/api/bundles", content=b"x", headers=BINARY)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "FILE_UNREADABLE"))

    def test_a_log_of_thirty_thousand_columns_alike(self):
        place = self.client.post(f"/api/designs/{self.made()['id']}/installations", json={"name": "Cellar"}).json()[
            "id"
        ]
        for content in (b"a," * 29_000 + b"a\n1\n", (b"a;" * 14_000 + b"a\n") * 2):
            began = time.monotonic()
            answer = self.client.post(f"/api/log-preview?installation_id={place}", content=content, headers=BINARY)
            self.assertEqual(answer.status_code, 422)
            self.assertIn("at most 60 columns", answer.json()["detail"])
            self.assertLess(time.monotonic() - began, 5.0)

    def test_warnings_of_many_nested_elements_and_of_damaged_bytes(self):
        service = WarningService(START.replace(tzinfo=None), 72.0, 0.0)
        signed = service.message(service.sent_by(START)[0])
        deep = signed.replace(b"</info>", b"<parameter>" * 3_000 + b"</parameter>" * 3_000 + b"</info>", 1)
        self.assertNotEqual(deep, signed)
        for number, content in enumerate([deep, *self.spoilt(signed, amount(150, 1_500), 3)]):
            with self.subTest(number), contextlib.suppress(CapError):
                read_alert(content, service.certificate)

    def test_a_library_that_stumbles_over_a_signature_is_a_refusal(self):
        service = WarningService(START.replace(tzinfo=None), 72.0, 0.0)
        with (
            mock.patch.object(cap.XMLVerifier, "verify", side_effect=RecursionError("deep")),
            self.assertRaisesRegex(CapError, "RecursionError"),
        ):
            read_alert(service.message(service.sent_by(START)[0]), service.certificate)

    def test_panel_sheets(self):
        document = json.loads(self.document())
        text_of = "Slot,Circuit,Breaker A,Poles,Wire\n1,Kitchen,20,1,12 AWG\n3,Hall,15,1,14 AWG\n"
        for number, some in enumerate(self.spoilt(text_of.encode(), amount(15, 700), 5)):
            with self.subTest(number):
                body = {"text": some.decode("utf-8", "replace"), "design": document}
                self.assert_answered(self.client.post("/api/transfer/preview-schedule", json=body))
