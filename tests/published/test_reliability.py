"""Reliability indices against the worked example of IEEE Std 1366-2012 (from memory)."""

import unittest

from hearthkeep.core.trials import indices


class Ieee1366(unittest.TestCase):
    def test_a_thousand_customers_and_three_interruptions(self):
        # IEEE Std 1366, definitions of SAIFI, SAIDI and CAIDI: 100 for 60 min, 250 for 120, 50 for 30.
        found = indices([(100, 60.0), (250, 120.0), (50, 30.0)], customers=1000, years=1.0)
        self.assertAlmostEqual(found.saifi_per_year, 0.4)
        self.assertAlmostEqual(found.saidi_min_per_year, 37.5)
        self.assertAlmostEqual(found.caidi_min, 93.75)
        self.assertAlmostEqual(found.asai_frac, 1 - 37.5 / 525_600)

    def test_up_to_five_minutes_is_momentary(self):
        found = indices([(1000, 5.0), (1000, 5.1)], customers=1000, years=1.0)
        self.assertEqual((found.maifi_per_year, found.saifi_per_year), (1.0, 1.0))
