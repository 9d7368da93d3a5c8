"""Storms to start from, by keys: one edit, marked while it stands, and undone as one."""

import time
from datetime import datetime, timedelta

from selenium.webdriver.common.action_chains import ActionChains
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
        # The answer to the first edit writes the field anew; typed into before that, it would hold both numbers.
        self.until_saved()
        self.until(lambda: self.field("outage.duration_h").get_attribute("value") == "168")
        self.fill(self.field("outage.duration_h"), "150")
        self.until(lambda: self.pressed() == [])
        self.until(lambda: self.outage(design_id)["duration_h"] == 150)
        self.until_saved()
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
        # It takes seconds, and gives way to whatever else goes on.
        self.until(lambda: self.maybe("[data-test=ration] tbody tr"), within_s=90.0)
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


class Timeline(BrowserTest):
    def lane(self, name):
        return self.the(f"[data-test=lane-{name}]")

    def outage(self, design_id):
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["outage"]

    def drag(self, lane, from_part, to_part):
        """Press in a lane and drag along it, by parts of its width."""
        box = lane.rect
        at = [round((part - 0.5) * box["width"]) for part in (from_part, to_part)]
        chain = ActionChains(self.driver, 20).move_to_element_with_offset(lane, at[0], 0).click_and_hold()
        chain.move_to_element_with_offset(lane, at[1], 0).release().perform()

    def test_painted_by_mouse(self):
        design_id = self.fresh("storm")
        before_h = self.hours()
        self.drag(self.lane("grid"), 5.5 / 72, 9.5 / 72)
        self.until(lambda: self.outage(design_id)["grid_back"] == [[5, 10]])
        self.until_hours(lambda now_h: now_h > before_h + 4)
        self.assertIn("grid back, 5 h", self.the("[data-test=legend]").text)
        self.assertIn("The grid is back for 5 h of 72 h", self.the("[data-test=timeline]").text)
        # Dragged over again from an hour that is back, they are out.
        self.drag(self.lane("grid"), 7.5 / 72, 9.5 / 72)
        self.until(lambda: self.outage(design_id)["grid_back"] == [[5, 7]])
        self.the("[data-test=grid-out]").click()
        self.until(lambda: self.outage(design_id)["grid_back"] == [])
        self.until_hours(lambda now_h: now_h == before_h)
        # The sky of the last day, one further in the order of skies, and of the table below with it.
        skies = [day["sky"] for day in self.outage(design_id)["days"]]
        self.drag(self.lane("sky"), 0.97, 0.98)
        order = ["clear", "broken", "overcast", "covered"]
        last = order[(order.index(skies[-1]) + 1) % 4]
        self.until(lambda: [day["sky"] for day in self.outage(design_id)["days"]] == [*skies[:-1], last])

    def test_painted_by_keys(self):
        design_id = self.fresh("storm")
        lane = self.lane("home")
        lane.send_keys(Keys.HOME, Keys.ARROW_RIGHT, " ")
        self.until(lambda: self.outage(design_id)["days"][1]["away"])
        lane.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT, Keys.NULL)
        self.until(lambda: self.outage(design_id)["days"][2]["away"])
        self.assertIn("nobody home", lane.get_attribute("aria-valuetext"))
        grid = self.lane("grid")
        grid.send_keys(Keys.END, " ")
        self.until(lambda: self.outage(design_id)["grid_back"] == [[71, 72]])
        sky = self.lane("sky")
        sky.send_keys(Keys.HOME, "1")
        self.until(lambda: self.outage(design_id)["days"][0]["sky"] == "clear")
        self.assertFalse(self.outage(design_id)["days"][0]["away"])

    def test_warning_start_and_length_are_dragged_and_stepped(self):
        design_id = self.fresh("storm")
        before = self.outage(design_id)
        grip = lambda name: self.the(f"[data-test=grip-{name}]")  # noqa: E731
        grip("end").send_keys(Keys.ARROW_RIGHT, Keys.PAGE_UP)
        self.until(lambda: self.outage(design_id)["duration_h"] == before["duration_h"] + 25)
        self.assertEqual(grip("end").get_attribute("aria-valuetext"), f"{before['duration_h'] + 25:.0f} h long")
        grip("warning").send_keys(Keys.ARROW_UP)
        self.until(lambda: self.outage(design_id)["warning_h"] == before["warning_h"] + 1)
        grip("start").send_keys(Keys.ARROW_LEFT)
        earlier = (datetime.fromisoformat(before["start"]) - timedelta(hours=1)).isoformat()
        self.until(lambda: self.outage(design_id)["start"] == earlier)
        self.until_saved()
        chain = ActionChains(self.driver, 20).move_to_element(grip("end").find_element(By.CSS_SELECTOR, ".bar"))
        chain.click_and_hold().move_by_offset(-60, 0).release().perform()
        self.until(lambda: self.outage(design_id)["duration_h"] < before["duration_h"] + 25)
        self.assertEqual(self.outage(design_id)["duration_h"] % 1, 0)
        grip("warning").send_keys(Keys.HOME)
        self.until(lambda: self.outage(design_id)["warning_h"] == 0)
        # Each drag is one edit.
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until(lambda: self.outage(design_id)["warning_h"] == before["warning_h"] + 1)

    def test_air_is_dragged_up_and_down_and_stepped_by_keys(self):
        design_id = self.fresh("storm")
        days = self.outage(design_id)["days"]
        lane = self.lane("air")
        lane.send_keys(Keys.HOME, Keys.ARROW_UP)
        # A degree Fahrenheit up, from the whole one nearest to what was entered.
        warmer_c = (round(days[0]["air_temp_c"] * 1.8 + 32) + 1 - 32) / 1.8
        self.until(lambda: abs(self.outage(design_id)["days"][0]["air_temp_c"] - warmer_c) < 1e-3)
        self.assertEqual(self.outage(design_id)["days"][1:], days[1:])
        lane.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT, Keys.NULL)
        self.until(lambda: abs(self.outage(design_id)["days"][1]["air_temp_c"] - warmer_c) < 1e-3)
        before_c = [day["air_temp_c"] for day in self.outage(design_id)["days"]]
        box = lane.rect
        # From near the foot of the first full day up to the lane's head on the last: both take the last height.
        chain = ActionChains(self.driver, 20).move_to_element_with_offset(lane, round(-0.2 * box["width"]), 15)
        chain.click_and_hold().move_to_element_with_offset(lane, round(0.48 * box["width"]), -18).release().perform()
        self.until(lambda: self.outage(design_id)["days"][-1]["air_temp_c"] > before_c[-1] + 5)
        now_c = [day["air_temp_c"] for day in self.outage(design_id)["days"]]
        self.assertEqual(now_c[2], now_c[3])
        self.assertEqual(now_c[0], before_c[0])
        self.assertIn("°F", lane.get_attribute("aria-valuetext"))

    def test_fuel_and_a_car_are_asked_where_something_needs_them(self):
        generator = {"rated_w": 3000.0, "charger_w": 1500.0, "stock_l": 3.0, "tank_l": 3.0}
        design_id = self.fresh("storm")
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=lane-fuel], [data-test=lane-car]"), [])
        charging = {**self.birchrow["charging"], "generator": generator, "alternator": {"current_a": 40.0}}
        design_id = self.fresh("storm", charging=charging, bank={**self.birchrow["bank"], "start_soc_frac": 0.4})
        short_h = self.hours()
        self.lane("fuel").send_keys(Keys.HOME, Keys.ARROW_RIGHT, " ")
        self.until(lambda: [day["fuel"] for day in self.outage(design_id)["days"]][:3] == [False, True, False])
        self.until_hours(lambda now_h: now_h > short_h)
        self.assertIn("fuel fetched", self.the("[data-test=strip]").text)
        self.lane("car").send_keys(Keys.HOME, " ")
        self.until(lambda: self.outage(design_id)["days"][0]["car"] is False)

    def test_skies_of_a_weather_year_are_seen_not_painted(self):
        design_id = self.fresh("storm", outage={**self.birchrow["outage"], "sky_from": "year"})
        lane = self.lane("sky")
        self.assertEqual(lane.get_attribute("aria-readonly"), "true")
        days = self.outage(design_id)["days"]
        stands_at = lane.rect["y"]
        lane.send_keys(Keys.HOME, " ", "1")
        # Nor does a key that paints nothing here scroll the page away from under the hand.
        for _ in range(10):
            self.assertAlmostEqual(lane.rect["y"], stands_at, delta=8)
            time.sleep(0.02)
        self.drag(lane, 0.2, 0.9)
        self.lane("grid").send_keys(Keys.HOME, " ")
        self.until(lambda: self.outage(design_id)["grid_back"] == [[0, 1]])
        self.assertEqual(self.outage(design_id)["days"], days)


class Policy(BrowserTest):
    #: A level out of its range is refused.
    expected_in_log = ("422",)

    def test_a_reserve_for_life_and_who_starts_the_generator(self):
        generator = {
            "rated_w": 2000.0, "charger_w": 800.0, "stock_l": 20.0, "tank_l": 20.0, "start_soc_frac": 0.3,
            "stop_soc_frac": 0.8,
        }  # fmt: skip
        days = [{**day, "away": True} for day in self.birchrow["outage"]["days"]]
        design_id = self.fresh(
            "storm",
            charging={**self.birchrow["charging"], "generator": generator},
            outage={**self.birchrow["outage"], "days": days},
        )
        with_it_h = self.hours()
        self.choose("generator-starter", "Somebody at home starts it")
        self.until_hours(lambda now_h: now_h < with_it_h)
        self.fill(self.field("policy.keep_level_frac"), "50")
        self.until(lambda: "Keep to 50 %" in self.the("[data-test=strip]").text)
        self.until_saved()
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        alone_kwh = self.app.ask("POST", "api/assessments", document)["levels"]["life_alone_wh"] / 1000
        self.assertIn(f"{alone_kwh:.1f} kWh are Life’s alone", self.the("[data-test=policy-said]").text)
        self.assertEqual(document["policy"]["keep_level_frac"], 0.5)
        self.assertTrue(document["charging"]["generator"]["by_hand"])
        self.fill(self.field("policy.return_margin_frac"), "60")
        self.until(lambda: "must be 0.01 to 0.5" in self.the("[data-test=policy]").text)
