"""A price that a hundredth more or less would make another is marked as such, and no other is."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.outage import prepare
from hearthkeep.core.whatif import load_prices
from tests.support.designs import birchrow, moved


def sized(unit_ah):
    return moved(birchrow(), {"bank.unit_ah": unit_ah})


def gain_h(design, load_id, factor):
    """The gain of leaving a load out where the bank gives so much of what it does, simulated apart."""

    def carried_h(of):
        prepared = prepare(of)
        given = min(prepared.plant.discharge_efficiency * factor, 1.0)
        found = prepared.with_plant(prepared.plant._replace(discharge_efficiency=given)).outcome()
        return prepared.carried_h(found.dark_h)

    loads = [each for each in design.loads if each.id != load_id]
    return carried_h(design.model_copy(update={"loads": tuple(loads)})) - carried_h(design)


class OnAnEdge(unittest.TestCase):
    def test_phones_that_seem_to_cost_a_night(self):
        design = sized(140.0)
        price = assess(design).prices.without_load["phones"]
        self.assertTrue(price.is_on_edge)
        self.assertGreater(price.gain_h, 12.0)
        # On one side they cost next to nothing.
        self.assertLess(min(gain_h(design, "phones", factor) for factor in (0.99, 1.01)), 4.0)

    def test_its_own_page_says_the_same(self):
        design = sized(140.0)
        at = next(at for at, each in enumerate(design.loads) if each.id == "phones")
        self.assertEqual(load_prices(design, at, None).without_it, assess(design).prices.without_load["phones"])

    def test_where_both_sides_say_the_same_nothing_is_marked(self):
        for unit_ah in (90.0, 120.0, 150.0, 190.0):
            design = sized(unit_ah)
            for load_id, price in assess(design).prices.without_load.items():
                with self.subTest(unit_ah=unit_ah, load=load_id):
                    apart_h = max(abs(gain_h(design, load_id, factor) - price.gain_h) for factor in (0.99, 1.01))
                    expected = abs(price.gain_h) >= 3.0 and apart_h > max(2.0, abs(price.gain_h) / 2)
                    self.assertEqual(price.is_on_edge, expected)

    def test_what_is_carried_either_way_is_on_none(self):
        prices = assess(sized(280.0)).prices
        self.assertFalse(any(price.is_on_edge for price in prices.without_load.values()))
        self.assertFalse(prices.one_unit_more.is_on_edge)
