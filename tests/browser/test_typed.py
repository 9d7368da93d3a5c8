"""Numbers and lines as people type them, in the page: as meant, or refused with the reason, and nothing typed is lost."""

import json
import time

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.runner.profile import amount, some
from tests.support.designs import ROOT
from tests.support.live import BrowserTest

LINES = json.loads((ROOT / "tests" / "lines.json").read_text(encoding="utf-8"))["lines"]


class Lines(BrowserTest):
    def typed(self, case):
        """Type a line, press Enter once its reading stands; what became of it."""
        entry = self.the("[data-test=entry]")
        before = len(self.driver.find_elements(By.CSS_SELECTOR, '[data-column="running"]'))
        entry.send_keys(Keys.CONTROL, "a")
        entry.send_keys(case["line"])
        if "waits" in case:
            self.until(lambda: case["waits"] in self.the("[data-test=reading]").text)
            entry.send_keys(Keys.ENTER)
            # The line stays with its reason, and no row appears.
            self.until(lambda: case["waits"] in self.the("[data-test=reading]").text)
            self.assertEqual(entry.get_attribute("value"), case["line"])
            self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, '[data-column="running"]')), before)
            return
        self.until(lambda: "Enter adds it" in self.the("[data-test=reading]").text)
        self.assertIn(case.get("note", ""), self.the("[data-test=reading]").text)
        entry.send_keys(Keys.ENTER)
        self.until(lambda: entry.get_attribute("value") == "")

    def test_each_is_read_as_meant_or_waits_with_its_reason(self):
        for metric in (False, True):
            design_id = self.fresh(loads=[], practice="metric_230" if metric else "north_american")
            # Where a line reads alike in both practices it is typed once.
            lines = [case for case in LINES if bool(case.get("metric")) == metric]
            for case in lines:
                with self.subTest(case["line"]):
                    self.typed(case)
            self.the("[data-test=entry]").send_keys(Keys.ESCAPE)
            self.until_saved()
            loads = self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]
            taken = [case for case in lines if "waits" not in case]
            self.assertEqual(len(loads), len(taken))
            for case in taken:
                with self.subTest(case["line"]):
                    load = next(load for load in loads if load["name"] == case["name"] and fits(load, case))
                    self.assertTrue(load)


def fits(load, case):
    return all(load[field] == case[field] for field in load.keys() & case.keys())


class Fields(BrowserTest):
    def test_grouped_thousands_mean_the_same_in_every_field(self):
        design_id = self.fresh("inverter")
        self.fill(self.field("inverter.surge_w"), "12,500")
        self.fill(self.field("inverter.rated_w"), "3,500 W")
        self.until(lambda: self.field("inverter.rated_w").get_attribute("value") == "3500")
        self.until_saved()
        inverter = self.app.ask("GET", f"api/designs/{design_id}")["document"]["inverter"]
        self.assertEqual((inverter["rated_w"], inverter["surge_w"]), (3500, 12500))
        self.open(design_id, "loads")
        cell = self.driver.find_elements(By.CSS_SELECTOR, '[data-column="running"]')[0]
        self.fill(cell, "1,200")
        self.until_saved()
        self.assertIn(
            1200, [row["running_w"] for row in self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]]
        )

    def test_where_both_habits_are_at_home_it_is_asked_and_the_text_stays(self):
        design_id = self.fresh("inverter", practice="metric_230")
        field = self.field("inverter.rated_w")
        before = self.app.ask("GET", f"api/designs/{design_id}")["document"]["inverter"]["rated_w"]
        self.fill(field, "3,500")
        self.until(lambda: "may be 3500 or 3.5: write it without the comma" in self.the("main").text)
        self.assertEqual(field.get_attribute("value"), "3,500")
        self.assertEqual(self.app.ask("GET", f"api/designs/{design_id}")["document"]["inverter"]["rated_w"], before)
        self.fill(self.field("inverter.idle_w"), "22,5")
        self.until_saved()
        self.assertEqual(self.app.ask("GET", f"api/designs/{design_id}")["document"]["inverter"]["idle_w"], 22.5)


class Losses(BrowserTest):
    def test_what_loses_hours_says_so_on_its_button(self):
        self.fresh("inverter")
        button = self.the("[data-test=off-at-night]")
        self.assertRegex(button.text, r"^Take it, losing \d+ h( \d\d)?$")
        button.click()
        self.until(lambda: self.the("[data-test=off-at-night]").text == "Leave it on")


class Absurd(BrowserTest):
    """Whatever number is typed: the page stays alive, and says what it would take."""

    PAGES = (
        "storm", "loads", "bank?part=arrangement", "bank?part=place", "bank?part=sheet", "inverter?part=choice", "charging",
        "charging?part=day", "charging?part=year", "charging?part=generator", "charging?part=grid", "charging?part=others",
        "transfer?part=device", "transfer?part=panel", "wiring?part=runs", "wiring?part=faults", "wiring?part=board",
        "stages", "trials?part=kits", "trials?part=record", "opinions?part=methods", "opinions?part=have", "build?part=gates", "drill",
    )  # fmt: skip
    #: The fields that show a number and can be written, in the order of the page.
    FIELDS = (
        "return [...document.querySelectorAll('main input')].filter((field) =>"
        " field.checkVisibility({visibilityProperty: true, contentVisibilityAuto: true}) && !field.readOnly && !field.disabled"
        " && (field.inputMode === 'decimal' || field.closest('[data-path]')) && /^[\\d.,]+$/.test(field.value))"
    )

    def test_a_billion_in_any_field_freezes_no_page(self):
        design_id = self.fresh("storm", name="Absurd numbers")
        tried = 0
        for page in self.PAGES:
            self.open(design_id, page)
            for at in some(range(len(self.driver.execute_script(self.FIELDS))), every=4):
                fields = self.driver.execute_script(self.FIELDS)
                if at >= len(fields):
                    continue
                named = fields[at].get_attribute("aria-label") or fields[at].get_attribute("data-column") or at
                with self.subTest(page=page, field=named):
                    before = fields[at].get_attribute("value")
                    began = time.monotonic()
                    self.fill(fields[at], "1000000000")
                    self.driver.execute_async_script(
                        "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => done()))"
                    )
                    self.assertLess(time.monotonic() - began, 4.0)
                    again = self.driver.execute_script(self.FIELDS)
                    if at < len(again):
                        self.fill(again[at], before)
                    tried += 1
            # What was typed back is what stands: nothing that was refused stays behind what is shown.
            self.until(lambda: "cannot be used" not in self.the("[data-test=save-note]").text)
        self.assertGreater(tried, amount(20, 80))

    def test_what_cannot_be_used_is_still_there_after_the_page_is_opened_anew_with_the_page_as_saved(self):
        design_id = self.fresh("bank?part=sheet", name="Left behind")
        self.fill(self.the("[data-test=need-autonomy] input"), "1000")
        self.until(lambda: "cannot be used" in self.the("[data-test=save-note]").text)
        self.assertEqual(self.the("[data-test=need-autonomy] input").get_attribute("value"), "1,000")
        self.open(design_id, "bank?part=sheet")
        self.assertEqual(self.the("[data-test=need-autonomy] input").get_attribute("value"), "1,000")
        self.assertIn("cannot be used", self.the("[data-test=save-note]").text)
        self.fill(self.the("[data-test=need-autonomy] input"), "36")
        self.until_saved()
        need = self.app.ask("GET", f"api/designs/{design_id}")["document"]["bank"]["need"]
        self.assertEqual(need["autonomy_h"], 36.0)

    expected_in_log = ("Failed to load resource",)
