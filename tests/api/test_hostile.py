"""Hostile or unlucky input is refused in words: nothing runs without end, nothing is answered with a fault of ours."""

import base64
import io
import pickle
import random
import threading
import time
import unittest
import uuid
import zipfile
from unittest import mock

import psutil
from sqlalchemy import update

from hearthkeep.core.errors import FieldProblem, HearthKeepError, InputError
from hearthkeep.exchange import SheetError, WeatherFileError, read_sheet, read_text, read_workbook, write_xlsx
from hearthkeep.store import StaleRevisionError
from hearthkeep.store.models import RevisionRow
from hearthkeep.workers import FileTooHeavyError, FileUnreadableError, Workers, limits, tasks
from hearthkeep.workers.pool import warm_context
from tests.support.api import BINARY, JSON, ApiTest
from tests.support.weather import epw_lines, joined

PATIENCE_S = 20


def in_time(act):
    """What an act gives; fails instead of waiting for ever, since it may never end."""
    found = []

    def run():
        try:
            found.append(act())
        except Exception as error:
            found.append(error)

    worker = threading.Thread(target=run, daemon=True)
    worker.start()
    worker.join(PATIENCE_S)
    if not found:
        raise AssertionError(f"still busy after {PATIENCE_S} s")
    if isinstance(found[0], Exception):
        raise found[0]
    return found[0]


def workbook(sheet: str) -> bytes:
    """A workbook whose first sheet is written by hand."""
    made = io.BytesIO(write_xlsx([["name", "running_w"], ["fridge", 120.0]], "Loads"))
    out = io.BytesIO()
    with zipfile.ZipFile(made) as source, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for entry in source.infolist():
            content = source.read(entry)
            target.writestr(entry.filename, sheet if entry.filename.endswith("sheet1.xml") else content)
    return out.getvalue()


SPREADSHEET = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"


class SheetsThatNeverEnd(unittest.TestCase):
    def test_ids_that_stand_in_each_others_way(self):
        for wanted in (
            ("p" * 34 + "-3", "p" * 34, "p" * 34),
            ("p" * 36, "p" * 34, "p" * 36),
            ("p" * 40,) * 4,
            ("a", "a", "a-2", "a-3", "a"),
        ):
            with self.subTest(wanted[0][:4]):
                rows = [["id", "name", "running_w"], *([key, f"load {at}", 10.0] for at, key in enumerate(wanted))]
                found = in_time(lambda rows=rows: read_sheet(rows, ()))
                ids = [row.load.id for row in found.rows]
                self.assertEqual(len(set(ids)), len(wanted))
                self.assertTrue(all(len(key) <= 40 for key in ids))

    def test_a_workbook_whose_row_says_that_it_is_the_last_of_all(self):
        row = '<row r="2000000000"><c r="A2000000000" t="inlineStr"><is><t>fridge</t></is></c></row>'
        content = workbook(f'<worksheet xmlns="{SPREADSHEET}"><sheetData>{row}</sheetData></worksheet>')
        with self.assertRaisesRegex(SheetError, "beyond row"):
            in_time(lambda: read_workbook(content))

    def test_rows_far_apart_but_within_reach_are_read(self):
        rows = "".join(
            f'<row r="{at}"><c r="A{at}" t="inlineStr"><is><t>row {at}</t></is></c></row>' for at in (1, 900, 9000)
        )
        content = workbook(f'<worksheet xmlns="{SPREADSHEET}"><sheetData>{rows}</sheetData></worksheet>')
        self.assertEqual([row[0] for row in in_time(lambda: read_workbook(content))], ["row 1", "row 900", "row 9000"])

    def test_a_cell_of_hard_text_freezes_nothing(self):
        for hard in ("1" + " " * 20_000 + "x", "1," * 10_000 + "x", "1-2," * 5_000 + "x", "nameplate " + "1," * 9_000):
            with self.subTest(hard[:6]):
                found = in_time(lambda hard=hard: read_sheet([["name", "running_w", "hours"], [hard, hard, hard]], ()))
                self.assertEqual(found.rows[0].fate.value, "faulty")

    def test_a_row_without_end_is_refused(self):
        with self.assertRaisesRegex(SheetError, "60,000 characters"):
            read_text("name,running_w\n" + "x" * 200_000)


class DamagedWorkbooks(unittest.TestCase):
    def test_each_is_read_or_refused_in_words(self):
        whole = write_xlsx([["name", "running_w"], *(["fridge", 120.0] for _ in range(20))], "Loads")
        dice, refused = random.Random(11), 0
        for number in range(400):
            content = bytearray(whole)
            for _ in range(dice.randint(1, 12)):
                content[dice.randrange(len(content))] = dice.randrange(256)
            if dice.random() < 0.2:
                del content[dice.randrange(len(content)) :]
            with self.subTest(number):
                try:
                    read_workbook(bytes(content))
                except SheetError as error:
                    refused += 1
                    self.assertGreater(len(str(error)), 20)
        self.assertGreater(refused, 100)

    def test_broken_xml_inside_a_whole_archive(self):
        for sheet in (
            "<worksheet",
            "",
            "<a/>",
            f'<worksheet xmlns="{SPREADSHEET}"><sheetData><row r="x"/></sheetData>',
        ):
            with self.subTest(sheet[:12]):
                try:
                    self.assertIsInstance(read_workbook(workbook(sheet)), list)
                except SheetError as error:
                    self.assertGreater(len(str(error)), 20)


class Answers(ApiTest):
    """Every one of these was answered with a fault of ours."""

    def refused(self, answer):
        self.assertIn(answer.status_code, (404, 409, 422), answer.text[:200])
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertTrue(answer.json()["detail"])

    def test_revisions_beyond_any_database(self):
        address = f"/api/designs/{self.made()['id']}"
        for number in (2**31, 2**63, 10**30, 0, -1):
            with self.subTest(number):
                self.refused(self.client.get(f"{address}/revisions/{number}"))
                self.refused(self.client.post(f"{address}/undo", params={"expected_revision": number}))
                self.refused(
                    self.client.put(
                        address, params={"expected_revision": number}, content=self.document(), headers=JSON
                    )
                )

    def test_the_null_character(self):
        for kind in ("battery", "inverter", "module"):
            with self.subTest(kind):
                self.refused(self.client.get(f"/api/library/{kind}?words=%00"))
                self.refused(self.client.delete(f"/api/library/{kind}/%00"))
        self.refused(self.client.get("/api/weather-years/%00/year.epw"))
        self.refused(self.client.delete("/api/weather-years/a%00b"))
        self.refused(self.client.post("/api/weather-years?name=%00", content=joined(epw_lines()), headers=BINARY))
        self.refused(self.client.post("/api/designs", json={"start": "home", "name": "a\u0000b"}))

    def test_sheets_of_units(self):
        head = "library_id,name,chemistry,unit_v,unit_ah,unit_max_charge_a\n"
        bare = self.client.post(
            "/api/library/battery/import", json={"text": (head + "a,A block,lfp,12.8,100,50\n").replace("\n", "\r")}
        )
        self.assertEqual((bare.status_code, bare.json()["taken"]), (200, 1))
        self.refused(
            self.client.post("/api/library/battery/import", json={"text": head + "a," + "x" * 140_000 + ",lfp,1,1,1"})
        )
        for value in ("inf", "-inf", "nan", "1e999", "1e308"):
            with self.subTest(value):
                text = head + f"a,A block,lfp,12.8,100,{value}\n"
                answer = self.client.post("/api/library/battery/import", json={"text": text})
                self.assertEqual((answer.status_code, answer.json()["taken"]), (200, 0))
                self.assertEqual(answer.json()["problems"][0]["column"], "unit_max_charge_a")

    def test_a_field_of_a_weather_file_that_is_too_long(self):
        lines = epw_lines()
        for at in (0, 9):
            with self.subTest(line=at + 1):
                spoilt = [*lines[:at], lines[at] + "," + "9" * 140_000, *lines[at + 1 :]]
                answer = self.client.post("/api/weather-years", content=joined(spoilt), headers=BINARY)
                self.refused(answer)
                self.assertIn(f"Line {at + 1}", answer.json()["detail"])

    def test_a_damaged_workbook_over_the_interface(self):
        content = bytearray(write_xlsx([["name"], ["fridge"]], "Loads"))
        content[200:260] = b"?" * 60
        self.refused(
            self.client.post(
                "/api/loads/preview-sheet", json={"workbook_base64": base64.b64encode(bytes(content)).decode()}
            )
        )


def workbook_with(member, content, compression=zipfile.ZIP_DEFLATED, declared=None):
    """A small workbook one of whose members holds something else; `declared` is the size it says it unpacks to."""
    held = io.BytesIO()
    honest = zipfile.ZipFile(io.BytesIO(write_xlsx([["Load", "Watts"], ["Lamp", 9.0]], "Loads")))
    with honest, zipfile.ZipFile(held, "w") as out:
        for name in honest.namelist():
            out.writestr(name, content if name == member else honest.read(name), compression)
        if declared is not None:
            out.NameToInfo[member].file_size = declared
    return base64.b64encode(held.getvalue()).decode()


class TooHeavyToRead(ApiTest):
    """Foreign files are read in a process of its own, which is ended at its limits, and the server lives on."""

    def refused(self, workbook):
        answer = self.client.post("/api/loads/preview-sheet", json={"workbook_base64": workbook})
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "FILE_TOO_HEAVY"), answer.text)
        self.assertIn("only what is needed", answer.json()["fix"])
        honest = base64.b64encode(write_xlsx([["Load", "Watts"], ["Lamp", 9.0]], "Loads")).decode()
        answer = self.client.post("/api/loads/preview-sheet", json={"workbook_base64": honest})
        self.assertEqual(answer.json()["rows"][0]["load"]["running_w"], 9)

    def test_a_few_bytes_that_unpack_without_end(self):
        bomb = workbook_with("xl/worksheets/sheet1.xml", b" " * 300_000_000, zipfile.ZIP_BZIP2, declared=1_000)
        self.assertLess(len(bomb), 20_000)
        with mock.patch.object(limits, "MOST_BYTES", 100_000_000):
            in_time(lambda: self.refused(bomb))

    def test_styles_that_take_minutes(self):
        fonts = b"<fonts>" + b"<font/>" * 3_000_000 + b"</fonts>"
        styles = (
            b'<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">' + fonts + b"</styleSheet>"
        )
        with mock.patch.object(limits, "LONGEST_S", 2):
            in_time(lambda: self.refused(workbook_with("xl/styles.xml", styles)))

    def test_the_process_is_gone_afterwards(self):
        before = {child.pid for child in psutil.Process().children(recursive=True)}
        with mock.patch.object(limits, "LONGEST_S", 1), self.assertRaises(FileTooHeavyError):
            limits.run_limited(warm_context(), time.sleep, 60)
        self.assertLessEqual({child.pid for child in psutil.Process().children(recursive=True)}, before)

    def test_what_ends_otherwise_is_told_as_what_it_is(self):
        with self.assertRaisesRegex(SheetError, "not an XLSX"):
            limits.run_limited(warm_context(), read_workbook, b"nothing")
        with (
            self.assertRaisesRegex(FileUnreadableError, "ZeroDivisionError"),
            self.assertLogs("hearthkeep.workers.limits"),
        ):
            limits.run_limited(warm_context(), divmod, 1, 0)
        self.assertEqual(limits.run_limited(warm_context(), divmod, 7, 2), (3, 1))


class TheHelpers(ApiTest):
    """The processes that assess come back when they die, and go when the server goes."""

    def assess(self):
        return self.client.post("/api/assessments", content=self.document(), headers=JSON)

    def processes(self):
        pool = self.client.app.state.workers._edits.processes
        return [psutil.Process(pid) for pid in pool._processes]

    def test_one_that_dies_is_replaced_and_the_question_answered(self):
        self.assess()
        (process,) = self.processes()
        process.kill()
        psutil.wait_procs([process], 10)
        self.assertEqual(self.assess().status_code, 200)

    def test_one_that_will_not_end_is_ended(self):
        self.assess()
        (process,) = self.processes()
        process.suspend()
        with mock.patch("hearthkeep.workers.pool.LONGEST_S", 0.5):
            answer = self.assess()
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "WORK_LOST"))
        self.assertEqual(self.assess().status_code, 200)

    def test_every_refusal_passes_from_process_to_process_whole(self):
        def kinds(of):
            return [of, *(kind for below in of.__subclasses__() for kind in kinds(below))]

        special = {
            InputError: lambda: InputError((FieldProblem(field="f", value="v", accepted="a"),)),
            WeatherFileError: lambda: WeatherFileError(7, "odd"),
        }
        for kind in kinds(HearthKeepError):
            if kind is StaleRevisionError:
                # Raised by the store, which works in the server itself.
                continue
            with self.subTest(kind.__name__):
                made = special.get(kind, lambda kind=kind: kind("words"))()
                again = pickle.loads(pickle.dumps(made))
                self.assertEqual((type(again), str(again), again.__dict__), (type(made), str(made), made.__dict__))


class OneBadDocument(ApiTest):
    """It is shown in its row with the reason, can be saved out and deleted, and the rest of the list lives."""

    def stored(self, **fields):
        """A design whose stored document was changed behind the application's back."""
        made = self.made(name="The bad one")
        values = {**made["document"], **fields}
        with self.client.app.state.engine.begin() as connection:
            connection.execute(
                update(RevisionRow).where(RevisionRow.design_id == uuid.UUID(made["id"])).values(document=values)
            )
        return made["id"], values

    def row(self, design_id):
        return next(entry for entry in self.listed() if entry["id"] == design_id)

    def test_of_a_newer_version(self):
        good = self.made(name="The good one")["id"]
        bad, values = self.stored(schema_version=99, something="new")
        row = self.row(bad)
        self.assertIsNone(row["figures"])
        self.assertIn("schema_version", row["trouble"])
        self.assertGreater(self.row(good)["figures"]["hours_carried_h"], 0)
        self.assertEqual(self.client.get(f"/api/designs/{bad}/design.json").json(), values)
        self.assertEqual(self.client.get(f"/api/designs/{bad}").status_code, 422)
        self.assertEqual(self.client.delete(f"/api/designs/{bad}").status_code, 204)
        self.assertNotIn(bad, [entry["id"] for entry in self.client.get("/api/designs").json()["designs"]])
        self.assertIn(bad, [entry["id"] for entry in self.client.get("/api/designs?deleted=true").json()["designs"]])
        self.assertEqual(self.client.post(f"/api/designs/{bad}/restore").json()["revision"], 1)
        copy = self.client.post(f"/api/designs/{bad}/duplicate", json={"name": "A copy"}).json()["id"]
        for design_id in (bad, copy):
            self.assertIn("schema_version", self.row(design_id)["trouble"])

    def test_that_cannot_be_assessed(self):
        good = self.made(name="The good one")["id"]
        bad = self.made(name="The bad one")["id"]
        real = tasks.assess

        def breaks(document, year):
            if document.name == "The bad one":
                raise ZeroDivisionError("float division by zero")
            return real(document, year)

        async def here(workers, task, *arguments):
            return task(*arguments)

        with mock.patch.object(tasks, "assess", side_effect=breaks), mock.patch.object(Workers, "run", here):
            row = self.row(bad)
            self.assertIn("cannot be assessed (ZeroDivisionError)", row["trouble"])
            self.assertIsNotNone(self.row(good)["figures"])
        self.assertEqual(self.client.get(f"/api/designs/{bad}/design.json").json()["name"], "The bad one")
        # Nothing was kept of the failure: once it can be assessed, it is.
        self.assertIsNotNone(self.row(bad)["figures"])
