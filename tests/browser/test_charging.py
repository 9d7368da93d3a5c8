"""Charging by hand: shade and snow of an array, a panel from the library, weather files, the other sources, set points."""

import json
import tempfile
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.support.designs import ROOT
from tests.support.live import BrowserTest, resize
from tests.support.weather import epw_lines, joined


def neighbour() -> dict:
    """The demo home with two roofs and a generator."""
    return json.loads((ROOT / "examples" / "birchrow-16.json").read_text())


class ChargingPage(BrowserTest):
    expected_in_log = ("422", "409")

    def charging(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]

    def test_shade_is_drawn_by_key_and_snow_is_cleared_by_hand(self):
        design_id = self.fresh("charging")
        self.the("[data-test=place-south-roof] summary").click()
        shade = self.named("Shade on South roof by hour")
        shade.click()
        # A click draws at its place; from there by keys: noon, up to all of it, and the hour after as well.
        shade.send_keys(Keys.HOME, *[Keys.ARROW_RIGHT] * 12)
        for _ in range(4):
            shade.send_keys(Keys.ARROW_UP)
        self.until(lambda: shade.get_attribute("aria-valuetext") == "12 o’clock: 100 % of the sun taken")
        self.until(lambda: "of a clear day" in self.the("[data-test=place-south-roof] summary").text)
        array = self.charging(design_id)["controllers"][0]["arrays"][0]
        self.assertEqual(array["shade_frac"][12], 1)
        self.the("[data-test=finding-SNOW_LIES] .try").click()
        self.until(lambda: "snow cleared at 10:00" in self.the("[data-test=place-south-roof] summary").text)

    def test_a_panel_from_the_library_fills_its_sheet_and_the_watts(self):
        design_id = self.fresh("charging")
        self.the("[data-test=choose-south-roof]").click()
        search = self.the("[data-test=library-search]")
        search.send_keys("430w")
        self.until(lambda: self.the("[data-test=library-total]").text == "1 of 1")
        self.named("Take House panel 430 W both sides").click()
        self.until(lambda: self.field("charging.controllers.0.arrays.0.stc_w").get_attribute("value") == "430")
        array = self.charging(design_id)["controllers"][0]["arrays"][0]
        self.assertEqual((array["module"]["library_id"], array["power_temp_coeff_per_c"]), ("h430b", -0.003))

    def test_a_spoilt_weather_file_is_refused_and_a_good_one_becomes_the_sky(self):
        design_id = self.fresh("charging?part=year")
        self.until(lambda: "Panels there" in self.the("[data-test=array-sums]").text)
        self.assertIn("The quick sum counts the loads alone", self.the("[data-test=difference]").text)
        with tempfile.TemporaryDirectory() as folder:
            spoilt, good = Path(folder) / "cut short.epw", Path(folder) / "whole.epw"
            spoilt.write_bytes(joined(epw_lines()[:3000]))
            good.write_bytes(joined(epw_lines()))
            self.driver.find_element("css selector", "[data-test=weather-file]").send_keys(str(spoilt))
            self.until(
                lambda: (
                    self.the("[data-test=weather-trouble]").text
                    == "cut short.epw. Line 3,000: the file ends after 2,992 of 8,760 hours. "
                    "Take an EPW or TMY3 file of a whole year of 8,760 hours."
                )
            )
            self.driver.find_element("css selector", "[data-test=weather-file]").send_keys(str(good))
            self.until(lambda: self.the("[data-test=weather-year]").get_attribute("value").startswith("wy-"))
        self.until_saved()
        self.the("[data-test=sky-from-year]").click()
        self.until_saved()
        stored = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        self.assertEqual(stored["outage"]["sky_from"], "year")
        self.assertTrue(stored["site"]["weather_year"].startswith("wy-"))
        self.open(design_id, "storm")
        self.assertFalse(self.named("Tue 13 Jan: Overcast").is_enabled())
        self.the("[data-test=skies-from-year] button").click()
        self.until(lambda: self.named("Tue 13 Jan: Overcast").is_enabled())
        # Stored once for all designs: while this one uses it, it cannot be taken out.
        self.until_saved()
        self.open(design_id, "charging?part=year")
        self.the("[data-test=stored-years] summary").click()
        self.named("Delete Made Up").click()
        self.until(lambda: "is used in A copy of Birchrow" in self.the("[data-test=weather-trouble]").text)
        self.button("Back to made up").click()
        self.until(lambda: self.the("[data-test=weather-year]").get_attribute("value") == "")
        self.until_saved()
        self.named("Delete Made Up").click()
        self.until(lambda: self.maybe("[data-test=stored-years]") is None)

    def test_the_daily_curve_sets_two_directions_beside_one(self):
        self.fresh("charging?part=day", charging=neighbour()["charging"])
        text = self.until(lambda: self.the("[data-test=curve-table]").text)
        for words in ("All together", "East roof", "West roof", "All panels as the largest array stands", "overcast"):
            self.assertIn(words, text)
        self.assertEqual(
            len(self.driver.find_elements("css selector", "[data-test=day-curve] [data-test=chart-plot] .line.ink")), 3
        )

    def test_a_chart_is_read_by_keys_by_hovering_and_as_a_table(self):
        self.fresh("charging?part=day")
        plot = self.the("[data-test=day-curve] [data-test=chart-plot]")
        reading = "[data-test=day-curve] [data-test=chart-reading]"
        plot.send_keys(Keys.HOME)
        self.assertIn("0:00", self.the(reading).text)
        plot.send_keys(Keys.ARROW_RIGHT, Keys.SHIFT, Keys.ARROW_RIGHT)
        self.assertIn("1:15", self.the(reading).text)
        self.assertIn("1:15", plot.get_attribute("aria-valuetext"))
        plot.send_keys(Keys.END)
        self.assertIn("23:45", self.the(reading).text)
        plot.send_keys(Keys.ESCAPE)
        self.assertNotIn("23:45", self.the(reading).text)
        ActionChains(self.driver).move_to_element(plot).perform()
        self.until(lambda: "11:" in self.the(reading).text or "12:" in self.the(reading).text)
        self.the("[data-test=day-curve] .as-table").click()
        rows = self.driver.find_elements("css selector", "[data-test=day-curve] [data-test=chart-table] tbody tr")
        self.assertEqual(len(rows), 24)
        noon = next(row.text for row in rows if row.text.startswith("12:00"))
        self.assertRegex(noon, r"12:00 [1-9]")

    def test_pictures_grow_with_the_window(self):
        self.fresh("charging?part=day")
        plot = "[data-test=day-curve] [data-test=chart-plot]"
        narrow = self.the(plot).size["width"]
        resize(self.driver, 1920, 1080)
        self.addCleanup(resize, self.driver, 1280, 800)
        self.until(lambda: self.the(f"{plot} svg").size["width"] > narrow + 500)

    def test_the_other_sources_their_worth_and_the_habits(self):
        design_id = self.fresh("charging?part=others")
        self.the("[data-test='has-charging.wind']").click()
        self.until(lambda: "Wind turbine" in self.the("[data-test=values]").text)
        self.fill(self.field("charging.wind.price"), "900")
        self.until(lambda: "900" in self.the("[data-test=values]").text)
        self.until(lambda: "One at a time" in self.the("[data-test=habits]").text)
        self.the("[data-test='has-charging.alternator']").click()
        self.the("[data-test=finding-ALTERNATOR]")
        hours = self.named("Alternator: driven, hour by hour")
        hours.send_keys(Keys.HOME, " ")
        self.the("[data-test=one-source]").click()
        charging = self.charging(design_id)
        self.assertTrue(charging["one_source"])
        self.assertEqual(charging["alternator"]["driven_hours"], [[0, 1], [17, 18]])
        self.assertIn("other sources", self.the("[data-test=legend]").text)

    def test_a_bank_kept_low_is_not_full_in_time_and_the_try_brings_a_charger_that_is(self):
        self.fresh("charging?part=grid")
        self.fill(self.field("charging.grid_charger.top_up_soc_frac"), "40")
        self.until(lambda: "full in time" in self.the("[data-test=fill]").text)
        self.fill(self.field("outage.warning_h"), "1")
        self.until(lambda: "not full in time" in self.the("[data-test=fill]").text)
        self.the("[data-test=finding-FILL_TOO_SLOW] .try").click()
        self.until(lambda: self.maybe("[data-test=finding-FILL_TOO_SLOW]") is None)

    def test_set_points_follow_the_chemistry_and_a_wrong_one_is_stopped(self):
        self.fresh("charging?part=stages")
        self.until(lambda: "55.2–57.6 V" in self.the("[data-test=stages]").text)
        self.fill(self.field("charging.stages.absorb_v"), "61")
        self.the("[data-test=finding-ABSORB_TOO_HIGH] .try").click()
        self.until(lambda: self.field("charging.stages.absorb_v").get_attribute("value") == "")
        self.fill(self.field("charging.stages.over_voltage_v"), "2000")
        frame = self.field("charging.stages.over_voltage_v").find_element("xpath", "ancestor::td")
        self.until(lambda: "1000" in frame.text.replace(",", ""))
