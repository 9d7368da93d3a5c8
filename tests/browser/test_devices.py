"""Simulated devices on the real Watch page: asked by one key, their faults named, warnings and outages taken over, a message sent."""

from selenium.webdriver.common.by import By

from hearthkeep.core.foresight import Choices
from tests.support.designs import in_the_evening
from tests.support.live import Application, BrowserTest
from tests.support.standing_in import Standing


class Devices(BrowserTest):
    @classmethod
    def application(cls):
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=5.0))
        app = Application(cls.standing.base)
        app.start()
        cls.addClassCleanup(app.remove)
        return app

    def at_watch(self):
        design_id = self.fresh("watch", site=in_the_evening(self.birchrow)["site"])
        self.driver.execute_script("localStorage.clear()")
        self.driver.refresh()
        self.the("[data-test=watch-phase]")
        return design_id

    def asked(self):
        """A design whose simulated devices are asked, and their first answers."""
        design_id = self.at_watch()
        self.the("[data-test=ask-stand-ins]").click()
        # One answers after the other.
        kinds = ("monitor", "inverter", "controller", "generator")
        self.until(lambda: not any("not read yet" in self.text_of(f"device-{kind}") for kind in kinds), within_s=40)
        (place,) = self.app.ask("GET", f"api/designs/{design_id}/installations")
        return place["id"]

    def text_of(self, test_id):
        return self.the(f"[data-test={test_id}]").text

    def test_devices_are_asked_their_faults_named_and_mended(self):
        self.asked()
        self.assertIn(" V", self.text_of("device-monitor"))
        # What they say is what Watch counts with.
        self.driver.refresh()
        self.until(lambda: "read" in self.the("[data-test=watch-now] tr:first-child").text)
        self.the("[data-test=stand-ins] summary").click()
        self.the("[data-test=fault-generator-co]").click()
        self.the("[data-test=fault-inverter-scale]").click()
        self.until(lambda: "2 switched on" in self.text_of("stand-ins"))

        def told(key):
            self.driver.refresh()
            return self.until(lambda: self.maybe("[data-test=watch-phase]")) and self.maybe(f"[data-test=alarm-{key}]")

        self.until(lambda: told("fault_scale_inverter") and told("fault_co_generator"), within_s=240)
        danger = self.the("[data-test=alarm-fault_co_generator]")
        self.assertTrue(danger.get_property("open"), "what kills stands open")
        self.assertIn("Everybody out", danger.text)
        self.assertIn("not believed", self.text_of("device-inverter"))
        self.the("[data-test=stand-ins] summary").click()
        self.the("[data-test=fault-inverter-scale]").click()
        self.the("[data-test=fault-generator-co]").click()
        self.until(lambda: not told("fault_scale_inverter"), within_s=180)

    def test_the_simulated_house_does_what_is_decided_where_that_is_asked_for(self):
        self.asked()
        there = self.standing.stand_ins.house
        self.addCleanup(there.decide, Choices())
        self.until(lambda: self.maybe("[data-test=note-began]"), within_s=40)
        self.the("[data-test=note-began]").click()
        self.until(lambda: "Outage since" in self.text_of("watch-phase"))
        self.the("[data-test=tell-loads] summary").click()
        self.the("[data-test=on-fridge]").click()
        self.until(lambda: "1 left off" in self.text_of("tell-loads"))
        self.the("[data-test=stand-ins] summary").click()
        self.until(lambda: "nothing is left off" in self.text_of("house-lives"))
        self.assertEqual(there.choices.off, frozenset())
        self.the("[data-test=house-follows]").click()
        self.until(lambda: "1 of its loads" in self.text_of("house-lives"))
        self.assertEqual(there.choices.off, frozenset({"fridge"}))
        # A design that does not ask them decides nothing for them.
        self.fresh("watch", site=in_the_evening(self.birchrow)["site"])
        self.the("[data-test=stand-ins] summary").click()
        self.assertTrue(self.the("[data-test=fault-monitor-drift]").is_displayed())
        self.assertIsNone(self.maybe("[data-test=house-follows]"))
        self.assertEqual(there.choices.off, frozenset({"fridge"}))

    def test_what_others_say_counts_once_somebody_takes_it_over(self):
        place = self.asked()
        self.until(lambda: self.maybe("[data-test=note-began]"), within_s=40)
        # The services answer one after the other.
        self.until(lambda: "Ice storm warning" in self.text_of("outside"), within_s=40)
        self.assertIn("signed, an exercise", self.text_of("outside"))
        self.assertIn("No outage", self.text_of("watch-phase"))
        self.the("[data-test=note-began]").click()
        self.until(lambda: "Outage since" in self.text_of("watch-phase"))
        self.until(lambda: self.maybe("[data-test=note-help]"))
        self.the("[data-test=note-help]").click()
        self.until(lambda: "expected" in self.driver.find_element(By.CSS_SELECTOR, ".phase").text)
        kept = [each["body"] for each in self.app.ask("GET", f"api/installations/{place}/entries?kind=watch")]
        self.assertEqual([each["what"] for each in kept], ["began", "help"])

    def test_a_message_is_sent_in_words_that_can_be_changed(self):
        self.asked()
        draft = self.the("[data-test=message-text]")
        self.assertIn("Keep lasts", draft.get_property("value"))
        self.fill(draft, "Heater off until noon, please.")
        self.the("[data-test=message-send]").click()
        self.until(lambda: self.maybe("[data-test=message-taken]"))
        self.assertIn("5550100@text.example", self.text_of("message-taken"))
        self.assertEqual(self.standing.stand_ins.gateway.taken[-1].text.strip(), "Heater off until noon, please.")

    def test_addresses_are_typed_refused_and_kept(self):
        self.expected_in_log = ("422",)
        design_id = self.at_watch()
        self.the("[data-test=sources] summary").click()
        self.the("[data-test=source-add]").click()
        self.fill(self.the("[data-test=source-name]"), "Shunt in the cellar")
        self.fill(self.the("[data-test=source-host]"), "192.168.1.9")
        self.the("[data-test=sources-save]").click()
        self.until(lambda: self.maybe("[data-test=sources-trouble]"))
        self.assertIn("devices.0.host", self.text_of("sources-trouble"))
        # Nothing that was typed is lost.
        self.assertEqual(self.the("[data-test=source-name]").get_property("value"), "Shunt in the cellar")
        self.fill(self.the("[data-test=source-host]"), "127.0.0.1")
        self.fill(self.the("[data-test=source-port]"), "9")
        self.the("[data-test=sources-save]").click()
        self.until(lambda: self.maybe("[data-test=sources-trouble]") is None)
        (place,) = self.app.ask("GET", f"api/designs/{design_id}/installations")
        self.until(
            lambda: (
                "Nobody listens" in self.text_of("devices")
                or self.app.ask("GET", f"api/installations/{place['id']}/devices")["gathered"]
            ),
            within_s=40,
        )
        kept = self.app.ask("GET", f"api/installations/{place['id']}/devices")["sources"]["devices"]
        self.assertEqual([(each["name"], each["port"]) for each in kept], [("Shunt in the cellar", 9)])
        self.until(lambda: "Nobody listens" in self.text_of("devices"), within_s=40)
