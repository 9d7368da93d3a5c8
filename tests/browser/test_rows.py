"""What a row's panel does: how it is fed, when it runs, what it costs, how its start is known; what stands below the rows."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.live import BrowserTest


class Rows(BrowserTest):
    def load(self, design_id, load_id):
        self.until_saved()
        loads = self.app.ask("GET", f"api/designs/{design_id}")["document"]["loads"]
        return next(load for load in loads if load["id"] == load_id)

    def number(self, test_id, text):
        self.fill(self.the(f"[data-test={test_id}] input, input[data-test={test_id}]"), text)

    def test_a_load_on_a_converter_is_marked_and_costs_its_loss(self):
        design_id = self.fresh()
        before = self.the("[data-test='explain-bank.ledger.converters']").text
        self.assertEqual(before, "0")
        self.named("More of Router and fibre box").click()
        self.choose("supply", "DC, converter")
        # 408 Wh at 90 %: 45 Wh are lost on the way.
        self.until(lambda: self.the("[data-test='explain-bank.ledger.converters']").text == "45")
        self.assertIn("DC conv.", self.the("[data-test=load-router]").text)
        self.fill(self.labelled("Converter"), "80")
        self.until(lambda: self.the("[data-test='explain-bank.ledger.converters']").text == "102")
        router = self.load(design_id, "router")
        self.assertEqual((router["supply"], router["converter_efficiency_frac"]), ("dc_converted", 0.8))

    def test_a_load_that_waits_for_the_sun_is_marked_and_keeps_its_painted_hours(self):
        design_id = self.fresh()
        self.named("More of Heating circulators").click()
        self.number("flexible", "4")
        self.until(lambda: "any 4 h" in self.the("[data-test=load-circulators]").text)
        circulators = self.load(design_id, "circulators")
        self.assertEqual((circulators["flexible_h"], circulators["hours"]), (4, [[0, 24]]))
        self.number("flexible", Keys.BACKSPACE)
        self.until(lambda: "any 4 h" not in self.the("[data-test=load-circulators]").text)

    def test_duty_by_month_counts_in_the_month_of_the_outage(self):
        design_id = self.fresh()
        before = self.hours()
        self.named("More of Heating circulators").click()
        july = self.named("Part in July, percent")
        self.fill(july, "0")
        self.until(lambda: self.load(design_id, "circulators")["month_factors"][6] == 0)
        self.assertEqual(self.hours(), before)
        self.fill(self.named("Part in January, percent"), "20")
        self.until_hours(lambda hours: hours > before + 1)

    def test_an_hour_less_is_priced_and_taken(self):
        design_id = self.fresh()
        before = self.hours()
        self.named("More of Television").click()
        facts = "[data-test=load-price] .fact"
        fact = self.until(
            lambda: next(
                (fact for fact in self.driver.find_elements(By.CSS_SELECTOR, facts) if "An hour less, " in fact.text),
                None,
            )
        )
        self.assertTrue(fact.find_element(By.CSS_SELECTOR, ".price").text.startswith("+"))
        fact.find_element(By.TAG_NAME, "button").click()
        self.until_hours(lambda hours: hours > before)
        hours = self.load(design_id, "tv")["hours"]
        self.assertEqual(sum(until - start for start, until in hours), 2)

    def test_a_start_by_its_code_letter(self):
        design_id = self.fresh()
        self.named("More of Sump pump, 1/3 hp").click()
        self.choose("start-kind", "Code letter and hp")
        self.until(lambda: self.the("[data-test=start-horsepower_hp]"))
        self.number("start-horsepower_hp", "0.3333")
        sump = self.until(lambda: (found := self.load(design_id, "sump"))["start_known"] and found)
        self.assertEqual(sump["start_known"]["code_letter"], "K")
        # Code K is 8 to 9 kVA a horsepower with the rotor locked.
        self.assertTrue(0.3333 * 8000 <= sump["start_w"] <= 0.3333 * 9000, sump["start_w"])
        self.the("[data-test=show-working]").click()
        self.until(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=explanation]")) == 2)

    def test_a_figure_s_quality_can_be_said_and_the_bar_follows(self):
        self.fresh()
        bar = self.the("[data-test=audit-quality]").text
        self.assertIn("31 % guessed", bar)
        self.named("More of Sump pump, 1/3 hp").click()
        self.choose("known-quality", "Measured")
        self.until(lambda: "31 % guessed" not in self.the("[data-test=audit-quality]").text)
        self.assertIn("Worth measuring next", self.the("[data-test=audit-quality]").text)

    def test_linked_loads_live_in_the_highest_tier_among_them(self):
        self.fresh()
        self.named("More of Television").click()
        self.fill(self.labelled("Linked as"), "heating")
        self.until(lambda: "this one lives in Keep" in self.the(".lifted").text)

    def test_what_waits_day_and_night_stands_below_the_rows(self):
        self.fresh(bank={**self.birchrow["bank"], "temp_c": -6.0, "heater": {"power_w": 40.0}})
        standing = self.the("[data-test=standing]").text
        for words in ("Inverter standing ready", "Standby of the loads", "1,080"):
            self.assertIn(words, standing)
        self.assertIn("counted in Life", self.the("[data-test=heater-row]").text)
        self.driver.find_element(By.CSS_SELECTOR, "[data-test=standing] a").click()
        self.until(lambda: "/inverter" in self.driver.current_url)

    def test_every_line_from_the_loads_to_the_bank_opens(self):
        self.fresh()
        lines = len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=daily-ledger] .ask"))
        self.assertEqual(lines, 9)
        for at in range(lines):
            line = self.driver.find_elements(By.CSS_SELECTOR, "[data-test=daily-ledger] .ask")[at]
            self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", line)
            wanted = line.text
            line.click()
            # The sheet comes into sight; until then it has no words.
            told = self.until(lambda: self.the("[data-test=explanation] h2").text)
            with self.subTest(told):
                value = float(told.rsplit(": ", 1)[1].removesuffix(" Wh").replace(",", ""))
                self.assertAlmostEqual(value, float(wanted.replace(",", "")), delta=0.51)
            self.press(Keys.ESCAPE)
            self.until(lambda: self.maybe("[data-test=explanation]") is None)
