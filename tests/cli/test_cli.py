"""The command line: assessments from files, exit codes, one clear line for what stands in the way."""

import json
import os
import socket
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from hearthkeep.papers import page_texts
from tests.support.designs import BIRCHROW, CART, ROOT
from tests.support.weather import epw_lines, joined


def hearth(*arguments, home=None):
    environment = {**os.environ, "PYTHONPATH": str(ROOT)}
    if home is not None:
        environment |= {"HEARTH_HOME": str(home), "HEARTH_STAND_INS": "off"}
    return subprocess.run(
        [sys.executable, "-m", "hearthkeep.cli", *map(str, arguments)],
        cwd=tempfile.gettempdir(), env=environment, capture_output=True, text=True, timeout=120, check=False,
    )  # fmt: skip


class Assess(unittest.TestCase):
    def test_the_examples_close_their_books(self):
        for file in (BIRCHROW, CART):
            with self.subTest(file.name):
                done = hearth("assess", file)
                self.assertEqual((done.returncode, done.stderr), (0, ""))
                found = json.loads(done.stdout)
                ledger = found["outage"]["ledger_wh"]
                put_in = ledger["sun"] + ledger["generator"] + ledger["grid"] + ledger["other"] + ledger["bank_drawn"]
                went = sum(ledger[key] for key in ("served", "inverter_loss", "charge_loss", "wiring_loss", "spilled"))
                self.assertLess(abs(put_in - went) / put_in, 1e-4)

    def test_what_scripts_read_is_there(self):
        found = json.loads(hearth("assess", BIRCHROW).stdout)
        outage = found["outage"]
        self.assertTrue(0 < outage["hours_carried_h"] < 72)
        self.assertEqual(set(outage["per_tier"]), {"life", "keep", "ease", "spare"})
        self.assertEqual(outage["per_tier"]["keep"].keys(), {"served_wh", "unserved_wh", "unserved_h"})
        self.assertTrue(0 <= outage["min_soc_frac"] <= 1)
        self.assertTrue(all(found["loads"][key] > 0 for key in ("daily_wh", "peak_w", "start_surge_w")))
        for finding in found["findings"]:
            self.assertTrue(finding.keys() >= {"code", "severity", "step", "message", "basis"})

    def test_bad_files_exit_2_with_every_error_by_field(self):
        document = json.loads(BIRCHROW.read_text())
        document["loads"][2]["duty_frac"] = 4
        document["bank"]["series"] = 0
        with tempfile.TemporaryDirectory(prefix="with space ") as folder:
            path = Path(folder) / "bad file.json"
            path.write_text(json.dumps(document))
            done = hearth("assess", path)
        self.assertEqual((done.returncode, done.stdout), (2, ""))
        self.assertIn("loads.2.duty_frac: must be 0 to 1 (got 4)", done.stderr)
        self.assertIn("bank.series: must be a whole number of 1 to 64 (got 0)", done.stderr)
        self.assertNotIn("Traceback", done.stderr)

    def test_missing_huge_and_binary_files(self):
        with tempfile.TemporaryDirectory() as folder:
            huge, binary = Path(folder) / "huge", Path(folder) / "binary"
            with huge.open("wb") as file:
                file.truncate(3_000_000_000)
            binary.write_bytes(bytes(range(256)) * 10)
            for path, words in (
                (Path(folder) / "none.json", "No such file"),
                (Path(folder), "directory"),
                (huge, "at most"),
                (binary, "JSON"),
            ):
                with self.subTest(path.name):
                    done = hearth("assess", path)
                    self.assertEqual(done.returncode, 2)
                    self.assertIn(words, done.stderr)
                    self.assertEqual(len(done.stderr.strip().splitlines()), 1)


class UnderAYear(unittest.TestCase):
    def test_papers_are_printed_without_a_database(self):
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "papers.pdf"
            done = hearth("papers", BIRCHROW, "--for", "family", "--for", "shop", "--out", out)
            self.assertEqual(done.returncode, 0, done.stderr)
            texts = page_texts(out.read_bytes())
            self.assertIn(f"{len(texts)} pages", done.stdout)
            self.assertIn("open Stops", done.stdout)
            self.assertIn("When the power goes out", texts[0])
            # The family's is one sheet of paper, both its sides where one does not hold it.
            self.assertTrue(any("Parts list" in text for text in texts[1:3]))
            for bad, word in (
                ((Path(folder) / "none.json", "--for", "family", "--out", out), "No such file"),
                ((BIRCHROW, "--for", "cat", "--out", out), "cat"),
                ((BIRCHROW, "--for", "family"), "--out"),
            ):
                done = hearth("papers", *bad)
                self.assertEqual(done.returncode, 2, bad)
                self.assertIn(word, done.stderr)

    def test_a_weather_file_is_the_sky_and_a_spoilt_one_exits_2_with_its_line(self):
        with tempfile.TemporaryDirectory() as folder:
            design, good, spoilt = (Path(folder) / name for name in ("design.json", "good.epw", "spoilt.epw"))
            document = json.loads(BIRCHROW.read_text())
            document["outage"]["sky_from"] = "year"
            design.write_text(json.dumps(document))
            good.write_bytes(joined(epw_lines()))
            spoilt.write_bytes(joined(epw_lines()[:99]))
            done = hearth("assess", design, "--weather", good)
            self.assertEqual(done.returncode, 0, done.stderr)
            found = json.loads(done.stdout)
            self.assertNotIn("WEATHER_MADE_UP", [finding["code"] for finding in found["findings"]])
            self.assertLess(abs(found["outage"]["ledger_wh"]["difference"]), 1e-6)
            done = hearth("assess", design, "--weather", spoilt)
            self.assertEqual((done.returncode, done.stdout), (2, ""))
            self.assertIn("Line 99: the file ends after 91 of 8,760 hours.", done.stderr)
            self.assertEqual(hearth("assess", design, "--weather", Path(folder) / "none").returncode, 2)


class Blocked(unittest.TestCase):
    def test_a_busy_port_is_one_line_and_nothing_is_started(self):
        with socket.socket() as taken, tempfile.TemporaryDirectory() as home:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            done = hearth("start", "--port", taken.getsockname()[1], home=home)
            self.assertEqual(done.returncode, 3)
            self.assertRegex(done.stderr, r"^hearth: Port \d+ is taken by another program .*--port")
            self.assertEqual(len(done.stderr.splitlines()), 1)
            self.assertFalse((Path(home) / "postgres").exists())

    def test_a_port_out_of_range(self):
        done = hearth("start", "--port", "80")
        self.assertEqual(done.returncode, 2)
        self.assertIn("1024 to 65535 (got 80)", done.stderr)

    def test_stopping_what_does_not_run(self):
        with tempfile.TemporaryDirectory() as home:
            done = hearth("stop", home=home)
        self.assertEqual((done.returncode, done.stdout), (0, "Hearth Keep was not running.\n"))
