"""What a figure's working says is what the figure is: formulas worked again from their own terms."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from tests.support.designs import ROOT, birchrow


class Workings(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.found = assess(read_design((ROOT / "examples" / "birchrow-16.json").read_bytes()))

    def terms(self, key):
        return {term.name: term.value for term in self.found.figures[key].terms}

    def test_every_figure_has_formula_basis_and_inputs_and_no_nonsense(self):
        for design in (birchrow(), read_design((ROOT / "examples" / "relay-cart.json").read_bytes())):
            for key, figure in assess(design).figures.items():
                with self.subTest(key):
                    self.assertTrue(figure.formula and figure.basis and figure.label)
                    self.assertEqual(figure.value, figure.value)
                    self.assertTrue(all(term.value == term.value for term in figure.terms))

    def test_a_tier_is_the_sum_of_its_rows_on_the_bank(self):
        cart = assess(read_design((ROOT / "examples" / "relay-cart.json").read_bytes()))
        for found in (cart, self.found):
            for tier in ("life", "keep", "ease", "spare"):
                figure = found.figures[f"loads.tier.{tier}"]
                self.assertAlmostEqual(sum(term.value for term in figure.terms), figure.value, places=6)

    def test_fuel(self):
        terms = self.terms("charging.fuel_l")
        worked = terms["no load"] * terms["hours run"] + terms["slope"] * terms["energy given"]
        self.assertAlmostEqual(worked, self.found.figures["charging.fuel_l"].value)

    def test_the_fill(self):
        terms = self.terms("charging.fill")
        gained = terms["warning"] * min(terms["charger"], terms["charge limit"]) * terms["charge efficiency"]
        worked = min(100, terms["kept at"] + 100 * gained / terms["capacity"])
        self.assertAlmostEqual(worked, self.found.figures["charging.fill"].value)

    def test_the_wind(self):
        terms = self.terms("charging.wind_wh")
        self.assertAlmostEqual(
            terms["mean power in it"] * terms["outage"], self.found.figures["charging.wind_wh"].value
        )

    def test_the_sun_is_the_sum_of_its_days(self):
        days = [value for name, value in self.terms("charging.offered_wh").items() if name.startswith("day")]
        self.assertEqual(len(days), 4)
        self.assertAlmostEqual(sum(days), self.found.figures["charging.offered_wh"].value)

    def test_the_books(self):
        terms = self.terms("outage.ledger")
        put_in = sum(terms[name] for name in ("sun", "generator", "other sources", "drawn from bank"))
        self.assertAlmostEqual(put_in, self.found.figures["outage.ledger"].value)
        went = sum(
            terms[name] for name in ("served", "inverter loss", "charge and discharge loss", "wiring loss", "spilled")
        )
        self.assertAlmostEqual(put_in, went, places=3)
