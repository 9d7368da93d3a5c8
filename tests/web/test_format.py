"""Numbers and times as every page writes them."""

import unittest

from tests.support.web import called

FORMAT = "shared/format"


class Numbers(unittest.TestCase):
    def says(self, name, *cases):
        for *given, told in cases:
            with self.subTest(name=name, given=given):
                self.assertEqual(called(FORMAT, name, *given), told)

    def test_hours_and_minutes(self):
        self.says(
            "hours",
            (0, "0 h"), (41.3, "41 h 18"), (72, "72 h"), (1 / 60, "0 h 01"), (0.9999, "1 h"), (1234.5, "1,234 h 30"),
        )  # fmt: skip

    def test_a_change_has_its_sign_and_less_than_half_a_minute_is_none(self):
        self.says(
            "hoursChange",
            (2.25, "+2 h 15"), (-1 / 3, "−0 h 20"), (0.008, "±0 h"), (-0.008, "±0 h"), (0.009, "+0 h 01"),
        )  # fmt: skip

    def test_energy_changes_its_unit_where_it_is_read_more_easily(self):
        self.says(
            "kilowattHours",
            (0, "0 Wh"), (430.4, "430 Wh"), (999.4, "999 Wh"), (999.5, "1.0 kWh"), (10240, "10.2 kWh"), (-2500, "-2.5 kWh"),
            (12_345_678, "12,345.7 kWh"),
        )  # fmt: skip

    def test_power_and_parts(self):
        self.says("kilowatts", (300, "300 W"), (999.4, "999 W"), (999.7, "1 kW"), (1000, "1 kW"), (2425, "2.43 kW"))
        self.says("percent", (0.445, "45 %"), (0, "0 %"), (1, "100 %"))
        self.says("count", (1234567.5, "1,234,568"), (-0.2, "0"))
        self.says("amount", (1 / 3, "0.33"), (1250, "1,250"))

    def test_a_working_shows_the_digits_its_size_makes_worth_reading(self):
        self.says(
            "worked",
            (0, "0"), (2770.66, "2,771"), (172.04, "172"), (172.06, "172.1"), (0.97, "0.97"), (0.0041, "0.0041"), (-5.126, "-5.13"),
        )  # fmt: skip

    def test_no_number_is_written_as_minus_nothing(self):
        for name in ("count", "amount", "worked", "kilowattHours"):
            with self.subTest(name):
                self.assertFalse(called(FORMAT, name, -1e-9).startswith("-"), name)


class Times(unittest.TestCase):
    def test_a_moment_of_the_outage_is_local_standard_time_whatever_the_reader_s_zone(self):
        start = "2026-01-12T17:00:00"
        for offset_h, told in (
            (0, "Mon 12 17:00"),
            (7, "Tue 13 00:00"),
            (36.25, "Wed 14 05:15"),
            (24 * 20, "Sun 1 17:00"),
        ):
            with self.subTest(offset_h):
                self.assertEqual(called(FORMAT, "dayAndTime", start, offset_h), told)

    def test_days_are_counted_from_midnight_of_the_first(self):
        for start, index, told in (
            ("2026-01-12T23:59:00", 0, "Mon 12 Jan"),
            ("2026-01-12T23:59:00", 1, "Tue 13 Jan"),
            ("2028-02-28T06:00:00", 1, "Tue 29 Feb"),
            ("2026-02-28T06:00:00", 1, "Sun 1 Mar"),
            ("2026-12-31T18:00:00", 1, "Fri 1 Jan"),
        ):
            with self.subTest(start=start, index=index):
                self.assertEqual(called(FORMAT, "calendarDay", start, index), told)
