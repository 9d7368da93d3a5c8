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
