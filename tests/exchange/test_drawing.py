"""The one-line as a drawing, and a tall one cut into parts."""

import unittest
import xml.etree.ElementTree as ET
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.bank import rate
from hearthkeep.core.wiring import wiring_plan
from hearthkeep.core.wiring.oneline import one_line
from hearthkeep.demo import demo_designs
from hearthkeep.exchange import one_line_svg, texts_in, windows
from tests.core.made_wiring import everything, wired_homes
from tests.core.test_invariants import quick
from tests.papers.made import strained

SVG = "{http://www.w3.org/2000/svg}"


def drawn(design):
    return one_line(design, wiring_plan(design, rate(design.bank)))


def crossed(window, box):
    """Whether an edge of a window runs through a box."""
    return any(box[1] + 0.5 < edge < box[3] - 0.5 for edge in window)


class Windows(unittest.TestCase):
    def check(self, drawing, most_px):
        parts = windows(drawing, most_px)
        self.assertEqual((parts[0][0], parts[-1][1]), (0.0, drawing.height_px))
        for part, after in pairwise(parts):
            self.assertEqual(part[1], after[0])
        for part in parts:
            self.assertLess(part[0], part[1])
            for symbol in drawing.symbols:
                self.assertFalse(symbol.kind != "bus" and crossed(part, symbol.box), symbol.key)
            for text in texts_in(drawing, (0.0, drawing.height_px)):
                self.assertFalse(crossed(part, text.box), text.text)
        # Each text lies in one of them, and in no other.
        shown = [text for part in parts for text in texts_in(drawing, part)]
        self.assertEqual(len(shown), len(texts_in(drawing, (0.0, drawing.height_px))))
        return parts

    def test_a_tall_one_is_cut_between_its_branches_at_most_so_high(self):
        drawing = drawn(strained(loads=40, branches=40))
        parts = self.check(drawing, 500.0)
        self.assertGreater(len(parts), 3)
        self.assertLessEqual(max(bottom - top for top, bottom in parts), 500.0)

    def test_one_that_fits_stays_whole(self):
        for design in demo_designs():
            drawing = drawn(design)
            self.assertEqual(self.check(drawing, drawing.height_px), [(0.0, drawing.height_px)])

    @quick
    @given(wired_homes(), st.floats(60.0, 900.0))
    def test_any_home_cut_at_any_height(self, design, most_px):
        self.check(drawn(design), most_px)


class Drawings(unittest.TestCase):
    def test_what_is_drawn_in_all_windows_is_the_whole(self):
        drawing = drawn(everything())
        whole = ET.fromstring(one_line_svg(drawing))
        parts = [ET.fromstring(one_line_svg(drawing, window=part)) for part in windows(drawing, 300.0)]
        count = lambda tree, tag: len(list(tree.iter(f"{SVG}{tag}")))  # noqa: E731
        self.assertGreater(len(parts), 1)
        self.assertEqual(sum(count(part, "text") for part in parts), count(whole, "text"))
        self.assertEqual(sum(count(part, "circle") for part in parts), count(whole, "circle"))
        self.assertGreaterEqual(sum(count(part, "path") for part in parts), count(whole, "path"))

    def test_without_texts_there_are_none(self):
        self.assertEqual(list(ET.fromstring(one_line_svg(drawn(everything()), has_texts=False)).iter(f"{SVG}text")), [])

    def test_nothing_of_a_window_is_drawn_outside_it(self):
        drawing = drawn(everything())
        for part in windows(drawing, 300.0):
            tree = ET.fromstring(one_line_svg(drawing, window=part))
            height = float(tree.get("viewBox").split()[3])
            self.assertAlmostEqual(height, part[1] - part[0], places=3)
            for path in tree.iter(f"{SVG}path"):
                if path.get("transform"):
                    continue
                heights = [
                    float(point.split()[1]) for stroke in path.get("d")[1:].split("M") for point in stroke.split("L")
                ]
                self.assertTrue(part[0] - 1e-6 <= min(heights) and max(heights) <= part[1] + 1e-6)
