"""One typed line becomes a load, or says what is missing."""

import json
import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.design import Tier
from hearthkeep.core.loads import read_line
from hearthkeep.core.numbers import Commas
from tests.runner.profile import examples
from tests.support.designs import ROOT

LINES = json.loads((ROOT / "tests" / "lines.json").read_text(encoding="utf-8"))["lines"]

VOCABULARY = (
    "pump", "1/3", "hp", "120W", "1,5kW", "60000W", "12V", "240V", "5A", "pf", "0.8", "7", "starts", "surge", "start", "780", "3x",
    "x3", "x99", "2.5x", "0x", "duty", "36%", "300%", "standby", "2W", "link", "heat", "any", "3h", "30h", "converter", "90%", "9%",
    "code", "K", "Z", "1/2hp", "1/0hp", "hp", "/hp", "300kWh/year", "2kWh/48h", "0kWh/0h", "7-8", "22-6", "7-25", "5-5", "24h",
    "dc", "ac", "panel", "life", "ease", "measured", "guess", "typical", "W/h", "kWh", "per", "in", "%", "-", ",", "×2", "6", "pm", "18:30-22", "to", "from", "~", "about", "x", "pcs", "each", "overnight", "daily", "½", "5V/2A",
)  # fmt: skip


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

    def test_each_way_of_knowing_the_watts_in_one_line(self):
        for line, running_w, duty, kind in (
            ("tool 120V 5A", 600.0, 1.0, "nameplate"),
            ("tool 120V x 5A pf 0.8", 480.0, 1.0, "nameplate"),
            ("tool 120 v x 5 a PF 0,8", 480.0, 1.0, "nameplate"),
            ("radio dc 2A 12V", 24.0, 1.0, "dc_amps"),
            ("radio dc 2A", 25.6, 1.0, "dc_amps"),
            ("fridge 438kWh/year 100W", 100.0, 0.5, "label"),
            ("fridge 438 kWh per year 100W", 100.0, 0.5, "label"),
            ("fridge 438kWh/yr 100W", 100.0, 0.5, "label"),
            ("fridge 2.4kWh/48h 100W", 100.0, 0.5, "meter"),
        ):
            with self.subTest(line):
                load = read_line(line, bank_v=12.8).load
                self.assertIsNotNone(load, read_line(line).problems)
                self.assertAlmostEqual(load.running_w, running_w)
                self.assertAlmostEqual(load.duty_frac, duty)
                self.assertEqual(load.known.kind, kind)

    def test_how_it_is_fed(self):
        for line, supply in (
            ("pump 900W", "ac"), ("pump dc 90W", "dc"), ("pump 240V 4A", "ac240"), ("pump 230V 4A", "ac"),
            ("pump 235V 4A", "ac240"), ("pump 234V 4A", "ac"), ("fan 20W panel", "panel"), ("usb 10W dc converter 85%", "dc_converted"),
        ):  # fmt: skip
            with self.subTest(line):
                self.assertEqual(read_line(line).load.supply, supply)
        self.assertEqual(read_line("usb 10W dc converter 85%").load.converter_efficiency_frac, 0.85)

    def test_how_the_start_is_known(self):
        pump = read_line("pump 640W starts 3x").load
        self.assertEqual((pump.start_w, pump.start_known.kind), (1920.0, "multiple"))
        self.assertEqual(read_line("pump 640W surge X2.5").load.start_w, 1600.0)
        self.assertIn("1 to 12", read_line("pump 640W starts 99x").problems[0].accepted)
        coded = read_line("pump 640W code K 1/2hp").load
        self.assertEqual((coded.start_known.code_letter, coded.start_known.horsepower_hp), ("K", 0.5))
        self.assertEqual(read_line("pump 640W code K 1.5 hp").load.start_known.horsepower_hp, 1.5)
        for spoilt in ("Z 1/2hp", "K 1/0hp", "K hp", "K /hp", "K 999hp"):
            with self.subTest(spoilt):
                self.assertIn("start", [entry.field for entry in read_line(f"pump 640W code {spoilt}").problems])

    def test_waiting_for_the_sun_quality_and_whole_days(self):
        load = read_line("laundry 500W any 2h 8-18 measured").load
        self.assertEqual((load.flexible_h, load.hours, load.known.quality), (2, ((8, 18),), "measured"))
        self.assertEqual(read_line("laundry 500W any 3").load.flexible_h, 3)
        self.assertEqual(read_line("router 17W 24h").load.hours, ((0, 24),))

    def test_watts_an_hour_are_a_slip_of_the_tongue(self):
        self.assertEqual(read_line("lamp 10W/h").load.running_w, 10.0)

    def test_parts_that_do_not_make_a_reading_say_what_is_missing(self):
        for line, words in (
            ("tool 5A", "amps need their volts"),
            ("fridge 2kWh", "needs its time"),
            ("fridge 2kWh/0h", "more than 0 hours"),
            ("usb 5W converter lots", "30 to 100 %"),
            ("laundry 500W any day", "1 to 24 hours"),
            ("fan 20W standby", "standby 2"),
            ("fan 20W 5-5", "0 to 24"),
            ("pump 240V 4A 300W pf 7", "0.1 to 1"),
        ):
            with self.subTest(line):
                entry = read_line(line)
                self.assertIsNone(entry.load)
                self.assertIn(words, " ".join(problem.accepted for problem in entry.problems))

    def test_what_was_understood_is_told_in_the_order_of_the_columns(self):
        for line, told in (
            ("6x led lamp 8W 17-22 ease", ("led lamp", "6 of them", "runs 8 W", "17–22 h", "tier Ease")),
            ("boiler 165W link heat", ("boiler", "runs 165 W", "linked: heat", "tier Keep")),
            ("fan 20W panel ease", ("fan", "runs 20 W", "straight from a panel", "tier Ease")),
            ("laundry 500W any 2h", ("laundry", "runs 500 W", "any 2 h of them, when the sun carries it", "tier Keep")),
        ):
            with self.subTest(line):
                self.assertEqual(read_line(line).understood, told)

    def test_lines_as_people_type_them(self):
        for case in LINES:
            with self.subTest(case["line"]):
                commas = Commas.UNSURE if case.get("metric") else Commas.GROUP
                entry = read_line(case["line"], commas=commas)
                if "waits" in case:
                    self.assertIsNone(entry.load)
                    self.assertIn(case["waits"], " ".join(problem.accepted for problem in entry.problems))
                    continue
                self.assertIsNotNone(entry.load, entry.problems)
                got = entry.load.model_dump(mode="json")
                for field in got.keys() & case.keys():
                    self.assertEqual(got[field], case[field], field)
                self.assertIn(case.get("note", ""), " ".join(entry.understood))

    @examples(400)
    @given(st.lists(st.sampled_from(VOCABULARY), max_size=7))
    def test_its_own_words_in_any_order_can_not_break_it(self, words):
        entry = read_line(" ".join(words))
        self.assertEqual(entry.load is None, bool(entry.problems))
        for problem in entry.problems:
            self.assertTrue(problem.field and problem.accepted)

    def test_nothing_typed_can_break_it(self):
        for line in ("", " ", "-", "%%%", "W", "999999999999999999999W", "x" * 400, "1-2-3", "٣W", "a\x00b 5W"):
            with self.subTest(line):
                entry = read_line(line)
                self.assertIsNone(entry.load)
                self.assertTrue(entry.problems)
