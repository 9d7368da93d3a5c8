"""In the hand, at 390 px: one pane at a time, the strip as one line, the audit walked through with the meter."""

from tests.browser.test_looks import DESK, HAND, LookTest
from tests.support.live import resize


class PhoneTest(LookTest):
    def setUp(self):
        resize(self.driver, *HAND)
        self.addCleanup(resize, self.driver, *DESK)

    def pane(self, name):
        self.the(f"[data-test=pane-{name}]").click()

    def shown(self, selector):
        found = self.maybe(selector)
        return found is not None and found.is_displayed()


class Panes(PhoneTest):
    def test_one_pane_at_a_time(self):
        self.fresh("bank")
        parts = {"steps": "nav.rail", "page": "main.page", "checks": "aside.checks", "outage": "[data-test=strip]"}
        for name in ("steps", "checks", "outage", "page"):
            self.pane(name)
            with self.subTest(name):
                self.until(lambda name=name: self.shown(parts[name]))
                others = [other for other, selector in parts.items() if other != name and self.shown(selector)]
                self.assertEqual(others, [])

    def test_a_step_chosen_shows_its_page(self):
        self.fresh("bank")
        self.pane("steps")
        self.the("[data-test=rail-inverter]").click()
        self.until(lambda: self.shown("main.page"))
        self.assertIn("Inverter", self.the("main.page h1").text)

    def test_the_strip_is_one_line_that_answers_an_edit_and_opens(self):
        self.fresh("bank")
        line = self.the("[data-test=strip-line]")
        before = self.hours()
        self.assertLess(line.size["height"], 60)
        self.fill(self.field("bank.parallel"), "3")
        self.until_hours(lambda hours: hours > before)
        self.assertIn("+", self.the("[data-test=strip-line]").text)
        self.the("[data-test=strip-line]").click()
        self.until(lambda: self.shown("[data-test=strip] svg") and self.shown("[data-test=legend]"))

    def test_no_pane_scrolls_sideways_or_has_a_serious_fault(self):
        self.fresh("bank", **self.crowded())
        for name in ("steps", "checks", "outage"):
            self.pane(name)
            with self.subTest(name):
                self.assertEqual((self.sideways_in_hand(), self.faults()), ([], []))


class Walk(PhoneTest):
    #: A reading beyond any load is refused on purpose.
    expected_in_log = ("api/loads/measure",)

    def key(self, digits):
        for digit in digits:
            self.the(f"[data-test=pad-{'point' if digit == '.' else digit}]").click()

    def stored(self, design_id, name):
        loads = self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]
        return next(load for load in loads if load["name"] == name)

    def test_reading_by_reading(self):
        design_id = self.fresh()
        self.assertIn("5 of 11 measured", self.the("[data-test=walk]").text.replace("\n", " "))
        self.the("[data-test=walk-next]").click()
        name = self.the("[data-test=walk-row] h2").text
        self.key("83.5")
        self.assertEqual(self.the("[data-test=walk-reading_w]").get_attribute("value"), "83.5")
        self.assertEqual(self.faults(), [])
        self.the("[data-test=walk-keep]").click()
        self.until(lambda: self.the("[data-test=walk-row] h2").text != name)
        self.until_saved()
        known = self.stored(design_id, name)["known"]
        self.assertEqual((known["kind"], known["reading_w"]), ("spot", 83.5))
        self.the("[data-test=walk-back]").click()
        self.until(lambda: "6 of 11 measured" in self.the("[data-test=walk]").text.replace("\n", " "))

    def test_what_cannot_be_used_is_said_and_stays(self):
        design_id = self.fresh()
        self.the("[data-test=walk-next]").click()
        name = self.the("[data-test=walk-row] h2").text
        was = self.stored(design_id, name)
        self.key("99999999")
        self.the("[data-test=walk-keep]").click()
        self.until(lambda: "99999999" in self.the("[data-test=walk-row] [role=alert]").text)
        self.assertEqual(self.the("[data-test=walk-reading_w]").get_attribute("value"), "99999999")
        self.assertEqual(self.stored(design_id, name), was)

    def test_a_meter_left_over_hours(self):
        design_id = self.fresh()
        self.the("[data-test=walk-load-fridge], [data-test^=walk-load-]").click()
        name = self.the("[data-test=walk-row] h2").text
        self.the("[data-test=look-meter]").click()
        self.key("1.2")
        self.the("[data-test=walk-over_h]").click()
        self.key("48")
        self.the("[data-test=walk-keep]").click()
        self.until(lambda: (self.stored(design_id, name)["known"] or {}).get("kind") == "meter")
        known = self.stored(design_id, name)["known"]
        self.assertEqual((known["energy_kwh"], known["over_h"]), (1.2, 48))


class Folded(LookTest):
    """At the desk the checks and the strip fold away with a key, and stay so."""

    def test_folding_stays(self):
        self.fresh("bank")
        self.addCleanup(self.driver.execute_script, "localStorage.clear()")
        self.the("main.page h1").click()
        self.driver.find_element("css selector", "body").send_keys("c")
        self.until(lambda: not self.the("aside.checks").is_displayed())
        self.driver.find_element("css selector", "body").send_keys("s")
        self.until(lambda: self.maybe("[data-test=strip]") is None)
        self.driver.refresh()
        self.the("[data-test=strip-line]")
        self.assertFalse(self.the("aside.checks").is_displayed())
        self.the("[data-test=strip-line]").click()
        self.the("[data-test=strip] svg")
        self.driver.find_element("css selector", "body").send_keys("c")
        self.until(lambda: self.the("aside.checks").is_displayed())
