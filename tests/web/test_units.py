"""Practice units at the screen's edge: what is typed is what is seen again, and the design holds SI."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.practice import volume, wind_speed
from tests.runner.profile import examples
from tests.support.designs import changed, load, simple
from tests.support.web import called, chained

METRIC, AMERICAN = {"practice": "metric_230"}, {"practice": "north_american"}
quick = examples(40)
#: Units by the digits a person types.
TYPED = {
    "temperature": st.integers(-400, 1200).map(lambda tenths: tenths / 10),
    "elevation": st.integers(-1000, 20_000).map(float),
    "volume": st.integers(0, 20_000).map(lambda hundredths: hundredths / 100),
    "flow": st.integers(0, 9_000).map(lambda thousandths: thousandths / 1000),
    "flowOfEnergy": st.integers(0, 900).map(lambda thousandths: thousandths / 1000),
    "windSpeed": st.integers(0, 900).map(lambda tenths: tenths / 10),
}


def through(unit, practice, name, value):
    return chained("fields/units", [unit, practice], [name, value])


class Practices(unittest.TestCase):
    def test_labels(self):
        for unit, metric, american in (
            ("temperature", "°C", "°F"), ("elevation", "m", "ft"), ("volume", "L", "gal"), ("flow", "L/h", "gal/h"),
            ("flowOfEnergy", "L", "gal"), ("windSpeed", "m/s", "mph"),
        ):  # fmt: skip
            with self.subTest(unit):
                self.assertEqual(chained("fields/units", [unit, METRIC], ["label"]), metric)
                self.assertEqual(chained("fields/units", [unit, AMERICAN], ["label"]), american)

    def test_known_conversions(self):
        for unit, si, shown in (
            ("temperature", -40.0, -40.0), ("temperature", 25.0, 77.0), ("elevation", 304.8, 1000), ("volume", 3.785412, 1),
            ("flow", 1.0, 0.264), ("windSpeed", 4.4704, 10),
        ):  # fmt: skip
            with self.subTest(unit):
                self.assertEqual(through(unit, AMERICAN, "show", si), shown)
                self.assertEqual(through(unit, METRIC, "show", si), si)

    @quick
    @given(st.data())
    def test_what_is_typed_is_seen_again(self, data):
        unit = data.draw(st.sampled_from(sorted(TYPED)))
        typed = data.draw(TYPED[unit])
        for practice in (METRIC, AMERICAN):
            kept = through(unit, practice, "keep", typed)
            self.assertEqual(through(unit, practice, "show", kept), typed)

    @quick
    @given(st.integers(0, 100_000))
    def test_a_percentage_is_seen_again(self, thousandths):
        typed = thousandths / 1000
        kept = chained("fields/units", ["asPercent"], ["keep", typed])
        self.assertEqual(chained("fields/units", ["asPercent"], ["show", kept]), typed)
        self.assertTrue(0 <= kept <= 1)

    def test_the_sentences_of_the_core_convert_alike(self):
        design = changed(simple(load("a", 1)), practice="north_american")
        for litres in (0.2, 19.0, 5000.0):
            self.assertAlmostEqual(through("volume", AMERICAN, "show", litres), volume(design, litres)[0], places=2)
        self.assertAlmostEqual(through("windSpeed", AMERICAN, "show", 3.4), wind_speed(design, 3.4)[0], places=1)


class Palette(unittest.TestCase):
    """Text contrast by WCAG 2.1, relative luminance and contrast ratio as its definitions have them; AA asks for 4.5."""

    @staticmethod
    def luminance(colour):
        parts = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
        red, green, blue = (part / 12.92 if part <= 0.03928 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
        return 0.2126 * red + 0.7152 * green + 0.0722 * blue

    def contrast(self, one, other):
        light, dark = sorted((self.luminance(one), self.luminance(other)), reverse=True)
        return (light + 0.05) / (dark + 0.05)

    def test_the_ratio_of_black_on_white_is_21(self):
        self.assertAlmostEqual(self.contrast("#000000", "#FFFFFF"), 21.0)

    def test_every_text_colour_on_every_ground(self):
        for theme in ("day", "night"):
            palette = called("styles/palette", theme)
            for text in ("ink", "slate", "emberInk", "sunInk", "pine", "wine", "umber"):
                for ground in ("paper", "sheet", "rail"):
                    with self.subTest(theme=theme, text=text, ground=ground):
                        self.assertGreaterEqual(self.contrast(palette[text], palette[ground]), 4.5)
            self.assertGreaterEqual(self.contrast(palette["barInk"], palette["bar"]), 4.5)
