"""The stand-ins beside the server and as a command: where they are asked, and what is refused."""

import os
import subprocess
import sys
import time
import unittest
from pathlib import Path
from unittest import mock

import httpx

from hearthkeep.server.stand_ins import STAND_INS_VARIABLE, StandInsBeside
from hearthkeep.standins.told import StandInState
from tests.cli.test_cli import hearth
from tests.support.designs import ROOT


class Beside(unittest.TestCase):
    def beside(self, said):
        with mock.patch.dict(os.environ, {STAND_INS_VARIABLE: said}):
            return StandInsBeside()

    def test_the_environment_switches_them_off_or_says_where_they_are(self):
        for said, address in (("off", None), ("http://127.0.0.1:9/", "http://127.0.0.1:9"), ("", None)):
            beside = self.beside(said)
            self.assertEqual(beside.address, address, said)
            if said:
                beside.start()
                self.assertEqual(beside.address, address, "nothing of its own is begun")
            beside.stop()

    def test_a_process_of_its_own_says_where_it_listens_and_ends_with_the_server(self):
        with mock.patch(
            "hearthkeep.server.stand_ins.ARGUMENTS", ("--http-port", "0", "--modbus-port", "0", "--smtp-port", "0")
        ):
            beside = self.beside("")
            beside.start()
            self.addCleanup(beside.stop)
            address = beside.wait(60.0)
            self.assertIsNotNone(address)
            state = StandInState.model_validate_json(httpx.get(f"{address}/state").content)
            self.assertEqual(len(state.devices), 4)
            beside.stop()
            self.assertIsNone(beside.address)
            with self.assertRaises(httpx.HTTPError):
                httpx.get(f"{address}/state")

    def test_they_end_where_the_process_they_belong_to_is_gone(self):
        orphaned = (
            "import subprocess, sys; p = subprocess.Popen([sys.executable, '-m', 'hearthkeep.standins', 'examples/relay-cart.json', "
            "'--http-port', '0', '--modbus-port', '0', '--smtp-port', '0', '--of', str(__import__('os').getpid())], "
            "stdout=subprocess.PIPE, text=True); print(p.stdout.readline())"
        )
        done = subprocess.run(
            [sys.executable, "-c", orphaned], cwd=ROOT, capture_output=True, text=True, timeout=60, check=True
        )
        address = f"http://127.0.0.1:{StandInState.model_validate_json(done.stdout).http_port}/state"
        deadline = time.monotonic() + 20
        with self.assertRaises(httpx.HTTPError):
            while time.monotonic() < deadline:
                httpx.get(address)
                time.sleep(0.3)


class Command(unittest.TestCase):
    def test_bad_input_is_named(self):
        for arguments, told in (
            (("--speed", "0"), "1 to 3600"),
            (("--speed", "fast"), "1 to 3600"),
            (("--since-h", "nan"), "-168 to 720"),
            ((str(Path(__file__)),), "JSON"),
            (("no-such-file.json",), "no-such-file.json"),
        ):
            done = hearth("stand-ins", *arguments)
            self.assertNotEqual(done.returncode, 0)
            self.assertIn(told, done.stderr)
