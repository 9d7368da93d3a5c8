"""The books of the outage close on any valid document, its extremes included, and nothing is given up or lost on the way."""

import random
import unittest

from hypothesis import given

from tests.core.test_extremes import choices, whole
from tests.runner.profile import amount, examples
from tests.strategies import rough_designs
from tests.support.lived import books, lived

ROUGH, EXTREME = 400, amount(250, 800)


class Books(unittest.TestCase):
    def close(self, design) -> None:
        outage = lived(design)
        open_wh, flowed_wh = books(outage)
        self.assertLessEqual(abs(open_wh), max(1e-9 * flowed_wh, 1e-6))
        self.assertEqual(outage.unsettled_h, 0.0)
        for part in ("sun", "generator", "other", "served", "inverter_loss", "charge_loss", "wiring_loss", "spilled"):
            self.assertGreaterEqual(getattr(outage.ledger_wh, part), -max(1e-9 * flowed_wh, 1e-6), part)

    @examples(ROUGH)
    @given(rough_designs())
    def test_of_random_designs(self, design):
        self.close(design)

    def test_of_documents_with_several_fields_at_the_ends_of_their_range(self):
        fields = list(choices())
        tried, seed = 0, 0
        while tried < EXTREME:
            dice = random.Random(seed)
            picked = {
                path: dice.choice(values) for path, values in (dice.choice(fields) for _ in range(dice.randint(1, 6)))
            }
            seed += 1
            design = whole(*picked.items())
            if design is not None:
                tried += 1
                with self.subTest(seed=seed, picked=picked):
                    self.close(design)
