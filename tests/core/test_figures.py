"""What a figure's working says is what the figure is: formulas worked again from their own terms."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.yearly import sun_year
from tests.support.designs import ROOT, birchrow, load, simple


def product(figure):
    worked = 1.0
    for term in figure.terms:
        worked *= term.value
    return worked


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
        terms = self.terms("charging.fuel")
        worked = terms["no load"] * terms["hours run"] + terms["slope"] * terms["energy given"]
        self.assertAlmostEqual(worked, self.found.figures["charging.fuel"].value)

    def test_the_fill(self):
        terms = self.terms("charging.fill")
        gained = terms["warning"] * min(terms["charger"], terms["charge limit"]) * terms["charge efficiency"]
        worked = min(100, terms["kept at"] + 100 * gained / terms["capacity"])
        self.assertAlmostEqual(worked, self.found.figures["charging.fill"].value)

    def test_each_line_from_the_loads_to_the_bank(self):
        lines = {line.key: line.wh for line in self.found.bank.daily_ledger}
        terms = self.terms("bank.ledger.conversion")
        self.assertAlmostEqual(terms["AC loads"] * (1 / terms["marginal efficiency"] - 1), lines["conversion"])
        terms = self.terms("bank.ledger.wiring")
        self.assertAlmostEqual(terms["lines above"] * terms["wiring"], lines["wiring"])
        terms = self.terms("bank.ledger.discharge")
        self.assertAlmostEqual(terms["lines above"] * (1 / terms["discharge efficiency"] - 1), lines["discharge"])
        self.assertAlmostEqual(terms["lines above"] + lines["discharge"], lines["drawn"])
        for tier in ("life", "keep", "ease"):
            self.assertAlmostEqual(self.terms(f"bank.ledger.{tier}")["its rows"], lines[tier])

    def test_the_grid(self):
        terms = self.terms("charging.grid_wh")
        part = (terms["charge as the outage begins"] - terms["kept at"]) / 100
        worked = part * terms["capacity"] / terms["charge efficiency"] / terms["charger efficiency"]
        self.assertAlmostEqual(worked, self.found.figures["charging.grid_wh"].value)
        terms = self.terms("charging.needed_h")
        power_w = min(terms["charger"], terms["charge limit"])
        worked = (1 - terms["kept at"] / 100) * terms["capacity"] / terms["charge efficiency"] / power_w
        self.assertAlmostEqual(worked, self.found.figures["charging.needed_h"].value)

    def test_the_panels_are_the_sum_of_the_arrays(self):
        figure = self.found.figures["charging.stc_w"]
        self.assertEqual(len(figure.terms), 3)
        self.assertAlmostEqual(sum(term.value for term in figure.terms), figure.value)

    def test_what_the_generator_gave_lies_within_its_rating_over_its_hours(self):
        terms = self.terms("charging.generator_wh")
        most_wh = terms["hours run"] * terms["rating left by height and heat"]
        given = self.found.figures["charging.generator_wh"].value
        self.assertGreater(given, 0)
        self.assertLessEqual(given, most_wh)
        self.assertEqual(self.terms("charging.generator_h")["starts"], self.found.outage.generator_starts)

    def test_the_small_sources(self):
        sources = {
            "alternator": {"current_a": 20.0, "driven_hours": [[8, 10]], "price": 300.0},
            "bench_charger": {"output_w": 120.0, "plugged_hours": [[9, 12]], "price": 80.0},
        }
        found = assess(simple(load("a", 10), charging=sources)).figures
        for key, worked in (("alternator", 20 * 10.65 * 2), ("bench_charger", 120 * 3)):
            with self.subTest(key):
                figure = found[f"charging.source.{key}"]
                self.assertAlmostEqual(figure.value, worked)
                self.assertAlmostEqual(product(figure), worked)
        self.assertAlmostEqual(sum(term.value for term in found["charging.other_wh"].terms), 426 + 360)
        self.assertAlmostEqual(found["charging.other_wh"].value, 426 + 360)

    def test_a_kilowatt_hour_costs_price_over_energy(self):
        figures = [figure for key, figure in self.found.figures.items() if key.startswith("charging.value.")]
        self.assertEqual(len(figures), 2)
        for figure in figures:
            terms = {term.name: term.value for term in figure.terms}
            self.assertAlmostEqual(terms["price"] / terms["brings"], figure.value)

    def test_the_year_is_the_sum_of_its_months(self):
        year = sun_year(read_design((ROOT / "examples" / "birchrow-16.json").read_bytes()))
        for key, value in (("given", year.given_kwh), ("dark", year.dark_h)):
            months = [term.value for term in year.figures[key].terms if len(term.name) == 3]
            self.assertEqual(len(months), 12)
            self.assertAlmostEqual(sum(months), year.figures[key].value)
            self.assertAlmostEqual(value, year.figures[key].value, places=6)
        worst = min(term.value for term in year.figures["worst_month"].terms)
        self.assertAlmostEqual(worst, year.figures["worst_month"].value)
        offered_kwh = year.given_kwh + year.clipped_kwh
        self.assertAlmostEqual(year.figures["spilled"].value / offered_kwh, year.spilled_frac)
        self.assertAlmostEqual(year.figures["spilled"].terms[0].value, 100 * year.spilled_frac)

    def test_the_wind(self):
        terms = self.terms("charging.source.wind")
        self.assertAlmostEqual(
            terms["mean power in it"] * terms["outage"], self.found.figures["charging.source.wind"].value
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
