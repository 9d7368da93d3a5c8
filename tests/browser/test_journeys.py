"""What a designer does, in the real browser on the real build."""

import re

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest, OwnServerTest


class FirstVisit(OwnServerTest):
    def test_open_add_a_kettle_undo_reload_and_add_a_battery(self):
        self.driver.get(self.app.address)
        self.until(lambda: self.driver.find_element(By.PARTIAL_LINK_TEXT, "Birchrow 14")).click()
        before = self.until_hours(lambda hours: hours > 0)
        entry = self.the("[data-test=entry]")
        entry.send_keys("kettle 1500W duty 10% 7-8,17-18")
        self.until(lambda: "runs 1,500 W" in self.the("[data-test=reading]").text)
        entry.send_keys(Keys.ENTER)
        fallen = self.until_hours(lambda hours: hours < before - 0.5)
        self.assertIn("−", self.the("[data-test=change]").text)
        self.the("[data-test=load-kettle]")
        self.until_saved()

        self.the("[data-test=undo]").click()
        self.until_hours(lambda hours: hours == before)
        self.assertIsNone(self.maybe("[data-test=load-kettle]"))
        self.driver.refresh()
        self.until_hours(lambda hours: hours == before)
        # Redo has survived the reload.
        self.the("[data-test=redo]").click()
        self.until_hours(lambda hours: hours == fallen)
        self.driver.refresh()
        self.until_hours(lambda hours: hours == fallen)
        self.the("[data-test=undo]").click()
        self.until_hours(lambda hours: hours == before)

        self.the("[data-test=rail-bank]").click()
        self.fill(self.field("bank.parallel"), "3")
        self.until_hours(lambda hours: hours > before + 5)
        self.until_saved()
        self.driver.refresh()
        self.until_hours(lambda hours: hours > before + 5)
        self.assertEqual(self.field("bank.parallel").get_attribute("value"), "3")


class Ledger(BrowserTest):
    def test_painting_hours_with_the_mouse_and_the_keyboard(self):
        self.fresh()
        cells = self.named("Television: hours of the day")
        width = cells.size["width"]
        at = lambda hour: int((hour + 0.5) * width / 24 - width / 2)  # noqa: E731
        mouse = ActionChains(self.driver)
        mouse.move_to_element_with_offset(cells, at(2), 0).click_and_hold()
        mouse.move_to_element_with_offset(cells, at(3), 0).move_to_element_with_offset(
            cells, at(4), 0
        ).release().perform()
        self.until(lambda: "2–5 h, 19–22 h" in cells.get_attribute("aria-valuetext"))
        cells.send_keys(Keys.HOME, " ")
        self.until(lambda: "0–1 h, 2–5 h" in cells.get_attribute("aria-valuetext"))
        cells.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
        self.until(lambda: "0–5 h, 19–22 h" in cells.get_attribute("aria-valuetext"))

    def test_cells_move_like_a_spreadsheet_and_escape_changes_nothing(self):
        self.fresh()
        cell = self.named("CPAP, heated hose off: running watts")
        self.fill(cell, "55")
        active = lambda: self.driver.switch_to.active_element.get_attribute("aria-label")  # noqa: E731
        self.assertEqual(active(), "Medicine cool box: running watts")
        self.press(Keys.ARROW_RIGHT)
        self.assertEqual(active(), "Medicine cool box: starting watts")
        self.press("9999", Keys.ESCAPE)
        self.press(Keys.ARROW_UP)
        self.until_saved()
        self.assertEqual(self.named("Medicine cool box: starting watts").get_attribute("value"), "90")
        self.assertEqual(self.named("CPAP, heated hose off: running watts").get_attribute("value"), "55")

    def test_a_value_that_cannot_be_used_stays_in_view_with_its_range(self):
        self.expected_in_log = ("422",)
        self.fresh()
        before = self.hours()
        self.fill(self.named("Television: duty in percent"), "250")
        problem = self.the("[data-test=problem]")
        self.assertIn("must be 0 to 1", problem.text)
        self.assertEqual(self.hours(), before)
        self.until(lambda: "Not saved" in self.the("[data-test=save-note]").text)
        self.assertEqual(self.named("Television: duty in percent").get_attribute("value"), "250")
        self.fill(self.named("Television: duty in percent"), "25")
        self.until_saved()
        self.assertIsNone(self.maybe("[data-test=problem]"))

    def test_moving_tier_duplicating_and_deleting_a_row(self):
        self.fresh()
        self.named("More of Television").click()
        self.button("Duplicate").click()
        self.the("[data-test=load-tv-12]")
        self.button("Delete").click()
        self.until(lambda: self.maybe("[data-test=load-tv]") is None)
        self.until_saved()

    def test_a_line_that_is_not_understood_is_kept_with_its_reason(self):
        self.fresh()
        entry = self.the("[data-test=entry]")
        entry.send_keys("well pump starts 2kW", Keys.ENTER)
        self.until(lambda: "needs watts, for example 120W" in self.the("[data-test=reading]").text)
        self.assertEqual(entry.get_attribute("value"), "well pump starts 2kW")


class ChecksAndFigures(BrowserTest):
    def test_try_applies_the_remedy_and_the_strip_answers(self):
        self.fresh("storm")
        before = self.hours()
        self.button("Try 3 in parallel").click()
        self.until_hours(lambda hours: hours > before + 5)
        self.the("[data-test=undo]").click()
        self.until_hours(lambda hours: hours == before)

    def test_a_figure_tells_how_it_comes_about(self):
        self.fresh("bank")
        self.the("[data-test='explain-bank.usable_wh']").click()
        formula = "rated Wh × temperature factor × ageing × (1 − floor)"
        self.until(lambda: formula in self.the("[data-test=explanation]").text)
        self.assertIn("10,240 Wh", self.the("[data-test=explanation]").text)

    def test_the_strip_reads_a_moment_and_pins_it(self):
        self.fresh()
        plot = self.named("Moment of the outage")
        ActionChains(self.driver).move_to_element(plot).perform()
        self.until(lambda: "Wed 14 05:00" in self.the("[data-test=legend]").text)
        plot.click()
        self.until(lambda: "pinned" in self.the("[data-test=legend]").text)
        self.the("[data-test=rail-bank]").click()
        self.assertIn("pinned", self.the("[data-test=legend]").text)

    def test_temperatures_follow_the_practice(self):
        self.fresh("bank?part=place")
        self.assertEqual(self.field("bank.temp_c").get_attribute("value"), "39.2")
        self.fill(self.field("bank.temp_c"), "20")
        self.the("[data-test=finding-LFP_NO_CHARGE_IN_COLD]")
        self.the("[data-test=finding-LFP_NO_CHARGE_IN_COLD] .try").click()
        self.until(lambda: self.field("bank.heater.target_c").get_attribute("value") == "41")


class DesignList(BrowserTest):
    def test_new_duplicate_delete_and_restore(self):
        self.driver.get(self.app.address)
        self.the("[data-test=new-portable]").click()
        self.until(lambda: "/storm" in self.driver.current_url)
        name = self.named("Name of this design")
        self.fill(name, "Porch box")
        self.until_saved()
        self.the("[data-test=rail-loads]").click()
        self.the("[data-test=finding-NO_LOADS]")
        self.driver.get(self.app.address)
        self.named("Duplicate Porch box").click()
        self.named("Delete Porch box (copy)").click()
        self.until(lambda: "was deleted" in self.driver.find_element(By.TAG_NAME, "main").text)
        self.the("[data-test=undo-delete]").click()
        self.named("Delete Porch box (copy)")

    def test_each_pattern_opens_as_a_design_that_carries_what_it_says(self):
        self.driver.get(self.app.address)
        self.the("[data-test=new-pattern]").click()
        begin = "[data-test=patterns] [data-test^=start-]"
        starts = self.until(
            lambda: [entry.get_attribute("data-test") for entry in self.driver.find_elements(By.CSS_SELECTOR, begin)]
        )
        self.assertEqual(len(starts), 9)
        for start in starts:
            with self.subTest(start):
                row = self.the(f"[data-test={start}]").find_element(By.XPATH, "ancestor::tr").text
                promised_h = float(re.search(r"(\d+) h of (\d+) h", row).group(1))
                self.assertIn("none open", row)
                self.the(f"[data-test={start}]").click()
                self.until(lambda: "/storm" in self.driver.current_url)
                self.until_hours(lambda now_h, promised_h=promised_h: now_h == promised_h)
                marks = self.driver.find_elements(By.CSS_SELECTOR, ".rail .mark")
                self.assertGreater(len(marks), 5)
                self.assertFalse(
                    {"stop", "mend"} & {word for mark in marks for word in mark.get_attribute("class").split()}
                )
                self.driver.get(self.app.address)
                self.the("[data-test=new-pattern]").click()
                self.the(begin)

    def test_an_empty_design_says_what_is_next(self):
        self.driver.get(self.app.address)
        self.the("[data-test=new-home]").click()
        self.until(lambda: "Nothing to carry yet" in self.the("[data-test=missing]").text)
        self.assertEqual(self.the("[data-test=rail-storm]").text.split(), ["Storm", "next"])
        steps = [link.text for link in self.driver.find_elements(By.CSS_SELECTOR, "[data-test=missing] a")]
        self.assertEqual(steps, ["Storm", "Loads", "Charging"])
        self.driver.find_elements(By.CSS_SELECTOR, "[data-test=missing] a")[1].click()
        self.the("[data-test=entry]").send_keys("lamp 5W dc keep", Keys.ENTER)
        self.until(lambda: not self.maybe("[data-test=missing]"))
        self.assertGreater(self.hours(), 0)

    def test_a_long_list_comes_by_pages_and_is_sought_in(self):
        for number in range(52):
            made = self.app.ask("POST", "api/designs", {"start": "portable", "name": f"Crate {number:02}"})
            # Others look for designs of theirs on the first page.
            self.addCleanup(self.app.ask, "DELETE", f"api/designs/{made['id']}")
        self.driver.get(self.app.address)
        rows = lambda: self.driver.find_elements(By.CSS_SELECTOR, "[data-test=designs] tbody tr")  # noqa: E731
        self.until(lambda: len(rows()) == 50)
        self.assertRegex(self.the("[data-test=page-bar]").text, r"1 to 50 of \d+")
        self.button("Next page").click()
        self.until(lambda: "Crate 01" in self.the("[data-test=designs]").text)
        self.the("[data-test=seek-design]").send_keys("crate 3")
        # Each word anywhere in the name: 03, 13, 23, 43 and the thirties.
        self.until(lambda: len(rows()) == 14)
        self.assertIsNone(self.maybe("[data-test=page-bar]"))
        self.the("[data-test=seek-design]").send_keys("xyz")
        self.until(lambda: "No design’s name holds" in self.driver.find_element(By.TAG_NAME, "main").text)

    def test_the_last_backup_is_told(self):
        self.driver.get(self.app.address)
        self.until(
            lambda: (
                self.driver.refresh()
                or re.search(r"backups/nightly-[\d-]+\.zip", self.the("[data-test=backup-note]").text)
            )
        )

    def test_every_step_of_an_empty_home_opens(self):
        self.driver.get(self.app.address)
        self.the("[data-test=new-home]").click()
        for step in ("storm", "loads", "bank", "inverter", "charging"):
            self.the(f"[data-test=rail-{step}]").click()
            self.until(lambda step=step: self.driver.find_element(By.TAG_NAME, "h1").text.lower() == step)
        self.button("Add a controller").click()
        self.button("Add an array").click()
        self.until(lambda: "400 W sun" in self.the("[data-test=rail-charging]").text)

    def test_an_unknown_design_is_told(self):
        self.expected_in_log = ("404",)
        self.driver.get(f"{self.app.address}designs/00000000-0000-0000-0000-000000000000/loads")
        self.until(lambda: "could not be opened" in self.driver.find_element(By.TAG_NAME, "main").text)


class Keyboard(BrowserTest):
    def test_keys_reach_the_entry_the_steps_and_undo(self):
        self.fresh()
        before = self.hours()
        body = self.driver.find_element(By.TAG_NAME, "body")
        body.send_keys("n")
        self.assertEqual(self.driver.switch_to.active_element, self.the("[data-test=entry]"))
        self.press("heater 300W", Keys.ENTER)
        self.until_hours(lambda hours: hours < before)
        self.press(Keys.ESCAPE)
        self.until_saved()
        body.send_keys("]")
        self.until(lambda: "/bank" in self.driver.current_url)
        body.send_keys("[")
        self.until(lambda: "/loads" in self.driver.current_url)
        body.send_keys(Keys.CONTROL, "z")
        self.until_hours(lambda hours: hours == before)
        body.send_keys(Keys.CONTROL, Keys.SHIFT, "z")
        self.until_hours(lambda hours: hours < before)
        body.send_keys("?")
        self.until(lambda: "new row" in self.the("#keys-title + table").text)
