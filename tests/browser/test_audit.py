"""The audit by hand: readings, moves between tiers, many rows at once, the starter list, what-if."""

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest


class Audit(BrowserTest):
    def loads(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]

    def number(self, test_id, text):
        field = self.the(f"[data-test={test_id}] input, input[data-test={test_id}]")
        self.fill(field, text)

    def test_a_meter_reading_sets_watts_and_duty_and_shows_its_working(self):
        design_id = self.fresh()
        self.named("More of Sump pump, 1/3 hp").click()
        self.choose("known-kind", "Plug-in meter over hours")
        self.until(lambda: self.the("[data-test=known-energy_kwh]"))
        self.number("known-energy_kwh", "0.9")
        self.until(lambda: "0.9" in self.the("[data-test=explanation]").text)
        self.assertIn("kWh × 1,000 ÷ hours", self.the("[data-test=reading-editor]").text)
        sump = next(load for load in self.loads(design_id) if load["id"] == "sump")
        self.assertEqual(sump["known"]["energy_kwh"], 0.9)
        self.assertAlmostEqual(sump["duty_frac"] * sump["running_w"], 37.5, places=3)
        self.until(lambda: self.the("[data-test=load-sump] [data-quality]").get_attribute("data-quality") == "measured")
        # Watts typed over it no longer rest on the meter.
        self.fill(self.named("Sump pump, 1/3 hp: running watts"), "700")
        self.until(lambda: self.the("[data-test=load-sump] [data-quality]").get_attribute("data-quality") == "guess")

    def test_an_impossible_reading_is_told_and_not_taken(self):
        self.expected_in_log = ("422",)
        self.fresh()
        self.named("More of Heating circulators").click()
        self.number("known-power_factor", "1.4")
        self.until(lambda: "power_factor must be 0.1 to 1 (got 1.4)" in self.the("[data-test=reading-editor]").text)

    def test_rows_move_by_keys_within_and_between_tiers(self):
        design_id = self.fresh()
        cell = self.named("Name of Sump pump, 1/3 hp")
        cell.send_keys(Keys.ALT, Keys.ARROW_UP)
        self.until(lambda: self.driver.switch_to.active_element.get_attribute("value") == "Sump pump, 1/3 hp")
        self.assertEqual(next(load for load in self.loads(design_id) if load["id"] == "sump")["tier"], "life")
        self.press(Keys.ALT, "3")
        self.until(lambda: next(load for load in self.loads(design_id) if load["id"] == "sump")["tier"] == "ease")
        names = [load["name"] for load in self.loads(design_id) if load["tier"] == "ease"]
        self.assertEqual(names[-1], "Sump pump, 1/3 hp")

    def test_several_rows_are_selected_moved_and_deleted_with_undo(self):
        design_id = self.fresh()
        self.named("Select LED lamps").click()
        last = self.named("Select Television")
        ActionChains(self.driver).key_down(Keys.SHIFT).click(last).key_up(Keys.SHIFT).perform()
        self.assertIn("3 rows", self.the("[data-test=selected-rows]").text)
        self.button("Spare").click()
        self.until(lambda: [load["tier"] for load in self.loads(design_id)].count("spare") == 4)
        self.the("[data-test=delete-selected]").click()
        self.until(lambda: len(self.loads(design_id)) == 8)
        self.the("[data-test=undo]").click()
        self.until(lambda: len(self.loads(design_id)) == 11)

    def test_a_typical_device_is_sought_with_the_slash_and_added_as_a_guess(self):
        design_id = self.fresh()
        self.driver.find_element(By.TAG_NAME, "body").send_keys("/")
        self.press("freezer chest")
        self.until(lambda: "typical: 80-150 W" in self.the(".v-overlay--active .v-list-item").text)
        self.press(Keys.ENTER)
        self.until(lambda: len(self.loads(design_id)) == 12)
        added = self.loads(design_id)[-1]
        self.assertEqual((added["name"], added["known"]), ("Chest freezer", {"kind": "typical"}))

    def test_another_in_its_place_is_priced_before_it_is_taken(self):
        design_id = self.fresh()
        before = self.hours()
        self.named("More of Fridge-freezer").click()
        self.number("replace-watts", "55")
        gain = self.until(lambda: self.the("[data-test=replaced] .price").text)
        self.assertTrue(gain.startswith("+"), gain)
        self.assertEqual(self.hours(), before)
        self.assertEqual(next(load for load in self.loads(design_id) if load["id"] == "fridge")["running_w"], 120)
        self.the("[data-test=take-replacement]").click()
        self.until_hours(lambda hours: hours > before)
        self.assertEqual(next(load for load in self.loads(design_id) if load["id"] == "fridge")["running_w"], 55)

    def test_the_trade_s_own_check_values_come_out_on_the_page(self):
        # Common practice, no source: the same rows as in tests/published/test_common_practice.py.
        self.fresh(loads=[])
        self.driver.find_element(By.TAG_NAME, "body").send_keys("n")
        expected = 0
        for line, daily_wh in (
            ("lamp 10W 0-8", 80),
            ("fan 35W 0-8", 280),
            ("2x light 6W 0-5", 60),
            ("tv 65W 0-3", 195),
            ("laptop 80W 0-4", 320),
            ("router 6W", 144),
            ("fridge 300kWh/year 120W", 822),
        ):
            self.press(line, Keys.ENTER)
            expected += daily_wh
            self.until(
                lambda expected=expected: self.the("[data-test='explain-loads.daily_wh']").text == f"{expected:,}"
            )
        # 719 Wh of those are the four-load example; the lamp and fan are 360.
        self.assertEqual(expected, 360 + 719 + 822)

    def test_the_ledger_shows_amp_hours_and_opens_a_total(self):
        self.fresh()
        self.the("[data-test=energy-unit]").click()
        self.assertEqual(self.the("[data-test=energy-unit]").text, "Ah/day")
        self.assertIn(".", self.the("[data-test='explain-loads.tier.keep']").text)
        self.the("[data-test='explain-loads.tier.keep']").click()
        self.until(lambda: "Fridge-freezer" in self.the("[data-test=explanation]").text)

    def test_nobody_home_and_dark_days_change_the_outage(self):
        self.fresh()
        before = self.hours()
        self.named("More of Oil boiler and burner").click()
        self.choose("dark-day", "is dropped")
        self.until_hours(lambda hours: hours > before)
        self.the("[data-test=rail-storm]").click()
        self.the("[data-test=away-1]").click()
        self.the("[data-test=rail-loads]").click()
        self.the("[data-test=finding-AWAY_STILL_RUNS]")
