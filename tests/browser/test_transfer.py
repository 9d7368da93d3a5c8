"""Transfer by mouse and by keys: an arrangement chosen, circuits typed, pasted and moved, legs balanced, an order changed."""

import json

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.designs import ROOT
from tests.support.live import BrowserTest

FLAT = json.loads((ROOT / "examples" / "terrace-flat.json").read_text())
SCHEDULE = "\n".join(
    (
        "Circuit\tDescription\tAmps\tPole\tAWG\tBackup",
        "19\tWorkshop\t20\t1\t12\tno",
        "21\tPorch\tten\t1\t14\tno",
        "7\tFridge and freezer\t20\t1\t12\tyes",
        "22\tStudy\t15\t1\t14\tperhaps",
    )
)


class TransferTest(BrowserTest):
    def carried(self):
        return self.the("[data-test=carried]").text.split("\n")[0]

    def slot(self, number):
        return self.the(f"[data-test=slot-{number}]")

    def press_on(self, element, *keys):
        self.driver.execute_script("arguments[0].focus()", element)
        self.press(*keys)

    def stored(self, design_id):
        self.until_saved()
        return self.app.ask("GET", f"api/designs/{design_id}")["document"]

    def drag(self, source, target):
        """A drag as the browser tells of it: start, over, drop."""
        self.driver.execute_script(
            "const data = new DataTransfer();"
            "const tell = (on, kind) => on.dispatchEvent(new DragEvent(kind, "
            "{dataTransfer: data, bubbles: true, cancelable: true}));"
            "tell(arguments[0], 'dragstart'); tell(arguments[1], 'dragover'); tell(arguments[1], 'drop');"
            "tell(arguments[0], 'dragend');",
            source,
            target,
        )


class Arrangements(TransferTest):
    def test_one_is_looked_at_by_keys_its_positions_followed_and_chosen(self):
        design_id = self.fresh("transfer")
        self.until(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test=advice] li")) == 9)
        looked = self.the("[data-test=looked] h2").text
        self.assertIn("Manual switch", looked)
        self.press_on(self.the("[data-test=advice-manual_switch]"), Keys.ARROW_UP)
        self.until(lambda: "Critical panel" in self.the("[data-test=looked] h2").text)
        told = self.the("[data-test=path] figcaption").text
        self.assertIn("Critical panel on grid", told)
        self.press_on(self.the("[data-test=position-grid]"), Keys.ARROW_RIGHT)
        self.until(lambda: "Critical panel on backup" in self.the("[data-test=path] figcaption").text)
        self.assertIn("Dead: Grid, Main panel", self.the("[data-test=path] figcaption").text)
        self.the("[data-test=choose]").click()
        self.until(lambda: "chosen" in self.the("[data-test=advice-critical_panel]").text)
        self.until(lambda: "No way around" in self.the("aside.checks").text)
        self.assertEqual(self.stored(design_id)["transfer"]["arrangement"], "critical_panel")

    def test_a_stop_is_tried_and_settled(self):
        self.fresh("transfer")
        self.until(lambda: "2 neutral-ground bonds" in self.the("aside.checks").text)
        self.until(
            lambda: next(
                b
                for b in self.driver.find_elements(By.CSS_SELECTOR, "aside.checks button")
                if "floating neutral" in b.text
            )
        ).click()
        self.until(lambda: "Neutral and ground are joined once" in self.the("aside.checks").text)


class Further(TransferTest):
    def test_a_panel_behind_a_circuit_and_one_behind_that_are_entered_and_taken_out(self):
        design_id = self.fresh("transfer?part=panel")
        before = len(self.birchrow["transfer"]["circuits"])
        self.the("[data-test=add-further]").click()
        own = self.the("[data-test^=further-]")
        own.find_element(By.CSS_SELECTOR, "[data-test=add-behind]").click()
        self.fill(self.the("[data-test^=further-] tbody input[aria-label=Circuit]"), "To the shed")
        # What that circuit feeds is the next panel.
        self.until(lambda: "To the shed" in self.the("[data-test^=further-] tbody input").get_attribute("value"))
        self.the("[data-test=add-further]").click()
        self.until(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-test^=further-]")) == 2)
        self.until_saved()
        first, second = self.stored(design_id)["transfer"]["further"]
        self.assertEqual(first["circuits"][0]["name"], "To the shed")
        self.assertNotEqual(second["fed_by"], first["fed_by"])
        self.open(design_id, "loads")
        self.until(lambda: "could not" not in self.the("main").text)
        self.open(design_id, "transfer?part=panel")
        # With the first panel goes what stands behind it, and nothing of the main panel.
        for button in self.driver.find_elements(By.CSS_SELECTOR, "[data-test=further] button"):
            if button.text.startswith("Take Panel further on out"):
                button.click()
                break
        self.until_saved()
        transfer = self.stored(design_id)["transfer"]
        fed = {each["fed_by"] for each in transfer["further"]}
        self.assertFalse(fed & {circuit["id"] for circuit in first["circuits"]})
        self.assertEqual(len(transfer["circuits"]), before)


class Panel(TransferTest):
    def test_typed_by_keyboard_a_circuit_takes_the_loads_it_names(self):
        loads = [{**load, "circuit": None} for load in self.birchrow["loads"]]
        empty = {**self.birchrow["transfer"], "circuits": []}
        design_id = self.fresh("transfer?part=panel", loads=loads, transfer=empty)
        self.driver.find_element(By.TAG_NAME, "body").send_keys("n")
        self.press("7 20A 1p microwave and television 12 AWG backed up")
        self.until(lambda: "takes Television, Microwave" in self.the("[data-test=reading]").text)
        self.press(Keys.ENTER)
        self.until(lambda: "microwave and television" in self.slot(7).text)
        self.press("7 15A porch", Keys.ENTER)
        self.until(lambda: "must be free" in self.the("[data-test=reading]").text)
        self.assertEqual(self.the("[data-test=entry]").get_attribute("value"), "7 15A porch")
        document = self.stored(design_id)
        (circuit,) = document["transfer"]["circuits"]
        self.assertEqual((circuit["slot"], circuit["wire"], circuit["backed_up"]), (7, "12 AWG", True))
        hung = {load["name"] for load in document["loads"] if load["circuit"] == circuit["id"]}
        self.assertEqual(hung, {"Television", "Microwave"})

    def test_keys_go_through_the_slots_back_up_move_take_out_and_undo(self):
        design_id = self.fresh("transfer?part=panel")
        before = self.hours()
        self.assertEqual(self.carried(), "11 of 11 AC loads")
        # From slot 1 down to the sump pump in 3, and off the backup supply.
        self.press_on(self.slot(1), Keys.ARROW_DOWN, "b")
        self.until(lambda: self.carried() == "10 of 11 AC loads")
        self.until_hours(lambda hours: hours > before)
        self.assertIn("Sump pump", self.the("[data-test=carried]").text)
        self.press("b")
        self.until(lambda: self.carried() == "11 of 11 AC loads")
        # Across to the lights, down to the next free slot, and out.
        self.press_on(self.slot(9), Keys.ARROW_RIGHT)
        self.assertEqual(self.driver.switch_to.active_element.get_attribute("data-slot"), "10")
        self.press_on(self.slot(10), Keys.ALT, Keys.ARROW_DOWN, Keys.NULL)
        self.until(lambda: "Lights" in self.slot(12).text)
        self.until_saved()
        self.press_on(self.slot(12), Keys.DELETE)
        self.until(lambda: "Lights" not in self.slot(12).text)
        self.until(lambda: "1 load hangs on no circuit" in self.the("[data-test=unplaced]").text)
        self.until_saved()
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "z")
        self.until(lambda: "Lights" in self.slot(12).text)
        lamps = next(load for load in self.stored(design_id)["loads"] if load["id"] == "lamps")
        self.assertEqual(lamps["circuit"], "s10")

    def test_a_breaker_is_dragged_to_a_free_slot_and_not_onto_another(self):
        design_id = self.fresh("transfer?part=panel")
        self.drag(self.slot(7), self.slot(3))
        self.drag(self.slot(7), self.slot(19))
        self.until(lambda: "Fridge" in self.slot(19).text)
        slots = {entry["name"]: entry["slot"] for entry in self.stored(design_id)["transfer"]["circuits"]}
        self.assertEqual((slots["Fridge"], slots["Sump pump"]), (19, 3))

    def test_a_picked_circuit_is_changed_and_a_load_hung_on_it(self):
        design_id = self.fresh("transfer?part=panel")
        self.slot(7).click()
        self.fill(self.labelled("Breaker"), "15")
        self.choose("hang", "Router and fibre box, moved here")
        self.until(lambda: "Router" in self.the("[data-test=circuit] ul").text)
        document = self.stored(design_id)
        self.assertEqual(document["transfer"]["circuits"][5]["breaker_a"], 15)
        self.assertEqual(next(load for load in document["loads"] if load["id"] == "router")["circuit"], "s7")

    def test_a_pasted_schedule_is_shown_first_and_its_good_rows_taken(self):
        design_id = self.fresh("transfer?part=panel")
        self.driver.execute_script(
            "const data = new DataTransfer(); data.setData('text/plain', arguments[0]);"
            "document.querySelector('[data-test=entry]').dispatchEvent("
            "new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))",
            SCHEDULE,
        )
        self.until(
            lambda: "1 added, 1 changed, 0 as they are, 2 left out" in self.the("[data-test=sheet-summary]").text
        )
        self.assertIn("expected a breaker in amps", self.the("[data-test=sheet-row-3]").text)
        self.the("[data-test=take-sheet]").click()
        self.until(lambda: "Workshop" in self.slot(19).text)
        names = {entry["slot"]: entry["name"] for entry in self.stored(design_id)["transfer"]["circuits"]}
        self.assertEqual((names[7], names[19]), ("Fridge and freezer", "Workshop"))
        self.assertNotIn(21, names)

    def test_forty_circuits_by_mouse_and_keys(self):
        circuits = [
            {"id": f"q{slot}", "slot": slot, "name": f"Circuit {slot}", "breaker_a": 15.0, "backed_up": slot % 2 == 0}
            for slot in range(1, 41)
        ]
        loads = [{**load, "circuit": f"q{2 * at + 2}"} for at, load in enumerate(self.birchrow["loads"])]
        panel = {"arrangement": "critical_panel", "circuits": circuits, "main": {"slots": 42}}
        self.fresh("transfer?part=panel", loads=loads, transfer=panel)
        self.slot(40).click()
        self.until(lambda: "Slot 40" in self.the("[data-test=circuit] h2").text)
        self.press_on(self.slot(1), *([Keys.ARROW_DOWN] * 19), Keys.ENTER)
        self.until(lambda: "Slot 39" in self.the("[data-test=circuit] h2").text)
        apart = self.the("[data-test=legs] h2").text
        self.the("[data-test=balance]").click()
        self.until(lambda: "exact search" in self.the("[data-test=legs]").text)
        # The method is named when the search answers, the difference when the design is assessed with what it found.
        self.until(lambda: self.the("[data-test=legs] h2").text != apart)
        # By hand again: one bar to the other leg, by keys and by dragging.
        bar = self.the("[data-bar=q2]")
        side = "A" if "leg A" in bar.get_attribute("title") else "B"
        self.press_on(bar, Keys.ARROW_RIGHT if side == "A" else Keys.ARROW_LEFT)
        self.until(lambda: f"leg {side}" not in self.the("[data-bar=q2]").get_attribute("title"))
        self.drag(self.the("[data-bar=q2]"), self.the(f".side.{side}"))
        self.until(lambda: f"leg {side}" in self.the("[data-bar=q2]").get_attribute("title"))

    def test_what_is_dead_is_named_on_loads_and_on_the_strip(self):
        inverter = {**self.birchrow["inverter"], "output": "120"}
        device = {**self.birchrow["transfer"]["device"], "feed": "leg_b"}
        transfer = {**self.birchrow["transfer"], "device": device}
        design_id = self.fresh("loads", inverter=inverter, transfer=transfer)
        self.until(lambda: self.the('[data-test="load-cpap"] [data-test=left]').text == "dead")
        self.assertIn("Dead: CPAP", self.the("[data-test=strip-dead]").text)
        self.open(design_id, "transfer?part=panel")
        self.until(lambda: "dead" in self.slot(1).text)
        self.assertIn("leg A is not energised", self.slot(1).get_attribute("title"))

    def test_a_service_of_one_line_takes_the_second_leg_with_it(self):
        transfer = json.loads(json.dumps(self.birchrow["transfer"]))
        transfer["circuits"][0]["backup_leg"] = "B"
        design_id = self.fresh("storm", transfer=transfer)
        self.choose("service", "230 V")
        self.assertIsNone(self.stored(design_id)["transfer"]["circuits"][0]["backup_leg"])
        self.open(design_id, "transfer?part=panel")
        self.until(lambda: "one line and neutral" in self.the("dl.facts").text)


class Refused(TransferTest):
    expected_in_log = ("422",)

    def test_a_wire_that_is_no_size_is_said_below_its_field_and_stays_there(self):
        design_id = self.fresh("transfer?part=panel")
        self.slot(7).click()
        self.fill(self.labelled("Wire, AWG"), "thick")
        self.until(lambda: "must be a size with its unit, such as 14 AWG" in self.the("[data-test=circuit]").text)
        self.assertEqual(self.labelled("Wire, AWG").get_attribute("value"), "thick")
        self.fill(self.labelled("Wire, AWG"), "10")
        self.assertEqual(self.stored(design_id)["transfer"]["circuits"][5]["wire"], "10 AWG")

    def test_a_panel_with_too_few_slots_names_the_breaker_that_does_not_fit(self):
        design_id = self.fresh("transfer?part=device")
        self.fill(self.field("transfer.main.slots"), "12")
        self.until(lambda: "Dryer, slot: must leave its breaker within" in self.the("[data-test=misplaced]").text)
        self.fill(self.field("transfer.main.slots"), "20")
        self.until(lambda: self.maybe("[data-test=misplaced]") is None)
        self.assertEqual(self.stored(design_id)["transfer"]["main"]["slots"], 20)


class OrderAndDrill(TransferTest):
    def test_the_order_is_changed_by_keys_and_by_buttons(self):
        made = self.app.ask("POST", "api/designs/import", {**FLAT, "name": "A copy of the flat"})
        self.open(made["id"], "transfer?part=order")
        uses = lambda: [  # noqa: E731
            entry.get_attribute("data-use")
            for entry in self.driver.find_elements(By.CSS_SELECTOR, "[data-test=uses] li[data-use]")
        ]
        self.until(lambda: uses() == ["loads", "bank", "house", "export"])
        self.press_on(self.the("[data-use=bank]"), Keys.ARROW_UP)
        self.until(lambda: uses() == ["bank", "loads", "house", "export"])
        self.until(lambda: self.driver.switch_to.active_element.get_attribute("data-use") == "bank")
        self.named("Leave Export out").click()
        self.until(lambda: uses() == ["bank", "loads", "house"])
        self.until(lambda: "held back, since nothing takes it" in self.the("[data-test=uses]").text)
        self.assertEqual(self.stored(made["id"])["transfer"]["order"], ["bank", "loads", "house"])
        self.assertIn("towards the bank", self.the("[data-test=coupled]").text)

    def test_where_nothing_works_beside_the_grid_the_order_is_fixed(self):
        self.fresh("transfer?part=order")
        self.until(lambda: "the order is fixed" in self.the("[data-test=order]").text)

    def test_the_switching_card_names_the_circuits_and_what_is_never_done(self):
        self.fresh("transfer?part=switching")
        card = self.the("[data-test=switching]").text
        # By the number on its handle of the switch, not by its slot in the main panel.
        self.assertIn("4 Fridge", card)
        self.assertIn("Never a cord from the supply into an outlet of the house", card)
