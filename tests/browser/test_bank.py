"""Bank and inverter by hand: the sheet, the arrangement, chemistries, the library, the choice of an inverter."""

import tempfile
from pathlib import Path

from selenium.webdriver.common.by import By

from tests.support.live import BrowserTest


class Bank(BrowserTest):
    def bank(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["bank"]

    def part(self, key):
        self.the(f"[data-part={key}]").click()

    def test_the_sheet_s_lines_are_open_and_its_result_can_be_taken(self):
        design_id = self.fresh("bank")
        before = self.hours()
        self.part("sheet")
        self.assertIn("10,452", self.the("[data-test=need-nominal]").text)
        self.assertIn("binds", self.the("[data-test=need-strings]").text)
        self.fill(self.named("Autonomy without sun"), "48")
        self.until(lambda: "20,903" in self.the("[data-test=need-nominal]").text)
        self.the("[data-test=take-strings]").click()
        self.until_hours(lambda hours: hours > before)
        self.assertEqual(self.bank(design_id)["parallel"], 5)
        self.until(lambda: self.maybe("[data-test=finding-BELOW_NEED]") is None)

    def test_uneven_sharing_is_drawn_told_and_mended_by_its_try(self):
        bank = {**self.birchrow["bank"], "parallel": 6, "takeoff": "one_end", "link_mohm": 1.5}
        design_id = self.fresh("bank", bank=bank)
        self.part("arrangement")
        shares = [float(text.text.rstrip(" %")) for text in self.driver.find_elements(By.CSS_SELECTOR, "svg .label")]
        self.assertEqual((len(shares), shares), (6, sorted(shares, reverse=True)))
        self.assertAlmostEqual(sum(shares), 100, delta=0.5)
        finding = self.the("[data-test=finding-UNEVEN_SHARING]")
        finding.find_element(By.CSS_SELECTOR, ".try").click()
        self.until(lambda: self.maybe("[data-test=finding-UNEVEN_SHARING]") is None)
        self.assertEqual(self.bank(design_id)["takeoff"], "equal_leads")

    def test_where_strings_do_not_help_the_sheet_takes_other_leads_with_them(self):
        bank = {**self.birchrow["bank"], "takeoff": "one_end", "link_mohm": 20.0, "unit_max_discharge_a": 5.0}
        design_id = self.fresh("bank?part=sheet", bank=bank)
        self.assertIn("on equal leads", self.the("[data-test=need-result]").text)
        self.the("[data-test=take-strings]").click()
        self.until(lambda: self.maybe("[data-test=take-strings]") is None)
        self.until(lambda: self.maybe("[data-test=finding-BELOW_NEED]") is None)
        self.assertEqual(self.bank(design_id)["takeoff"], "equal_leads")

    def test_a_part_that_is_not_there_shows_the_first(self):
        self.fresh("bank?part=cellar")
        self.assertEqual(self.the("[role=tab][aria-selected=true]").text, "Unit")
        self.the("[data-test=open-library]")

    def test_the_sheet_carries_other_tiers_and_says_what_is_there(self):
        self.fresh("bank?part=sheet")
        self.assertIn("2 are there", self.the("[data-test=need-result]").text)
        drawn = self.the("[data-test=need-nominal]").text
        self.fill(self.named("Autonomy without sun"), "12")
        self.until(lambda: self.the("[data-test=need-nominal]").text != drawn)
        self.assertIn("Autonomy", self.the("[data-test=need-sheet]").text)

    def test_voltages_side_by_side_say_what_each_means(self):
        self.fresh("bank?part=arrangement")
        rows = self.driver.find_elements(By.CSS_SELECTOR, "[data-test=voltages] tbody tr")
        self.assertEqual(len(rows), 3)
        amps = [float(row.find_elements(By.TAG_NAME, "td")[1].text.rstrip(" A").replace(",", "")) for row in rows]
        self.assertEqual(amps, sorted(amps, reverse=True))
        self.assertEqual(sum("this bank" in row.text for row in rows), 1)

    def test_units_to_be_added_that_do_not_fit_are_refused_with_the_reason(self):
        design_id = self.fresh("bank?part=arrangement")
        self.the("[data-test='has-bank.addition']").click()
        self.the("[data-test=finding-ADDITION_FITS]")
        self.fill(self.field("bank.addition.unit_v"), "12.8")
        self.assertIn("Not counted", self.the("[data-test=finding-MIXED_VOLTAGE]").text)
        self.the("[data-test=finding-MIXED_VOLTAGE] .try").click()
        self.until(lambda: self.maybe("[data-test=finding-MIXED_VOLTAGE]") is None)
        self.assertIsNone(self.bank(design_id)["addition"])

    def test_life_follows_use_and_depth(self):
        self.fresh("bank?part=place")
        self.assertIn("by the calendar", self.the("[data-test=life-years]").text)
        # 365 cycles a year at 80 % outlast the calendar's 15 years. Full depth is held at 90 % by the cut-off.
        self.fill(self.field("bank.need.cycles_per_year"), "365")
        self.until_saved()
        self.assertIn("by the calendar", self.the("[data-test=life-years]").text)
        self.fill(self.field("bank.depth_frac"), "100")
        self.until(lambda: "4,000 cycles" in self.the("[data-test=life-years]").text)
        self.assertEqual(self.the("[data-test=life-years]").text.split()[0], "11.0")

    def test_another_chemistry_moves_the_strip_and_its_checks(self):
        design_id = self.fresh("bank")
        before = self.hours()
        self.part("chemistry")
        self.named("Take AGM lead-acid at 50 %").click()
        self.until_hours(lambda hours: hours < before)
        self.the("[data-test=finding-LEAD_ACID_UNVENTILATED]")
        self.assertEqual((self.bank(design_id)["chemistry"], self.bank(design_id)["depth_frac"]), ("agm", 0.5))
        self.part("place")
        self.assertIn("m³/h", self.the("[data-test=ventilation]").text)
        self.fill(self.the("[data-test=rest-volts] input, input[data-test=rest-volts]"), "52.5")
        self.until(lambda: "% full" in self.the("[data-test=rest-answer]").text)

    def test_a_freezing_place_stops_the_charge_and_a_heater_brings_it_back(self):
        self.fresh("bank", bank={**self.birchrow["bank"], "temp_c": -6.0})
        finding = self.the("[data-test=finding-LFP_NO_CHARGE_IN_COLD]")
        finding.find_element(By.CSS_SELECTOR, ".try").click()
        self.until(lambda: self.maybe("[data-test=finding-LFP_NO_CHARGE_IN_COLD]") is None)
        self.part("place")
        self.assertTrue(self.the("[data-test='has-bank.heater']").is_selected())

    def test_a_unit_is_sought_and_taken_and_then_cannot_be_deleted(self):
        self.expected_in_log = ("409",)
        design_id = self.fresh("bank")
        self.the("[data-test=open-library]").click()
        self.the("[data-test=library-search]").send_keys("lfp 51.2v 200ah")
        self.until(lambda: self.the("[data-test=library-total]").text == "1 of 1")
        self.named("Take LFP wall unit 51.2 V 200 Ah").click()
        self.until(lambda: self.bank(design_id)["unit_ah"] == 200)
        self.assertEqual(self.bank(design_id)["unit"]["library_id"], "lfp-48-200")
        self.assertEqual(self.bank(design_id)["parallel"], 2)
        self.the("[data-test=open-library]").click()
        self.named("Delete LFP wall unit 51.2 V 200 Ah").click()
        self.until(lambda: "The unit is used in A copy of Birchrow" in self.the("[data-test=library]").text)

    def test_a_csv_with_a_faulty_row_fills_the_library_with_the_rest(self):
        self.fresh("bank")
        self.the("[data-test=open-library]").click()
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "own.csv"
            path.write_text(
                "library_id,name,chemistry,unit_v,unit_ah\nown-1,Own block,agm,12,77\nown-2,Bad block,agm,twelve,77\n"
            )
            self.the("[data-test=library-file]").send_keys(str(path))
            self.until(lambda: "1 units taken" in self.the("[data-test=library]").text)
        self.assertIn("Row 3, unit_v: read “twelve”, expected a number", self.the("[data-test=library]").text)


class InverterPage(BrowserTest):
    def test_the_ranked_choice_says_why_and_is_taken_whole(self):
        design_id = self.fresh("inverter")
        before = self.hours()
        self.the("[data-part=choice]").click()
        self.until(lambda: "too small" in self.the("[data-test=ranked]").text)
        self.assertIn("the house has 120/240 V", self.the("[data-test=ranked]").text)
        self.named("Take Inverter-charger 48 V 3 kW").click()
        self.until_hours(lambda hours: hours > before)
        self.until_saved()
        inverter = self.app.ask("GET", f"api/designs/{design_id}")["document"]["inverter"]
        self.assertEqual((inverter["sheet"]["library_id"], inverter["surge_w"]), ("c48-3000", 7500))

    def test_two_units_leave_something_when_one_fails(self):
        self.fresh("inverter")
        self.assertIn("no tier fits", self.the("[data-test=one-failed]").text)
        self.fill(self.field("inverter.units"), "2")
        self.until(lambda: "life, keep" in self.the("[data-test=one-failed]").text)
        self.the("[data-test=finding-ONE_FAULT_CARRIED]")

    def test_off_at_night_is_priced_and_taken(self):
        self.fresh("inverter")
        self.the("[data-test=off-at-night]").click()
        # The CPAP is fed by the inverter at night: the house is dark at 22.
        self.until_hours(lambda hours: hours == 5)
