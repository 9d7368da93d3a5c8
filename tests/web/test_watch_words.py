"""What Watch says in words: how old a reading is, a moment, how long a tier lasts and its band."""

import unittest
from datetime import datetime, timedelta

from tests.support.web import called

WORDS = "steps/watch/words"
NOW = datetime(2026, 1, 13, 14, 0)


class Ages(unittest.TestCase):
    def test_how_old_something_is(self):
        for seconds, told in (
            (0, "just now"), (29, "just now"), (31, "1 min ago"), (89 * 60, "89 min ago"), (90 * 60, "2 h ago"),
            (47 * 3600, "47 h ago"), (48 * 3600, "2 days ago"), (9.6 * 86_400, "10 days ago"),
            # A clock that was set back makes nothing younger than now.
            (-3600, "just now"),
        ):  # fmt: skip
            moment = NOW - timedelta(seconds=seconds)
            self.assertEqual(called(WORDS, "ago", moment.isoformat(), NOW.isoformat()), told, seconds)

    def tier(self, hours, low_h, high_h, ahead_h=168.0):
        return {"tier": "keep", "hours": hours, "low_h": low_h, "high_h": high_h, "is_beyond": hours >= ahead_h}

    def test_how_long_a_tier_lasts_with_the_age_of_the_telling_taken_off(self):
        for hours, old_h, told in (
            (41.3, 0, "41 h 18"), (41.3, 1.3, "40 h"), (2, 3, "0 h"), (96, 0, "4 d 0 h"), (119.4, 0, "4 d 23 h"),
            (119.7, 0, "5 d 0 h"), (168, 0, "over 7 d"), (168, 1, "over 6 d"), (168, 150, "over 18 h"), (168, 200, "over 0 h"),
        ):  # fmt: skip
            self.assertEqual(called(WORDS, "lasting", self.tier(hours, 0, 0), old_h), told, (hours, old_h))

    def test_the_band_as_far_as_is_looked_ahead(self):
        for low_h, high_h, old_h, told in (
            (8.12, 11.4, 0, "8.1 to 11 h"), (36, 47, 0, "36 to 47 h"), (36.1, 36.2, 0, "36 h"), (51, 168, 0, "51 h to over 7 d"),
            (168, 168, 0, "over 7 d"), (168, 168, 150, "over 18 h"), (3, 20, 5, "0.0 to 15 h"),
        ):  # fmt: skip
            self.assertEqual(called(WORDS, "band", self.tier(40, low_h, high_h), 168, old_h), told, (low_h, high_h))

    def test_a_moment_of_today_is_its_hour_alone(self):
        self.assertEqual(called(WORDS, "at", "2026-01-13T23:10:00", NOW.isoformat()), "23:10")
        self.assertEqual(called(WORDS, "at", "2026-01-14T05:09:00", NOW.isoformat()), "Wed 14 Jan 05:09")
