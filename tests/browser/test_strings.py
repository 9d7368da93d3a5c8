"""Panels and strings by hand: known panels, the cold morning that destroys a controller, and the Try that saves it."""

from tests.support.live import BrowserTest


class Strings(BrowserTest):
    def test_panels_become_known_without_moving_the_strip_and_a_long_string_is_stopped(self):
        design_id = self.fresh("charging")
        before = self.hours()
        self.the("[data-test='has-charging.controllers.0.arrays.0.module']").click()
        self.until(lambda: "no string fuses" in self.the("[data-test=string-report]").text)
        self.assertEqual(self.hours(), before)
        self.fill(self.field("charging.controllers.0.max_input_v"), "150")
        stop = self.the("[data-test=finding-COLD_VOC_OVER_LIMIT]")
        self.assertIn("178 V in the cold", stop.text)
        self.until_saved()
        self.the("[data-test=finding-COLD_VOC_OVER_LIMIT] .try").click()
        self.until(lambda: self.maybe("[data-test=finding-COLD_VOC_OVER_LIMIT]") is None)
        self.until_saved()
        array = self.app.ask("GET", f"api/designs/{design_id}")["document"]["charging"]["controllers"][0]["arrays"][0]
        self.assertEqual(array["series"], 2)
        self.the("[data-test=finding-ARRAY_POWER_DIFFERS]")
