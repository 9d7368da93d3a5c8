"""The site's place: a town found by name, by keys alone; a place of one's own stands as typed."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest


class Place(BrowserTest):
    def site(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["site"]

    def type(self, text):
        field = self.field("site.place")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)
        return field

    def test_a_town_by_keys_fills_position_and_standard_time_as_one_edit(self):
        design_id = self.fresh("storm")
        field = self.type("springfield, ill")
        self.until(lambda: "Springfield, Illinois" in self.the("[data-test=towns]").text)
        field.send_keys(Keys.ARROW_DOWN, Keys.ENTER)
        self.until(lambda: self.site(design_id)["place"] == "Springfield, Illinois")
        site = self.site(design_id)
        self.assertAlmostEqual(site["latitude_deg"], 39.8, delta=0.05)
        self.assertAlmostEqual(site["longitude_deg"], -89.64, delta=0.05)
        self.assertEqual(site["utc_offset_h"], -6.0)
        # One edit: one undo brings all of it back.
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until(lambda: self.site(design_id)["place"] == "Birchrow Terrace 14")
        self.assertEqual(self.site(design_id)["latitude_deg"], 44.6)

    def test_a_place_that_is_no_town_stands_as_typed_and_moves_nothing(self):
        design_id = self.fresh("storm")
        self.type("Upper Birchrow, behind the mill").send_keys(Keys.ENTER)
        self.until(lambda: self.site(design_id)["place"] == "Upper Birchrow, behind the mill")
        self.assertEqual(self.site(design_id)["latitude_deg"], 44.6)
        self.assertEqual(self.field("site.place").get_attribute("value"), "Upper Birchrow, behind the mill")
