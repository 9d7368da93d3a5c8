"""Fields read a quantity: a number as it always was, or a small sum of numbers with the usual precedence."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.runner.profile import examples
from tests.support.web import called


def read(text, commas="group", unit=""):
    return called("fields/quantity", "readQuantity", text, commas, unit)


class Sums(unittest.TestCase):
    CASES = (
        ("3*45", 135),
        ("3 × 45", 135),
        ("2+3*4", 14),
        ("(2+3)*4", 20),
        ("(2+1)*12.8 V", 38.4),
        ("1,200+300", 1500),
        ("0.1*3", 0.3),
        ("100/8", 12.5),
        ("7 ÷ 2", 3.5),
        ("-5+8", 3),
        ("2*-3", -6),
        ("10-4-3", 3),
        ("1e3*2", 2000),
        ("  4 *  5 ", 20),
    )

    def test_each_is_worked_out(self):
        for text, value in self.CASES:
            with self.subTest(text):
                self.assertEqual(read(text, unit="V"), {"value": value, "wrong": ""})

    def test_what_is_no_sum_is_refused(self):
        for text in (
            "3*",
            "*3",
            "(2+3",
            "2+3)",
            "3 watts",
            "2**3",
            "1/0",
            "()",
            "3 45",
            "=3",
            "x",
            "9" * 70,
            "1+" * 31 + "1",
        ):
            with self.subTest(text):
                found = read(text)
                self.assertIsNone(found["value"])
                self.assertTrue(found["wrong"])

    def test_a_number_alone_is_read_as_before(self):
        self.assertEqual(read("1,200")["value"], 1200)
        self.assertEqual(read("1 200")["value"], 1200)
        self.assertIn("may be", read("1,400", "unsure")["wrong"])
        self.assertIn("may be", read("1,400*2", "unsure")["wrong"])

    @examples(150)
    @given(st.lists(st.integers(1, 999), min_size=2, max_size=5), st.data())
    def test_sums_come_to_what_arithmetic_says(self, numbers, data):
        operators = data.draw(st.lists(st.sampled_from("+-*/"), min_size=len(numbers) - 1, max_size=len(numbers) - 1))
        text = "".join(f"{number}{operator}" for number, operator in zip(numbers, [*operators, ""], strict=True))
        self.assertAlmostEqual(read(text)["value"], eval(text), delta=1e-6 * max(1.0, abs(eval(text))))
