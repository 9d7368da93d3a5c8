"""A kit search: what goes together, what it costs, what it carries, and which kits no other beats."""

import unittest
from collections import Counter

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import TYPICAL, rate
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.kits import KitAnswer, KitRanges, KitTarget, answer_of, kits_of, kitted_design, report_of, stops_of
from hearthkeep.core.kits.answer import Stopped
from hearthkeep.core.sources import string_reports
from hearthkeep.core.trials import trials
from tests.runner.profile import examples
from tests.support.designs import array, birchrow, changed, load, moved, simple
from tests.support.units import battery, inverter, panel


def ranges(**parts):
    return KitRanges.model_validate(parts)


def fifty_watts():
    """50 W on DC from 1 kWh, no sun: 20 h from every hour of the year."""
    return simple(load("lamp", 50.0, supply="dc"), simulation={"time_step_min": 60})


def answers(design, asked, given_year=None):
    stops = stops_of(design, given_year)
    return [answer_of(kit, design, asked.target, stops, given_year) for kit in kits_of(design, asked).kits]


class ByHand(unittest.TestCase):
    """50 W: 20 h from each kilowatt-hour. Blocks of 400 Wh at 100, and of 1,000 Wh at 210; a day, of which 1.2 kWh are needed."""

    def setUp(self):
        self.asked = ranges(
            target={"hours_h": 24, "share_frac": 1.0},
            batteries={
                "units": [battery("s", 10.0, 40.0, 100.0), battery("m", 5.0, 100.0, 105.0)],
                "least": 1,
                "most": 4,
            },
        )
        self.found = answers(fifty_watts(), self.asked)

    def test_each_choice_stands_once_with_its_price_and_hours(self):
        self.assertEqual(
            [(kit.titles, kit.price, kit.share_frac, round(kit.carried_h, 9)) for kit in self.found],
            [
                (("s",), 100.0, 0.0, 8.0),
                (("2 × s",), 200.0, 0.0, 16.0),
                (("3 × s",), 300.0, 1.0, 24.0),
                (("4 × s",), 400.0, 1.0, 24.0),
                (("2 × m (2 in series)",), 210.0, 0.0, 20.0),
                (("4 × m (2 in series)",), 420.0, 1.0, 24.0),
                (("6 × m (2 in series)",), 630.0, 1.0, 24.0),
                (("8 × m (2 in series)",), 840.0, 1.0, 24.0),
            ],
        )

    def test_the_report_rates_them(self):
        report = report_of(self.found, self.asked.target)
        self.assertEqual([entry.kit.price for entry in report.kits], sorted(kit.price for kit in self.found))
        # Nothing carries for less than 300.
        self.assertEqual([entry.kit.price for entry in report.kits if entry.is_on_front], [300.0])
        self.assertEqual((report.meeting, report.stopped, report.faulty), (5, 0, 0))
        self.assertEqual(report.cheapest, 2)


class AsTheTrialsSay(unittest.TestCase):
    def test_a_kit_carries_what_its_design_carries(self):
        design = moved(birchrow(), {"outage.duration_h": 72.0})
        asked = ranges(
            target={"hours_h": 72, "lowest_tier": "life"},
            batteries={"units": [battery("rack", 51.2, 100.0, 1250.0)], "least": 1, "most": 2},
            panels={"array_id": "south-roof", "units": [panel("p", 120.0)], "least": 3, "most": 6},
        )
        plan = kits_of(design, asked)
        self.assertEqual([kit.titles[1] for kit in plan.kits[:2]], ["3 × p (3 in series)", "6 × p (2 strings of 3)"])
        for kit in plan.kits[1:3]:
            with self.subTest(kit.titles):
                found = answer_of(kit, design, asked.target, Counter())
                applied = kitted_design(kit, design)
                self.assertEqual(read_design(applied.model_dump_json()), applied)
                year = trials(applied)
                cells = [cell for cell in year.cells if cell.length_h == 72.0]
                starts = sum(cell.starts for cell in cells)
                self.assertAlmostEqual(found.life_frac, sum(cell.life_frac * cell.starts for cell in cells) / starts)
                self.assertEqual(found.share_frac, found.life_frac)
                assessment = assess(applied)
                self.assertEqual(found.carried_h, assessment.outage.hours_carried_h)
                stops = [entry.code for entry in assessment.findings if entry.severity is Severity.STOP]
                self.assertEqual([stop.code for stop in found.stops], stops)
                self.assertEqual(applied.charging.controllers[0].arrays[0].module.name, "p")
                self.assertEqual(applied.charging.stc_w, 400.0 * int(kit.titles[1].split()[0]))
                self.assertTrue(applied.name.startswith(design.name))

    def test_what_stops_the_design_already_is_not_held_against_the_kit(self):
        design = birchrow()
        known = stops_of(design)
        self.assertTrue(known)
        asked = ranges(batteries={"units": [battery("rack", 51.2, 100.0, 1250.0)], "least": 2, "most": 2})
        self.assertEqual(answers(design, asked)[0].stops, ())
        kit = kits_of(design, asked).kits[0]
        told = answer_of(kit, design, asked.target, Counter())
        self.assertEqual(Counter(stop.code for stop in told.stops), known)
        # One more of a kind that the design has already is the kit's own.
        fewer = known - Counter([next(iter(known))])
        beyond = answer_of(kit, design, asked.target, fewer).stops
        self.assertEqual([stop.code for stop in beyond], [next(iter(known))])

    def test_a_kit_that_leaves_a_load_dead_is_no_answer(self):
        one_leg = inverter("one", 51.2, 50.0, output="120", efficiency_frac=0.9)
        both = inverter("both", 51.2, 90.0, output="120/240", efficiency_frac=0.9)
        cheap, dear = answers(birchrow(), ranges(inverters={"units": [one_leg, both]}))
        # With the other leg's loads dead it carries more, which is no merit.
        self.assertGreater(cheap.share_frac, dear.share_frac)
        self.assertEqual(
            [(stop.code, stop.title) for stop in cheap.stops],
            [("LEAVES_DEAD", "Leaves Sump pump, 1/3 hp, Oil boiler and burner, Heating circulators and 1 more dead")],
        )
        self.assertEqual(dear.stops, ())


class WhatGoesTogether(unittest.TestCase):
    def test_banks_meet_the_inverters_they_are_for(self):
        design = fifty_watts()
        asked = ranges(
            inverters={"units": [inverter("i10", 10.0, 50.0), inverter("i50", 50.0, 90.0)], "least": 1, "most": 2},
            batteries={
                "units": [
                    battery("b10", 10.0, 100.0, 100.0, max_series=4),
                    battery("b50", 50.0, 20.0, 100.0, max_parallel=1),
                ],
                "least": 1,
                "most": 2,
            },
        )
        plan = kits_of(design, asked)
        self.assertEqual(
            {kit.titles for kit in plan.kits},
            {
                (f"{strings}b10", f"{count}i10") for strings in ("", "2 × ") for count in ("", "2 × ")
            } | {("b50", "i50"), ("b50", "2 × i50")},
        )  # fmt: skip
        self.assertEqual(
            {entry.why: entry.count for entry in plan.left_out},
            {
                "b10: no string of it makes 50 V": 1,
                "b50: no string of it makes 10 V": 1,
                "b50: its maker allows 1 side by side": 1,
            },
        )
        for kit in plan.kits:
            made = kit.of(design)
            self.assertAlmostEqual(made.bank.nominal_v, 50.0 if "i50" in kit.titles[1] else 10.0)
            self.assertEqual(made.inverter.units, 2 if kit.titles[1].startswith("2") else 1)
            self.assertEqual(kit.price, sum(part.price for part in kit.parts))

    def test_the_bank_of_the_design_stays_where_its_volts_fit(self):
        asked = ranges(inverters={"units": [inverter("i10", 10.0, 50.0), inverter("i50", 50.0, 90.0)]})
        plan = kits_of(fifty_watts(), asked)
        self.assertEqual([kit.titles for kit in plan.kits], [("i10",)])
        self.assertIn("the bank has 10 V", plan.left_out[0].why)

    def test_another_chemistry_is_used_as_deep_as_it_usually_is(self):
        asked = ranges(batteries={"units": [battery("lead", 10.0, 100.0, 80.0, chemistry="agm")], "most": 1})
        made = kits_of(fifty_watts(), asked).kits[0].of(fifty_watts())
        usual = next(typical for chemistry, typical in TYPICAL.items() if chemistry.value == "agm").usual_depth_frac
        self.assertEqual((made.bank.depth_frac, made.bank.chemistry.value), (usual, "agm"))
        self.assertLessEqual(made.bank.cutoff_soc_frac, 1 - usual + 1e-9)

    def test_strings_of_panels_fit_the_controller_in_cold_and_heat(self):
        bank = {"unit_v": 48.0, "unit_ah": 50.0}
        entered = simple(
            load("lamp", 50.0), arrays=(array("roof", 400.0),), controller={"max_input_v": 150.0}, bank=bank
        )
        asked = ranges(panels={"array_id": "roof", "units": [panel("p", 120.0)], "least": 1, "most": 12})
        plan = kits_of(entered, asked)
        self.assertEqual(plan.assumed, ())
        # Two in series reach 52 V on a hot day, below the 55 V that the bank is charged at; four open in the cold reach 166 V.
        self.assertEqual([kit.titles[0].split()[0] for kit in plan.kits], ["3", "6", "9", "12"])
        self.assertEqual({entry.why: entry.count for entry in plan.left_out}, {"p: c takes strings of 3": 8})
        for kit in plan.kits:
            made = kit.of(entered)
            (report,) = string_reports(made, volts=rate(made.bank).volts)
            self.assertLessEqual(report.cold_voc_v, 150.0)
            self.assertGreaterEqual(report.hot_vmp_v, report.hot_day.needed_v)
        free = moved(entered, {"charging.controllers.0.max_input_v": None})
        self.assertIn("150 V are taken", kits_of(free, asked).assumed[0])

    def test_a_switching_controller_has_short_strings(self):
        entered = simple(
            load("lamp", 50.0), arrays=(array("roof", 400.0),), controller={"kind": "pwm", "max_input_v": 150.0}
        )
        asked = ranges(panels={"array_id": "roof", "units": [panel("p", 120.0)], "least": 2, "most": 2})
        made = kits_of(entered, asked).kits[0].of(entered)
        self.assertEqual((made.charging.arrays[0].series, made.charging.arrays[0].strings), (1, 2))

    def test_stocks_of_fuel_cost_by_the_litre(self):
        design = changed(
            fifty_watts(),
            charging={"generator": {"rated_w": 2000.0, "charger_w": 500.0, "stock_l": 5.0}},
        )
        asked = ranges(fuel={"stock_l": [20.0, 0.0, 20.0], "price_per_l": 2.0})
        plan = kits_of(design, asked)
        self.assertEqual(
            [(kit.titles, kit.price) for kit in plan.kits], [(("0 L of fuel",), 0.0), (("20 L of fuel",), 40.0)]
        )
        self.assertEqual(plan.kits[1].of(design).charging.generator.stock_l, 20.0)


class Refused(unittest.TestCase):
    def problem(self, asked, design=None):
        with self.assertRaises(InputError) as caught:
            kits_of(design or fifty_watts(), asked)
        return caught.exception.problems[0]

    def test_too_many_are_counted_and_what_to_narrow_is_named(self):
        design = simple(
            load("lamp", 50.0),
            arrays=(array("roof", 400.0),),
            charging={"generator": {"rated_w": 2000.0, "charger_w": 500.0, "stock_l": 5.0}},
        )
        asked = ranges(
            fuel={"stock_l": [float(stock_l) for stock_l in range(20)]},
            batteries={"units": [battery(f"b{at}", 10.0, 100.0, 1.0) for at in range(20)], "least": 1, "most": 64},
            inverters={"units": [inverter(f"i{at}", 10.0, 1.0) for at in range(20)], "least": 1, "most": 12},
            panels={"array_id": "roof", "units": [panel(f"p{at}", 1.0) for at in range(20)], "least": 1, "most": 400},
        )
        problem = self.problem(asked, design)
        self.assertEqual(problem.field, "panels")
        count = int(problem.value.split()[0].replace(",", ""))
        self.assertGreater(count, 10**9)
        self.assertEqual(count % (20 * 64 * 20 * 12 * 20), 0)
        self.assertIn("at most 10,000 kits: narrow panels first", problem.accepted)

    def test_what_cannot_be_searched(self):
        unpriced = {"units": [battery("b", 10.0, 100.0, None)]}
        for asked, field, words in (
            (ranges(), "kits", "batteries, inverters, panels or fuel"),
            (ranges(batteries=unpriced), "batteries.units.0.price", "must have a price"),
            (ranges(fuel={"stock_l": [5.0]}), "fuel", "no generator"),
            (ranges(panels={"array_id": "shed", "units": [panel("p", 1.0)]}), "panels.array_id", "an array"),
            (ranges(batteries={"units": [battery("b", 7.3, 100.0, 1.0)]}), "kits", "no string of it makes 10 V"),
        ):
            with self.subTest(field):
                problem = self.problem(asked)
                self.assertEqual(problem.field, field)
                self.assertIn(words, problem.accepted)

    def test_ranges_that_are_none(self):
        unit = battery("b", 10.0, 100.0, 1.0)
        for parts in (
            {"batteries": {"units": [unit], "least": 3, "most": 2}},
            {"batteries": {"units": []}},
            {"batteries": {"units": [unit] * 21}},
            {"target": {"lowest_tier": "ease"}},
            {"target": {"hours_h": 721}},
            {"target": {"share_frac": 1.01}},
            {"fuel": {"stock_l": [float("nan")]}},
        ):
            with self.subTest(parts), self.assertRaises(ValidationError):
                ranges(**parts)

    def test_a_kit_that_cannot_be_put_in_is_an_answer_not_an_end(self):
        # More idle draw than the whole loss at rated power: the sheet alone is admitted, the design with it is not.
        asked = ranges(
            target={"hours_h": 1},
            inverters={"units": [inverter("odd", 10.0, 50.0, idle_w=100.0), inverter("i10", 10.0, 60.0)]},
        )
        odd, good = answers(fifty_watts(), asked)
        self.assertIn("idle_w must be within", odd.fault)
        self.assertEqual(good.fault, "")
        report = report_of([odd, good], asked.target)
        with self.assertRaises(InputError):
            kitted_design(kits_of(fifty_watts(), asked).kits[0], fifty_watts())
        self.assertEqual((report.faulty, [entry.is_on_front for entry in report.kits]), (1, [False, True]))


def made_up(number, price, share, stopped):
    stops = (Stopped(code="X", title="x"),) if stopped else ()
    return KitAnswer(
        number=number, titles=(), price=price, share_frac=share, life_frac=share, carried_h=0.0, stops=stops
    )  # fmt: skip


class TheFront(unittest.TestCase):
    @examples(300)
    @given(
        st.lists(
            st.tuples(st.integers(0, 12), st.integers(0, 12), st.booleans()),
            min_size=1,
            max_size=40,
        ),
        st.integers(0, 12),
    )
    def test_it_is_what_no_other_beats(self, kits, wanted):
        found = [made_up(at, float(price), share / 12, stopped) for at, (price, share, stopped) in enumerate(kits)]
        target = KitTarget(share_frac=wanted / 12)
        report = report_of(found, target)
        self.assertEqual({entry.kit.number for entry in report.kits}, set(range(len(found))))
        passing = [kit for kit in found if not kit.stops]

        def beats(one, other):
            no_worse = one.price <= other.price and one.share_frac >= other.share_frac
            better = one.price < other.price or one.share_frac > other.share_frac or one.number < other.number
            return no_worse and better

        for entry in report.kits:
            beaten = any(beats(other, entry.kit) for other in passing)
            self.assertEqual(entry.is_on_front, not entry.kit.stops and not beaten and entry.kit.share_frac > 0)
            self.assertEqual(entry.meets_target, entry.kit.share_frac >= target.share_frac)
        met = [kit.price for kit in passing if kit.share_frac >= target.share_frac]
        self.assertEqual(report.meeting, len(met))
        cheapest = {kit.number: kit.price for kit in found}.get(report.cheapest)
        self.assertEqual(cheapest, min(met) if met else None)


if __name__ == "__main__":
    unittest.main()
