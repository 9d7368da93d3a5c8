"""The family's card on a phone, and Watch beside it: opened once they open again while nothing answers."""

from selenium.webdriver.common.by import By

from tests.support.built import outage_on
from tests.support.live import BrowserTest, OwnServerTest, resize


class TheCard(BrowserTest):
    def test_it_is_read_without_a_rail_in_large_type_and_nothing_sticks_out(self):
        design_id = self.fresh(
            "watch", papers={"contacts": [{"role": "Neighbour", "name": "Mo", "reach": "555 010 0199"}]}
        )
        self.the("[data-test=to-card]").click()
        self.the("[data-test=family-card] h1")
        resize(self.driver, 390, 844)
        self.addCleanup(resize, self.driver, 1280, 800)
        self.assertIn(f"/designs/{design_id}/card", self.driver.current_url)
        self.assertIsNone(self.maybe(".rail"))
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=card-steps] li")), 3)
        call = self.the(".calls a")
        self.assertEqual(call.get_attribute("href"), "tel:5550100199")
        self.assertGreaterEqual(call.rect["height"], 44)
        size = self.driver.execute_script(
            "return parseFloat(getComputedStyle(document.querySelector('.steps')).fontSize)"
        )
        self.assertGreaterEqual(size, 20)
        self.assertEqual(self.driver.execute_script("return document.scrollingElement.scrollWidth"), 390)

    def test_it_stands_in_the_household_s_language_and_in_english(self):
        design_id = self.fresh("papers")
        self.the("[data-test=contacts] summary").click()
        self.choose("household-language", "Polski, and English")
        stored = f"api/designs/{design_id}"
        self.until(lambda: self.app.ask("GET", stored)["document"]["papers"].get("household_language") == "pl")
        self.driver.get(f"{self.app.address}designs/{design_id}/card")
        self.until(lambda: "Gdy zabraknie" in self.the("[data-test=family-card] h1").text)
        self.assertEqual(self.the("[data-test=family-card]").get_attribute("lang"), "pl")
        self.the("[data-test=card-language]").click()
        self.until(lambda: "When the power goes out" in self.the("[data-test=family-card] h1").text)


class WithoutAServer(OwnServerTest):
    def test_card_and_watch_open_again_while_nothing_answers_and_go_on_after_it(self):
        design_id = self.fresh("watch")
        place = self.app.ask("POST", f"api/designs/{design_id}/installations", {"name": "Birchrow, cellar"})["id"]
        offset_h = self.app.ask("GET", f"api/designs/{design_id}")["document"]["site"]["utc_offset_h"]
        outage_on(self.app, place, offset_h=offset_h, since_h=19, help_in_h=41, charge=71.0)
        self.driver.refresh()
        self.until(lambda: "Outage since" in self.the("[data-test=watch-phase]").text)
        card = f"{self.app.address}designs/{design_id}/card"
        self.driver.get(card)
        self.until(lambda: "Kept on this device" in self.the("[data-test=card-kept]").text)
        # Opened once more under the service worker, so that it has heard the answers.
        self.driver.refresh()
        self.until(lambda: "Kept on this device" in self.the("[data-test=card-kept]").text)
        self.open(design_id, "watch")
        self.until(lambda: "Outage since" in self.the("[data-test=watch-phase]").text)
        number = self.the("[data-test=left-keep] strong").text
        self.app.kill()

        self.driver.get(card)
        self.until(lambda: "Nothing answers" in self.the("[data-test=card-kept]").text)
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=card-steps] li")), 3)
        self.assertIn("It lasts", self.the("[data-test=card-live]").text)
        self.driver.get(f"{self.app.address}designs/{design_id}/watch")
        self.until(lambda: self.maybe("[data-test=watch-away]"), within_s=30)
        self.assertEqual(self.the("[data-test=left-keep] strong").text[:2], number[:2])
        self.fill(self.the("[data-test=tell-charge] input"), "64")
        self.until(lambda: "1 entry" in self.the("[data-test=watch-outbox]").text)
        # The page is closed and opened again: what was told still waits.
        self.driver.get(card)
        self.driver.get(f"{self.app.address}designs/{design_id}/watch")
        self.until(lambda: "1 entry" in self.the("[data-test=watch-outbox]").text, within_s=30)

        self.app.start()
        self.until(lambda: self.maybe("[data-test=watch-outbox]") is None, within_s=60)
        self.until(lambda: "64 %" in self.the("[data-test=watch-now]").text, within_s=30)
        kept = self.app.ask("GET", f"api/installations/{place}/entries?kind=reading")
        self.assertEqual([each["body"]["values"] for each in kept], [{"charge": 64.0}])
