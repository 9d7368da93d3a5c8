"""Opinions, side by side and stages in the browser: what a rule says, kept, laid beside the design, promoted and grown."""

import json

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from hearthkeep.core.design import read_design
from hearthkeep.core.opinions import opinions_of
from tests.browser.test_looks import LONG_S
from tests.published.test_rules_of_thumb import TWELVE, ledger_home
from tests.support.designs import load, simple
from tests.support.live import BrowserTest


class Pages(BrowserTest):
    def opened(self, design, page):
        made = self.app.ask("POST", "api/designs/import", json.loads(design.model_dump_json()))
        self.open(made["id"], page)
        return made["id"]

    def all(self, selector):
        return self.driver.find_elements(By.CSS_SELECTOR, selector)

    def method(self, name):
        self.the(f"[data-test=method-{name}]").click()
        return self.the(f"[data-test=sheet-{name}]")

    def line(self, key):
        """Value of a line of the sheet, typed or shown."""
        row = self.the(f'[data-test="line-{key}"]')
        fields = row.find_elements(By.CSS_SELECTOR, "input:not([type=checkbox])")
        return fields[0].get_attribute("value") if fields else row.find_elements(By.TAG_NAME, "td")[1].text


class Methods(Pages):
    def test_the_trade_s_check_values_stand_on_the_page(self):
        self.opened(ledger_home("lfp"), "opinions")
        self.method("ledger")
        shown = {key: self.line(key) for key in ("day", "array_a", "bare_w", "safe_w", "array", "dark_ah", "bank")}
        self.assertEqual(shown["day"], "206")
        self.assertEqual(shown["array_a"], "29.43")
        self.assertEqual((shown["bare_w"], shown["safe_w"], shown["array"]), ("530", "689", "530"))
        self.assertEqual((shown["dark_ah"], shown["bank"]), ("468", "585"))
        self.assertEqual((self.line("ac_a"), self.line("inverter")), ("113", "1,356"))
        self.assertEqual(self.the("[data-test=inverter-ledger]").text, "2 kW")
        night = [[0, 6], [22, 24]]
        lamp_and_fan = [load(name, watts, supply="dc", hours=night) for name, watts in (("lamp", 10), ("fan", 35))]
        self.opened(simple(*lamp_and_fan, bank=TWELVE), "opinions")
        self.method("overnight")
        self.assertEqual((self.line("bank"), self.line("array"), self.line("controller")), ("360", "72", "6"))
        self.assertEqual(self.the("[data-test=array-overnight]").text, "100 W")
        self.assertEqual(self.the("[data-test=controller-overnight]").text, "10 A")
        four = (
            load("lamps", 6, quantity=2, hours=[[0, 5]]),
            load("tv", 65, hours=[[0, 3]]),
            load("laptop", 80, hours=[[0, 4]]),
            load("router", 6),
        )
        self.opened(simple(*four, bank=TWELVE, opinions={"depth": {"depth_frac": 0.5}}), "opinions")
        self.method("depth")
        self.assertEqual((self.line("loads"), self.line("bank")), ("719", "119.8"))
        self.assertIn("1×120 Ah", self.the("[data-test=bank-depth]").text)
        self.opened(simple(load("house", 10_000 / 24), bank={"unit_v": 48.0, "unit_ah": 100.0}), "opinions")
        self.method("buffer")
        self.assertEqual((self.line("least"), self.line("bank")), ("20,000", "30,000"))

    def test_a_habit_is_edited_and_the_table_the_sentence_and_the_rail_answer(self):
        design_id = self.fresh("opinions")
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        found = opinions_of(read_design(document))
        carried = sum(one.column.is_carried for one in found.opinions)
        self.until(lambda: f"{carried} of 6" in self.the("[data-test=rail-opinions]").text)
        for one in found.opinions:
            self.assertIn(
                one.blame.sentence[:40],
                self.the(f"[data-test=said-{one.info.method.value}]").text.replace("\u00a0", " "),
            )
        self.method("ledger")
        days = self.the('[data-test="line-days"] input')
        self.fill(days, "1")
        self.until(lambda: self.line("bank") != "" and "Short." in self.the("[data-test=said-ledger]").text)
        blamed = self.all("[data-test=sheet-ledger] .blamed")
        self.assertEqual([cell.text for cell in blamed], ["Dark days"])
        self.until_saved()
        kept = self.app.ask("GET", f"api/designs/{design_id}")["document"]["opinions"]["ledger"]
        self.assertEqual(kept["dark_days"], 1)
        # Emptied, it is what is usual again; a load is ticked off by hand, and the audit followed again.
        Select(self.the("[data-test=mppt]")).select_by_value("times")
        self.until(lambda: self.line("array") != "")
        tick = self.the("[data-test=sheet-ledger] .load input[type=checkbox]")
        tick.click()
        self.the("[data-test=follow-audit]").click()
        self.until(lambda: self.maybe("[data-test=follow-audit]") is None)
        self.until_saved()
        kept = self.app.ask("GET", f"api/designs/{design_id}")["document"]["opinions"]["ledger"]
        self.assertEqual((kept["mppt"], kept["left_out"]), ("times", None))

    def test_what_one_has_against_what_is_asked_for(self):
        self.fresh("opinions?part=have")
        found = opinions_of(read_design(json.dumps(self.birchrow))).have
        words = {"never": "none does"}
        for part in found.parts:
            for need in part.needs:
                cell = self.the(f"[data-test=need-{part.key}-{need.by}]")
                self.assertIn(words.get(need.fit.value, need.fit.value), cell.text)

    def test_without_loads_the_page_says_where_to_begin(self):
        self.opened(simple(), "opinions")
        self.assertIn("enter loads", self.the("[data-test=nothing-asked]").text)


class SideBySide(Pages):
    def test_from_a_rule_s_kit_to_the_design_and_back(self):
        design_id = self.fresh("opinions")
        self.the("[data-test=keep-ledger]").click()
        self.until(lambda: "is kept as an alternative" in self.the("[data-test=kept]").text)
        self.the("[data-test=kept] a").click()
        self.until(lambda: "72 h" in self.the('[data-test="carried-Amp-hour ledger"]').text)
        self.assertIn("28 h 18", self.the("[data-test=carried-root]").text)
        self.assertIn("1 kept", self.the("[data-test=rail-side-by-side]").text)
        # The parts that differ are in words, the others folded away.
        self.the("[data-test=fact-bank]")
        self.assertIsNone(self.maybe("[data-test=fact-storm]"))
        self.the("[data-test=same]").click()
        self.the("[data-test=fact-storm]")
        # One cursor reads all strips.
        self.driver.get(f"{self.app.address}designs/{design_id}/side-by-side?part=strips")
        plot = self.the("[data-test=laid] .plot")
        self.until(lambda: len(self.all("[data-test=laid] .reading")) == 2)
        plot.send_keys(Keys.HOME, Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
        self.until(lambda: "At 2 h" in self.the("[data-test=laid-reading]").text)
        self.assertTrue(all("%" in reading.text for reading in self.all("[data-test=laid] .reading")))
        # What makes the difference sums up, and a part is taken over into the design that is open.
        self.driver.get(f"{self.app.address}designs/{design_id}/side-by-side?part=differences")
        self.the("[data-test=difference-bank]")
        self.the("[data-test=stairs]").send_keys(Keys.ARROW_DOWN)
        self.until(lambda: "on the mean of all orders" in self.the("[data-test=stairs-reading]").text)
        self.the("[data-test=take-bank]").click()
        self.until_hours(lambda hours: hours > 60)
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until_hours(lambda hours: abs(hours - 28.3) < 0.1)

    def test_an_alternative_is_kept_opened_changed_promoted_and_nothing_is_lost(self):
        design_id = self.fresh("side-by-side")
        self.the("[data-test=no-alternatives]")
        self.the("[data-test=alternative-name]").send_keys("Four batteries", Keys.ENTER)
        row = '[data-test="variant-Four batteries"]'
        self.the(f"{row} a").click()
        self.until(lambda: "Four batteries" in self.the("[data-test=alternative]").text)
        other_id = self.driver.current_url.split("/designs/")[1].split("/")[0]
        self.assertNotEqual(other_id, design_id)
        self.driver.get(f"{self.app.address}designs/{other_id}/bank?part=arrangement")
        self.fill(self.field("bank.parallel"), "4")
        self.until_hours(lambda hours: hours > 60)
        self.until_saved()
        self.assertEqual(self.app.ask("GET", f"api/designs/{design_id}")["document"]["bank"]["parallel"], 2)
        self.driver.get(f"{self.app.address}designs/{design_id}/side-by-side")
        self.the(f"{row} [data-test=promote]").click()
        self.until(lambda: "is the design now" in self.the("[data-test=tree-told]").text)
        self.until_hours(lambda hours: hours > 60)
        self.the('[data-test="variant-Before Four batteries"]')
        tree = self.app.ask("GET", f"api/designs/{design_id}/alternatives")
        before = next(entry for entry in tree if entry["label"] == "Before Four batteries")
        self.assertEqual(self.app.ask("GET", f"api/designs/{before['id']}")["document"]["bank"]["parallel"], 2)
        # In the list of designs only the design itself stands.
        listed = [entry["id"] for entry in self.app.ask("GET", "api/designs?per_page=100")["designs"]]
        self.assertIn(design_id, listed)
        self.assertFalse({other_id, before["id"]} & set(listed))

    def test_six_of_forty_loads_each_are_laid_side_by_side(self):
        loads = [load(f"Load {number}", 5.0 + number) for number in range(40)]
        root = self.app.ask("POST", "api/designs/import", {**self.birchrow, "loads": loads, "name": "Forty"})
        for count in range(5):
            document = {**root["document"], "bank": {**root["document"]["bank"], "parallel": 3 + count}}
            self.app.ask("POST", f"api/designs/{root['id']}/alternatives/of-document?label=No.{count}", document)
        self.open(root["id"], "side-by-side")
        self.until(lambda: len(self.all("[data-test=variants] li")) == 6)
        for label in ("No.3", "No.4"):
            self.the(f'[aria-label="Lay {label} beside the others"]').click()
        self.until(lambda: len(self.all("[data-test^=carried-] .bar")) == 6, within_s=LONG_S)
        self.assertTrue(all(not box.is_enabled() or box.is_selected() for box in self.all(".pick input")))


class Stages(Pages):
    def test_a_stage_is_added_filled_and_taken_out(self):
        design_id = self.fresh("stages")
        self.the("[data-test=add-stage]").click()
        self.until(lambda: "1 ahead" in self.the("[data-test=rail-stages]").text)
        now = self.the("[data-test=stage-hours-now]").text
        self.the('[data-test="has-growth.0.battery"]').click()
        self.fill(self.field("growth.0.battery.parallel"), "2")
        self.until(lambda: "72 h" in self.the("[data-test=stage-hours-stage-1]").text.split("of")[0])
        self.assertEqual(self.the("[data-test=stage-hours-now]").text, now)
        self.the('[data-test="large-enclosure"]')
        self.the("[data-test=all-mixes]")
        # Four years later they would no longer mix.
        self.fill(self.field("growth.0.in_years"), "4")
        self.until(lambda: "years between them" in self.the("[data-test=not-mixed]").text)
        line = self.the("[data-test=stage-0] input[aria-label='New load in one line']")
        line.send_keys("second pump 800W 9-11")
        self.until(lambda: "800" in self.the("[data-test=stage-0] .loads").text)
        line.send_keys(Keys.ENTER)
        self.until(lambda: self.the("[data-test=stage-0] .loads li"))
        self.until_saved()
        kept = self.app.ask("GET", f"api/designs/{design_id}")["document"]["growth"][0]
        self.assertEqual((kept["in_years"], kept["battery"]["parallel"], kept["loads"][0]["running_w"]), (4, 2, 800))
        self.the("[data-test=remove-stage-0]").click()
        self.until(lambda: self.maybe("[data-test=stage-0]") is None)
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.the("[data-test=stage-0]")
