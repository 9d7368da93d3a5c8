"""Storms to start from, by keys: one edit, marked while it stands, and undone as one."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest


class StartFrom(BrowserTest):
    def outage(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]

    def pressed(self):
        return [
            button.text
            for button in self.the("[data-test=usual-storms]").find_elements(By.CSS_SELECTOR, "[aria-pressed=true]")
        ]

    def test_a_storm_by_keys_is_one_edit_and_one_undo(self):
        design_id = self.fresh("storm")
        before = self.outage(design_id)
        self.button("Hurricane week").send_keys(Keys.ENTER)
        self.until(lambda: self.outage(design_id)["duration_h"] == 168)
        outage = self.outage(design_id)
        self.assertEqual((outage["start"][5:16], outage["warning_h"], len(outage["days"])), ("09-10T14:00", 48, 8))
        self.assertEqual((outage["people"], outage["notes"]), (before["people"], before["notes"]))
        self.until(lambda: self.pressed() == ["Hurricane week"])
        self.fill(self.field("outage.duration_h"), "150")
        self.until(lambda: self.pressed() == [])
        for _ in range(2):
            self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until(lambda: self.outage(design_id) == before)

    def test_a_storm_takes_the_place_of_the_skies_of_the_year(self):
        design_id = self.fresh("storm", outage={**self.birchrow["outage"], "sky_from": "year"})
        self.button("One night").click()
        self.until(lambda: self.outage(design_id)["sky_from"] == "by_hand")
        self.until(lambda: self.pressed() == ["One night"])


class MakeItLast(BrowserTest):
    def test_the_plan_is_found_shown_and_taken_as_one_edit(self):
        design_id = self.fresh("storm")
        before = self.hours()
        self.button("Find what to leave off, and when").click()
        self.the("[data-test=ration] tbody tr")
        self.assertIn("Carried 72 h instead of 28 h 18", self.the("[data-test=ration-said]").text)
        self.the("[data-test=try-ration]").click()
        self.until_hours(lambda hours: hours == 72)
        self.until(lambda: "carried as it is" in self.the("[data-test=make-it-last]").text)
        self.until_saved()
        hours = {
            load["id"]: load["hours"] for load in self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]
        }
        self.assertIn([], hours.values())
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until_hours(lambda hours: hours == before)
