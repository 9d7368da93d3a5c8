"""Controllers, arrays and what stands around them by hand: put in, taken out, undone, kept in the library, explained."""

import json

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.designs import ROOT
from tests.support.live import BrowserTest


def example(name: str) -> dict:
    return json.loads((ROOT / "examples" / f"{name}.json").read_text())


class Controllers(BrowserTest):
    def controllers(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]["controllers"]

    def count(self, selector):
        return len(self.driver.find_elements(By.CSS_SELECTOR, selector))

    def test_a_second_controller_with_its_array_comes_goes_and_comes_back(self):
        design_id = self.fresh("charging")
        before = self.the("[data-test=rail-charging]").text
        self.button("Add a controller").click()
        self.until(lambda: self.count("section.controller") == 2)
        self.driver.find_elements(By.CSS_SELECTOR, "section.controller")[1].find_element(
            By.XPATH, ".//button[contains(., 'Add an array')]"
        ).click()
        # New ones face the equator, of usual panels, and count at once.
        self.until(lambda: self.the("[data-test=rail-charging]").text != before)
        made = self.controllers(design_id)[1]
        self.assertEqual((made["kind"], made["arrays"][0]["azimuth_deg"]), ("mppt", 180))
        self.named("Remove Controller 2").click()
        self.until(lambda: self.the("[data-test=rail-charging]").text == before)
        self.the("[data-test=undo]").click()
        self.until(lambda: self.count("section.controller") == 2)
        self.assertEqual(len(self.controllers(design_id)), 2)

    def test_without_a_controller_a_panel_feeds_its_loads_and_leaves_the_bank_alone(self):
        cart = example("relay-cart")
        self.fresh("charging", charging=cart["charging"], loads=cart["loads"], bank=cart["bank"])
        table = self.the("[data-test=straight]").text
        self.assertIn("Run by the sun", table)
        direct = self.driver.find_elements(By.CSS_SELECTOR, "section.controller")[1]
        self.assertNotIn("Output", direct.text)
        self.assertNotIn("all-in-one", direct.text)

    def test_a_panel_kept_in_the_library_serves_another_design(self):
        design_id = self.fresh("charging", charging=example("birchrow-16")["charging"])
        name = self.field("charging.controllers.0.arrays.0.module.name")
        self.fill(name, "Kept by hand 400")
        self.until_saved()
        self.button("Keep in the library").click()
        self.until(
            lambda: "Kept by hand 400 stands in the library" in self.driver.find_element(By.TAG_NAME, "main").text
        )
        kept = self.controllers(design_id)[0]["arrays"][0]["module"]
        self.assertEqual(kept["library_id"], "kept-by-hand-400")
        other = self.fresh("charging")
        self.the("[data-test=choose-south-roof]").click()
        self.the("[data-test=library-search]").send_keys("kept by hand")
        self.until(lambda: self.the("[data-test=library-total]").text == "1 of 1")
        self.named("Take Kept by hand 400").click()
        self.until(lambda: self.field("charging.controllers.0.arrays.0.module.voc_v").get_attribute("value") == "37.1")
        taken = self.controllers(other)[0]["arrays"][0]["module"]
        self.assertEqual({**taken, "library_id": None}, {**kept, "library_id": None})

    def test_a_folding_panel_is_moved_and_set_out(self):
        design_id = self.fresh("charging")
        self.the("[data-test=place-south-roof] summary").click()
        self.button("Add a move").click()
        self.button("Add a move").click()
        self.until(lambda: "moved 2 times a day" in self.the("[data-test=place-south-roof] summary").text)
        self.named("Leave out the move at 12").click()
        self.the("[data-test=out-south-roof]").click()
        self.named("Hours in which South roof is set out").send_keys(Keys.HOME, " ")
        self.until(lambda: "set out 0–1 h, 9–15 h" in self.the("[data-test=place-south-roof] summary").text)
        array = self.controllers(design_id)[0]["arrays"][0]
        self.assertEqual([stand["from_hour"] for stand in array["stands"]], [15])
        self.assertEqual(array["out_hours"], [[0, 1], [9, 15]])

    def test_heat_of_the_cells_is_the_array_s_own(self):
        design_id = self.fresh("charging")
        offered = self.the("[data-test='explain-charging.offered_wh']").text
        self.the("[data-test=place-south-roof] summary").click()
        self.fill(self.field("charging.controllers.0.arrays.0.power_temp_coeff_per_c"), "-0.9")
        self.until(lambda: self.the("[data-test='explain-charging.offered_wh']").text != offered)
        array = self.controllers(design_id)[0]["arrays"][0]
        self.assertEqual(array["power_temp_coeff_per_c"], -0.009)


class Explained(BrowserTest):
    """Every figure of a part opens to a formula, its inputs and its basis, and closes again."""

    def opened(self, part):
        self.fresh(f"charging?part={part}", charging=example("birchrow-16")["charging"])
        self.until(lambda: self.driver.find_elements(By.CSS_SELECTOR, "main .ask"))
        if part == "year":
            self.the("[data-test=array-sums] .ask")
        for at in range(len(self.driver.find_elements(By.CSS_SELECTOR, "main .ask"))):
            asked = self.driver.find_elements(By.CSS_SELECTOR, "main .ask")[at]
            self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", asked)
            asked.click()
            sheet = self.the("[data-test=explanation]")
            # It comes into sight; until then it has no words.
            self.until(lambda sheet=sheet: sheet.text)
            yield asked, sheet
            self.press(Keys.ESCAPE)
            self.until(lambda: self.maybe("[data-test=explanation]") is None)

    def test_on_every_part_of_charging(self):
        least = {"sun": 6, "day": 7, "year": 14, "generator": 8, "grid": 10, "others": 8}
        for part, wanted in least.items():
            titles = set()
            for asked, sheet in self.opened(part):
                with self.subTest(part=part, figure=asked.text):
                    titles.add(self.driver.execute_script("return arguments[0].querySelector('h2').innerText", sheet))
                    formula, basis = sheet.find_elements(By.TAG_NAME, "p")
                    self.assertTrue(formula.text and basis.text)
                    self.assertTrue(sheet.find_elements(By.TAG_NAME, "tr"))
            self.assertGreaterEqual(len(titles), wanted, part)


class Practices(BrowserTest):
    def test_fuel_and_wind_are_entered_in_the_practice_and_kept_in_si(self):
        charging = example("birchrow-16")["charging"]
        for practice, volts, shown in (
            ("north_american", "120/240", ("gal", "gal/h", "mph", "5.02", "7.6")),
            ("metric_230", "230", ("L", "L/h", "m/s", "19", "3.4")),
        ):
            with self.subTest(practice):
                site = {**self.birchrow["site"], "service": volts}
                inverter = {**self.birchrow["inverter"], "output": None}
                design_id = self.fresh(
                    "charging?part=generator", charging=charging, practice=practice, site=site, inverter=inverter
                )
                volume, flow, speed, stock, wind = shown
                text = self.the("main .generator").text
                self.assertIn(volume, text.split())
                self.assertIn(flow, text.split())
                self.assertEqual(self.field("charging.generator.stock_l").get_attribute("value"), stock)
                self.fill(self.field("charging.generator.fuel_idle_l_per_h"), "0.1")
                self.until_saved()
                self.the("[data-part=others]").click()
                self.assertIn(speed, self.the("main .others").text.split())
                self.assertEqual(self.field("charging.wind.mean_m_s").get_attribute("value"), wind)
                self.fill(self.field("charging.wind.mean_m_s"), "10")
                self.until_saved()
                kept = self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]
                american = practice == "north_american"
                self.assertAlmostEqual(kept["generator"]["fuel_idle_l_per_h"], 0.3785 if american else 0.1)
                self.assertAlmostEqual(kept["wind"]["mean_m_s"], 4.4704 if american else 10.0)
