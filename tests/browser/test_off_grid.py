"""Off the grid in the browser: the service chosen, what goes with it, and the year on the Trials page."""

import json

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.test_looks import HILL_HOUSE, LONG_S
from tests.support.live import BrowserTest


class TheService(BrowserTest):
    def test_none_takes_the_grid_from_every_page(self):
        design_id = self.fresh("storm")
        self.the("[data-test=lane-grid]")
        self.choose("off-grid-choice", "None: off the grid for good")
        self.until(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-test=lane-grid]"))
        self.assertIn("Trials prove the year", self.the("[data-test=off-grid]").text)
        self.button("Hurricane week")
        self.assertNotIn("Rolling cuts", self.the("[data-test=usual-storms]").text)
        self.assertNotIn("Kept before storms", self.the("[data-test=policy]").text)
        self.until_saved()
        self.open(design_id, "charging")
        self.assertNotIn("Grid", [tab.text for tab in self.driver.find_elements(By.CSS_SELECTOR, "[role=tab]")])
        self.open(design_id, "transfer")
        self.button("Try the house's own panel, no grid").click()
        self.until(lambda: "chosen" in self.the("[data-test=advice] li").text)
        self.until(lambda: "live: inverter" in self.the("[data-test=path]").text)
        self.until_saved()
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        self.assertEqual((document["site"]["off_grid"], document["transfer"]["arrangement"]), (True, "own_panel"))
        # What was entered for the grid is still there.
        self.assertEqual(document["charging"]["grid_charger"]["output_w"], 2000.0)
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z", "z")
        self.until(lambda: not self.app.ask("GET", f"api/designs/{design_id}")["document"]["site"]["off_grid"])


class TheYear(BrowserTest):
    def test_dark_days_are_read_looked_at_and_planned(self):
        alone = json.loads(json.dumps(HILL_HOUSE))
        alone["charging"]["generator"] = None
        design_id = self.fresh("trials", **alone)
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        year = self.app.ask("POST", "api/trials?wait=true", document)["trials"]["year"]
        self.assertGreater(year["dark_days"], 5)
        facts = self.until(lambda: self.maybe("[data-test=year-facts]"), within_s=LONG_S)
        self.assertIn(str(year["dark_days"]), facts.text)
        self.assertIn(f"dark {year['dark_days']} d", self.the("nav").text)
        december = self.driver.find_elements(By.CSS_SELECTOR, "[data-test=year-months] tbody tr")[11].text.split()
        self.assertEqual(december[:2], ["Dec", str(year["months"][11]["dark_days"])])
        # The picture is read by keys, a month a step.
        plot = self.the("[data-test=chart-plot]")
        plot.send_keys(Keys.END)
        self.assertIn("Dec", plot.get_attribute("aria-valuetext"))
        self.assertIn("dark, part of the day", plot.get_attribute("aria-valuetext"))
        planned_h = self.hours()
        row = self.the(f"[data-test='spell-{year['spells'][0]['start']}']")
        look, plan = row.find_elements(By.TAG_NAME, "button")
        look.click()
        self.until_hours(lambda now_h: now_h < planned_h)
        self.assertIn("not the plan", self.the("[data-test=strip]").text)
        plan.click()
        self.until(lambda: "planned" in row.text)
        self.until_saved()
        outage = self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]
        self.assertEqual(
            (outage["start"], outage["duration_h"], outage["sky_from"]),
            (year["spells"][0]["start"], year["spells"][0]["planned_h"], "year"),
        )

    def test_it_explains_its_figures_and_knows_no_past_outages(self):
        self.fresh("trials", **HILL_HOUSE)
        self.until(lambda: self.maybe("[data-test=year-facts]"), within_s=LONG_S)
        titles = [tab.text for tab in self.driver.find_elements(By.CSS_SELECTOR, "[role=tab]")]
        self.assertEqual(titles[0], "The year")
        self.assertNotIn("Past outages", titles)
        self.driver.find_elements(By.CSS_SELECTOR, "[data-test=year-facts] dd button")[3].click()
        self.until(lambda: "hours by month" in self.the("[data-test=explanation]").text)
        self.assertIn("Dec", self.the("[data-test=explanation]").text)
