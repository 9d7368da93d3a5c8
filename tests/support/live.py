"""The application as people run it: its own process, its own data folder, a real browser."""

from __future__ import annotations

import atexit
import contextlib
import json
import os
import shutil
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import (
    ElementClickInterceptedException,
    NoSuchElementException,
    StaleElementReferenceException,
    WebDriverException,
)
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from hearthkeep.store import Cluster
from tests.support.designs import ROOT
from tests.support.shared import copy_prepared_home

WAIT_S = 15
#: One of these stands on every page of an open design.
OPENED = ("[data-test=strip] svg", "[data-test=hours-carried]", "[data-test=watch-phase]", "[data-test^=drill-]")
CHROMIUM_FLAGS = (
    "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage",
)  # fmt: skip


class Application:
    """`./hearth demo` on a free port and a data folder of its own."""

    def __init__(self, stand_ins: str = "off") -> None:
        """`stand_ins`: where simulated devices are asked, which the test runs itself."""
        self.stand_ins = stand_ins
        self.folder = Path(tempfile.mkdtemp(prefix="hearth live "))
        # The database server's account passes through.
        self.folder.chmod(0o711)
        self.home = self.folder / "home"
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}/"
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        if not self.home.exists():
            copy_prepared_home(self.home, demo=True)
        environment = {
            **os.environ,
            "PYTHONPATH": str(ROOT),
            "HEARTH_HOME": str(self.home),
            "HEARTH_STAND_INS": self.stand_ins,
        }
        command = [sys.executable, "-m", "hearthkeep.cli", "demo", "--port", str(self.port)]
        self._process = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL)
        give_up = time.monotonic() + 90
        while time.monotonic() < give_up:
            with contextlib.suppress(OSError):
                # What a test waits for is its page, not a server that is still loading.
                if self.ask("GET", "api/health")["is_ready"]:
                    return
            time.sleep(0.1)
        raise RuntimeError("the application did not start")

    def stop(self) -> None:
        if self._process is not None:
            self._process.terminate()
            self._process.wait(60)
            self._process = None

    def kill(self) -> None:
        """As a crash would."""
        assert self._process is not None
        self._process.kill()
        self._process.wait(10)
        self._process = None

    def remove(self) -> None:
        self.stop()
        Cluster(self.home).destroy()
        shutil.rmtree(self.folder, ignore_errors=True)

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """Call the interface directly, for preparing a test."""
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            self.address + path, data=data, method=method, headers={"Content-Type": "application/json"}
        )
        with urllib.request.urlopen(request, timeout=60) as answer:
            text = answer.read()
        return json.loads(text) if text else None


class SteadyElement(WebElement):
    """An element that is clicked once it stands still, as a hand would wait for a dialog that is still opening."""

    def click(self) -> None:
        give_up = time.monotonic() + WAIT_S
        while True:
            try:
                super().click()
                return
            except ElementClickInterceptedException:
                # Something that covers it for good still fails the test.
                if time.monotonic() > give_up:
                    raise
                time.sleep(0.1)


class Browser(webdriver.Chrome):
    """Chromium, whose elements are clicked once they stand still."""

    _web_element_cls = SteadyElement


def chromium(width: int = 1280, height: int = 800) -> webdriver.Chrome:
    """A fresh headless browser with a window of exactly this size."""
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "chromium"
    profile = tempfile.mkdtemp(prefix="hearth-browser-")
    for flag in (*CHROMIUM_FLAGS, f"--user-data-dir={profile}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = Browser(options=options, service=webdriver.ChromeService(shutil.which("chromedriver")))
    resize(driver, width, height)
    return driver


def resize(driver: webdriver.Chrome, width: int, height: int) -> None:
    driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False},
    )


@cache
def shared_application() -> Application:
    """One for all tests that leave it running; each works on designs of its own."""
    app = Application()
    atexit.register(app.remove)
    app.start()
    return app


@cache
def shared_browser() -> webdriver.Chrome:
    """One browser for the whole process."""
    driver = chromium()
    atexit.register(driver.quit)
    return driver


class BrowserTest(unittest.TestCase):
    """The shared application and browser, and a fresh Birchrow 14 for each test."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.app = cls.application()
        cls.driver = shared_browser()
        cls.birchrow = json.loads((ROOT / "examples" / "birchrow-14.json").read_text())

    @classmethod
    def application(cls) -> Application:
        """Overridden by tests that stop it."""
        return shared_application()

    def tearDown(self) -> None:
        # A page left open would still save, and what is refused then would stand in the next test's log. What is opened in its
        # stead is of the same origin, so that what the browser keeps can be cleared from there.
        try:
            self.driver.get(f"{self.app.address}api/health")
        except WebDriverException:
            self.driver.get("about:blank")
        # A broken policy or a script error shows here and nowhere else.
        lines = [entry["message"] for entry in self.driver.get_log("browser") if entry["level"] == "SEVERE"]
        # For a page of plain data the browser asks for a picture by itself, which a server that was stopped meanwhile refuses.
        expected = ("/favicon.ico", *self.expected_in_log)
        unexpected = [line for line in lines if not any(word in line for word in expected)]
        self.assertEqual(unexpected, [])

    #: Words of log lines a test brings about on purpose.
    expected_in_log: tuple[str, ...] = ()

    def fresh(self, page: str = "loads", **fields: object) -> str:
        """Open a new copy of the demo home on a page; return its id."""
        # Under another name, so that the demo's own Birchrow 14 is found by those who look for it.
        made = self.app.ask("POST", "api/designs/import", {**self.birchrow, "name": "A copy of Birchrow", **fields})
        self.open(made["id"], page)
        return str(made["id"])

    def open(self, design_id: str, page: str = "loads") -> None:
        self.driver.get(f"{self.app.address}designs/{design_id}/{page}")
        self.until(lambda: any(map(self.maybe, OPENED)))
        # The strip comes first; what the page shows of the rest, a moment later.
        self.until(lambda: not self.maybe("main[aria-busy=true]"))

    def until(self, condition: Callable[[], Any], *, within_s: float = WAIT_S) -> Any:
        wait = WebDriverWait(
            self.driver, within_s, 0.05, (NoSuchElementException, StaleElementReferenceException, AssertionError)
        )
        return wait.until(lambda _: condition(), message=f"still not so at {self.driver.current_url}")

    def slow_down(self, latency_ms: float) -> None:
        """Let every answer take so long."""
        self.driver.execute_cdp_cmd("Network.enable", {})
        self.driver.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            {"offline": False, "latency": latency_ms, "downloadThroughput": -1, "uploadThroughput": -1},
        )

    def maybe(self, selector: str) -> WebElement | None:
        found = self.driver.find_elements(By.CSS_SELECTOR, selector)
        return found[0] if found else None

    def the(self, selector: str) -> WebElement:
        return self.until(lambda: self.maybe(selector))

    def named(self, label: str) -> WebElement:
        return self.the(f'[aria-label="{label}"]')

    def button(self, text: str) -> WebElement:
        return self.until(
            lambda: next((b for b in self.driver.find_elements(By.TAG_NAME, "button") if b.text == text), None)
        )

    def hours(self) -> float:
        return float(self.the("[data-test=hours-carried]").get_attribute("data-hours"))

    def until_hours(self, test: Callable[[float], bool]) -> float:
        self.until(lambda: test(self.hours()))
        return self.hours()

    def until_saved(self) -> None:
        self.until(lambda: self.the("[data-test=save-note]").get_attribute("data-state") == "saved")

    def field(self, path: str) -> WebElement:
        return self.the(f'[data-path="{path}"] input, input[data-path="{path}"]')

    def labelled(self, label: str) -> WebElement:
        """The field under a visible label of the opened row or part."""
        return self.until(lambda: self.driver.find_element(By.XPATH, f"//label[normalize-space()='{label}']/..//input"))

    def choose(self, test_id: str, title: str) -> None:
        """Open a list and take one of its entries."""
        self.the(f"[data-test={test_id}]").click()
        items = ".v-overlay--active .v-list-item"

        def pick() -> bool:
            # An answer that comes meanwhile draws the list anew.
            entries = self.driver.find_elements(By.CSS_SELECTOR, items)
            entry = next((item for item in entries if item.text.strip() == title), None)
            if entry is not None:
                entry.click()
            return entry is not None

        self.until(pick)

    def fill(self, element: WebElement, text: str) -> None:
        element.send_keys(Keys.CONTROL, "a")
        element.send_keys(text, Keys.ENTER)

    def press(self, *keys: str) -> None:
        self.driver.switch_to.active_element.send_keys(*keys)


class OwnServerTest(BrowserTest):
    """A server of its own, which a test may stop and start again."""

    starts_cold = True

    expected_in_log = ("ERR_CONNECTION", "Failed to load resource")

    @classmethod
    def application(cls) -> Application:
        app = Application()
        cls.addClassCleanup(app.remove)
        app.start()
        return app
