"""The generator by hand: put in, seen on the strip, quiet hours painted, sizes compared."""

from tests.support.live import BrowserTest


class GeneratorPage(BrowserTest):
    def test_a_generator_carries_the_house_through_and_its_fuel_is_told(self):
        design_id = self.fresh("charging?part=generator")
        self.assertLess(self.hours(), 40)
        self.the("[data-test='has-charging.generator']").click()
        carried = self.until_hours(lambda hours: hours > 50)
        self.until(lambda: "gal" in self.the("[data-test=generator-facts]").text)
        self.assertIn("generator", self.the("[data-test=legend]").text)
        self.the("[data-test=finding-GENERATOR_CO]")
        self.until(lambda: "sized to charge" in self.the("[data-test=generator-choices]").text)
        # A thimble of fuel does not last; the finding's Try brings enough.
        self.fill(self.field("charging.generator.stock_l"), "0.3")
        self.until_hours(lambda hours: hours < carried - 5)
        self.until_saved()
        finding = self.the("[data-test=finding-OUT_OF_FUEL]")
        finding.find_element("css selector", ".try").click()
        self.until(lambda: self.maybe("[data-test=finding-OUT_OF_FUEL]") is None)
        self.until_saved()
        stored = self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]["generator"]
        self.assertGreater(stored["stock_l"], 1.1)
        self.the("[data-test='has-charging.generator']").click()
        self.until_hours(lambda hours: hours < 40)

    def test_one_too_small_for_the_house_is_put_on_its_charger_alone(self):
        unit = {"rated_w": 900.0, "stock_l": 20.0, "charger_w": 600.0, "start_soc_frac": 0.5, "stop_soc_frac": 0.8}
        design_id = self.fresh("charging?part=generator", charging={**self.birchrow["charging"], "generator": unit})
        dark = self.hours()
        self.assertIn("+", self.the("[data-test=generator-facts] div:last-child dd").text)
        self.the("[data-test=finding-GENERATOR_DARKENS] .try").click()
        self.until_hours(lambda hours: hours > dark)
        self.assertIn("on the inverter still", self.the("[data-path='charging.generator.charges_only']").text)
        self.until(lambda: self.maybe("[data-test=finding-GENERATOR_DARKENS]") is None)
        self.assertIn("−", self.the("[data-test=generator-facts] div:last-child dd").text)
        # One that carries the house is taken with all that belongs to it.
        self.named("Take the one sized to carry the house").click()
        self.until_saved()
        stored = self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]["generator"]
        self.assertGreater(stored["rated_w"], 2000)
        self.assertFalse(stored["charges_only"])

    def test_fuel_that_ends_says_what_would_be_burnt(self):
        unit = {"rated_w": 3000.0, "stock_l": 1.0, "charger_w": 600.0, "start_soc_frac": 0.5, "stop_soc_frac": 0.8}
        self.fresh("charging?part=generator", charging={**self.birchrow["charging"], "generator": unit})
        self.assertRegex(self.the("[data-test=generator-facts]").text, r"of 0\.3 gal\s+asks for \d")
        self.the("[data-test=finding-OUT_OF_FUEL] .try").click()
        self.until(lambda: "asks for" not in self.the("[data-test=generator-facts]").text)
