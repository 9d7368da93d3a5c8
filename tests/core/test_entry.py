"""One typed line becomes a load, or says what is missing."""

import unittest

from hearthkeep.core.design import Tier
from hearthkeep.core.loads import read_line


class ReadLine(unittest.TestCase):
    def test_every_word_in_any_order(self):
        entry = read_line("ease 17-22 2x dc standby 0.5 LED lamp 6 W duty 80%")
        self.assertEqual(entry.problems, ())
        load = entry.load
        self.assertEqual((load.name, load.tier, load.quantity, load.running_w), ("LED lamp", "ease", 2, 6.0))
        self.assertEqual((load.supply, load.standby_w, load.duty_frac, load.hours), ("dc", 0.5, 0.8, ((17, 22),)))

    def test_kilowatts_decimal_commas_and_links(self):
        load = read_line("heater 1,5kW starts 2kW link warm").load
        self.assertEqual((load.running_w, load.start_w, load.link), (1500.0, 2000.0, "warm"))

    def test_hours_over_midnight_and_with_spaces(self):
        self.assertEqual(read_line("cpap 34W 22-6").load.hours, ((0, 6), (22, 24)))
        self.assertEqual(read_line("kettle 1500W 7-8, 17-18").load.hours, ((7, 8), (17, 18)))
        self.assertEqual(read_line("lamp 5W 18:00–22:00").load.hours, ((18, 22),))

    def test_the_tier_given_counts_unless_the_line_names_one(self):
        self.assertEqual(read_line("fan 20W", tier=Tier.SPARE).load.tier, Tier.SPARE)
        self.assertEqual(read_line("fan 20W life", tier=Tier.SPARE).load.tier, Tier.LIFE)

    def test_problems_name_field_value_and_what_is_accepted(self):
        cases = {
            "fridge": ("running_w", "needs watts"),
            "120W": ("name", "needs a name"),
            "fan 60000W": ("running_w", "0 to 50,000"),
            "fan 20W duty lots": ("duty_frac", "0 to 100"),
            "fan 20W duty 300%": ("duty_frac", "0 to 1"),
            "fan 20W 7-25": ("hours", "0 to 24"),
            "fan 20W 0x": ("quantity", "1 to 500"),
            "fan 20W 30W": ("running_w", "twice"),
            "fan 20W starts": ("start_w", "starts 780"),
        }
        for line, (field, words) in cases.items():
            with self.subTest(line):
                entry = read_line(line)
                self.assertIsNone(entry.load)
                self.assertIn(field, [problem.field for problem in entry.problems])
                self.assertIn(words, " ".join(problem.accepted for problem in entry.problems))

    def test_nothing_typed_can_break_it(self):
        for line in ("", " ", "-", "%%%", "W", "999999999999999999999W", "x" * 400, "1-2-3", "٣W", "a\x00b 5W"):
            with self.subTest(line):
                entry = read_line(line)
                self.assertTrue(entry.load is None or entry.load.name)
