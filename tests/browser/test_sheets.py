"""Loads typed by keyboard alone, pasted from a sheet, saved to files and opened again."""

import tempfile
import time
from pathlib import Path

from openpyxl import load_workbook
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest

TWELVE = (
    "fridge 120W starts 780 duty 36%",
    "freezer 95W starts 600 duty 33%",
    "sump pump 640W starts 1900 duty 4%",
    "oil boiler 165W starts 420 duty 30% 5-9,16-22 link heat",
    "2x circulator 46W starts 110 duty 45% link heat",
    "cpap 34W 22-6 life",
    "medicine box 45W duty 40% life",
    "router 17W",
    "6x led lamp 8W 6-8,16-22 ease",
    "phones 85W duty 70% 18-22 ease",
    "radio 6W dc ease",
    "microwave 1150W duty 12% 7-8,12-13,18-19 spare",
)


class Sheets(BrowserTest):
    def paste(self, text):
        self.driver.execute_script(
            "const data = new DataTransfer(); data.setData('text/plain', arguments[0]);"
            "document.querySelector('[data-test=entry]').dispatchEvent("
            "new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))",
            text,
        )

    def rows(self):
        return len(self.driver.find_elements(By.CSS_SELECTOR, "tr[data-test^=load-]"))

    def test_twelve_loads_by_keyboard_alone(self):
        design_id = self.fresh(loads=[])
        self.driver.find_element(By.TAG_NAME, "body").send_keys("n")
        for number, line in enumerate(TWELVE, start=1):
            self.press(line, Keys.ENTER)
            self.until(lambda number=number: self.rows() == number)
        self.until_saved()
        loads = self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]
        self.assertEqual([load["name"] for load in loads][:3], ["fridge", "freezer", "sump pump"])
        self.assertEqual({load["tier"] for load in loads}, {"life", "keep", "ease", "spare"})
        self.assertEqual(loads[5]["hours"], [[0, 6], [22, 24]])

    def test_sixty_pasted_rows_are_shown_first_and_the_good_ones_taken(self):
        self.fresh()
        lines = ["Device\tW\tDuty %\tPriority"] + [f"Thing {number}\t{number},5\t7,5\tEase" for number in range(1, 61)]
        lines[17] = lines[17].replace("Ease", "Eaze")
        self.paste("\n".join(lines))
        self.until(
            lambda: "59 added, 0 changed, 0 as they are, 1 left out" in self.the("[data-test=sheet-summary]").text
        )
        bad = self.the("[data-test=sheet-row-18]").text
        self.assertIn("read “Eaze”, expected Life, Keep, Ease or Spare; did you mean Ease?", bad)
        self.assertEqual(self.rows(), 11)
        self.the("[data-test=take-sheet]").click()
        self.until(lambda: self.rows() == 70)
        self.until_saved()
        self.the("[data-test=undo]").click()
        self.until(lambda: self.rows() == 11)

    def saved(self, kind):
        folder = tempfile.mkdtemp()
        self.driver.execute_cdp_cmd("Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": folder})
        self.the(f"[data-test=save-{kind}]").click()
        return self.until(lambda: next(iter(Path(folder).glob(f"*.{kind}")), None))

    def test_saved_files_open_again_as_the_identical_ledger(self):
        self.fresh()
        for kind in ("csv", "xlsx"):
            path = self.saved(kind)
            time.sleep(0.2)
            if kind == "xlsx":
                self.assertEqual(load_workbook(path).active.max_row, 12)
            self.the("[data-test=sheet-file]").send_keys(str(path))
            with self.subTest(kind):
                self.until(
                    lambda: (
                        "0 added, 0 changed, 11 as they are, 0 left out" in self.the("[data-test=sheet-summary]").text
                    )
                )
                self.assertFalse(self.the("[data-test=take-sheet]").is_enabled())
            self.button("Leave it").click()
            self.until(lambda: self.maybe("[data-test=sheet-preview]") is None)

    def test_hostile_files_are_refused_calmly(self):
        self.expected_in_log = ("422",)
        self.fresh()
        with tempfile.TemporaryDirectory() as folder:
            huge, locked = Path(folder) / "huge.csv", Path(folder) / "locked.xlsx"
            with huge.open("wb") as file:
                file.truncate(50_000_000)
            locked.write_bytes(b"\xd0\xcf\x11\xe0" + b"\x00" * 2000)
            self.the("[data-test=sheet-file]").send_keys(str(huge))
            self.until(lambda: "at most 600,000 are read" in self.driver.find_element(By.TAG_NAME, "main").text)
            self.the("[data-test=sheet-file]").send_keys(str(locked))
            self.until(lambda: "protected by a password" in self.the("[data-test=sheet-preview]").text)
            self.button("Leave it").click()
        self.assertEqual(self.rows(), 11)
