"""The one-line diagram: every part and run once, no text or symbol over another, no line through a text."""

import itertools
import unittest

from hypothesis import given

from hearthkeep.core.bank import rate
from hearthkeep.core.design import ArrangementKind
from hearthkeep.core.wiring import wiring_plan
from hearthkeep.core.wiring.oneline import one_line
from hearthkeep.demo import demo_designs
from tests.core.as_built import WELL_MADE, on_roof
from tests.core.made import PANEL_400, panels
from tests.core.made_wiring import everything, wired_homes
from tests.core.test_checks import GENERATOR
from tests.core.test_invariants import quick
from tests.support.designs import birchrow, load, moved

#: Symbols and texts may come this near without touching [px].
NEAR = 0.5


def drawn(design):
    plan = wiring_plan(design, rate(design.bank))
    return plan, one_line(design, plan)


def over(one, other, *, by=NEAR):
    """Whether two boxes lie over each other."""
    return min(one[2], other[2]) - max(one[0], other[0]) > by and min(one[3], other[3]) - max(one[1], other[1]) > by


def texts_of(drawing):
    return [text for owner in (*drawing.symbols, *drawing.lines) for text in owner.texts] + list(drawing.notes)


def strokes_of(drawing):
    """Every straight piece of every line, as a box, with its line."""
    for line in drawing.lines:
        for stroke in line.strokes:
            for (x, y), (to_x, to_y) in itertools.pairwise(stroke):
                yield line, (min(x, to_x), min(y, to_y), max(x, to_x), max(y, to_y))


def touched(drawing, line):
    """Keys of the symbols that a line reaches or crosses, those of devices on it left out."""
    boxes = [box for each, box in strokes_of(drawing) if each.key == line.key]
    return {
        symbol.key
        for symbol in drawing.symbols
        if symbol.run != line.key and any(over(box, symbol.box, by=-NEAR) for box in boxes)
    }


#: Where lanes of a bank's blocks end: bars and posts that no run is named by.
TERMINALS = "terminal-"


class Notes(unittest.TestCase):
    def notes(self, design):
        return " ".join(note.text for note in drawn(design)[1].notes)

    def test_what_no_symbol_shows_is_said_and_only_that(self):
        home = birchrow()
        self.assertIn("joined to ground at one place", self.notes(moved(home, {"wiring.dc_grounded": True})))
        self.assertIn("is not joined to ground", self.notes(moved(home, {"wiring.dc_grounded": False})))
        self.assertNotIn("negative", self.notes(home))
        self.assertIn("only one of the two be closed", self.notes(home))
        self.assertNotIn("closed", self.notes(moved(home, {"transfer.device.interlock": "none"})))
        self.assertIn("Rapid shutdown", self.notes(on_roof(True)))
        self.assertNotIn("Rapid", self.notes(on_roof(None)))


class Drawing(unittest.TestCase):
    def check(self, design, name):
        plan, drawing = drawn(design)
        keys = [line.key for line in drawing.lines if line.is_run]
        self.assertEqual(sorted(keys), sorted(run.run.key for run in plan.runs), name)
        symbols = [symbol.key for symbol in drawing.symbols]
        self.assertEqual(len(symbols), len(set(symbols)), name)
        ends = {end for run in plan.runs for end in (run.run.start, run.run.end)}
        self.assertEqual(ends - set(symbols), set(), name)
        for run in plan.runs:
            devices = [symbol for symbol in drawing.symbols if symbol.key == f"{run.run.key}-device"]
            # A run without a device is marked where nothing else opens for it.
            is_drawn = run.device is not None and (run.device.kind.value != "none" or plan.is_bare(run.run.key))
            self.assertEqual(len(devices), 1 if is_drawn else 0, run.run.key)
        texts = texts_of(drawing)
        for one, other in itertools.combinations(texts, 2):
            self.assertFalse(over(one.box, other.box), (name, one, other))
        for one, other in itertools.combinations(drawing.symbols, 2):
            self.assertFalse(over(one.box, other.box), (name, one.key, other.key, one.box, other.box))
        for symbol, text in itertools.product(drawing.symbols, texts):
            self.assertFalse(over(symbol.box, text.box), (name, symbol.key, text))
        for (line, (left, top, right, bottom)), text in itertools.product(strokes_of(drawing), texts):
            box = (left - 0.7, top - 0.7, right + 0.7, bottom + 0.7)
            self.assertFalse(over(box, text.box, by=0.0), (name, line.key, text))
        for text in texts:
            left, top, right, bottom = text.box
            self.assertTrue(left >= 0 and top >= 0 and right <= drawing.width_px and bottom <= drawing.height_px, text)
        self.check_network(plan, drawing, name)
        return drawing

    def check_network(self, plan, drawing, name):
        """Each run touches the two parts that it joins, and nothing else."""
        lines = {line.key: line for line in drawing.lines}
        for sized in plan.runs:
            run = sized.run
            found = {"bank" if key.startswith(TERMINALS) else key for key in touched(drawing, lines[run.key])}
            # A source that goes to the first of several units goes to all of them.
            joined = {run.start, run.end}
            if run.fed_from.value == "load_terminals" and any(key.startswith("controller-") for key in found):
                joined = {next(key for key in found if key.startswith("controller-")), run.end}
                if run.kind.value == "inverter":
                    # It hops over the bus, which its row crosses.
                    found -= {"bus"}
            if "inverter-1" in joined and run.kind.value in ("grid", "generator", "panel"):
                joined |= {symbol.key for symbol in drawing.symbols if symbol.kind in ("inverter", "all_in_one")}
            self.assertEqual(found, joined, (name, run.key))

    def test_all_demos(self):
        for design in demo_designs():
            with self.subTest(design.name):
                drawing = self.check(design, design.name)
                # One printed sheet, and readable beside the checks at 1280: no text below ten points of the screen.
                self.assertLess(drawing.width_px, 1000)
                self.assertLess(drawing.height_px, 1000)

    def test_installations_as_they_stand(self):
        for name, design in WELL_MADE.items():
            with self.subTest(name):
                self.check(design, name)

    def test_what_passes_the_bus_does_not_touch_it(self):
        """The load terminals of a controller lead past the bus, and a distribution block parts its ways from it."""
        for name, keys in (
            ("g without a bar", ["branch-lamp"]),
            ("a cart", ["branch-lamp", "branch-fan", "branch-radio"]),
        ):
            drawing = self.check(WELL_MADE[name], name)
            bus = next(symbol for symbol in drawing.symbols if symbol.key == "bus")
            lines = {line.key: line for line in drawing.lines}
            for key in keys:
                for left, top, right, bottom in (box for line, box in strokes_of(drawing) if line.key == key):
                    self.assertFalse(over((left, top, right, bottom), bus.box, by=0.0), key)
                self.assertEqual(lines[key].dots, ())
            for key in ("inverter-1", "controller-sun", "feed-ways"):
                if key in lines:
                    self.assertNotEqual(lines[key].dots, ())

    def test_two_arrays_two_controllers_paired_inverters_generator_and_coupling(self):
        drawing = self.check(everything(), "everything")
        kinds = [symbol.kind for symbol in drawing.symbols]
        self.assertEqual(kinds.count("inverter"), 2)
        self.assertEqual(kinds.count("controller"), 2)
        self.assertEqual(kinds.count("generator"), 1)
        self.assertEqual(kinds.count("grid_tied"), 1)
        self.assertEqual(kinds.count("array"), 4)
        self.assertLess(drawing.width_px, 1120)

    def test_an_all_in_one_is_one_symbol_with_its_inputs_on_its_edge(self):
        """Its arrays lead to it above the bus; grid and generator hop over them; several arrays of one input join before it."""
        inputs = [
            {"id": f"in{number}", "name": f"Input {number}", "kind": "mppt", "output_a": 60.0, "max_input_v": 450.0, "built_in": True,
             "arrays": arrays}
            for number, arrays in enumerate(
                ([panels("south", PANEL_400, 6, 1), panels("east", PANEL_400, 4, 2)], [panels("west", PANEL_400, 6, 1)]), 1
            )
        ]  # fmt: skip
        fields = {
            "charging.controllers": inputs,
            "charging.grid_charger.output_w": 1500.0,
            "charging.generator": GENERATOR,
        }
        drawing = self.check(moved(WELL_MADE["c two blocks"], fields), "one box")
        kinds = [symbol.kind for symbol in drawing.symbols]
        self.assertEqual((kinds.count("all_in_one"), kinds.count("input"), kinds.count("controller")), (1, 2, 0))
        lines = {line.key: line for line in drawing.lines}
        self.assertEqual([len(lines[f"array-{key}"].dots) for key in ("south", "east", "west")], [0, 1, 0])
        bus = next(symbol for symbol in drawing.symbols if symbol.key == "bus")
        posts = {symbol.key for symbol in drawing.symbols if symbol.key in touched(drawing, lines["posts"])}
        self.assertIn("bus", posts)
        self.assertTrue(posts & {"bank", "terminal-string-leads"})
        for key in ("array-south", "array-east", "array-west"):
            self.assertFalse(any(over(box, bus.box, by=-NEAR) for line, box in strokes_of(drawing) if line.key == key))

    def test_every_arrangement(self):
        for kind in (None, *ArrangementKind):
            with self.subTest(kind):
                self.check(moved(everything(), {"transfer.arrangement": kind and kind.value}), str(kind))

    def test_what_hangs_on_load_terminals_is_drawn_from_its_controller(self):
        fed = [{"run": key, "fed_from": "load_terminals"} for key in ("inverter-1", "branch-freezer-on-DC")]
        design = moved(everything(), {"wiring.runs": fed})
        drawing = self.check(design, "load terminals")
        lines = {line.key: line for line in drawing.lines}
        controller = next(symbol for symbol in drawing.symbols if symbol.key == "controller-roof")
        for key in ("inverter-1", "branch-freezer-on-DC"):
            starts = [stroke[0] for stroke in lines[key].strokes]
            self.assertIn(controller.box[2], [x for x, _ in starts], key)
            self.assertEqual(lines[key].dots, ())
        self.assertNotEqual(lines["inverter-2"].dots, ())

    def test_a_dozen_inverters_and_forty_branches(self):
        branches = [
            {
                **load(f"dc{number}", 10.0 + number, supply="dc"),
                "name": f"A lamp with a name of some length, number {number}",
            }
            for number in range(40)
        ]
        self.check(moved(everything(), {"inverter.units": 12, "loads": branches}), "many")

    @quick
    @given(wired_homes())
    def test_any_design(self, design):
        self.check(design, "any")
