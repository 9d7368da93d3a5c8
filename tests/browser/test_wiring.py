"""Wiring by mouse and by keys: a run set to what is there, the diagram and its rows, the board, prices and files."""

import json

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.designs import ROOT, load
from tests.support.live import BrowserTest, resize

ROOFS = json.loads((ROOT / "examples" / "birchrow-16.json").read_text())


class WiringTest(BrowserTest):
    def show(self, part, **fields):
        design_id = self.fresh("wiring", **fields)
        self.the(f"[data-part={part}]").click()
        return design_id

    def stored(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]["wiring"]

    def checks(self):
        return self.the("aside.checks").text

    def row(self, run):
        return self.the(f"[data-run='{run}']")

    def focus(self, element):
        self.driver.execute_script("arguments[0].focus()", element)


class Runs(WiringTest):
    # A length out of range is refused by the server.
    expected_in_log = ("422",)

    def test_a_run_is_set_to_what_is_there_and_the_checks_speak_of_it(self):
        design_id = self.show("runs")
        self.focus(self.row("bank"))
        self.press(Keys.ENTER)
        self.fill(self.labelled("Conductor, AWG"), "6")
        self.until(lambda: "too thin for its current" in self.checks())
        self.until(lambda: "6 AWG" in self.row("bank").text and "as it is" in self.row("bank").text)
        self.assertEqual(
            next(entry for entry in self.stored(design_id)["runs"] if entry["run"] == "bank")["size"], "6 AWG"
        )
        self.button("Try it as it is worked out").click()
        self.until(lambda: "too thin" not in self.checks())
        self.until(lambda: "3 AWG" in self.row("bank").text)

    def test_a_length_out_of_range_is_said_with_its_range_and_stays_in_the_field(self):
        self.show("runs")
        self.row("grid").click()
        self.fill(self.labelled("Length, one way"), "40000")
        self.until(lambda: "length m" in self.the("[data-test=run-detail]").text)
        self.assertIn("1,000", self.the("[data-test=run-detail] [role=alert]").text)
        self.assertEqual(self.labelled("Length, one way").get_attribute("value"), "40000")

    def test_a_device_that_is_not_there_is_a_stop_and_what_is_not_known_is_told(self):
        self.show("runs")
        # Behind the bank's device, which its own conductor bears, the inverter needs none.
        self.row("inverter-1").click()
        self.choose("device-kind", "none there")
        self.until(lambda: "at the bank" in self.the("[data-test=guarded]").text)
        self.assertNotIn("nothing breaks a fault", self.checks())
        self.the("[data-test=forget-run]").click()
        self.row("bank").click()
        self.choose("device-kind", "none there")
        self.until(lambda: "nothing breaks a fault" in self.checks())
        self.the("[data-test=forget-run]").click()
        self.until(lambda: "nothing breaks a fault" not in self.checks())
        self.driver.find_elements(By.CSS_SELECTOR, ".unknown input")[0].click()
        self.until(lambda: "its size not known" in self.checks())
        self.until(lambda: "size not known" in self.row("bank").text)

    def test_arrow_keys_go_from_run_to_run(self):
        self.show("runs")
        rows = self.until(lambda: self.driver.find_elements(By.CSS_SELECTOR, "[data-run]"))
        self.focus(rows[0])
        self.press(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
        self.assertEqual(
            self.driver.switch_to.active_element.get_attribute("data-run"), rows[2].get_attribute("data-run")
        )
        self.assertIn("marked", rows[2].get_attribute("class"))

    def test_an_edit_of_a_design_with_sixty_runs_answers_the_strip_and_the_rail(self):
        lamps = [load(f"lamp {number}", 5.0, supply="dc") for number in range(55)]
        self.show("runs", loads=lamps)
        rail = self.until(
            lambda: self.the("[data-step=wiring]") if self.maybe("[data-step=wiring]") else self.the("nav")
        )
        self.until(lambda: "65 runs" in rail.text or " runs" in rail.text)
        before = self.hours()
        self.row("bank").click()
        self.fill(self.labelled("Length, one way"), "3000")
        self.until_hours(lambda hours: hours != before)


class OneLine(WiringTest):
    def test_hovering_and_keys_light_run_and_row(self):
        self.show("one-line", **{key: ROOFS[key] for key in ("charging", "wiring")})
        picture = self.until(lambda: self.the("[data-test=one-line]"))
        ActionChains(self.driver).move_to_element(self.the("[data-symbol=bank-device]")).perform()
        self.until(lambda: "marked" in self.the("[data-row=bank]").get_attribute("class"))
        self.assertIn("Bank to bus", self.the("[data-test=told]").text)
        ActionChains(self.driver).move_to_element(self.the("[data-row=inverter-1]")).perform()
        self.until(lambda: "marked" in self.the("[data-line=inverter-1]").get_attribute("class"))
        self.focus(picture)
        self.press(Keys.ARROW_RIGHT)
        told = self.the("[data-test=told]").text
        self.assertTrue(told and "Bus to inverter" not in told, told)
        self.press(Keys.ENTER)
        self.until(lambda: self.maybe("[data-test=runs]"))

    def test_no_text_lies_over_another_as_the_browser_draws_them(self):
        for fields in ({}, {key: ROOFS[key] for key in ("charging", "wiring")}):
            self.show("one-line", **fields)
            self.until(lambda: self.the("[data-test=one-line] text"))
            over = self.driver.execute_script(
                "const boxes = [...document.querySelectorAll('[data-test=one-line] text')]"
                ".map(t => [t.textContent, t.getBoundingClientRect()]);"
                "const found = [];"
                "boxes.forEach(([one, a], i) => boxes.slice(i + 1).forEach(([other, b]) => {"
                "if (Math.min(a.right, b.right) - Math.max(a.left, b.left) > 1 &&"
                " Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 4) found.push(one + ' | ' + other)}));"
                "return found"
            )
            self.assertEqual(over, [])


class Board(WiringTest):
    def test_a_part_moves_by_keys_and_by_mouse_and_its_cables_follow(self):
        design_id = self.show("board")
        part = self.until(lambda: self.the("[data-part=inverter-1]"))
        self.focus(part)
        before = self.the("aside li .figures").text
        for _ in range(6):
            self.press(Keys.SHIFT + Keys.ARROW_RIGHT + Keys.NULL)
            self.until_saved()
        self.until(lambda: self.the("aside li .figures").text != before)
        place = self.stored(design_id)["board"]["places"][0]
        self.assertEqual(place["part"], "inverter-1")
        by_keys = place["x_mm"]
        ActionChains(self.driver).drag_and_drop_by_offset(self.the("[data-part=inverter-1] .front"), -60, 0).perform()
        self.until(lambda: self.stored(design_id)["board"]["places"][0]["x_mm"] < by_keys)
        self.assertEqual(self.stored(design_id)["board"]["places"][0]["x_mm"] % 10, 0)

    def test_a_part_on_another_is_told(self):
        design_id = self.show(
            "board",
            wiring={
                "board": {
                    "places": [
                        {"part": "inverter-1", "x_mm": 60.0, "y_mm": 950.0},
                        {"part": "bus", "x_mm": 60.0, "y_mm": 950.0},
                    ]
                }
            },
        )
        self.until(lambda: "Two parts in one place" in self.checks())
        self.assertTrue(design_id)


class Lists(WiringTest):
    def test_a_price_is_typed_and_the_sum_follows(self):
        design_id = self.show("lists")
        total = self.until(lambda: self.the("[data-test=total]").text)
        cell = self.the("[data-test=parts] [aria-label^='Price of Cable']")
        self.fill(cell, "2.5")
        self.until(lambda: self.the("[data-test=total]").text != total)
        (price,) = self.stored(design_id)["prices"]
        # By the foot on the screen, by the metre in the design.
        self.assertAlmostEqual(price["price"], 2.5 / 0.3048, places=6)
        self.assertEqual(cell.get_attribute("value"), "2.5")

    def test_every_list_is_there(self):
        self.show("lists")
        for name in ("cuts", "devices", "placards", "checks", "parts"):
            self.the(f"[data-test=list-{name}]").click()
            self.until(
                lambda name=name: len(self.driver.find_elements(By.CSS_SELECTOR, f"[data-test={name}] tbody tr")) > 3
            )


class Small(WiringTest):
    def test_at_1024_nothing_but_the_tables_scrolls_sideways(self):
        self.show("runs")
        resize(self.driver, 1024, 768)
        for part in ("runs", "one-line", "faults", "board", "lists"):
            self.the(f"[data-part={part}]").click()
            self.until(lambda: self.maybe(".wide-table, [data-test=board]"))
            wide = self.driver.execute_script(
                "const p = document.querySelector('.page'); return p.scrollWidth - p.clientWidth"
            )
            self.assertLessEqual(wide, 0, part)
