"""Trials in the browser: the map read by keys, a start looked at on the strip and planned, pictures saved, an edit noticed."""

import json
import xml.etree.ElementTree as ET

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from hearthkeep.core.design import read_design
from hearthkeep.core.trials import one_more_of_each, single_failures, trials
from tests.browser.test_looks import LONG_S
from tests.support.live import BrowserTest

#: What a save gives the browser, instead of a file: its name and its text.
CATCH = (
    "window.caught = []; URL.createObjectURL = (blob) => { blob.text().then((text) => window.caught.push(text)); "
    "return 'blob:none' }; HTMLAnchorElement.prototype.click = function () { window.named = this.download }"
)


class TrialsTest(BrowserTest):
    def all(self, selector):
        return self.driver.find_elements(By.CSS_SELECTOR, selector)


class OverTheYear(TrialsTest):
    def shown(self):
        self.until(lambda: self.all("[data-test=share]"))
        return float(self.the("[data-test=share]").get_attribute("data-share"))

    def test_the_map_is_read_by_keys_and_its_picture_and_numbers_are_saved(self):
        self.fresh("trials")
        expected = trials(read_design(json.dumps(self.birchrow)))
        self.assertAlmostEqual(self.shown(), expected.keep_frac)
        self.assertIn(f"{expected.keep_frac:.0%}".replace("%", " %"), self.the("[data-test=rail-trials]").text)
        plot = self.the("[data-test=carried-map]")
        plot.send_keys(Keys.ARROW_DOWN)
        plot.send_keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.END)
        cell = next(cell for cell in expected.cells if cell.month is None and cell.length_h == expected.lengths_h[2])
        reading = self.the("[data-test=map-reading]").text
        self.assertIn("Year, 2 days", reading)
        self.assertIn(f"{round(100 * cell.keep_frac)} % of 8,760 starts", reading)
        self.driver.execute_script(CATCH)
        self.the("[data-test=picture-csv]").click()
        self.until(lambda: self.driver.execute_script("return window.caught.length") == 1)
        rows = self.driver.execute_script("return window.caught[0]").splitlines()
        self.assertEqual(len(rows), 1 + len(expected.lengths_h))
        self.assertEqual(rows[3].split(",")[0::13], ["48", str(round(1000 * cell.keep_frac) / 10).removesuffix(".0")])
        self.assertTrue(self.driver.execute_script("return window.named").endswith("month-and-length-of-outage.csv"))
        self.the("[data-test=picture-svg]").click()
        self.until(lambda: self.driver.execute_script("return window.caught.length") == 2)
        picture = ET.fromstring(self.driver.execute_script("return window.caught[1]"))
        self.assertEqual(picture.tag, "{http://www.w3.org/2000/svg}svg")
        self.assertEqual(len(picture.findall(".//{*}rect")), 1 + 13 * len(expected.lengths_h))

    def test_a_worst_start_is_looked_at_and_then_planned_as_one_edit(self):
        design_id = self.fresh("trials?part=worst")
        self.shown()
        worst = trials(read_design(json.dumps(self.birchrow))).worst[0]
        row = f"[data-test='worst-{worst.start.isoformat()}']"
        before = self.the("[data-test=hours-carried]").get_attribute("data-hours")
        self.until(lambda: self.all(row))
        self.the(f"{row} .acts button").click()
        self.until(lambda: self.all("[data-test=looking]"))
        self.assertAlmostEqual(
            float(self.the("[data-test=hours-carried]").get_attribute("data-hours")), worst.carried_h, places=6
        )
        self.assertFalse(self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]["sky_from"] == "year")
        self.the("[data-test=looking] button").click()
        self.until(lambda: self.the("[data-test=hours-carried]").get_attribute("data-hours") == before)
        self.all(f"{row} .acts button")[1].click()
        self.until_saved()
        self.until(lambda: self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]["sky_from"] == "year")
        outage = self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]
        self.assertEqual(outage["start"], worst.start.isoformat())
        self.until(lambda: "planned" in self.the(row).text)

    def test_an_edit_elsewhere_leaves_an_old_share_that_says_so_and_coming_back_renews_it(self):
        self.fresh("trials")
        before = self.shown()
        self.the("[data-test=rail-bank]").click()
        self.fill(self.field("bank.parallel"), "9")
        self.until(lambda: "was" in self.the("[data-test=rail-trials]").text)
        self.the("[data-test=rail-trials]").click()
        self.until(lambda: not self.all("[data-test=old]") and self.shown() > before)
        self.assertNotIn("was", self.the("[data-test=rail-trials]").text)

    def test_failures_are_read_by_keys_and_one_more_stands_in_a_table(self):
        self.fresh("trials?part=failures")
        expected = single_failures(read_design(json.dumps(self.birchrow)))
        ladder = self.the("[data-test=failures]")
        self.until(lambda: len(self.all("[data-test^=failure-][data-test*=':'], [data-test=failure-bank]")) > 1)
        ladder.send_keys(Keys.ARROW_DOWN)
        ladder.send_keys(Keys.ARROW_DOWN)
        reading = self.the("[data-test=failure-reading]").text
        self.assertIn(expected.failures[1].title, reading)
        self.assertIn(expected.failures[1].assumes, reading)
        self.the("[data-part=more]").click()
        parts = one_more_of_each(read_design(json.dumps(self.birchrow))).parts
        self.until(lambda: len(self.all("[data-test=one-more] tbody tr")) == len(parts))
        self.assertIn(parts[0].title, self.all("[data-test=one-more] tbody tr")[0].text)

    def test_past_outages_are_read_taken_and_set_beside_the_design(self):
        design_id = self.fresh("trials?part=record")
        self.the("[data-test=record-text]").send_keys("2025-12-21 05:10, 40.25\n2031-01-01 10:00, 3")
        self.the("[data-test=record-read]").click()
        self.assertIn("Row 2, start", self.the("[data-test=record-preview]").text)
        self.the("[data-test=record-take]").click()
        self.until(lambda: "Dec 2025" in self.the("[data-test=past-outages]").text)
        self.until_saved()
        record = self.app.ask("GET", f"api/designs/{design_id}")["document"]["record"]
        self.assertEqual([outage["length_h"] for outage in record["outages"]], [40.25])
        self.the("[data-test=has-utility]").click()
        self.until(lambda: len(self.the("[data-test=indices]").find_elements(By.CSS_SELECTOR, "thead th")) == 5)
        self.until(lambda: "1.20" in self.the("[data-test=indices]").text)


class LongTrials(TrialsTest):
    def test_failures_that_take_long_are_followed_left_and_found_again(self):
        # Sixty loads of which three wait for the sun, and a generator: every window of hours is a house of its own.
        rows = [
            {**self.birchrow["loads"][at % 11], "id": f"l{at}", "name": f"load {at}", "link": None} for at in range(60)
        ]
        for row in rows:
            row["running_w"] = 1.0 + row["running_w"] / 60
            row["start_w"], row["known"], row["start_known"], row["circuit"] = None, None, None, None
        for row in rows[:3]:
            row["flexible_h"] = 2
        generator = {"rated_w": 3000.0, "charger_w": 1500.0, "stock_l": 40.0, "tank_l": 12.0}
        design_id = self.fresh(
            "trials?part=failures",
            loads=rows,
            transfer={},
            charging={**self.birchrow["charging"], "generator": generator},
            outage={**self.birchrow["outage"], "duration_h": 240.0},
        )
        jobs = f"api/designs/{design_id}/trial-jobs?trial=failures"
        # The year first, whose shares stand above, at once or as a job; then the failures.
        self.until(lambda: self.all("[data-test=trial-facts]"), within_s=LONG_S)
        self.until(lambda: self.app.ask("GET", jobs), within_s=LONG_S)
        self.assertRegex(self.the("[data-test=progress]").text, r"Living through each failure, \d+ of \d+")
        # Another tab and back: the same job goes on.
        self.the("[data-part=map]").click()
        self.the("[data-test=carried-map]")
        self.the("[data-part=failures]").click()
        self.the("[data-test=progress]")
        self.assertEqual([job["cancelled"] for job in self.app.ask("GET", jobs)], [False])
        self.the("[data-test=cancel-trial]").click()
        self.until(lambda: "Cancelled." in self.the("main").text)
        self.assertTrue(self.app.ask("GET", jobs)[0]["cancelled"])
        self.the("[data-test=ask-again]").click()
        self.until(lambda: self.all("[data-test=failures] svg"), within_s=LONG_S)
        job, left = self.app.ask("GET", jobs)
        self.assertEqual((job["done"], job["is_live"], left["cancelled"]), (job["total"], False, True))
        # What was found is there again at once.
        self.open(design_id, "trials?part=failures")
        self.until(lambda: self.all("[data-test=failures] svg"), within_s=LONG_S)
        self.assertEqual(len(self.app.ask("GET", jobs)), 2)
