"""The Logbook on the real page: one hand on a phone, no entry lost or doubled while the server is away, logs taken, upkeep done."""

import json
import time
import uuid
from datetime import UTC, datetime, timedelta

from selenium.webdriver.common.by import By

from tests.core.logbook.made_log import Truth, csv_of, made_log
from tests.support.live import BrowserTest, OwnServerTest, resize


class OnTheLog:
    """What these tests do with a log; mixed into a browser test."""

    def begun(self):
        design_id = self.fresh("logbook")
        place = self.app.ask("POST", f"api/designs/{design_id}/installations", {"name": "Birchrow, cellar"})["id"]
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.the("[data-test=read-bank_v]")
        return design_id, place

    def kept(self, place, *kinds):
        query = "&".join(f"kind={kind}" for kind in kinds)
        return self.app.ask("GET", f"api/installations/{place}/entries?{query}")

    def press(self, *keys):
        names = {".": "point", "<": "back"}
        for key in keys:
            self.the(f"[data-test=pad-{names.get(key, key)}]").click()

    def write(self, quantity, digits):
        self.the(f"[data-test=read-{quantity}]").click()
        self.press(*digits)
        self.the("[data-test=save-reading]").click()


class AnotherTime(OnTheLog, BrowserTest):
    """An evening's reading written the next morning, and one that this bank cannot show."""

    def test_a_reading_is_dated_by_the_sites_clock(self):
        _, place = self.begun()
        offset_h = self.birchrow["site"]["utc_offset_h"]
        evening = datetime.now(UTC).replace(tzinfo=None) + timedelta(hours=offset_h) - timedelta(hours=13)
        self.the("[data-test=read-bank_v]").click()
        self.press("5", "2")
        self.dated(datetime.now(UTC).replace(tzinfo=None) + timedelta(days=2))
        self.the("[data-test=save-reading]").click()
        self.until(lambda: "past" in self.the("[data-test=pad-wrong]").text)
        self.assertEqual(self.kept(place, "reading"), [])
        self.dated(evening)
        self.the("[data-test=save-reading]").click()
        self.until(lambda: len(self.kept(place, "reading")) == 1)
        (entry,) = self.kept(place, "reading")
        at = datetime.fromisoformat(entry["at"]).astimezone(UTC).replace(tzinfo=None) + timedelta(hours=offset_h)
        self.assertEqual(at, evening.replace(second=0, microsecond=0))
        # The next one is of now again.
        self.write("charge", "71")
        self.until(lambda: len(self.kept(place, "reading")) == 2)
        newest = datetime.fromisoformat(self.kept(place, "reading")[-1]["at"])
        self.assertLess(abs((datetime.now(UTC) - newest).total_seconds()), 60)

    def dated(self, moment):
        self.driver.execute_script(
            "const field = arguments[0]; field.value = arguments[1]; field.dispatchEvent(new Event('input'))",
            self.the("[data-test=log-when]"),
            moment.strftime("%Y-%m-%dT%H:%M"),
        )

    def test_a_reading_beyond_what_the_bank_can_show_is_asked_about_once(self):
        _, place = self.begun()
        self.write("bank_v", "512")
        self.assertIn("32 to 60.2 V can be read here", self.until(lambda: self.the("[data-test=pad-wrong]").text))
        self.assertEqual(self.kept(place, "reading"), [])
        self.press("<")
        self.the("[data-test=save-reading]").click()
        self.until(lambda: len(self.kept(place, "reading")) == 1)
        self.write("bank_v", "610")
        self.the("[data-test=pad-wrong]")
        self.the("[data-test=save-reading]").click()
        self.until(lambda: len(self.kept(place, "reading")) == 2)
        self.assertEqual([each["body"]["values"]["bank_v"] for each in self.kept(place, "reading")], [51.0, 610.0])


class OneHand(OnTheLog, BrowserTest):
    def setUp(self):
        super().setUp()
        resize(self.driver, 390, 844)
        self.addCleanup(resize, self.driver, 1280, 800)

    def test_two_readings_are_written_with_large_keys_within_reach_of_a_thumb(self):
        _, place = self.begun()
        self.the("[data-test=read-bank_v]").click()
        self.press("5", "2", ".", "7", "<", "6")
        self.assertIn("52.6", self.the("[data-test=typed]").text)
        for key in self.driver.find_elements(By.CSS_SELECTOR, ".pad button, [data-test=save-reading]"):
            box = key.rect
            self.assertGreaterEqual(box["height"], 44)
            self.assertTrue(box["x"] >= 0 and box["x"] + box["width"] <= 390)
            self.assertLess(box["y"] + box["height"], 844)
        self.the("[data-test=pad-other]").click()
        self.write("charge", "71")
        self.until(lambda: len(self.kept(place, "reading")) == 1)
        (entry,) = self.kept(place, "reading")
        self.assertEqual(entry["body"]["values"], {"bank_v": 52.6, "charge": 71.0})
        self.assertEqual(self.driver.execute_script("return document.scrollingElement.scrollWidth"), 390)

    def test_what_cannot_be_is_said_and_stays_typed(self):
        _, place = self.begun()
        self.write("charge", "710")
        self.assertIn("needs 0 to 100 %", self.the("[data-test=pad-wrong]").text)
        self.assertIn("710", self.the("[data-test=typed]").text)
        self.press("<")
        self.the("[data-test=save-reading]").click()
        self.until(lambda: [each["body"]["values"] for each in self.kept(place)] == [{"charge": 71.0}])

    def test_a_fan_that_stands_still_is_warned_of(self):
        _, place = self.begun()
        self.the("[data-test=event-fan_check]").click()
        self.fill(self.the("[data-test=event-part]"), "inverter")
        self.the("[data-test=save-not-well]").click()
        self.until(lambda: self.maybe("[data-test=alarm-fan]"))
        self.assertEqual(self.kept(place)[0]["body"]["is_well"], False)


class Away(OnTheLog, OwnServerTest):
    def test_twenty_entries_written_while_the_server_is_away_are_twenty(self):
        _, place = self.begun()
        self.app.kill()
        for number in range(20):
            self.write("bank_v", f"5{number % 10}.{number // 10}")
        self.until(lambda: "20 entries kept on this device" in self.the("[data-test=outbox]").text)
        self.app.start()
        self.until(lambda: self.maybe("[data-test=outbox]") is None, within_s=60)
        kept = self.kept(place)
        self.assertEqual(len(kept), 20)
        self.assertEqual(len({json.dumps(each["body"]) for each in kept}), 20)
        # And they stay twenty: nothing is sent again.
        self.driver.refresh()
        self.the("[data-test=entries]")
        time.sleep(1.5)
        self.assertEqual(len(self.kept(place)), 20)

    def test_entries_outlive_the_page_and_two_windows_send_each_once(self):
        design_id, place = self.begun()
        self.app.kill()
        for digits in ("51", "52", "53"):
            self.write("bank_v", digits)
        self.until(lambda: "3 entries" in self.the("[data-test=outbox]").text)
        self.app.start()
        # Two windows of one device find the same entries waiting.
        first = self.driver.current_window_handle
        self.driver.switch_to.new_window("tab")
        try:
            self.open(design_id, "logbook")
            self.until(lambda: len(self.kept(place)) == 3, within_s=60)
            time.sleep(2)
        finally:
            self.driver.close()
            self.driver.switch_to.window(first)
        self.assertEqual(sorted(each["body"]["values"]["bank_v"] for each in self.kept(place)), [51.0, 52.0, 53.0])

    def test_an_entry_that_is_refused_is_shown_and_the_others_are_kept(self):
        _, place = self.begun()
        bad = {
            "id": str(uuid.uuid4()), "installation_id": place, "told_at": "2026-03-01T12:00:00.000Z", "run": "other", "stopwatch_ms": None,
            "who": "", "body": {"kind": "reading", "values": {"bank_v": -5}}, "strikes": None, "refused": "",
        }  # fmt: skip
        good = {**bad, "id": str(uuid.uuid4()), "body": {"kind": "reading", "values": {"bank_v": 52.5}}}
        self.driver.execute_script("localStorage.setItem('hearthkeep.outbox', arguments[0])", json.dumps([bad, good]))
        self.driver.refresh()
        self.until(lambda: len(self.kept(place)) == 1)
        self.until(lambda: "must be 0 to 1,000 V" in self.the("[data-test=waiting]").text)


class AtTheDesk(OnTheLog, BrowserTest):
    def test_a_log_is_taken_plotted_and_corrects_the_plan(self):
        design_id, place = self.begun()
        stc_w = sum(array["stc_w"] for each in self.birchrow["charging"]["controllers"] for array in each["arrays"])
        rows = csv_of(made_log(6, Truth(), stc_w=stc_w), every=3).decode()
        self.the("[data-part=take]").click()
        self.driver.execute_script(
            "const area = document.querySelector('[data-test=log-pasted]'); area.value = arguments[0];"
            "area.dispatchEvent(new Event('input')); area.dispatchEvent(new Event('change'))", rows,
        )  # fmt: skip
        self.the("[data-test=log-columns]")
        self.the("[data-test=take-log]").click()
        self.until(lambda: "readings taken from" in self.the("[data-test=log-added]").text, within_s=30)
        self.the("[data-part=log]").click()
        self.until(lambda: self.maybe("[data-test=log-plot] .line"))
        plot = self.the("[data-test=log-plot]")
        plot.send_keys("\ue014")
        self.until(lambda: " V" in self.the("[data-test=log-reading]").text)
        self.the("[data-part=corrections]").click()
        card = self.until(lambda: self.maybe("[data-test=correction-capacity]"), within_s=30)
        card.find_element(By.CSS_SELECTOR, "[data-test=take-correction]").click()
        self.until_saved()
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        # 8.6 of 10.2 kWh, by what is to be had of them at the temperature of its place.
        self.assertAlmostEqual(document["bank"]["ageing_frac"], 0.89, delta=0.03)
        self.assertEqual(self.kept(place), [])

    def test_a_task_that_is_done_is_due_anew_and_an_outage_is_lived_again(self):
        _, place = self.begun()
        self.the("[data-part=upkeep]").click()
        self.the("[data-test=task-alarms] [data-test=task-done]").click()
        self.until(lambda: "in 30 days" in self.the("[data-test=task-alarms]").text)
        self.the("[data-part=outages]").click()
        self.driver.execute_script(
            "for (const [key, value] of [['day', '2026-01-12'], ['time', '17:00']]) {"
            "const field = document.querySelector(`[data-test=outage-${key}]`); field.value = value; field.dispatchEvent(new Event('input'))}"
        )
        self.fill(self.the("[data-test=outage-hours] input, input[data-test=outage-hours]"), "40")
        self.the("[data-test=keep-outage]").click()
        self.until(lambda: "of 40 h" in self.the("[data-test=replay]").text)
        self.assertEqual([each["kind"] for each in self.kept(place)], ["event", "outage"])

    def test_an_entry_is_struck_out_and_stays_readable(self):
        _, place = self.begun()
        # More than the bank can show: asked about once.
        self.write("bank_v", "525")
        self.the("[data-test=pad-wrong]")
        self.the("[data-test=save-reading]").click()
        self.until(lambda: self.maybe("[data-test=entries] button"))
        self.the("[data-test=entries] button").click()
        self.until(lambda: self.maybe("[data-test=entries] .struck"))
        self.assertTrue(self.kept(place)[0]["is_struck"])

    def test_without_an_installation_it_says_where_to_begin(self):
        self.fresh("logbook")
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.until(lambda: "begin its record on Build" in self.the("main.page").text)
