"""Watch on the real page: told that it began, one instruction done or refused, lists with times, a phone, and no server."""

import json
from datetime import UTC, datetime, timedelta

from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from tests.support.built import outage_on
from tests.support.designs import ROOT, in_the_evening
from tests.support.live import BrowserTest, OwnServerTest, resize


class OnWatch:
    """What these tests do with Watch; mixed into a browser test."""

    def at_watch(self):
        """A fresh design on its Watch page, nothing remembered; where it stands it is evening, whenever the test is run."""
        design_id = self.fresh("watch", site=in_the_evening(self.birchrow)["site"])
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.the("[data-test=watch-phase]")
        return design_id

    def in_an_outage(self, charge=71.0):
        design_id = self.at_watch()
        place = self.app.ask("POST", f"api/designs/{design_id}/installations", {"name": "Birchrow, cellar"})["id"]
        offset_h = self.app.ask("GET", f"api/designs/{design_id}")["document"]["site"]["utc_offset_h"]
        outage_on(self.app, place, offset_h=offset_h, since_h=19, help_in_h=41, charge=charge)
        self.driver.refresh()
        self.until(lambda: "Outage since" in self.the("[data-test=watch-phase]").text)
        return design_id, place

    def kept(self, place, kind):
        return [each["body"] for each in self.app.ask("GET", f"api/installations/{place}/entries?kind={kind}")]

    def keep_h(self):
        """Hours of the large number."""
        words = self.the("[data-test=left-keep] strong").text.replace("over", "").split()
        return float(words[0]) + (float(words[2]) / 60 if len(words) > 2 else 0)


class FromTheFirstMinute(OnWatch, BrowserTest):
    def test_one_key_begins_it_where_nothing_was_set_up(self):
        design_id = self.at_watch()
        self.assertIn("as if one began now", self.the("[data-test=watch-phase]").text)
        self.the("[data-test=tell-began]").click()
        self.until(lambda: "Outage since" in self.the("[data-test=watch-phase]").text)
        (place,) = self.app.ask("GET", f"api/designs/{design_id}/installations")
        self.assertEqual([entry["what"] for entry in self.kept(place["id"], "watch")], ["began"])
        # The charge was not read, and the page says so until it is told.
        self.the("[data-test=watch-unread]")
        self.fill(self.the("[data-test=tell-charge] input"), "710")
        self.assertIn("0 to 100 %", self.the("[data-test=tell-wrong]").text)
        self.fill(self.the("[data-test=tell-charge] input"), "40")
        self.until(lambda: self.maybe("[data-test=watch-unread]") is None)
        self.assertIn("40 %", self.the("[data-test=watch-now]").text)

    def test_a_storm_that_is_expected_has_a_list_with_times(self):
        design_id = self.at_watch()
        offset_h = self.app.ask("GET", f"api/designs/{design_id}")["document"]["site"]["utc_offset_h"]
        moment = datetime.now(UTC) + timedelta(hours=offset_h + 30)
        self.driver.execute_script(
            "const box = document.querySelector('[data-test=tell-moment]'); box.value = arguments[0];"
            "box.dispatchEvent(new Event('input', { bubbles: true }))",
            f"{moment:%Y-%m-%dT%H:%M}",
        )
        self.the("[data-test=tell-warning]").click()
        self.until(lambda: "Storm warning" in self.the("[data-test=watch-phase]").text)
        tick = self.the("[data-test='task-before:small']")
        self.assertFalse(tick.is_selected())
        tick.click()
        (place,) = self.app.ask("GET", f"api/designs/{design_id}/installations")
        self.until(lambda: [each["key"] for each in self.kept(place["id"], "decision")] == ["before:small"])
        self.until(lambda: self.the("[data-test='task-before:small']").is_selected())


class OneThing(OnWatch, BrowserTest):
    def test_what_is_done_is_written_down_and_the_hours_answer(self):
        _, place = self.in_an_outage()
        before = self.keep_h()
        self.assertTrue(self.the("[data-test=next-title]").text.startswith("Turn off"))
        self.the("[data-test=next-done]").click()
        self.until(lambda: self.keep_h() > before + 0.3)
        (decision,) = self.kept(place, "decision")
        self.assertEqual((decision["key"], decision["is_done"]), ("leave_off", True))
        self.assertTrue(decision["off"])
        # And it can be taken back by hand.
        self.the("[data-test=tell-loads] summary").click()
        self.the(f"[data-test='on-{decision['off'][0]}']").click()
        self.until(lambda: len(self.kept(place, "decision")) == 2)

    def test_an_alarm_that_was_seen_says_so(self):
        _, place = self.in_an_outage()
        self.the("[data-test=alarm-life] summary").click()
        self.the("[data-test=seen-life]").click()
        self.until(lambda: "seen" in self.the("[data-test=alarm-life] summary").text)
        self.assertEqual([each["key"] for each in self.kept(place, "decision")], ["alarm:life"])

    def test_what_is_new_rings_and_in_quiet_hours_only_what_can_hurt(self):
        document = json.loads((ROOT / "examples" / "birchrow-16.json").read_text())
        design_id = self.app.ask("POST", "api/designs/import", {**document, "name": "With a generator"})["id"]
        self.open(design_id, "watch")
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.the("[data-test=tell-began]").click()
        self.until(lambda: "Outage since" in self.the("[data-test=watch-phase]").text)
        hour = int(
            self.driver.execute_script(
                f"return new Date(Date.now() + {document['site']['utc_offset_h']} * 3600000).getUTCHours()"
            )
        )
        self.the("[data-test=ring-on]").click()
        for test_id, value in (("ring-from", hour), ("ring-to", (hour + 2) % 24)):
            Select(self.the(f"[data-test={test_id}]")).select_by_value(str(value))
        self.the("[data-test=tell-generator]").click()
        self.until(lambda: "The generator runs" in self.the("[data-test=ring-said]").text)
        self.assertIn("Kept quiet", self.the("[data-test=ring-said]").text)
        # Stopped and begun again in loud hours it rings.
        self.the("[data-test=tell-generator]").click()
        self.until(lambda: self.maybe("[data-test=alarm-generator]") is None)
        Select(self.the("[data-test=ring-to]")).select_by_value(str(hour))
        self.the("[data-test=tell-generator]").click()
        self.until(lambda: "Rang" in self.the("[data-test=ring-said]").text)

    def test_what_is_refused_is_not_said_again(self):
        _, place = self.in_an_outage()
        title = self.the("[data-test=next-title]").text
        self.the("[data-test=next-refuse]").click()
        self.until(lambda: self.the("[data-test=next-title]").text != title)
        self.assertFalse(self.kept(place, "decision")[0]["is_done"])

    def test_the_number_opens_to_its_working_and_the_picture_is_read_by_keys(self):
        self.in_an_outage()
        self.the("[data-test=left-keep] .ask").click()
        self.until(lambda: "first asks and is not served" in self.the(".v-overlay .sheet").text)
        self.press("escape")
        plot = self.the("[data-test=watch-ahead] [data-test=chart-plot]")
        self.driver.execute_script("arguments[0].focus()", plot)
        self.press("right", "right")
        self.assertIn("%", self.the("[data-test=watch-ahead] [data-test=chart-reading]").text)

    def test_another_forecast_and_the_end(self):
        _, place = self.in_an_outage()
        day = self.driver.find_elements(By.CSS_SELECTOR, "[data-test^=foretold-]")[1].get_attribute("data-test")
        self.choose(day, "clear")
        self.until(lambda: "told" in self.the("[data-test=watch-days]").text.replace("as in the plan", ""))
        self.assertEqual(self.kept(place, "forecast")[0]["days"][0]["sky"], "clear")
        self.the("[data-test=tell-ended]").click()
        self.until(lambda: "Over since" in self.the("[data-test=watch-phase]").text)
        self.the("[data-test=write-outage]").click()
        self.until(lambda: len(self.kept(place, "outage")) == 1)
        self.assertAlmostEqual(self.kept(place, "outage")[0]["hours_h"], 19.0, delta=0.2)


class InTheHand(OnWatch, BrowserTest):
    def test_number_and_instruction_stand_on_the_first_screen_of_a_phone(self):
        self.in_an_outage()
        resize(self.driver, 390, 844)
        self.addCleanup(resize, self.driver, 1280, 800)
        for part in ("[data-test=left-keep] strong", "[data-test=next-title]", "[data-test=next-done]"):
            box = self.the(part).rect
            self.assertLess(box["y"] + box["height"], 790)
            self.assertLessEqual(box["x"] + box["width"], 390)
        for key in self.driver.find_elements(By.CSS_SELECTOR, ".next .keys button"):
            self.assertGreaterEqual(key.rect["height"], 44)
        self.assertEqual(self.driver.execute_script("return document.scrollingElement.scrollWidth"), 390)


class Away(OnWatch, OwnServerTest):
    def test_without_the_server_the_page_stays_and_nothing_told_is_lost_or_doubled(self):
        _, place = self.in_an_outage()
        number = self.keep_h()
        self.app.kill()
        self.fill(self.the("[data-test=tell-charge] input"), "66")
        self.fill(self.the("[data-test=tell-charge] input"), "65")
        self.until(lambda: "2 entries" in self.the("[data-test=watch-outbox]").text)
        self.assertAlmostEqual(self.keep_h(), number, delta=0.1)
        self.app.start()
        self.until(lambda: self.maybe("[data-test=watch-outbox]") is None, within_s=60)
        self.until(lambda: "65 %" in self.the("[data-test=watch-now]").text)
        self.assertEqual([each["values"] for each in self.kept(place, "reading")], [{"charge": 66.0}, {"charge": 65.0}])
