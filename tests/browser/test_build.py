"""Build on the real page: gates signed in order, a fault named in place, instruments compared, a test taken into the design."""

import json

from selenium.webdriver.common.by import By

from tests.support.live import BrowserTest


class Build(BrowserTest):
    #: A signature that is refused on purpose.
    expected_in_log = ("422",)

    def setUp(self):
        super().setUp()
        self.design_id = self.fresh("build")
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.the("[data-test=gate-dead]")

    def input(self, test_id):
        return self.the(f"[data-test='{test_id}'] input, input[data-test='{test_id}']")

    def begun(self, name="Birchrow, cellar"):
        self.fill(self.input("installation-name"), name)
        self.until(lambda: name in self.the("[data-test=installation]").text)
        self.fill(self.input("who"), "Mo Harker")

    def stand(self, gate):
        return self.the(f"[data-test=gate-{gate}] [data-test=stand]").text

    def kept(self):
        (place,) = self.app.ask("GET", f"api/designs/{self.design_id}/installations")
        return self.app.ask("GET", f"api/installations/{place['id']}/entries")

    def sign_dead(self):
        self.fill(self.input("read-dead.bus_v"), "0.02")
        self.until(lambda: "inside" in self.the("[data-test=gate-dead]").text)
        self.the("[data-test=pass]").click()
        self.until(lambda: self.stand("dead") == "passed")

    def test_gates_are_signed_in_order_and_stay_so(self):
        self.assertEqual(self.stand("mount"), "waits")
        self.begun()
        self.sign_dead()
        # The next one opens by itself.
        self.until(lambda: "torque" in self.the("[data-test=gate-mount]").text)
        self.the("[data-test=skip]").click()
        self.until(lambda: "must say why" in self.the("[data-test=refused]").text)
        self.fill(self.input("gate-note"), "the panel builder did it")
        self.the("[data-test=skip]").click()
        self.until(lambda: self.stand("mount") == "skipped")
        self.until(lambda: "1 of 22 gates passed, 1 skipped" in self.the("[data-test=gates-summary]").text)
        self.driver.refresh()
        self.until(lambda: self.stand("mount") == "skipped")
        self.assertEqual(self.the("[data-test=rail-build] .live").text, "1 of 22")
        self.the("[data-test=gate-mount] button").click()
        self.assertIn("A hot terminal", self.the("[data-test=gate-mount]").text)
        self.the("[data-test=reopen]").click()
        self.until(lambda: self.stand("mount") == "open")

    def test_a_reading_outside_names_its_likely_causes_and_is_not_lost(self):
        self.the("[data-test=gate-polarity] button").click()
        self.fill(self.input("read-polarity.bank_v"), "-52.4")
        self.until(lambda: self.maybe("[data-test=cause-reversed_polarity]"))
        self.assertIn("Next: Follow the conductor", self.the("[data-test=causes]").text)
        self.driver.refresh()
        self.the("[data-test=gate-polarity] button").click()
        self.until(lambda: self.input("read-polarity.bank_v").get_attribute("value") in ("-52.4", "−52.4"))
        # What was read before the record began belongs to it.
        self.begun()
        self.until(lambda: "stop work" in self.the("[data-test=gate-polarity]").text)
        # Nothing is offered that would wave it through.
        if self.maybe("[data-test=stop-work]") is None:
            self.the("[data-test=gate-polarity] button").click()
        self.assertIn("exchange them", self.the("[data-test=stop-work]").text)
        for button in ("pass", "skip", "gate-second"):
            self.assertIsNone(self.maybe(f"[data-test=gate-polarity] [data-test={button}]"))

    def test_a_reading_that_may_be_accepted_asks_for_a_second_look(self):
        self.begun()
        self.sign_dead()
        self.the("[data-test=gate-grounds] button").click()
        self.until(lambda: self.maybe("[data-test=gate-grounds] [data-test=read-ground\\.ground-dc_ohm]"))
        self.assertIsNone(self.maybe("[data-test=gate-grounds] [data-test=gate-second]"))
        self.fill(self.input("read-ground.ground-dc_ohm"), "1.4")
        self.until(lambda: self.maybe("[data-test=gate-grounds] [data-test=gate-second]"))
        self.fill(self.input("read-ground.ground-dc_ohm"), "0.2")
        self.until(lambda: self.maybe("[data-test=gate-grounds] [data-test=gate-second]") is None)

    def test_what_waits_and_what_nobody_signs_is_refused_in_place(self):
        self.fill(self.input("read-dead.bus_v"), "0")
        self.the("[data-test=pass]").click()
        self.until(lambda: "Begin the record" in self.the("[data-test=refused]").text)
        self.begun()
        self.the("[data-test=gate-mount] button").click()
        self.until(lambda: self.maybe("[data-test=waits-for]"))
        self.the("[data-test=pass]").click()
        self.until(lambda: "must wait for" in self.the("[data-test=refused]").text)
        self.assertEqual(self.kept(), [])

    def test_the_moment_moves_the_windows(self):
        noon = {self.design_id: {"at": "2026-06-15T12:00:00", "sky": "clear", "air_c": 18}}
        self.driver.execute_script("localStorage.setItem('hearthkeep.moment', arguments[0])", json.dumps(noon))
        self.driver.refresh()
        self.choose("moment-sky", "overcast")
        self.the("[data-test=gate-strings] button").click()
        cell = "[data-test=gate-strings] td.number"
        overcast = self.until(lambda: self.the(cell).text)
        self.choose("moment-sky", "clear")
        self.until(lambda: self.the(cell).text != overcast)

    def test_instruments_are_compared_and_a_round_is_kept(self):
        self.begun()
        self.the("[data-part=cross]").click()
        for name, volts in (("Hand meter", "52.41"), ("Battery monitor", "52.38"), ("Inverter", "53.9")):
            self.fill(self.the(f"[data-test='instrument-{name}'] input"), volts)
        self.until(lambda: "Inverter shows +1.5" in self.the("[data-test=cross-said]").text)
        self.the("[data-test=keep-round]").click()
        self.until(lambda: [entry["kind"] for entry in self.kept()] == ["cross"])
        for test_id, watts in (("watts-monitor", "98"), ("watts-output", "0")):
            self.fill(self.input(test_id), watts)
        self.the("[data-test=add-watts]").click()
        self.until(lambda: "stand day and night" in self.the("[data-test=watts-said]").text)

    def test_a_capacity_test_is_taken_into_the_design(self):
        self.the("[data-part=tests]").click()
        self.fill(self.input("capacity-ah"), "170")
        self.fill(self.input("capacity-hours"), "9")
        self.until(lambda: "85 % of the rating" in self.the("[data-test=capacity-said]").text)
        before = self.hours()
        self.the("[data-test=correction-capacity] [data-test=take-correction]").click()
        self.until_hours(lambda hours: hours < before)
        self.until_saved()
        self.assertEqual(self.app.ask("GET", f"api/designs/{self.design_id}")["document"]["bank"]["ageing_frac"], 0.85)
        self.until(lambda: "nothing to change" in self.the("[data-test=correction-capacity]").text)

    def test_a_load_test_is_judged_step_by_step(self):
        self.the("[data-part=tests]").click()
        for step, values in enumerate(
            (("0", "52.4", "0.9"), ("600", "52.1", "13.2"), ("1200", "51.9", "25.7")), start=1
        ):
            for at, text in enumerate(values):
                row = f"[data-test=load-step-{step}]"
                self.the(row)
                self.fill(self.driver.find_elements(By.CSS_SELECTOR, f"{row} input")[at], text)
        self.until(lambda: "1,200 W" in self.the("[data-test=load-test-said]").text)
        self.until(lambda: self.maybe("[data-test=correction-inverter_losses]"))
