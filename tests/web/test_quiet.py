"""Quiet hours: what rings at which hour."""

import unittest

from tests.support.web import called

QUIET = "steps/watch/quiet"


class QuietHours(unittest.TestCase):
    def rings(self, severity, clock, from_h, to_h):
        return called(QUIET, "rings", severity, f"2026-01-12T{clock}:00", {"from_h": from_h, "to_h": to_h})

    def test_over_midnight_and_within_a_day(self):
        for clock, from_h, to_h, loud in (
            ("21:59", 22, 7, True), ("22:00", 22, 7, False), ("03:30", 22, 7, False), ("06:59", 22, 7, False), ("07:00", 22, 7, True),
            ("12:30", 12, 14, False), ("14:00", 12, 14, True), ("11:59", 12, 14, True), ("05:00", 5, 5, True),
        ):  # fmt: skip
            self.assertEqual(self.rings("mend", clock, from_h, to_h), loud, clock)

    def test_what_can_hurt_rings_at_every_hour(self):
        for hour in range(24):
            self.assertTrue(self.rings("stop", f"{hour:02}:15", 0, 23))
