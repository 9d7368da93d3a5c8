"""A kit search on the Trials page: what is tried, its progress, the picture by keys, a kit made a design, one beside another."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.support.live import WAIT_S, BrowserTest


class KitSearches(BrowserTest):
    #: A refusal that a test brings about is written to the browser's log.
    expected_in_log = ("422",)

    def number(self, label, value, nth=0):
        """Type into the nth field of that label in the form."""
        form = self.the("[data-test=kit-form]")
        path = f".//label[normalize-space()='{label}']/..//input"
        field = self.until(lambda: next(iter(form.find_elements(By.XPATH, path)[nth:]), None))
        self.fill(field, str(value))

    def opened(self):
        """The panel of a fresh design, asking for few kits: batteries and inverters alone, a day."""
        design_id = self.fresh("trials?part=kits")
        self.the("[data-test=vary-panels]").click()
        self.number("For so long", 24)
        self.number("to", 2, 0)
        return design_id

    def planned(self, kits):
        self.until(lambda: self.the("[data-test=search-kits]").text == f"Try {kits} kits")

    def until_ended(self):
        wait = WebDriverWait(self.driver, 5 * WAIT_S)
        wait.until(lambda _: self.maybe("[data-test=forget-search]") and not self.maybe("[data-test=cancel-search]"))

    def test_from_the_ranges_to_a_design(self):
        design_id = self.opened()
        usual = self.app.ask("GET", f"api/designs/{design_id}/kit-searches/usual")
        batteries, inverters = usual["batteries"]["units"], usual["inverters"]["units"]
        self.planned(2 * len(batteries) * len(inverters))
        self.the("[data-test=search-kits]").click()
        self.until_ended()
        (search,) = self.app.ask("GET", f"api/designs/{design_id}/kit-searches")
        report = self.app.ask("GET", f"api/kit-searches/{search['id']}")["report"]
        front = [entry["kit"] for entry in report["kits"] if entry["is_on_front"]]
        self.assertGreaterEqual(len(front), 2)
        rows = self.the("[data-test=kit-front]").find_elements(By.CSS_SELECTOR, "tbody tr")
        self.assertEqual(
            [row.find_element(By.TAG_NAME, "button").text for row in rows], [", ".join(kit["titles"]) for kit in front]
        )
        self.assertIn(
            f"{report['meeting']} of {len(report['kits'])} kits carry", self.the("[data-test=kit-verdict]").text
        )
        cheapest = next(entry["kit"] for entry in report["kits"] if entry["kit"]["number"] == report["cheapest"])
        self.assertIn(", ".join(cheapest["titles"]), self.the("[data-test=kit-chosen]").text)

        # By keys: the last kit, then back along the front; Enter holds it.
        plot = self.the("[data-test=kit-plot]")
        plot.send_keys(Keys.END)
        self.assertIn(", ".join(report["kits"][-1]["kit"]["titles"]), self.the("[data-test=kit-reading]").text)
        plot.send_keys(Keys.HOME, Keys.SHIFT, Keys.ARROW_RIGHT, Keys.NULL)
        held = next(kit for kit in front if kit["number"] != report["kits"][0]["kit"]["number"])
        self.until(lambda: ", ".join(held["titles"]) in plot.get_attribute("aria-valuetext"))
        plot.send_keys(Keys.ENTER)
        self.until(lambda: ", ".join(held["titles"]) in self.the("[data-test=kit-chosen]").text)

        self.the("[data-test=make-design]").click()
        link = self.the("[data-test=kit-made] a")
        self.assertIn("A copy of Birchrow: ", link.text)
        link.click()
        self.until(lambda: design_id not in self.driver.current_url and "/bank" in self.driver.current_url)
        self.the("[data-test=hours-carried]")
        made = self.app.ask("GET", f"api/designs/{self.driver.current_url.split('/')[-2]}")["document"]
        self.assertIn(made["bank"]["unit"]["name"], held["titles"][0])
        self.assertEqual(self.hours(), held["carried_h"])

        # Back again it is there, as a table too; an edit of the design makes it old.
        self.open(design_id, "trials?part=kits")
        self.button("As a table").click()
        self.assertEqual(
            len(self.the("[data-test=kit-rows]").find_elements(By.CSS_SELECTOR, "tbody tr")), len(report["kits"])
        )
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        self.app.ask("PUT", f"api/designs/{design_id}?expected_revision=1", {**document, "name": "Later"})
        self.open(design_id, "trials?part=kits")
        self.assertIn("Of revision 1", self.the("[data-test=kits-old]").text)

        # Another beside it, and one forgotten.
        self.the("[data-test=open-form]").click()
        self.number("to", 1, 0)
        self.planned(len(batteries) * len(inverters))
        self.the("[data-test=search-kits]").click()
        self.until(lambda: self.maybe("[data-test=beside]"))
        self.until_ended()
        self.until(lambda: self.the("[data-test=kit-plot] path.beside").get_attribute("d"))
        # What was found may be drawn anew in between.
        self.until(lambda: self.the("[data-test=forget-search]").click() or True)
        self.until(lambda: len(self.app.ask("GET", f"api/designs/{design_id}/kit-searches")) == 1)
        self.the("[data-test=kits-old]")

    def test_what_cannot_be_tried_is_said_and_a_search_is_cancelled(self):
        design_id = self.opened()
        for part in ("batteries", "inverters"):
            self.the(f"[data-test=vary-{part}]").click()
        self.until(
            lambda: "must name batteries, inverters, panels or fuel" in self.the("[data-test=plan-trouble]").text
        )
        self.assertFalse(self.the("[data-test=search-kits]").is_enabled())
        self.the("[data-test=vary-batteries]").click()
        self.number("to", 65, 0)
        self.until(
            lambda: "batteries.most: must be a whole number of 1 to 64" in self.the("[data-test=plan-trouble]").text
        )
        self.number("to", 64, 0)
        self.the("[data-test=vary-panels]").click()
        self.the("[data-test=vary-inverters]").click()
        self.number("to", 400, 2)
        self.number("to", 4, 1)
        self.until(lambda: "at most 10,000 kits: narrow" in self.the("[data-test=plan-trouble]").text)
        self.number("to", 24, 2)
        self.until(lambda: self.the("[data-test=search-kits]").is_enabled())
        self.the("[data-test=search-kits]").click()
        self.until(lambda: "left" in self.the("[data-test=kit-progress]").text)
        self.the("[data-test=cancel-search]").click()
        self.until(lambda: "Cancelled after" in self.the("[data-test=kit-progress]").text)
        (search,) = self.app.ask("GET", f"api/designs/{design_id}/kit-searches")
        self.assertTrue(search["cancelled"])
        self.assertLess(search["done"], search["total"])
